"""The picture in its well: one or two of it, zoomed, with what is drawn and dragged on it."""

from __future__ import annotations

import numpy as np
from PySide6.QtCore import QEvent, QPointF, QRect, QRectF, QSize, Qt, Signal
from PySide6.QtGui import (
    QColor,
    QContextMenuEvent,
    QImage,
    QMouseEvent,
    QPainter,
    QPaintEvent,
    QResizeEvent,
    QShowEvent,
    QWheelEvent,
)
from PySide6.QtWidgets import QMenu, QSizePolicy, QWidget

from young_tremor.desk.kit import theme
from young_tremor.desk.kit.i18n import tr
from young_tremor.desk.picture import frame_marks, magnifier, motion_scope, plate_outline, plotted_path, split_view
from young_tremor.desk.picture.image import image_of, paint_hint
from young_tremor.desk.state.desk_state import DeskState, PictureZoom, Selection
from young_tremor.engine.analysis.traces import CameraTrace
from young_tremor.engine.preview.preview_worker import PreviewPicture

MARGIN = 9
OVERSCAN = 1.2  # the whole over the frame
LARGEST, STEP = 16.0, 2**0.5  # device pixels for a delivered one, and how much a notch changes it
SHOWN = ("mode", "tool", "placing", "overlays", "zoom", "peek")  # choices that change what is drawn


class PictureView(QWidget):
    """Shows answers of the preview. ``resized`` tells when another size is wanted."""

    resized = Signal()
    clicked = Signal()
    plot_began = Signal(str, float)  # what is dragged; the time of the key under the pointer, or -1
    plotted = Signal(str, float, float)  # what, and how far: percent of frame height, degrees, or percent
    plot_ended = Signal(bool)  # whether anything moved
    box_drawn = Signal(object)  # the way of the drag (n, 2) as shares of the picture
    pivot_began = Signal()
    pivot_moved = Signal(float, float)  # frame units
    pivot_ended = Signal()
    plate_began = Signal(str)  # size, angle or move
    plate_dragged = Signal(str, float, float)  # which, and how far: a factor, degrees, or frame heights
    plate_ended = Signal()

    def __init__(self, state: DeskState, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setAccessibleName(tr("Picture"))
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Expanding)
        self.setMouseTracking(True)
        self.setMinimumSize(320, 180)
        self._state = state
        self.aspect: float | None = None
        self.rows = 0  # of the delivered frame
        self.picture: PreviewPicture | None = None
        self.split = 0.5
        self.scope: CameraTrace | None = None
        self.time = 0.0
        self.hint = ""
        self.names = ("Shaken", "Still")
        self.boxes: list[np.ndarray] = []  # keep-clear boxes, corners as shares of the picture
        self.region: np.ndarray | None = None  # outline of what acts, shares of the picture
        self.pivot: tuple[float, float] | None = None  # frame units
        self.lines: list[np.ndarray] = []  # of equal distance, shares of the picture
        self.plate: np.ndarray | None = None  # corners of the chosen plate, shares of the picture
        self._held: tuple[np.ndarray, str] | None = None  # the corners a drag of the plate began with, and what it does
        self._image: QImage | None = None
        self._still: QImage | None = None
        self._path: plotted_path.Path | None = None
        self._box: list[QPointF] = []
        self._drag = ""  # what the pointer has hold of: split, box, pivot, plot, plate, scope, pan
        self._grip: plotted_path.DragGrip | None = None
        self._from = QPointF()
        self._corner = (True, True)  # of the scope: right, foot
        self._pointer: QPointF | None = None
        state.changed.connect(self._chosen)

    # what it shows

    def set_path(self, path: plotted_path.Path | None) -> None:
        """A plotted strand's path (line, places, times; frame heights from the centre), to be dragged."""
        if path is not None or self._path is not None:
            self._path = path
            self.update()

    def show_picture(self, picture: PreviewPicture | None) -> None:
        """Show an answer of the preview, or nothing."""
        self.picture = picture
        self._image = image_of(picture.rgb) if picture else None
        self._still = image_of(picture.still) if picture and picture.still is not None else None
        self.update()

    def set_scope(self, trace: CameraTrace | None, time: float) -> None:
        """Show the path of the frame's centre up to a moment."""
        self.scope, self.time = trace, time
        self.update(self._scope_rect().toRect().adjusted(-1, -1, 1, 1))

    def _chosen(self, before: Selection, now: Selection) -> None:
        differs = [name for name in SHOWN if getattr(before, name) != getattr(now, name)]
        if before.tool and not now.tool:
            self._box = []
            self._drag = "" if self._drag == "box" else self._drag
        if "zoom" in differs or "mode" in differs or (frame_marks.OVER in before.overlays ^ now.overlays):
            self.resized.emit()
        if differs:
            self.update()

    # where it lies

    def sizeHint(self) -> QSize:
        return QSize(868, 404)

    @property
    def _overlays(self) -> frozenset[str]:
        return self._state.now.overlays

    @property
    def _sides(self) -> bool:
        """Whether both pictures stand side by side."""
        return self._state.now.mode == "side" and not self._state.now.peek

    @property
    def overscan(self) -> float:
        """How much more than the delivered frame is shown."""
        return OVERSCAN if frame_marks.OVER in self._overlays else 1.0

    def _room(self) -> QRectF:
        """Where the picture may lie: all of the well, or its left half."""
        room = QRectF(self.rect()).adjusted(MARGIN, MARGIN, -MARGIN, -MARGIN)
        return room.adjusted(0, 0, -(room.width() + 6) / 2, 0) if self._sides else room

    def _fitted(self) -> float:
        """Device pixels for a delivered one where the whole fits."""
        room, aspect = self._room(), self.aspect or 1.0
        return min(room.width() / aspect, room.height()) / self.overscan * self.devicePixelRatioF() / max(self.rows, 1)

    @property
    def scale(self) -> float:
        """Device pixels for a delivered one as it is looked at."""
        return self._state.now.zoom.scale or self._fitted()

    def frame_rect(self) -> QRect:
        """Where the delivered frame lies, in widget coordinates."""
        whole = self.whole_rect()
        if self.overscan == 1:
            return whole
        inner = QRect(0, 0, round(whole.width() / self.overscan), round(whole.height() / self.overscan))
        inner.moveCenter(whole.center())
        return inner

    def whole_rect(self) -> QRect:
        """Where the picture lies, with what is seen beyond the frame; more than the well where it is zoomed."""
        if self.aspect is None:
            return QRect()
        room, zoom = self._room().toRect(), self._state.now.zoom
        if zoom.scale:
            height = max(2, round(self.rows * zoom.scale * self.overscan / self.devicePixelRatioF() / 2) * 2)
            width = max(2, round(height * self.aspect / 2) * 2)
            x, y = ((value - 0.5) / self.overscan + 0.5 for value in (zoom.x, zoom.y))
            left = room.left() + room.width() / 2 - x * width
            top = room.top() + room.height() / 2 - y * height
            return QRect(round(left), round(top), width, height)
        # even, so that a preview (whose chroma is subsampled) fits it pixel by pixel
        width = max(2, min(room.width(), int(room.height() * self.aspect)) // 2 * 2)
        height = max(2, round(width / self.aspect / 2) * 2)
        return QRect(
            room.left() + (room.width() - width) // 2, room.top() + (room.height() - height) // 2, width, height
        )

    @property
    def is_sized(self) -> bool:
        """Whether it is known how large a picture is wanted: not before it is shown."""
        return self.aspect is not None and self.isVisible()

    def wanted(self) -> tuple[int, int]:
        """The size in real pixels at which a preview is to be rendered, even numbers: no more than is delivered."""
        rect, ratio = self.whole_rect(), self.devicePixelRatioF()
        least = (
            min(1.0, self.rows * self.overscan / max(rect.height() * ratio, 1)) if self._state.now.zoom.scale else 1.0
        )
        return tuple(max(2, 2 * round(number * ratio * least / 2)) for number in (rect.width(), rect.height()))  # type: ignore[return-value]

    def zoom(self, factor: float, place: QPointF | None = None) -> None:
        """Look closer or less close, what is under ``place`` staying there; as large as fits where it would be less."""
        if self.aspect is None:
            return
        scale = min(self.scale * factor, LARGEST)
        self.zoom_to(0.0 if scale <= 1.02 * self._fitted() else scale, place)

    def zoom_to(self, scale: float, place: QPointF | None = None) -> None:
        """Look at so many device pixels for each delivered one; 0: as large as fits."""
        if self.aspect is None or not scale:
            self._state.choose(zoom=PictureZoom())
            return
        frame, room = QRectF(self.frame_rect()), self._room()
        place = place or room.center()
        share = QPointF((place.x() - frame.left()) / frame.width(), (place.y() - frame.top()) / frame.height())
        high = self.rows * scale / self.devicePixelRatioF()
        off = place - room.center()
        self._look_at(scale, share.x() - off.x() / (high * self.aspect), share.y() - off.y() / high)

    def _look_at(self, scale: float, x: float, y: float) -> None:
        self._state.choose(zoom=PictureZoom(scale, min(max(x, 0.0), 1.0), min(max(y, 0.0), 1.0)))

    # painting

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.fillRect(self.rect(), QColor(theme.WELL))
        if self._image is None:
            paint_hint(painter, self.rect(), self.hint)
            return
        rect = self.whole_rect()
        painter.save()
        painter.setClipRect(self._room())
        self._paint_image(painter, rect, self._image)
        painter.restore()
        if self._sides and self._still is not None:
            away = round(self._room().width() + 6)
            painter.save()
            painter.setClipRect(self._room().translated(away, 0))
            self._paint_image(painter, rect.translated(away, 0), self._still)
            painter.restore()
            for words, left in zip(self.names, (0, away), strict=True):
                at = rect.intersected(self._room().toRect()).translated(left, 0)
                split_view.paint_name(painter, QRectF(at.left() + 8, at.bottom() - 30, 70, 22), words)
        elif self._still is not None:
            self._paint_split(painter, rect)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        if self.picture is not None and (self.picture.draft or not self.picture.exact):
            seen = QRectF(rect).intersected(self._room())
            words = "Draft, to keep up" if self.picture.exact else "Nearest frame"
            split_view.paint_name(painter, QRectF(seen.left() + 8, seen.top() + 8, 70, 22), words)
        painter.setClipRect(self._room().adjusted(-1, -1, 1, 1))
        whole, frame = QRectF(rect), QRectF(self.frame_rect())
        if whole != frame:
            frame_marks.dim(painter, whole, frame)
        if self._path is not None:
            plotted_path.paint(painter, frame, self._path)
        plate_outline.paint_lines(painter, whole, self.lines)
        if self.plate is not None:
            plate_outline.paint(painter, whole, self.plate)
        frame_marks.paint(painter, frame, whole, self._overlays, self.boxes, self._box)
        frame_marks.paint_region(painter, frame, self.region, self.pivot if self._state.now.placing else None)
        if self._scope_shown:
            assert self.scope is not None
            motion_scope.paint(painter, self._scope_rect(), self.scope, self.time)
        if frame_marks.LENS in self._overlays and self._pointer is not None and self.picture is not None:
            magnifier.paint(painter, (self._image, self.picture), whole, self._pointer, QRectF(self.rect()))

    def _paint_image(self, painter: QPainter, rect: QRect, image: QImage) -> None:
        """An image where it lies, smoothed unless its pixels are to be seen."""
        ratio = rect.width() * self.devicePixelRatioF() / max(image.width(), 1)
        painter.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform, ratio != 1 and ratio < 3)
        painter.drawImage(rect, image)

    def _paint_split(self, painter: QPainter, rect: QRect) -> None:
        assert self._still is not None
        x = rect.left() + round(rect.width() * self.split)
        painter.save()
        painter.setClipRect(self._room().toRect().intersected(QRect(x, rect.top(), rect.width(), rect.height())))
        self._paint_image(painter, rect, self._still)
        painter.restore()
        split_view.paint_line(painter, rect.intersected(self._room().toRect()), x, self.names)

    @property
    def _scope_shown(self) -> bool:
        frame = self.frame_rect()
        wanted = frame_marks.PATH in self._overlays and not self._state.now.tool
        return wanted and self.scope is not None and frame.height() > 260

    def _scope_rect(self) -> QRectF:
        rect = QRectF(self.frame_rect()).intersected(self._room())
        return motion_scope.place(rect, self._corner)

    # the pointer

    def _near_pivot(self, place: QPointF) -> bool:
        if self.pivot is None or not self._state.now.placing:
            return False
        frame = QRectF(self.frame_rect())
        return (frame.center() + QPointF(*self.pivot) * frame.height() - place).manhattanLength() < 14

    def _near_split(self, x: float) -> bool:
        rect = self.whole_rect()
        split = self._still is not None and self.picture is not None and self.picture.request.mode == "split"
        return split and abs(x - rect.left() - rect.width() * self.split) < 9

    def mousePressEvent(self, event: QMouseEvent) -> None:
        place = event.position()
        if event.button() == Qt.MouseButton.MiddleButton and self._state.now.zoom.scale:
            self._drag, self._from = "pan", place
        if event.button() != Qt.MouseButton.LeftButton or self._drag:
            return
        if self._near_split(place.x()):
            self._drag = "split"
        elif self._state.now.tool:
            self._drag, self._box = "box", [place]
        elif self.plate is not None and (role := plate_outline.grip(QRectF(self.whole_rect()), self.plate, place)):
            self._drag, self._from, self._held = "plate", place, (self.plate, role)
            self.plate_began.emit(role)
        elif self._near_pivot(place):
            self._drag = "pivot"
            self.pivot_began.emit()
        elif self._path is not None and self.frame_rect().contains(place.toPoint()):
            self._drag, self._grip = (
                "plot",
                plotted_path.grip(
                    QRectF(self.frame_rect()),
                    self._path,
                    place,
                    old_keys=bool(event.modifiers() & Qt.KeyboardModifier.ControlModifier),
                ),
            )
            key = self._grip.key
            self.plot_began.emit(self._grip.role, float(self._path[2][key]) if key >= 0 else -1.0)
        elif self._scope_shown and self._scope_rect().contains(place):
            self._drag = "scope"
        else:
            self.clicked.emit()
            if self._state.now.zoom.scale:
                self._drag, self._from = "pan", place

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        place = event.position()
        if frame_marks.LENS in self._overlays:
            self._pointer = place
            self.update()
        frame = QRectF(self.frame_rect())
        if self._drag == "split":
            rect = self.whole_rect()
            self.split = min(max((place.x() - rect.left()) / max(rect.width(), 1), 0.0), 1.0)
            self.update()
        elif self._drag == "box":
            self._box.append(place)
            self.update()
        elif self._drag == "pivot":
            at = (place - frame.center()) / frame.height()
            self.pivot_moved.emit(round(at.x(), 4), round(at.y(), 4))
        elif self._drag == "plot" and self._grip is not None:
            self.plotted.emit(self._grip.role, *plotted_path.drag_distance(frame, self._grip, place))
        elif self._drag == "plate" and self._held is not None:
            corners, role = self._held
            self.plate_dragged.emit(
                role, *plate_outline.drag_distance(QRectF(self.whole_rect()), corners, role, self._from, place)
            )
        elif self._drag == "scope":
            corner = (place.x() > frame.center().x(), place.y() > frame.center().y())
            if corner != self._corner:
                self._corner = corner
                self.update()
        elif self._drag == "pan":
            way, zoom = place - self._from, self._state.now.zoom
            self._from = place
            self._look_at(zoom.scale, zoom.x - way.x() / frame.width(), zoom.y - way.y() / frame.height())
        shape = Qt.CursorShape.ArrowCursor
        if self._drag == "split" or (not self._drag and self._near_split(place.x())):
            shape = Qt.CursorShape.SplitHCursor
        elif self._state.now.tool:
            shape = Qt.CursorShape.CrossCursor
        elif self._drag == "pan":
            shape = Qt.CursorShape.ClosedHandCursor
        self.setCursor(shape)

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        drag, self._drag = self._drag, ""
        if drag == "pivot":
            self.pivot_ended.emit()
        elif drag == "plate":
            self._held = None
            self.plate_ended.emit()
        elif drag == "box":
            self._end_box()
        elif drag == "plot" and self._grip is not None:
            moved = (event.position() - self._grip.start).manhattanLength() > 0
            self._grip = None
            self.plot_ended.emit(moved)

    def _end_box(self) -> None:
        region = self._state.now.tool == "region"
        rect, way = QRectF(self.frame_rect() if region else self.whole_rect()), self._box
        self._box = []
        shares = np.array([[(p.x() - rect.left()) / rect.width(), (p.y() - rect.top()) / rect.height()] for p in way])
        shares = shares if region else np.clip(shares, 0.0, 1.0)
        if np.ptp(shares, axis=0).min() > 0.01:
            self.box_drawn.emit(shares)
        self.update()

    def wheelEvent(self, event: QWheelEvent) -> None:
        if event.modifiers() & Qt.KeyboardModifier.ControlModifier:
            self.zoom(STEP ** (event.angleDelta().y() / 120), event.position())
            event.accept()
        else:
            event.ignore()

    def leaveEvent(self, event: QEvent) -> None:
        self._pointer = None
        self.update()

    def contextMenuEvent(self, event: QContextMenuEvent) -> None:
        menu = QMenu(self)
        self.fill_overlays(menu)
        menu.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        menu.popup(event.globalPos())

    def fill_overlays(self, menu: QMenu, skip: tuple[str, ...] = ()) -> None:
        """What can be drawn over the picture."""
        for name in (overlay for overlay in frame_marks.OVERLAYS if overlay not in skip):
            action = menu.addAction(tr(name))
            action.setCheckable(True)
            action.setChecked(name in self._overlays)
            action.triggered.connect(lambda _=False, name=name: self.toggle_overlay(name))

    def toggle_overlay(self, name: str) -> None:
        """Draw safe areas or thirds over the picture, or no longer."""
        self._state.choose(overlays=self._state.now.overlays ^ {name})

    def showEvent(self, event: QShowEvent) -> None:
        self.resized.emit()

    def resizeEvent(self, event: QResizeEvent) -> None:
        self.resized.emit()
