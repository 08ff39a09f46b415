"""Focus and choice: what was clicked last has the keys, and nothing is taken away that was not."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from pathlib import Path

import pytest
from msgspec.structs import replace
from PySide6.QtCore import QPoint, Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication, QComboBox

from clips import clip
from driver import Desk
from young_tremor.desk.panels.strand_panel import StrandPanel
from young_tremor.desk.sheets.preset_sheet import ApplyWay as PresetWay
from young_tremor.engine.delivery import batch
from young_tremor.engine.document.session import Session
from young_tremor.engine.library import preset_library
from young_tremor.engine.sound import sound_presets
from young_tremor.model import curve_edits, reel_edits, shot_edits, sound_edits
from young_tremor.model.curve import Curve
from young_tremor.model.project import Project, Span
from young_tremor.model.shake import Hit, Jolts, Plotted
from young_tremor.model.sound import Rumble

K = Qt.Key
CTRL, SHIFT = Qt.KeyboardModifier.ControlModifier, Qt.KeyboardModifier.ShiftModifier
Way = Callable[[Desk], None]


def scene(folder: Path) -> Project:
    """Two shots; the first has hits, keys, a plate, a sound and a plotted strand; a span lies over both."""
    films = tuple(clip(folder / f"{name}.mp4", frames=48, size=(160, 90), audio=True) for name in ("one", "two"))
    project = batch.make_reel(films, preset_library.preset("walking"))
    first = project.shots[0]
    curve = curve_edits.with_key(curve_edits.with_key(Curve(1.0), 0.5), 1.0)
    steps = (
        shot_edits.add_hits(first.id, (Hit("h1", 0.5), Hit("h2", 1.5))),
        shot_edits.add_strand(first.id, Jolts("jolts")),
        shot_edits.add_strand(first.id, Plotted("plot")),
        shot_edits.add_plate(first.id, replace(shot_edits.fill_plate(), id="fill")),
        shot_edits.set_shake(first.id, intensity=curve),
    )
    for step in steps:
        project = step(project)
    shake = shot_edits.unlike(shot_edits.from_preset(preset_library.preset("walking")), shot_edits.shakes_of(project))
    project = reel_edits.add_span(Span("span", "Quake", 0.5, 2.5, shake=shake))(project)
    return sound_edits.add_sounds(first.id, (replace(sound_presets.find_sound(Rumble, "ground"), id="rumble"),))(
        project
    )


@pytest.fixture
def project(tmp_path: Path) -> Project:
    return scene(tmp_path)


@pytest.fixture
def desk(qtbot, project: Project) -> Iterator[Desk]:  # type: ignore[no-untyped-def]
    desk = Desk(qtbot, Session(project))
    desk.settle()
    yield desk
    desk.close()


def by_key(key: K | str, modifiers: Qt.KeyboardModifier = Qt.KeyboardModifier.NoModifier) -> Way:
    """A sheet is opened by a key and closed by Esc."""

    def way(desk: Desk) -> None:
        desk.key(key, modifiers)
        popup = QApplication.activePopupWidget()
        if popup is not None:
            QTest.keyClick(popup, K.Key_Escape)
            desk.back()
        else:
            desk.key(K.Key_Escape)

    return way


def footage_opened(desk: Desk) -> None:
    desk.open(clip(Path(desk.shot.footage.media.path).with_name("three.mp4"), frames=24, size=(160, 90)))


def number_typed(desk: Desk) -> None:
    row = next(iter(desk.window.desk.chart._rows.values()))
    desk.type_into(row.amount, "90")


def number_left(desk: Desk) -> None:
    row = next(iter(desk.window.desk.chart._rows.values()))
    desk.click(row.amount, row.amount.width() - 8, 8)
    desk.key(K.Key_Escape)


def number_dragged_then_left(desk: Desk) -> None:
    row = next(iter(desk.window.desk.chart._rows.values()))
    desk.drag_rule(row.amount, 60)
    desk.key(K.Key_Escape)


def name_typed(desk: Desk) -> None:
    strand(desk)
    panel = desk.window.desk.panel.current
    assert isinstance(panel, StrandPanel)
    field = panel.name
    field.setFocus()
    field.setText("Steps")
    QTest.keyClick(field, K.Key_Return)
    QApplication.processEvents()


def list_chosen(desk: Desk) -> None:
    desk.window.desk.state.choose(strand=None)
    box: QComboBox = desk.window.desk.panel.frame.edges
    box.setFocus()
    box.showPopup()
    view = box.view()
    QTest.keyClick(view, K.Key_Down)
    QTest.keyClick(view, K.Key_Return)
    desk.until(lambda: not view.isVisible())
    desk.back()
    assert desk.shot.frame.edges == box.currentData()


def scrubbed(desk: Desk) -> None:
    desk.scrub(desk.window.desk.chart.ruler, 20)


def picture_clicked(desk: Desk) -> None:
    desk.click(desk.window.desk.picture)


def shot_print(desk: Desk) -> None:
    desk.click(next(iter(desk.window.desk.reel._prints.values())))


def two_prints(desk: Desk) -> None:
    shot_print(desk)
    other = list(desk.window.desk.reel._prints.values())[1]
    QTest.mouseClick(other, Qt.MouseButton.LeftButton, CTRL, other.rect().center())


def strand(desk: Desk) -> None:
    desk.window.desk.state.choose(strand=None)
    head = next(iter(desk.window.desk.chart._rows.values())).head
    desk.click(head, 60, head.height() / 2)


def pin(desk: Desk) -> None:
    ruler = desk.window.desk.chart.ruler
    desk.click(ruler, desk.window.desk.view.x(0.5, ruler.width()), ruler.height() - 12)


def key(desk: Desk) -> None:
    curve = desk.window.desk.chart.curves["Intensity"]
    place = curve.editors["Intensity"]._place(desk.shot.shake.intensity.keys[1])
    desk.click(curve.strip, place.x(), place.y())


def plate(desk: Desk) -> None:
    desk.window.desk.state.choose(page="plates", strand=None)
    row = desk.window.desk.panel.plates._rows["fill"]
    desk.click(row, 120, 12)


def sound(desk: Desk) -> None:
    desk.window.desk.state.choose(sound=None)
    head = desk.window.desk.chart.sounds.rows[desk.shot.sound.rows[0].id].head
    desk.click(head, 60, head.height() / 2)


def span(desk: Desk) -> None:
    desk.window.desk.state.choose(scope="reel")
    paper = desk.window.desk.scene.paper
    desk.until(lambda: paper.view.frames > 0 and paper.isVisible())
    y = next(y for y in range(paper.height()) if paper._under(paper.view.x(1.5, paper.width()), y)[0] is not None)
    desk.click(paper, paper.view.x(1.5, paper.width()), y)


NOTHING: dict[str, Way] = {
    "presets": by_key("p"),
    "takes": by_key("t"),
    "render": by_key("r", CTRL),
    "finder": by_key("k", CTRL),
    "preferences": by_key(",", CTRL),
    "keys": by_key("?"),
    "footage": footage_opened,
    "number": number_typed,
    "number left": number_left,
    "number dragged": number_dragged_then_left,
    "name": name_typed,
    "list": list_chosen,
    "ruler": scrubbed,
    "picture": picture_clicked,
}
#: A way, what it hands the keys to, and the things of a project that Delete then takes one (or two) of.
THINGS: dict[str, tuple[Way, str, Callable[[Project], int], int]] = {
    "print": (shot_print, "shot", lambda p: len(p.shots), 1),
    "two prints": (two_prints, "shot", lambda p: len(p.shots), 2),
    "strand": (strand, "strand", lambda p: len(p.shots[0].shake.strands), 1),
    "pin": (pin, "hit", lambda p: len(p.shots[0].hits), 1),
    "key": (key, "keys", lambda p: len(p.shots[0].shake.intensity.keys), 1),
    "plate": (plate, "plate", lambda p: len(p.shots[0].plates), 1),
    "sound": (sound, "sound", lambda p: len(p.shots[0].sound.rows), 1),
    "span": (span, "span", lambda p: len(p.spans), 1),
}


def sizes(project: Project) -> list[int]:
    return [
        len(project.shots),
        len(project.spans),
        *(
            count
            for shot in project.shots
            for count in (len(shot.shake.strands), len(shot.hits), len(shot.plates), len(shot.sound.rows))
        ),
    ]


@pytest.mark.parametrize("before", ["print", "strand", "pin", "key"])
def test_after_sheets_fields_and_the_ruler_keys_belong_to_the_playhead(
    desk: Desk, project: Project, before: str
) -> None:
    """Whatever was clicked before: Delete takes nothing away and says so, arrows step frames, no number changes."""
    for name, way in NOTHING.items():
        desk.window.desk.session.start(project)
        THINGS[before][0](desk)
        assert desk.window.desk.state.now.target == THINGS[before][1], name
        way(desk)
        desk.settle()
        assert desk.window.desk.state.now.target == "", name
        known = desk.project
        for press in (K.Key_Delete, K.Key_Backspace):
            desk.key(press)
            assert desk.project is known, (name, press)
            assert "Nothing is chosen" in desk.said()
        for press, frame in (
            (K.Key_Home, 0),
            (K.Key_Right, 1),
            (K.Key_Right, 2),
            (K.Key_Left, 1),
            (K.Key_Return, 1),
            (K.Key_Escape, 1),
            (K.Key_End, desk.window.desk.view.frames - 1),
        ):
            desk.key(press)
            assert desk.frame == frame, (name, press)
            assert desk.project is known, (name, press)
            assert QApplication.activePopupWidget() is None, name


@pytest.mark.parametrize("thing", THINGS)
def test_delete_takes_what_was_clicked_last_alone_and_one_undo_brings_it_back(desk: Desk, thing: str) -> None:
    way, target, count, gone = THINGS[thing]
    for earlier in ("print", "strand", "pin"):  # what was clicked before does not matter
        if earlier != thing:
            THINGS[earlier][0](desk)
    way(desk)
    assert desk.window.desk.state.now.target == target
    known, before = desk.project, sizes(desk.project)
    desk.key(K.Key_Delete)
    assert "Removed" in desk.said()
    assert "Ctrl+Z brings it back" in desk.said()
    if desk.project.shots:
        assert count(known) - count(desk.project) == gone or target == "shot"
        after = sizes(desk.project)
        assert target in ("shot", "keys") or sum(a != b for a, b in zip(before, after, strict=True)) == 1
    desk.key(K.Key_Delete)  # and no second thing after it
    assert count(desk.project) == count(known) - gone or not desk.project.shots or target == "shot"
    while desk.window.desk.session.undo_label and desk.project != known:
        desk.key("z", CTRL)
    assert desk.project == known


@pytest.mark.parametrize("thing", ["print", "strand", "plate", "sound"])
def test_arrows_step_frames_while_a_thing_is_marked_that_has_no_use_for_them(desk: Desk, thing: str) -> None:
    THINGS[thing][0](desk)
    known = desk.project
    for press, frame in ((K.Key_Home, 0), (K.Key_Right, 1), (K.Key_Right, 2), (K.Key_Left, 1)):
        desk.key(press)
        assert desk.frame == frame
    assert desk.project is known
    desk.key(K.Key_Escape)
    assert desk.window.desk.state.now.target == ""


@pytest.mark.parametrize("thing", ["pin", "key"])
def test_arrows_move_a_pin_or_a_key_until_esc(desk: Desk, thing: str) -> None:
    THINGS[thing][0](desk)
    known = desk.project
    desk.key(K.Key_Right)
    assert desk.project != known
    moved, frame = desk.project, desk.frame
    desk.key(K.Key_Escape)
    desk.key(K.Key_Right)
    assert desk.project == moved
    assert desk.frame == frame + 1


def test_several_shots_stay_chosen_only_while_they_are_marked(desk: Desk, tmp_path: Path) -> None:
    window = desk.window
    prints = list(window.desk.reel._prints.values())
    both = {shot.id for shot in desk.project.shots}
    ends: dict[str, Callable[[], None]] = {
        "esc": lambda: desk.key(K.Key_Escape),
        "a print": lambda: desk.click(prints[0]),
        "another scope": lambda: desk.key("r"),
        "back": lambda: desk.key("r"),
        "footage": lambda: footage_opened(desk),
    }
    for how, end in ends.items():
        for modifier in (CTRL, SHIFT):
            desk.click(prints[0])
            QTest.mouseClick(prints[1], Qt.MouseButton.LeftButton, modifier, QPoint(50, 40))
            assert window.desk.state.chosen_shots == both, how
            assert all(card.current for card in prints)
        end()
        assert len(window.desk.state.chosen_shots) == 1, how
    amount = [shot.shake.intensity for shot in desk.project.shots[:2]]
    window.desk.session.apply("Amount", shot_edits.set_shake(desk.shot.id, intensity=Curve(0.5)))
    assert [shot.shake.intensity for shot in desk.project.shots[:2]] == amount


def test_the_playhead_is_where_it_was_after_presets_were_tried(desk: Desk) -> None:
    desk.scrub(desk.window.desk.chart.ruler, 20)
    known = desk.project
    desk.key("p")
    popup = desk.window.desk.popup
    desk.until(popup.isVisible)
    popup.tried.emit(popup._presets[3], PresetWay())
    desk.until(lambda: desk.window.desk.stage.playing and desk.frame != 20)
    QTest.keyClick(popup, K.Key_Escape)
    desk.until(lambda: not popup.isVisible())
    assert desk.frame == 20
    assert not desk.window.desk.stage.playing
    assert desk.project is known


def test_footage_opened_together_and_spans_never_move_alike(desk: Desk, tmp_path: Path) -> None:
    more = [clip(tmp_path / f"more {n}.mp4", frames=12, size=(160, 90)) for n in range(2)]
    desk.drop(*more)
    desk.until(lambda: len(desk.project.shots) == 4)
    desk.window.act.reel.add_span()
    desk.window.act.reel.add_span()
    desk.window.act.shake.apply_preset(preset_library.preset("walking"), PresetWay())
    shakes = shot_edits.shakes_of(desk.project)
    seeds = [(type(s), s.seed) for shake in shakes for s in shake.strands if not isinstance(s, Jolts | Plotted)]
    assert len(seeds) == len(set(seeds))


@pytest.mark.parametrize("how", ["take", "several", "jolts", "plotted", "H"])
def test_the_drift_of_new_footage_gives_way_once_to_what_is_put_on(desk: Desk, how: str, tmp_path: Path) -> None:
    from young_tremor.engine.library import takes

    films = [clip(tmp_path / f"new {n}.mp4", frames=24, size=(160, 90)) for n in range(2)]
    desk.window.desk.session.start(Project())
    desk.drop(*films)
    desk.until(lambda: len(desk.project.shots) == 2)
    desk.settle()
    drifts = {strand.id for shot in desk.project.shots for strand in shot.shake.strands}
    take = takes.read(preset_library.ASSETS / "demo" / "aisle-walk.csv")
    if how == "several":
        desk.key("a", CTRL)
    {
        "take": lambda: desk.window.act.takes.use(take),
        "several": lambda: desk.window.act.takes.use(take),
        "jolts": lambda: desk.window.act.shake.add_strand("jolts"),
        "plotted": lambda: desk.window.act.shake.add_strand("plotted"),
        "H": lambda: desk.key("h"),
    }[how]()
    touched = desk.project.shots if how == "several" else (desk.shot,)
    assert all(shot.shake.strands and not drifts & {s.id for s in shot.shake.strands} for shot in touched)
    desk.window.act.shake.add_strand("drift")
    assert len(desk.shot.shake.strands) == 2  # only once
    desk.key("z", CTRL)
    desk.key("z", CTRL)
    assert {strand.id for shot in desk.project.shots for strand in shot.shake.strands} == drifts
