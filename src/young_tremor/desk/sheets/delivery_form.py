"""What is to be delivered: which shots, shaken or clean, where to, as what, and what goes beside it."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path

from PySide6.QtCore import Signal
from PySide6.QtWidgets import (
    QCheckBox,
    QComboBox,
    QFileDialog,
    QGridLayout,
    QHBoxLayout,
    QLabel,
    QLineEdit,
    QPushButton,
    QVBoxLayout,
    QWidget,
)

from young_tremor.base import files
from young_tremor.base.colour_spaces import space_named
from young_tremor.base.errors import TremorError
from young_tremor.base.number_scale import NumberScale
from young_tremor.desk.kit import theme
from young_tremor.desk.kit.i18n import tr
from young_tremor.desk.kit.number_field import NumberField
from young_tremor.desk.kit.segments import Segments
from young_tremor.desk.kit.thread_bridge import on_desk
from young_tremor.engine.delivery import actions
from young_tremor.engine.delivery.delivery_queue import DeliveryRequest, What, films_of
from young_tremor.engine.library import settings, takes
from young_tremor.engine.system.jobs import Job
from young_tremor.model.project import Project, Shot

Marks = Callable[[], tuple[float, float] | None]
FULL_CHROMA = ("h264", "h265")  # forms that hold 4:2:0 unless full chroma is asked for
_WHAT: dict[What, str] = {
    "shot": "This shot",
    "chosen": "Chosen shots, each",
    "each": "Each shot by itself",
    "reel": "The reel",
    "marks": "Marked stretch",
}
DELIVERED = ("rec709", "srgb", "display-p3", "rec2020", "pq", "hlg", "linear", "acescg")  # spaces that are offered


class DeliveryForm(QWidget):
    """The fields of one request, in two columns. ``marks``: the marked seconds of the reel."""

    edited = Signal()

    def __init__(self, document: Callable[[], tuple[Project, str]], marks: Marks) -> None:
        super().__init__()
        self._document, self._marks = document, marks
        self._shot: Shot | None = None
        self._chosen: tuple[str, ...] = ()
        self._auto = ""  # the name that was put in by itself
        self._in_hardware: tuple[str, ...] | None = None
        self._make()
        self._lay_out()

    def _make(self) -> None:
        self.what = QComboBox()
        self.what.setAccessibleName(tr("Shots"))
        for key, words in _WHAT.items():
            self.what.addItem(tr(words), key)
        self.what.activated.connect(self._renamed)
        self.versions = Segments(
            (
                ("shaken", "Shaken", "With its shake, crop and blur"),
                ("both", "Both", "Shaken and clean"),
                ("clean", "Clean", "The same stretch without shake and crop"),
            ),
            "Versions",
        )
        self.versions.chosen.connect(self._version)
        self.path = QLineEdit()
        self.path.setAccessibleName(tr("File"))
        self.path.setToolTip(tr("The name may hold {shot}, {number}, {variant}, {project} and {date}"))
        self.path.textEdited.connect(self._edited)
        self.choose = QPushButton(tr("Choose…"))
        self.choose.clicked.connect(self._choose)
        self.example = _dim("")
        self.codec = QComboBox()
        self.codec.setAccessibleName(tr("Format"))
        for name in actions.codec_names():
            self.codec.addItem(tr(actions.codec_words(name)[0]), name)
        self.codec.activated.connect(self.fit_ending)
        self.space = QComboBox()
        self.space.setAccessibleName(tr("Colours"))
        self.space.setToolTip(tr("What is of another colour space is converted to this one"))
        self.space.addItem(tr("As the first shot"), "")
        for space in DELIVERED:
            self.space.addItem(tr(space_named(space).label), space)
        self.space.activated.connect(self._edited)
        self.speed = Segments(
            (
                ("1", "Small", "Small files, slowly"),
                ("2", "Usual", "Between the two"),
                ("3", "Quick", "Quick, for larger files"),
            ),
            "Speed",
        )
        self.speed.choose("2")
        self.speed.chosen.connect(self._sped)
        self.quality = NumberField(
            "Quality", NumberScale(1, 5, "", 0, least=1, most=5), value=3, reset=3, tip="From 1 to 5, 5 is best"
        )
        self.quality.changed.connect(lambda _: self._sped(self.speed.current))
        self.steps = _dim("")
        self.facts = _dim("")
        self.facts.setWordWrap(True)
        self.everywhere = QCheckBox(tr("Plays everywhere"))
        self.everywhere.setToolTip(tr("H.264 that every player plays: 8 bit, 4:2:0, even size"))
        self.full_chroma = QCheckBox(tr("Full chroma"))
        self.full_chroma.setToolTip(tr("4:2:2 and 4:4:4 stay as they are; many players refuse such films"))
        self.light_level = QCheckBox(tr("Measure light level"))
        self.light_level.setToolTip(tr("MaxCLL and MaxFALL of a film in PQ, in a pass before it is encoded"))
        self.hardware = QCheckBox(tr("In hardware"))
        self.hardware.setToolTip(tr("Use the hardware encoder that works on this machine"))
        self.hardware.hide()
        self.shared = QCheckBox(tr("Share between machines"))
        self.shared.setToolTip(tr("Render on the cluster set in the preferences"))
        self.shared.setVisible(bool(settings.load().cluster))
        self.variants = QCheckBox(tr("Each variant"))
        self.variants.setToolTip(tr("A, B and C each by itself; name them with {variant}"))
        self.motion = QCheckBox(tr("Motion as CSV"))
        self.camera = QCheckBox(tr("Camera in USD"))
        distance = f"{takes.DISTANCE:g}"
        self.camera.setToolTip(tr("A camera that moves as the shot does, {0} m from what it films", distance))
        self.maps = QCheckBox(tr("ST maps"))
        self.maps.setToolTip(tr("Where each pixel looks in the footage, as EXR pictures for a compositor"))
        self.sounds = QCheckBox(tr("Sounds as WAV"))
        self.sounds.setToolTip(tr("Each sound by itself beside the film"))
        self.timeline = QCheckBox(tr("Timeline"))
        self.timeline.setToolTip(tr("The cut as .otio and .edl, with the films of each shot in place"))
        boxes = (self.timeline, self.everywhere, self.full_chroma, self.hardware, self.variants, self.motion)
        for box in (*boxes, self.camera, self.maps, self.sounds, self.shared, self.light_level):
            box.toggled.connect(self._edited)
        self.everywhere.toggled.connect(lambda on: self.full_chroma.setChecked(self.full_chroma.isChecked() and not on))
        self.full_chroma.toggled.connect(lambda on: self.everywhere.setChecked(self.everywhere.isChecked() and not on))
        self.handles = NumberField(
            "Handles",
            NumberScale(0, 48, "frames", 0, least=0, most=1000),
            value=0,
            reset=0,
            tip="Extra frames at each end, as far as the footage goes",
        )
        self.handles.changed.connect(lambda _: self._edited())

    def _lay_out(self) -> None:
        grid = QGridLayout()
        grid.setHorizontalSpacing(10)
        grid.setVerticalSpacing(7)
        for row, words in ((0, "Shots"), (1, "File"), (3, "Format"), (4, "Colours"), (5, "")):
            label = QLabel(tr(words))
            label.setStyleSheet(f"color: {theme.DIM};")
            grid.addWidget(label, row, 0)
        grid.addWidget(self.what, 0, 1)
        grid.addWidget(self.versions, 0, 2)
        file = QHBoxLayout()
        file.setSpacing(8)
        file.addWidget(self.path, 1)
        file.addWidget(self.choose)
        grid.addLayout(file, 1, 1, 1, 2)
        grid.addWidget(self.example, 2, 1, 1, 2)
        grid.addWidget(self.codec, 3, 1)
        grid.addWidget(self.speed, 3, 2)
        grid.addWidget(self.space, 4, 1, 1, 2)
        grid.addWidget(self.facts, 5, 1, 1, 2)
        grid.setColumnStretch(1, 1)
        more = QVBoxLayout()
        more.setSpacing(6)
        more.addWidget(self.quality)
        more.addWidget(self.steps)
        more.addWidget(self.handles)
        pairs = QGridLayout()
        pairs.setHorizontalSpacing(12)
        pairs.setVerticalSpacing(6)
        for number, box in enumerate(
            (
                self.everywhere,
                self.full_chroma,
                self.variants,
                self.timeline,
                self.motion,
                self.camera,
                self.maps,
                self.sounds,
                self.light_level,
                self.hardware,
                self.shared,
            )
        ):
            pairs.addWidget(box, number // 2, number % 2)
        more.addLayout(pairs)
        more.addStretch(1)
        both = QHBoxLayout(self)
        both.setContentsMargins(0, 0, 0, 0)
        both.setSpacing(22)
        left = QVBoxLayout()
        left.addLayout(grid)
        left.addStretch(1)
        both.addLayout(left, 3)
        both.addLayout(more, 2)

    def show_for(self, shot: Shot, chosen: tuple[str, ...], facts: str, colours: str, folder: Path) -> None:
        """Show the fields for what is chosen now, and what its ``colours`` are called; names that were typed stay."""
        self.space.setItemText(0, tr("As the first shot ({0})", colours))
        another = self._shot is None or self._shot.id != shot.id
        self._shot, self._chosen = shot, chosen
        self.facts.setText(facts)
        for key, there in (("chosen", len(chosen) > 1), ("marks", self._marks() is not None)):
            model = self.what.model()
            item = model.item(self.what.findData(key))  # type: ignore[attr-defined]
            item.setEnabled(there)
        if len(chosen) > 1 and another:
            self.what.setCurrentIndex(self.what.findData("chosen"))
        elif not self._possible():
            self.what.setCurrentIndex(0)
        if another or not self.path.text():
            self.path.setText(str(folder / "x"))
            self._auto = "x"
            self._renamed()
        self._steps()
        self._show_example()
        if self._in_hardware is None:
            self._in_hardware = ()
            texts: list[str] = []
            job = Job("hardware", lambda report: texts.extend(actions.with_hardware()))
            job.ended.connect(on_desk(self, lambda state: self._found(tuple(texts))))
            job.start()

    def _found(self, forms: tuple[str, ...]) -> None:
        self._in_hardware = forms
        self._steps()

    def _possible(self) -> bool:
        key: What = self.what.currentData()
        return not (key == "chosen" and len(self._chosen) < 2) and not (key == "marks" and self._marks() is None)

    def request(self, *, overwrite: bool) -> DeliveryRequest:
        """What the fields say."""
        key: What = self.what.currentData()
        shots = self._chosen if key == "chosen" else (self._shot.id,) if key == "shot" and self._shot else ()
        form = self.codec.currentData()
        stems = actions.stem_names(self._document()[0]) if self.sounds.isChecked() else ()
        stepped = bool(actions.steps_of(form))
        one = key in ("shot", "chosen", "each")
        return DeliveryRequest(
            key,
            str(Path(self.path.text().strip()).expanduser()),
            form,
            shots,
            self._marks() or (0.0, 0.0),
            shaken=self.versions.current != "clean",
            clean=self.versions.current != "shaken",
            handles=round(self.handles.value),
            variants=self.variants.isChecked() and one,
            motion=self.motion.isChecked() and one,
            camera=self.camera.isChecked() and one,
            maps=self.maps.isChecked() and one,
            stems=stems,
            quality=round(self.quality.value) if stepped else 3,
            speed=int(self.speed.current) if stepped else 2,
            everywhere=self.everywhere.isChecked() and form == "h264",
            full_chroma=self.full_chroma.isChecked() and form in FULL_CHROMA,
            timeline=self.timeline.isChecked()
            and key == "each"
            and not self.variants.isChecked()
            and self.versions.current != "clean",
            hardware=self.hardware.isChecked() and form in (self._in_hardware or ()),
            space=self.space.currentData(),
            light_level=self.light_level.isChecked(),
            overwrite=overwrite,
            shared=self.shared.isChecked() and bool(settings.load().cluster),
        )

    # names

    def _named(self) -> str:
        """The name that fits what is chosen, without its ending."""
        key: What = self.what.currentData()
        word = "clean" if self.versions.current == "clean" else "shaken"
        if key == "shot" and self._shot is not None and "{" not in self._shot.name:
            return files.plain_name(f"{self._shot.name} {word}", "")
        start = {"shot": "{shot}", "reel": "{project}", "marks": "{project} stretch"}.get(key, "{number} {shot}")
        return f"{start} {word}"

    def _renamed(self) -> None:
        """Give the file the name that fits, unless a person has given it one."""
        path = Path(self.path.text())
        if self._bare(path).name in (self._auto, ""):
            self._auto = self._named()
            self.path.setText(str(path.with_name(self._auto) if path.name else Path(self._auto)))
        self.fit_ending()

    def _version(self, key: str) -> None:
        self.versions.choose(key)
        self._renamed()

    def _sped(self, key: str) -> None:
        self.speed.choose(key)
        self._steps()
        self._edited()

    def _bare(self, path: Path) -> Path:
        known = {actions.codec_words(name)[1] for name in actions.codec_names()} | {".m4v", ".mov", ".mp4", ".mkv"}
        return path.with_suffix("") if path.suffix.lower() in known else path  # “night v1.2” has no ending

    def choose_form(self, form: str) -> None:
        """Choose a form by its name."""
        self.codec.setCurrentIndex(self.codec.findData(form))
        self.fit_ending()

    def fit_ending(self) -> None:
        """Give the file the ending of its form."""
        path = Path(self.path.text())
        if path.name:
            self.path.setText(f"{self._bare(path)}{actions.codec_words(self.codec.currentData())[1]}")
        self._steps()
        self._edited()

    def _choose(self) -> None:
        name, _ = QFileDialog.getSaveFileName(
            self, tr("Render to"), self.path.text(), options=QFileDialog.Option.DontConfirmOverwrite
        )
        if name:
            self.path.setText(name)
            self._edited()

    def _steps(self) -> None:
        """Show what quality and speed come to, where a form has any."""
        form = self.codec.currentData()
        words = actions.steps_of(form, round(self.quality.value), int(self.speed.current))
        self.steps.setText(
            tr("Encoder: {0}", words) if words else tr("{0} has one quality", tr(actions.codec_words(form)[0]))
        )
        for item in (self.quality, self.speed):
            item.setEnabled(bool(words))
        self.everywhere.setEnabled(form == "h264")
        self.full_chroma.setEnabled(form in FULL_CHROMA)
        self.timeline.setEnabled(self.what.currentData() == "each")
        for box in (self.variants, self.motion, self.camera, self.maps):
            box.setEnabled(self.what.currentData() in ("shot", "chosen", "each"))
        self.hardware.setVisible(form in (self._in_hardware or ()))
        self.shared.setVisible(bool(settings.load().cluster))

    def _edited(self) -> None:
        self._show_example()
        self.edited.emit()

    def _show_example(self) -> None:
        """Show what the files will be called."""
        project, name = self._document()
        try:
            films = films_of(self.request(overwrite=False), project, name)
        except TremorError as error:
            self.example.setText(str(error))
            self.example.show()
            return
        plain = len(films) == 1 and films[0].path.name == Path(self.path.text()).name
        rest = tr(" and {0} more", len(films) - 2) if len(films) > 2 else ""
        self.example.setText(", ".join(film.path.name for film in films[:2]) + rest)
        self.example.setVisible(not plain)


def _dim(words: str) -> QLabel:
    label = QLabel(words)
    label.setStyleSheet(f"color: {theme.DIM}; font-size: 13px;")
    return label
