"""Sound on the desk: rows under their heading, the panel of the chosen one, what is played."""

from __future__ import annotations

from collections.abc import Iterator
from fractions import Fraction
from pathlib import Path

import numpy as np
import pytest
from PySide6.QtCore import QPoint, Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QFileDialog

from driver import Desk
from young_tremor.desk.sheets.preset_saving import PresetDraft
from young_tremor.engine.document.session import Session
from young_tremor.engine.library import preset_library, settings
from young_tremor.engine.playback.player import Player, SilentDevice
from young_tremor.engine.sound import mixing, sound_presets
from young_tremor.model import shot_edits, sound_edits
from young_tremor.model.curve import Curve
from young_tremor.model.project import Project
from young_tremor.model.shake import Hit
from young_tremor.model.sound import Knocks, Layer, Rumble

K = Qt.Key
SHIFT = Qt.KeyboardModifier.ShiftModifier


class Recorder(SilentDevice):
    """A device that keeps what it is given, and whose clock is put on by hand."""

    def __init__(self) -> None:
        self.clock, self.given = 0.0, []  # type: ignore[var-annotated]
        super().__init__(lambda: self.clock)

    def start(self, blocks: Iterator[np.ndarray]) -> None:
        super().start(blocks)
        self.given.append(blocks)


@pytest.fixture
def desk(qtbot, footage: Path) -> Iterator[Desk]:  # type: ignore[no-untyped-def]
    project = shot_edits.add_shot(footage, preset_library.preset("standing"))(Project())
    shot = project.shots[0]
    project = shot_edits.add_hits(shot.id, (Hit("h", 0.5),))(project)
    made = Desk(qtbot, Session(project), Recorder())
    made.settle()
    yield made
    made.close()


def waves(desk: Desk) -> None:
    desk.until(lambda: not desk.window.desk.runner.busy("waves"))


def test_sound_that_goes_with_a_shake_is_added_tuned_shaped_and_taken_away(desk: Desk) -> None:
    window, rows = desk.window, desk.window.desk.chart.sounds
    assert list(rows.rows) == ["footage"]
    assert rows.folded  # nothing is done to it: only the heading is seen
    desk.click(rows.group.head, 60, 12)
    waves(desk)
    assert rows.rows["footage"].row.isVisible()
    assert len(rows.wave("footage", 0.0, 2.0, 300)[0][0]) == 300
    assert rows.wave("footage", 0.0, 2.0, 300)[0][0].max() > 0.05
    desk.key("s", SHIFT)
    (made,) = desk.shot.sound.rows
    assert isinstance(made, Rumble)
    assert window.desk.state.now.sound == made.id
    assert window.desk.panel.current is window.desk.panel.sound
    panel = window.desk.panel.sound
    desk.type_into(panel.rules[Rumble]["tone"], "55")
    desk.type_into(panel.level, "-3")
    assert (desk.shot.sound.rows[0].tone, desk.shot.sound.rows[0].level.value) == (55.0, -3.0)
    panel.presets.setCurrentIndex(panel.presets.findData("Engine"))
    panel.presets.activated.emit(panel.presets.currentIndex())
    assert (desk.shot.sound.rows[0].hum, desk.shot.sound.rows[0].level.value) == (0.7, -3.0)
    row = rows.rows[made.id]
    waves(desk)
    before = rows.wave(made.id, 0.0, 2.0, 100)[0][0].max()
    desk.drag_rule(row.level, -24)
    waves(desk)
    desk.until(lambda: rows.wave(made.id, 0.0, 2.0, 100)[0][0].max() < 0.6 * before)
    desk.click(row.head.lamp)
    assert not desk.shot.sound.rows[0].on
    desk.key("z", Qt.KeyboardModifier.ControlModifier)
    assert desk.shot.sound.rows[0].on
    desk.click(rows.group.lamp)
    assert not desk.shot.sound.on
    assert not mixing.stems(desk.shot)[1:]
    desk.click(rows.group.lamp)
    desk.context(row.head, 60, 40)
    desk.pick("Shape the level over time")
    strip = row.strip
    at = strip.view.x(1.0, strip.width()), row.editors["level"].y(-12.0)
    place = QPoint(round(at[0]), round(at[1]))
    QTest.mouseDClick(strip, Qt.MouseButton.LeftButton, Qt.KeyboardModifier.NoModifier, place)
    assert len(desk.shot.sound.rows[0].level.keys) == 1
    window.act.shake.save_preset(PresetDraft("Press room", "", None, False))
    (kept,) = preset_library.preset("Press room").sounds
    assert (kept.name, kept.level) == (desk.shot.sound.rows[0].name, Curve(desk.shot.sound.rows[0].level.value))
    desk.context(row.head, 60, 40)
    desk.pick("Remove this sound")
    assert desk.shot.sound.rows == ()
    assert window.desk.state.now.sound is None


def test_knocks_layers_and_sway_have_their_controls(desk: Desk, footage: Path, monkeypatch) -> None:  # type: ignore[no-untyped-def]
    window, panel = desk.window, desk.window.desk.panel.sound
    window.act.sound.add("knocks", "Door slam")
    assert desk.shot.sound.rows[0].pitch == 105.0
    matter = panel.controls[Knocks].choices["matter"]
    assert matter.isVisible()
    matter.setCurrentIndex(matter.findData("metal"))
    matter.activated.emit(matter.currentIndex())
    assert desk.shot.sound.rows[0].matter == "metal"
    panel.take_file(str(footage))
    assert desk.shot.sound.rows[0].path == str(footage)
    monkeypatch.setattr(QFileDialog, "getOpenFileName", lambda *a, **k: (str(footage), ""))
    window.act.sound.add("layer")
    layer = desk.shot.sound.rows[1]
    assert isinstance(layer, Layer)
    desk.type_into(panel.rules[Layer]["place"], "-0.5")
    assert desk.shot.sound.rows[1].place == Curve(-0.5)
    follow = panel.controls[Layer].choices["follow"]
    follow.setCurrentIndex(follow.findData("speed"))
    follow.activated.emit(follow.currentIndex())
    assert desk.shot.sound.rows[1].follow == "speed"
    loop = panel.controls[Layer].switches["loop"]
    desk.click(loop, 8, loop.height() / 2)
    assert not desk.shot.sound.rows[1].loop
    window.act.sound.add("sway")
    assert desk.shot.sound.sway.on
    desk.type_into(panel.sway.numbers["level"], "5")
    whole = panel.sway.switches["whole"]
    desk.click(whole, 8, whole.height() / 2)
    desk.click(panel.limit, 8, panel.limit.height() / 2)
    assert (desk.shot.sound.sway.level, desk.shot.sound.sway.whole, desk.shot.sound.limit) == (5.0, True, False)
    waves(desk)
    assert set(window.desk.chart.sounds.rows) == {"footage", *(row.id for row in desk.shot.sound.rows), "sway"}


def test_what_is_played_is_the_mix_and_one_hit_is_heard_alone(desk: Desk) -> None:
    window, device = desk.window, desk.window.desk.stage._device
    window.act.sound.add("knocks", "Dull thud")
    desk.settle()
    desk.key(K.Key_Space)
    desk.until(lambda: window.desk.stage._waiting is None)
    desk.key(K.Key_Space)
    played = np.concatenate([next(device.given[-1]) for _ in range(4)])
    wanted = np.concatenate(list(mixing.blocks(desk.shot, 2.0)))
    np.testing.assert_array_equal(played, wanted[: len(played)])
    window.act.sound.hear("h")
    alone = np.concatenate(list(device.given[-1]))
    assert len(alone) == round(1.6 * 48000)
    knock = mixing.only_hit(desk.shot, desk.shot.hits[0])
    assert (knock.sound.footage, len(knock.hits)) == (False, 1)
    assert np.abs(alone).max() > 0.1
    desk.wheel(window.desk.transport.sound, -6, x=8)
    assert device.volume == pytest.approx(0.7)
    desk.click(window.desk.transport.sound)
    assert device.volume == 0.0
    assert settings.load().muted
    gone = Layer(id="g", name="Gone", path="/nowhere/hum.wav")
    window.desk.session.apply("Lay", sound_edits.add_sounds(desk.shot.id, (gone,)))
    desk.key(K.Key_Space)
    assert "not there" in desk.said()
    desk.key(K.Key_Space)


def test_a_span_sounds_and_the_reel_draws_it(desk: Desk) -> None:
    window = desk.window
    desk.key("r")
    desk.until(lambda: bool(window.desk.scene.paper.work.waves))
    window.act.reel.add_span()
    window.desk.panel.span._add_sound()
    assert desk.project.spans[0].sounds
    assert mixing.is_mixed(window.desk.state.seen)
    window.desk.scene.paper.repaint()


def test_a_device_that_is_gone_does_not_stop_the_picture() -> None:
    class Dead(SilentDevice):
        real = True

        def heard(self) -> float:
            return 0.25

    player = Player(Dead())
    player.play(start=0, first=0, last=99, rate=Fraction(24))
    assert player.due() == 6
    player._moved = (0.25, player._moved[1] - 10.0)
    player.due()
    assert player.lost
    assert not player.audible
    assert player.due() >= 6
    player.close()


def test_what_is_proposed_fits_what_is_there() -> None:
    shake = shot_edits.from_preset(preset_library.preset("press strike"))
    made = sound_presets.propose_sounds(shake)
    assert {type(row) for row in made} == {Rumble, Knocks}


def test_a_laid_file_becomes_a_thud_at_each_hit_and_its_place_is_a_curve(
    desk: Desk, footage: Path, monkeypatch
) -> None:  # type: ignore[no-untyped-def]
    window = desk.window
    monkeypatch.setattr(QFileDialog, "getOpenFileName", lambda *a, **k: (str(footage), ""))
    window.act.sound.add("layer")
    rows = window.desk.chart.sounds
    row = rows.rows[desk.shot.sound.rows[0].id]
    desk.context(row.head, 60, 40)
    desk.pick("Shape the place over time")
    assert row.strip.editor is row.editors["place"]
    spot = QPoint(100, round(row.editors["place"].y(-1.0)))
    QTest.mouseDClick(row.strip, Qt.MouseButton.LeftButton, Qt.KeyboardModifier.NoModifier, spot)
    assert [round(key.value) for key in desk.shot.sound.rows[0].place.keys] == [-1]
    desk.context(row.head, 60, 40)
    desk.pick("Thud at each hit from this file")
    (thud,) = desk.shot.sound.rows
    assert isinstance(thud, Knocks)
    assert thud.path == str(footage)
    desk.key("z", Qt.KeyboardModifier.ControlModifier)
    assert isinstance(desk.shot.sound.rows[0], Layer)
