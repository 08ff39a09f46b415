"""Opening, saving, and leaving what is open."""

from __future__ import annotations

import os
from collections.abc import Callable
from pathlib import Path
from typing import TYPE_CHECKING

from PySide6.QtWidgets import QFileDialog, QMessageBox

from young_tremor.base.errors import ChangedOnDisk, TremorError, WriteProtected
from young_tremor.base.frames import SourceInfo
from young_tremor.desk.bridge import on_desk
from young_tremor.engine import footage, library, recovery, settings
from young_tremor.engine.jobs import Job
from young_tremor.model import edits
from young_tremor.model.project import Project

if TYPE_CHECKING:
    from young_tremor.desk.window import Window


class Files:
    """The window's dealings with the disk."""

    def __init__(self, window: Window) -> None:
        self._window = window
        self.adding: Job | None = None  # footage is being read that joins the reel then

    def open_path(self, path: Path) -> None:
        """Open a project, or add footage to the reel."""
        self.open_all([path])

    def open_all(self, paths: list[Path]) -> None:
        """Open a project if there is one among the files, and add the others to the reel, in order, as one step."""
        projects = [path for path in paths if path.suffix.lower() == ".tremor"]
        if projects and self.may_leave():
            self._window.attempt(lambda: self._load(projects[0]))
        films = [path for path in paths if path not in projects]
        if films and self.adding is not None:
            self._window.notice.say("Other footage is being read: open these once that is in the reel.")
        elif films:
            self._add(films)

    def _add(self, paths: list[Path]) -> None:
        """Read footage in the background, one after the other."""
        window, number = self._window, self._window.session.number
        found: list[tuple[str, SourceInfo]] = []
        bad: list[str] = []

        def work(report: Callable[[int, int], None]) -> None:
            for done, path in enumerate(paths, start=1):
                try:
                    name = str(path.resolve())
                    found.append((name, footage.facts(name).info))
                except TremorError as error:
                    bad.append(str(error))
                report(done, len(paths))

        def ended(state: str) -> None:
            self.adding = None
            if state == "failed":
                bad.append(job.error)
            if window.session.number == number and state != "cancelled":
                self._join(found)
            self._tell(found, bad)
            window.stage.refresh()

        window.picture.hint = "Opening…"
        job = self.adding = Job("open", work)
        job.ended.connect(on_desk(window, ended))
        job.start()
        window.stage.shot_changed.emit()

    def _join(self, found: list[tuple[str, SourceInfo]]) -> None:
        """Put footage that was read into the reel."""
        window, preset = self._window, library.first()
        if not found:
            return
        before = len(window.session.project.shots)
        with window.session.gesture("Open footage" if len(found) == 1 else f"Open {len(found)} files"):
            for name, info in found:
                window.stage.know(name, info)
                window.session.apply("Open footage", edits.add_shot(Path(name), preset, float(info.seconds)))
        window.stage.choose(window.session.project.shots[before].id)

    def _tell(self, found: list[tuple[str, SourceInfo]], bad: list[str]) -> None:
        """One line for all that is to be known."""
        notes = [f"{info.name}: {'; '.join(info.notes)}." for _, info in found if info.notes]
        if len(bad) > 1:
            bad = [f"{len(bad)} of {len(found) + len(bad)} files could not be opened; the first: {bad[0]}"]
        if len(notes) > 1:
            notes = [f"{notes[0]} And {len(notes) - 1} more have remarks."]
        if bad and not self._window.session.project.shots:
            self._window.picture.hint = bad[0]
        self._window.notice.say(" ".join(bad + notes))

    def _load(self, path: Path) -> None:
        self._window.session.load(path)
        settings.opened(path)

    def recover(self, kept: recovery.Kept) -> None:
        """Go on with work that was never saved; what was kept stays until that is saved."""
        if self.may_leave():
            self._window.attempt(lambda: self._window.keeper.go_on(kept))

    def versions(self) -> list[tuple[str, Path]]:
        """The versions of the open project that were saved, in words, newest first."""
        path = self._window.session.path
        return [(each.stem, each) for each in recovery.versions(path)] if path is not None else []

    def open_version(self, version: Path) -> None:
        """Go back to an earlier version, as a step that can be undone."""
        path = self._window.session.path
        if path is not None:
            self._window.attempt(
                lambda: self._window.session.apply(
                    f"Version of {version.stem}", edits.whole(recovery.read_version(version, path))
                )
            )

    def ask_open(self) -> None:
        names, _ = QFileDialog.getOpenFileNames(self._window, "Open footage or a project", str(self.folder()))
        if names:
            self.open_all([Path(name) for name in names])

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
            if path.suffix.lower() == ".tremor":
                self._keep(path)
            elif self._may_take(named := path.with_name(f"{path.name}.tremor")):
                self._keep(named)

    def _may_take(self, path: Path) -> bool:
        """Whether a file may be written that the person did not name in full: asked where there is one."""
        if not path.exists() or path == self._window.session.path:
            return True
        box = QMessageBox(self._window)
        box.setText(f"{path.name} exists already.")
        box.setInformativeText("Replace it? What is there now is kept beside it.")
        replace = box.addButton("Replace", QMessageBox.ButtonRole.DestructiveRole)
        box.addButton(QMessageBox.StandardButton.Cancel)
        box.exec()
        return box.clickedButton() is replace

    def _keep(self, path: Path | None) -> None:
        """Save; what someone else has changed, or protected, only when the person says so."""
        session = self._window.session
        try:
            session.save(path)
            self._kept()
        except (ChangedOnDisk, WriteProtected) as error:
            box = QMessageBox(self._window)
            box.setText(str(error))
            box.setInformativeText("Replace it all the same? What is there now is kept beside it.")
            replace = box.addButton("Replace", QMessageBox.ButtonRole.DestructiveRole)
            box.addButton(QMessageBox.StandardButton.Cancel)
            box.exec()
            if box.clickedButton() is replace:
                self._window.attempt(lambda: session.save(path, force=True))
                self._kept()
        except TremorError as error:
            self._window.notice.say(str(error))

    def _kept(self) -> None:
        """What goes with every saving: the version is kept, the project is among the recent ones."""
        path = self._window.session.path
        if path is not None and not self._window.session.dirty:
            recovery.keep_version(path)
            settings.opened(path)
            self._window.keeper.drop()

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
