"""Starting the window."""

from __future__ import annotations

import gc
import os
import signal
import socket
import sys
from pathlib import Path

from PySide6.QtCore import QSocketNotifier, QTimer
from PySide6.QtGui import QIcon, QPixmap
from PySide6.QtWidgets import QApplication

from young_tremor.base import allocator, files
from young_tremor.base.errors import MissingFile, TremorError
from young_tremor.desk.kit import theme
from young_tremor.desk.kit.i18n import set_language, tr
from young_tremor.desk.window.notifications import DeliveryNotifier
from young_tremor.desk.window.second_start import SecondStartListener
from young_tremor.desk.window.window import MainWindow
from young_tremor.desk.window.window_geometry import WindowGeometry, fit_screen
from young_tremor.engine.document import recovery
from young_tremor.engine.document.session import Session
from young_tremor.engine.library import preset_library, settings
from young_tremor.engine.media import naming
from young_tremor.engine.system import desktop_bus, log, menu_entry


def main(args: list[str]) -> int:
    """Open the window on ``demo``, on files (a project or footage), or on nothing; the exit code."""
    logged = log.start()
    files.sweep_all()
    try:
        demo = args == ["demo"]
        paths = [] if demo else [Path(arg) for arg in args]
        for path in paths:
            if "\0" in str(path) or not (path.exists() or naming.is_sequence(path)):
                raise MissingFile(f"{path} is not there: check the name and the folder.")
        session = Session(preset_library.demo_project() if demo else None)
    except TremorError as error:
        print(f"young-tremor: {error}", file=sys.stderr)
        return error.exit_code
    allocator.tidy()
    if "QT_QPA_PLATFORMTHEME" not in os.environ and desktop_bus.has_portals():
        os.environ["QT_QPA_PLATFORMTHEME"] = "xdgdesktopportal"  # the desktop's own file dialogs
    app = QApplication([sys.argv[0]])
    app.setApplicationName("Young Tremor")
    app.setDesktopFileName(menu_entry.APP)
    set_language(app)
    theme.dress(app)
    window = MainWindow(session)
    window.place = WindowGeometry(window.desk)
    window.place.bring_back()
    window.show()
    QTimer.singleShot(0, window, lambda: fit_screen(window))  # its frame is known now
    QTimer.singleShot(0, window, lambda: app.setWindowIcon(_icon()))
    if paths:
        window.act.files.open_all(paths)
    if words := settings.set_aside():
        window.desk.notice.say(words)
    elif not logged:
        window.desk.notice.say(tr("The log folder cannot be written: errors will not be logged."))
    elif (works := recovery.left_behind()) and session.project.shots:
        window.desk.notice.say(
            tr("“{0}” was not saved last time: a new project (Ctrl+N) offers to go on with it.", works[0].name)
        )
    app.commitDataRequest.connect(lambda manager: window.desk.keeper.keep_now())  # the desktop logs out
    ended, door, herald = _SignalListener(window), SecondStartListener(window), DeliveryNotifier(window)
    window.desk.sheet.list.ended.connect(herald.ended)
    gc.freeze()
    gc.enable()
    code = app.exec()
    door.close()
    ended.close()
    window.desk.stage.close()
    log.stop()
    return 128 + ended.number if ended.number else code


def _icon() -> QIcon:
    out = QIcon()
    for size in (16, 32, 64, 128):
        picture = QPixmap()
        picture.loadFromData(menu_entry.icon(size))
        out.addPixmap(picture)
    return out


class _SignalListener:
    """What the system sends to end a program: what is not saved is kept, work under way is stopped, and the window goes
    without a question."""

    def __init__(self, window: MainWindow) -> None:
        self._window = window
        self.number = 0
        self._read, self._write = socket.socketpair()
        self._write.setblocking(False)
        signal.set_wakeup_fd(self._write.fileno())
        for item in (signal.SIGINT, signal.SIGTERM, signal.SIGHUP):
            signal.signal(item, lambda *_: None)
        self._notifier = QSocketNotifier(self._read.fileno(), QSocketNotifier.Type.Read)
        self._notifier.activated.connect(self._come)

    def _come(self) -> None:
        self.number = self._read.recv(1)[0]
        self._window.end_now()
        app = QApplication.instance()
        if app is not None:
            app.quit()

    def close(self) -> None:
        self._notifier.setEnabled(False)
        signal.set_wakeup_fd(-1)
        for item in (signal.SIGINT, signal.SIGTERM, signal.SIGHUP):
            signal.signal(item, signal.SIG_DFL)
        self._read.close()
        self._write.close()
