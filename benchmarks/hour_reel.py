"""An hour of 4K in a reel of 60 shots, in the real window: python benchmarks/hour_reel.py

Opens it, looks at places anywhere in it, plays it from two of them, and prints how long each took, how many frames were
not shown once the first second was over, and the most memory: first as it was brought in, then once reduced copies are
there (the time that one of a minute takes is printed; the other shots' are that one again).
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
from functools import partial
from pathlib import Path

os.environ["QT_QPA_PLATFORM"] = "offscreen"

import av
import cv2
import numpy as np
from PySide6.QtCore import QEventLoop, QTimer
from PySide6.QtWidgets import QApplication

from young_tremor.base import allocator
from young_tremor.desk.kit import theme
from young_tremor.desk.window.window import MainWindow
from young_tremor.document import store
from young_tremor.engine.delivery import batch
from young_tremor.engine.document.session import Session
from young_tremor.engine.library import preset_library
from young_tremor.engine.media import footage, proxies
from young_tremor.engine.playback.player import SilentDevice
from young_tremor.engine.preview import launch

SHOTS, SECONDS, RATE, SIZE = 60, 60, 24, (3840, 2160)
OWN = 96  # pictures that are encoded; the rest are those again
PLACES, PLAYED = 16, 8.0


def film(path: Path) -> Path:
    """A minute of 4K from a tripod, about 40 Mbit/s: all sizes of detail, hard edges, grain, somebody who walks by."""
    rng = np.random.default_rng(1)
    world, walker = texture(SIZE, rng, 35.0), texture((600, 900), rng, 30.0)
    for left, top, wide, high in rng.integers((0, 0, 40, 40), (*SIZE, 400, 300), (60, 4)):
        cv2.rectangle(world, (left, top), (left + wide, top + high), float(rng.integers(30, 220)), -1, cv2.LINE_AA)
    grain = cv2.GaussianBlur(rng.standard_normal((SIZE[1], SIZE[0])).astype(np.float32), (0, 0), 0.7) * 4
    packets = []
    with av.open(str(path), "w") as container:
        stream = container.add_stream("libx264", rate=RATE)
        stream.width, stream.height, stream.pix_fmt = *SIZE, "yuv420p"
        stream.options = {"preset": "veryfast", "b": "40M", "maxrate": "50M", "bufsize": "50M", "g": "24", "bf": "0"}
        for number in range(OWN):
            seen = world + np.roll(grain, tuple(rng.integers(0, 2000, 2)), (0, 1))
            seen[700:1600, 400 + 6 * number : 1000 + 6 * number] += walker - 120
            luma = np.clip(seen, 0, 255).astype(np.uint8)
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


def texture(size: tuple[int, int], rng: np.random.Generator, contrast: float) -> np.ndarray:
    """Grey levels of detail of all sizes, (rows, columns)."""
    out = np.zeros((size[1], size[0]), np.float32)
    for octave in range(1, 10):
        shape = (max(2, size[1] >> octave), max(2, size[0] >> octave))
        out += cv2.resize(rng.standard_normal(shape).astype(np.float32), size, interpolation=cv2.INTER_CUBIC) * 2.0 ** (
            octave / 2
        )
    return np.asarray((out - out.mean()) / out.std() * contrast + 120)


class Desk:
    """The window, and waiting for its picture."""

    def __init__(self) -> None:
        self.app = QApplication([sys.argv[0]])
        theme.dress(self.app)
        allocator.tidy()
        launch.begin(())
        self.window = MainWindow(Session(), SilentDevice())
        self.window.show()
        self.spin(1)

    def spin(self, seconds: float, done: Callable[[], bool] = lambda: False) -> float:
        begun, wake = time.perf_counter(), QTimer()
        wake.start(4)
        while time.perf_counter() - begun < seconds and not done():
            self.app.processEvents(QEventLoop.ProcessEventsFlag.WaitForMoreEvents)
        return time.perf_counter() - begun

    def settled(self) -> bool:
        stage, shown = self.window.desk.stage, self.window.desk.picture.picture
        return shown is not None and shown.request is stage._request and shown.index == self.window.desk.view.frame


def _count(shown: list[int], old: int, new: int) -> None:
    shown.append(new)


def look_and_play(desk: Desk, seed: int) -> None:
    """Places never seen, and playing, with figures."""
    window = desk.window
    rng, took = np.random.default_rng(seed), []
    for place in rng.integers(0, SHOTS * SECONDS * RATE, PLACES):
        began = time.perf_counter()
        window.desk.stage.go_in_reel(int(place))
        desk.spin(20, desk.settled)
        took.append(time.perf_counter() - began)
        desk.spin(0.1)
    print(
        f"to a picture anywhere in the hour: median {1000 * statistics.median(took):.0f} ms, "
        f"at most {1000 * max(took):.0f} ms (asked: 150 ms)",
        flush=True,
    )
    for place in (10 * SECONDS * RATE, 33 * SECONDS * RATE - 4 * RATE):
        window.desk.stage.go_in_reel(place)
        desk.spin(20, desk.settled)
        window.desk.stage.toggle_play()
        desk.spin(20, lambda: window.desk.stage.player is not None and window.desk.stage.player.playing)
        desk.spin(1.0)
        shown: list[int] = []
        link = window.desk.state.reel_time.moved.connect(partial(_count, shown))
        took = desk.spin(PLAYED)
        window.desk.state.reel_time.disconnect(link)
        print(
            f"played: {len(shown) / took:.1f} frames/s, {max(round(took * RATE) - len(shown), 0)} not shown "
            f"after the first second of {PLAYED:g} s (asked: 0)",
            flush=True,
        )
        window.desk.stage.stop()


def copy_all(paths: list[Path]) -> None:
    """Make the reduced copy of the first, and let the others have it."""
    began = time.perf_counter()
    made = proxies.make(str(paths[0]), lambda done, total: None)
    assert made is not None
    print(f"a minute's copy: {time.perf_counter() - began:.0f} s, {made.stat().st_size >> 20} MB", flush=True)
    for path in paths[1:]:
        place = proxies.place_of(str(path), footage.facts(path).info)
        if not place.exists():
            os.link(made, place)


def most_memory() -> None:
    most = resource.getrusage(resource.RUSAGE_SELF).ru_maxrss >> 10
    print(f"most memory: {most} MB (asked: 1500)", flush=True)


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
        store.save(batch.make_reel(tuple(paths), preset_library.preset("standing, breathing")), project)
        size = one.stat().st_size
        print(f"{SHOTS} shots of {SECONDS} s, {SIZE[0]}x{SIZE[1]}, {8 * size / SECONDS / 1e6:.0f} Mbit/s", flush=True)
        desk = Desk()
        window = desk.window
        begun = time.perf_counter()
        window.desk.session.load(project)
        desk.spin(60, desk.settled)
        print(f"open, to its picture: {time.perf_counter() - begun:.2f} s (asked: 2 s)", flush=True)
        window.desk.state.choose(scope="reel")
        desk.spin(90, lambda: len(window.desk.scene.paper.work.traces) >= SHOTS)
        print(f"the chart of the reel whole: {time.perf_counter() - begun:.1f} s", flush=True)
        look_and_play(desk, 2)
        most_memory()
        copy_all(paths)
        window.desk.stage.copies.wanted(map(str, paths))
        desk.spin(30, lambda: all(window.desk.stage.copies.ready(str(p), footage.facts(p).info) for p in paths))
        look_and_play(desk, 3)
        most_memory()
        os._exit(0)  # what was told to stop is not waited for
    return 0


if __name__ == "__main__":
    sys.exit(main())
