"""The reel: shots cut and carried, spans through the cuts, films of mixed shots, footage lost and found."""

from __future__ import annotations

import shutil
from pathlib import Path

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from msgspec.structs import replace

from clips import clip
from pictures import SyntheticSource, flat
from test_render import at, drift, shot
from young_tremor.base.errors import RequestError
from young_tremor.cli.main import main
from young_tremor.document import store
from young_tremor.engine.analysis import reel_layout
from young_tremor.engine.delivery import batch
from young_tremor.engine.library import preset_library
from young_tremor.engine.media import relink
from young_tremor.media import sources
from young_tremor.model import reel_edits, shot_edits
from young_tremor.model.curve import Curve, Key
from young_tremor.model.project import Media, Plate, Project, Shot, Shutter, Size, Span
from young_tremor.model.shake import Drift, Hit, Plotted, Shake
from young_tremor.motion import sample
from young_tremor.render import motion_layers
from young_tremor.render.frame import render
from young_tremor.render.resolve_plan import resolve

SIZE = (320, 180)


def made(name: str, start: float = 0.0, end: float = 2.0, shake: Shake = Shake()) -> Shot:
    plate = Plate(f"{name}-p", "p", Media(kind="fill", colour="#808080"))
    return Shot(name, name, (plate,), shake, start=start, end=end, size=Size(*SIZE), rate="24")


@settings(deadline=None, max_examples=15)
@given(cut=st.floats(0.3, 1.6), pace=st.floats(0.3, 2.0), keyed=st.booleans())
def test_a_shot_that_is_split_or_trimmed_moves_as_it_did(cut: float, pace: float, keyed: bool) -> None:
    shake = replace(drift(2.0, x=2, roll=1), pace=Curve(pace))
    if keyed:
        shake = replace(shake, intensity=Curve(1.0, (Key(0.2, 0.5), Key(1.5, 1.2))))
    whole = replace(made("a", shake=shake), hits=(Hit("h", 0.1), Hit("i", 1.7)))
    cut = round(cut, 3)
    first, second = reel_edits.split("a", cut, "b")(Project((whole,))).shots
    assert (first.end, second.start, second.end) == (cut, cut, 2.0)
    assert [hit.id for hit in first.hits] == ["h"]
    assert [round(hit.t, 6) for hit in second.hits] == [round(1.7 - cut, 6)]
    t = np.linspace(0, 2.0 - cut, 50)
    moved = sample.sample(whole.shake, t + cut, hits=whole.hits)
    np.testing.assert_allclose(sample.sample(second.shake, t, hits=second.hits), moved, atol=2e-6)
    trimmed = reel_edits.trim("a", start=cut)(Project((whole,))).shots[0]
    np.testing.assert_allclose(sample.sample(trimmed.shake, t), sample.sample(second.shake, t), atol=1e-9)
    back = reel_edits.trim("a", start=0.0)(Project((trimmed,))).shots[0]
    np.testing.assert_allclose(sample.sample(back.shake, t), sample.sample(whole.shake, t), atol=2e-6)


@pytest.mark.parametrize("by", [-0.2, 0.28, 0.721])
@pytest.mark.parametrize("pace", [Curve(1.0), Curve(1.0, (Key(0.2, 0.5), Key(1.5, 2.0)))])
def test_every_preset_moves_the_pictures_as_before_wherever_the_shot_begins(by: float, pace: Curve) -> None:
    t, hits = np.linspace(0.73, 2.0, 80), (Hit("h", 0.8), Hit("i", 1.3))
    for preset in preset_library.factory():
        strands = shot_edits.holding(preset.shake.strands, 2.0)
        keyed = tuple(
            replace(strand, ease_in=1.2, rate=Curve(1.0, (Key(0.5, strand.rate.value), Key(1.5, 0.5))))
            if isinstance(strand, Drift)
            else strand
            for strand in strands
        )
        for moving in (strands, keyed):
            shake = replace(preset.shake, strands=moving, pace=pace)
            shot = replace(made("a", start=1.0, end=3.0, shake=shake), hits=hits)
            other = reel_edits.trim("a", start=1.0 + by)(Project((shot,))).shots[0]
            np.testing.assert_allclose(
                sample.sample(other.shake, t - by, hits=other.hits),
                sample.sample(shake, t, hits=hits),
                atol=1e-5,
                err_msg=preset.name,
            )


def test_a_span_runs_on_through_the_cuts_and_counts_in_every_shot() -> None:
    span = Span("s", "quake", 1.0, 5.0, 0.5, 0.5, drift(3.0, x=3, roll=1))
    project = Project((made("a"), made("b"), made("c")), spans=(span,))
    places = reel_layout.place_shots(project)
    assert [(each.first, each.frames) for each in places] == [(0, 48), (48, 48), (96, 48)]
    step, ways = 1 / 480, []
    for place in places:
        t = np.arange(0, 2.0, step)
        ways.append(motion_layers.channels(reel_layout.under_spans(project, place), place.shot.footage, t))
    way = np.concatenate(ways)
    jumps = np.abs(np.diff(way[:, 0]))
    assert jumps.max() < 1.5 * np.quantile(jumps, 0.999)  # no jump at a cut
    truth = sample.sample(span.shake, np.arange(0, 6.0, step))
    np.testing.assert_allclose(way[1000:2000], truth[1000:2000], atol=1e-5)
    assert not way[:470].any()
    assert not way[-470:].any()
    cropped = [resolve(reel_layout.viewed_shot(project, name), _info()).crop for name in "abc"]
    assert cropped[1] > 1.02
    assert resolve(made("b"), _info()).crop == 1.0
    seen = reel_layout.viewed_shot(project, "b")
    white = SyntheticSource(flat(SIZE, (235, 128, 128)), 96)
    plan = resolve(replace(seen, plates=(Plate("p", "p", Media("w")),)), white.info)
    assert all((render(plan, k, white).planes[0] == 235).all() for k in range(0, 48, 9))
    gone = reel_edits.set_span("s", on=False)(project)
    assert not reel_layout.viewed_shot(gone, "b").over
    later = reel_edits.move_span("s", 1.0)(project).spans[0]
    t = np.linspace(2.5, 4.5, 40)
    np.testing.assert_allclose(sample.sample(later.shake, t + 1.0), sample.sample(span.shake, t), atol=2e-6)


def _info():  # type: ignore[no-untyped-def]
    return SyntheticSource(flat(SIZE, (100, 128, 128)), 96).info


def test_a_shake_is_pasted_by_the_meaning_of_its_numbers_in_another_course_for_each() -> None:
    source = replace(shot(drift(2.0, x=2), focal_mm=85.0, shutter=Shutter(Curve(90.0))), id="s", hits=(Hit("h", 1.0),))
    project = Project((source, made("a"), made("b"), made("c")))
    pasted = reel_edits.paste(source, ["a", "b"], ["shake", "shutter", "hits"], apart=True)(project)
    a, b, c = pasted.shots[1:]
    assert c == project.shots[3]
    assert len({source.shake.strands[0].seed, a.shake.strands[0].seed, b.shake.strands[0].seed}) == 3
    assert a.shake.strands[0].channels == source.shake.strands[0].channels
    assert (a.frame.shutter.angle.value, a.frame.focal_mm) == (90.0, 50.0)  # the lens did not go along
    assert [hit.t for hit in a.hits] == [1.0]
    assert a.size == Size(*SIZE)
    same = reel_edits.paste(source, ["a", "b"], ["shake", "lens"], apart=False)(project)
    assert same.shots[1].shake.strands[0].seed == source.shake.strands[0].seed
    assert same.shots[1].frame.focal_mm == 85.0
    moved = reel_edits.move(["a", "c"], 1)(project)
    assert [each.id for each in moved.shots] == ["s", "a", "c", "b"]
    twice = reel_edits.duplicate("a", "a2")(project)
    assert [each.id for each in twice.shots] == ["s", "a", "a2", "b", "c"]


def test_mixed_shots_become_one_film_and_films_of_their_own(tmp_path: Path, capsys: pytest.CaptureFixture) -> None:
    clips = [
        clip(tmp_path / "wide.mp4", frames=24, size=(320, 180)),
        clip(tmp_path / "tall.mp4", frames=30, size=(180, 240), rate=30),
        clip(tmp_path / "small.mkv", frames=12, size=(160, 90), codec="ffv1"),
    ]
    project = tmp_path / "scene.tremor"
    assert main(["reel", *map(str, clips), "-o", str(project), "--preset", "standing"]) == 0
    assert "3 shots, 2.50 s at 24 frames/s" in capsys.readouterr().err
    loaded = store.load(project)
    assert len({each.shake.strands[0].seed for each in loaded.shots}) == 3
    out = tmp_path / "scene.mkv"
    assert main(["render", str(project), "-o", str(out), "--codec", "ffv1"]) == 0
    info = sources.facts(out).info
    assert (info.size, info.rate, info.frames) == ((320, 180), 24, 60)
    assert (
        main(
            [
                "render",
                str(project),
                "-o",
                str(tmp_path / "part.mkv"),
                "--codec",
                "ffv1",
                "--from",
                "0.5",
                "--to-time",
                "2.25",
                "--size",
                "160x90",
            ]
        )
        == 0
    )
    info = sources.facts(tmp_path / "part.mkv").info
    assert (info.size, info.frames) == ((160, 90), 42)
    whole, part = sources.open_source(out), sources.open_source(tmp_path / "part.mkv")
    assert abs(float(whole.read(30).planes[0].mean()) - float(part.read(18).planes[0].mean())) < 3
    assert main(["render", str(project), "--each", str(tmp_path / "each"), "--pattern", "{shot}-{number}"]) == 0
    assert sorted(path.name for path in (tmp_path / "each").iterdir()) == ["small-03.mp4", "tall-02.mp4", "wide-01.mp4"]
    assert sources.facts(tmp_path / "each" / "tall-02.mp4").info.size == (180, 240)
    for line in (["--each", "x", "-o", "y.mp4"], ["-o", str(tmp_path / "z.mp4"), "--from", "9"], []):
        assert main(["render", str(project), *line]) == 2


def test_several_inputs_hits_and_names_that_are_nearly_right(tmp_path: Path, capsys: pytest.CaptureFixture) -> None:
    a, b = clip(tmp_path / "a.mp4", frames=24), clip(tmp_path / "b.mp4", frames=24)
    into = tmp_path / "out"
    assert main(["shake", str(a), str(b), "--to", str(into), "--preset", "press", "--hits", "0.25,0.5@0.4"]) == 0
    assert sorted(path.name for path in into.iterdir()) == ["a.mp4", "b.mp4"]
    assert capsys.readouterr().out.count("cropped to") == 2
    for line, words in (
        (["--preset", "press", "-o", "x.mp4"], "answers to hits and there are none"),
        (["--preset", "w", "-o", "x.mp4"], "say more of it"),
        (["--preset", "Nervos title", "-o", "x.mp4"], "did you mean"),
        (["-o", "-"], "standard output"),
        (["-o", "x.mp4", "--to", "y"], "Say where the output goes"),
        (["--hits", "a@b", "-o", "x.mp4"], "no hit"),
    ):
        assert main(["shake", str(a), *line]) == 2
        assert words in capsys.readouterr().err
    made_ = batch.with_hits(replace(made("a"), shake=preset_library.preset("press").shake), "0.25,0.5@0.4", "p")
    assert [(hit.t, hit.strength) for hit in made_.hits] == [(0.25, 1.0), (0.5, 0.4)]


def test_lost_footage_is_found_by_its_contents_and_a_project_is_gathered(tmp_path: Path) -> None:
    home, other = tmp_path / "here", tmp_path / "there" / "deep"
    home.mkdir(), other.mkdir(parents=True)
    a, b, c = (clip(home / f"{name}.mp4", frames=12 + n) for n, name in enumerate("abc"))
    project = relink.add_fingerprints(batch.make_reel((a, b, c), preset_library.starting_preset()))
    assert not relink.missing(project)
    shutil.move(a, other / "renamed.mp4")
    shutil.move(b, other / "b.mp4")
    clip(other / "c.mp4", frames=40)
    c.unlink()
    lost = relink.missing(project)
    assert [Path(each.path).name for each in lost] == ["a.mp4", "b.mp4", "c.mp4"]
    found = relink.look(lost, tmp_path / "there", lambda done, total: None)
    assert [(Path(each.path).name, each.same) for each in found] == [
        ("renamed.mp4", True),
        ("b.mp4", True),
        ("c.mp4", False),
    ]
    assert relink.words_of(found, lost).startswith("2 found, the very same; 1 found by the name alone")
    again = relink.relink(found)(project)
    assert not relink.missing(again)
    target = relink.gather(again, tmp_path / "gathered", "scene", lambda done, total: None).path
    shutil.rmtree(tmp_path / "there")
    opened = store.load(target)
    assert not relink.missing(opened)
    assert Path(opened.shots[0].footage.media.path).parent == tmp_path / "gathered" / "footage"
    with pytest.raises(RequestError, match="not empty"):
        relink.gather(again, tmp_path / "gathered", "scene", lambda done, total: None)


def test_other_footage_under_a_finished_shot_is_said_and_hits_stay(tmp_path: Path) -> None:
    a, b = clip(tmp_path / "a.mp4", frames=48), clip(tmp_path / "b.mp4", frames=24, size=(160, 90))
    project = batch.make_reel((a,), preset_library.starting_preset())
    finished = replace(project.shots[0], end=1.8, hits=(Hit("h", 0.5),))
    edit, words = relink.replace_footage(finished, str(b))
    after = edit(Project((finished,))).shots[0]
    assert after.hits == finished.hits
    assert after.end is None
    assert "160x90 instead of" in words
    assert "1.00 s instead of 2.00 s" in words
    with pytest.raises(RequestError, match="begins at"):
        relink.replace_footage(replace(finished, start=1.5), str(b))


def test_footage_of_another_shape_is_seen_whole_or_pixel_for_pixel() -> None:
    white = SyntheticSource(flat((90, 90), (235, 128, 128)))
    for fit, wide in (("fill", 320), ("whole", 180), ("own", 90)):
        each = replace(shot(Shake((Plotted("p", x=at(0.0)),)), fit=fit), size=Size(*SIZE))
        plan = resolve(each, white.info)
        assert plan.crop == 1.0 or fit == "fill"
        row = render(plan, 0, white).planes[0][90]
        assert abs(int((row > 125).sum()) - wide) <= 1
