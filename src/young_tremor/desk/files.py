"""Opening, saving, and leaving what is open."""

from __future__ import annotations

import os
from pathlib import Path
from typing import TYPE_CHECKING

from PySide6.QtWidgets import QFileDialog, QMessageBox

from young_tremor.base.errors import ChangedOnDisk, TremorError, WriteProtected
from young_tremor.engine import library
from young_tremor.model.project import Project

if TYPE_CHECKING:
    from young_tremor.desk.window import Window


class Files:
    """The window's dealings with the disk."""

    def __init__(self, window: Window) -> None:
        self._window = window
        self.adding: set[str] = set()  # footage that joins the reel once it has been read

    def open_path(self, path: Path) -> None:
        """Open a project, or add footage to the reel."""
        if path.suffix.lower() == ".tremor":
            if self.may_leave():
                self._window.attempt(lambda: self._window.session.load(path))
            return
        key = str(path.resolve())
        self.adding.add(key)
        self._window.stage.open(key)

    def ask_open(self) -> None:
        names, _ = QFileDialog.getOpenFileNames(self._window, "Open footage or a project", str(self.folder()))
        for name in names:
            self.open_path(Path(name))

    def save(self) -> None:
        if self._window.session.path is None:
            self.save_as()
        else:
            self._keep(None)

    def save_as(self) -> None:
        start = self._window.session.path or self.folder() / "untitled.tremor"
        name, _ = QFileDialog.getSaveFileName(
            self._window, "Save project", str(start), "Young Tremor project (*.tremor)"
        )
        if name:
            path = Path(name)
            self._keep(path if path.suffix else path.with_suffix(".tremor"))

    def _keep(self, path: Path | None) -> None:
        """Save; what someone else has changed, or protected, only when the person says so."""
        session = self._window.session
        try:
            session.save(path)
        except (ChangedOnDisk, WriteProtected) as error:
            box = QMessageBox(self._window)
            box.setText(str(error))
            box.setInformativeText("Replace it all the same? What is there now is kept beside it.")
            replace = box.addButton("Replace", QMessageBox.ButtonRole.DestructiveRole)
            box.addButton(QMessageBox.StandardButton.Cancel)
            box.exec()
            if box.clickedButton() is replace:
                self._window.attempt(lambda: session.save(path, force=True))
        except TremorError as error:
            self._window.notice.say(str(error))

    def start(self, project: Project) -> None:
        if self.may_leave():
            self._window.session.start(project)

    def folder(self) -> Path:
        shot = self._window.stage.shot
        if self._window.session.path:
            return self._window.session.path.parent
        if shot is not None and not Path(shot.footage.media.path).is_relative_to(library.ASSETS):
            return Path(shot.footage.media.path).parent
        return Path(os.path.expanduser("~"))

    def may_leave(self) -> bool:
        """Whether the open project may go: it is saved, or the person says so."""
        if not self._window.session.dirty:
            return True
        box = QMessageBox(self._window)
        box.setText("Save the changes to this project?")
        box.setStandardButtons(
            QMessageBox.StandardButton.Save | QMessageBox.StandardButton.Discard | QMessageBox.StandardButton.Cancel
        )
        answer = box.exec()
        if answer == QMessageBox.StandardButton.Save:
            self.save()
            return not self._window.session.dirty
        return answer == QMessageBox.StandardButton.Discard
