"""Deliveries: every form written and read back, parts that add up to the whole, all checked before it starts."""

from __future__ import annotations

import json
import os
import re
import signal
import subprocess
import sys
from fractions import Fraction
from pathlib import Path

import av
import cv2
import numpy as np
import pytest
import tifffile
from msgspec.structs import replace

from clips import clip, decoded, number_of, numbered
from test_cli import run
from young_tremor import api
from young_tremor.base.errors import TremorError
from young_tremor.base.lazy_import import lazily
from young_tremor.document import store
from young_tremor.engine.delivery import actions, cluster, delivery_plan
from young_tremor.engine.library import preset_library
from young_tremor.engine.media import relink
from young_tremor.media import codecs
from young_tremor.model.project import Project, Shot, Size, Span, Variant
from young_tremor.model.shake import Hit, Shake
from young_tremor.model.shot_edits import from_preset, plate_of
from young_tremor.model.sound import Knocks, Layer, Mix, Rumble

ENDS = {name: each.suffixes[0] for name, each in codecs.CODECS.items()}
#: What a form becomes of 10 bits 4:2:2, and of 8 bits with alpha.
AS = {
    "h264": ("yuv422p10le", "yuv420p"),
    "h265": ("yuv422p10le", "yuv420p"),
    "av1": ("yuv420p10le", "yuv420p"),
    "prores": ("yuv422p10le", "yuv422p10le"),
    "prores4444": ("yuv444p12le", "yuva444p12le"),
    "dnxhr": ("yuv422p10le", "yuv422p10le"),
    "vp9": ("yuv420p", "yuv420p"),
    "ffv1": ("yuv422p10le", "yuva420p"),
}


def project_of(path: Path, *shots: Shot) -> Path:
    store.save(Project(shots), path)
    return path


def still(media: Path, name: str = "Press, wide", **more: object) -> Shot:
    return Shot(name, name, (plate_of(media),), Shake(), **more)  # type: ignore[arg-type]


def quiet(done: int, total: int) -> None:
    assert 0 <= done <= total


def read(path: Path) -> tuple[av.container.InputContainer, list[av.VideoFrame]]:
    file = av.open(str(path))
    return file, list(file.decode(video=0))


@pytest.fixture(scope="module")
def ten(tmp_path_factory: pytest.TempPathFactory) -> Path:
    """A master of 10 bits 4:2:2 with its timecode, BT.2020 and sound."""
    folder = tmp_path_factory.mktemp("ten")
    bare = clip(
        folder / "bare.mkv",
        frames=12,
        size=(320, 180),
        codec="ffv1",
        pix_fmt="yuv422p10le",
        tags=(9, 14, 9, 1),
        audio=True,
    )
    with av.open(str(bare)) as file, av.open(str(folder / "master.mov"), "w") as out:
        stream = out.add_stream("prores_ks", rate=24, options={"profile": "3"})
        stream.width, stream.height, stream.pix_fmt = 320, 180, "yuv422p10le"
        context = stream.codec_context
        context.color_primaries, context.color_trc, context.colorspace, context.color_range = 9, 14, 9, 1
        context.sample_aspect_ratio = Fraction(4, 3)
        stream.metadata["timecode"] = "10:20:30:05"
        out.metadata["creation_time"] = "2026-03-01T21:04:05.000000Z"
        stream.metadata["reel_name"] = "Q014"
        sound = out.add_stream("pcm_s24le", rate=48000, layout="stereo")
        sound.metadata["language"] = "ger"
        for frame in file.decode(video=0):
            out.mux(stream.encode(frame))
        out.mux(stream.encode(None))
        tone = av.AudioFrame.from_ndarray(
            (np.sin(np.arange(24000) / 17) * 2**28).astype(np.int32).repeat(2)[None], "s32", "stereo"
        )
        tone.sample_rate = 48000
        out.mux(sound.encode(tone))
        out.mux(sound.encode(None))
    return folder / "master.mov"


@pytest.mark.parametrize("form", list(AS))
def test_every_film_form_reads_back_as_what_went_in(form: str, ten: Path, tmp_path: Path) -> None:
    out = tmp_path / f"out{ENDS[form]}"
    shot = still(ten)
    actions.render(
        (shot,), out, quiet, codec_name=form, how=codecs.EncodingChoice(full_chroma=form in ("h264", "h265"))
    )
    file, pictures = read(out)
    with file:
        stream, context = file.streams.video[0], file.streams.video[0].codec_context
        assert len(pictures) == 12
        assert pictures[0].format.name == AS[form][0]
        assert stream.average_rate == 24
        assert (context.color_primaries, context.color_trc, context.colorspace, context.color_range) == (9, 14, 9, 1)
        shape = stream.sample_aspect_ratio or context.sample_aspect_ratio or Fraction(0)
        assert shape == Fraction(4, 3) or (form == "vp9" and abs(shape / Fraction(4, 3) - 1) < 0.002)  # whole pixels
        code = {**file.metadata, **stream.metadata, **{k: v for s in file.streams.data for k, v in s.metadata.items()}}
        assert {k.lower(): v for k, v in code.items()}.get("timecode") == "10:20:30:05"
        assert [each.metadata.get("language") for each in file.streams.audio] == ["ger"]
        assert {k.lower(): v for k, v in file.metadata.items()}.get("creation_time", "").startswith(
            "2026-03-01T21:04:05"
        )
        if out.suffix == ".mov":
            assert code["reel_name"] == "Q014"
    shift = AS[form][0].count("10") * 2 + AS[form][0].count("12") * 4
    for number, picture in enumerate(pictures):
        plane = picture.planes[0]
        luma = (
            np.frombuffer(plane, np.uint16 if shift else np.uint8).reshape(plane.height, -1)[:, : plane.width] >> shift
        )
        assert number_of(luma) == number
    truth = decoded(ten)[0].astype(float) / 4
    plane = pictures[0].planes[0]
    first = (
        np.frombuffer(plane, np.uint16 if shift else np.uint8).reshape(plane.height, -1)[:, : plane.width] / 2**shift
    )
    assert np.sqrt(np.mean((first - truth) ** 2)) < (0.01 if form == "ffv1" else 2.5)


@pytest.mark.parametrize("form", list(ENDS))
def test_alpha_stays_where_a_form_holds_it_and_is_said_where_not(form: str, tmp_path: Path) -> None:
    card = np.dstack([numbered(5, (160, 90)), np.full((90, 160), 255, np.uint8)])
    card[:, 80:, 3] = 0
    card[:, 60:80, 3] = 128
    cv2.imwrite(str(tmp_path / "card.png"), cv2.cvtColor(card, cv2.COLOR_RGBA2BGRA))
    shot = still(tmp_path / "card.png", end=0.125, rate="24", size=Size(320, 180))
    name = "out.####" if codecs.CODECS[form].pictures else "out"
    said = actions.render((shot,), tmp_path / f"{name}{ENDS[form]}", quiet, codec_name=form)
    made = sorted(tmp_path.glob("out*"))
    assert len(made) == (3 if codecs.CODECS[form].pictures else 1)
    if not codecs.CODECS[form].alpha:
        assert any("alpha" in words or "transparen" in words for words in said), said
        return
    if form == "tiff":
        alpha = tifffile.imread(made[0])[..., 3] / 65535
    elif form == "png":
        alpha = cv2.imread(str(made[0]), cv2.IMREAD_UNCHANGED)[..., 3] / 255
    else:
        with av.open(str(made[0])) as file:
            decoder = av.CodecContext.create("libvpx-vp9", "r") if form == "vp9" else None
            frames = [f for packet in file.demux(video=0) for f in (decoder or packet.stream).decode(packet)]
        shown = frames[0].to_ndarray(format="rgba64le" if form != "exr" else "gbrapf32le")
        alpha = shown[..., 3] / (65535 if form != "exr" else 1.0)
    assert abs(alpha[80, 60] - 1) < 0.01
    assert abs(alpha[80, 140] - 128 / 255) < 0.02
    assert abs(alpha[80, 240]) < 0.01


def test_pictures_hold_16_bits_and_float_keeps_what_is_above_white(tmp_path: Path) -> None:
    rng = np.random.default_rng(4)
    fine = rng.integers(0, 65536, (90, 160, 3), np.uint16)
    cv2.imwrite(str(tmp_path / "fine.png"), fine)
    for form, name in (("png", "a.####.png"), ("tiff", "a.####.tif")):
        actions.render((still(tmp_path / "fine.png", end=0.04, rate="25"),), tmp_path / name, quiet, codec_name=form)
    np.testing.assert_array_equal(cv2.imread(str(tmp_path / "a.0001.png"), cv2.IMREAD_UNCHANGED), fine)
    np.testing.assert_array_equal(tifffile.imread(tmp_path / "a.0001.tif"), fine[..., ::-1])
    bright = rng.normal(1.0, 2.0, (90, 160, 3)).astype(np.float16).astype(np.float32)
    tifffile.imwrite(tmp_path / "light.tif", bright, photometric="rgb")
    actions.render(
        (still(tmp_path / "light.tif", end=0.04, rate="25"),), tmp_path / "b.####.exr", quiet, codec_name="exr"
    )
    with av.open(str(tmp_path / "b.0001.exr")) as file:
        picture = next(file.decode(video=0))
    dtype = np.float32 if "f32" in picture.format.name else np.float16
    green, blue, red = (np.frombuffer(p, dtype).reshape(p.height, -1)[:, : p.width] for p in picture.planes[:3])
    np.testing.assert_allclose(np.dstack([red, green, blue]).astype(float), bright, atol=2e-3)


@pytest.fixture(scope="module")
def moving(tmp_path_factory: pytest.TempPathFactory) -> Path:
    """A project of one shot that walks, under a preset."""
    folder = tmp_path_factory.mktemp("moving")
    media = clip(folder / "wide.mp4", frames=16, size=(320, 180), audio=True)
    shot = replace(still(media), shake=from_preset(preset_library.preset("walking")))
    return project_of(folder / "press.tremor", shot)


@pytest.mark.parametrize("form", ["h264", "exr"])
def test_a_cluster_that_loses_a_worker_gives_the_bytes_of_one_machine(
    moving: Path, tmp_path: Path, monkeypatch: pytest.MonkeyPatch, form: str
) -> None:
    from distributed import LocalCluster

    monkeypatch.setattr(cluster, "FRAMES", (2, 3))
    whole, shared = tmp_path / "whole", tmp_path / "shared"
    files = api.deliver(api.open(moving), whole, form=form)
    done: list[int] = []
    with LocalCluster(n_workers=2, threads_per_worker=1, processes=True, dashboard_address=None) as workers:

        def report(name: str, ready: int, total: int) -> None:
            if not done:
                os.kill(next(iter(workers.workers.values())).pid, signal.SIGKILL)
            done.append(ready)

        shared_files = api.deliver(
            api.open(moving), shared, form=form, cluster=workers.scheduler_address, report=report
        )
    assert done[-1] == 16
    assert [path.name for path in shared_files] == [path.name for path in files]
    assert sorted(path.name for path in shared.iterdir()) == sorted(path.name for path in whole.iterdir())
    for path in whole.iterdir():
        assert (shared / path.name).read_bytes() == path.read_bytes(), _difference(path, shared / path.name)


def test_a_film_does_not_depend_on_what_memory_held_before(moving: Path, tmp_path: Path) -> None:
    films = []
    for filled in ("0", "1", "170"):
        folder = tmp_path / filled
        command = [sys.executable, "-m", "young_tremor", "deliver", moving, "--form", "h264", "--to", folder]
        subprocess.run(command, check=True, capture_output=True, env=os.environ | {"MALLOC_PERTURB_": filled})
        (film,) = folder.iterdir()
        films.append(film)
    for film in films[1:]:
        assert film.read_bytes() == films[0].read_bytes(), _difference(films[0], film)


def _difference(path: Path, other: Path) -> str:
    """In which pictures two films differ, and by how much, and whether they were encoded by other options."""
    options = [re.findall(rb"options: [ -~]+", film.read_bytes())[:1] for film in (path, other)]
    pairs = zip(decoded(path), decoded(other), strict=False)
    off = [(number, int(np.abs(a.astype(int) - b).max())) for number, (a, b) in enumerate(pairs) if (a != b).any()]
    sizes = f"{path.stat().st_size} and {other.stat().st_size} bytes"
    return f"{path.name}: {sizes}; same options: {options[0] == options[1]}; planes that differ, and by: {off}"


def test_a_cluster_that_is_not_there_is_one_sentence(
    moving: Path, tmp_path: Path, monkeypatch: pytest.MonkeyPatch, capsys
) -> None:  # type: ignore[no-untyped-def]
    monkeypatch.setattr(cluster, "PATIENCE", 1)
    call = ("deliver", moving, "--to", tmp_path / "out", "--cluster")
    for address in ("tcp://127.0.0.1:1", "nowhere"):
        code, _, err = run(capsys, *call, address)
        assert code == 2
        assert address in err
    monkeypatch.setattr(cluster, "distributed", lazily("no_such_library"))
    code, _, err = run(capsys, *call, "local")
    assert code == 2
    assert "pip install" in err
    assert not list((tmp_path / "out").glob("*"))


@pytest.mark.parametrize(("workers", "threads"), [(1, 4)])
def test_parts_rendered_by_several_workers_are_the_bytes_of_one_run(
    moving: Path, tmp_path: Path, capsys, workers: int, threads: int
) -> None:  # type: ignore[no-untyped-def]
    from distributed import Client, LocalCluster

    whole, shared = tmp_path / "whole", tmp_path / "shared"
    assert run(capsys, "deliver", moving, "--form", "exr", "--to", whole)[0] == 0
    names = sorted(path.name for path in whole.iterdir())
    assert names[0] == "press.0001.exr"
    assert len(names) == 16
    shared.mkdir()
    calls = [
        ("deliver", str(moving), "--form", "exr", "--to", str(shared), "--frames", f"{a}-{a + 3}")
        for a in (13, 1, 9, 5)
    ]
    with (
        LocalCluster(n_workers=workers, threads_per_worker=threads, processes=True, dashboard_address=None) as cluster,
        Client(cluster) as client,
    ):
        assert client.gather(client.map(_work, calls)) == [0, 0, 0, 0]
    assert sorted(path.name for path in shared.iterdir()) == names
    for name in names:
        assert (shared / name).read_bytes() == (whole / name).read_bytes()
    (shared / names[5]).unlink()
    kept = (shared / names[4]).stat().st_mtime_ns
    assert run(capsys, "deliver", moving, "--form", "exr", "--to", shared, "--frames", "1-16")[0] == 0
    assert (shared / names[5]).read_bytes() == (whole / names[5]).read_bytes()
    assert (shared / names[4]).stat().st_mtime_ns == kept
    assert run(capsys, "deliver", moving, "--form", "exr", "--to", shared)[0] == 2
    assert run(capsys, "deliver", moving, "--form", "h264", "--to", shared, "--frames", "1-4")[0] == 2
    assert run(capsys, "deliver", moving, "--form", "exr", "--to", shared, "--frames", "4-1")[0] == 2


def _work(call: tuple[str, ...]) -> int:
    from young_tremor.cli.main import main

    return main(call)


def test_names_handles_variants_clean_and_what_goes_beside(tmp_path: Path, footage: Path, capsys) -> None:  # type: ignore[no-untyped-def]
    walk = from_preset(preset_library.preset("walking"))
    first = replace(
        still(footage, "Press, wide", start=0.5, end=1.0),
        shake=walk,
        others=(Variant("B", Shake()),),
        hits=(Hit("h", 0.1),),
    )
    second = replace(still(footage, "Night/proof", start=0.0, end=0.5), shake=walk)
    project = project_of(tmp_path / "scene.tremor", first, second)
    out = tmp_path / "films"
    code, said, err = run(
        capsys,
        "deliver",
        project,
        "--each",
        "--variants",
        "--handles",
        "6",
        "--clean",
        "--form",
        "ffv1",
        "--to",
        out,
        "--pattern",
        "{project}_{number}_{shot}_{variant}",
        "--json",
        "--motion",
        "--maps",
    )
    assert code == 0, err
    rows = [json.loads(line) for line in said.splitlines()]
    assert {"frame", "frames", "fps", "left", "delivery"} <= rows[0].keys()
    films = sorted(path.name for path in out.glob("*.mkv"))
    assert films == [
        "scene_01_Press, wide_A clean.mkv",
        "scene_01_Press, wide_A.mkv",
        "scene_01_Press, wide_B clean.mkv",
        "scene_01_Press, wide_B.mkv",
        "scene_02_Night proof_A clean.mkv",
        "scene_02_Night proof_A.mkv",
    ]
    assert [row["done"] for row in rows if "done" in row] == [str(out / name) for name in _order(films)]
    luma = decoded(out / "scene_01_Press, wide_A clean.mkv")[::3]
    truth = decoded(footage)[::3]
    assert len(luma) == 12 + 12
    for got, want in zip(luma, truth[6:30], strict=True):
        np.testing.assert_array_equal(got, want)
    assert len(decoded(out / "scene_02_Night proof_A clean.mkv")) // 3 == 12 + 6  # nothing lies before its beginning
    assert len((out / "scene_01_Press, wide_A motion.csv").read_text().splitlines()) > 24
    assert len(list(out.glob("scene_01_Press, wide_A st.*.exr"))) == 24
    plain = decoded(out / "scene_01_Press, wide_B.mkv")[::3]
    assert number_of(plain[3]) == 9


def _order(films: list[str]) -> list[str]:
    """As they are written: each film before its clean one."""
    return sorted(films, key=lambda name: (name.replace(" clean", ""), "clean" in name))


def test_all_is_checked_before_the_first_frame(tmp_path: Path, footage: Path, monkeypatch, capsys) -> None:  # type: ignore[no-untyped-def]
    twins = still(footage, "Press"), replace(still(footage, "Press"), id="two")
    project = project_of(tmp_path / "scene.tremor", *twins)
    out = tmp_path / "films"

    def refused(*args: object) -> str:
        code, _, err = run(capsys, "deliver", project, "--to", out, *args)
        assert code == 2
        assert not list(out.glob("*")) or list(out.glob("*")) == [taken]
        return err

    taken = out / "none"
    assert "{number}" in refused("--each", "--pattern", "{shot}")
    assert "no pattern" in refused("--each", "--pattern", "{oak}")
    assert "no pattern" in refused("--each", "--pattern", "{shot.__class__}")
    assert "--each" in refused("--timeline", tmp_path / "a.otio")
    assert "end it in" in refused("--timeline", tmp_path / "a.xml", "--each")
    assert "one shot" in refused("--motion")
    assert "H.264" in refused("--form", "h265", "--everywhere")
    assert "one quality" in refused("--form", "prores", "--quality", "5")
    assert "hardware" in refused("--hardware")
    taken = out / "02 Press clean.mp4"
    taken.write_text("somebody's")
    assert "02 Press clean.mp4 exists" in refused("--each", "--clean")
    assert taken.read_text() == "somebody's"
    assert [path.name for path in out.iterdir()] == [taken.name]
    full = type("Usage", (), {"free": 1000})
    monkeypatch.setattr(delivery_plan.shutil, "disk_usage", lambda folder: full)
    assert "no room" in refused("--form", "exr")
    assert "“Oak”" in run(capsys, "deliver", project, "--to", out, "--shot", "Oak")[2]


def test_quality_and_speed_are_steps_and_everywhere_is_plain(ten: Path, tmp_path: Path) -> None:
    sizes, off = [], []
    truth = decoded(ten)[0].astype(float) / 4
    for quality in (1, 3, 5):
        out = tmp_path / f"q{quality}.mp4"
        actions.render((still(ten),), out, quiet, how=codecs.EncodingChoice(quality=quality, speed=3))
        sizes.append(out.stat().st_size)
        off.append(float(np.abs(decoded(out)[0] / 4 - truth).mean()))
    assert sizes == sorted(sizes)
    assert off == sorted(off, reverse=True)
    assert codecs.steps_of("h264", codecs.EncodingChoice(5, 1)) == "CRF 9, preset slow"
    assert codecs.steps_of("prores") == ""
    said = actions.render((still(ten),), tmp_path / "plain.mp4", quiet, how=codecs.EncodingChoice(everywhere=True))
    with av.open(str(tmp_path / "plain.mp4")) as file:
        assert file.streams.video[0].codec_context.pix_fmt == "yuv420p"
    assert any("8 bit" in words for words in said)
    assert any("4:2:0" in words for words in said)
    with pytest.raises(TremorError, match="1 to 5"):
        codecs.codec("h264", codecs.EncodingChoice(quality=6))
    assert codecs.with_hardware() == tuple(
        name for name, form in codecs.CODECS.items() if any(codecs.works(e) for e, _ in form.hardware)
    )


def test_a_gathered_project_takes_its_sounds_along_and_finds_them_again(tmp_path: Path, footage: Path) -> None:
    sound = clip(tmp_path / "far.mp4", frames=6, audio=True)
    rows = (Layer(id="l", path=str(sound)), Knocks(id="k", path=str(sound)), Rumble(id="r"))
    span = Span("s", "Quake", 0.0, 1.0, sounds=(Layer(id="m", path=str(tmp_path / "gone.wav")),))
    project = Project((replace(still(footage), sound=Mix(rows=rows)),), spans=(span,))
    assert [(each.path, each.shots) for each in relink.missing(project)] == [(str(tmp_path / "gone.wav"), ("Quake",))]
    made = relink.gather(project, tmp_path / "away", "scene", quiet).path
    sound.unlink()
    again = store.load(made)
    paths = {row.path for row in again.shots[0].sound.rows if not isinstance(row, Rumble)}
    assert paths == {str(tmp_path / "away" / "footage" / "far.mp4")}
    (tmp_path / "away" / "footage" / "far.mp4").rename(tmp_path / "away" / "far.mp4")
    found = relink.look(relink.missing(again), tmp_path / "away", quiet)
    back = relink.relink(found)(again)
    assert {row.path for row in back.shots[0].sound.rows if not isinstance(row, Rumble)} == {
        str(tmp_path / "away" / "far.mp4")
    }
