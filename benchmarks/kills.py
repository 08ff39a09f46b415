"""Kill the window at random moments of work and see what is lost: benchmarks/kills.py [--count 500] [--every 2].

Each time the window is opened in a process of its own, numbers its changes, saves now and then, and is killed with
SIGKILL. Then the saved file and what was kept must both be readable, and the newest of them may be older than the last
change by no more than the time after which changes are kept (60 s in the application, ``--every`` here) and a second.
"""

from __future__ import annotations

import argparse
import os
import random
import signal
import subprocess
import sys
import tempfile
import time
from pathlib import Path

os.environ["QT_QPA_PLATFORM"] = "offscreen"

from PySide6.QtCore import QTimer
from PySide6.QtWidgets import QApplication

from young_tremor.base.errors import TremorError
from young_tremor.desk.kit import theme
from young_tremor.desk.window.window import MainWindow
from young_tremor.document import store
from young_tremor.engine.document import recovery
from young_tremor.engine.document.session import Session
from young_tremor.engine.library import preset_library
from young_tremor.engine.playback import player
from young_tremor.engine.preview import launch
from young_tremor.model import shot_edits
from young_tremor.model.curve import Curve

SLACK = 1.5  # seconds: looked for four times a second, and written in a thread


def work(folder: Path, every: float, seed: int) -> None:
    """The window at work, until it is killed. Each change is noted, with its time, in a file of its own."""
    app, chance = QApplication([]), random.Random(seed)
    theme.dress(app)
    launch.begin(())
    window = MainWindow(Session(preset_library.demo_project()), player.SilentDevice())
    window.desk.keeper = recovery.Keeper(window.desk.session, every=every)
    window.desk.session.path = folder / "night.tremor"
    window.show()
    notes = (folder / "notes").open("w", buffering=1)
    number = 0

    def change() -> None:
        nonlocal number
        number += 1
        shot = window.desk.session.project.shots[0]
        strand = chance.choice(shot.shake.strands)
        with window.desk.session.gesture("Change"):
            window.desk.session.apply("Name", shot_edits.set_shot(shot.id, name=f"{number}"))
            window.desk.session.apply(
                "Amount", shot_edits.set_strand(shot.id, strand.id, amount=Curve(chance.uniform(0.5, 1.5)))
            )
        notes.write(f"{number} {time.time()}\n")
        if chance.random() < 0.02:
            window.act.files.save()

    timer = QTimer()
    timer.timeout.connect(change)
    timer.start(40)
    app.exec()


def found(folder: Path) -> tuple[int, list[str]]:
    """The newest change that is on disk, and what could not be read."""
    newest, bad = 0, []
    places = [kept.path for kept in recovery.left_behind()]
    saved = folder / "night.tremor"
    for path in [*places, *([saved] if saved.exists() else [])]:
        try:
            newest = max(newest, int(store.load(path).shots[0].name))
        except (TremorError, ValueError) as error:
            bad.append(f"{path.name}: {error}")
    return newest, bad


def main() -> int:
    parser = argparse.ArgumentParser()
    parser.add_argument("--count", type=int, default=500)
    parser.add_argument("--every", type=float, default=2.0)
    parser.add_argument("--work", type=Path)
    parser.add_argument("--seed", type=int, default=0)
    asked = parser.parse_args()
    if asked.work:
        work(asked.work, asked.every, asked.seed)
        return 0
    chance, worst, bad = random.Random(5), 0.0, []
    for number in range(asked.count):
        with tempfile.TemporaryDirectory() as name:
            folder = Path(name)
            for variable in ("XDG_DATA_HOME", "XDG_STATE_HOME", "XDG_CONFIG_HOME"):
                os.environ[variable] = str(folder / "home")
            command = [sys.executable, __file__, "--work", name, "--every", str(asked.every), "--seed", str(number)]
            child = subprocess.Popen(command, stderr=subprocess.DEVNULL)
            while not (folder / "notes").exists() or not (folder / "notes").read_text():
                time.sleep(0.05)
            time.sleep(chance.uniform(0.0, 3 * asked.every))
            child.send_signal(signal.SIGKILL)
            child.wait()
            killed = time.time()
            notes = [line.split() for line in (folder / "notes").read_text().splitlines()]
            newest, unread = found(folder)
            lost = [float(when) for change, when in notes if int(change) > newest]
            age = killed - lost[0] if lost else 0.0
            worst = max(worst, age)
            if age > asked.every + SLACK:
                unread.append(f"kill {number}: {age:.1f} s of work lost")
            bad += unread
            for words in unread:  # at once: a run that is broken off has said what it saw
                print(words, flush=True)
        if (number + 1) % 40 == 0:
            print(f"{number + 1}: {len(bad)} failures, at most {worst:.1f} s lost", flush=True)
    print(
        f"{asked.count} kills: {len(bad)} failures; most work lost {worst:.1f} s with changes kept after "
        f"{asked.every:g} s"
    )
    return 1 if bad else 0


if __name__ == "__main__":
    sys.exit(main())
