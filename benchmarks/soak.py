"""Twenty minutes of work in the window, and how much memory it takes.

    python benchmarks/soak.py [--minutes 20]

Scrubs, tunes, plays, changes presets and shots, undoes, and opens and closes windows. Once the caches are full, memory
may grow by 5 % at the most; exit code 1 if it grows by more.
"""

from __future__ import annotations

import argparse
import gc
import os
import random
import sys
import threading
import time

os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")

from PySide6.QtCore import QEventLoop, QTimer
from PySide6.QtWidgets import QApplication

from young_tremor.base import allocator
from young_tremor.desk.kit import theme
from young_tremor.desk.window.window import MainWindow
from young_tremor.engine.document.session import Session
from young_tremor.engine.library import preset_library
from young_tremor.engine.playback import player
from young_tremor.engine.preview import launch
from young_tremor.model import shot_edits
from young_tremor.model.curve import Curve

FULL = 0.45  # share of the time after which the caches are full


def megabytes() -> float:
    with open("/proc/self/statm") as file:
        return int(file.read().split()[1]) * os.sysconf("SC_PAGE_SIZE") / (1 << 20)


def spin(seconds: float) -> None:
    loop = QEventLoop()
    QTimer.singleShot(int(seconds * 1000), loop.quit)
    loop.exec()


def act(window: MainWindow, chance: random.Random) -> None:
    """Something that a person does."""
    shot, stage, session = window.desk.state.shot, window.desk.stage, window.desk.session
    if shot is None:
        return
    what = chance.randrange(7)
    if what == 0:
        for _ in range(8):
            stage.go(chance.randrange(max(window.desk.view.frames, 1)))
            spin(0.1)
    elif what == 1 and shot.shake.strands:
        strand = chance.choice(shot.shake.strands)
        with session.gesture("Amount"):
            for _ in range(10):
                session.apply("Amount", shot_edits.set_strand(shot.id, strand.id, amount=Curve(chance.uniform(0.3, 2))))
                spin(0.05)
    elif what == 2:
        stage.toggle_play()
        spin(3)
        stage.stop()
    elif what == 3:
        session.apply("Preset", shot_edits.apply_preset(shot.id, chance.choice(preset_library.factory())))
        spin(1)
    elif what == 4:
        for _ in range(5):
            session.undo()
            spin(0.1)
    elif what == 5:
        window.desk.state.choose(mode=chance.choice(("shaken", "still", "split", "side", "overlay", "difference")))
        spin(1)
    else:
        window.desk.state.choose_shot(chance.choice(session.project.shots).id)
        spin(1)


def opened() -> MainWindow:
    launch.begin(())
    window = MainWindow(Session(preset_library.demo_project()), player.SilentDevice())
    window.show()
    spin(1)
    return window


def closed(window: MainWindow) -> None:
    window.act.files.may_leave = lambda: True  # type: ignore[method-assign]
    window.close()
    window.deleteLater()
    QApplication.sendPostedEvents(None, 52)
    for _ in range(20):  # a picture that was being made is made to its end
        spin(0.2)
        if not any(thread.name == "preview" for thread in threading.enumerate()):
            break


def main() -> int:
    """Work, and say each minute how much memory there is."""
    parser = argparse.ArgumentParser()
    parser.add_argument("--minutes", type=float, default=20.0)
    minutes = parser.parse_args().minutes
    app = QApplication([])
    theme.dress(app)
    allocator.tidy()
    chance = random.Random(7)
    begun, seen, said = time.monotonic(), [], 0.0
    window = opened()
    while (gone := time.monotonic() - begun) < 60 * minutes:
        act(window, chance)
        if gone - said >= min(60, 60 * minutes / 12):
            said = gone
            closed(window)
            window = None  # type: ignore[assignment]
            gc.collect()
            seen.append((gone, megabytes()))  # without a window: what is left is what was not given back
            window = opened()
            print(f"{gone / 60:5.1f} min  {seen[-1][1]:6.0f} MB  {threading.active_count()} threads", flush=True)
    closed(window)
    late = [size for at, size in seen if at >= FULL * 60 * minutes]
    half = len(late) // 2
    growth = sum(late[half:]) / len(late[half:]) / (sum(late[:half]) / half) - 1
    print(f"growth once the caches are full: {100 * growth:+.1f} % (asked: at most 5 %)")
    return 1 if growth > 0.05 else 0


if __name__ == "__main__":
    sys.exit(main())
