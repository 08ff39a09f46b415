"""Parts of the panel: a scrolling column of controls in groups that fold, headings, dividers."""

from __future__ import annotations

from PySide6.QtCore import QRectF, Qt, Signal
from PySide6.QtGui import QAccessible, QColor, QPainter, QPaintEvent, QPolygonF
from PySide6.QtWidgets import QComboBox, QFrame, QLabel, QScrollArea, QVBoxLayout, QWidget

from young_tremor.base.errors import TremorError
from young_tremor.desk.kit import theme
from young_tremor.desk.kit.accessible import tell
from young_tremor.desk.kit.i18n import tr
from young_tremor.desk.kit.number_field import NumberField
from young_tremor.desk.kit.pressable import Pressable
from young_tremor.engine.library import settings
from young_tremor.engine.system import log

SPACING = 3  # pixels between fields


def section(words: str) -> QLabel:
    """A small spaced heading."""
    label = QLabel(tr(words).upper())
    label.setFont(theme.text_font(12, spaced=1.5))
    label.setStyleSheet(f"color: {theme.DIM}; font-size: 12px; letter-spacing: 1.5px;")
    return label


def remark(ink: str = theme.DIM) -> QLabel:
    """Words below the controls that they are about, over as many lines as they take."""
    label = QLabel()
    label.setWordWrap(True)
    label.setStyleSheet(f"color: {ink}; font-size: 13px;")
    return label


def divider() -> QFrame:
    """A line across the column."""
    line = QFrame()
    line.setFixedHeight(1)
    line.setStyleSheet(f"background: {theme.LINE};")
    return line


class Fold(Pressable):
    """The heading of a group: a click, Space or Return folds it; folded, it says the group's main value."""

    toggled = Signal(bool)

    def __init__(self, words: str) -> None:
        super().__init__()
        self.words, self.folded, self.value = tr(words), False, ""
        self.setFixedHeight(22)
        self.setAccessibleName(self.words)
        self.setToolTip(tr("Fold or unfold"))

    def set_folded(self, folded: bool, value: str = "") -> None:
        """Show it folded, with the main value of its group, or open."""
        self.folded, self.value = folded, value
        self.update()

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        ink = QColor(theme.LAMP if self.hasFocus() else theme.DIM)
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(ink)
        middle = QRectF(0, 0, 10, self.height()).center()
        turned = [(-2, -4), (3, 0), (-2, 4)] if self.folded else [(-4, -2), (4, -2), (0, 3)]
        painter.drawPolygon(QPolygonF([middle + type(middle)(x, y) for x, y in turned]))
        painter.setPen(ink)
        painter.setFont(theme.text_font(12, spaced=1.5))
        room = QRectF(15, 0, self.width() - 15, self.height())
        painter.drawText(room, Qt.AlignmentFlag.AlignVCenter, self.words.upper())
        if self.folded and self.value:
            painter.setPen(QColor(theme.TEXT))
            painter.setFont(theme.numbers(12))
            painter.drawText(room, Qt.AlignmentFlag.AlignVCenter | Qt.AlignmentFlag.AlignRight, self.value)

    def press(self) -> None:
        """Fold or unfold."""
        self.toggled.emit(not self.folded)


tell(Fold, QAccessible.Role.Button, lambda fold: tr("folded, {0}", fold.value) if fold.folded else tr("open"))


class Column(QScrollArea):
    """A scrolling column of controls. What is put into ``rows`` belongs to the group of the last heading."""

    def __init__(self) -> None:
        super().__init__()
        self.setWidgetResizable(True)
        self.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        inner = QWidget()
        self.rows = self._all = QVBoxLayout(inner)
        self.rows.setContentsMargins(16, 12, 14, 12)
        self.rows.setSpacing(SPACING)
        self.folds: dict[str, tuple[Fold, QWidget]] = {}
        self._lines: dict[str, QFrame] = {}
        self._closed: set[str] = set()  # those that are folded at first
        self._hidden: set[str] = set()
        self.setWidget(inner)

    def show_group(self, words: str, *, shown: bool) -> None:
        """Show or hide a whole group, heading and all."""
        if shown != (words not in self._hidden):
            (self._hidden.discard if shown else self._hidden.add)(words)
            fold, group = self.folds[words]
            fold.setVisible(shown)
            self._lines[words].setVisible(shown)
            group.setVisible(shown and not fold.folded)

    def heading(self, words: str, *, folded: bool = False) -> None:
        """A line across and a heading under it, which folds what follows; ``folded``: it is at first."""
        line = divider()
        self._all.addSpacing(4)
        self._all.addWidget(line)
        fold, group = Fold(words), QWidget()
        self._lines[words] = line
        if folded:
            self._closed.add(words)
        self.rows = QVBoxLayout(group)
        self.rows.setContentsMargins(0, 0, 0, 0)
        self.rows.setSpacing(SPACING)
        self._all.addWidget(fold)
        self._all.addWidget(group)
        self.folds[words] = fold, group
        fold.toggled.connect(lambda folded: self._fold(words, folded=folded))

    def reveal(self, control: QWidget) -> None:
        """Unfold the group that a control is in, for now, and bring it into view."""
        for words, (fold, group) in self.folds.items():
            if fold.folded and group.isAncestorOf(control):
                self._show(words, folded=False)
        self.ensureWidgetVisible(control)

    def finish(self) -> None:
        """No more comes: what is folded stays so."""
        self._all.addStretch(1)
        folded = settings.load().folded
        for words, (_, group) in self.folds.items():
            for rule in group.findChildren(NumberField):
                rule.shown.connect(lambda words=words: self._tell(words))
            if (self._name(words) in folded) != (words in self._closed):
                self._show(words, folded=True)

    @property
    def least_width(self) -> int:
        """How wide it has to be for nothing in it to be cut off."""
        inner = self.widget()
        return inner.minimumSizeHint().width() + 10 if inner is not None else 0

    def _name(self, words: str) -> str:
        return f"{type(self).__name__}/{words}"

    def _fold(self, words: str, *, folded: bool) -> None:
        self._show(words, folded=folded)
        name = self._name(words)
        try:
            settings.update(
                lambda now: settings.with_fold(now, name, folded=folded != (words in self._closed)),
            )
        except TremorError as error:
            log.unexpected(error)

    def _show(self, words: str, *, folded: bool) -> None:
        fold, group = self.folds[words]
        group.setVisible(not folded and words not in self._hidden)
        fold.set_folded(folded, self._main(group))

    def _tell(self, words: str) -> None:
        fold, group = self.folds[words]
        if fold.folded:
            fold.set_folded(True, self._main(group))

    @staticmethod
    def _main(group: QWidget) -> str:
        """A group's main value: of the first rule that is set, else of its first rule or list."""
        rules = [rule for rule in group.findChildren(NumberField) if not rule.isHidden()]
        for rule in [*(rule for rule in rules if rule.value != rule.reset_value), *rules][:1]:
            return f"{rule.label} {rule.value_text(rule.value)}"
        for box in group.findChildren(QComboBox)[:1]:
            return box.currentText()
        return ""
