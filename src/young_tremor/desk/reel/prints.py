"""Thumbnails for the reel, read in the background."""

from __future__ import annotations

import numpy as np
from PySide6.QtCore import QObject, Signal

from young_tremor.desk.picture.image import image_of
from young_tremor.desk.reel.reel import Reel
from young_tremor.desk.state.runner import Runner
from young_tremor.engine import footage
from young_tremor.engine.session import Session


class Prints(QObject):
    """Gives every shot of the reel its picture once."""

    came = Signal()  # a picture has come

    def __init__(self, session: Session, reel: Reel, runner: Runner) -> None:
        super().__init__(reel)
        self._session, self._reel, self._runner = session, reel, runner
        self._reading: set[str] = set()  # paths
        self._lost: set[str] = set()  # what could not be read is not tried at every change

    @property
    def busy(self) -> bool:
        """Whether pictures are still to come."""
        return bool(self._reading)

    def look(self) -> None:
        """Start reading what is missing."""
        for shot in self._session.project.shots:
            path = shot.footage.media.path
            if not self._reel.has_image(shot.id) and path not in self._reading and path not in self._lost:
                self._read(path)

    def _read(self, path: str) -> None:
        def land(rgb: np.ndarray) -> None:
            image = image_of(rgb)
            for shot in self._session.project.shots:
                if shot.footage.media.path == path:
                    self._reel.set_look(shot.id, image, None)
            self.came.emit()

        self._reading.add(path)
        self._runner.run(
            f"print {path}", lambda report: footage.thumbnail(path), land, failed=lambda words: self._lost.add(path),
            ended=lambda: self._reading.discard(path), quiet=True,
        )  # fmt: skip
