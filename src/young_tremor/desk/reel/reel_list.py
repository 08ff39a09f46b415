"""The reel: contact prints of the shots, the chosen one with grease-pencil corners."""

from __future__ import annotations

from functools import partial

import numpy as np
from PySide6.QtCore import QPoint, QPointF, QRectF, QSize, Qt, Signal
from PySide6.QtGui import (
    QAccessible,
    QColor,
    QContextMenuEvent,
    QFocusEvent,
    QImage,
    QKeyEvent,
    QMouseEvent,
    QPainter,
    QPaintEvent,
    QPen,
    QPolygonF,
)
from PySide6.QtWidgets import QApplication, QMenu, QScrollArea, QVBoxLayout, QWidget

from young_tremor.desk.kit import theme
from young_tremor.desk.kit.accessible import tell
from young_tremor.desk.kit.i18n import counted, tr
from young_tremor.model.project import Project, Shot


class ShotPrint(QWidget):
    """One contact print."""

    chosen = Signal(str, object)  # id, the modifiers that were held
    removed = Signal(str)
    passed = Signal(int)  # the focus goes so many prints on
    taken = Signal(str)  # dragged out
    copied = Signal(str)
    pressable = True

    def __init__(self, shot: Shot, number: int) -> None:
        super().__init__()
        self.shot, self.number = shot, number
        self.current = self.aimed = False  # whether it is chosen, and whether keys act on it
        self._pressed: QPoint | None = None  # where a drag may begin
        self.image: QImage | None = None
        self.trace: np.ndarray | None = None
        self.setFixedSize(theme.REEL - 4, 100)
        self.setAccessibleName(tr("Shot {0}, {1}", number, shot.name))
        self.setToolTip("\n".join(filter(None, (shot.name, shot.footage.media.path))))
        self.setFocusPolicy(Qt.FocusPolicy.TabFocus)

    def show_shot(self, shot: Shot, number: int, *, current: bool, aimed: bool) -> None:
        """Print this shot, and paint anew only where that shows: a drag of a number changes the shot many times."""
        before = (self.shot.name, self.number, self.current, self.aimed)
        self.shot, self.number, self.current, self.aimed = shot, number, current, aimed
        if before != (shot.name, number, current, aimed):
            self.setAccessibleName(tr("Shot {0}, {1}", number, shot.name))
            self.update()

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setRenderHints(QPainter.RenderHint.Antialiasing | QPainter.RenderHint.SmoothPixmapTransform)
        painter.translate(self.width() / 2 + 1, self.height() / 2)
        painter.rotate((-0.7, 0.6, 0.9, -0.4)[self.number % 4])
        card = QRectF(-56, -45, 112, 90)
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(QColor(0, 0, 0, 70))
        painter.drawRoundedRect(card.translated(1.5, 2.5), 2, 2)
        painter.setBrush(QColor(theme.PRINT))
        painter.drawRoundedRect(card, 2, 2)
        window = QRectF(-51, -40, 102, 58)
        painter.setBrush(QColor("#2a2926"))
        painter.drawRect(window)
        if self.image is not None:
            fitted = self.image.size().scaled(window.size().toSize(), Qt.AspectRatioMode.KeepAspectRatioByExpanding)
            scale = self.image.width() / max(1, fitted.width())
            cut = QRectF(0, 0, window.width() * scale, window.height() * scale)
            cut.moveCenter(QRectF(self.image.rect()).center())
            painter.drawImage(window, self.image, cut)
        painter.setPen(QColor("#8a1f3d"))
        painter.setFont(theme.text_font(15, medium=True))
        painter.drawText(QRectF(-50, 18, 14, 18), Qt.AlignmentFlag.AlignVCenter, str(self.number))
        painter.setPen(QColor(theme.PRINT_INK))
        painter.setFont(theme.text_font(13))
        name = painter.fontMetrics().elidedText(self.shot.name, Qt.TextElideMode.ElideRight, 84)
        painter.drawText(QRectF(-34, 18, 88, 18), Qt.AlignmentFlag.AlignVCenter, name)
        if self.trace is not None and len(self.trace) > 1:
            size = max(1e-6, float(np.abs(self.trace).max()))
            for column, ink in ((0, "#1f4fa3"), (1, "#c8452b")):
                xs = np.linspace(-50, 50, len(self.trace))
                line = QPolygonF(
                    [QPointF(x, 39 + 3.2 * v / size) for x, v in zip(xs, self.trace[:, column], strict=True)]
                )
                painter.setPen(QPen(QColor(ink), 0.9))
                painter.drawPolyline(line)
        if self.current:
            painter.setPen(QPen(QColor(theme.GREASE), 3, Qt.PenStyle.SolidLine, Qt.PenCapStyle.RoundCap))
            for sx in (-1, 1):
                for sy in (-1, 1):
                    x, y = sx * 60, sy * 47
                    painter.drawLine(QPointF(x, y), QPointF(x - sx * 11, y + sy * 0.8))
                    painter.drawLine(QPointF(x, y), QPointF(x - sx * 0.6, y - sy * 11))

        if self.hasFocus() or self.aimed:
            painter.setPen(QPen(QColor(theme.LAMP), 2.0 if self.aimed else 1.2))
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.drawRoundedRect(card.adjusted(-2, -2, 2, 2), 3, 3)

    def mousePressEvent(self, event: QMouseEvent) -> None:
        if event.button() == Qt.MouseButton.LeftButton:
            self._pressed = event.position().toPoint()
            self.chosen.emit(self.shot.id, event.modifiers())

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        """Dragged out of the window, it gives the file that was delivered of it."""
        if self._pressed is None or not event.buttons() & Qt.MouseButton.LeftButton:
            return
        if (event.position().toPoint() - self._pressed).manhattanLength() >= QApplication.startDragDistance():
            self._pressed = None
            self.taken.emit(self.shot.id)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Return and Space choose it, up and down go to the next."""
        if event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter, Qt.Key.Key_Space):
            self.chosen.emit(self.shot.id, event.modifiers())
        elif event.key() in (Qt.Key.Key_Up, Qt.Key.Key_Down):
            self.passed.emit(1 if event.key() == Qt.Key.Key_Down else -1)
        else:
            super().keyPressEvent(event)

    def focusInEvent(self, event: QFocusEvent) -> None:
        self.update()

    def focusOutEvent(self, event: QFocusEvent) -> None:
        self.update()

    def contextMenuEvent(self, event: QContextMenuEvent) -> None:
        menu = QMenu(self)
        menu.addAction(tr("Copy its delivered file"), lambda: self.copied.emit(self.shot.id))
        menu.addAction(tr("Remove from the reel"), lambda: self.removed.emit(self.shot.id))
        menu.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        menu.popup(event.globalPos())


tell(ShotPrint, QAccessible.Role.ListItem, lambda print_: tr("chosen") if print_.current else "")


class ReelList(QWidget):
    """The column of prints."""

    chosen = Signal(str, object)  # id, the modifiers that were held
    removed = Signal(str)
    taken = Signal(str)
    copied = Signal(str)

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setFixedWidth(theme.REEL)
        self.setAccessibleName(tr("Reel"))
        self._prints: dict[str, ShotPrint] = {}
        self._column = QWidget()
        self._list = QVBoxLayout(self._column)
        self._list.setContentsMargins(2, 2, 0, 2)
        self._list.setSpacing(2)
        self._list.addStretch(1)
        scroll = QScrollArea()
        scroll.setWidgetResizable(True)
        scroll.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        scroll.setWidget(self._column)
        scroll.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        outer = QVBoxLayout(self)
        outer.setContentsMargins(0, 28, 0, 0)
        outer.addWidget(scroll)

    def sizeHint(self) -> QSize:
        return QSize(theme.REEL, 200)

    def show_project(
        self, project: Project, current: str | None, chosen: frozenset[str] = frozenset(), *, aimed: bool = False
    ) -> None:
        """Keep prints of shots that are still there, make those that are new. ``aimed``: keys act on the chosen."""
        old, self._prints = self._prints, {}
        if len(old) != len(project.shots):
            self.update()  # the count
        for number, shot in enumerate(project.shots, start=1):
            card = old.pop(shot.id, None)
            if card is None:
                card = ShotPrint(shot, number)
                card.chosen.connect(self.chosen.emit)
                card.removed.connect(self.removed.emit)
                card.taken.connect(self.taken.emit)
                card.copied.connect(self.copied.emit)
                card.passed.connect(partial(self._pass, shot.id))
            marked = shot.id == current or shot.id in chosen
            card.show_shot(shot, number, current=marked, aimed=marked and aimed)
            self._prints[shot.id] = card
            place = self._list.itemAt(number - 1)
            if place is None or place.widget() is not card:
                self._list.insertWidget(number - 1, card)
        for gone in old.values():
            self._list.removeWidget(gone)
            gone.hide()
            gone.deleteLater()

    def _pass(self, shot: str, by: int) -> None:
        """Give the focus to the print so many further on, and choose it."""
        ids = list(self._prints)
        number = ids.index(shot) + by
        if 0 <= number < len(ids):
            self._prints[ids[number]].setFocus()
            self.chosen.emit(ids[number], Qt.KeyboardModifier.NoModifier)

    def image_of(self, shot_id: str) -> QImage | None:
        """A shot's thumbnail, once there is one."""
        card = self._prints.get(shot_id)
        return card.image if card else None

    def set_look(self, shot_id: str, image: QImage | None, trace: np.ndarray | None) -> None:
        """A shot's thumbnail (kept where None) and little trace (n, 2)."""
        card = self._prints.get(shot_id)
        if card is not None:
            card.image = image or card.image
            card.trace = trace
            card.update()

    def set_image(self, shot_id: str, image: QImage) -> None:
        """A shot's picture, its trace kept."""
        card = self._prints.get(shot_id)
        if card is not None:
            card.image = image
            card.update()

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        theme.hammertone(painter, 0, 0, self.width(), self.height())
        painter.setPen(QColor(theme.DIM))
        painter.setFont(theme.text_font(12, spaced=1.5))
        painter.drawText(QRectF(12, 6, 60, 22), Qt.AlignmentFlag.AlignVCenter, tr("REEL"))
        room = self.width() - 28 - painter.fontMetrics().horizontalAdvance(tr("REEL"))
        count = len(self._prints)
        painter.setFont(theme.text_font(13))
        painter.setPen(QColor(theme.FAINT))
        words = counted(count, "shot")
        if painter.fontMetrics().horizontalAdvance(words) > room:
            words = str(count)
        painter.drawText(
            QRectF(0, 6, self.width() - 10, 22),
            Qt.AlignmentFlag.AlignVCenter | Qt.AlignmentFlag.AlignRight,
            words,
        )
        if not count:
            painter.drawText(
                QRectF(14, 40, self.width() - 28, 90),
                Qt.AlignmentFlag.AlignTop | Qt.TextFlag.TextWordWrap,
                tr("Drop footage here, or press Ctrl+O."),
            )
