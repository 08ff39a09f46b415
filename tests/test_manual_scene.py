"""The manual from plates to deliveries: what a page says is done, what it names is on the screen."""

from __future__ import annotations

from functools import partial
from pathlib import Path

import pytest
from PySide6.QtCore import QPoint
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QLineEdit, QMenu

from clips import clip
from walk import CTRL, LEFT, NONE, SHIFT, K, Walk, of
from young_tremor.desk.reel import reel_chart_paint
from young_tremor.engine.library import preset_library, settings
from young_tremor.model import shot_edits
from young_tremor.model.curve import Curve
from young_tremor.model.project import Project
from young_tremor.model.sound import Rumble


@pytest.fixture
def walk(qtbot) -> partial:  # type: ignore[no-untyped-def]
    return partial(Walk, qtbot)


def test_plates_and_titles(walk, footage: Path) -> None:  # type: ignore[no-untyped-def]
    desk = walk("7-plates", of(footage))
    window, plates, picture = desk.window, desk.window.desk.panel.plates, desk.window.desk.picture
    desk.step("Choose Plates at the head of the panel")
    window.desk.panel.pages.chosen.emit("plates")
    desk.click(plates.add)
    desk.look()
    desk.pick("A title")
    desk.until(lambda: len(desk.shot.plates) == 2)
    desk.step("Type the title. Drag it on the picture")
    desk.until(plates.title.words.hasFocus)
    QTest.keyClicks(plates.title.words, "PROOF")
    QTest.keyClick(plates.title.words, K.Key_Escape)
    assert desk.shot.plates[1].media.title.text == "PROOF"
    desk.settle()
    desk.until(lambda: picture.plate is not None)
    middle = picture.whole_rect().center()
    desk.drag(picture, (middle.x(), middle.y()), (middle.x() + 40, middle.y() + 20))
    assert desk.shot.plates[1].placement.x.value > 0
    desk.step("Share is how much of the shot's shake it takes")
    desk.type_into(plates.share, "50")
    desk.type_into(plates.distance, "0.8")
    desk.step("Tick On the glass for what must stand still")
    desk.press("On the glass")
    assert desk.shot.plates[1].glass
    desk.press("On the glass")
    desk.step("Give it a shake of its own, like Nervous title")
    desk.choose_in(plates.own, "Nervous title")
    plates.title.apart.chosen.emit("letter")
    made = desk.shot.plates[1]
    assert (made.share, made.distance, made.media.title.apart, made.shake.preset) == (
        0.5,
        0.8,
        "letter",
        "Nervous title",
    )
    desk.step("Choose the footage's own plate, and open Depth")
    desk.click(plates._rows[desk.shot.footage.id], 60, 12)
    assert window.desk.state.now.plate == desk.shot.footage.id
    desk.end()


def test_reel_and_spans(walk, tmp_path: Path) -> None:  # type: ignore[no-untyped-def]
    films = [clip(tmp_path / f"{name}.mp4", frames=24, size=(320, 180)) for name in ("one", "two", "three")]
    project = Project()
    for each in films:
        project = shot_edits.add_shot(each, preset_library.preset("standing, breathing"))(project)
    desk = walk("8-reel", project)
    window, paper = desk.window, desk.window.desk.scene.paper
    y = reel_chart_paint.TOPS["shots"] + reel_chart_paint.SHOTS / 2

    def x(seconds: float) -> float:
        return paper.view.x(seconds, paper.width())

    def names() -> list[str]:
        return [shot.name for shot in desk.project.shots]

    desk.step("Press R: the chart shows The reel")
    desk.key("r")
    desk.until(lambda: len(window.desk.state.facts) == 3)
    desk.settle()
    desk.click(paper, x(0.5), y)
    desk.step("Drag a shot to move it, its ends to trim it")
    desk.drag(paper, (x(0.5), y), (x(1.9), y))
    assert names() == ["two", "one", "three"]
    window.desk.stage.go_in_reel(12)
    desk.settle()
    desk.key("s")
    assert names() == ["two", "two", "one", "three"]
    desk.key(K.Key_F2)
    line = next(each for each in paper.findChildren(QLineEdit) if each.isVisible())
    line.selectAll()
    QTest.keyClicks(line, "near")
    QTest.keyClick(line, K.Key_Return)
    assert "near" in names()
    desk.step("Choose several: what you change goes to all of them")
    desk.click(paper, x(0.25), y)
    QTest.mouseClick(paper, LEFT, CTRL, QPoint(round(x(1.5)), round(y)))
    assert len(window.desk.state.chosen_shots) == 2
    desk.type_into(window.desk.panel.frame.focal, "35")
    assert sorted(shot.frame.focal_mm for shot in desk.project.shots) == [35, 35, 50, 50]
    desk.step("Ctrl+C copies a shot's shake, Ctrl+V gives it")
    desk.click(paper, x(0.25), y)
    window.desk.session.apply("Half", shot_edits.set_shake(desk.shot.id, intensity=Curve(0.5)))
    desk.key("c", CTRL)
    desk.click(paper, x(2.5), y)
    desk.key("v", CTRL)
    assert desk.project.shots[3].shake.intensity.value == 0.5
    desk.step("Press Add span +: a shake over the chosen shots")
    desk.click(paper, x(0.25), y)
    QTest.mouseClick(paper, LEFT, SHIFT, QPoint(round(x(1.5)), round(y)))
    desk.click(window.desk.scene.add)
    assert len(desk.project.spans) == 1
    desk.step("Space plays through the cuts")
    window.desk.stage.go_in_reel(20)
    desk.settle()
    desk.key("i")
    assert window.desk.clock.marks
    desk.key("x")
    assert not window.desk.clock.marks
    desk.step("Find missing footage, Replace footage and Gather into a folder")
    desk.end()


def test_sound(walk, footage: Path) -> None:  # type: ignore[no-untyped-def]
    desk = walk("9-sound", of(footage))
    window, rows = desk.window, desk.window.desk.chart.sounds
    desk.step("Shift+S adds the sound that belongs to the shake")
    desk.key("s", SHIFT)
    (made,) = desk.shot.sound.rows
    assert isinstance(made, Rumble)
    desk.step("Click its row: the panel has its Level")
    desk.until(lambda: made.id in rows.rows)
    desk.click(rows.rows[made.id].head, 60, 12)
    desk.type_into(window.desk.panel.sound.level, "-6")
    assert desk.shot.sound.rows[0].level.value == -6
    desk.step("Add a sound in the menu Shake offers each by name")
    menu = QMenu()
    window.desk.chart.fill_sounds(menu)
    desk.words |= {action.text().rstrip("…").casefold() for action in menu.actions()}
    next(each for each in menu.actions() if each.text() == "Sound sway").trigger()
    menu.deleteLater()
    desk.step("Right click a row and choose Shape the level over time")
    desk.menu_of(rows.rows[made.id].head, 60, 40, "Shape the level over time")
    desk.until(lambda: not window.desk.runner.busy("waves"))
    strip = rows.rows[made.id].strip
    QTest.mouseDClick(strip, LEFT, NONE, QPoint(strip.width() // 2, strip.height() // 2))
    assert desk.shot.sound.rows[0].level.keys
    desk.step("Add Sound sway, and level and place")
    assert len(desk.shot.sound.rows) + (desk.shot.sound.sway is not None) >= 2
    desk.step("Press a pin on the ruler to hear that blow alone")
    desk.key("h")
    desk.step("Sounds as WAV in the render sheet")
    desk.key("r", CTRL)
    assert window.desk.sheet.form.isVisible()
    desk.end()


def test_delivering_and_interchange(walk, footage: Path, tmp_path: Path) -> None:  # type: ignore[no-untyped-def]
    desk = walk("10-deliver", of(footage))
    window = desk.window
    sheet, form = window.desk.sheet, window.desk.sheet.form
    desk.step("Press Ctrl+R: the list lies over the chart")
    desk.key("r", CTRL)
    desk.choose_in(form.what, "Each shot by itself")
    desk.step("Choose Shaken, Clean or Both")
    form.versions.chosen.emit("shaken")
    form.path.setText(str(tmp_path / "{number} {shot}.mov"))
    desk.step("Choose the form. ProRes and DNxHR are masters")
    desk.choose_in(form.codec, "ProRes 422 HQ")
    desk.step("Handles are frames more at each end")
    desk.type_into(form.handles, "4")
    form.motion.click()
    desk.step("Add to the list leaves it for later")
    desk.click(sheet.start)
    desk.until(lambda: not sheet.running and bool(sheet.list.rows))
    assert sheet.list.rows[0].state == "done"
    desk.step("Tick Keep fresh")
    desk.until(lambda: len(sheet.rows._lines) == 1)
    desk.look()
    desk.click(sheet.rows.line(0).fresh)
    assert sheet.list.rows[0].request.fresh
    desk.step("With an address in the preferences")
    window.act.overlays.show_preferences()
    QTest.keyClicks(window.act.overlays.preferences.cluster, "local")
    QTest.keyClick(window.act.overlays.preferences.cluster, K.Key_Return)
    assert settings.load().cluster == "local"
    desk.look()
    window.act.overlays.preferences.hide()
    window.desk.sheet.hide()
    desk.key("r", CTRL)
    assert form.shared.isVisible()
    desk.step("Drag a contact print out of the reel")
    data = window.act.footage.made_of(desk.shot.id)
    assert Path(data.urls()[0].toLocalFile()).name.startswith("01 ")
    desk.step("A timeline (.otio, .edl) that is opened becomes a reel")
    desk.end()
