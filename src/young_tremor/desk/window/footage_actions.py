"""Footage that is replaced, or lost and found again; and a project gathered for another machine."""

from __future__ import annotations

from pathlib import Path

from PySide6.QtCore import QMimeData, Qt, QUrl
from PySide6.QtGui import QDrag, QGuiApplication, QPixmap
from PySide6.QtWidgets import QFileDialog

from young_tremor.base.units import duration_text
from young_tremor.desk.kit.i18n import tr
from young_tremor.desk.window.desk import Desk
from young_tremor.engine.media import relink
from young_tremor.model.shot_edits import Edit

WIDE = 120  # pixels of the picture that is dragged along


class FootageActions:
    """Each is one step that can be undone."""

    def __init__(self, desk: Desk) -> None:
        self._desk = desk
        desk.reel.taken.connect(self._take_out)
        desk.reel.copied.connect(self._copy)

    def made_of(self, shot_id: str) -> QMimeData | None:
        """The file that was delivered of a shot, as other programs take it; said where there is none."""
        desk, shot = self._desk, self._desk.shot_of(shot_id)
        path = desk.sheet.list.made_of(shot_id)
        if path is None or shot is None:
            desk.notice.say(
                tr("“{0}” has not been delivered yet. Render it first (Ctrl+R).", shot.name if shot else "")
            )
            return None
        data = QMimeData()
        data.setUrls([QUrl.fromLocalFile(str(path))])
        return data

    def _take_out(self, shot_id: str) -> None:
        data, picture = self.made_of(shot_id), self._desk.reel.image_of(shot_id)
        if data is not None:
            drag = QDrag(self._desk.window)
            drag.setMimeData(data)
            if picture is not None:
                drag.setPixmap(
                    QPixmap.fromImage(picture.scaledToWidth(WIDE, Qt.TransformationMode.SmoothTransformation))
                )
            drag.exec(Qt.DropAction.CopyAction)

    def _copy(self, shot_id: str) -> None:
        data = self.made_of(shot_id)
        if data is not None:
            QGuiApplication.clipboard().setMimeData(data)
            self._desk.notice.say(tr("{0} is copied.", Path(data.urls()[0].toLocalFile()).name))

    def ask_replace(self) -> None:
        """Choose other footage for the shot."""
        desk = self._desk
        if desk.state.shot is not None:
            name, _ = QFileDialog.getOpenFileName(desk.window, tr("Other footage for the shot"), str(desk.folder()))
            if name:
                self.replace(name)

    def replace(self, name: str) -> None:
        """Put other footage under the shot, and say what differs."""
        desk, shot = self._desk, self._desk.state.shot
        if shot is None:
            return

        def land(made: tuple[Edit, str]) -> None:
            desk.session.apply(tr("Replace footage"), made[0])
            desk.notice.say(made[1])

        desk.runner.run(
            "replace",
            lambda report: relink.replace_footage(shot, name),
            land,
            still=lambda: desk.shot_of(shot.id) == shot,
        )

    def ask_find(self) -> None:
        """Choose a folder in which lost footage is looked for."""
        name = QFileDialog.getExistingDirectory(
            self._desk.window, tr("Look for missing footage in"), str(self._desk.folder())
        )
        if name:
            self.find(Path(name))

    def find(self, folder: Path) -> None:
        """Look for all that is lost in a folder, and put it back."""
        desk = self._desk
        lost = relink.missing(desk.session.project)
        if not lost:
            desk.notice.say(tr("Nothing is missing."))
            return

        def land(found: tuple[relink.FoundFootage, ...]) -> None:
            if found:
                desk.session.apply(tr("Find missing footage"), relink.relink(found))
                desk.state.facts.clear()
                desk.stage.refresh()
            desk.notice.say(relink.words_of(found, lost))

        desk.runner.run("find footage", lambda report: relink.look(lost, folder, report), land)

    def ask_gather(self, *, link: bool = False) -> None:
        """Choose a folder into which the project is gathered."""
        name = QFileDialog.getExistingDirectory(self._desk.window, tr("Gather the project into an empty folder"))
        if name:
            self.gather(Path(name), link=link)

    def gather(self, folder: Path, *, link: bool = False) -> None:
        """Copy the project with all its footage into a folder."""
        desk, project = self._desk, self._desk.session.project
        name = desk.session.path.stem if desk.session.path is not None else "project"

        def progress(done: int, total: int, left: float) -> None:
            if left > 1.0:
                desk.notice.say(tr("Gathering: {0} of {1} files, {2} left.", done, total, duration_text(left)))

        def land(gathered: relink.GatheredProject) -> None:
            desk.notice.say(f"{tr('Gathered in {0}.', gathered.path.parent)} {gathered.words()}".strip())

        desk.runner.run(
            "gather", lambda report: relink.gather(project, folder, name, report, link=link), land, progress=progress
        )
