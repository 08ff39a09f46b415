"""The ask line: a field in the head, and what it understood, as a list over the chart."""

from __future__ import annotations

from collections.abc import Callable

from PySide6.QtCore import QEvent, QModelIndex, QObject, QPersistentModelIndex, QRectF, QSize, Qt, Signal
from PySide6.QtGui import QColor, QKeyEvent, QPainter
from PySide6.QtWidgets import (
    QHBoxLayout,
    QLabel,
    QLineEdit,
    QListWidget,
    QListWidgetItem,
    QStyle,
    QStyledItemDelegate,
    QStyleOptionViewItem,
    QVBoxLayout,
    QWidget,
)

from young_tremor.desk.kit import theme
from young_tremor.desk.kit.column import section
from young_tremor.desk.kit.focus import KEEPS, give_back
from young_tremor.desk.kit.i18n import tr
from young_tremor.desk.kit.sheet import Sheet
from young_tremor.engine.asking.entries import Answer, Entry

ENTRY = Qt.ItemDataRole.UserRole
ROW = 40  # pixels of an entry
KINDS = {
    "do": "do",
    "set": "set",
    "move": "move",
    "preset": "preset",
    "take": "take",
    "time": "time",
    "hit": "hit",
    "page": "manual",
}
MARKED = "#47524d"


class AskField(QLineEdit):
    """The field in the head: quiet until one asks, and as wide as the menus then. ``active``: whether one asks."""

    active = Signal(bool)

    def __init__(self) -> None:
        super().__init__()
        self.setAccessibleName(tr("Ask"))
        self.setPlaceholderText(tr("Ask (Ctrl+K)"))
        self.setToolTip(tr("Ask in your own words or in figures: 30 px 2 Hz, motion blur, hide the edges (Ctrl+K)"))
        self.setProperty(KEEPS, True)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)


class _EntryDelegate(QStyledItemDelegate):
    """An entry in two lines, with its kind at the right."""

    def sizeHint(self, option: QStyleOptionViewItem, index: QModelIndex | QPersistentModelIndex) -> QSize:
        return QSize(200, ROW)

    def paint(
        self, painter: QPainter, option: QStyleOptionViewItem, index: QModelIndex | QPersistentModelIndex
    ) -> None:
        entry: Entry = index.data(ENTRY)
        marked = bool(option.state & QStyle.StateFlag.State_Selected)
        area = QRectF(option.rect)
        painter.save()
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        if marked:
            painter.fillRect(area, QColor(MARKED))
            painter.fillRect(QRectF(area.left(), area.top(), 3, area.height()), QColor(theme.LAMP))
        text = area.adjusted(14, 3, -92, -3)
        above = QRectF(text.left(), text.top(), text.width(), text.height() * 0.55) if entry.detail else text
        align = Qt.AlignmentFlag.AlignVCenter | Qt.AlignmentFlag.AlignLeft
        painter.setFont(theme.text_font(15))
        painter.setPen(QColor(theme.TEXT))
        painter.drawText(above, align, _elided(painter, tr(entry.name), above.width()))
        if entry.detail:
            below = QRectF(text.left(), above.bottom(), text.width(), text.height() * 0.45)
            painter.setFont(theme.text_font(13))
            painter.setPen(QColor(theme.DIM))
            painter.drawText(below, align, _elided(painter, tr(entry.detail), below.width()))
        painter.setFont(theme.text_font(13))
        painter.setPen(QColor(theme.LAMP if marked else theme.OFF))
        painter.drawText(
            area.adjusted(0, 0, -14, 0),
            Qt.AlignmentFlag.AlignVCenter | Qt.AlignmentFlag.AlignRight,
            tr(KINDS[entry.kind]),
        )
        painter.restore()


def _elided(painter: QPainter, text: str, width: float) -> str:
    return painter.fontMetrics().elidedText(text, Qt.TextElideMode.ElideRight, int(width))


class AskLine(Sheet):
    """The answers to what stands in a field. ``marked``: the entry under the mark, None when it is over; ``chosen``: an
    entry was taken."""

    marked = Signal(object)
    chosen = Signal(object)

    def __init__(self, parent: QWidget, field: AskField, answer: Callable[[str], Answer]) -> None:
        super().__init__(parent, "Answers")
        self.field, self._answer = field, answer
        self._invitation = self._nothing = ""
        self.understood, self.empty = QLabel(""), QLabel("")
        self.understood.setAccessibleName(tr("Understood"))
        self.empty.setWordWrap(True)
        self.empty.setStyleSheet(f"color: {theme.DIM}; padding: 10px 14px;")
        self.list = QListWidget()
        self.list.setAccessibleName(tr("Answers"))
        self.list.setItemDelegate(_EntryDelegate(self.list))
        self.list.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        self.list.setStyleSheet("QListWidget { background: transparent; border: none; }")
        self.list.currentItemChanged.connect(self._mark)
        self.list.itemClicked.connect(self._take)
        self.hint = QLabel(tr("A motion, a number, a command, a preset, a time. Return does it, Esc closes."))
        self.hint.setStyleSheet(f"color: {theme.FAINT}; font-size: 13px;")
        head = QHBoxLayout()
        head.addWidget(section("Understood"))
        head.addSpacing(12)
        head.addWidget(self.understood, 1)
        self._head = QWidget()
        self._head.setLayout(head)
        head.setContentsMargins(14, 0, 14, 0)
        column = QVBoxLayout(self)
        column.setContentsMargins(6, 9, 6, 8)
        column.setSpacing(6)
        column.addWidget(self._head)
        column.addWidget(self.empty)
        column.addWidget(self.list, 1)
        foot = QHBoxLayout()
        foot.setContentsMargins(14, 0, 14, 0)
        foot.addWidget(self.hint)
        column.addLayout(foot)
        field.installEventFilter(self)
        field.textChanged.connect(self._ask)

    @property
    def entries(self) -> list[Entry]:
        """What is offered, the best first."""
        return [self.list.item(number).data(ENTRY) for number in range(self.list.count())]

    def open(self) -> None:
        """Show the answers to what stands in the field."""
        self.show()
        self.raise_()
        self._ask(self.field.text())

    def _ask(self, text: str) -> None:
        if not self.isVisible():
            return
        answer = self._answer(text)
        self.list.blockSignals(True)
        self.list.clear()
        for entry in answer.entries:
            item = QListWidgetItem(f"{tr(entry.name)}, {tr(entry.detail)}, {tr(KINDS[entry.kind])}")
            item.setData(ENTRY, entry)
            self.list.addItem(item)
        self.list.setCurrentRow(0)
        self.list.blockSignals(False)
        self._head.setVisible(answer.understood is not None)
        self.understood.setText(answer.understood or "")
        self.list.setVisible(bool(answer.entries))
        self.empty.setText(self._nothing if text.strip() else self._invitation)
        self.empty.setVisible(not answer.entries)
        self._mark(self.list.currentItem())

    def say_empty(self, invitation: str, nothing: str) -> None:
        """What stands there before anything is asked, and where there are no answers."""
        self._invitation, self._nothing = invitation, nothing

    def _mark(self, item: QListWidgetItem | None) -> None:
        self.marked.emit(None if item is None else item.data(ENTRY))

    def _take(self, item: QListWidgetItem | None) -> None:
        if item is not None:
            entry = item.data(ENTRY)
            self.close_line()
            self.chosen.emit(entry)

    def close_line(self) -> None:
        """End asking: the field is empty and quiet again, the keys are the playhead's."""
        self.hide()
        self.marked.emit(None)
        self.field.clear()
        give_back(self.field)

    def eventFilter(self, watched: QObject, event: QEvent) -> bool:
        """Arrows, Return and Esc in the field are for the list."""
        if event.type() == QEvent.Type.FocusIn:
            self.field.active.emit(True)
        elif event.type() == QEvent.Type.FocusOut:
            self.hide()
            self.marked.emit(None)
            self.field.active.emit(False)
        elif event.type() == QEvent.Type.ShortcutOverride and isinstance(event, QKeyEvent):
            if event.key() in (Qt.Key.Key_Up, Qt.Key.Key_Down, Qt.Key.Key_Escape, Qt.Key.Key_Return, Qt.Key.Key_Enter):
                event.accept()
                return True
        elif event.type() == QEvent.Type.KeyPress and isinstance(event, QKeyEvent):
            return self._key(event)
        return False

    def _key(self, event: QKeyEvent) -> bool:
        """A key that the list takes; False for one that is the field's."""
        steps = {Qt.Key.Key_Up: -1, Qt.Key.Key_Down: 1, Qt.Key.Key_PageUp: -5, Qt.Key.Key_PageDown: 5}
        step = steps.get(Qt.Key(event.key()))
        if step is not None and self.list.count():
            self.list.setCurrentRow(min(max(self.list.currentRow() + step, 0), self.list.count() - 1))
        elif event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
            self._take(self.list.currentItem())
        elif event.key() == Qt.Key.Key_Escape:
            self.close_line()
        else:
            return step is not None
        return True
