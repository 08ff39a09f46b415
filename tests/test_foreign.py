"""Foreign files that would end, fill or hold the process: each is refused in one sentence, or read."""

from __future__ import annotations

import base64
import json
import os
import resource
import struct
import time
import zlib
from collections.abc import Callable
from fractions import Fraction
from pathlib import Path

import numpy as np
import opentimelineio as otio
import pytest

from clips import clip
from test_cli import run
from test_timelines import cut, external, written
from young_tremor.base import sandbox
from young_tremor.base.errors import TremorError
from young_tremor.base.frames import DrawnSource
from young_tremor.document import store
from young_tremor.engine.delivery import interchange, timelines
from young_tremor.engine.library import gyro_logs, preset_library, takes
from young_tremor.engine.media import footage, relink
from young_tremor.exchange import usd_camera
from young_tremor.media import fonts, svg_drawing, title_drawing
from young_tremor.model.title import Title

MOST_SECONDS = 12.0
SVG = (
    '<svg xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink" width="64" height="48">{}</svg>'
)
HUGE = "1" + "0" * 400


def bomb(side: int) -> str:
    """A PNG of zeros of that many pixels a side, as a data address."""

    def chunk(kind: bytes, data: bytes) -> bytes:
        return struct.pack(">I", len(data)) + kind + data + struct.pack(">I", zlib.crc32(kind + data))

    rows = zlib.compress(bytes((side + 1) * side), 1)
    head = struct.pack(">IIBBBBB", side, side, 8, 0, 0, 0, 0)
    data = b"\x89PNG\r\n\x1a\n" + chunk(b"IHDR", head) + chunk(b"IDAT", rows) + chunk(b"IEND", b"")
    return "data:image/png;base64," + base64.b64encode(data).decode()


def filtered(effect: str) -> str:
    return SVG.format(f'<filter id="f">{effect}</filter><rect width="64" height="48" filter="url(#f)"/>')


DRAWINGS: dict[str, Callable[[], str]] = {
    "nested groups": lambda: SVG.format("<g>" * 5000 + "<rect/>" + "</g>" * 5000),
    "zeros": lambda: SVG.format('<image href="/dev/zero" width="9" height="9"/>'),
    "random": lambda: SVG.format('<image xlink:href="file:///dev/random" width="9" height="9"/>'),
    "secrets": lambda: SVG.format('<image href="../../../../etc/passwd" width="9" height="9"/>'),
    "turbulence": lambda: filtered('<feTurbulence baseFrequency="0.05" numOctaves="2147483647"/>'),
    "picture of 400 million pixels": lambda: SVG.format(f'<image href="{bomb(20_000)}" width="9" height="9"/>'),
    "huge box": lambda: SVG.replace('width="64"', f'viewBox="0 0 {HUGE} 1e400" width="1e400"').format(""),
}


def describe(path: Path) -> str:
    """What the door of a kind of file makes of it: a sentence of ours, or "read"."""
    try:
        if path.suffix == ".svg":
            source = footage.open_source(str(path))
            assert isinstance(source, DrawnSource)
            source.draw(1.0)
        elif path.suffix in (".otio", ".otioz", ".edl"):
            timelines.open_timeline(path, preset_library.starting_preset(), fps=Fraction(25))
        elif path.suffix == ".csv":
            interchange.take_of(gyro_logs.log_text(path), path.name)
        elif path.suffix in fonts.KINDS:
            title_drawing.typeset(Title("Proof", face=str(path)), (640, 360))
        else:
            takes.read(path)
    except TremorError as error:
        return str(error)
    return "read"


def refused(path: Path) -> str:
    """The sentence with which a file is refused, in time, in memory and in our words."""
    words = answered(path)
    assert words != "read"
    return words


def answered(path: Path) -> str:
    """What comes of reading a file once, "read" or a sentence, in time, in memory and in our words."""
    begin = time.monotonic()
    words = describe(path)
    assert time.monotonic() - begin < MOST_SECONDS
    assert resource.getrusage(resource.RUSAGE_SELF).ru_maxrss < 3 << 20
    if words == "read":
        return words
    assert path.name in words
    assert words.endswith(".")
    for foreign in ("Error", "Exception", "overflow", "int too large", "panicked", "NoneType", "Traceback"):
        assert foreign not in words
    return words


@pytest.mark.parametrize("kind", DRAWINGS)
def test_drawings_that_would_hold_or_end_the_process_are_refused(
    kind: str, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr(svg_drawing, "PROBE_LIMITS", sandbox.Limits(seconds=2.0, memory=1 << 30))
    path = tmp_path / "drawing.svg"
    path.write_text(DRAWINGS[kind]())
    if kind == "huge box":
        answered(path)
        return
    words = refused(path)
    if kind in ("zeros", "random", "secrets"):
        assert "not beside it" in words


def test_drawings_that_are_slow_are_given_up_and_good_ones_cost_little(tmp_path: Path) -> None:
    (tmp_path / "inner.svg").write_text(SVG.format('<rect width="9" height="9"/>'))
    good = tmp_path / "good.svg"
    good.write_text(
        SVG.format('<image href="inner.svg" width="64" height="48"/><image href="http://x.example/a.png"/>')
    )
    source = footage.open_source(str(good))
    assert isinstance(source, DrawnSource)
    assert source.draw(1.0).planes[3].any()
    assert "pictures at addresses are left out" in source.info.notes
    # after them, so that the process that draws is there and only its work counts
    slow = tmp_path / "slow.svg"
    slow.write_text(SVG.format(f'<path d="M0 0{" L50 9 3 40" * 500_000}" stroke="#000" stroke-dasharray="0.01"/>'))
    answered(slow)


def leaf_mutations(value: object) -> list[str]:
    """A document once for each of its leaves and branches, with what no program writes in its place."""
    places: list[tuple[object, object]] = []

    def walk(node: object) -> None:
        children = node.items() if isinstance(node, dict) else enumerate(node) if isinstance(node, list) else ()
        for key, child in list(children):
            places.append((node, key))
            walk(child)

    walk(value)
    out = []
    for node, key in places:
        kept = node[key]  # type: ignore[index]
        others: tuple[object, ...] = (None, 10**400, float("inf"), -1, [], {}, "x" * 100_000, True)
        for other in others:
            node[key] = other  # type: ignore[index]
            out.append(json.dumps(value))
        node[key] = kept  # type: ignore[index]
    return out


def test_every_leaf_of_a_timeline_may_be_anything(tmp_path: Path, footage: Path) -> None:
    made = cut([external(footage, 6, 12, 24.0)])
    made.tracks[0][0].markers.append(
        otio.schema.Marker(
            "bang", otio.opentime.TimeRange(otio.opentime.RationalTime(8, 24), otio.opentime.RationalTime(0, 24))
        )
    )
    path = tmp_path / "cut.otio"
    texts = leaf_mutations(json.loads(otio.adapters.write_to_string(made, "otio_json")))
    texts += ['{"OTIO_SCHEMA": "Timeline.1", "tracks": ' * 5000 + "null" + "}" * 5000, "[" * 100_000]
    cycle = json.loads(otio.adapters.write_to_string(made, "otio_json"))
    cycle["tracks"]["children"] = [{"OTIO_SCHEMA": "SerializableObjectRef.1", "id": "Track-1"}]
    texts.append(json.dumps(cycle))
    assert len(texts) > 300
    answers = set()
    for text in texts:
        path.write_text(text)
        words = describe(path)
        answers.add(words == "read")
        assert "Error" not in words, text[:200]
    assert answers == {True, False}


def test_timelines_with_loose_clips_addresses_and_infinite_times_are_read_or_refused(
    tmp_path: Path, footage: Path, capsys: pytest.CaptureFixture[str]
) -> None:
    loose = otio.schema.Timeline("loose")
    loose.tracks.append(external(footage, 6, 12, 24.0))
    project, _ = timelines.open_timeline(written(loose, tmp_path / "loose.otio"), preset_library.starting_preset())
    assert [shot.name for shot in project.shots] == [footage.stem]
    away = external(footage, 0, 12, 24.0, name="Away")
    away.media_reference.target_url = "http://press.example/films/away.mov?take=3"
    made = written(cut([away, external(footage, 0, 12, 24.0)]), tmp_path / "net.otio")
    code, _, err = run(capsys, "reel", made, "-o", tmp_path / "net.tremor")
    assert code == 0, err
    assert "address" in err
    (lost,) = relink.missing(store.load(tmp_path / "net.tremor"))
    assert lost.path == str(tmp_path / "away.mov")
    endless = external(footage, 0, 12, 24.0)
    endless.source_range = otio.opentime.TimeRange(
        otio.opentime.RationalTime(0, 24), otio.opentime.RationalTime(float("inf"), 24)
    )
    assert "no clip has" in refused(written(cut([endless]), tmp_path / "endless.otio"))
    endless.source_range = otio.opentime.TimeRange(
        otio.opentime.RationalTime(0, float("inf")), otio.opentime.RationalTime(9, float("inf"))
    )
    refused(written(cut([endless]), tmp_path / "fast.otio"))


def test_a_bundle_goes_through_reel_render_and_gather(tmp_path: Path, capsys) -> None:  # type: ignore[no-untyped-def]
    films = tmp_path / "films"
    films.mkdir()
    media = clip(films / "press one.mp4", frames=24)
    bundle = tmp_path / "scene.otioz"
    otio.adapters.write_to_file(cut([external(media, 6, 12, 24.0)]), str(bundle))
    media.unlink()
    assert run(capsys, "reel", bundle, "-o", tmp_path / "scene.tremor")[0] == 0
    project = store.load(tmp_path / "scene.tremor")
    assert not relink.missing(project)
    assert Path(project.shots[0].footage.media.path).parent == tmp_path / "scene media"
    assert project.shots[0].start == pytest.approx(0.25)
    assert run(capsys, "render", tmp_path / "scene.tremor", "-o", tmp_path / "out.mp4")[0] == 0
    assert footage.facts(str(tmp_path / "out.mp4")).info.frames == 12
    gathered = relink.gather(project, tmp_path / "away", "scene", lambda done, total: None)
    assert (tmp_path / "away" / "footage" / "press one.mp4").exists()
    assert not gathered.left_out
    whole = bundle.read_bytes()
    for broken in (
        whole[: len(whole) // 2],
        whole.replace(b"media/", b"media/../")[:-7],
        whole.replace(b"content", b"nothing"),
    ):
        (tmp_path / "broken.otioz").write_bytes(broken)
        refused(tmp_path / "broken.otioz")
    (tmp_path / "broken.otioz").write_bytes(whole.replace(b"media/p", b"../../p"))
    assert describe(tmp_path / "broken.otioz") == "read"  # what is not among its media is not unpacked
    assert not (tmp_path.parent / "press one.mp4").exists()


def test_cameras_of_any_depth_reach_and_rate(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(usd_camera, "LIMITS", sandbox.Limits(seconds=3.0, memory=2 << 30))
    path = tmp_path / "camera.usda"
    head = "#usda 1.0\n(\n    timeCodesPerSecond = {}\n)\n"
    keys = "    double3 xformOp:translate.timeSamples = {{ 1: (0,0,0), {}: (1,0,0) }}\n"
    order = '    uniform token[] xformOpOrder = ["xformOp:translate"]\n'
    body = 'def Camera "C"\n{\n' + keys.format(9) + order + "}\n"
    for rate in ("nan", "1e400", "-24", "0.0001"):
        path.write_text(head.format(rate) + body)
        answered(path)
    path.write_text(head.format(24) + body.replace("9:", "1e18:"))
    refused(path)
    path.write_text(head.format(24) + 'def Xform "A"\n{\n' * 100_000 + body + "}\n" * 100_000)
    refused(path)
    os.mkfifo(tmp_path / "pipe.usda")
    path.write_text("#usda 1.0\n(\n    subLayers = [@./pipe.usda@]\n)\n" + body)
    answered(path)
    path.write_text("#usda 1.0\n(\n    subLayers = [@/dev/zero@, @/etc/passwd@]\n)\n" + body)
    answered(path)


@pytest.mark.parametrize(
    "rows",
    [
        "0,0,0,0\n0.01,0,0,0\n0.02,0,0,0\n86400,0,0,0\n",
        "0,0,0,0\n1e-300,0,0,0\n2e-300,0,0,0\n3e-300,0,0,0\n",
        f"0,0,0,0\n{HUGE},0,0,0\n1,0,0,0\n",
        f"0,0,0,0\n0.01,{HUGE},0,0\n0.02,0,0,0\n",
        "0,0,0,0\n0.5,1e400,0,0\n1,0,0,0\n",
        "0,0,0,0\n1e307,0,0,0\n1e308,0,0,0\n",
    ],
)
def test_logs_of_absurd_times_and_rates_are_refused(rows: str, tmp_path: Path) -> None:
    path = tmp_path / "log.csv"
    path.write_text("time_s,gx,gy,gz\n" + rows)
    refused(path)


def test_fonts_are_read_apart_and_what_they_do_ends_with_them(tmp_path: Path) -> None:
    ours = fonts.ours()[0]
    data = bytearray(Path(ours.path).read_bytes())
    good = tmp_path / "mine.ttf"
    good.write_bytes(data)
    named = title_drawing.typeset(Title("Proof", face=str(good)), (640, 360))
    by_name = title_drawing.typeset(Title("Proof", face=ours.name), (640, 360))
    assert [piece.outline for group in named.groups for piece in group] == [
        piece.outline for group in by_name.groups for piece in group
    ]
    drawn = title_drawing.draw_title(Title("Proof", face=str(good)), (640, 360), 1.0)
    assert drawn.pieces
    chance = np.random.default_rng(5)
    for number in range(40):
        broken = bytearray(data)
        for at in chance.integers(0, len(data), 400):
            broken[at] = chance.integers(256)
        path = tmp_path / f"broken{number}.ttf"
        path.write_bytes(broken)
        answered(path)


def test_a_child_reaches_the_named_folder_alone_and_keeps_its_limits(tmp_path: Path) -> None:
    inside, outside = tmp_path / "in", tmp_path / "secret"
    inside.mkdir()
    (inside / "a.txt").write_text("here")
    outside.write_text("password")
    limits = sandbox.Limits(seconds=1.0, memory=64 << 20)

    def call(function: Callable, *arguments: object) -> object:
        return sandbox.run(function, *arguments, name="a.txt", what="a text", path=inside / "a.txt", limits=limits)

    assert call(Path.read_bytes, inside / "a.txt") == b"here"
    if sandbox.is_confined():
        for path in (outside, "/etc/passwd", "/dev/zero"):
            with pytest.raises(TremorError, match="denied"):
                call(Path.read_bytes, Path(path))
    assert call(bytearray, 1 << 20) == bytearray(1 << 20)
    with pytest.raises(TremorError, match="64 MB"):
        call(bytearray, 1 << 30)
    with pytest.raises(TremorError, match="longer than 1 s"):
        call(time.sleep, 30)
    with pytest.raises(TremorError, match="damaged"):
        call(os.abort)
    # the server was ended from outside: the next call has another
    sandbox._SERVER._process.kill()  # type: ignore[union-attr]
    sandbox._SERVER._process.wait()  # type: ignore[union-attr]
    assert call(Path.read_bytes, inside / "a.txt") == b"here"
