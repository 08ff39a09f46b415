"""The sheet of deliveries: what is to be made, and the list of what is made, waits, or was made."""

from __future__ import annotations

from pathlib import Path

from PySide6.QtCore import Qt, Signal
from PySide6.QtGui import QKeyEvent
from PySide6.QtWidgets import QHBoxLayout, QLabel, QProgressBar, QPushButton, QVBoxLayout, QWidget

from young_tremor.base.colour_spaces import space_of
from young_tremor.base.errors import ExistingFile, TremorError
from young_tremor.base.frames import SourceInfo
from young_tremor.base.units import duration_text, format_rate
from young_tremor.desk.kit import theme
from young_tremor.desk.kit.column import section
from young_tremor.desk.kit.i18n import counted, tr
from young_tremor.desk.kit.sheet import Sheet
from young_tremor.desk.kit.thread_bridge import on_desk
from young_tremor.desk.sheets.delivery_form import DeliveryForm, Marks
from young_tremor.desk.sheets.delivery_rows import DeliveryRows
from young_tremor.engine.delivery.delivery_queue import DeliveryQueue, QueuedDelivery
from young_tremor.engine.document.session import Session
from young_tremor.model.project import Shot

PATIENCE = 0.3  # seconds that closing waits for a render to clear up


class RenderSheet(Sheet):
    """Lies over the chart while it is open; the work goes on when it is closed."""

    begun = Signal()
    progressed = Signal(str)  # words for the header's button, empty when nothing runs

    def __init__(self, parent: QWidget, session: Session, marks: Marks) -> None:
        super().__init__(parent, "Render")
        self.list = DeliveryQueue(lambda: (session.project, session.path))
        self.form = DeliveryForm(lambda: (session.project, self.list.name), marks)
        self.rows = DeliveryRows(self.list)
        self._replace = False
        self._mine: QueuedDelivery | None = None  # the row that was started last
        self.form.edited.connect(self._edited)
        self._lay_out()
        self.list.changed.connect(on_desk(self, self._listed))
        self.list.progressed.connect(on_desk(self, self._progress))
        session.replaced.connect(self._opened)
        session.saved_changed.connect(self.list.keep)
        self._listed()

    @property
    def path(self):  # type: ignore[no-untyped-def]
        """The field of the file."""
        return self.form.path

    @property
    def codec(self):  # type: ignore[no-untyped-def]
        """The field of the form."""
        return self.form.codec

    def _lay_out(self) -> None:
        close = QPushButton(tr("Close"))
        close.setProperty("quiet", True)
        close.setToolTip(tr("Close the sheet (Esc); deliveries continue"))
        close.clicked.connect(self.hide)
        self.summary = QLabel("")
        self.summary.setStyleSheet(f"color: {theme.DIM}; font-size: 13px;")
        self.bar = QProgressBar()
        self.bar.setTextVisible(False)
        self.bar.setFixedHeight(8)
        self.bar.setAccessibleName(tr("Progress"))
        self.state = QLabel("")
        self.state.setWordWrap(True)
        self.start = QPushButton(tr("Start"))
        self.start.setDefault(True)
        self.start.setStyleSheet(
            f"QPushButton {{ background: {theme.LAMP}; color: {theme.DEEP}; border: none; padding: 5px 22px; }}"
            f"QPushButton:disabled {{ background: {theme.LINE}; }}"
        )
        self.start.clicked.connect(self.begin)
        self.add = QPushButton(tr("Add to the list"))
        self.add.setToolTip(tr("Render later, with the others"))
        self.add.clicked.connect(self._add)
        self.cancel = QPushButton(tr("Stop"))
        self.cancel.setToolTip(tr("Stop the delivery shown here; the others go on"))
        self.cancel.clicked.connect(self._stop)
        self.run = QPushButton(tr("Start the list"))
        self.run.setProperty("quiet", True)
        self.run.clicked.connect(self._run)
        acts = QHBoxLayout()
        acts.addWidget(self.state, 1)
        acts.addWidget(self.cancel)
        acts.addWidget(self.add)
        acts.addWidget(self.start)
        left = QVBoxLayout()
        left.setSpacing(8)
        left.addWidget(section("Render"))
        left.addWidget(self.form, 1)
        left.addWidget(self.bar)
        left.addLayout(acts)
        head = QHBoxLayout()
        head.addWidget(section("List"))
        head.addWidget(self.summary)
        head.addStretch(1)
        head.addWidget(self.run)
        head.addWidget(close)
        right = QVBoxLayout()
        right.setSpacing(4)
        right.addLayout(head)
        right.addWidget(self.rows, 1)
        both = QHBoxLayout(self)
        both.setContentsMargins(20, 14, 20, 14)
        both.setSpacing(28)
        both.addLayout(left, 17)
        both.addLayout(right, 10)
        self._show_running(False)
        self.bar.hide()

    @property
    def running(self) -> bool:
        """Whether anything is being made."""
        return self.list.running

    def open_for(self, shot: Shot, chosen: tuple[str, ...], info: SourceInfo, frames: int, folder: Path) -> None:
        """Show the sheet for a shot, and the others that are chosen."""
        width, height = (shot.size.width, shot.size.height) if shot.size else info.size
        rate = shot.rate or format_rate(info.rate)
        sound = tr("with its sound" if info.audio else "no sound")
        facts = tr("{0}: {1}×{2}, {3} fps, {4}, {5}", shot.name, width, height, rate, counted(frames, "frame"), sound)
        self.form.show_for(shot, chosen, facts, space_of(info.colour).label, folder)
        self.show()
        self.raise_()
        self.form.path.setFocus()

    def begin(self) -> None:
        """Put what the fields say into the list, and start."""
        self._take(start=True)

    def _add(self) -> None:
        self._take(start=False)

    def _take(self, *, start: bool) -> None:
        try:
            notes = self.list.add(self.form.request(overwrite=self._replace))
        except ExistingFile as error:
            self._replace = True
            self.start.setText(tr("Replace"))
            name = str(error).partition(" exists already")[0].rpartition("/")[2]
            self._say(tr("{0} exists already. Press Replace, or choose another name.", name), theme.LAMP)
            return
        except TremorError as error:
            self._say(str(error), theme.BAD)
            return
        self._edited()
        self._say(". ".join(notes), theme.DIM)
        if start:
            self._mine = self.list.rows[-1]
            self._run()

    def _run(self) -> None:
        self.list.start()
        self.begun.emit()

    def _progress(self, row: QueuedDelivery) -> None:
        self.rows.show_progress(row)
        if not row.told or row is not self.list.row:
            return
        done, total = int(row.told["frame"]), int(row.told["frames"])
        share = done / max(total, 1)
        self.bar.setMaximum(1000)
        self.bar.setValue(round(1000 * share))
        self._say(tr("{0} of {1} frames · {2} left", done, total, duration_text(row.told["left"])), theme.DIM)
        self.progressed.emit(f"{round(100 * share)} %")

    def _listed(self) -> None:
        """The list has changed."""
        running = self.list.row
        self.rows.show_rows()
        self.summary.setText(self.rows.summary())
        self.run.setVisible(running is None and any(row.state == "waiting" for row in self.list.rows))
        self._show_running(running is not None)
        if running is not None:
            self._mine = running
            if not running.told:
                self._say(tr("Starting"), theme.DIM)
        elif self._mine is not None:
            self._told(self._mine)
            self._mine = None
            self.progressed.emit("")

    def _told(self, row: QueuedDelivery) -> None:
        """Say how what was made last has ended."""
        names = [film.path.name for film in row.films]
        if row.state == "done":
            self.bar.setValue(self.bar.maximum())
            some = tr("{0} and {1}", *names) if len(names) == 2 else names[0] if names else ""
            many = tr("{0} files", len(names)) if len(names) > 2 else some
            self._say(". ".join(filter(None, (tr("Written: {0}", many), row.said))), theme.GOOD)
        elif row.state == "stopped":
            self.bar.hide()
            written = row.written[0].name if row.written else ""
            left = tr("{0} is written, the rest is not", written) if written else tr("nothing was written")
            self._say(tr("Cancelled; {0}.", left), theme.DIM)
        else:
            self.bar.hide()
            self._say(row.said, theme.BAD)

    def _opened(self) -> None:
        """Another document: its own list."""
        left = self.list.open()
        if left:
            self._say(tr("The list was left unfinished: {0} to render again.", left), theme.LAMP)

    def _stop(self) -> None:
        if self.list.row is not None:
            self.list.stop(self.list.row)

    def stop(self) -> None:
        """Stop everything and wait a moment for its end."""
        self.list.stop_all(PATIENCE)

    def _show_running(self, running: bool) -> None:
        self.cancel.setVisible(running)
        if running:
            self.bar.show()

    def _say(self, words: str, colour: str) -> None:
        self.state.setText(words)
        self.state.setStyleSheet(f"color: {colour}; font-size: 13px;")

    def _edited(self) -> None:
        self.start.setText(tr("Start"))
        self._replace = False
        if not self.running:
            self._say("", theme.DIM)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        if event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
            self.begin()
        else:
            super().keyPressEvent(event)
