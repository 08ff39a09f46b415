"""The *Frame* panel: edges, what they cost, shutter, lens and blur at hits."""

from __future__ import annotations

from typing import ClassVar

import numpy as np
from PySide6.QtCore import QRectF, Qt, Signal
from PySide6.QtGui import QColor, QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import QCheckBox, QGridLayout, QHBoxLayout, QLabel, QPushButton, QWidget

from young_tremor.desk.kit import theme
from young_tremor.desk.kit.column import Column, section
from young_tremor.desk.kit.i18n import tr
from young_tremor.desk.kit.number_field import NumberField
from young_tremor.desk.kit.time_format import frame_text
from young_tremor.desk.panels.blur_fields import BlurFields
from young_tremor.desk.panels.controls import Controls
from young_tremor.desk.panels.delivery_size import DeliverySizeFields
from young_tremor.desk.panels.framing_fields import FramingFields
from young_tremor.desk.panels.region_fields import RegionFields
from young_tremor.engine.document.session import Session
from young_tremor.engine.preview.preview_worker import FrameReadings, Plan
from young_tremor.model import shot_edits
from young_tremor.model.edge_modes import EDGE_MODES, crops
from young_tremor.model.project import FrameSettings, Shot


class CropGlyph(QWidget):
    """The delivered rectangle inside the source: how much of it is kept."""

    def __init__(self) -> None:
        super().__init__()
        self.setFixedSize(92, 56)
        self.crop, self.aspect = 1.0, 16 / 9

    def show_crop(self, crop: float, aspect: float) -> None:
        """Show an enlargement in a frame of an aspect."""
        self.crop, self.aspect = crop, aspect
        self.update()

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        room = QRectF(self.rect()).adjusted(1, 1, -1, -1)
        width = min(room.width(), room.height() * self.aspect)
        outer = QRectF(0, 0, width, width / self.aspect)
        outer.moveCenter(room.center())
        painter.setPen(QPen(QColor(theme.LINE), 1))
        painter.setBrush(QColor(theme.DEEP))
        painter.drawRect(outer)
        inner = QRectF(0, 0, outer.width() / self.crop, outer.height() / self.crop)
        inner.moveCenter(outer.center())
        painter.setPen(QPen(QColor(theme.LAMP), 1.4))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.drawRect(inner.adjusted(0.7, 0.7, -0.7, -0.7))


class FramePanel(Column):
    """Edges, what they cost, shutter and lens."""

    _tips: ClassVar[dict[str, str]] = {
        "pivot.x": "About what it turns (anchor point), percent of frame height right of the centre",
        "pivot.y": "About what it turns (anchor point), percent of frame height below the centre",
    }

    go_to = Signal(int)
    region_drawing = Signal(object)  # the region's rules: it is to be drawn on the picture
    place_pivot = Signal(bool)  # show the pivot on the picture, to be dragged
    shape = Signal(str)  # the subject that is to be shaped on the chart

    def __init__(self, session: Session) -> None:
        super().__init__()
        self._session = session
        self._shot: Shot | None = None
        self._worst = 0
        self.now = self._shown = 0.0
        self.status = QLabel("")
        head = QHBoxLayout()
        head.addWidget(section("Frame"))
        head.addStretch(1)
        head.addWidget(self.status)
        self.rows.addLayout(head)
        self.controls = Controls(FrameSettings, session, self, self._frame)
        self.edges = self.controls.choice("edges")
        self.glyph = CropGlyph()
        self._values: dict[str, QLabel | QPushButton] = {}
        grid = QGridLayout()
        grid.setHorizontalSpacing(6)
        grid.setVerticalSpacing(1)
        for row, (key, text) in enumerate(
            (("crop", "Crop"), ("detail", "Detail kept"), ("gaps", "Gaps if open"), ("worst", "Worst frame"))
        ):
            name = QLabel(tr(text))
            name.setStyleSheet(f"color: {theme.DIM};")
            value: QLabel | QPushButton
            if key == "worst":
                value = button = QPushButton()
                button.setProperty("flat", True)
                button.setStyleSheet(
                    f'font-family: "Spline Sans Mono"; font-size: 13px; color: {theme.LAMP}; padding: 0;'
                )
                button.setToolTip(tr("Go to the frame that needs the largest crop"))
                button.clicked.connect(lambda: self.go_to.emit(self._worst))
                value.setAccessibleName(tr("Go to worst frame"))
            else:
                value = QLabel()
                value.setStyleSheet('font-family: "Spline Sans Mono"; font-size: 13px;')
                value.setAccessibleName(tr(text))
            self._values[key] = value
            grid.addWidget(name, row, 1)
            grid.addWidget(value, row, 2, Qt.AlignmentFlag.AlignRight)
        self._values["gaps"].setToolTip(tr("Share of frames that would show an edge if nothing were done"))
        self._values["detail"].setToolTip(tr("Source pixels per delivered pixel along a line"))
        grid.addWidget(self.glyph, 0, 0, 4, 1)
        grid.setColumnStretch(1, 1)
        self.rows.addLayout(grid)
        self.framing = FramingFields(session, self, self._frame)
        self.framing.go_to.connect(self.go_to.emit)
        self._shutter_and_lens()
        self.delivery = DeliverySizeFields(session, self)
        self.blurs = BlurFields(session, self)
        self.blurs.copies.menu = lambda menu: menu.addAction(
            tr("Shape it over time"), lambda: self.shape.emit("Copies")
        )
        self.region = RegionFields(
            session, self, lambda region: shot_edits.set_shake(self._shot.id if self._shot else "", region=region)
        )
        self.region.drawing.connect(self.region_drawing.emit)
        self.finish()

    def _shutter_and_lens(self) -> None:
        number = self.controls.number
        self.crop = self._shapeable("crop", "Crop by hand", "By hand")
        self.heading("Shutter")
        self.angle = self._shapeable("shutter.angle", "Shutter angle", "Angle")
        number("shutter.phase")
        number("readout")
        self.controls.switch("linear")
        self.heading("Lens")
        self.focal = number("focal_mm")
        self.pivot_x = self._shapeable("pivot.x", "Pivot X", "Pivot X")
        self.pivot_y = self._shapeable("pivot.y", "Pivot Y", "Pivot Y")
        self.pivoting = QCheckBox(tr("Pivot on the picture"))
        self.pivoting.setToolTip(tr("Drag it there; while a strand is chosen, it is that strand's own"))
        self.pivoting.clicked.connect(lambda on: self.place_pivot.emit(on))
        self.rows.addWidget(self.pivoting)
        self.heading("Colours", folded=True)
        self.controls.switch("match_colours")
        for path in ("white", "peak"):
            number(path)
        # these stand in groups of their own
        self.controls.add_rest(but=("recentre", "breathe", "fit"))

    def _shapeable(self, path: str, subject: str, label: str) -> NumberField:
        """The number at a path; a right click shapes it over time on the chart, under the name of its subject."""
        control = self.controls.number(path, label=label, tip=self._tips.get(path, ""))
        control.menu = lambda menu: menu.addAction(tr("Shape it over time"), lambda: self.shape.emit(subject))
        return control

    def _frame(self, **changes: object) -> shot_edits.Edit:
        return shot_edits.set_frame(self._shot.id if self._shot else "", **changes)

    def show_shot(self, shot: Shot | None) -> None:
        """Show the frame settings of a shot at the playhead."""
        self.setEnabled(shot is not None)
        old, self._shot = self._shot, shot
        if shot is not None:
            self.delivery.show(shot)
        if shot is None or (old is shot and self._shown == self.now):
            return
        self.region.show(shot.shake.region, self.now)
        self._shown = self.now
        self.controls.show(shot.frame, self.now)
        self.framing.show(shot)
        self.blurs.show(shot, self.now)

    def show_readings(self, plan: Plan | None, readings: FrameReadings | None, error: str = "") -> None:
        """What the edges cost, as the preview found it."""
        self.status.setWordWrap(bool(error))
        if plan is None or readings is None:
            self.status.setText(error)
            self.status.setStyleSheet(f"color: {theme.BAD}; font-size: 13px;")
            for value in self._values.values():
                value.setText("–")
            return
        cropped = crops(plan.shot.frame.edges)
        share = readings.uncovered
        if cropped or share == 0:
            self.status.setText(tr("covers every frame"))
            self.status.setStyleSheet(f"color: {theme.GOOD}; font-size: 13px;")
        elif not EDGE_MODES[plan.shot.frame.edges].fills:
            self.status.setText(tr("{0} of frames show an edge", _share(share)))
            self.status.setStyleSheet(f"color: {theme.BAD}; font-size: 13px;")
        else:
            self.status.setText(tr("{0} of frames filled in", _share(share)))
            self.status.setStyleSheet(f"color: {theme.DIM}; font-size: 13px;")
        cut = np.flatnonzero(readings.cut)
        first = int(cut[0]) if len(cut) else 0
        self.framing.show_cut(len(cut), first, frame_text(first, plan.rate))
        self._worst = readings.worst
        self._values["crop"].setText(f"{readings.crop:.3f}")
        self._values["crop"].setToolTip(tr("What the edges need on top of the crop by hand"))
        self._values["detail"].setText(f"{100 * readings.detail:.1f} %")
        self._values["gaps"].setText(_share(share))
        self._values["worst"].setText(frame_text(readings.worst, plan.rate) if share else tr("none"))
        self._values["worst"].setEnabled(bool(share))
        width, height = plan.delivered
        self.glyph.show_crop(readings.crop, width * float(plan.pixel_aspect) / height)


def _share(share: float) -> str:
    percent = 100 * share
    return f"{percent:.0f} %" if percent == 0 or percent >= 1 else "< 1 %"
