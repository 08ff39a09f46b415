"""What sheets have in common: a panel's face under an amber edge, Esc closes them, and Tab stays in them."""

from __future__ import annotations

from PySide6.QtCore import QRectF, Qt
from PySide6.QtGui import QColor, QKeyEvent, QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import QWidget

from young_tremor.desk.kit import theme
from young_tremor.desk.kit.i18n import tr


class Sheet(QWidget):
    """Lies over the desk while it is open."""

    def __init__(self, parent: QWidget, name: str) -> None:
        super().__init__(parent)
        self.setAccessibleName(tr(name))
        self.hide()

    def keyPressEvent(self, event: QKeyEvent) -> None:
        if event.key() == Qt.Key.Key_Escape:
            self.hide()
        else:
            super().keyPressEvent(event)

    def focusNextPrevChild(self, forward: bool) -> bool:
        """Tab goes round within the sheet: what it lies on cannot be seen."""
        # not by nextInFocusChain: whatever of the window is handed to Python on the way dies before its listeners do
        ring = [widget for widget in self.findChildren(QWidget) if _takes_tab(widget)]
        at = self.window().focusWidget()
        if at not in ring:
            return super().focusNextPrevChild(forward)
        reason = Qt.FocusReason.TabFocusReason if forward else Qt.FocusReason.BacktabFocusReason
        ring[(ring.index(at) + (1 if forward else -1)) % len(ring)].setFocus(reason)
        return True

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setPen(QPen(QColor("#1a1e1c"), 1))
        painter.setBrush(QColor(theme.PANEL_COLOUR))
        painter.drawRect(QRectF(self.rect()).adjusted(0.5, 0.5, -0.5, -0.5))
        painter.fillRect(QRectF(0, 0, self.width(), 3), QColor(theme.LAMP))


def _takes_tab(widget: QWidget) -> bool:
    """Whether Tab can come to a widget now."""
    return bool(widget.focusPolicy() & Qt.FocusPolicy.TabFocus) and widget.isEnabled() and widget.isVisible()
