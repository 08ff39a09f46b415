"""Measure how fast the product is: python benchmarks/run.py [NAME ...]. Ratios come from one run, in turn.

Every figure is printed and written into benchmarks/README.md with the date and the machine's description.
"""

from __future__ import annotations

import os
import platform
import statistics
import subprocess
import sys
import tempfile
import time
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from datetime import date
from pathlib import Path

os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")

import av
import numpy as np
from msgspec.structs import replace
from PySide6.QtCore import QEventLoop, QTimer
from PySide6.QtWidgets import QApplication

from colours import colours
from delivery import delivery
from films import PEAK, footage_alone, scripted, transcode
from frames import frames, solver
from measuring import large_clip, measure
from opening import opening
from plates import plates
from reel import reel
from sound import sound
from starting import starting
from young_tremor.desk.chart.strips import Strip
from young_tremor.desk.kit import theme
from young_tremor.desk.window.window import MainWindow
from young_tremor.engine.delivery import actions
from young_tremor.engine.delivery.delivery_queue import DeliveryRequest
from young_tremor.engine.document.session import Session
from young_tremor.engine.library import preset_library, settings
from young_tremor.engine.playback.player import SilentDevice
from young_tremor.engine.preview import launch
from young_tremor.engine.preview.preview_worker import PICTURES
from young_tremor.model import curve_edits, shot_edits
from young_tremor.model.curve import Curve, Key
from young_tremor.model.project import Project
from young_tremor.model.shake import Hit
from young_tremor.motion import sample

README = Path(__file__).with_name("README.md")
CLIP = preset_library.ASSETS / "demo" / "press-wide.mp4"
Row = tuple[str, str, str]  # work, to reach, measured


def seconds(work: Callable[[], object]) -> float:
    begun = time.perf_counter()
    work()
    return time.perf_counter() - begun


def milliseconds(times: list[float]) -> str:
    return f"{1000 * statistics.median(times):.0f} ms"


def pairs(a: Callable[[], object], b: Callable[[], object], runs: int = 2) -> list[tuple[float, float]]:
    """Times of a and b in turn."""
    return [(seconds(a), seconds(b)) for _ in range(runs)]


def shake(source: Path, target: Path, preset: str = "Standing, breathing", **frame: float) -> None:
    shot = actions.one_shot(source, preset_library.preset(preset), **frame)  # type: ignore[arg-type]
    actions.render((shot,), target, lambda done, total: None, overwrite=True)


def render() -> Iterator[Row]:
    """A render against a plain transcode of the same clip, and of the shaken picture itself."""
    with tempfile.TemporaryDirectory() as folder:
        shaken, plain, again = (Path(folder) / f"{name}.mp4" for name in ("shaken", "plain", "again"))
        shake(CLIP, shaken)
        times = pairs(lambda: shake(CLIP, shaken), lambda: transcode(CLIP, plain))
        ratio = statistics.median(a / b for a, b in times)
        fps = 240 / statistics.median(a for a, _ in times)
        yield (
            "render of 10 s 1080p H.264, standing drift, 180°, crop, against a plain transcode",
            "≤ 1.35 ×",
            f"{ratio:.2f} × ({fps:.1f} frames/s)",
        )
        inner = statistics.median(
            a / b for a, b in pairs(lambda: shake(CLIP, shaken), lambda: transcode(shaken, again))
        )
        yield (
            "the same against a transcode of the shaken film (the encoder's own share taken out)",
            "≤ 1.25 ×",
            f"{inner:.2f} ×",
        )
        times = pairs(lambda: scripted(CLIP, again), lambda: shake(CLIP, shaken))
        yield (
            "a script that averages 16 bilinear warps of each frame, same encoder, against the same",
            "≥ 2.6 ×",
            f"{statistics.median(a / b for a, b in times):.2f} ×",
        )


def rolling() -> Iterator[Row]:
    """Three seconds under a rolling shutter, and three of violence, against a plain transcode of them."""
    with tempfile.TemporaryDirectory() as name:
        folder = Path(name)
        held = replace(actions.one_shot(CLIP, preset_library.preset("Standing, breathing")), end=3.0)
        for words, goal, shot in (
            ("under a rolling shutter of 18 ms", "≤ 1.6 ×", replace(held, frame=replace(held.frame, readout=0.018))),
            (
                "a violent shake (running, three times as much)",
                "≤ 2.5 ×",
                replace(held, shake=actions.adjust_shake(preset_library.preset("running").shake, amount=3.0)),
            ),
        ):
            times = pairs(
                lambda shot=shot: actions.render((shot,), folder / "a.mp4", lambda done, total: None, overwrite=True),  # type: ignore[misc]
                lambda: transcode(CLIP, folder / "b.mp4", 72),
            )
            yield (
                f"render of 3 s 1080p {words}, against a plain transcode",
                goal,
                (f"{statistics.median(a / b for a, b in times):.2f} ×"),
            )


def large() -> Iterator[Row]:
    """Playing footage of 3840x2160 in the window, the first time and in a loop."""
    with tempfile.TemporaryDirectory() as name:
        clip = large_clip(Path(name) / "large.mp4", 96)
        project = shot_edits.add_shot(clip, preset_library.preset("Standing, breathing"))(Project())
        with desk(Session(project)) as window:
            until(on_screen(window))
            for words in ("the first time", "again, its frames ready"):
                yield f"4K footage played in a 1280x800 window, 24 frames/s, {words}", "0 dropped", played(window, 3.8)
                until(all_ready(window))


def memory() -> Iterator[Row]:
    """Peak memory of a whole rendering process."""
    with tempfile.TemporaryDirectory() as folder:
        code = (
            "from young_tremor.cli.main import main; "
            f"main(['shake', {str(CLIP)!r}, '-o', {str(Path(folder) / 'out.mp4')!r}]); {PEAK}"
        )
        said = subprocess.run([sys.executable, "-c", code], capture_output=True, text=True, check=True).stdout
        kilobytes = int(said.splitlines()[-1])
    yield "peak memory while rendering 1080p", "≤ 600 MB", f"{kilobytes / 1024:.0f} MB"


@contextmanager
def desk(session: Session | None = None) -> Iterator[MainWindow]:
    app = QApplication.instance() or QApplication([])
    theme.dress(app)  # type: ignore[arg-type]
    launch.begin(())
    window = MainWindow(session or Session(footage_alone()), SilentDevice())
    window.resize(1280, 800)
    window.show()
    try:
        yield window
    finally:
        window.act.files.may_leave = lambda: True  # type: ignore[method-assign]
        window.close()


def until(condition: Callable[[], bool], limit: float = 60.0) -> None:
    """Run the window until something is so."""
    app = QApplication.instance()
    assert app is not None
    end = time.perf_counter() + limit
    wake = QTimer()
    wake.start(25)
    while not condition():
        app.processEvents(QEventLoop.ProcessEventsFlag.WaitForMoreEvents)
        if time.perf_counter() > end:
            raise TimeoutError


def on_screen(window: MainWindow) -> Callable[[], bool]:
    def check() -> bool:
        shown = window.desk.picture.picture
        return (
            shown is not None and shown.request is window.desk.stage._request and shown.index == window.desk.view.frame
        )

    return check


def all_ready(window: MainWindow) -> Callable[[], bool]:
    def check() -> bool:
        request = window.desk.stage._request
        ready = window.desk.stage.preview.ready(request) if request is not None else np.zeros(0)
        return bool(ready.size and ready.all())

    return check


def drag(window: MainWindow, steps: list[shot_edits.Edit], strips: list[Strip]) -> tuple[list[float], list[float]]:
    """Seconds of each step of a drag to the repainted picture, and to the repainted strips as well."""
    times, whole = [], []
    with window.desk.session.gesture("Drag"):
        for step in steps:
            begun = time.perf_counter()
            window.desk.session.apply("Drag", step)
            until(on_screen(window))
            window.desk.picture.repaint()
            times.append(time.perf_counter() - begun)
            until(lambda: all(strip.drawn for strip in strips))
            whole.append(time.perf_counter() - begun)
    return times, whole


def played(window: MainWindow, long: float = 10.0) -> str:
    """So many seconds of playing from the first frame on, in words."""
    stage = window.desk.stage
    stage.go(0)
    stage.toggle_play()
    until(lambda: stage.player is not None and stage.player.playing)
    begun = time.perf_counter()
    until(lambda: time.perf_counter() - begun >= long)
    player = stage.player
    assert player is not None
    shown, dropped = player.shown, player.dropped
    stage.stop()
    return f"{shown / long:.1f} frames/s, {dropped} dropped"


def playback() -> Iterator[Row]:
    """Ten seconds of playing from a cold preview, and how fast frames can be made at all."""
    goal = "24 frames/s, 0 dropped"
    with desk(Session(preset_library.demo_project())) as window:
        until(on_screen(window))
        words = "playback of the demo as it ships (depth, a type case, a title by letter), 10 s"
        yield f"{words}, the first time", goal, played(window)
        until(all_ready(window))
        yield f"{words}, again", goal, played(window)
    with desk() as window:
        until(on_screen(window))
        stage = window.desk.stage
        stage.preview.forget(settings.load())
        words = "playback of the demo's footage in a 1280x800 window from an empty cache, 10 s, 180°"
        yield words, goal, played(window)
        until(all_ready(window))
        for name, clear in (("decoding included", True), ("frames decoded before", False)):
            if clear:
                stage.preview.forget(settings.load())
            shot = stage.state.shot
            assert shot is not None
            focal = shot.frame.focal_mm + (1 if clear else 2)
            made = seconds(
                lambda focal=focal: (  # type: ignore[misc]
                    window.desk.session.apply("Focal", shot_edits.set_frame("press-wide", focal_mm=focal)),
                    until(all_ready(window)),
                )
            )
            yield f"preview frames made without the clock, {name}", "–", f"{240 / made:.0f} frames/s"


def delivering() -> Iterator[Row]:
    """Playing what is ready while a delivery is at work."""
    with desk() as window, tempfile.TemporaryDirectory() as folder:
        until(on_screen(window))
        stage, rows = window.desk.stage, window.desk.sheet.list
        window.desk.set_marks((0, 95))
        until(lambda: stage._request is not None and bool(stage.preview.ready(stage._request)[:96].all()))
        rows.add(DeliveryRequest("shot", str(Path(folder) / "out.mov"), "prores", ("press-wide",)))
        rows.start()
        until(lambda: rows.row is not None and bool(rows.row.told))
        told = played(window, 8.0)
        at_work = rows.running
        rows.stop_all(30.0)
        rest = "" if at_work else " (the delivery had ended)"
        words = "playback of a ready stretch while a delivery is at work, 8 s"
        yield words, "24 frames/s", f"{told}{rest}"


def demo_drags() -> Iterator[Row]:
    """Dragging numbers of the demo's first shot, which has depth, plates and a span over it."""
    with desk(Session(preset_library.demo_project())) as window:
        until(on_screen(window))
        window.desk.stage.go(100)
        until(on_screen(window))
        shot = window.desk.session.project.shots[0]
        strand = shot.shake.strands[0].id
        for words, steps in (
            ("amount", [shot_edits.set_strand(shot.id, strand, amount=Curve(0.5 + k / 40)) for k in range(40)]),
            ("rate", [shot_edits.set_strand(shot.id, strand, rate=Curve(0.4 + k / 80)) for k in range(40)]),
        ):
            times, _ = drag(window, steps, [])
            yield (
                f"a drag of the {words} in the demo’s first shot, to the repainted picture, median (at most)",
                "≤ 33 ms (50 ms)",
                f"{milliseconds(times)} ({1000 * max(times):.0f} ms)",
            )


def response() -> Iterator[Row]:
    """From an event to the repainted picture."""
    with desk() as window:
        until(on_screen(window))
        stage, session = window.desk.stage, window.desk.session
        until(all_ready(window))
        stage.go(100)
        until(on_screen(window))
        strand = session.project.shots[0].shake.strands[0].id
        every = [window.desk.chart.camera_strip, *(row.strip for row in window.desk.chart._rows.values())]
        strips = [strip for strip in every if not strip.visibleRegion().isEmpty()]
        steps = [shot_edits.set_strand("press-wide", strand, amount=Curve(0.5 + step / 40)) for step in range(40)]
        times, whole = drag(window, steps, strips)
        yield (
            "a drag of a rule to the repainted picture, median",
            "≤ 50 ms",
            milliseconds(times),
        )
        yield "the same, chart repainted as well", "–", milliseconds(whole)
        yield from demo_drags()
        rng = np.random.default_rng(1)
        times = []
        for frame in rng.integers(0, 240, 30).tolist():
            stage.preview.forget(settings.load())
            begun = time.perf_counter()
            stage.go(frame)
            until(on_screen(window))
            times.append(time.perf_counter() - begun)
        yield "scrub to a random frame, not cached, median", "≤ 150 ms", milliseconds(times)
        until(all_ready(window))
        times = []
        for frame in rng.integers(0, 240, 60).tolist():
            begun = time.perf_counter()
            stage.go(frame)
            until(on_screen(window))
            times.append(time.perf_counter() - begun)
        yield "scrub to a random frame, cached, median", "≤ 20 ms", milliseconds(times)
        held = stage.preview.nbytes
        yield "preview cache with the whole of it ready", "bounded", f"{held >> 20} of {PICTURES >> 20} MB"


def switching() -> Iterator[Row]:
    """Choosing another shot of the reel, to its picture."""
    with desk() as window:
        shots = [shot.id for shot in window.desk.session.project.shots]
        until(on_screen(window))
        times = []
        for turn in range(12):
            begun = time.perf_counter()
            window.desk.state.choose_shot(shots[(turn + 1) % len(shots)])
            until(on_screen(window))
            times.append(time.perf_counter() - begun)
        yield "another shot of the reel, to its picture, median", "≤ 250 ms", milliseconds(times[2:])


def shape() -> Iterator[Row]:
    """Shaping a long shot: sampling it, and dragging a key of its intensity on the chart."""
    walking = preset_library.preset("walking").shake
    shake = replace(walking, strands=(*walking.strands, *preset_library.preset("press strike").shake.strands))
    hits = tuple(Hit(str(n), 3.0 * n) for n in range(200))
    t = np.arange(36000) / 60
    sample.sample(shake, t[:8], hits=hits)
    took = statistics.median(seconds(lambda: sample.sample(shake, t, hits=hits)) for _ in range(5))
    yield ("sampling 10 minutes at 60 fps (36,000 × 6), two drifts and jolts with 200 hits", "≤ 0.5 s", f"{took:.2f} s")
    with tempfile.TemporaryDirectory() as folder:
        path = Path(folder) / "long.mp4"
        with av.open(str(path), "w") as file:
            stream = file.add_stream("libx264", rate=24)
            stream.width, stream.height, stream.pix_fmt = 320, 180, "yuv420p"
            stream.options = {"preset": "ultrafast", "g": "48"}
            picture = av.VideoFrame(320, 180, "yuv420p")
            for number in range(14400):
                picture.pts = number
                file.mux(stream.encode(picture))
            file.mux(stream.encode(None))
        made = shot_edits.add_shot(path)(Project())
        shot = made.shots[0]
        shot = replace(shot, shake=shake, hits=hits)
        made = replace(made, shots=(shot,))
        with desk(Session(made)) as window:
            until(on_screen(window))
            stage, session, chart = window.desk.stage, window.desk.session, window.desk.chart
            curve = Curve(1.0, tuple(Key(60.0 * n, 0.5 + 0.1 * n) for n in range(10)))
            session.apply("Keys", shot_edits.set_shake(shot.id, intensity=curve))
            stage.go(2000)
            until(on_screen(window))
            moves = [curve_edits.move_keys(curve, (1, 2), 0.5 * k, 0.01 * k, low=0, high=2)[0] for k in range(30)]
            steps = [shot_edits.set_shake(shot.id, intensity=moved) for moved in moves]
            times, whole = drag(window, steps, [chart.level_strip, chart.camera_strip])
    yield (
        "dragging a key with three strands over a 10-minute shot to the repainted picture, median",
        "≤ 50 ms",
        milliseconds(times),
    )
    yield "the same, chart repainted as well", "≤ 50 ms", milliseconds(whole)


WORK: dict[str, Callable[[], Iterator[Row]]] = {
    "opening": opening,
    "switching": switching,
    "memory": memory,
    "start": starting,
    "render": render,
    "rolling": rolling,
    "playback": playback,
    "response": response,
    "large": large,
    "shape": shape,
    "frames": frames,
    "plates": plates,
    "solver": solver,
    "measure": measure,
    "reel": lambda: reel(desk),
    "sound": sound,
    "delivery": delivery,
    "delivering": delivering,
    "colours": colours,
}


def machine() -> str:
    model = next(
        (line.split(":")[1].strip() for line in Path("/proc/cpuinfo").read_text().splitlines() if "model name" in line),
        platform.machine(),
    )
    memory = os.sysconf("SC_PAGE_SIZE") * os.sysconf("SC_PHYS_PAGES") / 2**30
    return f"{os.cpu_count()} cores ({model}), {memory:.0f} GB, Linux, Python {platform.python_version()}"


def main(names: list[str]) -> None:
    rows = []
    for name in names or WORK:
        for row in WORK[name]():
            rows.append(row)
            print(" | ".join(row), flush=True)
    if names:
        return
    head = README.read_text().split("<!-- table -->")[0]
    table = "\n".join(f"| {work} | {goal} | {found} |" for work, goal, found in rows)
    README.write_text(
        f"{head}<!-- table -->\n\nMeasured on {date.today()}: {machine()}.\n\n"
        f"| work | to reach | measured |\n| --- | --- | --- |\n{table}\n"
    )


if __name__ == "__main__":
    main(sys.argv[1:])
