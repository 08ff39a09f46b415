"""All commands with their keys, found by a few letters; Return does the one that is marked."""

from __future__ import annotations

from collections.abc import Callable, Iterator

import shiboken6
from PySide6.QtCore import QEvent, QObject, Qt
from PySide6.QtGui import QAccessible, QAction, QColor, QKeyEvent, QKeySequence
from PySide6.QtWidgets import (
    QHBoxLayout,
    QHeaderView,
    QKeySequenceEdit,
    QLabel,
    QLineEdit,
    QPushButton,
    QTreeWidget,
    QTreeWidgetItem,
    QVBoxLayout,
    QWidget,
)

from young_tremor.desk.kit import theme
from young_tremor.desk.kit.accessible import tell
from young_tremor.desk.kit.column import section
from young_tremor.desk.kit.i18n import tr
from young_tremor.desk.kit.sheet import Sheet

WAY = Qt.ItemDataRole.UserRole


tell(QKeySequenceEdit, QAccessible.Role.HotkeyField, lambda field: field.keySequence().toString())


class CommandFinder(Sheet):
    """Every command, sifted while letters are typed."""

    def __init__(
        self,
        parent: QWidget,
        found: Callable[[], Iterator[tuple[str, QAction]]],
        rekey: Callable[[str, str | None], str],
    ) -> None:
        super().__init__(parent, "Keys and commands")
        self.setFixedSize(560, 306)
        self._found, self._rekey = found, rekey
        self._actions: list[QAction] = []
        self._items: list[QTreeWidgetItem] = []
        self.field = QLineEdit()
        self.field.setAccessibleName(tr("Find a command"))
        self.field.setPlaceholderText(tr("A few letters: add drift, night, undo…"))
        self.field.textChanged.connect(self._sift)
        self.field.installEventFilter(self)
        self.list = QTreeWidget()
        self.list.setAccessibleName(tr("Commands"))
        self.list.setColumnCount(3)
        self.list.setHeaderHidden(True)
        self.list.setRootIsDecorated(False)
        self.list.setFocusPolicy(Qt.FocusPolicy.TabFocus)
        self.list.setStyleSheet(
            f"QTreeWidget {{ background: {theme.DEEP}; border: 1px solid {theme.LINE}; border-radius: 4px; }}"
            "QTreeWidget::item { padding: 4px 8px; }"
            f"QTreeWidget::item:selected {{ background: #47524d; color: {theme.TEXT}; }}"
        )
        self.list.itemClicked.connect(lambda item: self._do(item))
        self.list.itemActivated.connect(lambda item: self._do(item))
        hint = QLabel(tr("Return does it, Esc closes"))
        hint.setStyleSheet(f"color: {theme.DIM}; font-size: 13px;")
        head = QHBoxLayout()
        head.addWidget(section("Keys and commands"))
        head.addStretch(1)
        head.addWidget(hint)
        column = QVBoxLayout(self)
        column.setContentsMargins(18, 12, 18, 12)
        column.setSpacing(8)
        column.addLayout(head)
        column.addWidget(self.field)
        column.addWidget(self.list, 1)
        self.keys, self.words = QKeySequenceEdit(), QLabel("")
        self.keys.setMaximumSequenceLength(1)
        self.keys.setClearButtonEnabled(True)
        self.keys.setAccessibleName(tr("Key of the marked command"))
        self.keys.setFixedWidth(130)
        self.words.setStyleSheet(f"color: {theme.DIM}; font-size: 13px;")
        self.set, self.back = QPushButton(tr("Set key")), QPushButton(tr("As it comes"))
        self.set.setToolTip(tr("Assign this shortcut. Leave empty to remove it."))
        self.back.setToolTip(tr("Restore the default shortcut"))
        self.set.clicked.connect(lambda: self._give(self.keys.keySequence().toString()))
        self.back.clicked.connect(lambda: self._give(None))
        self.list.currentItemChanged.connect(lambda item: self._mark(item))
        foot = QHBoxLayout()
        foot.addWidget(self.words, 1)
        for widget in (self.keys, self.set, self.back):
            foot.addWidget(widget)
        column.addLayout(foot)

    def _mark(self, item: QTreeWidgetItem | None) -> None:
        """Show the keys of the command that is marked; what is no command of the list has none to change."""
        action = self._actions[item.data(0, WAY)] if item is not None else None
        mine = action is not None and shiboken6.isValid(action) and bool(action.objectName())
        for widget in (self.keys, self.set, self.back):
            widget.setEnabled(mine)
        self.keys.setKeySequence(action.shortcut() if mine and action is not None else QKeySequence())
        self.words.setText(tr("Its key") if mine else tr("No key of its own"))

    def _give(self, key: str | None) -> None:
        item = self.list.currentItem()
        if item is not None:
            action = self._actions[item.data(0, WAY)]
            self.words.setText(self._rekey(action.objectName(), key))
            for each, shown in zip(self._actions, self._items, strict=True):
                if shiboken6.isValid(each):
                    shown.setText(2, _keys(each))

    def open(self) -> None:
        """Show everything that can be done now."""
        self.list.clear()
        self._actions, self._items = [], []
        for way, action in self._found():
            words = action.text().replace("&", "")
            item = QTreeWidgetItem([words, way, _keys(action)])
            item.setForeground(1, QColor(theme.DIM))
            item.setForeground(2, QColor(theme.LAMP))
            item.setData(0, WAY, len(self._actions))
            self._actions.append(action)
            self._items.append(item)
            self.list.addTopLevelItem(item)
        header = self.list.header()
        header.setStretchLastSection(False)
        header.setSectionResizeMode(0, QHeaderView.ResizeMode.Stretch)
        for column in (1, 2):
            header.setSectionResizeMode(column, QHeaderView.ResizeMode.ResizeToContents)
        self.field.clear()
        self._sift("")
        self.show()
        self.raise_()
        self.field.setFocus()

    def _sift(self, text: str) -> None:
        """Show what has all the letters that were typed, words in any order."""
        wanted = text.casefold().split()
        shown = []
        for item in self._items:
            words = f"{item.text(0)} {item.text(1)} {item.text(2)}".casefold()
            item.setHidden(not all(text in words for text in wanted))
            if not item.isHidden():
                shown.append(item)
        if shown:
            self.list.setCurrentItem(shown[0])
        else:
            self.list.clearSelection()

    def _do(self, item: QTreeWidgetItem | None) -> None:
        if item is None:
            return
        action = self._actions[item.data(0, WAY)]
        self.hide()
        if shiboken6.isValid(action):
            action.trigger()

    def eventFilter(self, watched: QObject, event: QEvent) -> bool:
        """Arrows and Return in the field are for the list."""
        if event.type() == QEvent.Type.KeyPress and isinstance(event, QKeyEvent):
            if event.key() in (Qt.Key.Key_Up, Qt.Key.Key_Down, Qt.Key.Key_PageUp, Qt.Key.Key_PageDown):
                self.list.keyPressEvent(event)
                return True
            if event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
                item = self.list.currentItem()
                self._do(None if item is None or item.isHidden() else item)
                return True
            if event.key() == Qt.Key.Key_Escape:
                self.hide()
                return True
        return False

    def hideEvent(self, event: object) -> None:
        parent = self.parentWidget()
        if parent is not None:
            parent.setFocus()


def _keys(action: QAction) -> str:
    return ", ".join(sequence.toString(QKeySequence.SequenceFormat.NativeText) for sequence in action.shortcuts())
