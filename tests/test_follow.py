"""Following: the hand's promises, the path of what moves, and the film in which it stays in the picture."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path

import av
import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from msgspec.structs import replace
from PySide6.QtCore import Qt
from PySide6.QtWidgets import QApplication, QMenu
from pytestqt.qtbot import QtBot

from driver import Desk
from young_tremor import api
from young_tremor.engine.analysis import subject
from young_tremor.engine.document.session import Session
from young_tremor.model import shot_edits
from young_tremor.model.project import FrameSettings, Preset, Project, Size
from young_tremor.model.shake import Plotted, Shake
from young_tremor.motion.follow import Hand, follow

RATE, FRAMES, WIDE, HIGH = 24, 84, 320, 180


def walker(seconds: float) -> tuple[float, float]:
    """Where the drawn figure is: it stands for a second, walks for one and a half, and stands again."""
    share = min(max((seconds - 1) / 1.5, 0.0), 1.0)
    eased = share * share * (3 - 2 * share)
    return 120 + 60 * eased, 96 - 12 * eased


def film_of(path: Path, figure: Callable[[float], tuple[float, float]] | None) -> Path:
    """A grainy wall before which a bright figure goes."""
    rng = np.random.default_rng(4)
    y, x = np.mgrid[:HIGH, :WIDE]
    wall = 90 + 18 * np.sin(x / 5) * np.cos(y / 7)
    with av.open(str(path), "w") as file:
        stream = file.add_stream("ffv1", rate=RATE)
        stream.width, stream.height, stream.pix_fmt = WIDE, HIGH, "yuv444p"
        for number in range(FRAMES):
            picture = wall + rng.normal(0, 3, wall.shape)
            if figure:
                at = figure(number / RATE)
                picture[((x - at[0]) / 12) ** 2 + ((y - at[1]) / 22) ** 2 < 1] = 235
            grey = np.repeat(picture.clip(0, 255).astype(np.uint8)[..., None], 3, 2)
            file.mux(stream.encode(av.VideoFrame.from_ndarray(grey, format="rgb24")))
        file.mux(stream.encode(None))
    return path


def middle_of(path: Path) -> np.ndarray:
    """Where the bright figure is in each picture of a film, in frame heights: (n, 2)."""
    places = []
    with av.open(str(path)) as file:
        for picture in file.decode(video=0):
            rows, columns = np.nonzero(picture.to_ndarray(format="gray") > 200)
            places.append((columns.mean() / picture.height, rows.mean() / picture.height))
    return np.array(places)


@settings(max_examples=40, deadline=None)
@given(
    steps=st.lists(st.tuples(st.floats(-1, 1), st.floats(-1, 1), st.booleans()), min_size=2, max_size=12),
    reserve=st.floats(0.01, 0.4),
)
def test_a_hand_is_late_smooth_and_never_past_its_reserve(
    steps: list[tuple[float, float, bool]], reserve: float
) -> None:
    places = np.repeat(np.array([step[:2] for step in steps]), 12, axis=0)
    there = np.repeat(np.array([step[2] for step in steps]), 12)
    times = np.arange(len(places)) / RATE
    hand = Hand(reserve)
    looks = follow(times, places, there, hand)
    assert np.hypot(*looks.T).max() <= reserve + 1e-9
    assert np.abs(np.diff(looks, axis=0)).max() <= hand.quickest / RATE + 1e-9
    assert not looks[times <= hand.reaction].any()
    if not there.any():
        assert not looks.any()
    held = np.vstack([places, np.repeat(places[-1:], 8 * RATE, axis=0)])
    rest = follow(np.arange(len(held)) / RATE, held, np.append(there, np.full(8 * RATE, there[-1])), hand)
    assert np.ptp(rest[-RATE:], axis=0).max() < 1e-4  # at rest where the subject stands, or is gone


def test_what_moves_is_found_and_kept_in_the_film(tmp_path: Path) -> None:
    clip = film_of(tmp_path / "walker.mkv", walker)
    path = subject.find_path(api.shake(clip), lambda done, total: None)
    truth = (np.array([walker(time) for time in path.times]) - ((WIDE - 1) / 2, (HIGH - 1) / 2)) / HIGH
    assert path.there.all()
    assert np.abs(path.places - truth).max() < 0.02
    whole = replace(api.shake(clip), size=Size(240, 180), frame=FrameSettings(fit="whole"))
    smaller = subject.find_path(whole, lambda done, total: None)
    assert np.abs(smaller.places - 0.75 * truth).max() < 0.02  # in heights of the frame, not of the source
    assert (path.reserve, smaller.reserve) == (0.08, 0.125)  # what the larger footage has to spare
    need = subject.needed_reserve(path)
    assert need == pytest.approx(60 / 180, abs=0.06)

    still, followed = middle_of(clip), tmp_path / "followed.mkv"
    api.render(api.shake(clip, follow=38, edges="mirror", set=("shutter 0",)), followed, form="ffv1")
    kept = middle_of(followed)
    assert np.ptp(still[:, 0]) > 0.3
    before, after = np.abs(kept[:20] - kept[0]).max(), np.abs(kept[-12:] - kept[0]).max()
    assert before < 0.01  # nothing moves before the subject does
    assert after < 0.05  # inside the dead zone and the softened end of the reserve
    assert np.ptp(kept[-8:], axis=0).max() < 0.01


def leaver(seconds: float) -> tuple[float, float]:
    """It stands for most of the time, so that the scene without it is not seen, and goes."""
    return 60 + 96 * max(seconds - 2.2, 0.0), 60


def test_the_place_that_a_figure_left_is_not_taken_for_it(tmp_path: Path) -> None:
    path = subject.find_path(api.shake(film_of(tmp_path / "leaver.mkv", leaver)), lambda done, total: None)
    truth = (np.array([leaver(time) for time in path.times]) - ((WIDE - 1) / 2, (HIGH - 1) / 2)) / HIGH
    away = path.times > 2.6
    assert path.there[away].all()
    assert np.abs(path.places - truth)[away].max() < 0.03
    assert not path.there[path.times < 2.1].any()


def test_what_cannot_be_followed_is_one_sentence(tmp_path: Path) -> None:
    empty = film_of(tmp_path / "empty.mkv", None)
    with pytest.raises(api.RequestError, match=r"Nothing that could be followed moves in “empty”\."):
        api.shake(empty, follow=8)
    for wrong in (0.0, 90.0, float("nan"), float("inf")):
        with pytest.raises(api.TremorError, match=r"1 to 40|give a number"):
            api.shake(empty, follow=wrong)


def asked_to_follow(qtbot: QtBot, clip: Path) -> Desk:
    """A window on a locked-off shot in which following was asked for."""
    desk = Desk(qtbot, Session(shot_edits.add_shot(clip, Preset("none", "own", "", Shake()))(Project())))
    desk.settle()
    desk.window.commands.do("follow")
    return desk


def offered() -> list[str]:
    menu = QApplication.activePopupWidget()
    return [action.text() for action in menu.actions()] if isinstance(menu, QMenu) else []


def test_what_following_takes_is_said_before_and_limited(qtbot: QtBot, tmp_path: Path) -> None:
    desk = asked_to_follow(qtbot, film_of(tmp_path / "shot.mkv", walker))
    desk.until(lambda: len(offered()) == 2)
    limited, whole = offered()
    assert limited == "Follow by 8 % of the height, as the crop allows"
    far = int(whole.removeprefix("Follow all the way, by ").removesuffix(" %"))
    assert far > 8
    assert not desk.shot.shake.strands
    desk.pick(limited)
    (first,) = desk.shot.shake.strands
    assert isinstance(first, Plotted)
    assert 7 < max(np.hypot(a.value, b.value) for a, b in zip(first.x.keys, first.y.keys, strict=True)) < 8.001
    desk.window.commands.do("follow")
    desk.until(lambda: len(offered()) == 2)
    desk.pick(whole)
    (second,) = desk.shot.shake.strands  # in its place, not a second one
    assert isinstance(second, Plotted)
    assert second.id == first.id
    most = max(np.hypot(a.value, b.value) for a, b in zip(second.x.keys, second.y.keys, strict=True))
    assert most == pytest.approx(far, abs=1)
    desk.key(Qt.Key.Key_Z, Qt.KeyboardModifier.ControlModifier)
    desk.key(Qt.Key.Key_Z, Qt.KeyboardModifier.ControlModifier)
    assert not desk.shot.shake.strands
    desk.close()


def test_where_nothing_can_be_followed_it_is_said(qtbot: QtBot, tmp_path: Path) -> None:
    desk = asked_to_follow(qtbot, film_of(tmp_path / "shot.mkv", None))
    desk.until(lambda: "Nothing that could be followed" in desk.said())
    assert not desk.shot.shake.strands
    desk.close()
