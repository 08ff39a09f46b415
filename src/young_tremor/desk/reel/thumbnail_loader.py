"""Thumbnails for the reel, read in the background."""

from __future__ import annotations

from collections.abc import Callable

import numpy as np
from PySide6.QtCore import QObject, QTimer, Signal
from PySide6.QtGui import QImage

from young_tremor.desk.picture.image import image_of
from young_tremor.desk.reel.reel_list import ReelList
from young_tremor.desk.state.desk_state import DeskState
from young_tremor.desk.state.task_runner import Report, TaskRunner
from young_tremor.engine.media import footage, thumbnails
from young_tremor.model.project import Media, Plate, Shot

PRINT = "print of a shot"
REST = 25  # milliseconds between two: whoever sits before it comes first
KEPT = 200  # pictures of plates


class ShotThumbnails(QObject):
    """Gives every shot of the reel its picture, and a new one when it looks otherwise: one after the other, the chosen
    one first."""

    came = Signal()  # a picture has come

    def __init__(self, state: DeskState, reel: ReelList, runner: TaskRunner) -> None:
        super().__init__(reel)
        self._state, self._reel, self._runner = state, reel, runner
        self._wanted: dict[str, Shot] = {}
        self._looks: dict[str, Shot] = {}  # of each shot, what its print was made of
        self._seen: dict[str, object] = {}  # of each shot, a quick sign of whether to compare that

    @property
    def busy(self) -> bool:
        """Whether pictures are still to come."""
        return bool(self._wanted) or self._runner.busy(PRINT)

    def look(self) -> None:
        """Start making what is missing, and what looks other than its print; what failed is not tried again."""
        shots = self._state.session.project.shots
        for gone in set(self._looks) - {shot.id for shot in shots}:
            self._looks.pop(gone)
            self._wanted.pop(gone, None)
        for shot in shots:
            if self._seen.get(shot.id) == (key := (id(shot.plates), shot.start, shot.size)):
                continue
            self._seen[shot.id] = key
            if self._looks.get(shot.id) != (now := thumbnails.looks(shot)):
                self._looks[shot.id] = now
                self._wanted[shot.id] = shot
        self._make()

    def _make(self) -> None:
        if not self._wanted or self._runner.busy(PRINT):
            return
        first = self._state.now.shot
        shot = self._wanted.pop(first if first in self._wanted else next(iter(self._wanted)))

        def land(rgb: np.ndarray) -> None:
            self._reel.set_image(shot.id, image_of(rgb))
            self.came.emit()

        def made(report: Report) -> np.ndarray:
            report(0, 1)
            return thumbnails.shot_print(shot)

        self._runner.run_quietly(
            PRINT,
            made,
            land,
            ended=lambda: QTimer.singleShot(REST, self, self._make),
        )


class PlateThumbnails:
    """Makes the little pictures of plates, once for each that they show."""

    def __init__(self, state: DeskState, runner: TaskRunner, land: Callable[[str, QImage], None]) -> None:
        self._state, self._runner, self._land = state, runner, land
        self._made: dict[Media, QImage | None] = {}

    def ask(self, plate: Plate) -> None:
        """Give a plate its picture, now or once it is made; it has none while it is being made or cannot be."""
        shot, media = self._state.shot, plate.media
        if media in self._made:
            image = self._made[media]
            if image is not None:
                self._land(plate.id, image)
            return
        if shot is None:
            return
        if len(self._made) > KEPT:
            self._made.clear()
        self._made[media] = None

        def land(rgb: np.ndarray) -> None:
            self._made[media] = image_of(rgb)
            now = self._state.shot
            for plate in now.plates if now is not None else ():
                if plate.media == media:
                    self._land(plate.id, self._made[media] or QImage())

        self._runner.run_quietly(
            f"plate {hash(media)}",
            lambda report: thumbnails.plate_print(media, footage.frame_size(shot)),
            land,
        )
