"""Says by the desktop's notifications that a long delivery has ended while nobody looks at the window."""

from __future__ import annotations

import threading

from PySide6.QtWidgets import QApplication

from young_tremor.desk.kit.i18n import counted, tr
from young_tremor.desk.kit.thread_bridge import on_desk
from young_tremor.desk.window.window import MainWindow
from young_tremor.engine.delivery.delivery_queue import QueuedDelivery
from young_tremor.engine.system import desktop_bus

LONG = 10.0  # seconds of work from which on an end is news


class DeliveryNotifier:
    """Waits for the ends of deliveries. ``ended`` may be called from any thread."""

    def __init__(self, window: MainWindow) -> None:
        self._window = window
        self.ended = on_desk(window, self._ended)

    def _ended(self, row: QueuedDelivery, seconds: float) -> None:
        if seconds < LONG or QApplication.activeWindow() is not None:
            return
        QApplication.alert(self._window)
        names = [film.path.name for film in row.films]
        many = names[0] if len(names) == 1 else counted(len(names), "file")
        title = tr("Delivered: {0}", many) if row.state == "done" else tr("Not delivered: {0}", many)
        threading.Thread(target=desktop_bus.notify, args=(title, row.said), name="herald", daemon=True).start()
