"""An hour of 4K in a reel of 60 shots, in the real window: python benchmarks/hour_reel.py

Opens it, looks at places anywhere in it, plays it from two of them, and prints how long each took, how many frames were
not shown once the first second was over, and the most memory.
"""

from __future__ import annotations

import os
import resource
import statistics
import sys
import tempfile
import time
from collections.abc import Callable
from fractions import Fraction
from pathlib import Path

os.environ["QT_QPA_PLATFORM"] = "offscreen"

import av
import numpy as np
from PySide6.QtCore import QEventLoop, QTimer
from PySide6.QtWidgets import QApplication

from young_tremor.desk.kit import theme
from young_tremor.desk.window.app import tidy_memory
from young_tremor.desk.window.window import Window
from young_tremor.document import store
from young_tremor.engine import batch, library
from young_tremor.engine.playback import SilentDevice
from young_tremor.engine.session import Session

SHOTS, SECONDS, RATE, SIZE = 60, 60, 24, (3840, 2160)
OWN = 96  # pictures that are encoded; the rest are those again
PLACES, PLAYED = 16, 8.0


def film(path: Path) -> Path:
    """A minute of 4K with grain and edges that move, about 40 Mbit/s."""
    rng = np.random.default_rng(1)
    world = rng.integers(60, 190, (SIZE[1] // 4 + 40, SIZE[0] // 4 + 40), dtype=np.uint8).repeat(4, 0).repeat(4, 1)
    packets = []
    with av.open(str(path), "w") as container:
        stream = container.add_stream("libx264", rate=RATE)
        stream.width, stream.height, stream.pix_fmt = *SIZE, "yuv420p"
        stream.options = {"preset": "veryfast", "b": "40M", "maxrate": "50M", "bufsize": "50M", "g": "24", "bf": "0"}
        for number in range(OWN):
            luma = np.ascontiguousarray(world[number : number + SIZE[1], number : number + SIZE[0]])
            grey = np.full((SIZE[1] // 2, SIZE[0]), 128, np.uint8)
            picture = av.VideoFrame.from_ndarray(np.concatenate([luma, grey]), "yuv420p")
            picture.pts = number
            packets += stream.encode(picture)
        packets += stream.encode(None)
        coded = [(bytes(packet), packet.is_keyframe) for packet in packets]
        for number in range(SECONDS * RATE):
            data, whole = coded[number % OWN]
            packet = av.Packet(data)
            packet.stream, packet.time_base, packet.is_keyframe = stream, Fraction(1, RATE), whole
            packet.pts = packet.dts = number
            container.mux(packet)
    return path


class Desk:
    """The window, and waiting for its picture."""

    def __init__(self) -> None:
        self.app = QApplication([sys.argv[0]])
        theme.dress(self.app)
        tidy_memory()
        self.window = Window(Session(), SilentDevice())
        self.window.show()
        self.spin(1)

    def spin(self, seconds: float, done: Callable[[], bool] = lambda: False) -> float:
        begun, wake = time.perf_counter(), QTimer()
        wake.start(4)
        while time.perf_counter() - begun < seconds and not done():
            self.app.processEvents(QEventLoop.ProcessEventsFlag.WaitForMoreEvents)
        return time.perf_counter() - begun

    def settled(self) -> bool:
        stage, shown = self.window.stage, self.window.picture.picture
        return shown is not None and shown.request is stage._request and shown.index == self.window.view.frame


def main() -> int:
    with tempfile.TemporaryDirectory() as name:
        for variable in ("XDG_DATA_HOME", "XDG_STATE_HOME", "XDG_CONFIG_HOME", "XDG_CACHE_HOME"):
            os.environ[variable] = f"{name}/home"
        one = film(Path(name) / "00.mp4")
        paths = [one]
        for number in range(1, SHOTS):
            paths.append(Path(name) / f"{number:02d}.mp4")
            os.link(one, paths[-1])
        project = Path(name) / "hour.tremor"
        store.save(batch.make_reel(tuple(paths), library.preset("standing, breathing")), project)
        size = one.stat().st_size
        print(f"{SHOTS} shots of {SECONDS} s, {SIZE[0]}x{SIZE[1]}, {8 * size / SECONDS / 1e6:.0f} Mbit/s", flush=True)
        desk = Desk()
        window = desk.window
        begun = time.perf_counter()
        window.session.load(project)
        desk.spin(60, lambda: desk.settled())
        print(f"open, to its picture: {time.perf_counter() - begun:.2f} s (asked: 2 s)", flush=True)
        window.state.choose(scope="reel")
        desk.spin(60, lambda: len(window.state.facts) >= SHOTS)
        print(f"the chart of the reel whole: {time.perf_counter() - begun:.1f} s", flush=True)
        rng, took = np.random.default_rng(2), []
        for place in rng.integers(0, SHOTS * SECONDS * RATE, PLACES):
            began = time.perf_counter()
            window.stage.go_in_reel(int(place))
            desk.spin(20, desk.settled)
            took.append(time.perf_counter() - began)
        print(f"to a picture anywhere in the hour: median {1000 * statistics.median(took):.0f} ms, "
              f"at most {1000 * max(took):.0f} ms (asked: 150 ms)", flush=True)  # fmt: skip
        for place in (10 * SECONDS * RATE, 33 * SECONDS * RATE - 4 * RATE):
            window.stage.go_in_reel(place)
            desk.spin(20, desk.settled)
            window.stage.toggle_play()
            desk.spin(20, lambda: window.stage.player is not None and window.stage.player.playing)
            desk.spin(1.0)
            player = window.stage.player
            assert player is not None
            shown, dropped = player.shown, player.dropped
            desk.spin(PLAYED)
            print(f"played: {(player.shown - shown) / PLAYED:.1f} frames/s, {player.dropped - dropped} not shown "
                  f"after the first second of {PLAYED:g} s (asked: 0)", flush=True)  # fmt: skip
            window.stage.stop()
        most = resource.getrusage(resource.RUSAGE_SELF).ru_maxrss >> 10
        print(f"most memory: {most} MB (asked: 1500)", flush=True)
        os._exit(0)  # what was told to stop is not waited for
    return 0


if __name__ == "__main__":
    sys.exit(main())
