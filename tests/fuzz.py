"""Seeded mutations of everything that is read from outside, sent through the public doors: projects, presets, tables,
clips, logs, timelines, bundles, cameras, drawings, fonts, and what a second start says.

    python tests/fuzz.py [--count 10000] [--first 0] [--kinds project,preset,...]

Whatever comes in, nothing but the application's own errors may come out, in one line, within ten seconds and a
gigabyte, and what is accepted holds no NaN and can be written and read again. The tests run some hundreds of each kind.
"""

from __future__ import annotations

import argparse
import hashlib
import json
import multiprocessing
import random
import resource
import shutil
import sys
import tempfile
import time
import zipfile
from collections import Counter
from collections.abc import Callable
from fractions import Fraction
from pathlib import Path
from typing import Any

import numpy as np

from clips import clip
from young_tremor.base import single_instance
from young_tremor.base.errors import TremorError
from young_tremor.base.frames import DrawnSource
from young_tremor.document import codec, store
from young_tremor.engine.delivery import batch, delivery_plan, interchange, timelines
from young_tremor.engine.library import gyro_logs, preset_library, takes
from young_tremor.engine.media import footage
from young_tremor.media import audio_reader, fonts, title_drawing
from young_tremor.model.project import Project
from young_tremor.model.title import Title
from young_tremor.motion import sample

MOST_SECONDS, MOST_BYTES = 10.0, 1 << 30
NUMBERS = (
    "0",
    "-1",
    "1e308",
    "-1e308",
    "1e-300",
    "1e999999999",
    "NaN",
    "Infinity",
    "-Infinity",
    "4611686018427387904",
    "1e9",
    "1e-9",
    "1e400",
    "1" + "0" * 400,
    "true",
    "null",
    '""',
    '"x"',
    "[]",
    "{}",
    "0.5",
    "720",
    '"1/0"',
    '"\\ud800"',
    '"\\u0000"',
)


def mutated_text(text: str, chance: random.Random) -> bytes:
    """A text with some of it changed, left out, doubled or cut off."""
    data = bytearray(text.encode())
    for _ in range(chance.choice((1, 1, 1, 2, 4, 16))):
        at = chance.randrange(len(data)) if data else 0
        act = chance.randrange(16)
        if act == 0:
            data[at : at + 1] = bytes([chance.randrange(256)])
        elif act == 1:
            del data[at : at + chance.choice((1, 3, 50, 2000))]
        elif act == 2:
            data[at:at] = data[at : at + chance.choice((1, 20, 400))] * chance.choice((1, 1, 1, 200))
        elif act == 3:
            del data[at:]
        else:
            # the most telling one: another value where a number or a word stands
            places = [k for k, c in enumerate(data) if c in b"0123456789" and (k == 0 or data[k - 1 : k] in b":,[ ")]
            if places:
                at = chance.choice(places)
                end = at
                while end < len(data) and data[end : end + 1] in b"0123456789.eE+-":
                    end += 1
                data[at:end] = chance.choice(NUMBERS).encode()
    return bytes(data)


def mutated_tree(text: str, chance: random.Random) -> bytes:
    """A JSON text with something in the place of one of its leaves or branches: nothing, a huge number, a deep nest, a
    reference to another part, itself once more."""
    tree = json.loads(text)
    places: list[tuple[Any, Any]] = []

    def walk(node: Any) -> None:
        for key, child in list(node.items() if isinstance(node, dict) else enumerate(node)):
            places.append((node, key))
            if isinstance(child, dict | list):
                walk(child)

    walk(tree)
    deep: Any = []
    for _ in range(chance.choice((5, 300, 900))):
        deep = [deep]
    for _ in range(chance.choice((1, 1, 2, 5))):
        node, key = chance.choice(places)
        other, name = chance.choice(places)
        node[key] = chance.choice(
            (
                None,
                10**400,
                -(10**30),
                float("inf"),
                float("nan"),
                -1,
                [],
                {},
                "",
                "x" * 5000,
                True,
                deep,
                {"OTIO_SCHEMA": "SerializableObjectRef.1", "id": chance.choice(("Track-1", "Stack-1", "x"))},
                json.loads(json.dumps(other.get(name) if isinstance(other, dict) else None, default=str)),
            )
        )
    return json.dumps(tree).encode()


def mutated_bytes(data: bytes, chance: random.Random) -> bytes:
    out = bytearray(data)
    for _ in range(chance.choice((1, 2, 8, 64, 400))):
        at = chance.randrange(len(out)) if chance.random() < 0.6 else chance.randrange(min(len(out), 600))
        out[at] = chance.choice((0, 255, out[at] ^ (1 << chance.randrange(8)), chance.randrange(256)))
    if chance.random() < 0.25:
        del out[chance.randrange(len(out)) :]
    return bytes(out)


def a_project(data: bytes, folder: Path) -> None:
    path = folder / "a.tremor"
    path.write_bytes(data)
    project = store.load(path)
    store.save(project, folder / "b.tremor")
    assert store.load(folder / "b.tremor") == project
    t = np.linspace(0, 8, 50)
    for shot in project.shots:
        assert np.isfinite(sample.sample(shot.shake, t, shot.frame.pivot, shot.hits)).all()


def a_preset(data: bytes, folder: Path) -> None:
    path = folder / "a.json"
    path.write_bytes(data)
    preset = preset_library.shake_file(path)
    assert codec.decode_presets(codec.encode_presets((preset,)), "again") == (preset,)
    assert np.isfinite(sample.sample(preset.shake, np.linspace(0, 8, 50))).all()


def a_table(data: bytes, folder: Path) -> None:
    path = folder / "a.csv"
    path.write_bytes(data)
    take = takes.read(path)
    strand = takes.strand_of(take)
    assert np.isfinite(sample.sample(takes.preset_of(take, None).shake, np.linspace(-1, 9, 50))).all()
    assert takes.text_of(strand.take)


def a_clip(data: bytes, folder: Path, ending: str = ".mp4") -> None:
    path = folder / f"a{ending}"
    path.write_bytes(data)
    source = footage.open_source(str(path))
    try:
        for index in (0, source.info.frames - 1, source.info.frames // 2):
            source.read(index)
    finally:
        source.close()
    sound = footage.facts(str(path)).sounds
    if sound:
        for _ in zip(audio_reader.blocks(path, 0.0, origin=0.0), range(20), strict=False):
            pass


def a_log(data: bytes, folder: Path) -> None:
    path = folder / "log.csv"
    path.write_bytes(data)
    take, found = interchange.take_of(gyro_logs.log_text(path), path.name)
    assert np.isfinite(take.table()).all()
    assert found.words()


def a_timeline(data: bytes, folder: Path) -> None:
    path = folder / ("cut.otio" if data[:1] == b"{" else "cut.edl")
    path.write_bytes(data)
    made, _ = timelines.open_timeline(path, preset_library.starting_preset(), fps=Fraction(25))
    store.save(made, folder / "b.tremor")
    assert len(store.load(folder / "b.tremor").shots) == len(made.shots)


def a_bundle(data: bytes, folder: Path) -> None:
    path = folder / "cut.otioz"
    path.write_bytes(data)
    timelines.open_timeline(path, preset_library.starting_preset())
    shutil.rmtree(folder / "cut media", ignore_errors=True)


def a_drawing(data: bytes, folder: Path) -> None:
    path = folder / "a.svg"
    path.write_bytes(data)
    source = footage.open_source(str(path))
    assert isinstance(source, DrawnSource)
    assert source.draw(min(1.0, 200 / max(source.info.size))).planes


def a_font(data: bytes, folder: Path) -> None:
    path = folder / f"{hashlib.blake2s(data, digest_size=6).hexdigest()}.ttf"
    path.write_bytes(data)
    try:
        title_drawing.draw_title(Title("Proof 5", face=str(path)), (320, 180), 1.0)
    finally:
        path.unlink()


def a_message(data: bytes, folder: Path) -> None:
    """What a second start is told; it is a window, or it is nothing."""
    window = single_instance._window(single_instance.parse(data))
    assert window is None or single_instance.choose([window], []) == 0


def a_camera(data: bytes, folder: Path) -> None:
    path = folder / "a.usda"
    path.write_bytes(data)
    assert np.isfinite(takes.read(path).table()).all()


def _log() -> bytes:
    t = np.arange(200) / 100
    rows = (f"{a:.3f},{0.1 * np.sin(a):.5f},{0.2 * np.cos(3 * a):.5f},{0.05 * a:.5f}" for a in t)
    return "\n".join(["time_s,gx,gy,gz", *rows]).encode()


def _cuts(folder: Path) -> list[tuple[str, bytes]]:
    """A timeline of two clips in both forms."""
    shots = batch.make_reel((clip(folder / "one.mp4", frames=24, size=(64, 48)),), preset_library.starting_preset())
    films = delivery_plan.plan_deliveries(
        shots, delivery_plan.Scope(each=True), delivery_plan.Naming(folder, name="cut"), form="h264"
    )
    for ending in ("otio", "edl"):
        timelines.write(shots, films, folder / f"cut.{ending}", name="cut", overwrite=True)
    return [("", (folder / f"cut.{ending}").read_bytes()) for ending in ("otio", "edl")]


def _bundle(folder: Path) -> bytes:
    """A timeline with a film of its own, as one file."""
    path, film = folder / "cut.otioz", clip(folder / "in.mp4", frames=6, size=(64, 48)).read_bytes()
    with zipfile.ZipFile(path, "w") as bundle:
        text = _cuts(folder)[0][1].decode()
        bundle.writestr("content.otio", text.replace((folder / "in.mp4").as_uri(), "media/in.mp4"))
        bundle.writestr("version.txt", "1.0.0")
        bundle.writestr("media/in.mp4", film)
    return path.read_bytes()


def _drawings(folder: Path) -> list[str]:
    (folder / "inner.svg").write_text('<svg xmlns="http://www.w3.org/2000/svg" width="9" height="9"/>')
    head = '<svg xmlns="http://www.w3.org/2000/svg" width="64" height="48" viewBox="0 0 64 48">'
    bodies = (
        '<g opacity="0.5"><rect x="3" y="4" width="30" height="20" rx="2" fill="#8a1f3d"/></g>',
        '<filter id="f"><feTurbulence baseFrequency="0.05" numOctaves="2"/><feMorphology radius="2"/></filter>'
        '<path d="M1 2L30 40Q5 9 8 8Z" stroke="#000" stroke-dasharray="2 3" filter="url(#f)"/>',
        '<image href="inner.svg" width="9" height="9"/><use href="#a"/><text x="3" y="20" font-size="9">Proof</text>',
        '<linearGradient id="a"><stop offset="0" stop-color="#fff"/></linearGradient><pattern id="p" width="4" '
        'height="4"><circle r="2" fill="url(#a)"/></pattern><mask id="m"><rect width="64" height="48"/></mask>',
    )
    return [f"{head}{body}</svg>" for body in bodies]


DOORS: dict[str, Callable[[bytes, Path], None]] = {
    "project": a_project,
    "preset": a_preset,
    "table": a_table,
    "log": a_log,
    "timeline": a_timeline,
    "camera": a_camera,
    "drawing": a_drawing,
    "message": a_message,
    "bundle": a_bundle,
    "font": a_font,
}
KINDS = (*DOORS, "clip")
BINARY = ("bundle", "font")
TREES = 0.4  # share of the mutations of a JSON text that are of its tree


def seeds(folder: Path) -> dict[str, list[tuple[str, bytes]]]:
    """What is mutated, by kind: (ending, content)."""
    factory = preset_library.factory()
    demo = preset_library.DEMO.read_text()
    project = json.dumps(json.loads(demo), indent=1)
    clips = []
    for name, more in (
        ("a.mp4", {"audio": True}),
        ("b.mkv", {"codec": "ffv1"}),
        ("c.ts", {}),
        ("d.avi", {"codec": "mpeg4"}),
        ("e.mov", {"codec": "qtrle", "pix_fmt": "rgb24"}),
        ("f.webm", {"codec": "libvpx-vp9"}),
    ):
        clips.append((Path(name).suffix, clip(folder / name, frames=12, size=(64, 48), **more).read_bytes()))  # type: ignore[arg-type]
    table = (preset_library.ASSETS / "demo" / "aisle-walk.csv").read_bytes()
    lines = table.splitlines()
    return {
        "project": [("", codec.encode_project(Project(), folder)), ("", project.encode())],
        "preset": [("", codec.encode_presets((each,))) for each in factory],
        "table": [("", b"\n".join(lines[:n])) for n in (12, 60, len(lines))],
        "clip": clips,
        "log": [("", _log())],
        "timeline": _cuts(folder),
        "camera": [("", interchange.camera_text(table.decode(), distance=4.0).encode())],
        "drawing": [("", text.encode()) for text in _drawings(folder)],
        "message": [("", b'{"project": "/a.tremor", "empty": false, "used": 17.25}')],
        "bundle": [("", _bundle(folder))],
        "font": [("", Path(face.path).read_bytes()) for face in fonts.ours()[:2]],
    }


def one(kind: str, number: int, given: list[tuple[str, bytes]], folder: Path) -> str:
    """One mutation through its door: "taken" or "refused"; raises whatever should not come."""
    chance = random.Random(f"{kind}{number}")
    ending, content = chance.choice(given)
    begun = time.monotonic()
    try:
        if kind == "clip":
            a_clip(mutated_bytes(content, chance), folder, ending)
        elif kind in BINARY:
            DOORS[kind](mutated_bytes(content, chance), folder)
        elif content[:1] == b"{" and chance.random() < TREES:
            DOORS[kind](mutated_tree(content.decode(), chance), folder)
        else:
            DOORS[kind](mutated_text(content.decode(), chance), folder)
        found = "taken"
    except TremorError as error:
        if "\n" in str(error) or not str(error).strip():
            raise AssertionError("not one line of words") from error
        found = "refused"
    assert time.monotonic() - begun < MOST_SECONDS, f"{time.monotonic() - begun:.1f} s"
    return found


def work(kind: str, first: int, last: int, given: list[tuple[str, bytes]], line) -> None:  # type: ignore[no-untyped-def]
    """Mutations of a kind in a process of their own, so that a crash is seen and named."""
    resource.setrlimit(resource.RLIMIT_CORE, (0, 0))
    with tempfile.TemporaryDirectory() as name:
        for number in range(first, last):
            line.send(("at", number))
            try:
                line.send(("found", one(kind, number, given, Path(name))))
            except Exception as error:
                line.send(("bad", f"{kind} {number}: {type(error).__name__}: {error}"[:300]))
    status = Path("/proc/self/status").read_text()
    line.send(("memory", int(status.split("VmHWM:")[1].split()[0]) * 1024))
    line.send(("done", last))


def run(kind: str, count: int, given: list[tuple[str, bytes]], first: int = 0) -> tuple[Counter, list[str], int]:
    """(how many were taken and refused, what went wrong, most bytes of memory) of so many mutations of a kind."""
    found: Counter = Counter()
    bad: list[str] = []
    memory, at, last = 0, first, first + count
    context = multiprocessing.get_context("spawn")
    while at < last:
        ours, theirs = context.Pipe(False)
        process = context.Process(target=work, args=(kind, at, last, given, theirs))
        process.start()
        theirs.close()
        ended = False
        try:
            while ours.poll(3 * MOST_SECONDS + 30):
                word, value = ours.recv()
                if word == "at":
                    at = value
                elif word == "found":
                    found[value] += 1
                elif word == "bad":
                    bad.append(value)
                elif word == "memory":
                    memory = max(memory, value)
                else:
                    ended = True
                    break
        except EOFError:
            pass
        process.kill() if process.is_alive() and not ended else None
        process.join()
        if ended:
            at = last
        else:
            bad.append(f"{kind} {at}: the process ended ({process.exitcode})")
            at += 1
    return found, bad, memory


def main() -> int:
    """Run it whole; the counts, and everything that went wrong."""
    parser = argparse.ArgumentParser()
    parser.add_argument("--count", type=int, default=10_000)
    parser.add_argument("--first", type=int, default=0)
    parser.add_argument("--kinds", default=",".join(KINDS))
    asked = parser.parse_args()
    wrong = 0
    with tempfile.TemporaryDirectory() as name:
        given = seeds(Path(name))
        for kind in asked.kinds.split(","):
            found, bad, memory = run(kind, asked.count, given[kind], asked.first)
            print(f"{kind}: {dict(found)}, {len(bad)} wrong, {memory >> 20} MB", flush=True)
            for each in bad[:20]:
                print("   ", each)
            wrong += len(bad) + (memory > MOST_BYTES)
    return 1 if wrong else 0


if __name__ == "__main__":
    sys.exit(main())
