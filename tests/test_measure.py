"""Measuring: accuracy against known motion, what is said of bad clips, and the circle through the command line."""

from __future__ import annotations

import functools
import json
from collections.abc import Callable
from fractions import Fraction
from pathlib import Path

import cv2
import numpy as np
import pytest

import truth
from truth import Filmed, Trouble, apart, encode
from young_tremor.base.errors import RequestError
from young_tremor.base.frames import YUV420, SourceInfo
from young_tremor.cli.main import main
from young_tremor.engine.analysis import log_fusion, measuring
from young_tremor.engine.library import takes
from young_tremor.measure.camera_path import ClipPath as Measured
from young_tremor.measure.camera_path import TooLittleMotion, measure, prepare

SMALL = (640, 360)
INFO = SourceInfo("phone.mp4", SMALL, Fraction(1), Fraction(24), 30, YUV420)


def film(trouble: Trouble = Trouble(), size: tuple[int, int] = SMALL, sway: float = 6.0, **more: object) -> Filmed:
    world = truth.world((size[0] + 160, size[1] + 120))
    return Filmed(world, functools.partial(truth.hand, size=sway), size, trouble=trouble, **more)  # type: ignore[arg-type]


def measured(frames: list[np.ndarray], *, field: bool = False, **more: object) -> Measured:
    ready = ((k / 24, prepare(frame, field=field)) for k, frame in enumerate(frames))
    return measure(ready, **more)  # type: ignore[arg-type]


@pytest.mark.parametrize(
    ("trouble", "pixels", "degrees", "ppm"),
    [
        (Trouble(), 0.006, 0.001, 20),
        (Trouble(blur=0.5, noise=4, flicker=0.12), 0.04, 0.005, 80),
        (Trouble(subject=0.35), 0.03, 0.004, 60),
        (Trouble(blur=0.5, noise=4, flicker=0.12, subject=0.35, contrast=0.35), 0.12, 0.02, 300),
    ],
    ids=["clean", "blur, noise, flicker", "a third moves by itself", "all of it, low contrast"],
)
def test_the_path_is_the_one_that_was_filmed(trouble: Trouble, pixels: float, degrees: float, ppm: float) -> None:
    clip = film(trouble)
    found = measured([clip.frame(k) for k in range(20)])
    path, turn, scale = apart(found.values, clip.truth(20))
    assert (path, turn, scale) <= (pixels, degrees, ppm)
    assert path <= pixels
    assert turn <= degrees
    assert scale <= ppm
    assert not found.doubtful.any()
    assert tuple(found.values[0]) == (0, 0, 0, 1)


def test_full_size_reaches_what_is_asked() -> None:
    clip = film(size=(1920, 1080), sway=14.0)
    found = measured([clip.frame(k) for k in range(8)])
    path, turn, scale = apart(found.values, clip.truth(8))
    assert path <= 0.03
    assert turn <= 0.002
    assert scale <= 20


def test_a_pan_out_of_the_first_view_does_not_drift() -> None:
    world = truth.world((1500, 360))

    def way(t: np.ndarray) -> np.ndarray:
        return truth.hand(t, size=3.0, pan=-180.0) + np.array([430.0, 0, 0, 0])

    clip = Filmed(world, way, (480, 270), trouble=Trouble(noise=2))
    count = 110
    found = measured([clip.frame(k) for k in range(count)])
    rows = way(np.arange(count) / 24)
    scale, turn = np.exp(rows[:, 3]), np.radians(rows[:, 2])
    x = rows[:, 0] - scale * np.cos(turn) * 430
    y = rows[:, 1] - scale * np.sin(turn) * 430
    assert found.keys > 1
    assert abs(x[-1]) > 480
    assert np.hypot(found.values[-1, 0] - x[-1], found.values[-1, 1] - y[-1]) < 0.2


def test_lost_frames_are_marked_and_bridged_and_confidence_follows_the_error() -> None:
    clip = film()
    frames = [clip.frame(k) for k in range(30)]
    frames[9] = np.full_like(frames[9], 250)  # a flash
    frames[17] = frames[17][::-1].copy()
    rng = np.random.default_rng(3)
    noisy = np.clip(frames[23] * 0.05 + 110 + rng.normal(scale=40, size=frames[23].shape), 0, 255)
    frames[23] = noisy.astype(np.uint8)
    found = measured(frames)
    off = np.linalg.norm(found.values[:, :2] - clip.truth(30)[:, :2], axis=1)
    assert set(np.flatnonzero(found.doubtful)) >= {9, 17}
    assert found.error[23] > 4 * np.median(found.error)
    assert (found.error[found.doubtful] >= off[found.doubtful]).all()
    assert not (off[~found.doubtful] > 0.3).any()
    assert off.max() < 1.0
    assert "bridged" in takes.describe_path(found, "aisle.mp4")


def test_cuts_stillness_and_what_cannot_be_measured_are_said() -> None:
    clip, other = film(), Filmed(truth.world((800, 480), seed=50), functools.partial(truth.hand, size=4), SMALL)
    cut = measured([clip.frame(k) for k in range(14)] + [other.frame(k) for k in range(16)])
    assert cut.cut == 14
    assert len(cut.t) == 14
    assert "another shot" in takes.describe_path(cut, "aisle.mp4")
    assert measured([clip.frame(3)] * 6).still
    rng = np.random.default_rng(1)
    cases: tuple[tuple[Callable[[int], np.ndarray], int, str], ...] = (
        (lambda k: np.full((360, 640), 90, np.uint8), 5, "texture"),
        (lambda k: clip.frame(0), 1, "only one frame"),
        (lambda k: rng.integers(0, 255, (360, 640)).astype(np.uint8), 11, "moves as one"),
    )
    for make, count, words in cases:
        with pytest.raises(TooLittleMotion, match=words):
            measured([make(k) for k in range(count)])


def test_shields_keep_what_moves_by_itself_out() -> None:
    clip = film(Trouble(subject=0.6))  # more than half of the frame moves by itself
    frames = [clip.frame(k) for k in range(12)]
    both = measured([film(Trouble(subject=0.5)).frame(k) for k in range(12)])
    assert "two things move" in takes.describe_path(
        both, "aisle.mp4"
    )  # which half is the scene is not passed off as sure
    found = measured(frames, shields=((110.0, 0.0, 530.0, 360.0),))
    assert apart(found.values, clip.truth(12))[0] < 0.05


@pytest.mark.parametrize("share", [0.3, 0.4, 0.46])
def test_the_scene_is_told_from_a_sharper_subject_and_the_other_can_be_chosen(share: float) -> None:
    clip = film(Trouble(subject=share, soft=2.0, noise=2))
    found = measured([clip.frame(k) for k in range(30)])
    assert apart(found.values, clip.truth(30))[0] < 0.06
    assert not found.doubtful.any()
    assert len(found.layers) == 2
    # the subject goes down by itself, so far and no further
    other = found.other()
    assert other.values[20, 1] == pytest.approx(90 * 20 / 24, abs=1.0)
    assert np.abs(np.diff(other.values[:, 2])).max() < 0.05
    left, right = (
        float(np.ptp(np.concatenate(each.marks)[:, 0]))
        for each in (found.layers[found.chosen], other.layers[other.chosen])
    )
    assert left > right


def test_the_error_that_is_said_is_the_error_that_is_made(tmp_path: Path) -> None:
    ratios = []
    for trouble, crf in (
        (Trouble(), 10),
        (Trouble(noise=3), 23),
        (Trouble(noise=6, contrast=0.35), 23),
        (Trouble(noise=4), 28),
        (Trouble(subject=0.35), 20),
    ):
        clip = film(trouble)
        path = encode(tmp_path / "clip.mkv", [clip.frame(k) for k in range(24)], 24, crf)
        found = measuring.measure(path, lambda done, total: None)
        rms = float(np.hypot(*np.sqrt(np.mean(_over_the_frame(found.values, clip.truth(24)) ** 2, axis=(0, 1)))))
        ratios.append(float(np.sqrt(np.mean(found.error**2))) / rms)
    assert all(0.5 < ratio < 2 for ratio in ratios), ratios


def _over_the_frame(found: np.ndarray, known: np.ndarray) -> np.ndarray:
    """How far places all over the frame are off, (n, points, 2), what is off all the time left out."""
    grid = np.stack(np.meshgrid(np.linspace(-320, 320, 7), np.linspace(-180, 180, 5)), axis=-1).reshape(-1, 2)
    placed = []
    for rows in (found, known):
        c, s = rows[:, 3] * np.cos(np.radians(rows[:, 2])), rows[:, 3] * np.sin(np.radians(rows[:, 2]))
        turned = np.stack(
            [np.outer(c, grid[:, 0]) - np.outer(s, grid[:, 1]), np.outer(s, grid[:, 0]) + np.outer(c, grid[:, 1])],
            axis=-1,
        )
        placed.append(turned + rows[:, None, :2])
    off = placed[0] - placed[1]
    return np.asarray(off - off.mean(axis=0))


def test_fields_late_rows_and_frames_shown_twice_are_found_said_and_set_right(tmp_path: Path) -> None:
    count = 30
    woven = film(Trouble(fields=True), sway=9.0)
    frames = [woven.frame(k) for k in range(count)]
    assert measured(frames).faults.interlaced
    found = measuring.measure(encode(tmp_path / "woven.mkv", frames, 24, 8), lambda done, total: None)
    assert found.faults.interlaced
    assert apart(found.values, woven.truth(count))[0] < 0.06
    assert "interlaced" in takes.describe_path(found, "woven.mkv")

    phone = film(Trouble(readout=0.6), sway=9.0)
    found = measured([phone.frame(k) for k in range(count)])
    assert found.faults.readout * 24 == pytest.approx(0.6, rel=0.15)
    path, turn, scale = apart(found.values, phone.truth(count))
    assert path < 0.05
    assert turn < 0.02  # 0.1 and more as it is seen
    assert scale < 300
    assert "rolling shutter" in takes.describe_path(found, "phone.mp4")

    clip = film()
    plain = [clip.frame(k) for k in range(48)]
    none = measured(plain).faults
    assert (none.interlaced, none.doubled, none.missing, none.readout) == (False, 0, (), 0.0)
    lost = [plain[k - 1] if k in (9, 20, 37) else plain[k] for k in range(48)]
    found = measured(lost)
    assert (found.faults.doubled, found.faults.conformed) == (3, False)
    assert np.abs(found.values[:, :2] - clip.truth(48)[:, :2]).max() < 0.5  # 3 px before it is filled in
    fitted = measure((k / 30, prepare(plain[k * 24 // 30])) for k in range(60))
    assert (fitted.faults.doubled, fitted.faults.conformed) == (12, True)
    rows = truth.hand(fitted.t, size=6.0)
    assert apart(fitted.values, np.column_stack([rows[:, :3], np.exp(rows[:, 3])]))[0] < 0.2
    assert "another rate" in takes.describe_path(fitted, "aisle.mp4")


def test_what_is_lost_for_long_is_no_cut_and_a_flash_is_looked_at_in_its_own_light() -> None:
    clip = film()
    frames = [clip.frame(k) for k in range(44)]
    for k in range(20, 35):  # somebody walks close by
        frames[k] = np.full_like(frames[k], 60 + k)
    for k in (8, 9, 15):
        frames[k] = np.clip(frames[k] * 2.2 + 60.0, 0, 255).astype(np.uint8)
    found = measured(frames)
    assert found.cut is None
    doubtful = set(np.flatnonzero(found.doubtful))
    assert set(range(20, 35)) <= doubtful <= set(range(20, 39)), "it is looked for at times while it is lost"
    off = np.hypot(*(found.values[:, :2] - clip.truth(44)[:, :2]).T)
    assert off[[8, 9, 15]].max() < 0.1
    assert off[39:].max() < 0.1


@pytest.mark.parametrize("pace", [24, 60])
def test_a_scene_is_found_again_behind_a_train_that_covers_it_for_a_second(pace: int) -> None:
    clip, count = film(), 84
    wide = SMALL[0] + 24 * pace
    train = truth.world((wide, SMALL[1]), seed=5)

    def frame(number: int) -> np.ndarray:
        picture, left = clip.frame(number), (30 - number) * pace
        begin, end = max(left, 0), min(left + wide, SMALL[0])
        if begin < end:
            picture[:, begin:end] = np.clip(train[:, begin - left : end - left], 0, 255)
        return picture

    found = measured([frame(number) for number in range(count)])
    off = found.values - clip.truth(count)
    seen = ~found.doubtful
    assert found.cut is None
    assert 10 < found.doubtful.sum() < 60
    assert seen[:8].all()
    assert seen[-8:].all()
    assert np.abs(off - np.median(off[seen], axis=0))[seen, :2].max() < 0.6
    assert found.error[found.doubtful].max() < 40  # no farther than hands go


def test_only_a_frame_that_is_the_same_counts_as_shown_twice() -> None:
    """Between two frames the picture hardly goes on but turns a little."""
    places = np.cumsum([0.0] + [2.0 if k % 9 else 0.04 for k in range(1, 40)])
    turns = np.cumsum([0.0] + [0.06 if k % 9 == 0 else 0.0 for k in range(1, 40)])

    def way(t: np.ndarray) -> np.ndarray:
        k = np.asarray(t) * 24
        number = np.arange(40)
        return np.column_stack([np.interp(k, number, places), 0 * k, np.interp(k, number, turns), 0 * k])

    clip = Filmed(truth.world((840, 480)), way, SMALL)
    frames = [clip.frame(k) for k in range(40)]
    found = measured(frames)
    assert found.faults.doubled == 0
    assert apart(found.values, clip.truth(40))[0] < 0.02
    frames[14] = frames[13]
    assert measured(frames).faults.doubled == 1


def test_a_scene_that_does_not_move_has_no_late_rows_whatever_moves_in_it() -> None:
    still, ys, xs = truth.world(SMALL), *np.mgrid[0:360, 0:640].astype(np.float32)
    frames = []
    for k in range(30):
        wave = np.clip(ys / 45 - 4, 0, 1) * 3
        places = xs + wave * np.sin(0.11 * ys + 0.3 * k), ys + wave * np.sin(0.07 * xs + 0.4 * k)
        rippled = cv2.remap(still, *(place.astype(np.float32) for place in places), cv2.INTER_LINEAR)
        frames.append(rippled.astype(np.uint8))
    found = measured(frames)
    assert found.faults.readout == 0
    assert np.hypot(*found.values[:, :2].T).max() < 0.05


def test_how_far_blur_puts_a_runner_off_is_said() -> None:
    def run(t: np.ndarray) -> np.ndarray:
        out = truth.hand(t, size=9.0)
        out[:, 1] += 16 * np.abs(np.sin(np.pi * 2.7 * np.asarray(t) + 0.7)) - 16 * np.abs(np.sin(0.7))
        return out

    clip = Filmed(truth.world((860, 560)), run, SMALL, trouble=Trouble(blur=0.5))
    found = measured([clip.frame(k) for k in range(48)])
    off = found.values[:, :2] - clip.truth(48)[:, :2]
    true = float(np.sqrt(((off - off.mean(axis=0)) ** 2).sum(axis=1).mean()))
    assert true > 0.03, "it is hard"
    said = float(np.sqrt(np.mean(found.error**2)))
    assert true / 1.5 < said < 3 * true  # many times less without it


def test_weak_texture_does_not_hide_what_is_strong(tmp_path: Path) -> None:
    world = truth.world((SMALL[0] + 160, SMALL[1] + 120))
    flat = np.linspace(0, 1, world.shape[1])[None] ** 4  # nearly all of it is hardly there
    clip = Filmed(
        118 + flat * (world - 118), functools.partial(truth.hand, size=6.0), SMALL, trouble=Trouble(noise=1.5)
    )
    path = encode(tmp_path / "sky.mp4", [clip.frame(k) for k in range(30)], 24, 23)
    found = measuring.measure(path, lambda done, total: None)
    assert not found.doubtful.any()
    assert apart(found.values, clip.truth(30))[0] < 0.1


def test_what_was_assumed_can_be_left_and_times_that_run_backwards_are_made_anew(
    tmp_path: Path, capsys: pytest.CaptureFixture[str]
) -> None:
    phone = film(Trouble(readout=0.6), sway=9.0)
    frames = [phone.frame(k) for k in range(30)]
    backwards = measure((-k / 24, prepare(frame)) for k, frame in enumerate(frames))
    assert backwards.faults.retimed
    assert (np.diff(backwards.t) > 0).all()
    assert takes.of_path(backwards, INFO, "x").table().shape == (30, 8)
    found = measured(frames)
    assert found.assumed == ("rolling",)
    left = found.leaving(["rolling"])
    assert (left.assumed, left.faults.readout) == ((), 0)
    assert apart(left.values, phone.truth(30))[1] > 3 * apart(found.values, phone.truth(30))[1]
    np.testing.assert_array_equal(left.leaving([]).values, found.values)
    clip = encode(tmp_path / "phone.mp4", frames, 24, 16)
    for leave, assumed in ((), ["rolling"]), (("--leave", "rolling"), []):
        asked = ["measure", str(clip), "-o", str(tmp_path / "x.csv"), "--overwrite", "--json", *leave]
        assert main(asked) == 0
        facts = json.loads(capsys.readouterr().out)
        assert (facts["assumed"], len(facts["frames"])) == (assumed, 30)
        assert all(0 <= row["error_px"] < 1 and not row["doubtful"] for row in facts["frames"])


def test_a_stretch_that_is_looked_at_again_is_laid_to_what_stands_at_its_ends(tmp_path: Path) -> None:
    clip, count = film(size=(960, 540), sway=12.0), 48
    frames = [clip.frame(number) for number in range(count)]
    for number in range(18, 30):  # a bright bar in the way, of no texture to be led astray by
        frames[number][:, 280:680] = 235
        frames[number][::3, 280:680] = number * 8 % 200
    path = encode(tmp_path / "walk.mp4", iter(frames), 24, 14)
    whole = measuring.measure(path, lambda done, total: None)
    part = measuring.measure(
        path, lambda done, total: None, start=14 / 24, end=34 / 24, shields=((270, 0, 420, 540),), widest=480
    )
    again = whole.looked_again(part, 14)
    off = again.values - clip.truth(count)
    assert np.abs(off[:, :2] - np.median(off[:, :2], axis=0)).max() < 0.25
    assert np.array_equal(again.values[:14], whole.values[:14])
    assert np.allclose(again.values[34:], whole.values[34:])
    assert not np.array_equal(again.values[15:33], whole.values[15:33])
    assert np.abs(np.diff(off[[13, 14, 33, 34], 0])).max() < 0.2
    assert again.leaving(()).values == pytest.approx(again.values)


@pytest.mark.parametrize("held", ["upright", "left"])
def test_a_gyroscope_log_is_laid_beside_its_clip_and_knows_what_the_picture_lost(held: str, tmp_path: Path) -> None:
    clip, count, focal, begins = film(Trouble(noise=4)), 72, 520.0, 1.37
    frames = [clip.frame(number) for number in range(count)]
    for picture in frames[30:40]:
        picture[:] = 20  # a hand before the lens
    path = encode(tmp_path / "walk.mp4", iter(frames), 24, 16)

    log = tmp_path / "walk.csv"
    truth.write_gyro_log(log, functools.partial(truth.hand, size=6.0), focal, begins, held)
    alone = measuring.measure(path, lambda done, total: None)
    fusion = log_fusion.fuse_log(alone, path.name, log_fusion.log_beside(path) or Path())
    assert fusion.begins == pytest.approx(begins, abs=1e-3)
    assert fusion.focal == pytest.approx(focal, rel=0.01)
    lost = alone.doubtful
    assert (lost.sum(), fusion.filled) == (10, 10)
    off = fusion.path.values[:, :2] - clip.truth(count)[:, :2]
    off -= off[~lost].mean(axis=0)
    before = alone.values[:, :2] - clip.truth(count)[:, :2]
    assert np.hypot(*off[lost].T).max() < 0.1 < 1 < np.hypot(*before[lost].T).max()
    assert np.hypot(*off[~lost].T).max() < 0.05
    said = float(np.sqrt(np.mean(fusion.path.error[lost] ** 2)))
    assert 0.3 < np.sqrt((off[lost] ** 2).sum(axis=1).mean()) / said < 2
    assert "10 lost frames are known now" in log_fusion.describe_fusion(fusion, alone, log.name)

    with pytest.raises(RequestError, match="the clip does not move"):
        log_fusion.fuse_log(measured(frames[:1] * 30), path.name, log)
    log.write_text("0,0,0,0\n")
    with pytest.raises(RequestError, match=r"walk.csv has 1 rows of numbers"):
        log_fusion.fuse_log(alone, path.name, log)
    np.savetxt(log, [(k / 200, 0.05 * np.sin(k / 9), 0.03 * np.cos(k / 7), 0) for k in range(1600)], delimiter=",")
    with pytest.raises(RequestError, match=r"walk.mp4 and walk.csv: the clip does not move as the log says"):
        log_fusion.fuse_log(alone, path.name, log)


def test_a_frame_left_out_of_a_pan_is_noticed() -> None:
    def way(t: np.ndarray) -> np.ndarray:
        return truth.hand(t, size=1.0, pan=-150.0) + np.array([160.0, 0, 0, 0])

    clip = Filmed(truth.world((900, 360)), way, (480, 270))
    found = measured([clip.frame(k) for k in range(40) if k != 17])
    assert found.faults.missing == (16,)
    assert found.t[-1] == pytest.approx(39 / 24)
    assert "left out" in takes.describe_path(found, "pan.mp4")


def test_the_circle_closes(tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    """Known path → handheld clip → measure → shake a locked-off clip of other size and rate → measure → the same."""
    clip = film(size=(960, 540), sway=9.0)
    hand = encode(tmp_path / "hand.mp4", [clip.frame(k) for k in range(36)], 24, 14)
    still = truth.world((640, 360), seed=8).astype(np.uint8)
    rack = encode(tmp_path / "rack.mp4", [still] * 36, 25, 10)
    take, again, shaken = tmp_path / "take.csv", tmp_path / "again.csv", tmp_path / "shaken.mp4"
    assert main(["measure", str(hand), "-o", str(take)]) == 0
    shake = ["shake", str(rack), "-o", str(shaken), "--take", str(take), "--edges", "mirror", "--shutter", "0"]
    assert main(shake) == 0
    assert main(["measure", str(shaken), "-o", str(again)]) == 0
    motion = tmp_path / "motion.csv"
    planned = [
        "motion",
        "--take",
        str(take),
        "--size",
        "640x360",
        "--fps",
        "25",
        "--seconds",
        "1.44",
        "-o",
        str(motion),
    ]
    assert main(planned) == 0
    result, plan = takes.read(again).table(), takes.read(motion).table()
    np.testing.assert_allclose(result[:, 0], plan[:, 0], atol=1e-9)
    rows = truth.hand(result[:, 0], size=9.0)
    known = np.column_stack([rows[:, :2] * 360 / 540, rows[:, 2], np.exp(rows[:, 3])])
    known[:, 3] /= known[0, 3]
    assert apart(result[:, 1:5], known)[0] <= 0.15 / 3
    assert apart(plan[:, 1:5], known)[0] <= 0.08 / 3
    assert main(["measure", str(hand), "-o", str(take)]) == 2
    assert "exists" in capsys.readouterr().err
    assert main(["measure", str(hand), "-o", str(tmp_path / "x.csv"), "--from", "9"]) == 2
    assert main(["measure", str(hand), "-o", str(tmp_path / "x.csv"), "--shield", "1,2,3"]) == 2
    part = [
        "measure",
        str(hand),
        "-o",
        str(tmp_path / "part.csv"),
        "--from",
        "0.5",
        "--to",
        "1",
        "--shield",
        "0,0,90,90",
    ]
    assert main(part) == 0
    table = takes.read(tmp_path / "part.csv").table()
    assert len(table) == 12
    assert tuple(table[0, :5]) == (0, 0, 0, 0, 1)
    broken = tmp_path / "broken.mp4"
    broken.write_bytes(hand.read_bytes()[:900])
    with pytest.raises(Exception, match=r"broken\.mp4"):
        measuring.measure(broken, lambda done, total: None)
    with pytest.raises(RequestError, match="lasts"):
        measuring.measure(hand, lambda done, total: None, start=5.0)
