"""What is asked for is understood, found and done: figures, words, settings, without a window and in it."""

from __future__ import annotations

import json
from collections.abc import Iterator
from fractions import Fraction
from pathlib import Path

import jsonschema
import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from PySide6.QtCore import Qt, QUrl
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication, QFileDialog, QPushButton, QWidget

from clips import clip
from driver import Desk
from young_tremor import api
from young_tremor.base.errors import TremorError
from young_tremor.cli.main import main
from young_tremor.desk.kit.number_field import NumberField
from young_tremor.desk.sheets import welcome
from young_tremor.document import codec
from young_tremor.engine.asking import holder_phrase, motion_phrase, sentences, word_index
from young_tremor.engine.asking.ask import SOUNDS, WELCOME, ask
from young_tremor.engine.asking.command_texts import COMMAND_TEXTS
from young_tremor.engine.asking.entries import ChangeShot
from young_tremor.engine.asking.grammar import Clock, tokens
from young_tremor.engine.asking.settings_index import Place
from young_tremor.engine.asking.word_search import stems
from young_tremor.engine.document.session import Session
from young_tremor.engine.library import preset_library
from young_tremor.engine.library import settings as settings_of_desk
from young_tremor.model import shot_edits
from young_tremor.model.curve import Curve
from young_tremor.model.holder import DOING_OPTIONS, GRIP_OPTIONS, Doing, Grip, Holder
from young_tremor.model.project import Project
from young_tremor.model.shake import Drift, Hit, Jolts, Plotted
from young_tremor.motion import sample

TIMES = np.arange(0, 5, 0.04)
CLOCK = Clock(Fraction(24))
K, CTRL = Qt.Key, Qt.KeyboardModifier.ControlModifier
FIGURES = st.integers(1, 900).map(lambda number: number / 10)
FILLERS = ("", "please", "with", "and", "the camera", "about", "I want")


def understood(text: str) -> motion_phrase.MotionPhrase | None:
    return motion_phrase.understand(tokens(text, CLOCK), CLOCK)


@pytest.fixture(scope="module")
def place() -> Place:
    project = preset_library.demo_project()
    return sentences.place_of(project.shots[0])


@st.composite
def said_motions(draw: st.DrawFn) -> tuple[str, str]:
    """A motion, and the same with its parts in another order, other units and words in between."""
    amounts = draw(st.dictionaries(st.sampled_from(("x", "y", "roll", "pan", "tilt")), FIGURES, min_size=1))
    rate = draw(st.none() | FIGURES.map(lambda number: round(number / 9, 3)))
    parts = [
        f"{name} {value:g} {'degrees' if name in motion_phrase.TURNS else 'px'}" for name, value in amounts.items()
    ]
    parts += (
        [] if rate is None else [draw(st.sampled_from((f"{rate:g} Hz", f"{rate:g}/s", f"{rate:g} times a second")))]
    )
    if draw(st.booleans()):
        parts.append("rough 0.4")
    if draw(st.booleans()):
        parts.append("rising")
    plain = ", ".join(parts)
    order = draw(st.permutations(parts))
    gap = st.sampled_from([" ", ", ", "  ", *(f" {word} " for word in FILLERS if word)])
    return plain, "".join(part + draw(gap) for part in order)


@settings(max_examples=150, deadline=None)
@given(said_motions())
def test_order_spaces_commas_and_words_in_between_do_not_matter(said: tuple[str, str]) -> None:
    plain, mixed = understood(said[0]), understood(said[1])
    assert plain is not None
    assert plain == mixed
    again = understood(plain.words())
    assert again is not None
    assert again.words() == plain.words()


@settings(max_examples=300, deadline=None)
@given(st.text(max_size=60) | st.text(alphabet="0123456789.,:;/-+*×% °pxHzsf", max_size=40))
def test_whatever_is_typed_is_answered(text: str) -> None:
    answer = ask(text, Place(PLAIN, seconds=4.0))
    for entry in answer.entries:
        change = getattr(entry.act, "edit", None)
        if change is not None:
            assert change(PLAIN).plates == PLAIN.plates or entry.kind == "set"


PLAIN = shot_edits.add_shot(Path("press.mp4"), preset_library.preset("Walking"))(Project()).shots[0]


@pytest.mark.parametrize(
    ("text", "words"),
    [
        ("30 px 2 Hz", "x and y 30 px, 2 Hz"),
        ("0,3° 5/s", "roll 0.3°, 5 Hz"),
        ("30 pixels, twice a second", "x and y 30 px, 2 Hz"),
        ("tilt 1 degree every 5 seconds", "tilt 1°, 0.2 Hz"),
        ("no more than 0.3 degrees", "roll 0.3°"),
        ("x 4 y 8 px, rough 0.4, from 2 s to 4 s, rising", "x 4 px, y 8 px, rough 0.4, from 2 s, to 4 s, rising"),
        ("12 px from frame 72 to 96", "x and y 12 px, from 3 s, to 4 s"),
        ("4 px x, 8 px y", "x 4 px, y 8 px"),
        ("roll 0.6° 2 to 8 Hz", "roll 0.6°, 2 to 8 Hz"),
        ("30 px from 2 Hz to 8 Hz", "x and y 30 px, 2 to 8 Hz"),
        ("tilt 0.2 deg, 4 Hz, faster and faster", "tilt 0.2°, 1 to 4 Hz"),
    ],
)
def test_figures_of_the_trade(text: str, words: str) -> None:
    phrase = understood(text)
    assert phrase is not None
    assert phrase.words() == words


@pytest.mark.parametrize(
    "text", ["shutter 90", "3.5 s", "1e400 px", "px", "30 px 0 Hz", "zoom 110 %", "from 4 s to 2 s 3 px"]
)
def test_what_is_no_motion_is_none(text: str) -> None:
    assert understood(text) is None


def test_words_of_the_trade_arrive_among_the_first_three(place: Place) -> None:
    lines = (Path(__file__).parent / "words_of_the_trade.txt").read_text(encoding="utf-8").splitlines()
    asked = [line.split("|") for line in lines if line and not line.startswith("#")]
    lost = []
    for words, wanted in asked:
        names = [stems(entry.name) for entry in ask(words.strip(), place).entries[:3]]
        if not any(name[: len(stems(one))] == stems(one) for name in names for one in wanted.split(";")):
            lost.append(words.strip())
    assert len(asked) > 400
    assert len(lost) < 0.05 * len(asked), lost


@pytest.mark.parametrize(
    ("text", "name", "detail"),
    [
        ("motion blur 90", "Shutter angle", "180° → 90°"),
        ("shutter 1/96 s", "Shutter angle", "180° → 90°"),
        ("edges mirror", "Edges", "Crop in, steady → Mirror"),
        ("recentre on", "Recentre", "off → on"),
        ("focal length 85", "Focal length", "50 mm → 85 mm"),
        ("intensity *0.5", "Intensity", "70% → 35%"),
        ("roughness +0.1", "Roughness", "0.20 → 0.30"),
        ("less shake", "Intensity", "70% → 56%"),
        ("hit 3.5 s 80 %", "Hit", "at 3.50 s, strength 80 %"),
        ("f95", "Go to frame 95", "frame 95, 00:03:23"),
    ],
)
def test_an_entry_says_what_would_change(place: Place, text: str, name: str, detail: str) -> None:
    first = ask(text, place).entries[0]
    assert (first.name, first.detail) == (name, detail)


@pytest.mark.parametrize("seconds", [2, 3, 6])
@pytest.mark.parametrize(
    ("text", "column", "want"),
    [("30 px 2 Hz", "y_px", 30), ("roll 0.3° 5 Hz", "roll_deg", 0.3), ("10 px 0.05 Hz", "x_px", 10)],
)
def test_a_size_that_was_asked_for_is_reached(
    tmp_path: Path, text: str, column: str, want: float, seconds: int
) -> None:
    shot = api.shake(clip(tmp_path / "wall.mp4", frames=24 * seconds), move=(text,), size="1920x1080")
    reached = np.quantile(np.abs(api.motion(shot).columns[column]), 0.95)
    assert reached == pytest.approx(want, rel=0.05)


def test_sentences_on_the_command_line(tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    source, out = clip(tmp_path / "wall.mp4", frames=12), tmp_path / "out.mp4"
    assert main(["shake", str(source), "-o", str(out), "--move", "9 px 2 Hz", "--set", "shutter 90"]) == 0
    assert out.exists()
    capsys.readouterr()
    for wrong, named in (
        ("--move", "nonsense 5"),
        ("--move", "9 px sideways banana"),
        ("--set", "qqqq 5"),
        ("--set", "edges"),
    ):
        assert main(["shake", str(source), "-o", str(tmp_path / "no.mp4"), wrong, named]) == 2
        assert capsys.readouterr().err.count("\n") == 1
    assert main(["ask", "-6 dB", "--project", str(preset_library.DEMO), "--json"]) == 0
    answer = json.loads(capsys.readouterr().out)
    assert set(answer) == {"understood", "entries"}
    assert {"kind": "set", "name": "Level", "detail": "0.0 dB → −6.0 dB"} in answer["entries"]


def test_a_motion_is_a_preset_of_the_library() -> None:
    preset = api.move(("30 px 2 Hz", "jolt 20 px 9 Hz"), size=(1280, 720), seconds=4)
    drift, jolts = preset.shake.strands
    assert isinstance(drift, Drift)
    assert isinstance(jolts, Jolts)
    assert drift.channels.x.reach == pytest.approx(100 * 30 / 720)
    with pytest.raises(api.UnreadableValue, match="banana"):
        api.move("30 px banana")


@pytest.fixture
def desk(qtbot, footage: Path) -> Iterator[Desk]:  # type: ignore[no-untyped-def]
    made = Desk(qtbot, Session(shot_edits.add_shot(footage, preset_library.preset("walking"))(Project())))
    made.settle()
    yield made
    made.close()


def type_and_return(desk: Desk, text: str) -> None:
    desk.key("k", CTRL)
    field = QApplication.focusWidget()
    assert field is desk.window.desk.header.ask
    QTest.keyClicks(field, text)
    QTest.keyClick(field, K.Key_Return)


@pytest.mark.parametrize(
    ("text", "name", "detail"),
    [
        ("no motion blur", "Shutter angle", "180° → 0°"),
        ("turn off motion blur", "Shutter angle", "180° → 0°"),
        ("less blur", "Shutter angle", "180° → 144°"),
        ("stop shaking", "Intensity", "70% → 0%"),
        ("no roll", "Leave axes out", "roll"),
        ("less roll", "Scale axes", "roll × 0.8"),
        ("more subtle", "Intensity", "70% → 56%"),
        ("half amount", "Amount", "100% → 50%"),
        ("crop 5 %", "Crop by hand", "1.000× → 1.050×"),
        ("crop at most 3 %", "Crop at most", "3 %"),
        ("weaker hits", "Shift", "0.90% → 0.72%"),
        ("add camera shake", "Add a drift", "Shake"),
        ("x only", "Leave axes out", "y, roll, zoom, pan, tilt"),
        ("only sideways", "Leave axes out", "y, roll, zoom, tilt"),
        ("edges crop", "Edges", "Crop in, steady already"),
        ("hide black corners", "Edges", "Crop in, steady already"),
        ("black corners", "Edges", "Crop in, steady"),
        ("scale 105", "Size", "100.0% → 105.0%"),
        ("per word", "Title: parts", "Letter → Word"),
        ("font size 20", "Title: size", "15.0% → 20.0%"),
        ("swell at 1 s", "Swell around here", "Intensity, 1 s at 00:01:00"),
        ("motion blur swell at 2 s", "Swell around here", "Shutter angle, 1 s at 00:02:00"),
        ("3 px 4 Hz for the title alone", "On the plate NIGHT PROOF alone", "Drift: x and y 3 px, 4 Hz"),
        ("export prores", "Render…", "ProRes 422 HQ"),
        ("no jolts", "Kicks", "0 /min"),
        ("new seed", "New course", "Shake"),
        ("shake only from 1 s to 3 s", "Only there", "Intensity, 1.00 s to 3.00 s"),
        ("no shake in the first second", "Still at first", "Intensity, nothing up to 1.00 s"),
        ("still for the first 2 s", "Still at first", "Intensity, nothing up to 2.00 s"),
        ("undo all", "Steps", "Edit"),
        ("next hit", "Hit after", "Chart"),
        ("remove all hits", "Remove all hits", "Shake"),
    ],
)
def test_the_first_answer_is_what_people_mean(text: str, name: str, detail: str, place: Place) -> None:
    first = ask(text, place).entries[0]
    assert (first.name, first.detail) == (name, detail)


@pytest.mark.parametrize("name", ["Walking", "Press strike", "Title on twos", "Standing, breathing"])
def test_axes_that_are_left_out_stand_still(name: str) -> None:
    shot = shot_edits.add_shot(Path("press.mp4"), preset_library.preset(name))(Project()).shots[0]
    hits = (Hit("h", 1.0),)
    entry = ask("no roll and no zoom", Place(shot, seconds=4.0)).entries[0]
    assert isinstance(entry.act, ChangeShot)
    before, after = (sample.sample(shake, TIMES, hits=hits) for shake in (shot.shake, entry.act.edit(shot).shake))
    assert not after[:, 2:4].any()
    np.testing.assert_array_equal(after[:, :2], before[:, :2])


def test_a_stretch_alone_shakes_and_the_beginning_stands_still(place: Place) -> None:
    t = np.array([0.5, 0.9, 1.5, 2.5, 3.2])
    for text, moves in (("shake from 1 s to 3 s", [0, 0, 1, 1, 0]), ("no shake in the first second", [0, 0, 1, 1, 1])):
        entry = ask(text, place).entries[0]
        assert isinstance(entry.act, ChangeShot)
        assert (entry.act.edit(place.shot).shake.intensity.at(t) > 0).astype(int).tolist() == moves
    for text in ("no roll in the first second", "no first hit", "render from 1 s to 3 s", "shutter from 20 to 90"):
        assert ask(text, place).entries[0].name not in ("Only there", "Still at first")


def test_another_course_of_the_whole_shake_and_of_all_that_are_chosen(desk: Desk) -> None:
    desk.key("d", CTRL)
    desk.key("a", CTRL)
    before = desk.project.shots
    type_and_return(desk, "new course")
    seeds = [[strand.seed for strand in shot.shake.strands] for shot in (*before, *desk.project.shots)]
    assert len(seeds) == 4
    assert len(set(map(tuple, seeds))) == 4
    desk.key("z", CTRL)
    assert desk.project.shots == before


def test_whoever_is_asked_to_hold_new_footage_holds_it(qtbot, tmp_path: Path) -> None:  # type: ignore[no-untyped-def]
    desk = Desk(qtbot, Session())
    desk.open(clip(tmp_path / "press.mp4", frames=30))
    desk.window.commands.do("holder")
    assert desk.shot.shake.holder == Holder()
    assert len(desk.shot.shake.strands) > 3
    desk.close()


def test_a_drift_of_stated_pixels_in_three_gestures(desk: Desk) -> None:
    type_and_return(desk, "9 px 2 Hz")  # Ctrl+K, the figures, Return
    (drift,) = desk.shot.shake.strands
    assert isinstance(drift, Drift)
    assert drift.channels.x.reach == pytest.approx(100 * 9 / desk.window.desk.state.info.size[1])  # type: ignore[union-attr]
    assert desk.window.desk.session.undo_label == "Drift in figures"
    desk.key("z", CTRL)
    assert desk.shot.shake.preset == "Walking"


def test_looking_changes_nothing_and_esc_gives_the_keys_back(desk: Desk) -> None:
    before = desk.project
    desk.key("k", CTRL)
    field = desk.window.desk.header.ask
    QTest.keyClicks(field, "near blast")
    desk.until(lambda: desk.window.desk.stage._trial is not None)
    QTest.keyClick(field, K.Key_Down)
    assert desk.project == before
    QTest.keyClick(field, K.Key_Escape)
    assert desk.project == before
    assert not desk.window.asking.line.isVisible()
    assert QApplication.focusWidget() is desk.window.desk.whole


def test_a_setting_without_a_value_gets_the_focus_and_nothing_found_gives_examples(desk: Desk) -> None:
    type_and_return(desk, "motion blur")
    desk.until(lambda: isinstance(QApplication.focusWidget(), NumberField))
    control = QApplication.focusWidget()
    assert isinstance(control, NumberField)
    assert "angle" in control.label.casefold()
    desk.key("k", CTRL)
    QTest.keyClicks(desk.window.desk.header.ask, "qqqqqq")
    assert "30 px 2 Hz" in desk.window.asking.line.empty.text()
    assert desk.window.asking.line.entries == []


def test_a_swell_around_the_playhead_in_three_gestures(desk: Desk) -> None:
    desk.window.desk.stage.go(24)
    type_and_return(desk, "swell here 1 s")
    keys = desk.shot.shake.intensity.keys
    assert [(round(key.t, 3), key.value) for key in keys] == [(0.5, 0.0), (1.0, 1.0), (1.5, 0.0)]


@pytest.mark.parametrize(
    ("typed", "shown"), [("90", 90.0), ("*0.5", 90.0), ("+20", 200.0), ("1/96 s", 90.0), ("1.5708 rad", 90.0)]
)
def test_a_field_takes_any_unit_that_fits(desk: Desk, typed: str, shown: float) -> None:
    angle = desk.window.desk.panel.frame.angle
    desk.type_into(angle, typed)
    assert angle.value == pytest.approx(shown, abs=0.2)
    desk.type_into(angle, "12 Hz")  # no angle: it stays in the field, marked, and nothing is changed
    assert angle.value == pytest.approx(shown, abs=0.2)
    assert "is no number" in desk.said()


def test_every_command_that_is_offered_can_be_done(desk: Desk, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(QFileDialog, "getOpenFileName", lambda *a, **k: ("", ""))
    menus = [text.name for text in COMMAND_TEXTS.values() if text.menu_only]
    for name in (*menus, *(f"add-sound-{word}" for word in SOUNDS), "add-drift", "add-take"):
        desk.window.asking._do(name)
        desk.back()
    assert {type(row).__name__ for row in desk.shot.sound.rows} == {"Rumble", "Knocks"}


def test_the_command_line_shapes_a_motion_and_says_how_a_take_is_used(tmp_path: Path) -> None:
    press, walk = (str(preset_library.ASSETS / "demo" / name) for name in ("press-wide.mp4", "aisle-walk.csv"))
    shot = api.shake(press, move=["30 px 2 Hz"], start=1.0, shape="0 at 2 s, 50 % at 3 s; 0@4s")
    assert shot.shake.intensity.at(np.array([0.0, 1.0, 2.0, 3.0, 9.0])).tolist() == [0, 0, 0.5, 0, 0]
    shot = api.shake(press, preset="Walking", start=1.0, motion_start=2.0, motion_end="00:00:03:00")
    moved = np.abs(sample.sample(shot.shake, np.array([0.5, 1.5, 2.5]))).sum(axis=1)
    assert moved[1] > 0
    assert moved[0] == moved[2] == 0
    plain, used = (
        sample.sample(api.shake(press, take=walk, **use).shake, np.array([0.7, 1.4]))
        for use in ({}, {"mirror": True, "gains": ["0.5", "roll 200 %"]})
    )
    np.testing.assert_allclose(used[:, :3], plain[:, :3] * (-0.5, 0.5, -2), atol=1e-9)
    slow, quick = (
        sample.sample(api.shake(press, take=walk, part=part).shake, np.arange(1, 5, 0.04))[:, 0].std()
        for part in ("whole", "shake")
    )
    assert quick < slow
    for asked, word in (
        ({"shape": "0 at noon"}, "no shape"),
        ({"shape": "0 at 3 s, 1 at 2 s"}, "order"),
        ({"mirror": True}, "name a take"),
        ({"take": walk, "gains": ["roll much"]}, "no gain"),
        ({"motion_start": 3, "motion_end": 2}, "later end"),
    ):
        with pytest.raises(TremorError, match=word):
            api.shake(press, **asked)


def test_a_saved_shake_of_any_form_can_be_given_back(tmp_path: Path, capsys) -> None:  # type: ignore[no-untyped-def]
    press, folder = str(preset_library.ASSETS / "demo" / "press-wide.mp4"), tmp_path
    assert main(["presets", "--json"]) == 0
    listed = json.loads(capsys.readouterr().out)
    walking = preset_library.preset("Walking")
    (folder / "list.json").write_text(json.dumps(listed))
    (folder / "one.json").write_text(json.dumps(next(item for item in listed if item["name"] == "Walking")))
    preset_library.export(("Walking",), folder / "exported.json")
    for name in ("list.json#walking", "one.json", "exported.json"):
        given = api.shake(press, saved=folder / name).shake
        np.testing.assert_array_equal(sample.sample(given, TIMES), sample.sample(walking.shake, TIMES))
    schema = json.loads((preset_library.ASSETS / "presets.schema.json").read_text())
    assert schema == json.loads(codec.presets_schema_json()), "refresh src/young_tremor/assets/presets.schema.json"
    jsonschema.validate(json.loads((folder / "exported.json").read_text()), schema)
    project = preset_library.demo_project()
    moved = next(shot for shot in project.shots if shot.hits)
    api.save(project, folder / "night.tremor")
    shot = api.shake(press, saved=f"{folder / 'night.tremor'}#{moved.name}")
    assert shot.hits == moved.hits
    assert [strand.name for strand in shot.shake.strands] == [strand.name for strand in moved.shake.strands]
    for name, word in (
        ("night.tremor#Nobody", "no shot"),
        ("list.json#Nobody", "holds no"),
        ("gone.tremor#A", "there"),
    ):
        with pytest.raises(TremorError, match=word):
            api.shake(press, saved=folder / name)
    (folder / "bad.json").write_text('[{"format": "young-tremor presets", "version": null, "shake": 3}]')
    with pytest.raises(TremorError, match="damaged"):
        api.shake(press, saved=folder / "bad.json")


def test_words_of_the_manuals_index_lead_where_it_says(place: Place) -> None:
    index = word_index.index()
    led = [
        any(entry.name.rstrip("…") in where for entry in ask(word, place).entries[:3] for where in places)
        for word, places in index.items()
    ]
    assert len(led) > 1000
    assert sum(led) >= 0.95 * len(led)


def test_a_word_of_the_index_that_is_clicked_is_asked_for(desk: Desk) -> None:
    desk.window.act.overlays.show_manual("13-index")
    manual = desk.window.act.overlays._manual
    assert manual is not None
    manual.page.anchorClicked.emit(QUrl("ask:motion%20blur"))
    assert desk.window.desk.header.ask.text() == "motion blur"
    assert desk.window.asking.line.entries[0].name == "Shutter angle"
    manual.page.anchorClicked.emit(QUrl("6-blur.md"))
    assert manual.list.currentItem().text().startswith("Motion blur")
    manual.close()


def test_the_empty_desk_types_what_can_be_asked_for(qtbot, monkeypatch: pytest.MonkeyPatch) -> None:  # type: ignore[no-untyped-def]
    monkeypatch.setattr(welcome, "KEY", 1)
    desk = Desk(qtbot)
    examples = desk.window.welcome.findChild(welcome.TypedExamples)
    assert examples is not None
    assert len([b for b in desk.window.welcome.findChildren(QPushButton) if b is not examples]) == 3
    desk.until(lambda: examples.text().startswith(WELCOME[0]))
    desk.click(examples)
    assert desk.window.desk.header.ask.text() == WELCOME[0]
    assert all(ask(text).understood or ask(text).entries for text in WELCOME)
    desk.close()


def test_three_hints_after_the_first_footage_each_gone_when_followed(desk: Desk) -> None:
    hint = desk.window.desk.hint
    names = [hint.name]
    type_and_return(desk, "subtle handheld")
    desk.until(lambda: hint.name != names[-1])
    names.append(hint.name)
    desk.key("p")
    desk.window.hints.look()
    names.append(hint.name)
    desk.window.desk.popup.hide()
    desk.window.desk.state.choose(peek=True)
    desk.window.desk.state.choose(peek=False)
    assert names == ["ask", "presets", "still"]
    assert hint.name == ""
    assert set(names) <= set(settings_of_desk.load().hints)


class Counted:
    """Does things in the window by real keys and mouse, and counts them: a key, a click, a typed text."""

    def __init__(self, desk: Desk) -> None:
        self.desk, self.done = desk, 0

    def key(self, key: Qt.Key | str, modifiers: Qt.KeyboardModifier = Qt.KeyboardModifier.NoModifier) -> None:
        self.desk.key(key, modifiers)
        self.done += 1

    def ask(self, text: str) -> None:
        type_and_return(self.desk, text)
        self.done += 3

    def type_into(self, field: NumberField, text: str) -> None:
        self.desk.type_into(field, text)
        self.done += 3

    def click(self, widget: QWidget, x: float, y: float) -> None:
        self.desk.click(widget, x, y)
        self.done += 1


def test_a_jolt_between_two_frames_in_three_gestures(desk: Desk) -> None:
    work = Counted(desk)
    work.ask("jolt 20 px 8 Hz from f12 to f30")
    strand = desk.shot.shake.strands[-1]
    assert isinstance(strand, Jolts)
    times = np.arange(48) / 24
    moved = np.abs(sample.strand(desk.shot.shake, len(desk.shot.shake.strands) - 1, times, hits=desk.shot.hits)).sum(
        axis=1
    )
    assert moved[12:30].max() > 0
    assert moved[:12].max() == moved[31:].max() == 0
    assert work.done <= 10


def test_a_title_that_trembles_faster_and_faster_in_nine_gestures(desk: Desk) -> None:
    work = Counted(desk)
    work.key("t", Qt.KeyboardModifier.ShiftModifier)
    desk.until(lambda: desk.shot.plates[-1].media.kind == "title")
    before = desk.shot.shake
    work.ask("roll 0.6° 2 to 8 Hz")
    title = desk.shot.plates[-1]
    assert title.shake is not None
    (drift,) = title.shake.strands
    assert isinstance(drift, Drift)
    end = desk.window.desk.view.length
    assert drift.rate.at(np.array([0.0, end / 2, end])).tolist() == pytest.approx([2, 5, 8], abs=0.01)
    assert desk.shot.shake is before
    assert work.done <= 9


def test_own_keys_repeated_over_the_shot_in_twenty_gestures(desk: Desk) -> None:
    work = Counted(desk)
    desk.window.desk.stage.go(0)
    work.ask("add plotted")
    panel = desk.window.desk.panel.plotted
    desk.until(lambda: desk.window.desk.panel.current is panel)
    for frame, text in ((0, "0"), (4, "10 px"), (8, "-10 px"), (12, "0")):
        if frame:
            desk.scrub(desk.window.desk.chart.ruler, frame)
            work.done += 1
        work.type_into(panel.values["x"], text)
    work.click(panel.repeat, 8, panel.repeat.height() / 2)
    strand = desk.shot.shake.strands[-1]
    assert isinstance(strand, Plotted)
    height = sentences.place_of(desk.shot).size[1]
    assert [round(key.value / 100 * height) for key in strand.x.keys] == [0, 10, -10, 0]
    assert strand.repeat
    assert desk.shot.frame.edges == "crop"
    assert desk.shot.frame.shutter.angle == Curve(180.0)
    assert work.done <= 20


@given(
    weight=st.integers(2, 200).map(lambda tenth: tenth / 10),
    grip=st.sampled_from([word for word, _ in GRIP_OPTIONS]),
    doing=st.sampled_from([word for word, _ in DOING_OPTIONS]),
    speed=st.integers(1, 30),
    nerves=st.integers(0, 10).map(lambda tenth: tenth / 10),
    flinch=st.booleans(),
)
def test_a_holder_that_was_understood_says_the_same_again(
    weight: float, grip: Grip, doing: Doing, speed: int, nerves: float, flinch: bool
) -> None:
    moves = doing in holder_phrase.SPEEDS
    holder = Holder(
        weight=weight, grip=grip, doing=doing, nerves=Curve(nerves), flinch=flinch, speed=Curve(speed if moves else 4.5)
    )
    words = holder_phrase.HolderPhrase(holder).words()
    assert holder_phrase.read(words) == holder
    assert holder_phrase.read(words.replace(",", "")) == holder


def test_somebody_holds_the_camera_by_words_and_by_dials(desk: Desk) -> None:
    type_and_return(desk, "2 kg, two hands, walks 4 km/h")
    shake = desk.shot.shake
    assert shake.holder == Holder(weight=2.0, doing="walks", speed=Curve(4.0))
    desk.window.desk.state.choose(strand=shake.strands[0].id)
    panel = desk.window.desk.panel.drift
    before = shake.strands[0].channels.y.reach  # type: ignore[union-attr]
    panel.holder.numbers["speed"]._once(5.5)
    assert desk.shot.shake.strands[0].channels.y.reach > before  # type: ignore[union-attr]
    assert desk.window.desk.session.undo_label == "Holder"
    desk.key("z", CTRL)
    assert desk.shot.shake == shake
    shot = api.shake(str(preset_library.ASSETS / "demo" / "press-wide.mp4"), holder="2 kg, two hands, walks 4 km/h")
    assert shot.shake.holder == shake.holder
    with pytest.raises(TremorError, match="not understood"):
        api.shake(str(preset_library.ASSETS / "demo" / "press-wide.mp4"), holder="2 kg of feathers")
