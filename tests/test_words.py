"""The window in a made-up language a third longer: every word is translated, and none is cut off."""

from __future__ import annotations

import math
import re
import runpy
import subprocess
import sys
from collections.abc import Iterator
from pathlib import Path

import pytest
from PySide6.QtCore import QTranslator
from PySide6.QtWidgets import QAbstractButton, QApplication, QComboBox, QLabel, QLineEdit, QWidget

from driver import Desk
from walk import PAGES
from young_tremor.desk.kit import i18n
from young_tremor.desk.kit.column import Column
from young_tremor.desk.kit.number_field import NumberField
from young_tremor.engine.document.session import Session
from young_tremor.engine.library import preset_diff, preset_library, settings, takes, translations
from young_tremor.model import shot_edits
from young_tremor.model.project import Project

ROOT = Path(__file__).parents[1]
LANGUAGES = [language for language in translations.offered() if language != translations.OWN]
UNITS = re.compile(r"\b(px|Hz|ms|mm|fps|MB|frames|EBU|XDG)\b")


class Longer(QTranslator):
    asked: set[str] = set()

    def translate(self, context: str, source: str, disambiguation: str | None = None, n: int = -1) -> str:
        if context == i18n.CONTEXT:
            self.asked.add(source)
        if not re.search("[A-Za-z]{2}", source):
            return source
        return f"‹{source}{'·' * math.ceil(len(source) / 3)}›"

    def isEmpty(self) -> bool:
        return False


@pytest.fixture
def desk(qtbot, footage: Path) -> Iterator[Desk]:  # type: ignore[no-untyped-def]
    app, longer = QApplication.instance(), Longer()
    assert app is not None
    app.installTranslator(longer)
    made = Desk(qtbot, Session(shot_edits.add_shot(footage, preset_library.preset("walking"))(Project())))
    made.settle()
    yield made
    made.close()
    app.removeTranslator(longer)


def texts(root: QWidget) -> Iterator[tuple[str, str]]:
    for each in [root, *root.findChildren(QWidget)]:
        kind = type(each).__name__
        yield f"{kind} tip", each.toolTip()
        yield f"{kind} name", each.accessibleName()
        yield f"{kind} title", each.windowTitle()
        if isinstance(each, QLabel | QAbstractButton):
            yield kind, each.text()
        if isinstance(each, QLineEdit):
            yield f"{kind} hint", each.placeholderText()
        if isinstance(each, QComboBox):
            yield from ((f"{kind} item", each.itemText(k)) for k in range(each.count()))
        if isinstance(each, NumberField):
            yield kind, each.label


@pytest.fixture
def sentences(monkeypatch: pytest.MonkeyPatch) -> set[str]:
    """What translators are given."""
    monkeypatch.syspath_prepend(str(ROOT / "scripts"))
    return set(runpy.run_path(str(ROOT / "scripts" / "words.py"))["words"]())


def test_every_word_is_translated_and_none_cut_off(desk: Desk, sentences: set[str]) -> None:
    window, shot = desk.window, desk.shot
    for kind in ("jolts", "plotted", "shimmer"):
        window.desk.session.apply("‹›", shot_edits.add_strand(shot.id, preset_diff.plain(kind, kind, 1)))
    walk = takes.read(preset_library.ASSETS / "demo" / "aisle-walk.csv")
    window.desk.session.apply("‹›", shot_edits.add_strand(shot.id, takes.strand_of(walk)))
    window.act.overlays.show_preferences()
    window.act.overlays.show_finder()
    window.act.overlays.hide()
    window.act.show_render()
    window.desk.sheet.hide()
    window.desk.popup.show_for(desk.shot, (1920, 1080), None)
    columns: list[Column] = [window.desk.panel.frame]
    for strand in desk.shot.shake.strands:
        window.desk.state.choose(strand=strand.id)
        QApplication.processEvents()
        columns.append(window.desk.panel.current)  # type: ignore[arg-type]
        column = columns[-1]
        assert column.least_width <= column.width() + 1, f"{strand.name}: {column.least_width} in {column.width()}"
    window.desk.state.choose(strand=None)
    QApplication.processEvents()
    data = {strand.name for strand in desk.shot.shake.strands} | {strand.note for strand in desk.shot.shake.strands}
    data |= {each.name for each in preset_library.presets()}
    devices = window.act.overlays.preferences.device
    data |= {devices.itemText(number) for number in range(1, devices.count())}
    languages = window.act.overlays.preferences.language
    data |= {languages.itemText(number) for number in range(1, languages.count())}
    views = window.act.overlays.preferences.view
    data |= {views.itemText(number) for number in range(1, views.count())}
    data |= {shot.name, shot.variant, *(each.text() for _, each in window.commands.found())}
    unknown = {each for each in Longer.asked - sentences - data if re.search("[A-Za-z]{3}", each)}
    assert not unknown, "translators are not given these: scripts/words.py"
    left = {
        (what, text)
        for what, text in texts(window)
        if re.search("[A-Za-z]{3}", UNITS.sub("", text))
        and "‹" not in text
        and text not in data
        and shot.name not in text
        and walk.name not in text
    }
    assert not left
    assert all("‹" in action.text() for way, action in window.commands.found() if action.text() != shot.name)
    cut = [
        each.text()
        for each in window.findChildren(QAbstractButton)
        if each.isVisible() and each.text() and each.width() + 1 < each.minimumSizeHint().width()
    ]
    assert not cut
    assert window.desk.transport.modes.width() >= window.desk.transport.modes.minimumSizeHint().width()


@pytest.mark.parametrize("language", LANGUAGES)
def test_a_language_is_whole_and_its_values_stand_in_it(language: str, sentences: set[str]) -> None:
    said = translations.sentences(language)
    assert sentences <= said.keys(), f"to be translated: scripts/words.py {translations.path_of(language)}"
    for source, text in said.items():
        assert sorted(re.findall(r"{[^}]*}", source)) == sorted(re.findall(r"{[^}]*}", text)), text
        assert source.count("\n") == text.count("\n")
        assert (source[:1] == " ", source[-1:] == " ") == (text[:1] == " ", text[-1:] == " "), text


@pytest.mark.parametrize("page", sorted(path.relative_to(PAGES) for path in PAGES.glob("??/*.md")), ids=str)
def test_a_translated_page_has_all_steps_and_names_what_is_on_the_screen(page: Path) -> None:
    own, english = (path.read_text(encoding="utf-8") for path in (PAGES / page, PAGES / page.name))
    for kept in (r"^\d+\. ", r"^#+ ", r"\(\w+\.jpg\)", r"^- "):
        assert len(re.findall(kept, own, re.M)) == len(re.findall(kept, english, re.M)), kept
    said = {text.rstrip("…").casefold() for text in translations.sentences(str(page.parent)).values()}
    for words in re.findall(r"\*\*(.+?)\*\*", own, re.S):
        whole = " ".join(words.split()).casefold()
        label, _, value = whole.partition(": ")
        assert whole in said or not re.search("[a-z]{2}", whole) or {f"{label}: {{0}}", value} <= said, words


def test_german_is_spoken_and_asked_in_where_it_is_chosen(own_data: Path) -> None:
    settings.change(language="de")
    script = """
from PySide6.QtWidgets import QApplication
from young_tremor.desk.kit import i18n, theme
from young_tremor.desk.window.window import MainWindow
from young_tremor.engine.asking.ask import ask
from young_tremor.engine.asking.settings_index import Place
from young_tremor.engine.document.session import Session
from young_tremor.engine.library import preset_library
from young_tremor.engine.playback.player import SilentDevice
app = QApplication([])
i18n.set_language(app)
theme.dress(app)
project = preset_library.demo_project()
window = MainWindow(Session(project), SilentDevice())
print(window.desk.header.render_button.text(), "|", window.desk.transport.modes.accessibleName())
window.act.overlays.show_manual()
place = Place(project.shots[0])
for asked in ("Bewegungsunschärfe 90", "Rollen 0,3 Grad 5 Hz, steigend", "motion blur 45"):
    answer = ask(asked, place)
    print(answer.understood)
print(ask("erdbeben", place).entries[0].name, "|", ask("Titel hinzufügen", place).entries[0].name)
window.act.files.may_leave = lambda: True
window.close()
"""
    said = subprocess.run(
        [sys.executable, "-c", script], capture_output=True, text=True, check=True
    ).stdout.splitlines()
    assert said == [
        "Rendern | Vergleichen",
        "Shutter angle: 180° → 90°",
        "Drift: roll 0.3°, 5 Hz, rising",
        "Shutter angle: 180° → 45°",
        "Far quake | Add a title",
    ]


def test_values_take_their_places_and_counts_their_numbers() -> None:
    assert i18n.tr("{1} of {0}", 3, "one") == "one of 3"
    assert [i18n.counted(number, "hit") for number in (0, 1, 2)] == ["0 hits", "1 hit", "2 hits"]
