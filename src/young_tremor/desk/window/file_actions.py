"""Opening, saving, and leaving what is open."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path

from PySide6.QtGui import QImage
from PySide6.QtWidgets import QFileDialog, QInputDialog, QMessageBox

from young_tremor.base.errors import ChangedOnDisk, TremorError, WriteProtected
from young_tremor.base.frames import SourceInfo
from young_tremor.base.units import parse_rate
from young_tremor.desk.kit.i18n import counted, tr
from young_tremor.desk.picture.image import image_of
from young_tremor.desk.window.desk import Desk
from young_tremor.engine.analysis import traces
from young_tremor.engine.delivery import timelines
from young_tremor.engine.document import recovery
from young_tremor.engine.library import preset_library, settings
from young_tremor.engine.media import footage, relink
from young_tremor.model import shot_edits
from young_tremor.model.project import Media, Project

ADDING = "add footage"
TIMELINE = "open a timeline"
RATES = ("24", "23.976", "25", "29.97", "30", "50", "59.94", "60")


class FileActions:
    """The window's dealings with the disk."""

    def __init__(self, desk: Desk) -> None:
        self._desk = desk
        self._marks: dict[str, str] = {}  # of files that were read: by what they are known again

    def open_path(self, path: Path) -> None:
        """Open a project, or add footage to the reel."""
        self.open_all([path])

    def open_all(self, paths: list[Path]) -> None:
        """Open a project if there is one among the files, and add the others to the reel, in order, as one step."""
        projects = [path for path in paths if path.suffix.lower() == ".tremor"]
        if projects and self.may_leave():
            self._desk.attempt(lambda: self._load(projects[0]))
        cuts = [path for path in paths if timelines.is_timeline(path)]
        if cuts and not projects and self.may_leave():
            self._open_timeline(cuts[0])
        films = [path for path in paths if path not in projects and path not in cuts]
        if films and self.adding:
            self._desk.notice.say(tr("Wait until that footage is in the reel, then open these."))
        elif films:
            self._add(films)

    def _open_timeline(self, path: Path) -> None:
        """Open a timeline as a reel, in the background; an EDL does not say its rate, which is asked for."""
        desk, rate, found = self._desk, None, []
        if path.suffix.lower() == ".edl":
            text, given = QInputDialog.getItem(
                desk.window, tr("Open {0}", path.name), tr("Frames a second of the timeline"), list(RATES), 0, False
            )
            if not given:
                return
            rate = parse_rate(text)

        def work(report: Callable[[int, int], None]) -> None:
            found.append(timelines.open_timeline(path, preset_library.starting_preset(), fps=rate))

        def land(answer: None) -> None:
            project, notes = found[0]
            desk.session.start(project)
            desk.notice.say(f"{path.name}: {'; '.join(notes)}." if notes else tr("{0} is open as a reel.", path.name))

        desk.runner.run(TIMELINE, work, land)

    def _add(self, paths: list[Path]) -> None:
        """Read footage in the background, one after the other."""
        desk = self._desk
        found: list[tuple[str, SourceInfo]] = []
        bad: list[str] = []
        self._marks.clear()

        def work(report: Callable[[int, int], None]) -> None:
            known: set[str] = set()
            for done, path in enumerate(paths, start=1):
                try:
                    name = footage.resolve_path(path)
                    if name in known:
                        continue  # another picture of the same sequence
                    known.add(name)
                    info = footage.facts(name).info
                    self._marks[name] = relink.mark_of(name)
                    found.append((name, info))
                    traces.warm(
                        shot_edits.add_shot(Path(name), preset_library.starting_preset(), float(info.seconds)), info
                    )
                except TremorError as error:
                    bad.append(str(error))
                report(done, len(paths))

        def land(answer: None) -> None:
            self._join(found)
            self._tell(found, bad)

        desk.picture.hint = tr("Opening…")
        desk.runner.run(ADDING, work, land, ended=desk.stage.refresh)
        desk.stage.shot_changed.emit()

    @property
    def adding(self) -> bool:
        """Whether footage is being read that joins the reel then."""
        return self._desk.runner.busy(ADDING)

    def _join(self, found: list[tuple[str, SourceInfo]]) -> None:
        """Put footage that was read into the reel."""
        desk, preset = self._desk, preset_library.starting_preset()
        if not found:
            return
        before = len(desk.session.project.shots)
        with desk.session.gesture(tr("Open footage") if len(found) == 1 else tr("Open {0} files", len(found))):
            for name, info in found:
                desk.state.facts[name] = info
                edit = shot_edits.add_shot(Path(name), preset, float(info.seconds), self._marks.get(name, ""))
                desk.session.apply(tr("Open footage"), edit)
        desk.state.choose_shot(desk.session.project.shots[before].id)

    def _tell(self, found: list[tuple[str, SourceInfo]], bad: list[str]) -> None:
        """One line for all that is to be known."""
        notes = [f"{info.name}: {'; '.join(info.notes)}." for _, info in found if info.notes]
        if any(footage.is_sequence(Media(name)) for name, _ in found):
            notes.append(tr("Numbered pictures play at 24 frames a second. Change the rate under Plates."))
        if len(bad) > 1:
            bad = [f"{len(bad)} of {len(found) + len(bad)} files could not be opened; the first: {bad[0]}"]
        if len(notes) > 1:
            notes = [f"{notes[0]} And {len(notes) - 1} more have remarks."]
        if bad and not self._desk.session.project.shots:
            self._desk.picture.hint = bad[0]
        self._desk.notice.say(" ".join(bad + notes))

    def _load(self, path: Path) -> None:
        self._desk.session.load(path)
        settings.remember_project(path)
        lost = relink.missing(self._desk.session.project)
        if lost:
            first = f"{Path(lost[0].path).name} ({', '.join(lost[0].shots[:2])})"
            self._desk.notice.say(
                tr(
                    "{0} missing, {1} among them: Project, Find missing footage looks in a folder.",
                    counted(len(lost), "file"),
                    first,
                )
            )

    def recover(self, kept: recovery.UnsavedWork) -> None:
        """Go on with work that was never saved; what was kept stays until that is saved."""
        if self.may_leave():
            self._desk.attempt(lambda: self._desk.keeper.go_on(kept))

    def look_at(self, kept: recovery.UnsavedWork, show: Callable[[QImage], None]) -> None:
        """Read a picture of work that was kept, in the background; none where its footage is gone."""
        self._desk.runner.run_quietly(
            f"look at {kept.path}",
            lambda report: footage.thumbnail(recovery.first_footage(kept)),
            lambda rgb: show(image_of(rgb)),
        )

    def versions(self) -> list[tuple[str, Path]]:
        """The versions of the open project that were saved, in words, newest first."""
        path = self._desk.session.path
        return [(item.stem, item) for item in recovery.versions(path)] if path is not None else []

    def open_version(self, version: Path) -> None:
        """Go back to an earlier version, as a step that can be undone."""
        path = self._desk.session.path
        if path is not None:
            self._desk.attempt(
                lambda: self._desk.session.apply(
                    tr("Version of {0}", version.stem), shot_edits.replace_project(recovery.read_version(version, path))
                )
            )

    def ask_open(self) -> None:
        """Ask for files and open them."""
        names, _ = QFileDialog.getOpenFileNames(
            self._desk.window, tr("Open footage or a project"), str(self._desk.folder())
        )
        if names:
            self.open_all([Path(name) for name in names])

    def save(self) -> None:
        """Save the project where it is kept; ask where if it never was. Whether it was saved."""
        if self._desk.session.path is None:
            self.save_as()
        else:
            self._keep(None)

    def save_as(self) -> None:
        """Ask where to save the project. Whether it was saved."""
        start = self._desk.session.path or self._desk.folder() / "untitled.tremor"
        name, _ = QFileDialog.getSaveFileName(
            self._desk.window, tr("Save project"), str(start), tr("Young Tremor project (*.tremor)")
        )
        if name:
            path = Path(name)
            if path.suffix.lower() == ".tremor":
                self._keep(path)
            elif self._may_take(named := path.with_name(f"{path.name}.tremor")):
                self._keep(named)

    def _may_take(self, path: Path) -> bool:
        """Whether a file may be written that the person did not name in full: asked where there is one."""
        if not path.exists() or path == self._desk.session.path:
            return True
        box = QMessageBox(self._desk.window)
        box.setText(tr("{0} exists already.", path.name))
        box.setInformativeText(tr("Replace it? The file there now is kept as a copy."))
        replace = box.addButton(tr("Replace"), QMessageBox.ButtonRole.DestructiveRole)
        box.addButton(QMessageBox.StandardButton.Cancel)
        box.exec()
        return box.clickedButton() is replace

    def _keep(self, path: Path | None) -> None:
        """Save; what someone else has changed, or protected, only when the person says so."""
        session = self._desk.session
        try:
            session.save(path)
            self._kept()
        except (ChangedOnDisk, WriteProtected) as error:
            box = QMessageBox(self._desk.window)
            box.setText(str(error))
            box.setInformativeText(tr("Replace it anyway? The file there now is kept as a copy."))
            replace = box.addButton(tr("Replace"), QMessageBox.ButtonRole.DestructiveRole)
            box.addButton(QMessageBox.StandardButton.Cancel)
            box.exec()
            if box.clickedButton() is replace:
                self._desk.attempt(lambda: session.save(path, force=True))
                self._kept()
        except TremorError as error:
            self._desk.notice.say(str(error))

    def _kept(self) -> None:
        """What goes with every saving: the version is kept, the project is among the recent ones."""
        path = self._desk.session.path
        if path is not None and not self._desk.session.dirty:
            recovery.keep_version(path)
            settings.remember_project(path)
            self._desk.keeper.drop()

    def start(self, project: Project) -> None:
        if self.may_leave():
            self._desk.session.start(project)

    def may_leave(self) -> bool:
        """Whether the open project may go: it is saved, or the person says so."""
        if not self._desk.session.dirty:
            return True
        box = QMessageBox(self._desk.window)
        box.setText(tr("Save the changes to this project?"))
        box.setStandardButtons(
            QMessageBox.StandardButton.Save | QMessageBox.StandardButton.Discard | QMessageBox.StandardButton.Cancel
        )
        answer = box.exec()
        if answer == QMessageBox.StandardButton.Save:
            self.save()
            return not self._desk.session.dirty
        return answer == QMessageBox.StandardButton.Discard
