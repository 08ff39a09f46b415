"""The manual in a window of its own, so that it can be read beside the work."""

from __future__ import annotations

from pathlib import Path

from PySide6.QtCore import Qt, QUrl, Signal
from PySide6.QtGui import QColor, QTextCursor, QTextTable
from PySide6.QtWidgets import QHBoxLayout, QListWidget, QTextBrowser, QWidget

from young_tremor.desk.kit import theme
from young_tremor.desk.kit.i18n import tr
from young_tremor.engine.asking import word_index
from young_tremor.engine.library import preset_library, translations

PAGES = preset_library.ASSETS / "manual"


def _text(page: Path) -> str:
    """A page in the language of the window, or in English where there is none."""
    own = PAGES / translations.chosen() / page.name
    return (own if own.exists() else page).read_text(encoding="utf-8")


MARGIN = 14  # pixels beside the longest title
LOOKED_UP = ("11-keyboard", "12-numbers", "13-index")  # pages that stand after those that are read


def _place_of(page: Path) -> tuple[bool, int]:
    """Where a page stands in the list: the jobs first, what is looked up last."""
    return page.stem in LOOKED_UP, int(page.stem.partition("-")[0])


class ManualWindow(QWidget):
    """Pages at the left, what the chosen one says at the right."""

    word_clicked = Signal(str)  # a word of the index that was clicked

    def __init__(self, parent: QWidget) -> None:
        super().__init__(parent, Qt.WindowType.Window)
        self.setWindowTitle(tr("Manual – Young Tremor"))
        self.setAccessibleName(tr("Manual"))
        self.resize(980, 680)
        self.setStyleSheet(f"Manual {{ background: {theme.PANEL_COLOUR}; }}")
        self.list = QListWidget()
        self.list.setAccessibleName(tr("Pages"))
        self.list.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.list.setStyleSheet(
            "QListWidget::item { padding: 5px 8px; }"
            f"QListWidget::item:selected {{ background: #47524d; color: {theme.TEXT}; }}"
        )
        self.page = QTextBrowser()
        self.page.setAccessibleName(tr("Page"))
        self.page.setSearchPaths([str(PAGES)])
        self.page.setOpenLinks(False)
        self.page.anchorClicked.connect(self._follow)
        self.page.setStyleSheet(
            f"QTextBrowser {{ background: {theme.DEEP}; border: 1px solid {theme.LINE}; padding: 12px; }}"
        )
        self._files = sorted(PAGES.glob("*.md"), key=_place_of)
        for path in self._files:
            self.list.addItem(_text(path).splitlines()[0].lstrip("# "))
        self.list.setFixedWidth(self.list.sizeHintForColumn(0) + MARGIN)
        self.list.currentRowChanged.connect(self._show)
        row = QHBoxLayout(self)
        row.setContentsMargins(12, 12, 12, 12)
        row.addWidget(self.list)
        row.addWidget(self.page, 1)

    def open(self, page: str = "") -> None:
        """Show it, at a page by its file's name, or at the one that was read last."""
        number = next((number for number, path in enumerate(self._files) if path.stem == page), None)
        if number is not None:
            self.list.setCurrentRow(number)
        elif self.list.currentRow() < 0:
            self.list.setCurrentRow(0)
        self.show()
        self.raise_()
        self.activateWindow()
        self.list.setFocus()

    def _follow(self, link: QUrl) -> None:
        """Go where a link leads: another page, or what a word of the index is asked for."""
        if link.scheme() == word_index.ASK:
            self.word_clicked.emit(link.path(QUrl.ComponentFormattingOption.FullyDecoded))
        else:
            self.open(link.path().rpartition("/")[2].removesuffix(".md"))

    def _show(self, number: int) -> None:
        self.page.document().setBaseUrl(QUrl.fromLocalFile(f"{PAGES}/"))
        self.page.setMarkdown(_text(self._files[number]))
        self._space()

    def _space(self) -> None:
        """Room over headings and under pictures, and quiet lines in tables."""
        text = self.page.document()
        once = QTextCursor(text)
        once.beginEditBlock()  # laid out once: the index has 1,400 lines
        for frame in text.rootFrame().childFrames():
            if isinstance(frame, QTextTable):
                quiet = frame.format()
                quiet.setBorderBrush(QColor(theme.LINE))
                frame.setFormat(quiet)
        block = text.begin()
        while block.isValid():
            format, cursor = block.blockFormat(), QTextCursor(block)
            if format.headingLevel() > 1:
                format.setTopMargin(18)
            if format.headingLevel() or block.text() == "\ufffc":  # a picture by itself
                format.setBottomMargin(10)
            cursor.setBlockFormat(format)
            block = block.next()
        once.endEditBlock()
