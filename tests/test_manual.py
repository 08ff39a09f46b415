"""The manual from a shot to its lens: what a page says is done, what it names is on the screen."""

from __future__ import annotations

import re
import runpy
import shutil
from functools import partial
from pathlib import Path

import numpy as np
import pytest
from msgspec.structs import replace
from PySide6.QtCore import QPoint
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication, QFileDialog

import truth
from walk import CTRL, LEFT, NONE, PAGES, SHIFT, K, Walk, of
from young_tremor.desk.kit.number_field import NumberField
from young_tremor.desk.sheets.gyro_import import GyroImportView
from young_tremor.engine.asking import sentences, word_index
from young_tremor.engine.asking.ask import ask
from young_tremor.engine.library import preset_library
from young_tremor.model import fields, shot_edits
from young_tremor.model.project import EDGES, Preset, Project
from young_tremor.model.shake import Drift, Jolts, Plotted, Shake, Taken
from young_tremor.motion import sample
from young_tremor.render.colour_conversion import pq_light

NAMES = [page.stem for page in PAGES.glob("*.md")]


@pytest.fixture
def walk(qtbot) -> partial:  # type: ignore[no-untyped-def]
    return partial(Walk, qtbot)


def test_a_clip_shaken_in_a_minute(walk, footage: Path, tmp_path: Path, monkeypatch) -> None:  # type: ignore[no-untyped-def]
    desk = walk("1-minute")
    window = desk.window
    desk.step("Press Open footage (Ctrl+O) and choose a locked-off shot")
    monkeypatch.setattr(QFileDialog, "getOpenFileNames", lambda *a, **k: ([str(footage)], ""))
    desk.press("Open footage")
    desk.until(lambda: len(desk.project.shots) == 1)
    assert isinstance(desk.shot.shake.strands[0], Drift)
    desk.step("Press Presets (P) and type walking")
    desk.settle()
    desk.key("p")
    popup = window.desk.popup
    QTest.keyClicks(popup.search, "walking")
    first = popup.list.currentItem() or popup.list.item(0)
    QTest.keyClick(popup.search, K.Key_Return)
    assert desk.shot.shake.preset == "Walking", first
    popup.hide()
    desk.back()
    desk.step("Drag Amount in a row's header to the left")
    row = window.desk.chart._rows[desk.shot.shake.strands[0].id]
    desk.drag_rule(row.amount, 60)
    assert desk.shot.shake.strands[0].amount.value == pytest.approx(0.6, abs=0.03)
    desk.step("Hold C for the still original")
    window.desk.stage.go(20)
    shaken = desk.picture()
    window.setFocus()
    QTest.keyPress(window, K.Key_C)
    still = desk.picture()
    assert np.abs(still - shaken).mean() > 0.5
    QTest.keyRelease(window, K.Key_C)
    desk.settle()
    for key, mode in (("3", "split"), ("1", "shaken")):
        desk.key(key)
        assert window.desk.state.now.mode == mode
    np.testing.assert_array_equal(desk.picture(), shaken)
    desk.step("Space plays")
    desk.key(K.Key_Space)
    assert window.desk.stage.playing
    desk.key(K.Key_Space)
    frame = desk.frame
    desk.key(K.Key_Left)
    assert desk.frame == frame - 1
    desk.step("Look at the panel: it covers every frame")
    desk.settle()
    assert window.desk.panel.frame.status.text() == "covers every frame"
    desk.step("Press Render (Ctrl+R), choose Both")
    desk.key("r", CTRL)
    desk.look()
    sheet = window.desk.sheet
    sheet.form.path.setText(str(tmp_path / "made.mp4"))
    sheet.form.versions.chosen.emit("both")
    desk.click(sheet.start)
    desk.until(lambda: not sheet.running and (tmp_path / "made clean.mp4").exists())
    desk.end()


def test_hands(walk, footage: Path) -> None:  # type: ignore[no-untyped-def]
    desk = walk("2-hands", of(footage))
    window = desk.window

    def drift() -> Drift:
        return desk.shot.shake.strands[0]  # type: ignore[return-value]

    rule = desk.rule
    desk.step("Click the header of its row")
    row = window.desk.chart._rows[drift().id]
    desk.click(row.head, 60, 12)
    assert window.desk.state.now.strand == drift().id
    desk.step("Under Balance, set how far X and Y reach")
    desk.type_into(rule("X reach"), "0.5")
    desk.type_into(rule("Y reach"), "0.4")
    desk.step("Set Roll, in tenths")
    desk.type_into(rule("Roll reach"), "0.2")
    by = {name: getattr(drift().channels, name).reach for name in ("x", "y", "roll")}
    assert by == {"x": 0.5, "y": 0.4, "roll": 0.2}
    desk.step("Raise Rests")
    for name, value in (("Rests", "0.4"), ("Corrections", "0.3"), ("Wander", "0.5")):
        desk.type_into(rule(name), value)
    assert drift().rests.share > 0
    assert drift().corrections.size > 0
    assert drift().wander.depth > 0
    desk.step("Press New course")
    seed = drift().seed
    desk.press("New course")
    assert drift().seed != seed
    desk.step("Right click the row and choose Shape the amount over time")
    desk.menu_of(row.head, 60, 12, "Shape the amount over time")
    strip = row.strip
    QTest.mouseDClick(strip, LEFT, NONE, QPoint(strip.width() // 3, strip.height() // 2))
    assert drift().amount.keys
    desk.step("The Intensity row does so for the whole shake")
    curve = window.desk.chart.curves["Intensity"].strip
    desk.menu_of(curve, curve.width() * 0.7, 10, "Swell and fall over the shot")
    assert len(desk.shot.shake.intensity.keys) >= 3
    desk.step("Or let somebody hold the camera: Let somebody hold it in the menu Shake")
    window.commands.do("holder")
    assert desk.shot.shake.holder is not None
    desk.type_into(rule("Weight"), "6")
    assert desk.shot.shake.holder.weight == 6
    desk.end()


def test_blows(walk) -> None:  # type: ignore[no-untyped-def]
    project = preset_library.demo_project()
    shot = project.shots[0]
    project = replace(project, shots=(replace(shot, hits=(), shake=Shake((shot.shake.strands[0],))),))
    desk = walk("3-blows", project)
    window, ruler = desk.window, desk.window.desk.chart.ruler
    desk.step("Press H where something strikes")
    desk.scrub(ruler, 40)
    desk.key("h")
    (hit,) = desk.shot.hits
    assert any(isinstance(each, Jolts) for each in desk.shot.shake.strands)
    desk.step("Drag its pin along for its time")
    x = window.desk.view.frame_x(40, ruler.width())
    desk.drag(ruler, (x, 20), (window.desk.view.frame_x(60, ruler.width()), 20))
    assert desk.shot.hits[0].t > hit.t + 0.5
    desk.step("Shift+H finds hits in the sound")
    desk.key("h", SHIFT)
    desk.until(lambda: window.desk.chart.hits.found is not None)
    desk.look()
    desk.click(window.desk.chart.hits.found.keep)
    assert len(desk.shot.hits) >= 3
    desk.step("Click the row of the jolts")
    jolts = next(each for each in desk.shot.shake.strands if isinstance(each, Jolts))
    desk.click(window.desk.chart._rows[jolts.id].head, 60, 12)
    rule = desk.rule
    for name, value in (("Shift", "2"), ("Settle", "0.3"), ("Ring", "9"), ("Direction", "90")):
        desk.type_into(rule(name), value)
    desk.step("Set Distance where the blow is far away")
    desk.type_into(rule("Distance"), "100")
    made = next(each for each in desk.shot.shake.strands if isinstance(each, Jolts))
    assert (made.reach, made.settle, made.ring, made.direction, made.distance) == (2, 0.3, 9, 90, 100)
    desk.step("Further down, Smear at hits draws the picture out")
    desk.type_into(rule("Lasts"), "3")
    desk.type_into(rule("Knock for"), "2")
    assert desk.shot.frame.smear.frames == 3
    desk.end()


def test_takes_and_gyroscopes(walk, footage: Path, tmp_path: Path, monkeypatch) -> None:  # type: ignore[no-untyped-def]
    film = truth.Filmed(truth.world((560, 340)), partial(truth.hand, size=6.0), (480, 270))
    hand = truth.encode(tmp_path / "hand.mp4", [film.frame(k) for k in range(30)], 24, 16)
    log = tmp_path / "log.csv"
    t = np.arange(300) / 100
    log.write_text("time_s,gx,gy,gz\n" + "\n".join(f"{a:.3f},{np.sin(9 * a):.4f},0.1,{np.cos(7 * a):.4f}" for a in t))
    desk = walk("4-takes", shot_edits.add_shot(footage, Preset("none", "own", "", Shake()))(Project()))
    window, view = desk.window, desk.window.desk.measure
    desk.step("Press Takes (T), then Measure a clip")
    desk.key("t")
    desk.look()
    monkeypatch.setattr(QFileDialog, "getOpenFileName", lambda *a, **k: (str(hand), ""))
    desk.press("Measure a clip")
    desk.until(lambda: view.start.isEnabled() and view.view._image is not None)
    desk.step("Drag the ends to the stretch you want")
    desk.drag(view.course, (1, 40), (view.course.width() * 0.1, 40))
    box = view.view.box()
    desk.drag(view.view, (box.left() + 5, box.top() + 5), (box.left() + 40, box.top() + 30))
    desk.type_into(view.focal, "28")
    desk.step("Press Measure.")
    desk.click(view.start)
    desk.until(lambda: view.use.isVisible())
    assert "within" in view.words.text()
    desk.step("Where the trace has a wide band, drag the ends to that stretch")
    desk.drag(view.course, (view.course.width() - 2, 40), (view.course.width() * 0.6, 40))
    desk.click(view.again)
    desk.until(lambda: view.job is None and view.use.isVisible())
    assert "within" in view.words.text()
    desk.step("Press Use on this shot")
    desk.click(view.use)
    assert isinstance(desk.shot.shake.strands[0], Taken)
    desk.step("In its panel, Mirrored and Direction turn it round")
    panel = window.desk.panel.take
    desk.click(panel.mirrored)
    desk.type_into(panel.cutoff, "0.4")
    desk.step("Tick Endless for a drift learned from it")
    desk.click(panel.endless)
    strand = desk.shot.shake.strands[0]
    assert (strand.mirrored, strand.cutoff, strand.only_endless) == (True, 0.4, True)
    desk.words |= {"mirrored", "endless"}  # the boxes go on to say what they do
    desk.step("Takes, then Read a file")
    desk.press("Takes")
    desk.until(window.desk.takes.isVisible)
    monkeypatch.setattr(QFileDialog, "getOpenFileName", lambda *a, **k: (str(log), ""))

    def shown(dialog: GyroImportView) -> int:  # it asks, and waits for the answer
        dialog.show()
        desk.look()
        desk.click(dialog.ok)
        return dialog.result()

    monkeypatch.setattr(GyroImportView, "exec", shown)
    desk.press("Read a file")
    desk.until(lambda: len(desk.project.takes) == 2)
    window.desk.takes.hide()
    desk.back()
    desk.end()


def test_edges(walk, footage: Path) -> None:  # type: ignore[no-untyped-def]
    desk = walk("5-edges", of(footage, "running"))
    frame, picture = desk.window.desk.panel.frame, desk.window.desk.picture
    values = frame._values

    def edges(words: str) -> float:
        desk.choose_in(frame.edges, words)
        desk.settle()
        return float(values["crop"].text() or 1)

    desk.step("Choose Crop in, steady")
    steady = edges("Crop in, steady")
    assert frame.status.text() == "covers every frame"
    desk.click(frame._values["worst"])
    desk.settle()
    desk.step("Choose Crop in as needed")
    edges("Crop in as needed")
    assert desk.shot.frame.edges == "crop-as-needed"
    desk.step("Tick Recentre")
    edges("Crop in, steady")
    desk.click(frame.framing.recentre)
    desk.settle()
    assert float(values["crop"].text()) <= steady
    desk.step("Set Crop at most, and press Limit")
    desk.type_into(frame.framing.most, "3")
    desk.click(frame.framing.limit)
    desk.until(lambda: not desk.window.desk.runner.busy("limit"))
    desk.settle()
    assert float(values["crop"].text()) == pytest.approx(1.03, abs=0.002)
    desk.step("Press Keep clear and drag a box")
    desk.click(frame.framing.draw)
    rect = picture.frame_rect()
    desk.drag(picture, (rect.left() + 2, rect.top() + 20), (rect.left() + 90, rect.top() + 90))
    assert desk.shot.frame.keep
    desk.step("Choose Soft fill, Mirror, Hold edge or Repeat")
    for words in ("Soft fill", "Mirror", "Hold edge", "Repeat", "Leave open"):
        edges(words)
    assert desk.shot.frame.edges == EDGES[frame.edges.currentIndex()]
    desk.end()


def test_blur_and_lens(walk, footage: Path) -> None:  # type: ignore[no-untyped-def]
    desk = walk("6-blur", of(footage, "running"))
    window = desk.window

    rule = desk.rule
    desk.step("Set the shutter's Angle")
    window.desk.stage.go(12)
    sharp = desk.picture()
    desk.type_into(rule("Angle"), "360")
    assert np.abs(desk.picture() - sharp).mean() > 0.2
    desk.step("Tick Blur as light")
    desk.press("Blur as light")
    desk.step("Set Rolling shutter in milliseconds")
    desk.type_into(rule("Rolling shutter"), "12")
    desk.step("Set Focal length")
    desk.type_into(rule("Focal length"), "85")
    desk.step("Pivot X and Pivot Y are what the picture turns about")
    desk.type_into(rule("Pivot X"), "20")
    now = desk.shot.frame
    assert (now.shutter.angle.value, now.linear, now.readout, now.focal_mm) == (360, True, 0.012, 85)
    assert now.pivot.x.value == pytest.approx(0.2)
    desk.step("Right click a number and choose Shape it over time")
    turned = rule("Angle")
    desk.menu_of(turned, turned.width() - 10, 8, "Shape it over time")
    assert window.desk.chart.curves["Shutter"].row.isVisible()
    desk.step("Look closely: Ctrl+1 shows pixel for pixel")
    desk.key("1", CTRL)
    assert window.desk.state.now.zoom.scale == 1
    desk.key("z")
    desk.key("g")
    assert window.desk.figures.isVisible()
    desk.key("0", CTRL)
    assert window.desk.state.now.zoom.scale == 0
    desk.end()


def test_colours(walk, footage: Path, tmp_path: Path) -> None:  # type: ignore[no-untyped-def]
    high = Path(shutil.copy(footage, tmp_path / "high.mp4"))
    desk = walk("14-colours", of(high, "walking"))
    window, panel = desk.window, desk.window.desk.panel
    desk.step("Choose footage of any kind")
    assert desk.shot.frame.match_colours
    desk.step("Look at Mapped beside the time")
    assert window.desk.transport._mapped.isHidden()  # standard range is shown as it is
    desk.step("On the page Plates set Colours")
    window.desk.state.choose(page="plates", plate=desk.shot.footage.id, strand=None)
    desk.settle()
    before = desk.picture()
    choice = panel.plates.more._controls.choices["media.space"]
    choice.setCurrentIndex(choice.findData("pq"))
    choice.activated.emit(choice.currentIndex())
    desk.settle()
    assert desk.shot.footage.media.space == "pq"
    assert not window.desk.transport._mapped.isHidden()
    assert np.abs(desk.picture() - before).mean() > 4
    desk.key("z")
    desk.settle()
    code, light, unit = window.desk.picture.picture.values_at(0.5, 0.5)
    assert unit == "cd/m²"
    red = pq_light(np.array((int(code.split()[0]) - 16) / 219))
    assert float(light.split()[0]) == pytest.approx(float(red), rel=0.05)
    before, stored = desk.picture(), desk.shot
    desk.click(window.desk.transport.exposure)
    menu = QApplication.activePopupWidget()
    desk.type_into(menu.findChild(NumberField), "1")
    QTest.keyClick(menu, K.Key_Escape)
    desk.settle()
    assert desk.picture().mean() > before.mean() + 10
    assert window.desk.transport.exposure.text() == "+1.0"
    assert desk.shot == stored, "nothing of it is delivered"
    desk.step("On the page Frame open Colours and set White and Peak")
    window.desk.state.choose(page="frame")
    desk.click(panel.frame.folds["Colours"][0])
    for name, value in (("White", "100"), ("Peak", "2000")):
        desk.type_into(desk.rule(name), value)
    assert (desk.shot.frame.white, desk.shot.frame.peak) == (100, 2000)
    desk.step("Untick Match colours")
    desk.press("Match colours")
    assert not desk.shot.frame.match_colours
    desk.step("In the render sheet choose Colours")
    window.act.show_render()
    space = window.desk.sheet.form.space
    assert space.itemText(0) == "As the first shot (Rec. 2100 PQ)"
    space.setCurrentIndex(space.findData("rec709"))
    assert window.desk.sheet.form.request(overwrite=False).space == "rec709"
    window.desk.sheet.hide()
    desk.end()


def test_coming_from_key_framing(walk, footage: Path) -> None:  # type: ignore[no-untyped-def]
    desk = walk("15-from-keys", of(footage))
    window, rule = desk.window, desk.rule
    desk.step("Open the shot: it moves already")
    window.desk.state.choose(strand=desk.shot.shake.strands[0].id)
    desk.type_into(rule("Amount"), "60")
    desk.type_into(rule("Rate"), "0.8")
    seed = desk.shot.shake.strands[0].seed
    desk.press("New course")
    assert desk.shot.shake.strands[0].seed != seed
    desk.step("What used to be keys closer together")
    strip = window.desk.chart.curves["Intensity"].strip
    QTest.mouseDClick(strip, LEFT, NONE, QPoint(strip.width() // 3, strip.height() // 2))
    desk.key("h")
    desk.menu_of(strip, strip.width() * 0.7, 10, "Pulse at each hit")
    assert desk.shot.shake.intensity.keys
    desk.step("A single move that has to happen where you say is plotted")
    window.desk.chart.add_strand.emit("plotted")
    desk.settle()
    picture = window.desk.picture
    desk.drag(picture, (200, 150), (230, 160))
    (plotted,) = (each for each in desk.shot.shake.strands if isinstance(each, Plotted))
    assert plotted.x.keys
    desk.step("Make it less even with Irregular")
    desk.type_into(rule("Irregular"), "0.3")
    desk.press("Repeat to the end")
    desk.step("A blow is no key either: H drops it")
    assert len(desk.shot.hits) == 1
    desk.step("Most numbers of the frame can have keys as well: right click Angle")
    window.desk.state.choose(strand=None, page="frame")
    angle = window.desk.panel.frame.angle
    desk.menu_of(angle, angle.width() - 10, 8, "Shape it over time")
    assert window.desk.chart.curves["Shutter"].row.isVisible()
    window.act.show_render()
    desk.look()
    window.desk.sheet.hide()
    desk.press("Takes")
    desk.look()
    window.desk.takes.hide()
    desk.end()


def test_coming_from_noise_formulas(walk, footage: Path) -> None:  # type: ignore[no-untyped-def]
    desk = walk("16-from-formulas", of(footage))
    window, rule = desk.window, desk.rule
    desk.step("Press Ctrl+K and type what the formula said: 30 px 2 Hz")
    desk.key("k", CTRL)
    QTest.keyClicks(window.desk.header.ask, "30 px 2 Hz")
    QTest.keyClick(window.desk.header.ask, K.Key_Return)
    desk.until(lambda: len(desk.shot.shake.strands) == 1)
    window.desk.state.choose(strand=desk.shot.shake.strands[0].id)
    seconds = np.arange(4800) / 24
    height = window.desk.state.info.size[1]
    moved = sample.sample(desk.shot.shake, seconds)[:, 0] / 100 * height
    assert np.quantile(np.abs(moved), 0.95) == pytest.approx(30, rel=0.1)
    desk.step("Octaves and detail are Roughness")
    desk.type_into(rule("Roughness"), "0.3")
    desk.type_into(rule("Regularity"), "1")
    desk.step("One seed for each axis is no longer needed")
    desk.press("New course")
    desk.step("Under Balance, give X, Y and Roll their own reach")
    desk.type_into(rule("Roll reach"), "0.2")
    desk.step("Multiply it by a fade as ever")
    desk.type_into(rule("Ease in"), "1")
    desk.step("What stood still on twos is Steps")
    desk.type_into(rule("Steps"), "12")
    drift = desk.shot.shake.strands[0]
    assert (drift.roughness, drift.regularity, drift.ease_in, drift.step) == (0.3, 1.0, 1.0, 12.0)
    window.desk.state.choose(strand=None, page="frame")
    desk.settle()
    desk.end()


def test_coming_from_a_measured_clip(walk, footage: Path, tmp_path: Path, monkeypatch) -> None:  # type: ignore[no-untyped-def]
    table = shutil.copy(preset_library.ASSETS / "demo" / "aisle-walk.csv", tmp_path / "walk.csv")
    desk = walk("17-from-a-clip", shot_edits.add_shot(footage, Preset("none", "own", "", Shake()))(Project()))
    window, panel = desk.window, desk.window.desk.panel.take
    desk.step("Press Takes (T) and Read a file")
    desk.key("t")
    desk.look()
    monkeypatch.setattr(QFileDialog, "getOpenFileName", lambda *a, **k: (str(table), ""))
    desk.press("Read a file")
    desk.until(lambda: len(desk.project.takes) == 1)
    desk.step("Press Takes again and Use on this shot")
    desk.press("Takes")
    use = window.desk.takes.buttons["use"]
    desk.until(lambda: use.isVisible() and use.isEnabled())
    desk.click(use)
    assert isinstance(desk.shot.shake.strands[0], Taken)
    desk.step("A drift that the track carried along goes with Slow part")
    desk.type_into(panel.cutoff, "0.5")
    desk.step("Turn it round with Mirrored and Direction")
    desk.click(panel.mirrored)
    desk.step("Tick Endless: a drift is learned from it")
    desk.click(panel.endless)
    taken = desk.shot.shake.strands[0]
    assert (taken.cutoff, taken.mirrored, taken.only_endless) == (0.5, True, True)
    desk.words |= {"mirrored", "endless"}  # the boxes go on to say what they do
    desk.step("Lay a drift or jolts over it with Add strand +")
    window.desk.chart.add_strand.emit("drift")
    assert len(desk.shot.shake.strands) == 2
    desk.end()


def test_the_page_of_numbers_is_of_all_numbers_and_their_limits(monkeypatch) -> None:  # type: ignore[no-untyped-def]
    scripts = Path(__file__).parents[1] / "scripts"
    monkeypatch.syspath_prepend(str(scripts))
    made = runpy.run_path(str(scripts / "tables.py"))
    described = {name for name, struct in made["described_structs"]().items() if fields.numbers(struct)}
    assert sorted(kind for kinds in made["HEADINGS"].values() for kind in kinds) == sorted(described)
    assert (PAGES / "12-numbers.md").read_text(encoding="utf-8") == made["numbers"](), "python scripts/tables.py"
    keyboard = (PAGES / "11-keyboard.md").read_text(encoding="utf-8")
    assert keyboard == made["keyboard"](keyboard), "python scripts/tables.py"
    assert (PAGES / "13-index.md").read_text(encoding="utf-8") == word_index.page(), "python scripts/tables.py"


def test_what_the_pages_say_to_ask_is_understood() -> None:
    project = preset_library.demo_project()
    place = sentences.place_of(project.shots[0])
    asked = 0
    for page in PAGES.glob("*.md"):
        _, _, remedies = page.read_text(encoding="utf-8").partition("## If it is not right yet")
        for phrase in re.findall(r"^- .*?(?=^- |^$|\Z)", remedies.partition("\n## ")[0], re.M | re.S):
            for words in re.findall(r"(?<!\*)\*([^*]+)\*", phrase):
                asked += 1
                assert ask(" ".join(words.split()), place).entries[0].score > 0.5, words
    assert asked > 25


def test_every_page_is_there_with_its_pictures_and_short() -> None:
    walked = {name.partition("-")[2] for name in NAMES if name[0].isdigit()}
    assert {
        "minute",
        "hands",
        "blows",
        "takes",
        "edges",
        "blur",
        "plates",
        "reel",
        "sound",
        "deliver",
        "colours",
        "from-keys",
        "from-formulas",
        "from-a-clip",
    } <= walked
    for name in NAMES:
        text = (PAGES / f"{name}.md").read_text(encoding="utf-8")
        for picture in re.findall(r"!\[.+?\]\((.+?)\)", text):
            assert (PAGES / picture).exists(), picture
        if int(name.partition("-")[0]) <= 10:
            assert "![" in text
            assert len(text.split()) < 330
