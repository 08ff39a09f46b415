"""The controls of a title: what it says, how it is set, how it comes apart."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

from msgspec.structs import replace
from PySide6.QtCore import QEvent, QObject, Qt, QTimer, Signal
from PySide6.QtGui import QFocusEvent, QKeyEvent
from PySide6.QtWidgets import QComboBox, QFileDialog, QHBoxLayout, QLabel, QPlainTextEdit

from young_tremor.desk.kit import theme
from young_tremor.desk.kit.colour_swatch import ColourSwatch
from young_tremor.desk.kit.column import Column
from young_tremor.desk.kit.i18n import tr
from young_tremor.desk.kit.segments import Segments
from young_tremor.desk.panels.controls import Controls
from young_tremor.engine.document.session import Session
from young_tremor.model.fields import Choice, field_at
from young_tremor.model.shot_edits import Edit
from young_tremor.model.title import Title

WORDS, SETTING = "Title", "Lettering"
APART_TIPS = {
    "whole": "It moves as one",
    "line": "Each line goes its own way",
    "word": "Each word goes its own way",
    "letter": "Each letter goes its own way",
}
ALIGN = (
    ("left", "Left", "Lines begin at one edge"),
    ("centre", "Centre", ""),
    ("right", "Right", "Lines end at one edge"),
)
OTHER = "\0other"
REST = 1200  # milliseconds without a key after which what was typed is one step
ROWS = 58


class TitleTextEdit(QPlainTextEdit):
    """The text; what is typed without a rest is one step. Escape gives the keys back to the desk."""

    left = Signal()

    def __init__(self) -> None:
        super().__init__()
        self.setFixedHeight(ROWS)
        self.setTabChangesFocus(True)
        self.setAccessibleName(tr("Text of the title"))
        self.setStyleSheet(
            f"QPlainTextEdit {{ background: {theme.DEEP}; border: 1px solid {theme.LINE}; border-radius: 4px; "
            f"padding: 2px 4px; selection-background-color: {theme.LAMP}; selection-color: {theme.DEEP}; }}"
            f"QPlainTextEdit:focus {{ border-color: {theme.LAMP}; }}"
        )

    def event(self, event: QEvent) -> bool:
        """Escape is its own while it has the focus: what was typed is kept."""
        key = event.key() if isinstance(event, QKeyEvent) else None
        if key == Qt.Key.Key_Escape and event.type() == QEvent.Type.ShortcutOverride:
            event.accept()
            return True
        return super().event(event)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        if event.key() == Qt.Key.Key_Escape:
            self.clearFocus()
        else:
            super().keyPressEvent(event)

    def focusOutEvent(self, event: QFocusEvent) -> None:
        super().focusOutEvent(event)
        self.left.emit()


class TitleFields(QObject):
    """Puts its controls into two groups of a column; ``edit`` makes the edit that gives the plate a title."""

    faces_asked = Signal()  # those that are installed are wanted

    def __init__(self, session: Session, column: Column, edit: Callable[[Title], Edit]) -> None:
        super().__init__(column)
        self._session, self._edit = session, edit
        self.title: Title | None = None
        self._typing = False
        self._rest = QTimer(self)
        self._rest.setSingleShot(True)
        self._rest.setInterval(REST)
        self._rest.timeout.connect(self._typed)
        column.heading(WORDS)
        self.words = TitleTextEdit()
        self.words.textChanged.connect(self._type)
        self.words.left.connect(self._typed)
        column.rows.addWidget(self.words)
        parts = field_at(Title, "apart")
        assert isinstance(parts, Choice)
        self.apart = Segments(tuple((key, words, APART_TIPS[key]) for key, words in parts.options), parts.label)
        self.apart.chosen.connect(lambda how: self._apply("Apart", apart=how))
        column.rows.addWidget(self.apart)
        self._controls = Controls(Title, session, column, self._changed)
        self.rules = self._controls.numbers
        self._controls.number("differ")

    def more(self, column: Column) -> None:
        """The second group: how it is set."""
        column.heading(SETTING, folded=True)
        self.face = QComboBox()
        self.face.setAccessibleName(tr("Face"))
        self.face.setToolTip(tr("Shipped fonts, installed fonts, or a font file"))
        self.face.setMinimumContentsLength(10)
        self.face.setSizeAdjustPolicy(QComboBox.SizeAdjustPolicy.AdjustToMinimumContentsLengthWithIcon)
        self.face.activated.connect(self._set_face)
        column.rows.addWidget(self.face)
        self._controls.number("size")
        self._controls.number("tracking")
        self._controls.number("leading")
        self.align = Segments(ALIGN, "Alignment")
        self.align.chosen.connect(lambda how: self._apply("Alignment", align=how))
        column.rows.addWidget(self.align)
        self.colour = self._swatch(column, "Colour", "colour")
        self.outline_colour = self._swatch(column, "Outline", "outline_colour")
        self._controls.number("outline")
        self._controls.number("shadow")
        self._controls.number("shadow_far")
        self._controls.number("shadow_soft")
        self.set_faces(())

    def _swatch(self, column: Column, words: str, field: str) -> ColourSwatch:
        swatch = ColourSwatch(words)
        swatch.picked.connect(lambda colour: self._apply(words, **{field: colour}))
        label = QLabel(tr(words))
        label.setStyleSheet(f"color: {theme.DIM};")
        line = QHBoxLayout()
        line.addWidget(label, 1)
        line.addWidget(swatch)
        column.rows.addLayout(line)
        return swatch

    def set_faces(self, names: tuple[str, ...]) -> None:
        """The faces that can be chosen by name."""
        now = self.title.face if self.title else ""
        self.face.clear()
        for name in dict.fromkeys((*names, *filter(None, (now,)))):
            self.face.addItem(name.rsplit("/", 1)[-1], name)
        self.face.addItem(tr("Font file…"), OTHER)
        self.face.setCurrentIndex(self.face.findData(now))

    def show_title(self, title: Title) -> None:
        """Show a title; the caret stays where it is while its text does."""
        if self.title is None:
            self.faces_asked.emit()
        self.title = title
        if self.words.toPlainText() != title.text:
            self._typing = True
            self.words.setPlainText(title.text)
            self._typing = False
        self.apart.choose(title.apart)
        self.align.choose(title.align)
        self.rules["differ"].setEnabled(title.apart != "whole")
        self._controls.show(title)
        self.colour.set_colour(title.colour)
        self.outline_colour.set_colour(title.outline_colour)
        if self.face.findData(title.face) < 0:
            self.face.insertItem(0, title.face.rsplit("/", 1)[-1], title.face)
        self.face.setCurrentIndex(self.face.findData(title.face))

    def begin(self) -> None:
        """Let it be typed over."""
        self.words.setFocus()
        self.words.selectAll()

    def _changed(self, **changes: Any) -> Edit:
        return self._edit(replace(self.title, **changes)) if self.title is not None else lambda project: project

    def _apply(self, words: str, **changes: Any) -> None:
        if self.title is not None:
            self._session.apply(tr(words), self._changed(**changes))

    def _type(self) -> None:
        if self._typing or self.title is None:
            return
        if not self._rest.isActive():
            self._session.begin_gesture(tr("Text"))
        self._rest.start()
        self._apply("Text", text=self.words.toPlainText())

    def _typed(self) -> None:
        if self._rest.isActive():
            self._rest.stop()
        self._session.end_gesture()

    def _set_face(self, number: int) -> None:
        name = self.face.itemData(number)
        if name == OTHER:
            window = self.face.window()
            name, _ = QFileDialog.getOpenFileName(window, tr("A font file"), "", tr("Fonts (*.ttf *.otf *.ttc *.otc)"))
        if name:
            self._apply("Face", face=name)
        elif self.title is not None:
            self.face.setCurrentIndex(self.face.findData(self.title.face))
