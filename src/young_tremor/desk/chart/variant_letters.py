"""The variants of a shot's shake, as letters: A, B, C and a plus."""

from __future__ import annotations

from functools import partial

from PySide6.QtCore import QRectF, QSize, Qt, Signal
from PySide6.QtGui import (
    QAccessible,
    QColor,
    QContextMenuEvent,
    QFontMetricsF,
    QKeyEvent,
    QMouseEvent,
    QPainter,
    QPaintEvent,
)
from PySide6.QtWidgets import QMenu, QSizePolicy, QWidget

from young_tremor.desk.kit import theme
from young_tremor.desk.kit.accessible import tell
from young_tremor.desk.kit.i18n import tr
from young_tremor.engine.document.session import Session
from young_tremor.model import shot_edits
from young_tremor.model.project import Shot

CELL = 18


class VariantLetters(QWidget):
    """One is in use; a click uses another, the plus goes on with a copy."""

    compared = Signal(str)  # letter of the variant to compare with, empty for the still original

    def __init__(self, session: Session) -> None:
        super().__init__()
        self._session = session
        self._shot: Shot | None = None
        self.letters: tuple[str, ...] = ("A",)
        self.current = "A"
        self.setAccessibleName(tr("Variants"))
        self.setToolTip(
            tr("Variants of this shake: click to use one, + for a copy to go on with.\nRight click compares.")
        )
        self.setFocusPolicy(Qt.FocusPolicy.TabFocus)
        self.setSizePolicy(QSizePolicy.Policy.Fixed, QSizePolicy.Policy.Fixed)

    @property
    def _word(self) -> int:
        """Where the letters begin: after the word for them."""
        return round(QFontMetricsF(theme.text_font(13)).horizontalAdvance(tr("Variant"))) + 7

    def sizeHint(self) -> QSize:
        return QSize(self._word + CELL * (len(self.letters) + 1), 22)

    def show_shot(self, shot: Shot) -> None:
        """Show the variants of a shot."""
        self._shot = shot
        letters, current = shot.letters, shot.variant
        if (letters, current) != (self.letters, self.current):
            self.letters, self.current = letters, current
            self.setAccessibleDescription(tr("{0} of {1}", current, ", ".join(letters)))
            self.updateGeometry()
            self.update()

    def _use(self, letter: str) -> None:
        if self._shot is not None:
            more = letter == "+"
            edit = shot_edits.add_variant(self._shot.id) if more else shot_edits.choose_variant(self._shot.id, letter)
            self._session.apply(tr("New variant") if more else tr("Variant {0}", letter), edit)

    def _at(self, x: float) -> str | None:
        number = int((x - self._word) // CELL)
        cells = (*self.letters, "+")
        return cells[number] if x >= self._word and number < len(cells) else None

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setFont(theme.text_font(13))
        painter.setPen(QColor(theme.FAINT))
        painter.drawText(QRectF(0, 0, self._word, 22), Qt.AlignmentFlag.AlignVCenter, tr("Variant"))
        for number, letter in enumerate((*self.letters, "+")):
            cell = QRectF(self._word + CELL * number, 2, CELL - 2, 18)
            if letter == self.current and len(self.letters) > 1:
                painter.setPen(Qt.PenStyle.NoPen)
                painter.setBrush(QColor("#4b5651"))
                painter.drawRoundedRect(cell, 3, 3)
            painter.setPen(QColor(theme.TEXT if letter == self.current else theme.DIM))
            painter.drawText(cell, Qt.AlignmentFlag.AlignCenter, letter)
        if self.hasFocus():
            painter.fillRect(QRectF(self._word, 20, CELL * len(self.letters), 1), QColor(theme.LAMP))

    def mousePressEvent(self, event: QMouseEvent) -> None:
        letter = self._at(event.position().x())
        if letter is not None and event.button() == Qt.MouseButton.LeftButton and letter != self.current:
            self._use(letter)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        way = {Qt.Key.Key_Left: -1, Qt.Key.Key_Right: 1}.get(Qt.Key(event.key()))
        if way is not None and len(self.letters) > 1:
            self._use(self.letters[(self.letters.index(self.current) + way) % len(self.letters)])
        elif event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter, Qt.Key.Key_Plus):
            self._use("+")
        else:
            super().keyPressEvent(event)

    def contextMenuEvent(self, event: QContextMenuEvent) -> None:
        letter = self._at(event.pos().x())
        if letter is None or letter == "+" or self._shot is None:
            return
        menu = QMenu(self)
        self._fill(menu, letter)
        menu.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        menu.popup(event.globalPos())

    def _fill(self, menu: QMenu, letter: str) -> None:
        """What can be done with one of the letters."""
        if letter != self.current and self._shot is not None:
            gone = shot_edits.remove_variant(self._shot.id, letter)
            menu.addAction(tr("Compare with {0}", letter), lambda: self.compared.emit(letter))
            menu.addAction(
                tr("Delete {0}", letter), lambda: self._session.apply(tr("Delete variant {0}", letter), gone)
            )
        menu.addAction(tr("Compare with the still original"), lambda: self.compared.emit(""))

    def fill_menu(self, menu: QMenu) -> None:
        """All that can be done with the variants."""
        menu.addAction(tr("New variant"), lambda: self._use("+"))
        for letter in self.letters:
            if letter != self.current:
                menu.addAction(tr("Use {0}", letter), partial(self._use, letter))
                self._fill(menu.addMenu(tr("Variant {0}", letter)), letter)


tell(VariantLetters, QAccessible.Role.ComboBox, lambda letters: letters.current)
