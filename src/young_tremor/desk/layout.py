"""How the desk is laid out: head, reel, picture, panel, chart."""

from __future__ import annotations

from typing import TYPE_CHECKING

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QHBoxLayout, QSplitter, QVBoxLayout, QWidget

from young_tremor.desk import theme

if TYPE_CHECKING:
    from young_tremor.desk.window import Window


def lay_out(window: Window) -> tuple[QWidget, QSplitter, QWidget]:
    """Put the window's parts in their places: what lies above the chart, the line between, and the whole."""
    middle = QWidget()
    column = QVBoxLayout(middle)
    column.setContentsMargins(0, 0, 0, 0)
    column.setSpacing(0)
    pictures = QHBoxLayout()
    pictures.setSpacing(0)
    pictures.addWidget(window.picture, 1)
    pictures.addWidget(window.measure, 1)
    pictures.addWidget(window.figures)
    column.addLayout(pictures, 1)
    column.addWidget(window.transport)
    top = QWidget()
    row = QHBoxLayout(top)
    row.setContentsMargins(0, 0, 0, 0)
    row.setSpacing(0)
    row.addWidget(window.reel)
    row.addWidget(middle, 1)
    row.addWidget(window.panel)
    splitter = QSplitter(Qt.Orientation.Vertical)
    splitter.setHandleWidth(3)
    splitter.setStyleSheet(f"QSplitter::handle {{ background: {theme.DEEP}; }}")
    splitter.addWidget(top)
    splitter.addWidget(window.chart)
    splitter.setStretchFactor(0, 1)
    splitter.setStretchFactor(1, 0)
    splitter.setChildrenCollapsible(False)
    splitter.setSizes([444, 312])
    whole = QWidget()
    outer = QVBoxLayout(whole)
    outer.setContentsMargins(0, 0, 0, 0)
    outer.setSpacing(0)
    outer.addWidget(window.header)
    outer.addWidget(splitter, 1)
    return top, splitter, whole
