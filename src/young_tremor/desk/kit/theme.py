"""Colours, sizes and fonts: the one place for all of them."""

from __future__ import annotations

from pathlib import Path

from PySide6.QtCore import QObject, Signal
from PySide6.QtGui import QColor, QFont, QFontDatabase, QLinearGradient, QPainter, QPalette
from PySide6.QtWidgets import QApplication

from young_tremor.engine.library import preset_library

HEADER = 42
REEL = 136
PANEL = 276
HEADS = 312
RULER = 26
ROW = 56
INTENSITY_ROW = 48
CAMERA_ROW = 64

PANEL_COLOUR = "#39423e"
HAMMER = ("#3d4743", "#37403c")  # a panel's face, from above to below
RECESS = "#323a37"
DEEP = "#2a312e"
LINE = "#4d5853"
TEXT = "#e7e6dc"
DIM = "#b9c1ba"
FAINT = "#aeb6af"
OFF = "#78827c"  # of what cannot be used now
WELL = "#1d1f1e"
LAMP = "#f2c14e"
GREASE = "#d94f2a"
TICK = "#86b4ff"
GOOD = "#8fc7a3"
BAD = "#f7a184"
PRINT = "#ece4cf"
PRINT_INK = "#4a463c"

_DAY = {
    "paper": "#e6dec8",
    "ruler": "#ddd3b9",
    "grid": "#cfc4a5",
    "bold": "#b9ac88",
    "ink": "#2b2f33",
    "x": "#1f4fa3",
    "y": "#c8452b",
    "roll": "#2f7d53",
    "zoom": "#a8740a",
    "pan": "#5577bb",
    "tilt": "#c46048",
    "hit": "#8a1f3d",
    "playhead": "#12607a",
    "ready": "#4f7d3f",
    "gap": "#c0392b",
    "on_playhead": "#f3efe2",
}
_NIGHT = {
    "paper": "#1e2438",
    "ruler": "#1a1f31",
    "grid": "#29304a",
    "bold": "#3a4362",
    "ink": "#e9e4d2",
    "x": "#86b4ff",
    "y": "#ff9a78",
    "roll": "#84d3a4",
    "zoom": "#ecc46a",
    "pan": "#b9d2ff",
    "tilt": "#ffc7b3",
    "hit": "#ff7d9c",
    "playhead": "#f2c14e",
    "ready": "#5f8f78",
    "gap": "#ff6a55",
    "on_playhead": "#1e2438",
}


_STRONG_DAY = {
    "ink": "#000000",
    "x": "#0b2f7a",
    "y": "#8f1c08",
    "roll": "#0d4a2b",
    "zoom": "#5f3f00",
    "pan": "#27447f",
    "tilt": "#7d2f1b",
    "hit": "#5c0a22",
    "playhead": "#063c4d",
    "ready": "#2c5a1e",
    "gap": "#8c1408",
}
_STRONG_NIGHT = {
    "ink": "#ffffff",
    "x": "#b7d2ff",
    "y": "#ffc3ad",
    "roll": "#b4f0cd",
    "zoom": "#ffe09a",
    "pan": "#dbe8ff",
    "tilt": "#ffe0d5",
    "hit": "#ffb3c4",
    "playhead": "#ffdd86",
    "ready": "#93d1b1",
    "gap": "#ff9c8d",
}


class PaperInks(QObject):
    """The chart's paper, day or night; its inks, strong or as they come."""

    changed = Signal()

    def __init__(self) -> None:
        super().__init__()
        self.night = self.strong = False

    def colour(self, role: str) -> QColor:
        """The colour of a role of the paper."""
        strong = (_STRONG_NIGHT if self.night else _STRONG_DAY) if self.strong else {}
        return QColor(strong.get(role) or (_NIGHT if self.night else _DAY)[role])

    def set_night(self, night: bool) -> None:
        """Turn to night or day paper."""
        self.night = night
        self.changed.emit()

    def set_strong(self, strong: bool) -> None:
        """Use strong inks, or the usual ones."""
        self.strong = strong
        self.changed.emit()


paper = PaperInks()


def load_fonts() -> None:
    """Make the shipped fonts known to Qt."""
    for path in sorted(Path(preset_library.ASSETS / "fonts").glob("*.ttf")):
        QFontDatabase.addApplicationFont(str(path))


def text_font(px: float = 14, *, medium: bool = False, spaced: float = 0.0) -> QFont:
    """The font for words."""
    font = QFont("Barlow Semi Condensed")
    font.setPixelSize(round(px))
    font.setWeight(QFont.Weight.Medium if medium else QFont.Weight.Normal)
    if spaced:
        font.setLetterSpacing(QFont.SpacingType.AbsoluteSpacing, spaced)
    return font


def numbers(px: float = 13, *, medium: bool = True) -> QFont:
    """The font for numbers."""
    font = QFont("Spline Sans Mono")
    font.setPixelSize(round(px))
    font.setWeight(QFont.Weight.Medium if medium else QFont.Weight.Normal)
    return font


def hammertone(painter: QPainter, x: float, y: float, w: float, h: float) -> None:
    """A panel's face: the green-grey with a light from above."""
    shine = QLinearGradient(0, y, 0, y + h)
    shine.setColorAt(0, QColor(HAMMER[0]))
    shine.setColorAt(1, QColor(HAMMER[1]))
    painter.fillRect(int(x), int(y), int(w), int(h), shine)


STYLE = f"""
* {{ font-family: "Barlow Semi Condensed"; font-size: 14px; color: {TEXT}; }}
QToolTip {{ background: {DEEP}; color: {TEXT}; border: 1px solid {LINE}; padding: 4px 7px; }}
QPushButton {{ background: #424c48; border: 1px solid {LINE}; border-radius: 4px;
    padding: 3px 12px; min-height: 18px; }}
QPushButton:hover {{ background: #4a5550; }}
QPushButton:pressed, QPushButton:checked {{ background: {DEEP}; }}
QPushButton:focus {{ border-color: {LAMP}; }}
QPushButton:disabled {{ color: {OFF}; }}
QPushButton[flat="true"] {{ background: transparent; border: none; padding: 2px 4px; }}
QPushButton[flat="true"]:hover {{ color: {LAMP}; }}
QPushButton[quiet="true"] {{ background: transparent; border: none; color: {LAMP}; padding: 2px 4px; }}
QPushButton::menu-indicator {{ image: none; width: 0; }}
QLineEdit, QComboBox {{ background: {DEEP}; border: 1px solid {LINE}; border-radius: 4px; padding: 3px 8px;
    selection-background-color: {LAMP}; selection-color: {DEEP}; min-height: 18px; }}
QLineEdit:focus, QComboBox:focus {{ border-color: {LAMP}; }}
QComboBox::drop-down {{ border: none; width: 22px; }}
QComboBox::down-arrow {{ image: url("@ICONS@/down.svg"); width: 11px; height: 11px; }}
QComboBox QAbstractItemView {{ background: {DEEP}; border: 1px solid {LINE}; outline: none; padding: 3px;
    selection-background-color: #47524d; selection-color: {TEXT}; }}
QMenuBar {{ background: transparent; color: {DIM}; spacing: 0; }}
QMenuBar::item {{ background: transparent; color: {DIM}; padding: 5px 8px; border-radius: 3px; }}
QMenuBar::item:selected, QMenuBar::item:pressed {{ background: {DEEP}; color: {TEXT}; }}
QMenu {{ background: {DEEP}; border: 1px solid {LINE}; padding: 5px; }}
QMenu::item {{ padding: 5px 28px 5px 14px; border-radius: 3px; }}
QMenu::item:selected {{ background: #47524d; }}
QMenu::item:disabled {{ color: {OFF}; }}
QMenu::separator {{ height: 1px; background: {LINE}; margin: 5px 8px; }}
QScrollArea, QScrollArea > QWidget > QWidget {{ background: transparent; border: none; }}
QScrollBar:vertical {{ background: transparent; width: 8px; margin: 0; }}
QScrollBar::handle:vertical {{ background: #5a6660; border-radius: 3px; min-height: 24px; margin: 1px; }}
QScrollBar::add-line, QScrollBar::sub-line {{ height: 0; width: 0; }}
QScrollBar::add-page, QScrollBar::sub-page {{ background: none; }}
QCheckBox {{ spacing: 8px; }}
QCheckBox::indicator {{ width: 14px; height: 14px; border: 1px solid {LINE}; border-radius: 3px; background: {DEEP}; }}
QCheckBox::indicator:checked {{ background: {LAMP}; border-color: {LAMP}; image: url("@ICONS@/tick.svg"); }}
QCheckBox:focus {{ color: {LAMP}; }}
QProgressBar {{ background: {DEEP}; border: 1px solid {LINE}; border-radius: 3px; height: 8px; text-align: center; }}
QProgressBar::chunk {{ background: {LAMP}; border-radius: 2px; }}
QSplitter::handle {{ background: {DEEP}; }}
QListWidget {{ background: transparent; border: none; outline: none; }}
QMessageBox, QDialog {{ background: {PANEL_COLOUR}; }}
"""


def dress(app: QApplication) -> None:
    """Fonts, palette and style of the whole application."""
    load_fonts()
    app.setStyle("Fusion")
    palette = QPalette()
    for role, colour in (
        (QPalette.ColorRole.Window, PANEL_COLOUR),
        (QPalette.ColorRole.WindowText, TEXT),
        (QPalette.ColorRole.Base, DEEP),
        (QPalette.ColorRole.AlternateBase, RECESS),
        (QPalette.ColorRole.Text, TEXT),
        (QPalette.ColorRole.Button, PANEL_COLOUR),
        (QPalette.ColorRole.ButtonText, TEXT),
        (QPalette.ColorRole.Highlight, LAMP),
        (QPalette.ColorRole.HighlightedText, DEEP),
        (QPalette.ColorRole.ToolTipBase, DEEP),
        (QPalette.ColorRole.ToolTipText, TEXT),
        (QPalette.ColorRole.PlaceholderText, FAINT),
    ):
        palette.setColor(role, QColor(colour))
    app.setPalette(palette)
    app.setFont(text_font(14))
    app.setStyleSheet(STYLE.replace("@ICONS@", (preset_library.ASSETS / "icons").as_posix()))


def contrast(one: str, other: str) -> float:
    """How far two colours stand apart, 1…21 (WCAG 2.2, relative luminance)."""

    def light(colour: str) -> float:
        parts = [int(colour[k : k + 2], 16) / 255 for k in (1, 3, 5)]
        linear = [c / 12.92 if c <= 0.03928 else ((c + 0.055) / 1.055) ** 2.4 for c in parts]
        return 0.2126 * linear[0] + 0.7152 * linear[1] + 0.0722 * linear[2]

    dark, bright = sorted((light(one), light(other)))
    return (bright + 0.05) / (dark + 0.05)
