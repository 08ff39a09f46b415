"""Measuring a clip: see it, mark the stretch, shield what moves by itself, start; then use what was found."""

from __future__ import annotations

import threading
from collections.abc import Callable
from pathlib import Path

import numpy as np
from msgspec.structs import replace
from PySide6.QtCore import QTimer, Signal
from PySide6.QtGui import QPainter, QPaintEvent
from PySide6.QtWidgets import (
    QCheckBox,
    QComboBox,
    QFileDialog,
    QHBoxLayout,
    QLabel,
    QLineEdit,
    QProgressBar,
    QPushButton,
    QVBoxLayout,
    QWidget,
)

from young_tremor.base.frames import SourceInfo
from young_tremor.base.number_scale import NumberScale
from young_tremor.base.units import duration_text, format_rate
from young_tremor.desk.kit import theme
from young_tremor.desk.kit.column import section
from young_tremor.desk.kit.i18n import tr
from young_tremor.desk.kit.number_field import NumberField
from young_tremor.desk.kit.thread_bridge import on_desk
from young_tremor.desk.kit.time_format import frame_text
from young_tremor.desk.picture.clip_view import ClipTimeline, ClipView
from young_tremor.engine.analysis import log_fusion, measuring
from young_tremor.engine.analysis.measuring import WIDEST, Measured
from young_tremor.engine.library import takes
from young_tremor.engine.media import footage
from young_tremor.engine.preview.preview_worker import PictureRequest, PreviewPicture, PreviewWorker
from young_tremor.engine.system.jobs import Job
from young_tremor.model.project import Media, Plate, Shot
from young_tremor.model.take import Take

SIDE = 232
# what a measuring may assume of a clip, as it is offered
ASSUMED = {
    "rolling": "Rolling shutter",
    "doubled": "Frames shown twice",
    "missing": "Frames left out",
}
# how a stretch can be looked at again: as it is offered, the widest picture, whether of the other of two things
WAYS = (
    ("As before", WIDEST, False),
    ("At full size", 1 << 20, False),
    ("At half size", WIDEST // 2, False),
    ("The other thing that moves", WIDEST, True),
)
UNSURE = 2.0  # times the usual error of a frame, from which the patches that were trusted in it are shown
LEAST_PART = 4  # frames of a stretch that is looked at again
PATIENCE = 0.15  # seconds that closing waits for what was told to stop


class MeasureView(QWidget):
    """Takes the picture's place while it is open; measuring goes on when it is closed."""

    closed = Signal()
    taken = Signal(object, object)  # Take, id of the take it replaces or None
    used = Signal(object)  # Take
    told = Signal(str)
    begun = Signal()
    progressed = Signal(str)  # words for the header's button, empty when nothing runs

    def __init__(self) -> None:
        super().__init__()
        self.setAccessibleName(tr("Measure"))
        self.job: Job | None = None
        self._path: Path | None = None
        self._info: SourceInfo | None = None
        self._replaces: Take | None = None
        self._made: Take | None = None
        self._found: Measured | None = None
        self._alone: Measured | None = None  # the same without the log that was added
        self._added: Path | None = None
        self._beside: Path | None = None  # a log that was recorded with the clip
        self._begun = 0.0  # seconds of the clip at which what was found begins
        self._shot: Shot | None = None
        self._rough: list[np.ndarray] = []
        self._lock = threading.Lock()
        self._preview: PreviewWorker | None = None
        self._opening: Job | None = None
        self._reading: Job | None = None
        self.view, self.course = ClipView(), ClipTimeline()
        self.course.scrubbed.connect(lambda t: self._look())
        self.course.changed.connect(self._show_stretch)
        self.view.resized.connect(self._look)
        self.view.chosen.connect(self._choose)
        left = QVBoxLayout()
        left.setSpacing(0)
        left.addWidget(self.view, 1)
        left.addWidget(self.course)
        row = QHBoxLayout(self)
        row.setContentsMargins(0, 0, 0, 0)
        row.setSpacing(0)
        row.addLayout(left, 1)
        row.addWidget(self._side())
        self._timer = QTimer(self)
        self._timer.timeout.connect(self._show_rough)
        self.hide()

    def _side(self) -> QWidget:
        side = QWidget()
        side.setFixedWidth(SIDE)
        column = QVBoxLayout(side)
        column.setContentsMargins(14, 10, 14, 12)
        column.setSpacing(7)
        head = QHBoxLayout()
        close = QPushButton(tr("Close"))
        close.setProperty("quiet", True)
        close.setToolTip(tr("Back to the picture (Esc); measuring continues"))
        close.clicked.connect(self.closed.emit)
        head.addWidget(section("Measure"))
        head.addStretch(1)
        head.addWidget(close)
        self.facts, self.stretch, self.words = QLabel(""), QLabel(""), QLabel("")
        for label in (self.facts, self.stretch, self.words):
            label.setWordWrap(True)
            label.setStyleSheet(f"color: {theme.DIM}; font-size: 13px;")
        self.name = QLineEdit()
        self.name.setAccessibleName(tr("Name of the take"))
        self.name.setPlaceholderText(tr("Name of the take"))
        self.focal = NumberField(
            "Filmed at",
            NumberScale(0, 200, "mm", 0, bend=1.8, least=0, most=5000),
            value=0,
            reset=0,
            tip="Focal length for a sensor 36 mm wide; 0 is not known",
        )
        self.focal.set_note(lambda v: "" if v else "not known")
        self.bar = QProgressBar()
        self.bar.setTextVisible(False)
        self.bar.hide()
        self.start, self.use = QPushButton(tr("Measure")), QPushButton(tr("Use on this shot"))
        self.start.clicked.connect(self._start_or_cancel)
        self.use.clicked.connect(self._use)
        self.use.hide()
        self.way = QComboBox()
        self.way.addItems([tr(words) for words, _, _ in WAYS])
        self.way.setAccessibleName(tr("How to look again"))
        self.again = QPushButton(tr("Look again here"))
        self.again.setToolTip(tr("Measure the marked stretch once more, with the shields as they are now"))
        self.again.clicked.connect(self._look_again)
        self.log = QPushButton("")
        self.log.setToolTip(tr("Fast turns and lost frames from the log, the rest from the picture"))
        self.log.clicked.connect(self._add_log)
        self.assumed = {name: QCheckBox(tr(words)) for name, words in ASSUMED.items()}
        for box in self.assumed.values():
            box.setToolTip(tr("Found in this clip and set right; untick to leave it as it was seen"))
            box.clicked.connect(self._leave)
            box.hide()
        column.addLayout(head)
        widgets: tuple[QWidget, ...] = (self.facts, self.name, self.focal, self.stretch)
        for widget in widgets:
            column.addWidget(widget)
        column.addStretch(1)
        widgets = (self.words, *self.assumed.values(), self.log, self.way, self.again, self.bar, self.start, self.use)
        for widget in widgets:
            column.addWidget(widget)
        return side

    @property
    def measuring(self) -> bool:
        """Whether a clip is being measured."""
        return self.job is not None

    def open_clip(self, path: Path, replaces: Take | None = None) -> None:
        """Show a clip to be measured; TremorError if it cannot be read."""
        if self.job is not None:
            self.told.emit(tr("A clip is being measured. Wait for it, or cancel it."))
            return
        self._path, self._replaces, self._made, self._info, self._shot = path, replaces, None, None, None
        self.view.hint = tr("Opening…")
        self.view.show_rgb(None)
        self.view.boxes = []
        self._found = None
        self._offer_assumptions()
        self.view.show_marks((), 0)
        self.course.show_table(np.zeros((0, 8)))
        self.name.setText(replaces.name if replaces else path.stem)
        self.facts.setText(path.name)
        self.words.setText("")
        self.use.hide()
        self.start.setText(tr("Measure again") if replaces else tr("Measure"))
        self.start.setEnabled(False)
        infos: list[SourceInfo] = []
        self._beside = None
        beside: list[Path | None] = []

        def look(report: object) -> None:
            infos.append(footage.facts(str(path)).info)
            beside.append(log_fusion.log_beside(path))

        job = self._opening = Job("open clip", look)

        def ended(state: str) -> None:
            if self._opening is not job:
                return  # another clip was opened since
            self._opening = None
            if state == "done":
                self._beside = beside[0]
                self._opened(path, infos[0])
            else:
                self.view.hint = job.error
                self.view.update()

        job.ended.connect(on_desk(self, ended))
        job.start()

    def _opened(self, path: Path, info: SourceInfo) -> None:
        self._info = info
        width = info.size[0] * float(info.pixel_aspect)
        self.view.size_ = (width, float(info.size[1]))
        self.course.length, self.course.rate = max(info.seconds, 0.1), float(info.rate)
        self.course.first, self.course.last, self.course.now = 0.0, self.course.length, 0.0
        self.facts.setText(
            tr(
                "{0}\n{1}×{2} · {3} fps · {4:.1f} s",
                info.name,
                info.size[0],
                info.size[1],
                format_rate(info.rate),
                info.seconds,
            )
        )
        self._shot = Shot("clip", path.stem, (Plate("clip", path.stem, Media(str(path))),))
        self.start.setEnabled(True)
        self._show_stretch()
        self.course.update()
        self._look()

    def _show_stretch(self) -> None:
        if self._info is not None:
            rate, shields = self._info.rate, len(self.view.boxes)
            first, last = (frame_text(round(t * rate), rate) for t in (self.course.first, self.course.last))
            more = tr(" · {0} shielded", shields) if shields else ""
            self.stretch.setText(f"{first} – {last}{more}")
        self._offer_more()

    def _offer_more(self) -> None:
        """What can be done with a clip that was measured: a stretch looked at again, a log added."""
        path, idle = self._found, self.job is None
        inside = path is not None and self._begun - 1e-3 <= self.course.first and self._part() is not None
        self.way.setVisible(idle and inside)
        self.again.setVisible(idle and inside)
        for widget in (self.facts, self.focal):  # a small window has no room for these as well
            widget.setVisible(not (idle and inside))
        self.log.setVisible(idle and path is not None and self._added is None)
        self.log.setText(tr("Add {0}", self._beside.name) if self._beside is not None else tr("Add a gyroscope log…"))

    def _part(self) -> tuple[int, int] | None:
        """Frames of what was measured that are marked now; None for all of it, or too few."""
        if self._found is None:
            return None
        t = self._found.layers[0].raw.t + self._begun
        first, last = (int(np.searchsorted(t, edge - 1e-3)) for edge in (self.course.first, self.course.last))
        return (first, last) if LEAST_PART <= last - first < len(t) - 1 else None

    def _look(self) -> None:
        """Show the frame at the mark."""
        if self._shot is None or self._info is None or self.isHidden():
            return
        if self._preview is None:
            self._preview = PreviewWorker()
            self._preview.picture.connect(on_desk(self, self._show_picture))
            self._preview.failed.connect(on_desk(self, lambda shot, words: self.told.emit(words)))
        box, ratio = self.view.box(), self.devicePixelRatioF()
        size = max(2, 2 * round(box.width() * ratio / 2)), max(2, 2 * round(box.height() * ratio / 2))
        index = min(int(self.course.now * float(self._info.rate) + 1e-6), self._info.frames - 1)
        self._show_marks()
        self._preview.ask(PictureRequest(self._shot, size, "still", index, fill=False))

    def _show_picture(self, picture: PreviewPicture) -> None:
        if self._shot is None or picture.request.shot != self._shot:
            return  # of the clip before
        self.view.show_rgb(picture.rgb)

    def _start_or_cancel(self) -> None:
        if self.job is not None:
            self.job.cancel()
            return
        if self._path is None or self._info is None:
            return
        name = self.name.text().strip() or self._path.stem
        focal = self.focal.value or None
        first = self.course.first
        self._rough, self._found = [], None
        self._offer_assumptions()
        self._show_marks()

        def land(path: Measured) -> None:
            self._alone, self._added, self._begun = path, None, first
            self._found = path
            self._offer_assumptions()
            self._done(name, focal)

        def watch(seconds: float, values: np.ndarray) -> None:
            with self._lock:
                self._rough.append(np.array([seconds, *values, 0.0, 0.0, 1.0]))

        self._run(land, watch=watch)
        self._timer.start(100)

    def _look_again(self) -> None:
        """Measure the marked stretch once more, and put it in the place of what was found there."""
        whole, part = self._alone, self._part()
        if whole is None or part is None or self.job is not None:
            return
        _, widest, other = WAYS[self.way.currentIndex()]

        def land(path: Measured) -> None:
            if self._alone is not whole:
                return
            if other and len(path.layers) < 2:
                self.words.setText(tr("Only one thing moves there. Nothing was changed."))
                return
            self._change(whole.looked_again(path.other() if other else path, part[0]))

        self._run(land, widest=widest)

    def _run(
        self,
        land: Callable[[Measured], None],
        *,
        widest: int = WIDEST,
        watch: Callable[[float, np.ndarray], None] | None = None,
    ) -> None:
        """Measure what is marked in a thread of its own."""
        path, first, last = self._path, self.course.first, self.course.last
        assert path is not None
        boxes = tuple((b.left(), b.top(), b.width(), b.height()) for b in self.view.boxes)
        paths: list[Measured] = []
        job = self.job = Job(
            "measure",
            lambda report: paths.append(
                measuring.measure(path, report, start=first, end=last, shields=boxes, widest=widest, watch=watch)
            ),
        )

        def ended(state: str) -> None:
            self.job = None
            self._timer.stop()
            self.bar.hide()
            self.progressed.emit("")
            self.start.setText(tr("Measure"))
            self.use.setVisible(self._found is not None)
            if state == "done":
                land(paths[0])
            else:
                self.words.setText(tr("Cancelled. Nothing was changed.") if state == "cancelled" else job.error)
                if state == "failed" and self.isHidden():
                    self.told.emit(job.error)
            self._offer_more()

        job.progress.connect(on_desk(self, self._progress))
        job.ended.connect(on_desk(self, ended))
        self.start.setText(tr("Cancel"))
        self.use.hide()
        self._offer_more()
        self.words.setText("")
        self.bar.setValue(0)
        self.bar.show()
        self.begun.emit()
        job.start()

    def _add_log(self) -> None:
        """Bring what was measured together with a gyroscope's log: the one beside the clip, or one that is chosen."""
        path, log = self._path, self._beside
        if path is None or self._found is None:
            return
        if log is None:
            kinds = tr("Gyroscope logs (*.csv *.txt)")
            name, _ = QFileDialog.getOpenFileName(self, tr("Gyroscope log of {0}", path.name), str(path.parent), kinds)
            if not name:
                return
            log = Path(name)
        self.fuse(log)

    def fuse(self, log: Path) -> None:
        """Bring what was measured together with a gyroscope's log."""
        before = self._alone
        if before is None or self._path is None:
            return
        clip, fusions = self._path.name, list[log_fusion.Fusion]()
        job = self._reading = Job(
            "gyroscope log", lambda report: fusions.append(log_fusion.fuse_log(before, clip, log))
        )

        def ended(state: str) -> None:
            if self._reading is job:
                self._reading = None
            if self._alone is not before:
                return
            if state == "done":
                self._added = log
                self._make_anew(fusions[0].path)
                self.words.setText(log_fusion.describe_fusion(fusions[0], before, log.name))
                return
            if self._added is not None:  # what was changed no longer goes with it
                self._added = None
                self._make_anew(before)
            self.words.setText(job.error)

        job.ended.connect(on_desk(self, ended))
        job.start()

    def _use(self) -> None:
        if self._made is not None:
            self.used.emit(self._made)

    def _progress(self, done: int, total: int, left: float) -> None:
        if self.job is not None:
            self.bar.setRange(0, total)
            self.bar.setValue(done)
            self.words.setText(tr("{0} of {1} frames, {2} left.", done, total, duration_text(left)))
            self.progressed.emit(f"{100 * done // max(total, 1)} %")

    def _show_rough(self) -> None:
        with self._lock:
            rows = list(self._rough)
        if len(rows) > 1:
            self.course.show_table(np.array(rows))

    def _show_marks(self) -> None:
        """Ticks where the layers were seen, if two things move or the frame is less sure than most."""
        path, scene = self._found, 0
        marks: tuple[np.ndarray, ...] = ()
        if path is not None and self._info is not None:
            frame = int(np.searchsorted(path.t, self.course.now - self._begun + 1e-6, side="right")) - 1
            inside = 0 <= frame < len(path.layers[0].marks)
            if inside and (len(path.layers) > 1 or path.error[frame] > UNSURE * np.median(path.error)):
                marks, scene = tuple(layer.marks[frame] for layer in path.layers), path.chosen
        self.view.show_marks(marks, scene)

    def _choose(self, layer: int) -> None:
        """Take the other of two things that move for the scene: the take is made anew, nothing is measured again."""
        if self._alone is not None and layer != self._alone.chosen:
            self._change(self._alone.other())

    def _leave(self) -> None:
        """Assume of the clip what is ticked, and nothing else: nothing is measured again."""
        if self._alone is not None:
            self._change(self._alone.leaving([name for name, box in self.assumed.items() if not box.isChecked()]))

    def _change(self, path: Measured) -> None:
        """Make the take anew of a path that was changed, with the log that was added before."""
        self._alone = path
        if self._added is not None:
            self.fuse(self._added)
        else:
            self._make_anew(path)

    def _make_anew(self, path: Measured) -> None:
        if self._made is not None:
            self._found, self._replaces = path, self._made
            self._done(self._made.name, self._made.focal_mm)

    def _offer_assumptions(self) -> None:
        """List what was assumed of the clip that was measured."""
        assumed = self._found.assumed if self._found is not None else ()
        for name, box in self.assumed.items():
            box.setVisible(name in assumed)
            box.setChecked(True)
        self._offer_more()

    def _done(self, name: str, focal: float | None) -> None:
        if self._found is None or self._info is None:
            return
        take = takes.of_path(self._found, self._info, name, focal)
        if self._replaces is not None:
            take = replace(take, id=self._replaces.id)
        self._made = take
        table = take.table().copy()
        table[:, 0] += self._begun
        self.course.show_table(table)
        words = takes.describe_path(self._found, self._info.name)
        more = tr(" If the other is the scene, click its blue ticks.") if len(self._found.layers) > 1 else ""
        self.words.setText(words + more)
        self._show_marks()
        self._offer_more()
        self.use.setVisible(True)
        self.taken.emit(take, self._replaces.id if self._replaces else None)
        self._replaces = None

    def stop(self) -> None:
        """Stop everything and wait a moment for it."""
        for job in (self.job, self._opening, self._reading):
            if job is not None:
                job.cancel()
                job.wait(PATIENCE)
        if self._preview is not None:
            self._preview.close()

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        theme.hammertone(painter, 0, 0, self.width(), self.height())
