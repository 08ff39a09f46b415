"""The manual, walked step by step in the real window: what a page says is done, what it names is on the screen."""

from __future__ import annotations

import re
import runpy
from collections.abc import Iterator
from functools import partial
from pathlib import Path

import numpy as np
import pytest
from msgspec.structs import replace
from PySide6.QtCore import QPoint, Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QAbstractButton, QApplication, QComboBox, QFileDialog, QLineEdit, QMenu, QWidget

import truth
from clips import clip
from driver import Desk
from young_tremor.desk.kit.rule import Rule
from young_tremor.desk.kit.segments import Segments
from young_tremor.desk.sheets.log_view import LogView
from young_tremor.desk.window.listed import ALL
from young_tremor.engine import library
from young_tremor.engine.session import Session
from young_tremor.model import edits
from young_tremor.model.curve import Curve
from young_tremor.model.limits import NUMBERS
from young_tremor.model.project import EDGES, Preset, Project
from young_tremor.model.shake import Drift, Jolts, Shake, Taken
from young_tremor.model.sound import Rumble

PAGES = library.ASSETS / "manual"
K = Qt.Key
CTRL, SHIFT = Qt.KeyboardModifier.ControlModifier, Qt.KeyboardModifier.ShiftModifier
LEFT, NONE = Qt.MouseButton.LeftButton, Qt.KeyboardModifier.NoModifier
NAMES = [page.stem for page in PAGES.glob("*.md")]


def plain(text: str) -> str:
    return " ".join(re.sub(r"[*`]", "", text).split())


class Walk(Desk):
    """A window, and the page that is walked in it. A step begins with the words that the page says; at the end none is
    left, and every word in bold has been seen on the screen."""

    def __init__(self, qtbot, page: str, project: Project | None = None) -> None:  # type: ignore[no-untyped-def]
        super().__init__(qtbot, Session(project))
        self.text = (PAGES / f"{page}.md").read_text(encoding="utf-8")
        self.left = [plain(each) for each in re.findall(r"^\d+\. (.*?)(?=^\d+\. |^$|\Z)", self.text, re.M | re.S)]
        self.words = {plain(command.words.rstrip("…")).casefold() for command in ALL}
        if project is not None and project.shots:
            self.settle()

    def step(self, begins: str) -> None:
        """The next step of the page, which has to begin so."""
        self.look()
        assert self.left, f"the page has no step “{begins}”"
        assert self.left[0].startswith(begins), (begins, self.left[0])
        self.left.pop(0)

    def widgets(self) -> Iterator[QWidget]:
        """All there is in the window, and the menu that is open."""
        waiting: list[QWidget | None] = [self.window, QApplication.activePopupWidget()]
        while waiting:
            each = waiting.pop()
            if isinstance(each, QWidget):
                yield each
                waiting += [] if isinstance(each, QComboBox) else each.children()  # type: ignore[arg-type]

    def look(self) -> None:
        """Read all that is on the screen."""
        for each in self.widgets():
            said = [each.accessibleName(), getattr(each, "words", ""), getattr(each, "name", "")]
            for ask in ("text", "title", "placeholderText"):
                found = getattr(each, ask, None)
                said.append(found() if callable(found) else found)
            if isinstance(each, QComboBox):
                said += [each.itemText(k) for k in range(each.count())]
            if isinstance(each, QMenu):
                said += [action.text() for action in each.actions()]
            if isinstance(each, Segments):
                said += [words for _, words, _ in each._choices]
            self.words |= {
                re.sub(r" \d+$", "", plain(s)).rstrip("…").casefold() for s in said if isinstance(s, str) and s
            }

    def end(self) -> None:
        self.look()
        assert not self.left, self.left
        keys = {key for command in ALL for key in command.keys}
        for said in re.findall(r"\*\*(.+?)\*\*", self.text, re.S):
            assert plain(said).casefold() in self.words, said
        for said in re.findall(r"\b(?:Ctrl|Shift)\+[A-Z0-9]\b", self.text):
            assert said in keys, said
        self.close()

    def choose_in(self, box: QComboBox, words: str) -> None:
        """Choose a line by its words, by the keyboard."""
        box.setFocus()
        box.setCurrentIndex(next(k for k in range(box.count()) if box.itemText(k).startswith(words)))
        box.activated.emit(box.currentIndex())

    def press(self, words: str) -> None:
        """Press the button (or tick the box) that is called so."""
        found = [b for b in self.widgets() if isinstance(b, QAbstractButton) and b.isVisible()]
        button = next(b for b in found if b.text().startswith(words))
        self.click(button, 10, button.height() / 2)

    def rule(self, name: str) -> Rule:
        """The rule of that name that is on the panel, the first of them."""
        return next(r for r in self.window.panel.findChildren(Rule) if r.accessibleName() == name and r.isVisible())

    def menu_of(self, widget: QWidget, x: float, y: float, words: str) -> None:
        self.context(widget, x, y)
        self.look()
        self.pick(words)


def of(footage: Path, preset: str = "standing, breathing") -> Project:
    return edits.add_shot(footage, library.preset(preset))(Project())


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
    popup = window.popup
    QTest.keyClicks(popup.search, "walking")
    first = popup.list.currentItem() or popup.list.item(0)
    QTest.keyClick(popup.search, K.Key_Return)
    assert desk.shot.shake.preset == "Walking", first
    popup.hide()
    desk.back()
    desk.step("Drag Amount in a row's header to the left")
    row = window.chart._rows[desk.shot.shake.strands[0].id]
    desk.drag_rule(row.amount, 60)
    assert desk.shot.shake.strands[0].amount.value == pytest.approx(0.6, abs=0.03)
    desk.step("Hold C for the still original")
    window.stage.go(20)
    shaken = desk.picture()
    window.setFocus()
    QTest.keyPress(window, K.Key_C)
    still = desk.picture()
    assert np.abs(still - shaken).mean() > 0.5
    QTest.keyRelease(window, K.Key_C)
    desk.settle()
    for key, mode in (("3", "split"), ("1", "shaken")):
        desk.key(key)
        assert window.state.now.mode == mode
    np.testing.assert_array_equal(desk.picture(), shaken)
    desk.step("Space plays")
    desk.key(K.Key_Space)
    assert window.stage.playing
    desk.key(K.Key_Space)
    frame = desk.frame
    desk.key(K.Key_Left)
    assert desk.frame == frame - 1
    desk.step("Look at the panel: it covers every frame")
    desk.settle()
    assert window.panel.frame.status.text() == "covers every frame"
    desk.step("Press Render (Ctrl+R), choose Both")
    desk.key("r", CTRL)
    desk.look()
    sheet = window.sheet
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
    row = window.chart._rows[drift().id]
    desk.click(row.head, 60, 12)
    assert window.state.now.strand == drift().id
    desk.step("Set X reach and Y reach")
    desk.type_into(rule("X reach"), "0.5")
    desk.type_into(rule("Y reach"), "0.4")
    desk.step("Set Roll reach")
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
    curve = window.chart.curves["Intensity"].strip
    desk.menu_of(curve, curve.width() * 0.7, 10, "Swell and fall over the shot")
    assert len(desk.shot.shake.intensity.keys) >= 3
    desk.end()


def test_blows(walk) -> None:  # type: ignore[no-untyped-def]
    project = library.demo_project()
    shot = project.shots[0]
    project = replace(project, shots=(replace(shot, hits=(), shake=Shake((shot.shake.strands[0],))),))
    desk = walk("3-blows", project)
    window, ruler = desk.window, desk.window.chart.ruler
    desk.step("Press H where something strikes")
    desk.scrub(ruler, 40)
    desk.key("h")
    (hit,) = desk.shot.hits
    assert any(isinstance(each, Jolts) for each in desk.shot.shake.strands)
    desk.step("Drag its pin along for its time")
    x = window.view.frame_x(40, ruler.width())
    desk.drag(ruler, (x, 20), (window.view.frame_x(60, ruler.width()), 20))
    assert desk.shot.hits[0].t > hit.t + 0.5
    desk.step("Shift+H finds hits in the sound")
    desk.key("h", SHIFT)
    desk.until(lambda: window.chart.hits.found is not None)
    desk.look()
    desk.click(window.chart.hits.found.keep)
    assert len(desk.shot.hits) >= 3
    desk.step("Click the row of the jolts")
    jolts = next(each for each in desk.shot.shake.strands if isinstance(each, Jolts))
    desk.click(window.chart._rows[jolts.id].head, 60, 12)
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
    desk = walk("4-takes", edits.add_shot(footage, Preset("none", "own", "", Shake()))(Project()))
    window, view = desk.window, desk.window.measure
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
    desk.step("Press Use on this shot")
    desk.click(view.use)
    assert isinstance(desk.shot.shake.strands[0], Taken)
    desk.step("In its panel, Mirrored and Direction turn it round")
    panel = window.panel.take
    desk.click(panel.mirrored)
    desk.type_into(panel.cutoff, "0.4")
    desk.step("Tick Endless for a drift learned from it")
    desk.click(panel.endless)
    strand = desk.shot.shake.strands[0]
    assert (strand.mirrored, strand.cutoff, strand.only_endless) == (True, 0.4, True)
    desk.words |= {"mirrored", "endless"}  # the boxes go on to say what they do
    desk.step("Takes, then Read a file")
    desk.press("Takes")
    desk.until(window.takes.isVisible)
    monkeypatch.setattr(QFileDialog, "getOpenFileName", lambda *a, **k: (str(log), ""))

    def shown(dialog: LogView) -> int:  # it asks, and waits for the answer
        dialog.show()
        desk.look()
        desk.click(dialog.ok)
        return dialog.result()

    monkeypatch.setattr(LogView, "exec", shown)
    desk.press("Read a file")
    desk.until(lambda: len(desk.project.takes) == 2)
    window.takes.hide()
    desk.back()
    desk.end()


def test_edges(walk, footage: Path) -> None:  # type: ignore[no-untyped-def]
    desk = walk("5-edges", of(footage, "running"))
    frame, picture = desk.window.panel.frame, desk.window.picture
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
    desk.until(lambda: not desk.window.runner.busy("limit"))
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
    window.stage.go(12)
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
    assert window.chart.curves["Shutter"].row.isVisible()
    desk.step("Look closely: Ctrl+1 shows pixel for pixel")
    desk.key("1", CTRL)
    assert window.state.now.zoom.scale == 1
    desk.key("z")
    desk.key("g")
    assert window.figures.isVisible()
    desk.key("0", CTRL)
    assert window.state.now.zoom.scale == 0
    desk.end()


def test_plates_and_titles(walk, footage: Path) -> None:  # type: ignore[no-untyped-def]
    desk = walk("7-plates", of(footage))
    window, plates, picture = desk.window, desk.window.panel.plates, desk.window.picture
    desk.step("Choose Plates at the head of the panel")
    window.panel.pages.chosen.emit("plates")
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
    assert window.state.now.plate == desk.shot.footage.id
    desk.end()


def test_reel_and_spans(walk, tmp_path: Path) -> None:  # type: ignore[no-untyped-def]
    films = [clip(tmp_path / f"{name}.mp4", frames=24, size=(320, 180)) for name in ("one", "two", "three")]
    project = Project()
    for each in films:
        project = edits.add_shot(each, library.preset("standing, breathing"))(project)
    desk = walk("8-reel", project)
    window, paper = desk.window, desk.window.scene.paper
    from young_tremor.desk.reel import scene_paint

    y = scene_paint.TOPS["shots"] + scene_paint.SHOTS / 2

    def x(seconds: float) -> float:
        return paper.view.x(seconds, paper.width())

    def names() -> list[str]:
        return [shot.name for shot in desk.project.shots]

    desk.step("Press R: the chart shows The reel")
    desk.key("r")
    desk.until(lambda: len(window.state.facts) == 3)
    desk.settle()
    desk.click(paper, x(0.5), y)
    desk.step("Drag a shot to move it, its ends to trim it")
    desk.drag(paper, (x(0.5), y), (x(1.9), y))
    assert names() == ["two", "one", "three"]
    window.stage.go_in_reel(12)
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
    assert len(window.state.chosen_shots) == 2
    desk.type_into(window.panel.frame.focal, "35")
    assert sorted(shot.frame.focal_mm for shot in desk.project.shots) == [35, 35, 50, 50]
    desk.step("Ctrl+C copies a shot's shake, Ctrl+V gives it")
    desk.click(paper, x(0.25), y)
    window.session.apply("Half", edits.set_shake(desk.shot.id, intensity=Curve(0.5)))
    desk.key("c", CTRL)
    desk.click(paper, x(2.5), y)
    desk.key("v", CTRL)
    assert desk.project.shots[3].shake.intensity.value == 0.5
    desk.step("Press Add span +: a shake over the chosen shots")
    desk.click(paper, x(0.25), y)
    QTest.mouseClick(paper, LEFT, SHIFT, QPoint(round(x(1.5)), round(y)))
    desk.click(window.scene.add)
    assert len(desk.project.spans) == 1
    desk.step("Space plays through the cuts")
    window.stage.go_in_reel(20)
    desk.settle()
    desk.key("i")
    assert window.clock.marks
    desk.key("x")
    assert not window.clock.marks
    desk.step("Find missing footage, Replace footage and Gather into a folder")
    desk.end()


def test_sound(walk, footage: Path) -> None:  # type: ignore[no-untyped-def]
    desk = walk("9-sound", of(footage))
    window, rows = desk.window, desk.window.chart.sounds
    desk.step("Shift+S adds the sound that belongs to the shake")
    desk.key("s", SHIFT)
    (made,) = desk.shot.sound.rows
    assert isinstance(made, Rumble)
    desk.step("Click its row: the panel has its Level")
    desk.until(lambda: made.id in rows.rows)
    desk.click(rows.rows[made.id].head, 60, 12)
    desk.type_into(window.panel.sound.level, "-6")
    assert desk.shot.sound.rows[0].level.value == -6
    desk.step("Add a sound in the menu Shake offers each by name")
    menu = QMenu()
    window.chart.fill_sounds(menu)
    desk.look()
    next(each for each in menu.actions() if each.text() == "Sound sway").trigger()
    menu.deleteLater()
    desk.step("Right click a row and choose Shape the level over time")
    desk.menu_of(rows.rows[made.id].head, 60, 40, "Shape the level over time")
    desk.until(lambda: not window.runner.busy("waves"))
    strip = rows.rows[made.id].strip
    QTest.mouseDClick(strip, LEFT, NONE, QPoint(strip.width() // 2, strip.height() // 2))
    assert desk.shot.sound.rows[0].level.keys
    desk.step("Add Sound sway, and level and place")
    assert len(desk.shot.sound.rows) + (desk.shot.sound.sway is not None) >= 2
    desk.step("Press a pin on the ruler to hear that blow alone")
    desk.key("h")
    desk.step("Sounds as WAV in the render sheet")
    desk.key("r", CTRL)
    assert window.sheet.form.isVisible()
    desk.end()


def test_delivering_and_interchange(walk, footage: Path, tmp_path: Path) -> None:  # type: ignore[no-untyped-def]
    desk = walk("10-deliver", of(footage))
    window = desk.window
    sheet, form = window.sheet, window.sheet.form
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
    assert sheet.list.rows[0].wish.fresh
    desk.step("Drag a contact print out of the reel")
    data = window.footage_deeds.made_of(desk.shot.id)
    assert Path(data.urls()[0].toLocalFile()).name.startswith("01 ")
    desk.step("A timeline (.otio, .edl) that is opened becomes a reel")
    desk.end()


def test_the_page_of_numbers_is_of_all_numbers_and_their_limits(monkeypatch) -> None:  # type: ignore[no-untyped-def]
    scripts = Path(__file__).parents[1] / "scripts"
    monkeypatch.syspath_prepend(str(scripts))
    made = runpy.run_path(str(scripts / "tables.py"))
    meanings = {kind: set(fields) for kind, fields in made["MEANINGS"].items()}
    assert meanings == {kind: set(fields) for kind, fields in NUMBERS.items()}
    assert sorted(kind for kinds in made["HEADINGS"].values() for kind in kinds) == sorted(NUMBERS)
    assert (PAGES / "12-numbers.md").read_text(encoding="utf-8") == made["numbers"](), "python scripts/tables.py"
    keyboard = (PAGES / "11-keyboard.md").read_text(encoding="utf-8")
    assert keyboard == made["keyboard"](keyboard), "python scripts/tables.py"


def test_every_page_is_there_with_its_pictures_and_short() -> None:
    walked = {name.partition("-")[2] for name in NAMES if name[0].isdigit()}
    assert {"minute", "hands", "blows", "takes", "edges", "blur", "plates", "reel", "sound", "deliver"} <= walked
    for name in NAMES:
        text = (PAGES / f"{name}.md").read_text(encoding="utf-8")
        for picture in re.findall(r"!\[.+?\]\((.+?)\)", text):
            assert (PAGES / picture).exists(), picture
        if int(name.partition("-")[0]) <= 10:
            assert "![" in text
            assert len(text.split()) < 330
