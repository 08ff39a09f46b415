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

from PySide6.QtGui import QPainter
from PySide6.QtWidgets import QApplication

from young_tremor.desk import theme
from young_tremor.desk.window import Window
from young_tremor.engine import library
from young_tremor.engine.playback import SilentDevice
from young_tremor.engine.session import Session
from young_tremor.model import edits, keys
from young_tremor.model.curve import Curve
from young_tremor.model.shake import Hit, Jolts

OUT = Path(__file__).parents[1] / "docs" / "screenshots"


def settle(window: Window, seconds: float = 30.0) -> None:
    """Let the window work until the picture it asked for is on."""
    app, stage = QApplication.instance(), window.stage
    assert app is not None
    until = time.monotonic() + seconds
    while time.monotonic() < until:
        app.processEvents()
        shown = window.picture.picture
        on = shown is not None and shown.request is stage._request and shown.index == window.view.frame
        if on and not window._thumbs:
            break
        time.sleep(0.01)
    for _ in range(5):
        app.processEvents()


def desk(window: Window) -> None:
    window.stage.go(80)


def night(window: Window) -> None:
    window.stage.go(80)
    theme.paper.set_night(True)


def split(window: Window) -> None:
    window.stage.go(64)
    window.set_mode("split")
    window._set_marks((48, 144))


def strand(window: Window) -> None:
    window.stage.go(80)
    window.chart.choose(window.stage.shot.shake.strands[0].id)  # type: ignore[union-attr]


def presets(window: Window) -> None:
    window.stage.go(80)
    settle(window)
    window.show_presets()


def render(window: Window) -> None:
    window.stage.go(80)
    settle(window)
    window.show_render()
    window.sheet.path.setText("/home/editor/proofs/press-wide shaken.mp4")


def edges(window: Window) -> None:
    shot = window.stage.shot
    assert shot is not None
    window.session.apply("Edges", edits.set_frame(shot.id, edges="open"))
    settle(window)
    window.stage.go(window.panel.frame._worst)


def hits(window: Window) -> None:
    """Jolts under hits, with an intensity that swells before them."""
    shot = window.stage.shot
    assert shot is not None
    times = (2.5, 5.0, 7.5)
    curve = Curve(1.0)
    for t in times:
        curve = keys.spike(curve, t, top=1.6, rise=0.5)
    made = tuple(Hit(f"h{n}", t, 1.0 - 0.25 * n) for n, t in enumerate(times))
    jolts = Jolts("jolts", "Press strike", "your own", roll=0.25)
    window.session.apply("Hits", edits.add_hits(shot.id, made))
    window.session.apply("Jolts", edits.add_strand(shot.id, jolts))
    window.session.apply("Intensity", edits.set_shake(shot.id, intensity=curve))
    window.chart.choose("jolts")
    window.stage.go(62)


def filled(window: Window) -> None:
    hits(window)
    window.chart.choose(None)
    window.chart.open_row(window.chart._fixed[0])
    window.chart.level_strip.editor.chosen = (5, 6)  # type: ignore[union-attr]


VIEWS: dict[str, Callable[[Window], None]] = {
    "desk": desk, "night": night, "split": split, "strand": strand, "presets": presets, "render": render,
    "edges": edges, "hits": hits, "filled": filled,
}  # fmt: skip


def main(names: list[str]) -> None:
    app = QApplication([sys.argv[0]])
    theme.dress(app)
    OUT.mkdir(exist_ok=True)
    for name in names or VIEWS:
        theme.paper.set_night(False)
        window = Window(Session(library.demo_project()), SilentDevice())
        window.session.path = Path("proof-night.tremor")
        window.show()
        settle(window)
        VIEWS[name](window)
        settle(window)
        window._second()
        popup = window.popup
        shot = window.grab()
        if popup.isVisible():
            painter = QPainter(shot)
            painter.drawPixmap(window.mapFromGlobal(popup.pos()), popup.grab())
            painter.end()
            popup.hide()
        shot.save(str(OUT / f"{name}.png"))
        print(OUT / f"{name}.png")
        window._may_leave = lambda: True  # type: ignore[method-assign]
        window.close()


if __name__ == "__main__":
    main(sys.argv[1:])
