"""A reel of two hundred shots: opening, choosing, moving."""

from __future__ import annotations

import statistics
import time
from collections.abc import Callable, Iterator
from contextlib import AbstractContextManager
from pathlib import Path
from tempfile import TemporaryDirectory

from msgspec.structs import replace
from PySide6.QtWidgets import QApplication

from young_tremor.desk.window.window import MainWindow
from young_tremor.document import store
from young_tremor.engine.delivery import batch
from young_tremor.engine.document.session import Session
from young_tremor.engine.library import preset_library
from young_tremor.engine.media import relink
from young_tremor.model import reel_edits, shot_edits
from young_tremor.model.project import Project, Span

Row = tuple[str, str, str]
SHOTS = 200


def project(folder: Path) -> Path:
    """Two hundred shots of the demo's films, each in a course of its own, under three spans."""
    films = [preset_library.ASSETS / "demo" / f"{name}.mp4" for name in ("press-wide", "platen-close", "aisle-walk")]
    made = batch.make_reel(tuple(films), preset_library.preset("Standing, breathing"))
    shots = []
    for number in range(SHOTS):
        shot = made.shots[number % 3]
        plates = tuple(replace(plate, id=f"p{number}") for plate in shot.plates)
        shake = reel_edits.another(shot_edits.fresh_ids(shot.shake), number)
        shots.append(replace(shot, id=f"s{number}", name=f"Shot {number + 1}", plates=plates, shake=shake, end=4.0))
    swell = shot_edits.from_preset(preset_library.preset("Near tremor"))
    spans = tuple(Span(f"span{k}", f"Span {k}", 50.0 * k, 50.0 * k + 40.0, 2.0, 2.0, swell) for k in range(3))
    path = folder / "long.tremor"
    store.save(relink.add_fingerprints(Project(tuple(shots), spans=spans)), path)
    return path


def reel(desk: Callable[[Session], AbstractContextManager[MainWindow]]) -> Iterator[Row]:
    """How long each takes until the window has painted itself, once prints and traces are there."""

    with TemporaryDirectory() as name:
        path = project(Path(name))
        begun = time.perf_counter()
        session = Session()
        session.load(path)
        with desk(session) as window:
            turn = QApplication.processEvents
            turn()
            window.grab()
            took = time.perf_counter() - begun
            yield f"a reel of {SHOTS} shots opened, until the window stands", "≤ 2 s", f"{took:.2f} s"
            window.desk.state.choose(scope="reel")
            end = time.perf_counter() + 90.0
            while time.perf_counter() < end and (window.desk.prints.busy or window.desk.runner.busy("reel traces")):
                turn()
                time.sleep(0.002)
            chosen, moved = [], []
            for number in range(12):
                begun = time.perf_counter()
                window.desk.state.choose(shot=f"s{37 * (number + 1) % SHOTS}")
                turn()
                window.desk.scene.paper.repaint()
                chosen.append(time.perf_counter() - begun)
                for _ in range(40):
                    turn()
                    time.sleep(0.01)
                begun = time.perf_counter()
                window.desk.session.apply("Move", reel_edits.move([f"s{number * 11}"], 3 * number))
                turn()
                window.desk.scene.paper.repaint()
                moved.append(time.perf_counter() - begun)
            for words, times in (("choosing a shot", chosen), ("moving a shot", moved)):
                middle, worst = 1000 * statistics.median(times), 1000 * max(times)
                yield f"{words} of {SHOTS}, until it is painted", "≤ 100 ms", f"{middle:.0f} ms, at most {worst:.0f} ms"
