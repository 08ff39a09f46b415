"""A second day, by the keyboard and the ask line alone: an editor's round trip, a title designer's, a documentary's.
What comes out is read by others' libraries and by the rules of the standards, never by our own readers."""

from __future__ import annotations

import re
import warnings
from pathlib import Path
from urllib.parse import unquote, urlsplit

import av
import cv2
import numpy as np
import opentimelineio as otio
import pytest
import scipy.io.wavfile
from pxr import Usd, UsdGeom
from PySide6.QtCore import Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import (
    QAbstractButton,
    QApplication,
    QCheckBox,
    QComboBox,
    QFileDialog,
    QMenu,
    QPushButton,
    QWidget,
)
from pytestqt.qtbot import QtBot

from clips import clip, number_of
from driver import Desk
from test_follow import film_of, middle_of, walker
from test_interchange import floats
from test_timelines import cut, external, frame_at, written
from young_tremor import api
from young_tremor.engine.document.session import Session
from young_tremor.model.shake import Plotted

K = Qt.Key
CTRL, SHIFT = Qt.KeyboardModifier.ControlModifier, Qt.KeyboardModifier.ShiftModifier


class Hands(Desk):
    """A person without a mouse."""

    def ask(self, text: str) -> None:
        """Ctrl+K, words, Return."""
        self.key("k", CTRL)
        QTest.keyClicks(QApplication.focusWidget(), text)
        QTest.keyClick(QApplication.focusWidget(), K.Key_Return)
        self.settle()
        self.back()

    def tab_to(self, name: str, kind: type[QWidget]) -> QWidget:
        """Tab until the control of that name has the keys."""
        for _ in range(80):
            at = QApplication.focusWidget()
            words = {at.accessibleName(), at.text() if isinstance(at, QAbstractButton) else ""} if at else ()
            if isinstance(at, kind) and name in words:
                return at
            QTest.keyClick(at or self.window, K.Key_Tab)
        raise AssertionError(f"Tab never comes to “{name}”")

    def tick(self, *names: str) -> None:
        for name in names:
            QTest.keyClick(self.tab_to(name, QCheckBox), K.Key_Space)

    def choose(self, name: str, words: str) -> None:
        """A line of a list, with Up and Down."""
        box = self.tab_to(name, QComboBox)
        assert isinstance(box, QComboBox)
        QTest.keyClick(box, K.Key_Home)
        while box.currentText() != words:
            at = box.currentIndex()
            QTest.keyClick(box, K.Key_Down)
            assert box.currentIndex() != at, [box.itemText(k) for k in range(box.count())]

    @property
    def focus(self) -> QWidget:
        """What has the keys."""
        return QApplication.focusWidget() or self.window

    def press_button(self, words: str) -> None:
        """A button, with Space."""
        QTest.keyClick(self.tab_to(words, QPushButton), K.Key_Space)

    def deliver(self, path: Path, shots: str, *beside: str, handles: int = 0) -> None:
        """Fill in the render sheet that is open, start it, and wait for the files."""
        self.choose("Shots", shots)
        self.tick(*beside)
        QTest.keyClicks(self.tab_to("Handles", QWidget), str(handles))
        QTest.keyClick(self.focus, K.Key_Return)
        self.tab_to("File", QWidget)
        self.retype(str(path))
        self.press_button("Start")
        sheet = self.window.desk.sheet
        self.until(lambda: not sheet.running and sheet.list.rows[-1].state in ("done", "failed"))
        assert sheet.list.rows[-1].state == "done", sheet.state.text()

    def retype(self, text: str) -> None:
        """Another text in the field that has the keys."""
        field = QApplication.focusWidget()
        QTest.keyClick(field, "a", CTRL)
        QTest.keyClicks(field, text)


def opened(qtbot: QtBot, shots: int) -> Hands:
    """A new window in which the file that the dialog gives was opened, as so many shots."""
    desk = Hands(qtbot, Session())
    desk.back()
    desk.key("o", CTRL)
    desk.until(lambda: len(desk.project.shots) == shots)
    desk.settle()
    return desk


def conformed(text: str, films: Path) -> list[list[np.ndarray]]:
    """The pictures (grey) that an EDL shows, by the rules of CMX 3600: each event by its source's timecode alone."""
    shown = []
    for line in text.splitlines():
        if re.match(r"\d{3} ", line):
            begin, end = (frame_at(column, 25) for column in line.split()[4:6])
            shown.append(stretch(films, begin, end))
    return shown


def stretch(films: Path, begin: int, end: int) -> list[np.ndarray]:
    """The pictures from one frame of timecode to another, of the only film there that has them all."""
    found = []
    for path in sorted(films.glob("*.mov")):
        with av.open(str(path)) as film:
            own = frame_at({**film.metadata, **film.streams.video[0].metadata}["timecode"], 25)
            if own <= begin and end <= own + film.streams.video[0].frames:
                found.append(
                    [picture.to_ndarray(format="gray") for picture in film.decode(video=0)][begin - own : end - own]
                )
    assert len(found) == 1, f"{len(found)} films show {begin} to {end}"
    return found[0]


def test_an_editors_round_trip(qtbot: QtBot, tmp_path: Path, monkeypatch) -> None:
    hours = {"press": "10:00:00:00", "door": "11:00:00:00"}
    films = [
        clip(tmp_path / f"{name}.mov", frames=75, rate=25, timecode=hour, audio=True) for name, hour in hours.items()
    ]
    first = [frame_at(hour, 25) for hour in hours.values()]
    made = cut([external(films[0], 10, 50, 25, first=first[0]), external(films[1], 5, 40, 25, first=first[1])], 25.0)
    for piece, begin in zip(made.find_clips(), first, strict=True):
        when = otio.opentime.RationalTime
        piece.media_reference.available_range = otio.opentime.TimeRange(when(begin, 25), when(75, 25))
    timeline = written(made, tmp_path / "scene.otio")
    monkeypatch.setattr(QFileDialog, "getOpenFileNames", lambda *a, **k: ([str(timeline)], ""))
    desk = opened(qtbot, 2)
    desk.key("a", CTRL)
    for words in ("walking", "amount 40 %", "motion blur 90", "edges mirror"):
        desk.ask(words)
    desk.ask("swell at 1 s")
    desk.ask("hit 1.4 s 80 %")
    desk.ask("add sound to this shake")
    desk.ask("export prores")
    out = tmp_path / "out"
    beside = ("Timeline", "Motion as CSV", "Camera in USD", "ST maps", "Sounds as WAV")
    desk.deliver(out / "{number} {shot}.mov", "Each shot by itself", *beside, handles=6)

    # conformed by timecode alone: the pictures of the cut, and those of the reel rendered at once
    shown = conformed((out / "Untitled.edl").read_text(), out)
    assert [[number_of(picture) for picture in event] for event in shown] == [list(range(10, 60)), list(range(5, 45))]
    api.render(desk.project, tmp_path / "reel.mov", form="prores")
    reel = pictures(tmp_path / "reel.mov")
    assert all(map(np.array_equal, [picture for event in shown for picture in event], reel))
    cut_again = otio.adapters.read_from_file(str(out / "Untitled.otio"))
    for event, piece in zip(shown, cut_again.find_clips(), strict=True):
        film = Path(unquote(urlsplit(piece.media_reference.target_url).path))
        within = piece.source_range.start_time - piece.media_reference.available_range.start_time
        first_shown = round(within.value)
        assert all(map(np.array_equal, pictures(film)[first_shown : first_shown + len(event)], event))

    # the stems are the film's sound; the maps and the camera its motion
    film, frames = out / "01 press.mov", 50 + 6 + 6
    rate, sound = sound_of(film)
    parts = [stem_of(out / f"01 press {name}.wav") for name in ("footage", "Stage floor")]
    assert {part[0] for part in parts} == {rate}
    whole = parts[0][1] + parts[1][1]
    assert len(whole) == len(sound) == frames * rate // 25
    assert np.abs(whole - sound).max() < 1e-3
    assert np.abs(parts[1][1]).max() > 0.005
    stage = Usd.Stage.Open(str(out / "01 press camera.usda"))
    assert (stage.GetTimeCodesPerSecond(), stage.GetEndTimeCode()) == (25, frames)
    still = pictures(films[0])[4:]
    for number in (20, 31, 40):
        st_map = floats(out / f"01 press st.{number + 1:04d}.exr")
        across, down = st_map[..., 0] * 320 - 0.5, (1 - st_map[..., 1]) * 180 - 0.5
        plain = cv2.remap(
            still[number],
            across.astype(np.float32),
            down.astype(np.float32),
            cv2.INTER_CUBIC,
            borderMode=cv2.BORDER_REFLECT,
        )
        looked = pictures(film)[number][20:-20, 20:-20].astype(float)
        off = np.abs(plain[20:-20, 20:-20] - looked).mean()
        assert off < 1.5  # of grey levels: the blur of 90° and the coding are in it
        moved = np.abs(across - np.arange(320)).max() > 0.1
        assert not moved or off < 0.6 * np.abs(still[number][20:-20, 20:-20] - looked).mean()
        for x, y in ((40, 30), (160, 90), (280, 140)):
            assert projected(stage, number + 1, (across[y, x], down[y, x])) == pytest.approx((x, y), abs=1e-3)
    desk.close()


def pictures(film: Path) -> list[np.ndarray]:
    """The grey pictures of a film, by another's decoder."""
    with av.open(str(film)) as file:
        return [picture.to_ndarray(format="gray") for picture in file.decode(video=0)]


def stem_of(path: Path) -> tuple[int, np.ndarray]:
    """A sound by another's reader, to which the chunk that says when it was made is new: samples a second, (n, 2)."""
    with warnings.catch_warnings():
        warnings.simplefilter("ignore", scipy.io.wavfile.WavFileWarning)
        rate, values = scipy.io.wavfile.read(path)
    assert values.dtype == np.int32
    return rate, values / 2**31


def sound_of(film: Path) -> tuple[int, np.ndarray]:
    """A film's sound: samples a second, and (n, 2)."""
    with av.open(str(film)) as file:
        blocks = [block.to_ndarray() for block in file.decode(audio=0)]
        stream = file.streams.audio[0]
        values = np.concatenate([block.reshape(-1, stream.channels) for block in blocks]).astype(np.float64)
        return stream.rate, values / (2**31 if blocks[0].dtype == np.int32 else 2**15)


def projected(stage: Usd.Stage, code: int, place: tuple[float, float]) -> tuple[float, float]:
    """Where a camera shows a pixel of the footage, which hangs 5 m before it and fills its frame when it is at rest."""
    camera = UsdGeom.Camera(stage.GetPrimAtPath("/Camera"))
    tall = 5.0 * camera.GetVerticalApertureAttr().Get() / camera.GetFocalLengthAttr().Get()
    x, y = ((place[0] - 159.5) / 180 * tall, -(place[1] - 89.5) / 180 * tall)
    world = np.array(camera.ComputeLocalToWorldTransform(code)).T
    at = np.linalg.inv(world) @ (x, y, -5.0, 1.0)
    return 159.5 + at[0] / -at[2] * 5.0 / tall * 180, 89.5 - at[1] / -at[2] * 5.0 / tall * 180


def test_a_title_designers_day(qtbot: QtBot, tmp_path: Path) -> None:
    desk = Hands(qtbot, Session())
    desk.back()
    desk.ask("add a title")
    desk.until(lambda: len(desk.project.shots) == 1)
    desk.retype("OXIDE")
    QTest.keyClick(desk.focus, K.Key_Escape)
    desk.settle()
    for words in ("per letter", "letter spacing 120", "3 px 4 Hz for the title alone", "no motion blur", "f11"):
        desk.ask(words)
    desk.key("o")
    desk.ask("render prores 4444")
    desk.deliver(tmp_path / "oxide.mov", "Marked stretch")
    desk.close()
    with av.open(str(tmp_path / "oxide.mov")) as film:
        alphas = np.stack([alpha_of(picture) for picture in film.decode(video=0)])
    top = float(alphas.max())
    assert alphas.shape == (12, 1080, 1920)
    assert (alphas.min(), top) == (0, 4095)
    places = np.array([middles_of(alpha > top / 2) for alpha in alphas])
    assert places.shape[1] == 5
    moved = places - places.mean(axis=0)
    assert 0.5 < np.abs(moved).max() < 8  # 3 px is the reach that 95 % stay within
    apart = np.corrcoef(moved[..., 0].T)[np.triu_indices(5, 1)]
    assert np.abs(apart).mean() < 0.9  # each its own way


def alpha_of(picture: av.VideoFrame) -> np.ndarray:
    """The alpha of a picture of 12 bits, by the decoder's own plane."""
    assert picture.format.name == "yuva444p12le"
    plane = picture.planes[3]
    return np.frombuffer(plane, np.uint16).reshape(plane.height, -1)[:, : plane.width].copy()


def middles_of(solid: np.ndarray) -> list[tuple[float, float]]:
    """The middle of each letter from left to right; pieces that lie above each other are one."""
    columns = np.flatnonzero(solid.any(axis=0))
    runs = np.split(columns, np.flatnonzero(np.diff(columns) > 1) + 1)
    return [(float(run.mean()), float(np.nonzero(solid[:, run])[0].mean())) for run in runs]


def test_a_documentarys_day(qtbot: QtBot, tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    still = film_of(tmp_path / "walker.mkv", walker)
    monkeypatch.setattr(QFileDialog, "getOpenFileNames", lambda *a, **k: ([str(still)], ""))
    desk = opened(qtbot, 1)
    for words in ("3 kg, shoulder, stands", "mirror edges", "no motion blur", "follow what moves"):
        desk.ask(words)
    desk.until(lambda: isinstance(QApplication.activePopupWidget(), QMenu))
    menu = QApplication.activePopupWidget()
    assert isinstance(menu, QMenu)
    for key in (K.Key_Down, K.Key_Down, K.Key_Return):
        QTest.keyClick(menu, key)
    desk.until(lambda: isinstance(desk.shot.shake.strands[-1], Plotted))
    desk.back()
    assert desk.shot.shake.holder is not None
    desk.ask("render ffv1")
    desk.deliver(tmp_path / "kept.mkv", "This shot")
    desk.close()
    before, after = middle_of(still), middle_of(tmp_path / "kept.mkv")
    assert np.ptp(before[:, 0]) > 0.3
    assert 0.002 < np.ptp(after[:20, 0]) < 0.03  # whoever holds it is there before anything moves
    assert np.abs(after[-12:, 0] - after[0, 0]).max() < 0.06  # and has gone after what did
