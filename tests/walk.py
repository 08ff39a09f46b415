"""A page of the manual, walked step by step in the real window."""

from __future__ import annotations

import re
from collections.abc import Iterator
from pathlib import Path

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QAbstractButton, QApplication, QComboBox, QMenu, QWidget

from driver import Desk
from young_tremor.desk.kit.number_field import NumberField
from young_tremor.desk.kit.segments import Segments
from young_tremor.desk.window.commands import COMMANDS
from young_tremor.engine.document.session import Session
from young_tremor.engine.library import preset_library
from young_tremor.model import shot_edits
from young_tremor.model.project import Project

PAGES = preset_library.ASSETS / "manual"
K = Qt.Key
CTRL, SHIFT = Qt.KeyboardModifier.ControlModifier, Qt.KeyboardModifier.ShiftModifier
LEFT, NONE = Qt.MouseButton.LeftButton, Qt.KeyboardModifier.NoModifier


def plain(text: str) -> str:
    return " ".join(re.sub(r"[*`]", "", text).split())


class Walk(Desk):
    """A window, and the page that is walked in it. A step begins with the words that the page says; at the end none is
    left, and every word in bold has been seen on the screen."""

    def __init__(self, qtbot, page: str, project: Project | None = None) -> None:  # type: ignore[no-untyped-def]
        super().__init__(qtbot, Session(project))
        self.text = (PAGES / f"{page}.md").read_text(encoding="utf-8")
        self.left = [plain(each) for each in re.findall(r"^\d+\. (.*?)(?=^\d+\. |^$|\Z)", self.text, re.M | re.S)]
        self.words = {plain(command.words.rstrip("…")).casefold() for command in COMMANDS}
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
            said = [each.accessibleName(), *(getattr(each, name, "") for name in ("words", "name", "short"))]
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
        keys = {key for command in COMMANDS for key in command.keys}
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

    def rule(self, name: str) -> NumberField:
        """The rule of that name that is on the panel, the first of them."""
        return next(
            r for r in self.window.desk.panel.findChildren(NumberField) if r.accessibleName() == name and r.isVisible()
        )

    def menu_of(self, widget: QWidget, x: float, y: float, words: str) -> None:
        self.context(widget, x, y)
        self.look()
        self.pick(words)


def of(footage: Path, preset: str = "standing, breathing") -> Project:
    return shot_edits.add_shot(footage, preset_library.preset(preset))(Project())
