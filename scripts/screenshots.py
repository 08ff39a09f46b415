"""Draw the main views into docs/screenshots from the demo project: python scripts/screenshots.py [NAME ...].

Runs without a screen. Each view is the real window, brought there by its own public verbs.
"""

from __future__ import annotations

import os
import sys
import time
from collections.abc import Callable
from pathlib import Path

os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")

import cv2
from msgspec.structs import replace
from PySide6.QtCore import QRectF
from PySide6.QtGui import QPainter
from PySide6.QtWidgets import QApplication

from young_tremor.desk.kit import theme
from young_tremor.desk.picture import frame_marks
from young_tremor.desk.window.window import MainWindow
from young_tremor.engine.delivery.delivery_queue import DeliveryRequest, QueuedDelivery, films_of
from young_tremor.engine.document.session import Session
from young_tremor.engine.library import preset_library
from young_tremor.engine.playback.player import SilentDevice
from young_tremor.engine.system.jobs import Job
from young_tremor.model import shot_edits
from young_tremor.model.curve import Curve, Key
from young_tremor.model.project import Box
from young_tremor.model.shake import Plotted, Point

OUT = Path(__file__).parents[1] / "docs" / "screenshots"


def settle(window: MainWindow, seconds: float = 30.0) -> None:
    """Let the window work until the picture it asked for is on."""
    app, stage = QApplication.instance(), window.desk.stage
    assert app is not None
    until = time.monotonic() + seconds
    while time.monotonic() < until:
        app.processEvents()
        shown = window.desk.picture.picture
        on = (
            shown is not None
            and shown.exact
            and shown.request is stage._request
            and shown.index == window.desk.view.frame
        )
        if on and not window.desk.prints.busy:
            break
        time.sleep(0.01)
    for _ in range(5):
        app.processEvents()


def until(condition: Callable[[], bool], seconds: float = 30.0) -> None:
    """Let the window work until something is so."""
    app = QApplication.instance()
    assert app is not None
    end = time.monotonic() + seconds
    while not condition() and time.monotonic() < end:
        app.processEvents()
        time.sleep(0.01)


def desk(window: MainWindow) -> None:
    window.desk.stage.go(80)


def night(window: MainWindow) -> None:
    window.desk.stage.go(80)
    theme.paper.set_night(True)


def strand(window: MainWindow) -> None:
    window.desk.stage.go(80)
    window.desk.state.choose(strand=window.desk.state.shot.shake.strands[0].id)  # type: ignore[union-attr]


def presets(window: MainWindow) -> None:
    window.desk.stage.go(80)
    settle(window)
    window.act.shake.show_presets()
    until(lambda: len(window.desk.popup._painter.motions) >= len(preset_library.factory()))


def render(window: MainWindow) -> None:
    window.desk.stage.go(80)
    settle(window)
    window.act.show_render()
    form, made = window.desk.sheet.form, window.desk.sheet.list
    form.path.setText("/home/editor/proofs/press-wide shaken.mp4")
    for what, path, kind, state in (
        ("shot", "press-wide st.exr", "exr", "done"),
        ("each", "{number} {shot} shaken.mov", "prores", "at work"),
        ("reel", "quillmark shaken.mp4", "h264", "at work"),
        ("reel", "quillmark proof.mp4", "h264", "waiting"),
    ):
        row = QueuedDelivery(
            DeliveryRequest(
                what, f"/home/editor/proofs/{path}", kind, (window.desk.state.now.shot or "",), fresh=kind == "exr"
            )
        )
        row.state = state
        made.rows.append(row)
    each, row = made.rows[1:3]
    each.films = films_of(each.request, window.desk.session.project, "quillmark")
    each.written = tuple(film.path for film in each.films[:-1])
    each.told = {"frame": 801, "frames": 960, "fps": 24.2, "left": 7.0}
    row.told = {"frame": 312, "frames": 960, "fps": 16.4, "left": 40.0}
    made._jobs.update({row: Job("delivery", print), each: Job("delivery", print)})
    made.rows[0].seen = window.desk.session.project
    form.edited.emit()
    form._show_example()
    window.desk.sheet._listed()
    window.desk.sheet._progress(row)


def edges(window: MainWindow) -> None:
    shot = window.desk.state.shot
    assert shot is not None
    window.desk.session.apply("Edges", shot_edits.set_frame(shot.id, edges="open", keep=(Box(0.39, 0.09, 0.23, 0.14),)))
    settle(window)
    window.desk.picture.toggle_overlay(frame_marks.SAFE)
    window.desk.stage.go(window.desk.panel.frame._worst)


def hits(window: MainWindow) -> None:
    """The jolts' controls, and what was found in the sound before it is kept."""
    shot = window.desk.state.shot
    assert shot is not None
    window.desk.session.apply("No hits", shot_edits.remove_hits(shot.id, frozenset(hit.id for hit in shot.hits)))
    window.desk.stage.go(108)
    window.act.shake.find_hits("sound")
    until(lambda: window.desk.chart.hits.found is not None)
    window.desk.state.choose(strand="strike")


def plotted(window: MainWindow) -> None:
    """A plotted strand, its path on the picture."""
    shot = window.desk.state.shot
    assert shot is not None
    x = Curve(0.0, (Key(0.5, 0.0), Key(1.5, 6.0), Key(2.5, 2.0), Key(3.6, -7.0), Key(5.0, -1.0)))
    y = Curve(0.0, (Key(0.5, 0.0), Key(1.5, -5.0), Key(2.5, 3.0), Key(3.6, -2.0), Key(5.0, 1.0)))
    strand = Plotted("look", "Look round", x=x, y=y, repeat=True)
    window.desk.session.apply("Plotted", shot_edits.add_strand(shot.id, strand))
    window.desk.session.apply("Variant", shot_edits.add_variant(shot.id))
    window.desk.state.choose(strand=window.desk.state.shot.shake.strands[-1].id)  # type: ignore[union-attr]
    window.desk.stage.go(44)


def sound(window: MainWindow) -> None:
    """The rumble under the press, its wave on the chart and its controls."""
    window.desk.stage.go(62)
    settle(window)
    row = window.desk.state.shot.sound.rows[-1]  # type: ignore[union-attr]
    window.desk.state.choose(sound=row.id, folded=frozenset(window.desk.chart._heads))
    until(lambda: not window.desk.runner.busy("waves"), 10)


def figures(window: MainWindow) -> None:
    """The spectrum and the table beside the picture, for the marked stretch."""
    window.desk.stage.go(80)
    window.desk.toggle_figures()
    until(lambda: window.desk.figures.plot.found is not None)


def curves(window: MainWindow) -> None:
    """Rows of the frame's own curves, and both variants whole beside each other."""
    shot = window.desk.state.shot
    assert shot is not None
    window.desk.session.apply("Variant", shot_edits.add_variant(shot.id))
    window.desk.session.apply("Preset", shot_edits.apply_preset(shot.id, preset_library.preset("running")))
    shutter = Curve(180.0, (Key(2.0, 180.0), Key(3.2, 420.0), Key(5.5, 90.0)))
    pivot = Point(Curve(0.0, (Key(1.0, 0.0), Key(6.0, 0.6))), Curve(0.0, (Key(1.0, 0.0), Key(6.0, 0.4))))
    frame = shot.frame
    window.desk.session.apply(
        "Curves", shot_edits.set_frame(shot.id, shutter=replace(frame.shutter, angle=shutter), pivot=pivot)
    )
    window.act.shake.compare("A")
    window.desk.state.choose(mode="side")
    window.desk.stage.go(66)


def measure(window: MainWindow) -> None:
    """A clip that has just been measured, one part shielded."""
    window.act.takes.open_clip(preset_library.ASSETS / "demo" / "aisle-walk.mp4")
    view = window.desk.measure
    until(lambda: view.start.isEnabled())
    view.view.boxes = [QRectF(980, 430, 210, 240)]
    view.course.first, view.course.last, view.course.now = 0.5, 11.2, 4.0
    view.course.changed.emit()
    view.focal.set_value(28)
    view.course.scrubbed.emit(4.0)
    view.start.click()
    until(lambda: view.use.isVisible(), 60)


def ask(window: MainWindow) -> None:
    """A motion in figures, understood, before it is put on."""
    window.desk.stage.go(80)
    settle(window)
    window.act.ask()
    window.desk.header.ask.setText("30 px 2 Hz, rising")
    until(lambda: window.desk.stage.playing)
    window.desk.stage.stop()


def takes(window: MainWindow) -> None:
    window.desk.state.choose_shot("drying-rack")
    settle(window)
    window.desk.stage.go(70)
    settle(window)
    window.act.takes.show()


def frame(window: MainWindow) -> None:
    """A crop that follows the motion, recentred, with soft limits and a keep-clear box."""
    shot = window.desk.state.shot
    assert shot is not None
    window.desk.session.apply("Preset", shot_edits.apply_preset(shot.id, preset_library.preset("running")))
    changes = {"edges": "crop-as-needed", "recentre": True, "readout": 0.018, "keep": (Box(0.05, 0.06, 0.18, 0.42),)}
    window.desk.session.apply("Frame", shot_edits.set_frame(shot.id, **changes))
    window.desk.stage.go(70)
    settle(window)
    until(lambda: bool(window.desk.panel.frame.framing.words.text()))  # the figures follow the picture


def plates(window: MainWindow) -> None:
    """The title over the press, by letter, its outline on the picture."""
    window.desk.stage.go(64)
    settle(window)
    window.desk.state.choose(page="plates", plate="night-proof")


def reel(window: MainWindow) -> None:
    """The chart of the reel: four shots, a span over two of them."""
    window.desk.state.choose(scope="reel")
    until(lambda: "peak" in window.desk.scene.paper.peak_words() and len(window.desk.state.facts) >= 3)
    window.desk.stage.go_in_reel(16 * 24 + 10)
    settle(window)
    window.desk.state.choose(shot="drying-rack", also=frozenset(("platen-close",)), span="ground-swell")
    settle(window)
    until(lambda: len(window.desk.scene.paper.work.waves) >= 3)


VIEWS: dict[str, Callable[[MainWindow], None]] = {
    each.__name__: each
    for each in (
        desk,
        night,
        strand,
        presets,
        render,
        edges,
        hits,
        sound,
        plotted,
        figures,
        curves,
        measure,
        ask,
        takes,
        frame,
        plates,
        reel,
    )
}


def manual() -> None:
    """The pictures of the manual: smaller copies that are shipped."""
    for name in ("desk", "strand", "hits", "measure", "edges", "frame", "plates", "reel", "sound", "render"):
        picture = cv2.imread(str(OUT / f"{name}.png"))
        small = cv2.resize(
            picture, (660, round(660 * picture.shape[0] / picture.shape[1])), interpolation=cv2.INTER_AREA
        )
        cv2.imwrite(str(preset_library.ASSETS / "manual" / f"{name}.jpg"), small, [cv2.IMWRITE_JPEG_QUALITY, 82])


def main(names: list[str]) -> None:
    app = QApplication([sys.argv[0]])
    theme.dress(app)
    OUT.mkdir(exist_ok=True)
    for name in names or VIEWS:
        theme.paper.set_night(False)
        window = MainWindow(Session(preset_library.demo_project()), SilentDevice())
        window.desk.session.path = Path("proof-night.tremor")
        window.show()
        settle(window)
        VIEWS[name](window)
        settle(window)
        window._second()
        shot = window.grab()
        for popup in (window.desk.popup, window.desk.takes):
            if popup.isVisible():
                painter = QPainter(shot)
                painter.drawPixmap(window.mapFromGlobal(popup.pos()), popup.grab())
                painter.end()
                popup.hide()
        shot.save(str(OUT / f"{name}.png"))
        print(OUT / f"{name}.png")
        window.act.files.may_leave = lambda: True  # type: ignore[method-assign]
        window.desk.sheet.list._row = None  # what only stands there does not run
        window.close()


if __name__ == "__main__":
    main(sys.argv[1:])
    manual()
