"""The list of deliveries as it is seen: a line each, with its lamp, how far it is, and what can be done with it."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path

from PySide6.QtCore import QRectF, Qt
from PySide6.QtGui import QColor, QPainter, QPaintEvent
from PySide6.QtWidgets import QCheckBox, QHBoxLayout, QLabel, QPushButton, QScrollArea, QVBoxLayout, QWidget

from young_tremor.base.units import duration_text
from young_tremor.desk.kit import theme
from young_tremor.desk.kit.i18n import tr
from young_tremor.engine.delivery.delivery_queue import DeliveryQueue, QueuedDelivery

HIGH = 58
_INKS = {"at work": theme.LAMP, "done": theme.GOOD, "failed": theme.BAD, "waiting": theme.DIM, "stopped": theme.OFF}


class DeliveryRow(QWidget):
    """One row of the list."""

    def __init__(self, row: QueuedDelivery, rows: DeliveryQueue) -> None:
        super().__init__()
        self.row, self._rows = row, rows
        self.setFixedHeight(HIGH)
        self.name, self.words = QLabel(), QLabel()
        self.words.setAlignment(Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter)
        self.fresh = QCheckBox(tr("Keep fresh"))
        self.fresh.setToolTip(tr("Rendered again when its content changes"))
        self.fresh.setChecked(row.request.fresh)
        self.fresh.toggled.connect(lambda on: rows.keep_fresh(row, on))
        title = Path(row.request.path).name
        self.main = self._button("Again", lambda: rows.stop(row) if row.state in _UNDER_WAY else self._again())
        above, below = QHBoxLayout(), QHBoxLayout()
        above.addWidget(self.name, 1)
        above.addWidget(self.words)
        below.setSpacing(4)
        below.addWidget(self.fresh)
        below.addStretch(1)
        below.addWidget(self.main)
        for words, act in (
            ("Up", lambda: rows.move(row, -1)),
            ("Down", lambda: rows.move(row, 1)),
            ("Remove", lambda: rows.remove(row)),
        ):
            button = self._button(words, act)
            button.setAccessibleName(tr("{0}: {1}", tr(words), title))
            below.addWidget(button)
        column = QVBoxLayout(self)
        column.setContentsMargins(20, 5, 2, 6)
        column.setSpacing(1)
        column.addLayout(above)
        column.addLayout(below)
        self.show_state()

    def _button(self, words: str, act: Callable[[], object]) -> QPushButton:
        button = QPushButton(tr(words))
        button.setProperty("flat", "true")
        button.setStyleSheet("font-size: 13px;")
        button.clicked.connect(act)
        return button

    def _again(self) -> None:
        self._rows.again(self.row)
        self._rows.start()

    @property
    def title(self) -> str:
        """What its files are called, or will be."""
        films = self.row.films
        if not films:
            return Path(self.row.request.path).name
        more = tr(" and {0} more", len(films) - 1) if len(films) > 1 else ""
        return films[0].path.name + more

    def show_state(self) -> None:
        """Show how it stands."""
        row, title = self.row, self.title
        self.main.setText(tr("Stop") if row.state in _UNDER_WAY else tr("Again"))
        self.main.setAccessibleName(tr("{0}: {1}", self.main.text(), title))
        lamp = self._rows.lamp(row)
        words = {"waiting": tr("waits"), "at work": tr("starts"), "done": tr("done"), "stopped": tr("stopped")}.get(
            row.state, tr("failed")
        )
        if lamp:
            words = {"fresh": tr("fresh"), "waiting": tr("waits for a rest"), "at work": tr("is made again")}[lamp]
        if row.state == "at work" and row.told:
            table, films = row.told, len(row.films)
            which = tr("{0} of {1} films written · ", len(row.written), films) if films > 1 else ""
            words = which + tr(
                "{0} of {1} · {2} fps · {3} left",
                int(table["frame"]),
                int(table["frames"]),
                round(table["fps"]),
                duration_text(table["left"]),
            )
        self.words.setText(words)
        self.words.setStyleSheet(f"color: {_INKS[row.state]}; font-size: 13px;")
        room = max(self.width() - self.words.sizeHint().width() - 40, 60)
        self.name.setText(self.name.fontMetrics().elidedText(title, Qt.TextElideMode.ElideMiddle, room))
        self.name.setToolTip(row.request.path)
        self.setToolTip(row.said)
        self.setAccessibleName(f"{title}, {words}")
        self.update()

    def resizeEvent(self, event: object) -> None:
        self.show_state()

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(QColor(_INKS[self.row.state]))
        painter.drawEllipse(QRectF(3, 12, 9, 9))
        painter.setBrush(QColor(theme.LINE))
        painter.drawRect(QRectF(0, self.height() - 1, self.width(), 1))
        table = self.row.told
        if self.row.state == "at work" and table:
            share = table["frame"] / max(table["frames"], 1)
            painter.setBrush(QColor(theme.LAMP))
            painter.drawRect(QRectF(0, self.height() - 3, self.width() * min(share, 1.0), 3))


_UNDER_WAY = ("at work", "waiting")


class DeliveryRows(QScrollArea):
    """All rows, in the order in which they begin."""

    def __init__(self, rows: DeliveryQueue) -> None:
        super().__init__()
        self._rows = rows
        self._lines: dict[QueuedDelivery, DeliveryRow] = {}
        self.setWidgetResizable(True)
        self.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        self.hint = QLabel(tr("The list is empty. Start renders at once;\nAdd to the list keeps it for later."))
        self.hint.setStyleSheet(f"color: {theme.DIM};")
        self.hint.setAlignment(Qt.AlignmentFlag.AlignCenter)
        inner = QWidget()
        self._column = QVBoxLayout(inner)
        self._column.setContentsMargins(0, 0, 6, 0)
        self._column.setSpacing(0)
        self._column.addWidget(self.hint)
        self._column.addStretch(1)
        self.setWidget(inner)

    def line(self, number: int) -> DeliveryRow:
        """The line of a row."""
        return self._lines[self._rows.rows[number]]

    def show_rows(self) -> None:
        """Follow the list."""
        rows = list(self._rows.rows)
        for gone in [row for row in self._lines if row not in rows]:
            line = self._lines.pop(gone)
            self._column.removeWidget(line)
            line.deleteLater()
        for number, row in enumerate(rows):
            line = self._lines.get(row) or DeliveryRow(row, self._rows)
            self._lines[row] = line
            if self._column.indexOf(line) != number + 1:
                self._column.insertWidget(number + 1, line)
            line.show_state()
        self.hint.setVisible(not rows)

    def show_progress(self, row: QueuedDelivery) -> None:
        """Follow a row that is at work."""
        if row in self._lines:
            self._lines[row].show_state()

    def summary(self) -> str:
        """How many there are, for the heading."""
        waits = sum(row.state == "waiting" for row in self._rows.rows)
        return tr("{0} waiting", waits) if waits else ""
