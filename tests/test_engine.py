"""The application without a window: stores, jobs, history, preview."""

from __future__ import annotations

import itertools
import threading
import time
from dataclasses import replace as change
from pathlib import Path

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from msgspec.structs import replace

from clips import clip, number_of
from young_tremor.base.errors import Cancelled, DecodeError, RequestError
from young_tremor.document import codec
from young_tremor.engine.document.session import Session
from young_tremor.engine.library import preset_library
from young_tremor.engine.media import footage, proxies
from young_tremor.engine.media.byte_cache import ByteCache
from young_tremor.engine.preview import effort
from young_tremor.engine.preview.effort import Effort
from young_tremor.engine.preview.preview_process import PreviewProcess
from young_tremor.engine.preview.preview_worker import PictureRequest, PreviewPicture, PreviewWorker
from young_tremor.engine.system.jobs import Job
from young_tremor.engine.system.priority import PriorityGate
from young_tremor.media import video_reader
from young_tremor.model import shot_edits
from young_tremor.model.curve import Curve
from young_tremor.model.project import Preset, Project
from young_tremor.model.shake import Shake, Shimmer
from young_tremor.render.frame import render_frame
from young_tremor.render.plan import Quality
from young_tremor.render.resolve_plan import resolve
from young_tremor.render.screen import to_rgb


@given(st.lists(st.tuples(st.integers(0, 9), st.integers(1, 60)), max_size=80))
def test_the_store_keeps_within_its_bytes_and_forgets_the_oldest(puts: list[tuple[int, int]]) -> None:
    cache: ByteCache[int, int] = ByteCache(100)
    order: list[int] = []
    sizes: dict[int, int] = {}
    held: set[int] = set()
    for key, size in puts:
        gone = cache.put(key, size, size)
        held = held - set(gone) | ({key} if size <= 100 else set())
        assert held == set(cache.held())
        order = [*(k for k in order if k != key), key]
        sizes[key] = size
        assert cache.nbytes <= 100
        kept = [k for k in order if k in cache]
        assert kept == order[len(order) - len(kept) :]
        assert cache.nbytes == sum(sizes[k] for k in kept)
        assert cache.get(key) == size


def test_a_job_ends_exactly_once_whatever_happens() -> None:
    def run(work) -> tuple[str, str, list[str]]:  # type: ignore[no-untyped-def]
        ends: list[str] = []
        job = Job("job", work)
        job.ended.connect(ends.append)
        job.start()
        assert job.wait(10)
        return job.state, job.error, ends

    def decode(report: object) -> None:
        raise DecodeError("press.mp4 is torn: choose another.")

    assert run(lambda report: report(1, 2)) == ("done", "", ["done"])
    assert run(decode) == ("failed", "press.mp4 is torn: choose another.", ["failed"])
    state, words, _ = run(lambda report: {}["no"])
    assert (state, "KeyError" in words) == ("failed", True)
    going = threading.Event()

    def endless(report) -> None:  # type: ignore[no-untyped-def]
        while True:
            report(1, 9)
            going.set()

    job = Job("job", endless).start()
    assert going.wait(10)
    job.cancel()
    assert job.wait(10)
    assert job.state == "cancelled"
    with pytest.raises(Cancelled):
        job._report(1, 2)


def test_history_gestures_and_dirt(tmp_path: Path) -> None:
    session = Session()
    seen: list[tuple[Project, Project]] = []
    session.changed.connect(lambda old, new: seen.append((old, new)))
    with pytest.raises(RequestError, match="no name yet"):
        session.save()
    session.apply("Open footage", shot_edits.add_shot(tmp_path / "a.mp4", preset_library.preset("walking")))
    shot = session.project.shots[0].id
    assert session.dirty
    session.save(tmp_path / "a.tremor")
    with session.gesture("Focal length"):
        for value in (35.0, 40.0, 85.0):
            session.apply("x", shot_edits.set_frame(shot, focal_mm=value))
    session.apply("Same", shot_edits.set_frame(shot, focal_mm=85.0))
    assert (session.undo_label, session.redo_label) == ("Focal length", None)
    assert session.undo() == "Focal length"
    assert not session.dirty
    assert session.project.shot(shot).frame.focal_mm == 50.0
    assert session.redo() == "Focal length"
    assert session.undo() == "Focal length"
    session.apply("Pace", shot_edits.set_shake(shot, pace=Curve(2.0)))
    assert session.redo() is None
    assert [session.undo(), session.undo(), session.undo()] == ["Pace", "Open footage", None]
    assert all(old is not new for old, new in seen[:2])


Previews = type[PreviewWorker] | type[PreviewProcess]


@pytest.mark.parametrize("kind", [PreviewWorker, PreviewProcess])
def test_the_preview_answers_the_newest_fills_ahead_and_survives_lost_footage(tmp_path: Path, kind: Previews) -> None:
    path = clip(tmp_path / "wall.mp4", frames=24)
    project = shot_edits.add_shot(path, preset_library.preset("walking"))(Project())
    shot = project.shots[0]
    preview = kind()
    answers: list[PreviewPicture] = []
    words: list[str] = []
    filled, failed = threading.Event(), threading.Event()
    preview.picture.connect(answers.append)
    preview.failed.connect(lambda shot, text: (words.append(text), failed.set()))
    requests = [PictureRequest(shot, (160, 90), "shaken", index) for index in (3, 9, 17)]
    preview.filled.connect(lambda: filled.set() if preview.ready(requests[-1]).all() else None)
    for request in requests:
        preview.ask(request)
    assert filled.wait(20)
    assert answers[-1].index == 17
    assert answers[-1].rgb.shape == (90, 160, 3)
    ready = preview.look(requests[-1], 5)
    assert ready is not None
    assert ready.rgb.std() > 5
    assert preview.look(PictureRequest(shot, (162, 92), "shaken", 0), 5) is None
    gone = shot_edits.add_shot(tmp_path / "lost.mp4")(Project()).shots[0]
    preview.ask(PictureRequest(gone, (160, 90), "shaken", 0))
    assert failed.wait(20)
    assert "lost.mp4 is not there" in words[0]
    other: list[PreviewPicture] = []
    again = threading.Event()
    preview.picture.connect(lambda picture: (other.append(picture), again.set()))
    preview.ask(PictureRequest(shot, (160, 90), "still", 5))
    assert again.wait(20)
    assert np.abs(other[-1].rgb.astype(int) - ready.rgb).mean() > 1
    preview.close()


def test_far_from_a_key_picture_the_nearest_frame_comes_first(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(video_reader, "FAR", 1000)
    made = shot_edits.add_shot(clip(tmp_path / "long.mp4", frames=60, size=(640, 360)), Preset("", "", "", Shake()))
    shot, seen, done = made(Project()).shots[0], [], threading.Event()

    def came(picture: PreviewPicture) -> None:
        seen.append((number_of(picture.rgb[..., 1]), picture.exact))
        if picture.exact:
            done.set()

    preview = PreviewWorker()
    try:
        preview.picture.connect(came)
        for index in (50, 51, 20):
            done.clear()
            preview.ask(PictureRequest(shot, (640, 360), "shaken", index, fill=False))
            assert done.wait(20)
    finally:
        preview.close()
    # 51 follows on the frame that was read last, so nothing stands in for it
    assert seen == [(0, False), (50, True), (51, True), (0, False), (20, True)]


def test_what_cannot_keep_up_is_a_draft_and_made_again_once_it_stands(
    tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr(effort, "BUSY", 0.0)  # no machine is quick enough
    made = shot_edits.add_shot(
        clip(tmp_path / "press.mp4", frames=40, size=(640, 360)), preset_library.preset("walking")
    )
    shot, answers, ended = made(Project()).shots[0], [], threading.Event()
    request, turn = PictureRequest(shot, (320, 180), "shaken", 0), threading.Event()
    preview = PreviewWorker()

    def filled() -> None:
        ready = preview.ready(request)
        if ready.all():
            turn.set()
            if not any(drafts()):
                ended.set()
        else:
            preview.follow(int(np.argmin(ready)))

    def drafts() -> list[bool]:
        looked = (preview.look(request, k) for k in range(40))
        return [picture is not None and picture.draft for picture in looked]

    try:
        preview.filled.connect(filled)
        preview.picture.connect(answers.append)
        preview.ask(request)
        preview.follow(1)
        assert turn.wait(30)
        assert drafts()[-1]
        late = preview.look(request, 39)
        assert late is not None
        assert late.rgb.shape == (180, 320, 3)
        preview.ask(change(request, index=38))
        assert ended.wait(30), "every picture is made again"
        exact = preview.look(request, 39)
        assert exact is not None
        plan = resolve(shot, footage.infos(shot), Quality((320, 180), "linear"))
        given = preview.sources.read(plan, 39, lambda: None).result()
        np.testing.assert_array_equal(exact.rgb, to_rgb(render_frame(plan, 39, given)))
        assert not np.array_equal(exact.rgb, late.rgb)
        assert not answers[0].draft
    finally:
        preview.close()


def test_behind_heavy_footage_it_plays_on_frame_by_frame_up_to_the_next_key_picture(
    tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr(proxies, "HEAVY", 1)
    options = {"g": "12", "bf": "0", "sc_threshold": "0"}
    path = clip(tmp_path / "heavy.mp4", frames=60, size=(640, 360), options=options)
    shot = shot_edits.add_shot(path, preset_library.preset("walking"))(Project()).shots[0]
    request, order, due, done = PictureRequest(shot, (160, 90), "shaken", 0), [0], [1], threading.Event()
    preview = PreviewWorker()

    def filled() -> None:
        order.extend(set(np.flatnonzero(preview.ready(request)).tolist()) - set(order))
        due[0] += 2  # time goes on twice as fast as pictures come
        preview.follow(min(due[0], 59))
        if due[0] > 59:
            done.set()

    try:
        preview.filled.connect(filled)
        preview.ask(request)
        preview.follow(1)
        assert done.wait(30)
    finally:
        preview.close()
    jumps = [index for before, index in itertools.pairwise(order) if index != before + 1]
    assert jumps[:3] == [12, 24, 36]


def test_the_effort_comes_back_once_there_are_pictures_enough() -> None:
    steps, now = [], Effort()
    for took, in_hand in [(0.06, 0)] * 12 + [(0.02, 10)] * 12 + [(0.02, 30)] * 12 + [(0.5, 2), *[(0.02, 1)] * 11]:
        now.made(took, 1 / 24, in_hand)
        steps.append(now.step)
    assert (steps[5], steps[11], steps[23], steps[-13], steps[-1]) == (1, 2, 2, 0, 0)


@pytest.mark.parametrize("kind", [PreviewWorker, PreviewProcess])
def test_ahead_of_a_cut_the_next_shot_is_made_ready_before_the_rest(tmp_path: Path, kind: Previews) -> None:
    project = shot_edits.add_shot(clip(tmp_path / "wall.mp4", frames=48), preset_library.preset("walking"))(Project())
    project = shot_edits.add_shot(clip(tmp_path / "door.mp4", frames=24), preset_library.preset("standing"))(project)
    first, second = project.shots
    preview, at_the_time, words, done = kind(), [], [], threading.Event()
    then = PictureRequest(second, (160, 90), "shaken", 0)
    request = PictureRequest(first, (160, 90), "shaken", 20, then=then)
    preview.failed.connect(lambda shot, text: words.append(text))

    def filled() -> None:
        if preview.ready(then)[:8].sum() == 8 and not at_the_time:
            at_the_time.append(np.flatnonzero(preview.ready(request)).tolist())
        if preview.ready(request).all():
            done.set()

    preview.filled.connect(filled)
    preview.ask(request)
    assert done.wait(30)
    assert at_the_time == [[20, 21, 22, 23]]
    done.clear()
    lost = shot_edits.add_shot(tmp_path / "lost.mp4")(Project()).shots[0]
    request = PictureRequest(first, (162, 92), "shaken", 20, then=PictureRequest(lost, (162, 92), "shaken", 0))
    preview.ask(request)
    assert done.wait(30), "what comes next is lost, and this shot is made ready all the same"
    preview.close()
    assert not words


def test_small_work_waits_until_the_person_rests_but_not_for_ever() -> None:
    clock = [0.0]
    rest = PriorityGate(lambda: clock[0])
    rest.wait(quiet=5.0, most=0.05)
    clock[0] = 3.0
    rest.load()
    assert (rest.seconds, rest.idle) == (3.0, 0.0)
    clock[0] = 8.0
    rest.wait(quiet=5.0, most=1e9)
    assert (rest.seconds, rest.idle) == (8.0, 5.0)
    rest.owe(True)  # a picture: nothing goes on until it is there
    begun = time.monotonic()
    rest.wait(quiet=0.0, most=0.05)
    assert time.monotonic() - begun >= 0.05
    rest.owe(False)
    rest.wait(quiet=0.0, most=1e9)


def test_a_crop_that_takes_long_is_first_a_rough_one_and_the_least_one_at_rest(tmp_path: Path) -> None:
    path = clip(tmp_path / "wall.mp4", frames=60)
    shot = shot_edits.add_shot(path, preset_library.preset("walking"))(Project()).shots[0]
    shot = replace(shot, shake=replace(shot.shake, strands=(*shot.shake.strands, Shimmer("s", "S"))))
    least = resolve(shot, footage.infos(shot)).crop
    preview, crops, told = PreviewWorker(), [], threading.Event()
    preview.picture.connect(lambda picture: crops.append(preview._plans.plan(picture.request).plan.crop))
    preview.readings.connect(lambda shot, plan, found: told.set())
    for amount in (1.0, 1.1):
        strands = tuple(replace(each, amount=Curve(amount)) for each in shot.shake.strands)
        told.clear()
        preview.ask(PictureRequest(replace(shot, shake=replace(shot.shake, strands=strands)), (160, 90), "shaken", 30))
        assert told.wait(30)
    preview.close()
    assert crops[0] > least
    assert crops[1] == pytest.approx(least)
    assert crops[2] == crops[1], "what is changed is shown under the last one until it rests"
    assert crops[3] > crops[2]


def test_own_presets_are_kept_taken_in_and_broken_ones_skipped(tmp_path: Path, own_data: Path) -> None:
    walking = preset_library.preset("walking")
    path = preset_library.save_own(replace(walking, name="My aisle: walk", group="own"))
    assert path.parent == own_data / "young-tremor" / "presets"
    assert preset_library.preset("my aisle: walk").shake == walking.shake
    (path.parent / "torn.json").write_text("{")
    presets, bad = preset_library.own()
    assert [each.name for each in presets] == ["My aisle: walk"]
    assert "torn.json is not readable as JSON" in bad[0]
    for name, words in (("  ", "needs a name"), ("Walking", "factory preset")):
        with pytest.raises(RequestError, match=words):
            preset_library.save_own(replace(walking, name=name))
    preset_library.remove_own("My aisle: walk")
    assert not preset_library.own()[0]
    folder = tmp_path / "given"
    folder.mkdir()
    (folder / "two.json").write_bytes(
        codec.encode_presets((replace(walking, name="One"), replace(walking, name="Two")))
    )
    (folder / "bad.json").write_text("[]")
    assert preset_library.take_in(folder) == 2
    assert {"One", "Two"} <= {each.name for each in preset_library.presets()}
    with pytest.raises(RequestError, match=r"bad\.json is not"):
        preset_library.take_in(folder / "bad.json")


def test_a_preset_is_found_by_what_it_is_for_and_by_the_beginnings_of_words() -> None:
    mine = Preset(name="Aisle", group="own", note="For the press hall. A handbook says so.", shake=Shake())
    shipped = replace(preset_library.preset("train carriage"), note="A carriage. After the Handbook of Ropeways, 1911.")

    def found(query: str, preset: Preset, *, own: bool) -> bool:
        return preset_library.is_found(preset_library.search_words(preset, own=own), query)

    assert found("RAIL pass", shipped, own=False)
    assert not found("rope", shipped, own=False)
    assert not found("arriage", shipped, own=False)
    assert found("handbook", mine, own=True)
    hands = {each.name for each in preset_library.presets() if found("hand", each, own=False)}
    assert {"Walking", "Seated, elbows resting"} <= hands
    assert not hands & {"Train carriage", "Ship in a swell", "Helicopter"}


@pytest.mark.parametrize("kind", [PreviewWorker, PreviewProcess])
def test_variants_are_copied_swapped_compared_and_removed(tmp_path: Path, kind: Previews) -> None:
    path = clip(tmp_path / "wall.mp4", frames=12)
    project = shot_edits.add_shot(path, preset_library.preset("walking"))(Project())
    shot = project.shots[0]
    project = shot_edits.add_variant(shot.id)(project)
    project = shot_edits.apply_preset(shot.id, preset_library.preset("running"))(project)
    second = project.shots[0]
    assert (second.letters, second.variant, second.shake.preset) == (("A", "B"), "B", "Running")
    project = shot_edits.choose_variant(shot.id, "A")(project)
    assert project.shots[0].shake == shot.shake
    assert shot_edits.choose_variant(shot.id, "Z")(project) == project
    preview = kind()
    answers: list[PreviewPicture] = []
    came = threading.Event()
    preview.picture.connect(lambda picture: (answers.append(picture), came.set()))
    for against in (None, replace(second, others=())):
        came.clear()
        preview.ask(PictureRequest(shot, (160, 90), "split", 5, against=against, fill=False))
        assert came.wait(20)
    preview.close()
    assert answers[0].still is not None
    assert answers[1].still is not None
    np.testing.assert_array_equal(answers[0].rgb, answers[1].rgb)
    assert np.abs(answers[0].still.astype(int) - answers[1].still).mean() > 1
    project = shot_edits.remove_variant(shot.id, "B")(project)
    assert project.shots[0].letters == ("A",)
