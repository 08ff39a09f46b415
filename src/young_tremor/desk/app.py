"""Starting the window."""

from __future__ import annotations

import signal
import sys
from pathlib import Path

from PySide6.QtCore import QTimer
from PySide6.QtWidgets import QApplication

from young_tremor.base.errors import MissingFile, TremorError
from young_tremor.desk import theme
from young_tremor.desk.window import Window
from young_tremor.engine import library
from young_tremor.engine.session import Session


def main(args: list[str]) -> int:
    """Open the window on ``demo``, on files (a project or footage), or on nothing; the exit code."""
    try:
        demo = args == ["demo"]
        paths = [] if demo else [Path(each) for each in args]
        for path in paths:
            if not path.exists():
                raise MissingFile(f"{path} is not there: check the name and the folder.")
        session = Session(library.demo_project() if demo else None)
    except TremorError as error:
        print(f"young-tremor: {error}", file=sys.stderr)
        return error.exit_code
    app = QApplication([sys.argv[0]])
    app.setApplicationName("Young Tremor")
    theme.dress(app)
    window = Window(session)
    window.show()
    for path in paths:
        window.files.open_path(path)
    signal.signal(signal.SIGINT, lambda *_: app.quit())
    heartbeat = QTimer()
    heartbeat.timeout.connect(lambda: None)  # lets Python see Ctrl+C
    heartbeat.start(500)
    code = app.exec()
    window.stage.close()
    return code
