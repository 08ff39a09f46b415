"""Timelines of others, made by their own library, opened as reels and written again."""

from __future__ import annotations

import json
import re
import sys
from fractions import Fraction
from pathlib import Path
from urllib.parse import unquote, urlsplit

import av
import opentimelineio as otio
import pytest
from msgspec.structs import replace

from clips import clip, number_of
from test_cli import run
from young_tremor.base import sandbox
from young_tremor.base.errors import TremorError
from young_tremor.document import store
from young_tremor.engine.analysis import reel_layout
from young_tremor.engine.delivery import timelines
from young_tremor.engine.library import preset_library, takes
from young_tremor.exchange import timeline
from young_tremor.model.shake import Shake


def external(
    path: Path | str, start: float, frames: float, rate: float, *, first: float = 0.0, name: str = ""
) -> otio.schema.Clip:
    when = otio.opentime.RationalTime
    media = otio.schema.ExternalReference(
        Path(path).absolute().as_uri(), otio.opentime.TimeRange(when(first, rate), when(48, rate))
    )
    made = otio.schema.Clip(name or Path(path).stem, media)
    made.source_range = otio.opentime.TimeRange(when(first + start, rate), when(frames, rate))
    return made


def cut(items: list, rate: float = 24.0) -> otio.schema.Timeline:
    made = otio.schema.Timeline("cut")
    made.tracks.append(otio.schema.Track("V1", items, kind=otio.schema.TrackKind.Video))
    return made


def written(made: otio.schema.Timeline, path: Path) -> Path:
    otio.adapters.write_to_file(made, str(path))
    return path


def test_an_awkward_timeline_opens_and_says_what_is_not_kept(tmp_path: Path, footage: Path) -> None:
    rate = 24000 / 1001
    when = otio.opentime.RationalTime
    first = external(footage, 6, 24, rate, first=86400, name="Press, wide")
    first.markers.append(otio.schema.Marker("bang", otio.opentime.TimeRange(when(86400 + 18, rate), when(0, rate))))
    quick = external(footage, 0, 12, rate, name="Quick")
    quick.effects.append(otio.schema.LinearTimeWarp(time_scalar=2.0))
    lost = external(tmp_path / "gone.mov", 0, 12, rate, name="Gone")
    inner = otio.schema.Stack(
        "nest",
        [
            otio.schema.Track(
                "V1",
                [
                    external(footage, 0, 10, rate, name="In a"),
                    external(footage, 20, 10, rate, name="In b"),
                ],
                kind="Video",
            )
        ],
    )
    inner.source_range = otio.opentime.TimeRange(when(4, rate), when(12, rate))
    gap = otio.schema.Gap(source_range=otio.opentime.TimeRange(when(0, rate), when(24, rate)))
    moved = otio.schema.Transition("SMPTE_Dissolve", "SMPTE_Dissolve", when(2, rate), when(2, rate))
    made = cut([first, gap, quick, moved, lost, inner], rate)
    over = external(footage, 2, 6, rate, name="Over")
    made.tracks.append(
        otio.schema.Track(
            "V2",
            [otio.schema.Gap(source_range=otio.opentime.TimeRange(when(0, rate), when(18, rate))), over],
            kind="Video",
        )
    )
    made.tracks.append(otio.schema.Track("A1", [external(footage, 0, 48, rate)], kind="Audio"))
    project, notes = timelines.open_timeline(written(made, tmp_path / "cut.otio"), preset_library.preset("walking"))
    names = [shot.name for shot in project.shots]
    assert names == ["Press, wide", "Over", "Quick", "Gone", "In a", "In b"]
    frames = [round(((shot.end or 0) - shot.start) * rate) for shot in project.shots]
    assert frames == [18, 6, 12, 12, 6, 6]
    assert [round(shot.start * rate) for shot in project.shots] == [6, 2, 0, 0, 4, 20]
    assert project.rate == "24000/1001"
    said = "; ".join(notes)
    for words in ("2 tracks were flattened", "1 gaps", "1 transitions", "1 changes of speed", "1 nested", "gone.mov"):
        assert words in said
    seeds = [shot.shake.strands[0].seed for shot in project.shots]
    assert len(set(seeds)) == len(seeds)
    whole = timelines.open_timeline(
        written(cut([first.deepcopy()], rate), tmp_path / "one.otio"), preset_library.preset("walking")
    )[0].shots[0]
    assert [round(hit.t * rate) for hit in whole.hits] == [12]


def test_edl_in_drop_frame_time_and_of_another_rate(tmp_path: Path) -> None:
    media = clip(tmp_path / "press.mov", frames=60, rate=Fraction(30000, 1001))
    edl = tmp_path / "cut.edl"
    edl.write_text(
        "TITLE: QUILLMARK\nFCM: DROP FRAME\n\n"
        "001  AX       V     C        00:00:00;10 00:00:01;10 01:00:00;00 01:00:01;00\n"
        f"* FROM CLIP NAME: press\n* FROM CLIP: {media}\n\n"
        "002  AX       V     C        00:00:00;00 00:00:00;20 01:00:01;00 01:00:01;20\n* FROM CLIP NAME: away\n"
    )
    found = timeline.read(edl, fps=Fraction(30000, 1001))
    assert [(each.name, round(each.start * 29.97), round(each.seconds * 29.97)) for each in found.cuts] == [
        ("press", 10, 30),
        ("away", 0, 20),
    ]
    project, notes = timelines.open_timeline(edl, preset_library.preset("walking"), fps=Fraction(30000, 1001))
    assert project.rate == "30000/1001"
    assert project.shots[0].footage.media.path == str(media)
    assert any("missing" in note for note in notes)


@pytest.mark.parametrize(
    ("name", "text"),
    [
        ("a.otio", ""),
        ("a.otio", "{}"),
        ("a.otio", '{"OTIO_SCHEMA": "Clip.2"}'),
        ("a.otio", "\x00\x01oak"),
        ("a.edl", "001 oak"),
        ("a.otioz", "oak"),
        ("a.otio", '{"OTIO_SCHEMA": "Timeline.1"'),
    ],
)
def test_a_broken_timeline_is_refused(name: str, text: str, tmp_path: Path, capsys) -> None:  # type: ignore[no-untyped-def]
    (tmp_path / name).write_text(text)
    code, _, err = run(capsys, "reel", tmp_path / name, "-o", tmp_path / "o.tremor")
    assert code in (1, 2)
    assert name in err
    assert not (tmp_path / "o.tremor").exists()


@pytest.mark.parametrize("ending", ["otio", "edl"])
def test_a_cut_goes_in_is_shaken_delivered_with_handles_and_opens_again(
    ending: str, tmp_path: Path, footage: Path, capsys
) -> None:  # type: ignore[no-untyped-def]
    other = clip(tmp_path / "close.mp4", frames=40, size=(320, 180))
    made = cut([external(footage, 10, 20, 24), external(other, 0, 12, 24), external(footage, 30, 10, 24)])
    written(made, tmp_path / "in.otio")
    project = tmp_path / "scene.tremor"
    assert run(capsys, "reel", tmp_path / "in.otio", "-o", project, "--preset", "walking")[0] == 0
    out = tmp_path / f"out.{ending}"
    code, _, err = run(
        capsys,
        "deliver",
        project,
        "--each",
        "--handles",
        "6",
        "--form",
        "dnxhr",
        "--to",
        tmp_path / "films",
        "--timeline",
        out,
    )
    assert code == 0, err
    options = {"adapter_name": "cmx_3600", "rate": 24} if ending == "edl" else {}
    back = otio.adapters.read_from_file(str(out), **options)
    clips = list(back.find_clips())
    assert len(clips) == 3
    lengths = [(16 + 10, 6), (12 + 6, 0), (10 + 12 - 4, 6)]
    for each, source, (_, before) in zip(clips, made.find_clips(), lengths, strict=True):
        assert each.duration() == source.duration()
        path = Path(each.media_reference.target_url.removeprefix("file://").replace("%20", " "))
        assert path.is_file()
        with av.open(str(path)) as film:
            count = sum(1 for _ in film.decode(video=0))
        start = each.source_range.start_time.value - (
            each.media_reference.available_range.start_time.value if each.media_reference.available_range else 0
        )
        assert start == before
        assert count >= start + each.duration().value
    again, notes = timelines.open_timeline(out, preset_library.preset("walking"), fps=Fraction(24))
    assert not notes
    assert [round(((shot.end or 0) - shot.start) * 24) for shot in again.shots] == [20, 12, 10]
    assert run(capsys, "deliver", project, "--each", "--to", tmp_path / "more", "--timeline", out)[0] == 2
    assert not list((tmp_path / "more").glob("*")) if (tmp_path / "more").exists() else True


def frame_at(timecode: str, base: int) -> int:
    """A frame's number by SMPTE ST 12-1, from its timecode: the sum of its parts, less what drop-frame leaves out."""
    hours, minutes, seconds, frames = (int(part) for part in timecode.replace(";", ":").split(":"))
    number = ((hours * 60 + minutes) * 60 + seconds) * base + frames
    whole = hours * 60 + minutes
    return number - base // 15 * (whole - whole // 10) if ";" in timecode else number


def film_at(films: Path, timecode: str, base: int) -> tuple[list[int], int, str]:
    """The pictures (their numbers) of the film that shows a timecode, and how many of them come before it."""
    for path in sorted(films.iterdir()):
        with av.open(str(path)) as film:
            own = {**film.metadata, **film.streams.video[0].metadata}.get("timecode", "00:00:00:00")
            before = frame_at(timecode, base) - frame_at(own, base)
            if 0 <= before < film.streams.video[0].frames:
                numbers = [number_of(picture.to_ndarray(format="gray")) for picture in film.decode(video=0)]
                return numbers, before, own
    raise AssertionError(f"no film shows {timecode}")


@pytest.mark.parametrize(
    ("begins", "rate", "drop"),
    [
        ("00:00:59:22", Fraction(30000, 1001), False),
        ("00:00:59;22", Fraction(30000, 1001), True),
        ("10:00:00:00", Fraction(25), False),
    ],
)
@pytest.mark.parametrize("ending", ["edl", "otio"])
def test_a_written_cut_conforms_by_timecode_alone(
    begins: str, rate: Fraction, drop: bool, ending: str, tmp_path: Path, capsys
) -> None:  # type: ignore[no-untyped-def]
    base, media = round(rate), clip(tmp_path / "Tür & Press.mov", frames=90, rate=rate, timecode=begins)
    first = frame_at(begins, base)
    source = cut([external(media, start, count, float(rate), first=first) for start, count in ((30, 20), (4, 12))])
    for piece in source.find_clips():
        piece.media_reference.available_range = otio.opentime.TimeRange(
            otio.opentime.RationalTime(first, float(rate)), otio.opentime.RationalTime(90, float(rate))
        )
    project, _ = timelines.open_timeline(written(source, tmp_path / "in.otio"), preset_library.preset("walking"))
    still = replace(project, shots=tuple(replace(shot, shake=Shake()) for shot in project.shots))
    store.save(still, tmp_path / "scene.tremor")
    code, _, err = run(
        capsys,
        "deliver",
        tmp_path / "scene.tremor",
        "--each",
        "--handles",
        "8",
        "--form",
        "prores",
        "--to",
        tmp_path / "films",
        "--timeline",
        tmp_path / f"out.{ending}",
    )
    assert code == 0, err
    expected = [list(range(30, 50)), list(range(4, 16))]
    shown, at = [], frame_at("01:00:00;00" if drop else "01:00:00:00", base)
    text = (tmp_path / f"out.{ending}").read_text()
    if ending == "edl":
        assert ("FCM: DROP FRAME" in text) is drop
        assert all(line.isascii() for line in text.splitlines() if not line.startswith("* FROM CLIP:"))
        for line in text.splitlines():
            if not re.match(r"\d{3} ", line):
                continue
            _, name, track, kind, *columns = line.split()
            assert re.fullmatch(r"[A-Z0-9]{1,8}", name)
            assert (track, kind) == ("V", "C")
            assert all((";" in column) is drop for column in columns)
            begin, end, record, until = (frame_at(column, base) for column in columns)
            assert (record, until - record) == (at, end - begin)
            at = until
            numbers, before, _ = film_at(tmp_path / "films", columns[0], base)
            shown.append(numbers[before : before + end - begin])
    else:
        timeline_ = json.loads(text)
        assert timeline_["global_start_time"]["value"] == at
        for piece in timeline_["tracks"]["children"][0]["children"]:
            reference = next(iter(piece["media_references"].values()))
            film = Path(unquote(urlsplit(reference["target_url"]).path))
            with av.open(str(film)) as opened_:
                numbers = [number_of(picture.to_ndarray(format="gray")) for picture in opened_.decode(video=0)]
                own = {**opened_.metadata, **opened_.streams.video[0].metadata}["timecode"]
            available, used = reference["available_range"], piece["source_range"]
            assert available["start_time"]["value"] == frame_at(own, base)
            assert available["duration"]["value"] == len(numbers)
            before = round(used["start_time"]["value"] - available["start_time"]["value"])
            shown.append(numbers[before : before + round(used["duration"]["value"])])
    assert shown == expected
    again, notes = timelines.open_timeline(tmp_path / f"out.{ending}", preset_library.preset("walking"), fps=rate)
    assert not notes
    assert [round(shot.start * rate) for shot in again.shots] == [8, 4]


def test_ten_thousand_clips_and_an_absent_library(tmp_path: Path, monkeypatch) -> None:  # type: ignore[no-untyped-def]
    made = cut([external(f"/nowhere/{k % 50}.mov", 0, 24, 24.0, name=f"c{k}") for k in range(10_000)])
    path = written(made, tmp_path / "long.otio")
    assert len(timeline.read(path).cuts) == 10_000
    project, notes = timelines.open_timeline(path, preset_library.preset("walking"))
    assert len(project.shots) == 2000
    assert any("10000 clips" in note for note in notes)
    assert reel_layout.rate_of(project) == 24
    monkeypatch.setenv(sandbox.INSIDE, "1")  # in this process, where the library is taken away
    monkeypatch.setitem(sys.modules, "pxr", None)
    (tmp_path / "c.usda").write_text("#usda 1.0\n")
    with pytest.raises(TremorError, match="usd"):
        takes.read(tmp_path / "c.usda")
