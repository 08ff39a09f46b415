"""The Qt desk. Nothing outside this package knows Qt.

Worth knowing
-------------
- A QObject without a parent that has a lambda connected to it is never collected with the window that made it (the
  connection is not seen by Python's collector): give it the window as parent.
- PySide6 6.12.0 aborts after some thousand ``QPainter.setPen`` calls; it is excluded in ``pyproject.toml``.
- PySide6 replaces Python's import by one that reads the source of each module, to see whether it asks for features of
  PySide6. None here does, so Python's own is put back: it starts sooner.
"""

import builtins

plain_import = builtins.__import__
import PySide6.QtWidgets  # noqa: E402, F401

builtins.__import__ = plain_import
