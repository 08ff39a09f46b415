"""The takes: those of the project and those kept for all projects; used on a shot, named, tagged, exported."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path

from msgspec.structs import replace
from PySide6.QtCore import QModelIndex, QPersistentModelIndex, QRect, QRectF, QSize, Qt, QTimer, Signal, SignalInstance
from PySide6.QtGui import QColor, QHideEvent, QPainter, QShowEvent
from PySide6.QtWidgets import (
    QFileDialog,
    QFrame,
    QGridLayout,
    QHBoxLayout,
    QLabel,
    QLineEdit,
    QListWidget,
    QListWidgetItem,
    QPushButton,
    QStyle,
    QStyledItemDelegate,
    QStyleOptionViewItem,
    QVBoxLayout,
    QWidget,
)

from young_tremor.base.errors import TremorError
from young_tremor.desk.kit import theme
from young_tremor.desk.kit.column import divider, section
from young_tremor.desk.kit.i18n import tr
from young_tremor.desk.panels.take_panel import about, paint_path
from young_tremor.desk.sheets.gyro_import import GyroImportView
from young_tremor.engine.document.session import Session
from young_tremor.engine.library import gyro_logs, takes
from young_tremor.model import shot_edits
from young_tremor.model.take import Take

ROW = 62
REST = 140  # milliseconds on a take until it is tried
TAGS = ("lens", "weight", "activity")


class _TakePainter(QStyledItemDelegate):
    def __init__(self) -> None:
        super().__init__()
        self.rows: list[tuple[Take, bool]] = []

    def sizeHint(self, option: QStyleOptionViewItem, index: QModelIndex | QPersistentModelIndex) -> QSize:
        return QSize(408, ROW)

    def paint(
        self, painter: QPainter, option: QStyleOptionViewItem, index: QModelIndex | QPersistentModelIndex
    ) -> None:
        take, kept = self.rows[index.row()]
        rect: QRect = option.rect
        state: QStyle.StateFlag = option.state
        painter.save()
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        if state & (QStyle.StateFlag.State_Selected | QStyle.StateFlag.State_MouseOver):
            painter.setPen(Qt.PenStyle.NoPen)
            painter.setBrush(QColor("#47524d"))
            painter.drawRoundedRect(QRectF(rect).adjusted(2, 1, -2, -1), 4, 4)
        paint_path(painter, QRectF(rect.left() + 10, rect.top() + 6, 78, 50), takes.paths(take, 0.0)[0])
        left, width = rect.left() + 100, rect.width() - 112
        painter.setFont(theme.text_font(15))
        painter.setPen(QColor(theme.TEXT))
        painter.drawText(QRectF(left, rect.top() + 5, width, 20), Qt.AlignmentFlag.AlignVCenter, take.name)
        painter.setFont(theme.text_font(12))
        painter.setPen(QColor(theme.FAINT))
        where = tr("library" if kept else "this project")
        right = Qt.AlignmentFlag.AlignVCenter | Qt.AlignmentFlag.AlignRight
        painter.drawText(QRectF(left, rect.top() + 5, width, 20), right, where)
        painter.setPen(QColor(theme.DIM))
        painter.setFont(theme.text_font(13))
        painter.drawText(QRectF(left, rect.top() + 23, width, 18), Qt.AlignmentFlag.AlignVCenter, about(take))
        tags = " · ".join(tag for tag in (getattr(take, name) for name in TAGS) if tag)
        painter.drawText(QRectF(left, rect.top() + 40, width, 18), Qt.AlignmentFlag.AlignVCenter, tags)
        painter.restore()


class TakeSheet(QFrame):
    """Choose a take; use it on the shot, name and tag it, keep it for other projects."""

    used = Signal(object)  # Take
    tried = Signal(object)  # the Take that is looked at, None: it is over
    measure = Signal(object)  # Path to a clip, or None: ask for one
    again = Signal(object)  # Take that is to be measured anew
    own = Signal()  # measure the shot itself
    told = Signal(str)
    takes_keys = True  # while it is open, from what was clicked before

    def __init__(self, parent: QWidget, session: Session) -> None:
        super().__init__(parent, Qt.WindowType.Popup)
        self._session = session
        self._shown: tuple[Take, bool] | None = None  # whose name and tags stand in the fields
        self.setAccessibleName(tr("Takes"))
        self.setStyleSheet(f"TakesPopup {{ background: {theme.PANEL_COLOUR}; border: 1px solid {theme.LINE}; }}")
        self.list = QListWidget()
        self.list.setAccessibleName(tr("Takes"))
        self.list.setMouseTracking(True)
        self._painter = _TakePainter()
        self.list.setItemDelegate(self._painter)
        self.list.currentRowChanged.connect(self._chosen_row)
        self.list.itemActivated.connect(lambda _: self._use())
        self.list.itemEntered.connect(lambda item: self._try_on(self.list.row(item)))
        self.list.setFlow(QListWidget.Flow.LeftToRight)
        self.list.setWrapping(True)
        self.list.setResizeMode(QListWidget.ResizeMode.Adjust)
        self._later = QTimer(self)
        self._later.setSingleShot(True)
        self._later.setInterval(REST)
        self._later.timeout.connect(self._on)
        self._wanted: Take | None = None
        self.hint = QLabel(
            tr(
                "No takes yet. Film something textured by hand, a shelf or gravel,\nand measure its "
                "motion: it then moves any shot."
            )
        )
        self.hint.setStyleSheet(f"color: {theme.DIM};")
        self.hint.setAlignment(Qt.AlignmentFlag.AlignCenter)
        top = QHBoxLayout()
        top.setSpacing(8)
        top.addWidget(section("Takes"))
        top.addStretch(1)
        for words, tip, act in (
            ("Measure a clip", "Choose a handheld clip to measure", lambda: self._leave(self.measure, None)),
            (
                "Measure this shot",
                "Measure the shake that the shot has already, to add to it",
                lambda: self._leave(self.own),
            ),
            ("Read a file", "Motion from a CSV, a camera in USD, or a gyroscope's log", self._read),
        ):
            button = QPushButton(tr(words))
            button.setToolTip(tr(tip))
            button.clicked.connect(act)
            top.addWidget(button)
        column = QVBoxLayout(self)
        column.setContentsMargins(12, 10, 12, 10)
        column.setSpacing(7)
        column.addLayout(top)
        column.addWidget(self.list, 1)
        column.addWidget(self.hint, 1)
        column.addWidget(divider())
        self._lay_chosen(column)
        self.resize(1180, 320)

    def _lay_chosen(self, column: QVBoxLayout) -> None:
        self.fields = {name: QLineEdit() for name in ("name", *TAGS)}
        grid = QGridLayout()
        grid.setHorizontalSpacing(8)
        for number, (name, field) in enumerate(self.fields.items()):
            label = QLabel(tr(name.capitalize()))
            label.setStyleSheet(f"color: {theme.DIM};")
            field.setAccessibleName(tr("{0} of the take", tr(name.capitalize())))
            field.editingFinished.connect(self._rename)
            grid.addWidget(label, 0, number)
            grid.addWidget(field, 1, number)
        column.addLayout(grid)
        row = QHBoxLayout()
        row.setSpacing(8)
        self.buttons: dict[str, QPushButton] = {}
        for key, words, tip, act in (
            ("delete", "Delete", "Take it out of the project, or of the library", self._delete),
            ("again", "Measure again", "Measure its clip anew; the old one stays until that is whole", self._again),
            ("export", "Export CSV", "Write it to a file", self._export),
            ("keep", "Keep in library", "For all projects", self._keep),
            ("use", "Use on this shot", "Add it to the shot's shake", self._use),
        ):
            button = self.buttons[key] = QPushButton(tr(words))
            button.setToolTip(tr(tip))
            button.clicked.connect(act)
            row.addWidget(button)
            if key == "delete":
                row.addStretch(1)
        column.addLayout(row)

    def refresh(self, chosen: tuple[str, bool] | None = None) -> None:
        """List the takes anew and choose one by its id and whether it is the library's."""
        kept, bad = takes.library_takes()
        if bad:
            self.told.emit(bad[0])
        self._painter.rows = [(take, False) for take in self._session.project.takes] + [(take, True) for take in kept]
        self.list.clear()
        for take, _ in self._painter.rows:
            self.list.addItem(QListWidgetItem(take.name))
        ids = [(take.id, kept) for take, kept in self._painter.rows]
        self.list.setVisible(bool(ids))
        self.hint.setVisible(not ids)
        self.list.setCurrentRow(ids.index(chosen) if chosen in ids else 0)
        self._show_chosen()

    def _chosen_row(self, row: int) -> None:
        self._show_chosen()
        self._try_on(row)

    @property
    def chosen(self) -> tuple[Take, bool] | None:
        """The take that is chosen, and whether it is the library's."""
        row = self.list.currentRow()
        return self._painter.rows[row] if 0 <= row < len(self._painter.rows) else None

    def _try_on(self, row: int) -> None:
        """Let a take be seen on the picture, a moment after it is looked at."""
        if self.isVisible() and 0 <= row < len(self._painter.rows):
            self._wanted = self._painter.rows[row][0]
            self._later.start()

    def _on(self) -> None:
        if self._wanted is not None and self.isVisible():
            self.tried.emit(self._wanted)

    def hideEvent(self, event: QHideEvent) -> None:
        self._later.stop()
        self._wanted = None
        self.tried.emit(None)

    def _show_chosen(self) -> None:
        found = self._shown = self.chosen
        for name, field in self.fields.items():
            field.setText(getattr(found[0], name) if found else "")
            field.setEnabled(found is not None)
        for key, button in self.buttons.items():
            button.setEnabled(found is not None and not (key in ("keep", "again") and found[1]))

    def _rename(self) -> None:
        if self._shown is None:
            return
        take, kept = self._shown
        changes = {name: field.text().strip() for name, field in self.fields.items()}
        changes["name"] = changes["name"] or take.name
        changed = replace(take, **changes)
        if changed == take:
            return
        if kept:
            self._try(lambda: takes.keep(changed))
        else:
            self._session.apply(tr("Name a take"), shot_edits.replace_take(take.id, changed))
        self.refresh((take.id, kept))

    def _use(self) -> None:
        found = self.chosen
        if found is not None:
            self.hide()
            self.used.emit(found[0])

    def _keep(self) -> None:
        found = self.chosen
        if found is not None:
            self._try(
                lambda: self.told.emit(
                    tr("“{0}” is kept for all projects ({1}).", found[0].name, takes.keep(found[0]).name)
                )
            )
            self.refresh((found[0].id, True))

    def _delete(self) -> None:
        found = self.chosen
        if found is None:
            return
        if found[1]:
            takes.forget(found[0].id)
        else:
            self._session.apply(tr("Delete take"), shot_edits.remove_take(found[0].id))
        self.refresh()

    def _again(self) -> None:
        found = self.chosen
        if found is not None:
            self._leave(self.again, found[0])

    def _export(self) -> None:
        found = self.chosen
        if found is None:
            return
        self.hide()
        start = f"{found[0].name}.csv"
        name, _ = QFileDialog.getSaveFileName(self.parentWidget(), tr("Export a take"), start, tr("Motion (*.csv)"))
        if name:
            path = Path(name) if Path(name).suffix else Path(name).with_suffix(".csv")
            self._try(lambda: self.told.emit(tr("Written to {0}.", takes.write(found[0], path).name)))

    def _read(self) -> None:
        self.hide()
        name, _ = QFileDialog.getOpenFileName(
            self.parentWidget(), tr("Read motion"), "", tr("Motion") + " (*.csv *.txt *.usda *.usd *.usdc)"
        )
        if name:
            self._try(lambda: self.read(Path(name)))

    def read(self, path: Path) -> None:
        """Take motion from a file: what a gyroscope's log was read as is shown first."""
        if path.suffix.lower() in (".csv", ".txt") and gyro_logs.is_log(path):
            GyroImportView(self.parentWidget() or self, path, self._add).exec()
        else:
            self._add(takes.read(path))

    def _add(self, take: Take) -> None:
        self._session.apply(tr("Read a take"), shot_edits.add_take(take))
        self.told.emit(_tag_text(takes.gap_words(take)) or tr("“{0}” is among the takes of this project.", take.name))

    def _leave(self, signal: SignalInstance, *values: object) -> None:
        self.hide()
        signal.emit(*values)

    def _try(self, act: Callable[[], object]) -> None:
        try:
            act()
        except TremorError as error:
            self.told.emit(str(error))

    def showEvent(self, event: QShowEvent) -> None:
        self.refresh()


def _tag_text(words: str) -> str:
    return tr("{0} It is marked red on its row.", words) if words else ""
