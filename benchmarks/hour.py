"""How long the desk blocks with a shot of an hour: python benchmarks/hour.py

Makes a film of 86,400 frames, opens it in the real window without a screen, and prints for each thing done how long the
call took and the longest time in which the window answered nothing.
"""

from __future__ import annotations

import os
import sys
import tempfile
import time
from collections.abc import Callable
from pathlib import Path

os.environ["QT_QPA_PLATFORM"] = "offscreen"

import av
import numpy as np
from PySide6.QtCore import QTimer
from PySide6.QtWidgets import QApplication

from young_tremor.desk.kit import theme
from young_tremor.desk.window.window import MainWindow
from young_tremor.engine.document.session import Session
from young_tremor.engine.playback.player import SilentDevice
from young_tremor.engine.preview import launch
from young_tremor.model import shot_edits
from young_tremor.model.curve import Curve

FRAMES = 24 * 3600


def film(path: Path) -> Path:
    """An hour of one picture, small."""
    picture = np.random.default_rng(1).integers(40, 200, (180, 320, 3), dtype=np.uint8)
    with av.open(str(path), "w") as container:
        stream = container.add_stream("libx264", rate=24)
        stream.width, stream.height, stream.pix_fmt = 320, 180, "yuv420p"
        stream.options = {"preset": "ultrafast", "crf": "35", "g": "48"}
        frame = av.VideoFrame.from_ndarray(picture, format="rgb24").reformat(format="yuv420p")
        for number in range(FRAMES):
            frame.pts = number
            container.mux(stream.encode(frame))
        container.mux(stream.encode())
    return path


class Watch:
    """Looks how long the window answers nothing while something is done."""

    def __init__(self, app: QApplication) -> None:
        self._app, self._last, self._worst = app, time.perf_counter(), 0.0
        self._timer = QTimer()
        self._timer.timeout.connect(self._beat)
        self._timer.start(2)

    def _beat(self) -> None:
        now = time.perf_counter()
        self._worst, self._last = max(self._worst, now - self._last), now

    def look(
        self, words: str, act: Callable[[], object], seconds: float, done: Callable[[], bool] | None = None
    ) -> None:
        self._last, self._worst = time.perf_counter(), 0.0
        begun = self._last
        act()
        call = time.perf_counter() - begun
        while time.perf_counter() - begun < seconds and not (done is not None and done()):
            self._app.processEvents()
        took = f", there after {time.perf_counter() - begun:.2f} s" if done is not None else ""
        print(f"{words}: call {1000 * call:.0f} ms, longest block {1000 * self._worst:.0f} ms{took}", flush=True)


def main() -> int:
    with tempfile.TemporaryDirectory() as name:
        for variable in ("XDG_DATA_HOME", "XDG_STATE_HOME", "XDG_CONFIG_HOME"):
            os.environ[variable] = f"{name}/home"
        path = film(Path(name) / "hour.mp4")
        app = QApplication([sys.argv[0]])
        theme.dress(app)
        launch.begin(())
        window = MainWindow(Session(), SilentDevice())
        window.show()
        watch = Watch(app)
        watch.look("idle", lambda: None, 2)
        watch.look(
            "open", lambda: window.act.files.open_path(path), 60, lambda: window.desk.picture.picture is not None
        )
        watch.look("after it", lambda: None, 4)

        def amount(value: float) -> None:
            shot = window.desk.state.shot
            assert shot is not None
            edit = shot_edits.set_strand(shot.id, shot.shake.strands[0].id, amount=Curve(value))
            window.desk.session.apply("Amount", edit)

        watch.look("amount", lambda: amount(1.3), 3)
        watch.look("scrub", lambda: window.desk.stage.go(40_000), 3)
        watch.look("figures", window.desk.toggle_figures, 6)
        watch.look("zoom of the chart", lambda: window.desk.view.zoom(0.1, 300, 800), 2)
        watch.look("play", window.desk.stage.toggle_play, 4)
        window.desk.stage.stop()
        window.act.files.may_leave = lambda: True  # type: ignore[method-assign]
        begun = time.perf_counter()
        window.close()
        print(f"close: {1000 * (time.perf_counter() - begun):.0f} ms", flush=True)
        os._exit(0)  # what was told to stop is not waited for
    return 0


if __name__ == "__main__":
    sys.exit(main())
