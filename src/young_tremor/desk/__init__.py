"""The Qt desk. Nothing outside this package knows Qt.

Worth knowing
-------------
- A QObject without a parent that has a lambda connected to it is never collected with the window that made it (the
  connection is not seen by Python's collector): give it the window as parent.
- PySide6 6.12.0 aborts after some thousand ``QPainter.setPen`` calls; it is excluded in ``pyproject.toml``.
"""
