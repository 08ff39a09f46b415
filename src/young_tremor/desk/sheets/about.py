"""What this is, which version, and under which licences."""

from __future__ import annotations

from PySide6.QtCore import Qt
from PySide6.QtGui import QPixmap
from PySide6.QtWidgets import QHBoxLayout, QLabel, QPlainTextEdit, QVBoxLayout, QWidget

from young_tremor import __version__
from young_tremor.desk.kit import theme
from young_tremor.desk.kit.i18n import tr
from young_tremor.engine import system_info
from young_tremor.engine.library import preset_library
from young_tremor.engine.system import menu_entry

MARK = 96  # pixels of the icon


class AboutWindow(QWidget):
    """A window of its own: the mark and the version, the licences under it."""

    def __init__(self, parent: QWidget) -> None:
        super().__init__(parent, Qt.WindowType.Window)
        self.setWindowTitle(tr("About – Young Tremor"))
        self.resize(760, 560)
        self.setStyleSheet(f"About {{ background: {theme.PANEL_COLOUR}; }}")
        mark, picture = QLabel(), QPixmap()
        picture.loadFromData(menu_entry.icon(MARK))
        mark.setPixmap(picture)
        name = QLabel("Young Tremor")
        name.setStyleSheet("font-size: 26px;")
        version = QLabel(tr("Version {0} · {1}", __version__, system_info.kernels_in_use()))
        version.setTextInteractionFlags(Qt.TextInteractionFlag.TextSelectableByMouse)
        what = QLabel(tr("Handheld and impact shake for locked-off footage and graphics."))
        what.setStyleSheet(f"color: {theme.DIM};")
        words = QVBoxLayout()
        words.setSpacing(2)
        words.addStretch(1)
        for label in (name, version, what):
            words.addWidget(label)
        words.addStretch(1)
        head = QHBoxLayout()
        head.setSpacing(18)
        head.addWidget(mark)
        head.addLayout(words, 1)
        self.licences = QPlainTextEdit((preset_library.ASSETS / "licences.txt").read_text(encoding="utf-8"))
        self.licences.setReadOnly(True)
        self.licences.setAccessibleName(tr("Licences"))
        self.licences.setFont(theme.text_font(14))
        self.licences.setStyleSheet(
            f"QPlainTextEdit {{ background: {theme.DEEP}; border: 1px solid {theme.LINE}; padding: 10px; }}"
        )
        column = QVBoxLayout(self)
        column.setContentsMargins(18, 16, 18, 16)
        column.setSpacing(14)
        column.addLayout(head)
        column.addWidget(self.licences, 1)

    def open(self) -> None:
        """Show it in front."""
        self.show()
        self.raise_()
        self.activateWindow()
        self.licences.setFocus()
