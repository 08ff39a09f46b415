"""Thumbnails for the reel, read in the background."""

from __future__ import annotations

from PySide6.QtCore import QObject, Signal

from young_tremor.desk.bridge import on_desk
from young_tremor.desk.picture import image_of
from young_tremor.desk.reel import Reel
from young_tremor.engine import footage
from young_tremor.engine.jobs import Job
from young_tremor.engine.session import Session


class Prints(QObject):
    """Gives every shot of the reel its picture once."""

    came = Signal()  # a picture has come

    def __init__(self, session: Session, reel: Reel) -> None:
        super().__init__(reel)
        self._session, self._reel = session, reel
        self._jobs: dict[str, Job] = {}  # by path
        self._lost: set[str] = set()  # what could not be read is not tried at every change

    @property
    def busy(self) -> bool:
        """Whether pictures are still to come."""
        return bool(self._jobs)

    def look(self) -> None:
        """Start reading what is missing."""
        for shot in self._session.project.shots:
            path = shot.footage.media.path
            if not self._reel.has_image(shot.id) and path not in self._jobs and path not in self._lost:
                self._jobs[path] = self._read(path)

    def wait(self) -> None:
        """Wait for the reading that goes on."""
        for job in self._jobs.values():
            job.wait()

    def _read(self, path: str) -> Job:
        found: list = []
        job = Job("thumbnail", lambda report: found.append(footage.thumbnail(path)))

        def ended(state: str) -> None:
            del self._jobs[path]
            if state == "done":
                rgb = found[0]
                image = image_of(rgb)
                for shot in self._session.project.shots:
                    if shot.footage.media.path == path:
                        self._reel.set_look(shot.id, image, None)
                self.came.emit()
            else:
                self._lost.add(path)

        job.ended.connect(on_desk(self, ended))
        return job.start()
