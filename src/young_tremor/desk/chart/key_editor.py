"""A curve of keys drawn and edited on a strip of the chart.

Double click adds a key, a drag moves the chosen ones, Shift and drag boxes a choice, Delete takes them away; arrows
nudge, Page up and Page down choose the next key, Insert adds one at the playhead, Ctrl+C and Ctrl+V copy and lay down.
Keys snap to frames, hits and other curves' keys; Alt holds that off. Without keys the line itself is dragged.
"""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import dataclass

import numpy as np
from PySide6.QtCore import QObject, QPointF, QRectF, Qt
from PySide6.QtGui import QColor, QKeyEvent, QKeySequence, QMouseEvent, QPainter, QPen
from PySide6.QtWidgets import QWidget

from young_tremor.desk.chart.row_context import RowContext
from young_tremor.desk.kit import theme
from young_tremor.desk.kit.focus import give_back
from young_tremor.desk.kit.i18n import counted, tr, tr_within
from young_tremor.desk.state.desk_state import ChosenKeys, Selection
from young_tremor.desk.state.time_view import TimeView
from young_tremor.model import curve_edits
from young_tremor.model.curve import Curve, Ease, Key
from young_tremor.model.curve_shapes import Anchors
from young_tremor.model.shot_edits import Edit

PAGES = (Qt.Key.Key_PageUp, Qt.Key.Key_PageDown)
GRAB = 8.0  # pixels
TALL = 90  # pixels of a strip from which on round values are marked, and snapped to
LIGHT, APART = 3.0, 16.0  # pixels: within which a value snaps, and how far apart round values are at least


@dataclass(frozen=True)
class EditedCurve:
    """A curve of the document as an editor sees it: ``read`` gives it, ``write`` makes the edit that changes it.

    ``key`` tells it from others, ``name`` is read by people, ``text`` says a value. ``shown``: the heights that the
    strip shows at least; ``limits``: what a value may be, if not those.
    """

    key: str
    name: str
    read: Callable[[], Curve | None]
    write: Callable[[Curve], Edit]
    shown: tuple[float, float]
    text: Callable[[float], str]
    limits: tuple[float, float] | None = None


class KeyEditor(QObject):
    """Edits one curve on a strip."""

    def __init__(self, strip: QWidget, paper: RowContext, curve: EditedCurve) -> None:
        super().__init__(strip)
        self._strip, self._paper, self._curve, self.name = strip, paper, curve.key, curve.name
        self._view, self._session = paper.view, paper.session
        self._read, self._write, self.text = curve.read, curve.write, curve.text
        self.low, self.high = self._usual = curve.shown
        self.limits = curve.limits or curve.shown
        self.nothing = 0.0  # the value that is none
        paper.editors[curve.key] = self
        self._start: tuple[Curve, tuple[int, ...], QPointF] | None = None
        self._line: float | None = None
        self._box: tuple[QPointF, QPointF] | None = None
        self._tangent: tuple[int, bool] | None = None
        self._under: int | None = None
        paper.state.changed.connect(self._seen)

    @property
    def chosen(self) -> tuple[int, ...]:
        """The numbers of its chosen keys."""
        keys = self._paper.state.now.keys
        return keys.numbers if keys.curve == self._curve else ()

    @chosen.setter
    def chosen(self, numbers: tuple[int, ...]) -> None:
        """Choose keys by their numbers."""
        if numbers != self.chosen or (numbers and self._paper.state.now.target != "keys"):
            self._paper.state.choose(keys=ChosenKeys(self._curve, numbers) if numbers else ChosenKeys())

    def _seen(self, before: Selection, now: Selection) -> None:
        if before.keys != now.keys and self._curve in (before.keys.curve, now.keys.curve):
            self._refresh()

    @property
    def resting(self) -> bool:
        """Whether no drag goes on."""
        return self._start is None and self._line is None and self._tangent is None

    def fit_range(self) -> None:
        """Let the strip show all of the curve, however high its values are; not while it is dragged."""
        curve = self._read()
        if curve is None or not self.resting:
            return
        values = [curve.value, *(key.value for key in curve.keys)]
        low, high = self._usual
        room = 0.05 * (high - low)
        self.low = low if min(values) >= low else min(values) - room
        self.high = high if max(values) <= high else max(values) + room

    # places

    def y(self, value: float) -> float:
        """Where a value stands on the strip."""
        height = self._strip.height()
        return height - 3 - (min(max(value, self.low), self.high) - self.low) / (self.high - self.low) * (height - 8)

    def value(self, y: float) -> float:
        """The value at a height of the strip."""
        height = self._strip.height()
        share = (height - 3 - y) / (height - 8)
        return min(max(self.low + share * (self.high - self.low), self.low), self.high)

    def _x(self, t: float) -> float:
        return self._view.x(t, self._strip.width())

    def _place(self, key: Key) -> QPointF:
        return QPointF(self._x(key.t), self.y(key.value))

    def _at(self, place: QPointF) -> int | None:
        curve = self._read()
        if curve is None:
            return None
        far = [(p - place).manhattanLength() for p in map(self._place, curve.keys)]
        best = int(np.argmin(far)) if far else -1
        return best if best >= 0 and far[best] <= 1.5 * GRAB else None

    def _handles(self, curve: Curve) -> list[tuple[int, bool, QPointF]]:
        """Ends of the tangents of chosen free keys: (key, outgoing, place)."""
        out = []
        span = 34 / max(self._strip.width(), 1) * (self._view.t1 - self._view.t0)
        for number in self.chosen:
            if number >= len(curve.keys):
                continue  # gone, and not drawn since
            key = curve.keys[number]
            if key.ease == "free" and number + 1 < len(curve.keys):
                out.append((number, True, QPointF(self._x(key.t + span), self.y(key.value + key.slope_out * span))))
            if number and curve.keys[number - 1].ease == "free":
                out.append((number, False, QPointF(self._x(key.t - span), self.y(key.value - key.slope_in * span))))
        return out

    def snapped(self, t: float, modifiers: Qt.KeyboardModifier, skip: set[float] | None = None) -> float:
        """The nearest frame, or hit or key within reach; ``t`` itself with Alt."""
        if modifiers & Qt.KeyboardModifier.AltModifier:
            return max(t, 0.0)
        rate = float(self._view.rate)
        reach = GRAB / max(self._strip.width(), 1) * (self._view.t1 - self._view.t0)
        others = [s for s in self._paper.snaps() if abs(s - t) < reach and s not in (skip or set())]
        if others:
            return min(others, key=lambda s: abs(s - t))
        return max(round(t * rate) / rate, 0.0)

    def snapped_value(self, y: float, modifiers: Qt.KeyboardModifier) -> float:
        """The value at a height of the strip; a round one or another key's if that is very near, except with Alt."""
        value = self.value(y)
        if modifiers & Qt.KeyboardModifier.AltModifier:
            return round(value, 3)
        curve = self._read()
        levels = [key.value for key in (curve.keys if curve else ())]
        if self._strip.height() >= TALL:
            step = _round_step(APART * (self.high - self.low) / self._strip.height(), self.text(1.0).endswith("°"))
            levels.append(round(value / step) * step)
        if not levels:
            return round(value, 3)
        nearest = min(levels, key=lambda level: abs(self.y(level) - y))
        return round(nearest if abs(self.y(nearest) - y) <= LIGHT else value, 3)

    # painting

    def paint(self, painter: QPainter) -> None:
        """Keys, tangents and the box, over the curve's line."""
        curve = self._read()
        if curve is None:
            return
        colour = theme.paper.colour
        chosen = tuple(n for n in self.chosen if n < len(curve.keys))
        for number, _, end in self._handles(curve):
            painter.setPen(QPen(colour("playhead"), 1))
            painter.drawLine(self._place(curve.keys[number]), end)
            painter.setBrush(colour("playhead"))
            painter.drawEllipse(end, 2.5, 2.5)
        for number, key in enumerate(curve.keys):
            place = self._place(key)
            if not -6 < place.x() < self._strip.width() + 6:
                continue
            painter.setPen(QPen(colour("ink"), 1.2))
            painter.setBrush(QColor(theme.LAMP) if number in chosen else colour("paper"))
            painter.drawRect(QRectF(place.x() - 3.5, place.y() - 3.5, 7, 7))
        if len(chosen) == 1 and self._start is not None:
            key = curve.keys[chosen[0]]
            place = self._place(key)
            painter.setFont(theme.numbers(11))
            painter.setPen(colour("ink"))
            painter.drawText(place + QPointF(8, -5 if place.y() > 18 else 14), self.text(key.value))
        if self._box:
            painter.setPen(QPen(colour("playhead"), 1, Qt.PenStyle.DashLine))
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.drawRect(QRectF(*self._box).normalized())

    # mouse and keys; each says whether it took the event

    def press(self, event: QMouseEvent) -> bool:
        """Take hold of what lies under the pointer; whether there was anything."""
        curve, place = self._read(), event.position()
        if curve is None or event.button() != Qt.MouseButton.LeftButton:
            return False
        for number, out, end in self._handles(curve):
            if (end - place).manhattanLength() < GRAB:
                self._tangent = (number, out)
                self._session.begin_gesture(tr("{0} tangent", tr(self.name)))
                return True
        under = self._at(place)
        if under is not None:
            self._strip.setFocus(Qt.FocusReason.MouseFocusReason)
            if event.modifiers() & Qt.KeyboardModifier.ControlModifier:
                self._choose(tuple(sorted(set(self.chosen) ^ {under})))
                return True
            self._choose(self.chosen if under in self.chosen else (under,))
            self._under = under
            self._start = (curve, self.chosen, place)
            self._session.begin_gesture(tr("Move {0} key", tr_within(self.name)))
            return True
        if event.modifiers() & Qt.KeyboardModifier.ShiftModifier:
            self._box = (place, place)
            return True
        if curve.constant and abs(place.y() - self.y(curve.value)) < GRAB:
            self._line = curve.value
            self._session.begin_gesture(tr(self.name))
            return True
        self._choose(())
        return False

    def move(self, event: QMouseEvent) -> bool:
        """Follow the pointer."""
        curve, place = self._read(), event.position()
        if curve is None:
            return False
        if self._tangent is not None:
            number, out = self._tangent
            key = curve.keys[number]
            run = self._view.t(place.x(), self._strip.width()) - key.t
            run = max(run, 1e-3) if out else min(run, -1e-3)
            slope = (self.value(place.y()) - key.value) / run
            changed = curve_edits.set_slopes(curve, number, **{"slope_out" if out else "slope_in": slope})
            self._session.apply(tr(self.name), self._write(changed))
        elif self._start is not None:
            self._drag(event)
        elif self._box is not None:
            self._box = (self._box[0], place)
            inside = QRectF(*self._box).normalized().adjusted(-2, -2, 2, 2)
            self._choose(tuple(n for n, key in enumerate(curve.keys) if inside.contains(self._place(key))))
        elif self._line is not None:
            self._session.apply(tr(self.name), self._write(Curve(self.snapped_value(place.y(), event.modifiers()))))
        else:
            near = self._at(place) is not None or (curve.constant and abs(place.y() - self.y(curve.value)) < GRAB)
            self._strip.setCursor(Qt.CursorShape.SizeVerCursor if near else Qt.CursorShape.ArrowCursor)
            return False
        return True

    def _drag(self, event: QMouseEvent) -> None:
        assert self._start is not None
        assert self._under is not None
        curve, numbers, place = self._start
        key = curve.keys[self._under]
        own = {curve.keys[n].t for n in numbers}
        width = self._strip.width()
        t = key.t + self._view.t(event.position().x(), width) - self._view.t(place.x(), width)
        dt = self.snapped(t, event.modifiers(), own) - key.t if abs(event.position().x() - place.x()) > 2 else 0.0
        dt = max(dt, -min(curve.keys[n].t for n in numbers))
        moved = event.position().y() - place.y()
        dv = self.snapped_value(self.y(key.value) + moved, event.modifiers()) - key.value if moved else 0.0
        new_curve, chosen = curve_edits.move_keys(curve, numbers, dt, dv, low=self.limits[0], high=self.limits[1])
        self.chosen = chosen
        self._session.apply(tr(self.name), self._write(new_curve))

    def release(self, event: QMouseEvent) -> bool:
        """Let go: the drag is one step."""
        busy = self._start is not None or self._line is not None or self._tangent is not None
        if busy:
            self._session.end_gesture()
        taken = busy or self._box is not None
        self._start = self._line = self._box = self._tangent = self._under = None
        if taken:
            self._refresh()
        return taken

    def double(self, event: QMouseEvent) -> bool:
        """Add a key under the pointer, at the height of the pointer."""
        curve = self._read()
        if curve is None or self._at(event.position()) is not None:
            return False
        t = self.snapped(self._view.t(event.position().x(), self._strip.width()), event.modifiers())
        here = curve_edits.height_at(curve, t)
        near = abs(event.position().y() - self.y(here)) <= LIGHT
        value = here if near else self.snapped_value(event.position().y(), event.modifiers())
        new_curve = curve_edits.with_key(curve, t, value)
        self._session.apply(tr("Add {0} key", tr_within(self.name)), self._write(new_curve))
        self._choose(tuple(n for n, key in enumerate(new_curve.keys) if abs(key.t - t) < curve_edits.NEAR))
        self._strip.setFocus(Qt.FocusReason.MouseFocusReason)
        return True

    def forget_gone(self) -> None:
        """Keys that are there no longer (undone, or of another shot) are not chosen any more."""
        curve = self._read()
        count = len(curve.keys) if curve is not None else 0
        if any(number >= count for number in self.chosen):
            self.chosen = tuple(number for number in self.chosen if number < count)

    def wants(self, event: QKeyEvent) -> bool:
        """Whether a key belongs to the chosen keys rather than to the window."""
        self.forget_gone()
        curve = self._read()
        if curve is not None and (event.key() == Qt.Key.Key_Insert or (event.key() in PAGES and curve.keys)):
            return True
        if not self.chosen or self._paper.state.now.target != "keys":
            return (
                event.matches(QKeySequence.StandardKey.Paste)
                and bool(self._paper.state.copied_keys)
                and curve is not None
            )
        return (
            event.key()
            in (
                Qt.Key.Key_Left,
                Qt.Key.Key_Right,
                Qt.Key.Key_Up,
                Qt.Key.Key_Down,
                Qt.Key.Key_Delete,
                Qt.Key.Key_Backspace,
                Qt.Key.Key_Escape,
            )
            or event.matches(QKeySequence.StandardKey.Copy)
            or event.matches(QKeySequence.StandardKey.Paste)
        )

    def key(self, event: QKeyEvent) -> bool:
        """Do what a key of the keyboard asks of the chosen keys; whether it did anything."""
        curve = self._read()
        if curve is None or not self.wants(event):
            return False
        if event.matches(QKeySequence.StandardKey.Copy):
            self._paper.state.copied_keys = tuple(curve.keys[n] for n in self.chosen)
        elif event.matches(QKeySequence.StandardKey.Paste):
            at = float(self._view.frame / self._view.rate)
            new_curve, self.chosen = curve_edits.paste_keys(curve, self._paper.state.copied_keys, at)
            self._session.apply(tr("Paste {0} keys", tr_within(self.name)), self._write(new_curve))
        elif event.key() in PAGES:
            self._choose_next(curve, 1 if event.key() == Qt.Key.Key_PageDown else -1)
        elif event.key() == Qt.Key.Key_Insert:
            new_curve = curve_edits.with_key(curve, self._paper.now)
            self._session.apply(tr("Add {0} key", tr_within(self.name)), self._write(new_curve))
            self.chosen = tuple(
                n for n, key in enumerate(new_curve.keys) if abs(key.t - self._paper.now) < curve_edits.NEAR
            )
        elif event.key() in (Qt.Key.Key_Delete, Qt.Key.Key_Backspace):
            self.delete()
        elif event.key() == Qt.Key.Key_Escape:
            self._choose(())
            give_back(self._strip)
        else:
            self._nudge(curve, event)
        self._refresh()
        return True

    def _choose_next(self, curve: Curve, way: int) -> None:
        """The key after the chosen one, or before it; from the playhead where none is chosen."""
        if self.chosen:
            number = (self.chosen[-1 if way > 0 else 0] + way) % len(curve.keys)
        else:
            times = np.array([key.t for key in curve.keys])
            number = int(np.searchsorted(times, self._paper.now)) - (way < 0)
        self.chosen = (min(max(number, 0), len(curve.keys) - 1),)

    def told(self) -> str:
        """The curve in words, for a screen reader: the chosen keys, or how many there are."""
        curve = self._read()
        if curve is None:
            return ""
        if len(self.chosen) == 1 and self.chosen[0] < len(curve.keys):
            key = curve.keys[self.chosen[0]]
            at = tr("{0:.2f} seconds, {1}", key.t, self.text(key.value))
            return tr("{0}, key {1} of {2}: {3}", tr(self.name), self.chosen[0] + 1, len(curve.keys), at)
        if self.chosen:
            return tr("{0}, {1} of {2} keys chosen", tr(self.name), len(self.chosen), len(curve.keys))
        return f"{tr(self.name)}, {counted(len(curve.keys), 'key')}" if curve.keys else self.text(curve.value)

    def _nudge(self, curve: Curve, event: QKeyEvent) -> None:
        frame = 1 / float(self._view.rate)
        big = 10 if event.modifiers() & Qt.KeyboardModifier.ShiftModifier else 1
        step = float(f"{0.005 * (self.high - self.low) * big:.1g}")
        ways = {
            Qt.Key.Key_Left: (-frame * big, 0.0),
            Qt.Key.Key_Right: (frame * big, 0.0),
            Qt.Key.Key_Up: (0.0, step),
            Qt.Key.Key_Down: (0.0, -step),
        }
        dt, dv = ways[Qt.Key(event.key())]
        dt = max(dt, -min(curve.keys[n].t for n in self.chosen))
        new_curve, chosen = curve_edits.move_keys(curve, self.chosen, dt, dv, low=self.limits[0], high=self.limits[1])
        self._session.apply(tr("Nudge {0} keys", tr_within(self.name)), self._write(new_curve))
        self.chosen = chosen

    def delete(self) -> None:
        """Take the chosen keys away."""
        self.forget_gone()
        curve = self._read()
        if curve is not None and self.chosen:
            numbers, self.chosen = self.chosen, ()
            self._session.apply(
                tr("Delete {0} keys", tr_within(self.name)), self._write(curve_edits.without(curve, numbers))
            )
            words = counted(len(numbers), "key")
            self._paper.told.emit(tr("Removed {0} of {1}. Ctrl+Z brings it back.", words, tr_within(self.name)))

    @property
    def view(self) -> TimeView:
        """The time that the strip shows."""
        return self._view

    @property
    def anchors(self) -> Anchors:
        """Where ready shapes stand now."""
        view, shot = self._view, self._paper.shot
        marks = None if view.marks is None else (float(view.marks[0] / view.rate), float(view.marks[1] / view.rate))
        return Anchors(self._paper.now, view.length, marks, shot.hits if shot else (), nothing=self.nothing)

    def curve(self) -> Curve | None:
        """The curve as it is now."""
        return self._read()

    def shape(self, label: str, curve: Curve) -> None:
        """Put another curve in its place, kept within what its values may be; nothing is chosen then."""
        self.chosen = ()
        self._session.apply(label, self._write(curve_edits.limited(curve, *self.limits)))

    def ease(self, ease: Ease) -> None:
        """How the chosen keys go on to the next."""
        curve = self._read()
        if curve is not None:
            self._session.apply(
                tr("{0} easing", tr(self.name)), self._write(curve_edits.set_ease(curve, self.chosen, ease))
            )

    def scale(self, time: float, value: float) -> None:
        """Draw the chosen keys apart in time, and make them higher."""
        curve = self._read()
        if curve is not None and self.chosen:
            at = curve.keys[self.chosen[0]].t
            new_curve, self.chosen = curve_edits.scale_keys(
                curve, self.chosen, time, value, at=at, low=self.limits[0], high=self.limits[1]
            )
            self._session.apply(tr("Scale {0} keys", tr_within(self.name)), self._write(new_curve))

    def fit(self) -> None:
        """Let the view show the chosen keys, or all of them, and little else."""
        curve = self._read()
        times = [key.t for n, key in enumerate(curve.keys) if n in self.chosen or len(self.chosen) < 2] if curve else []
        if len(times) > 1:
            self._view.fit(times[0], times[-1])

    def _choose(self, numbers: tuple[int, ...]) -> None:
        self.chosen = numbers

    def _refresh(self) -> None:
        self._strip.update()


def _round_step(least: float, degrees: bool) -> float:
    """A round number that is not below ``least``: 1, 2.5 or 5 times a power of ten, or a part of a turn."""
    power = 10.0 ** math.floor(math.log10(least))
    steps = (*(power * factor for factor in (1.0, 2.5, 5.0, 10.0)), least)
    if degrees and 5 < least <= 180:
        steps = (15.0, 45.0, 90.0, 180.0)
    return next(step for step in steps if step >= least)
