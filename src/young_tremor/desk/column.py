"""Parts of the panel: a scrolling column of controls, headings, dividers."""

from __future__ import annotations

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QFrame, QLabel, QScrollArea, QVBoxLayout, QWidget

from young_tremor.desk import theme


def section(words: str) -> QLabel:
    """A small spaced heading."""
    label = QLabel(words.upper())
    label.setFont(theme.words(12, spaced=1.5))
    label.setStyleSheet(f"color: {theme.DIM}; font-size: 12px; letter-spacing: 1.5px;")
    return label


def divider() -> QFrame:
    line = QFrame()
    line.setFixedHeight(1)
    line.setStyleSheet(f"background: {theme.LINE};")
    return line


class Column(QScrollArea):
    """A scrolling column of controls."""

    def __init__(self) -> None:
        super().__init__()
        self.setWidgetResizable(True)
        self.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        inner = QWidget()
        self.rows = QVBoxLayout(inner)
        self.rows.setContentsMargins(16, 12, 14, 12)
        self.rows.setSpacing(7)
        self.setWidget(inner)

    def heading(self, words: str) -> None:
        """A line across and a heading under it."""
        self.rows.addSpacing(4)
        self.rows.addWidget(divider())
        self.rows.addSpacing(2)
        self.rows.addWidget(section(words))
