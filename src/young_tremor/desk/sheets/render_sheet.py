"""The render sheet: where to, as what, and how far it is."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path

from PySide6.QtCore import Qt, Signal
from PySide6.QtGui import QKeyEvent
from PySide6.QtWidgets import (
    QCheckBox,
    QComboBox,
    QFileDialog,
    QGridLayout,
    QHBoxLayout,
    QLabel,
    QLineEdit,
    QProgressBar,
    QPushButton,
    QVBoxLayout,
    QWidget,
)

from young_tremor.base import files
from young_tremor.base.errors import ExistingFile, TremorError
from young_tremor.base.frames import SourceInfo
from young_tremor.base.units import duration_text, format_rate
from young_tremor.desk.kit import theme
from young_tremor.desk.kit.bridge import on_desk
from young_tremor.desk.kit.column import section
from young_tremor.desk.kit.sheet import Sheet
from young_tremor.desk.kit.words import counted, tr
from young_tremor.engine import actions
from young_tremor.engine.jobs import Job
from young_tremor.model.project import Shot

PATIENCE = 0.3  # seconds that closing waits for a render to clear up


class RenderSheet(Sheet):
    """Lies over the desk while it is open; the work goes on when it is closed."""

    begun = Signal()
    progressed = Signal(str)  # words for the header's button, empty when nothing runs

    def __init__(self, parent: QWidget, find: Callable[[str], Shot | None]) -> None:
        super().__init__(parent, "Render")
        self._find = find  # the shot of an id as it is now
        self.setFixedWidth(452)
        self.job: Job | None = None
        self._shot: Shot | None = None
        self._replace: set[Path] = set()
        self._make_fields()
        self._make_progress()

    def _make_fields(self) -> None:
        self.path = QLineEdit()
        self.path.setAccessibleName(tr("File"))
        self.path.textEdited.connect(self._edited)
        choose = QPushButton(tr("Choose…"))
        choose.clicked.connect(self._choose)
        self.codec = QComboBox()
        self.codec.setAccessibleName(tr("Format"))
        for name in actions.codec_names():
            self.codec.addItem(tr(actions.codec_words(name)[0]), name)
        self.codec.activated.connect(self._fit_ending)
        self.clean = QCheckBox(tr("Also a clean version, without shake and crop"))
        self.facts = QLabel("")
        self.facts.setStyleSheet(f"color: {theme.DIM}; font-size: 13px;")
        self.facts.setWordWrap(True)
        close = QPushButton(tr("Close"))
        close.setProperty("quiet", True)
        close.setToolTip(tr("Close the sheet (Esc); a render goes on"))
        close.clicked.connect(self.hide)
        head = QHBoxLayout()
        head.addWidget(section("Render"))
        head.addStretch(1)
        head.addWidget(close)
        grid = QGridLayout()
        grid.setHorizontalSpacing(10)
        grid.setVerticalSpacing(9)
        for row, (words, widget) in enumerate((("File", self.path), ("Format", self.codec))):
            label = QLabel(tr(words))
            label.setStyleSheet(f"color: {theme.DIM};")
            grid.addWidget(label, row, 0)
            grid.addWidget(widget, row, 1)
        grid.addWidget(choose, 0, 2)
        grid.addWidget(self.clean, 2, 1, 1, 2)
        grid.addWidget(self.facts, 3, 1, 1, 2)
        grid.setColumnStretch(1, 1)
        self._column = QVBoxLayout(self)
        self._column.setContentsMargins(20, 16, 20, 18)
        self._column.setSpacing(12)
        self._column.addLayout(head)
        self._column.addLayout(grid)

    def _make_progress(self) -> None:
        self.bar = QProgressBar()
        self.bar.setTextVisible(False)
        self.bar.setFixedHeight(10)
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
        self.cancel = QPushButton(tr("Cancel render"))
        self.cancel.clicked.connect(self._stop)
        row = QHBoxLayout()
        row.addWidget(self.state, 1)
        row.addWidget(self.cancel)
        row.addWidget(self.start)
        self._column.addWidget(self.bar)
        self._column.addLayout(row)
        self._show_running(False)
        self.bar.hide()

    @property
    def running(self) -> bool:
        """Whether a render is running."""
        return self.job is not None and self.job.state == "running"

    def open_for(self, shot: Shot, info: SourceInfo, frames: int, folder: Path) -> None:
        """Show the sheet for a shot."""
        if not self.running and (self._shot is None or self._shot.id != shot.id or not self.path.text()):
            self.path.setText(str(folder / files.plain_name(f"{shot.name} shaken", ".mp4")))
            self._fit_ending()
        self._shot = shot
        width, height = (shot.size.width, shot.size.height) if shot.size else info.size
        rate = shot.rate or format_rate(info.rate)
        sound = "with its sound" if info.audio else "no sound"
        self.facts.setText(
            tr("{0}: {1}×{2}, {3} fps, {4}, {5}", shot.name, width, height, rate, counted(frames, "frame"), sound)
        )
        self.adjustSize()
        self.show()
        self.raise_()
        self.path.setFocus()

    def begin(self) -> None:
        """Check the names at the door, then start."""
        if self._shot is None or self.running:
            return
        shot = self._find(self._shot.id)
        if shot is None:
            self._say(tr("{0} is in the reel no longer: close this and choose a shot.", self._shot.name), theme.BAD)
            return
        self._shot = shot
        output = Path(self.path.text().strip()).expanduser()
        clean = output.with_name(f"{output.stem} clean{output.suffix}") if self.clean.isChecked() else None
        codec = self.codec.currentData()
        replace = output in self._replace
        try:
            outputs = (output,) if clean is None else (output, clean)
            actions.check(outputs, codec, (self._shot,), overwrite=replace)
        except ExistingFile as error:
            self._replace.add(output)
            self.start.setText(tr("Replace"))
            name = output.name if output.exists() else str(clean)
            self._say(tr("{0} exists already. Press Replace, or choose another name.", name), theme.LAMP)
            del error
            return
        except TremorError as error:
            self._say(str(error), theme.BAD)
            return
        self._run(self._shot, output, clean, codec, replace)

    def _run(self, shot: Shot, output: Path, clean: Path | None, codec: str, replace: bool) -> None:
        said: list[str] = []
        written: list[str] = []

        def work(report) -> None:  # type: ignore[no-untyped-def]
            total = 2 if clean else 1
            said.extend(
                actions.render((shot,), output, lambda d, n: report(d, n * total), codec_name=codec, overwrite=replace)
            )
            written.append(output.name)
            if clean:
                actions.render(
                    (shot,),
                    clean,
                    lambda d, n: report(n + d, n * 2),
                    codec_name=codec,
                    overwrite=replace,
                    shaken=False,
                )

        names = f"{output.name} and {clean.name}" if clean else output.name
        job = self.job = Job("render", work)
        job.progress.connect(on_desk(self, self._progress))
        job.ended.connect(on_desk(self, lambda state: self._ended(state, names, said, written)))
        self._show_running(True)
        self._say(tr("Starting"), theme.DIM)
        self.begun.emit()
        job.start()

    def _progress(self, done: int, total: int, left: float) -> None:
        self.bar.setMaximum(total)
        self.bar.setValue(done)
        self._say(tr("{0} of {1} frames · {2} left", done, total, duration_text(left)), theme.DIM)
        self.progressed.emit(f"{100 * done // total} %")

    def _ended(self, state: str, names: str, said: list[str], written: list[str]) -> None:
        job = self.job
        self._show_running(False)
        if state == "done":
            self.bar.setValue(self.bar.maximum())
            self._say(". ".join([f"Written: {names}", *said[:2]]), theme.GOOD)
        elif state == "cancelled":
            self.bar.hide()
            left = tr("{0} is written, the clean version is not", written[0]) if written else tr("nothing was written")
            self._say(tr("Cancelled; {0}.", left), theme.DIM)
        else:
            self.bar.hide()
            self._say(job.error if job else "", theme.BAD)
        self._replace.clear()
        self.start.setText(tr("Start"))
        self.progressed.emit("")

    def _stop(self) -> None:
        if self.job:
            self.job.cancel()

    def stop(self) -> None:
        """Cancel what runs and wait a moment for its end."""
        if self.job and self.running:
            self.job.cancel()
            self.job.wait(PATIENCE)

    def _show_running(self, running: bool) -> None:
        self.start.setVisible(not running)
        self.cancel.setVisible(running)
        if running:
            self.bar.setMaximum(0)
            self.bar.show()
        for widget in (self.path, self.codec, self.clean):
            widget.setEnabled(not running)

    def _say(self, words: str, colour: str) -> None:
        self.state.setText(words)
        self.state.setStyleSheet(f"color: {colour}; font-size: 13px;")
        self.adjustSize()

    def _edited(self) -> None:
        self.start.setText(tr("Start"))
        self._replace.clear()
        self._say("", theme.DIM)

    def _fit_ending(self) -> None:
        path = Path(self.path.text())
        if path.name:
            known = {actions.codec_words(name)[1] for name in actions.codec_names()} | {".m4v", ".mov", ".mp4", ".mkv"}
            bare = path.with_suffix("") if path.suffix.lower() in known else path  # “night v1.2” has no ending
            self.path.setText(f"{bare}{actions.codec_words(self.codec.currentData())[1]}")
        self._edited()

    def _choose(self) -> None:
        name, _ = QFileDialog.getSaveFileName(
            self, tr("Render to"), self.path.text(), options=QFileDialog.Option.DontConfirmOverwrite
        )
        if name:
            self.path.setText(name)
            self._edited()

    def keyPressEvent(self, event: QKeyEvent) -> None:
        if event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
            self.begin()
        else:
            super().keyPressEvent(event)
