"""The shot's plates: a short stack, top first, and the controls of the chosen one."""

from __future__ import annotations

from functools import partial
from typing import Any

import numpy as np
from msgspec.structs import replace
from PySide6.QtCore import QPointF, QRectF, Qt, Signal
from PySide6.QtGui import QAccessible, QColor, QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import QCheckBox, QComboBox, QHBoxLayout, QLabel, QPushButton, QVBoxLayout, QWidget

from young_tremor.desk.chart.heads import Lamp
from young_tremor.desk.kit import theme
from young_tremor.desk.kit.accessible import tell
from young_tremor.desk.kit.column import Column
from young_tremor.desk.kit.rule import Rule
from young_tremor.desk.kit.scale import Scale
from young_tremor.desk.kit.words import tr
from young_tremor.desk.state.gestures import bind
from young_tremor.desk.state.state import State
from young_tremor.model import edits, keys
from young_tremor.model.curve import Curve
from young_tremor.model.keys import tuned
from young_tremor.model.project import Plate, Shot

BLENDS = (("normal", "Normal"), ("add", "Add"), ("multiply", "Multiply"), ("screen", "Screen"))
ROW = 30
WAYS = {Qt.Key.Key_Left: (-1, 0), Qt.Key.Key_Right: (1, 0), Qt.Key.Key_Up: (0, -1), Qt.Key.Key_Down: (0, 1)}
PERCENT = Scale(-100, 100, "%", 1, least=-1000, most=1000)
# field of a placement: words, scale, reset, the rule's unit in the curve's own, what it is
PLACES: dict[str, tuple[str, Scale, float, float, str]] = {
    "x": ("Across", PERCENT, 0, 100, "Percent of frame height right of the middle"),
    "y": ("Down", PERCENT, 0, 100, "Percent of frame height below the middle"),
    "size": ("Size", Scale(5, 300, "%", 1, bend=1.6, least=1, most=10000), 100, 100, "Of what fills the frame"),
    "angle": ("Angle", Scale(-180, 180, "°", 1, least=-3600, most=3600), 0, 1, "Clockwise"),
    "opacity": ("Opacity", Scale(0, 100, "%", 0, least=0, most=100), 100, 100, "How much of it is seen"),
}  # fmt: skip


class PlateRow(QWidget):
    """One plate of the stack: its lamp, its name, and its share of the shake."""

    chosen = Signal(str)
    moved = Signal(str, int)
    removed = Signal(str)
    nudged = Signal(int, int)  # thousandths of the frame's height, right and down
    pressable = arrows = True

    def __init__(self, plate: Plate) -> None:
        super().__init__()
        self.plate, self.current = plate, False
        self.setFixedHeight(ROW)
        self.setFocusPolicy(Qt.FocusPolicy.TabFocus)
        self.setToolTip(
            tr("Click for its controls. Arrows move it on the picture, with Alt in the stack. Delete takes it away.")
        )
        self.lamp = Lamp(plate.name, parent=self)
        self.lamp.move(4, 4)

    def show_plate(self, plate: Plate, *, current: bool) -> None:
        self.plate, self.current = plate, current
        self.setAccessibleName(tr("Plate {0}", plate.name))
        self.lamp.set_on(plate.on)
        self.update()

    @property
    def words(self) -> str:
        """How it goes along with the shake."""
        if self.plate.glass:
            return tr("on the glass")
        near = f" · {self.plate.distance:g}×" if self.plate.distance != 1 else ""
        return f"{100 * self.plate.share:.0f} %{near}"

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        box = QRectF(self.rect()).adjusted(0.5, 0.5, -0.5, -1.5)
        painter.setPen(QPen(QColor(theme.LAMP if self.hasFocus() else theme.LINE), 1))
        painter.setBrush(QColor("#47524d" if self.current else theme.RECESS))
        painter.drawRoundedRect(box, 3, 3)
        if self.current:
            painter.fillRect(QRectF(0, 3, 3, self.height() - 7), QColor(theme.LAMP))
        painter.setFont(theme.numbers(11))
        painter.setPen(QColor(theme.DIM))
        wide = painter.fontMetrics().horizontalAdvance(self.words)
        room = QRectF(self.rect()).adjusted(0, 0, -8, -1)
        painter.drawText(room, Qt.AlignmentFlag.AlignVCenter | Qt.AlignmentFlag.AlignRight, self.words)
        painter.setFont(theme.words(14))
        painter.setPen(QColor(theme.TEXT if self.plate.on else theme.OFF))
        name = painter.fontMetrics().elidedText(self.plate.name, Qt.TextElideMode.ElideRight, self.width() - wide - 50)
        painter.drawText(QPointF(32, 20), name)

    def mousePressEvent(self, event: QMouseEvent) -> None:
        if event.button() == Qt.MouseButton.LeftButton:
            self.chosen.emit(self.plate.id)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        way = {Qt.Key.Key_Up: 1, Qt.Key.Key_Down: -1}.get(Qt.Key(event.key()))
        if event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter, Qt.Key.Key_Space):
            self.chosen.emit(self.plate.id)
        elif way is not None and event.modifiers() & Qt.KeyboardModifier.AltModifier:
            self.moved.emit(self.plate.id, way)
        elif event.key() == Qt.Key.Key_Delete:
            self.removed.emit(self.plate.id)
        elif event.key() in WAYS:
            far = 10 if event.modifiers() & Qt.KeyboardModifier.ShiftModifier else 1
            x, y = WAYS[Qt.Key(event.key())]
            self.nudged.emit(far * x, far * y)
        else:
            super().keyPressEvent(event)

    def focusInEvent(self, event: object) -> None:
        self.update()

    focusOutEvent = focusInEvent


tell(PlateRow, QAccessible.Role.ListItem, lambda row: f"{row.words}, {tr('chosen')}" if row.current else row.words)


class PlatesPanel(Column):
    """The stack, and the controls of the chosen plate."""

    nudged = Signal(int, int)  # the chosen plate: thousandths of the frame's height, right and down
    add_asked = Signal(bool)  # a graphic is to be chosen; whether it lies on the glass

    def __init__(self, state: State) -> None:
        super().__init__()
        self._state, self._session = state, state.session
        self._shot: Shot | None = None
        self._rows: dict[str, PlateRow] = {}
        self.now = 0.0
        self._stack = QVBoxLayout()
        self._stack.setSpacing(2)
        self.rows.addLayout(self._stack)
        row = QHBoxLayout()
        for words, tip, glass in (
            ("Add graphic…", "A picture, numbered pictures or a film laid over the others: it shakes along", False),
            ("On the glass…", "Laid on the delivered frame: neither the shake nor the crop touches it", True),
        ):
            button = QPushButton(tr(words))
            button.setToolTip(tr(tip))
            button.clicked.connect(partial(self.add_asked.emit, glass))
            row.addWidget(button)
        self.rows.addLayout(row)
        self.share = Rule("Share", Scale(-100, 300, "%", 0, least=-1000, most=1000), value=100, reset=100,
                          tip="Of the shot's shake: 0 stands still, above 100 goes further")  # fmt: skip
        self.distance = Rule(
            "Distance", Scale(0.2, 5, "×", 2, bend=2.3, least=0.01, most=10000), value=1, reset=1,
            tip="From the camera: travel shrinks with it, turns do not. 1 is what it was set for",
        )  # fmt: skip
        self.glass = QCheckBox(tr("On the glass"))
        self.glass.setToolTip(tr("Neither the shot's shake nor its crop touches it: a logo, a subtitle"))
        bind(self.share, self._session, "Share", lambda v: self._edit(share=v / 100))
        bind(self.distance, self._session, "Distance", lambda v: self._edit(distance=v))
        self.glass.clicked.connect(lambda on: self._session.apply(tr("On the glass"), self._edit(glass=on)))
        self.blend = QComboBox()
        self.blend.setAccessibleName(tr("Blend"))
        self.blend.setToolTip(tr("How its colours go together with those behind"))
        for key, words in BLENDS:
            self.blend.addItem(tr(words), key)
        self.blend.activated.connect(
            lambda _: self._session.apply(tr("Blend"), self._edit(blend=self.blend.currentData()))
        )
        label = QLabel(tr("Blend"))
        label.setStyleSheet(f"color: {theme.DIM};")
        line = QHBoxLayout()
        line.addWidget(label)
        line.addWidget(self.blend, 1)
        for widget in (self.share, self.distance, self.glass):
            self.rows.addWidget(widget)
        self.rows.addLayout(line)
        self.heading("Placement")
        self.place: dict[str, Rule] = {}
        for field, (words, scale, reset, _, tip) in PLACES.items():
            rule = self.place[field] = Rule(words, scale, value=reset, reset=reset, tip=tip)
            bind(rule, self._session, "Placement", partial(self._placed, field))
            rule.menu = lambda menu, field=field: menu.addAction(
                tr("Set a key at the playhead"), partial(self._key, field)
            )
            self.rows.addWidget(rule)
        buttons = QHBoxLayout()
        self.buttons: dict[str, QPushButton] = {}
        for key, words, act in (
            ("up", "Up", partial(self._move_chosen, 1)), ("down", "Down", partial(self._move_chosen, -1)),
            ("remove", "Remove", self._remove_chosen),
        ):  # fmt: skip
            button = self.buttons[key] = QPushButton(tr(words))
            button.clicked.connect(act)
            buttons.addWidget(button)
        self.rows.addLayout(buttons)
        self.only = QLabel(tr("The lowest plate is the shot's footage: the others lie over it."))
        self.only.setWordWrap(True)
        self.only.setStyleSheet(f"color: {theme.DIM}; font-size: 13px;")
        self.rows.addWidget(self.only)
        self.finish()

    @property
    def plate(self) -> Plate | None:
        """The chosen plate: the lowest one where none is."""
        if self._shot is None:
            return None
        chosen = self._state.now.plate
        return next((each for each in self._shot.plates if each.id == chosen), self._shot.footage)

    def _edit(self, plate: Plate | None = None, **changes: Any) -> edits.Edit:
        mine = plate or self.plate
        if self._shot is None or mine is None:
            return lambda project: project
        return edits.set_plate(self._shot.id, mine.id, **changes)

    def _placed(self, field: str, value: float) -> edits.Edit:
        plate = self.plate
        if plate is None:
            return lambda project: project
        curve: Curve = getattr(plate.placement, field)
        made = tuned(curve, self.now, value / PLACES[field][3])
        return self._edit(placement=replace(plate.placement, **{field: made}))

    def _key(self, field: str) -> None:
        """The first key holds what is there; from then on a changed number is another key."""
        plate = self.plate
        if plate is not None:
            curve: Curve = getattr(plate.placement, field)
            placement = replace(plate.placement, **{field: keys.with_key(curve, self.now)})
            self._session.apply(tr("Placement key"), self._edit(placement=placement))

    def _move(self, plate: str, by: int) -> None:
        if self._shot is not None:
            self._session.apply(tr("Move plate"), edits.move_plate(self._shot.id, plate, by))

    def _move_chosen(self, by: int) -> None:
        if self.plate is not None:
            self._move(self.plate.id, by)

    def _remove(self, plate: str) -> None:
        if self._shot is not None:
            self._session.apply(tr("Remove plate"), edits.remove_plate(self._shot.id, plate))

    def _remove_chosen(self) -> None:
        if self.plate is not None:
            self._remove(self.plate.id)

    def show_shot(self, shot: Shot | None, now: float) -> None:
        """Show a shot's plates as they are at ``now`` seconds."""
        self.setEnabled(shot is not None)
        self._shot, self.now = shot, now
        plate = self.plate
        if shot is None or plate is None:
            return
        self._show_stack(shot, plate)
        self.share.set_value(round(100 * plate.share, 3))
        self.distance.set_value(plate.distance)
        self.glass.setChecked(plate.glass)
        lowest = plate is shot.footage
        for widget in (self.share, self.distance):
            widget.setEnabled(not plate.glass)
        self.glass.setVisible(not lowest)
        self.blend.setEnabled(not lowest)
        self.blend.setCurrentIndex(max(self.blend.findData(plate.blend), 0))
        place = shot.plates.index(plate)
        self.buttons["up"].setEnabled(place < len(shot.plates) - 1 and not lowest)
        self.buttons["down"].setEnabled(place > 1)
        self.buttons["remove"].setEnabled(not lowest)
        self.only.setVisible(len(shot.plates) == 1)
        for field, rule in self.place.items():
            curve: Curve = getattr(plate.placement, field)
            rule.set_value(round(PLACES[field][3] * float(curve.at(np.array([now]))[0]), 3))

    def _show_stack(self, shot: Shot, plate: Plate) -> None:
        """Rows of plates that are still there are kept."""
        old, self._rows = self._rows, {}
        for number, each in enumerate(reversed(shot.plates)):
            row = old.pop(each.id, None)
            if row is None:
                row = PlateRow(each)
                row.chosen.connect(lambda chosen: self._state.choose(plate=chosen))
                row.moved.connect(self._move)
                row.removed.connect(self._remove)
                row.nudged.connect(self.nudged.emit)
                row.lamp.toggled.connect(partial(self._light, each.id))
            row.show_plate(each, current=each.id == plate.id)
            self._rows[each.id] = row
            if self._stack.indexOf(row) != number:
                self._stack.insertWidget(number, row)
        for gone in old.values():
            self._stack.removeWidget(gone)
            gone.hide()
            gone.deleteLater()

    def _light(self, plate: str, on: bool) -> None:
        if self._shot is not None:
            words = tr("Plate on") if on else tr("Plate off")
            self._session.apply(words, edits.set_plate(self._shot.id, plate, on=on))
