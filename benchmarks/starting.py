"""How long starting takes, against a bare process that imports the same libraries and shows an empty widget.

python benchmarks/run.py start
"""

from __future__ import annotations

import os
import statistics
import subprocess
import sys
import tempfile
import time
from collections.abc import Iterator

from young_tremor.engine.library import preset_library

CLIP = preset_library.ASSETS / "demo" / "press-wide.mp4"
Row = tuple[str, str, str]
ROUNDS = 6

BARE = """
import time
import numpy, cv2, av
from PySide6.QtCore import QTimer
from PySide6.QtWidgets import QApplication, QWidget

class Empty(QWidget):
    def paintEvent(self, event):
        print(time.time())
        QTimer.singleShot(0, app.quit)

app = QApplication([])
widget = Empty()
widget.resize(1280, 800)
widget.show()
app.exec()
"""
WINDOW = """
import os, sys, time
import PySide6.QtWidgets as widgets
from PySide6.QtCore import QTimer

class Watched(widgets.QApplication):
    stood = 0.0

    def __init__(self, args):
        super().__init__(args)
        self.look_again = QTimer()
        self.look_again.timeout.connect(self.look)
        self.look_again.start(4)

    def look(self):
        for window in self.topLevelWidgets():
            if type(window).__name__ != "MainWindow" or not window.windowHandle():
                continue
            if not self.stood and window.windowHandle().isExposed():
                self.stood = time.time()
            if window.desk.picture.picture is not None:
                print(self.stood, time.time(), flush=True)
                os._exit(0)

widgets.QApplication = Watched
sys.argv = ["young-tremor", *{args!r}]
from young_tremor.__main__ import main
main({args!r})
"""


def starting() -> Iterator[Row]:
    """Ratios of medians, everything in turn, modules compiled before and the disk warm."""
    with tempfile.TemporaryDirectory() as folder:
        kept = {name: value for name, value in os.environ.items() if name != "PYTHONDONTWRITEBYTECODE"}
        homes = {f"XDG_{name}_HOME": f"{folder}/{name}" for name in ("CONFIG", "DATA", "STATE", "CACHE")}
        environment = {**kept, **homes, "PYTHONPYCACHEPREFIX": f"{folder}/compiled", "XDG_RUNTIME_DIR": folder}

        def seconds(*call: str) -> list[float]:
            begun = time.time()
            done = subprocess.run([sys.executable, *call], capture_output=True, text=True, check=True, env=environment)
            marks = [float(word) - begun for word in done.stdout.split()] if call[0] == "-c" else []
            return marks or [time.time() - begun]

        calls = {
            "bare": ("-c", BARE),
            "demo": ("-c", WINDOW.replace("{args!r}", "['demo']")),
            "clip": ("-c", WINDOW.replace("{args!r}", repr(["new-window", str(CLIP)]))),
            "presets": ("-m", "young_tremor", "presets"),
            "info": ("-m", "young_tremor", "info", str(CLIP)),
            "help": ("-m", "young_tremor", "--help"),
        }
        took: dict[str, list[list[float]]] = {name: [] for name in calls}
        for _ in range(ROUNDS):
            for name, call in calls.items():
                took[name].append(seconds(*call))

    def median(name: str, place: int = 0) -> float:
        return statistics.median(marks[place] for marks in took[name][1:])

    bare = median("bare")
    for words, goal, name, place in (
        ("start to the window (the demo), against a bare process", "≤ 1.5 ×", "demo", 0),
        ("start to the first picture of the demo as it ships, the same", "≤ 2.2 ×", "demo", 1),
        ("start to the first picture of a 1080p clip, the same", "≤ 2 ×", "clip", 1),
        ("`presets`, the same", "≤ 0.5 ×", "presets", 0),
        ("`info` of a clip, the same", "≤ 0.5 ×", "info", 0),
        ("`--help`, the same", "≤ 0.5 ×", "help", 0),
    ):
        yield words, goal, f"{median(name, place) / bare:.2f} × ({median(name, place):.2f} s; bare {bare:.2f} s)"


if __name__ == "__main__":
    for row in starting():
        print(" | ".join(row), flush=True)
