"""A colour as a chip of paint: pressed, it offers others, and any that is written out."""

from __future__ import annotations

from functools import partial

from PySide6.QtCore import QRectF, QSize, Qt, Signal
from PySide6.QtGui import QAccessible, QColor, QPainter, QPaintEvent, QPen, QRegularExpressionValidator
from PySide6.QtWidgets import QAbstractButton, QGridLayout, QLineEdit, QMenu, QSizePolicy, QWidget, QWidgetAction

from young_tremor.desk.kit import theme
from young_tremor.desk.kit.accessible import tell
from young_tremor.desk.kit.i18n import tr

#: Inks and papers of a print shop.
CHIPS = (
    "#f4eddc",
    "#ffffff",
    "#15181a",
    "#000000",
    "#8a1f3d",
    "#d94f2a",
    "#f2c14e",
    "#2f7d53",
    "#1f4fa3",
    "#a8740a",
)


class ColourChip(QAbstractButton):
    """One colour."""

    pressable = True

    def __init__(self, colour: str, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.colour = colour
        self.setAccessibleName(colour)
        self.setFocusPolicy(Qt.FocusPolicy.TabFocus)
        self.setSizePolicy(QSizePolicy.Policy.Fixed, QSizePolicy.Policy.Fixed)

    def sizeHint(self) -> QSize:
        return QSize(26, 22)

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setPen(QPen(QColor(theme.LAMP if self.hasFocus() or self.underMouse() else theme.LINE), 1.4))
        painter.setBrush(QColor(self.colour))
        painter.drawRoundedRect(QRectF(self.rect()).adjusted(1, 1, -1, -1), 3, 3)


class ColourSwatch(ColourChip):
    """The colour that is set. ``picked`` says another one, written like #f2c14e."""

    picked = Signal(str)

    def __init__(self, words: str) -> None:
        super().__init__(CHIPS[0])
        self._words = tr(words)
        self.setAccessibleName(self._words)
        self.setToolTip(tr("{0}: press for another", self._words))
        self.clicked.connect(self._offer)

    def sizeHint(self) -> QSize:
        return QSize(44, 22)

    def set_colour(self, colour: str) -> None:
        """Show a colour, written like #f2c14e."""
        if colour != self.colour:
            self.colour = colour
            self.update()

    def _offer(self) -> None:
        menu = QMenu(self)
        menu.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        inside = QWidget()
        grid = QGridLayout(inside)
        grid.setContentsMargins(8, 6, 8, 6)
        for number, colour in enumerate(CHIPS):
            chip = ColourChip(colour)
            chip.clicked.connect(partial(self._take, colour, menu))
            grid.addWidget(chip, number // 5, number % 5)
        written = QLineEdit(self.colour)
        written.setAccessibleName(tr("Colour, written like #f2c14e"))
        written.setValidator(QRegularExpressionValidator(r"#?[0-9a-fA-F]{6}", written))
        written.setFont(theme.numbers(13))
        written.returnPressed.connect(lambda: self._take(written.text(), menu))
        grid.addWidget(written, 2, 0, 1, 5)
        action = QWidgetAction(menu)
        action.setDefaultWidget(inside)
        menu.addAction(action)
        menu.popup(self.mapToGlobal(self.rect().bottomLeft()))
        written.setFocus()

    def _take(self, colour: str, menu: QMenu) -> None:
        menu.close()
        self.picked.emit(f"#{colour.lstrip('#').lower()}")


tell(ColourChip, QAccessible.Role.Button, lambda chip: chip.colour)
