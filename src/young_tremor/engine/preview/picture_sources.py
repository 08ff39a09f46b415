"""Plates' pictures for the preview: read in one thread, reduced to what is shown, and kept."""

from __future__ import annotations

from collections.abc import Callable, Iterable
from concurrent.futures import Future
from functools import partial

import numpy as np

from young_tremor.base.errors import TremorError
from young_tremor.base.frames import Frame, FrameSource
from young_tremor.base.worker import Worker
from young_tremor.engine.media import footage, proxies
from young_tremor.engine.media.byte_cache import ByteCache
from young_tremor.engine.media.open_readers import OpenReaders
from young_tremor.engine.system.priority import PriorityGate
from young_tremor.media import plane_scaler
from young_tremor.media.video_reader import VideoReader
from young_tremor.model.project import Plate
from young_tremor.render.plan import Plan, PlatePlan
from young_tremor.render.plate_pixels import picture_of, scale_of
from young_tremor.render.screen import reduce, shrink

SOURCES = 224 << 20  # bytes of plates' pictures that are kept

GoOn = Callable[[], None]  # called often while something is read; what it raises ends the reading


class PictureSources:
    """Reads the plates' pictures of frames in a thread of its own. The thread owns the readers; everything else may be
    called from any thread.

    ``needed``: how many files the shot that is looked at reads from; so many readers stay open.
    """

    def __init__(
        self,
        open_source: Callable[[Plate, tuple[int, int]], FrameSource],
        copies: proxies.ProxyMaker | None,
        gate: PriorityGate,
    ) -> None:
        self.kept: ByteCache[tuple, Frame] = ByteCache(SOURCES)
        self.copies, self.gate = copies, gate
        self.needed = 0
        self._open = open_source
        self._readers = OpenReaders()
        self._thread = Worker("reading")

    def read(self, plan: Plan, index: int, go_on: GoOn) -> Future[list[Frame]]:
        """Begin to read the plates' pictures of a frame, bottom to top."""
        return self._thread.give(partial(self._sources_of, plan, index, go_on))

    def read_nearby(self, plan: Plan, index: int) -> list[Frame] | None:
        """The plates' pictures of a frame, the nearest ones where reading takes long; None where nothing does."""
        return self._thread.give(partial(self._nearby, plan, index)).result()

    def reads_copy_of(self, plate: PlatePlan) -> bool:
        """Whether a plate's pictures come from a proxy of its footage."""
        return self.copies is not None and self.copies.ready(plate.plate.media.path, plate.source) is not None

    def key_before(self, plan: Plan, index: int) -> int | None:
        """The last frame not after ``index`` at which decoding can begin, where the lowest plate's footage is heavy;
        None where it is not, or nothing tells."""
        plate, source = plan.base, plan.source
        if proxies.size_of(source) is None or self.reads_copy_of(plate):
            return None
        timing = footage.facts(plate.plate.media.path).timing
        number = plate.source_index(index)
        place = timing.key_before(number) if timing is not None and timing.constant else -1
        if timing is None or place < 0:
            return None
        return index - int((number - int(timing.keys[place])) * plan.rate / source.rate)

    def forget(self, paths: Iterable[str]) -> None:
        """Close the readers of files that have changed, and wait until they are."""
        self._thread.give(partial(self._let_go, set(paths))).result()

    def end(self) -> None:
        """Close all readers and the thread, once what is being read is."""
        self._thread.give(self._readers.close)
        self._thread.close()

    def join(self, seconds: float) -> None:
        """Wait so long for the thread, and let go of what is kept."""
        self._thread.join(seconds)
        self.kept.clear()

    def _nearby(self, plan: Plan, index: int) -> list[Frame] | None:
        """The plates' pictures, of those that are far the nearest ones; None where none is. In the reading thread."""
        far = {}
        for place, plate in enumerate(plan.plates):
            if plate.source.drawn or plate.source.still or self._is_kept(plan, plate, index):
                continue
            reader = self._opened(plate)
            near = reader.nearby(plate.source_index(index)) if isinstance(reader, VideoReader) else None
            if near is not None:
                far[place] = near
        if not far:
            return None
        plates = enumerate(plan.plates)
        return [self._source(plan, plate, index, lambda: None, far.get(place)) for place, plate in plates]

    def _sources_of(self, plan: Plan, index: int, go_on: Callable[[], None]) -> list[Frame]:
        """The plates' pictures of a frame. In the reading thread."""
        frames = []
        for plate in plan.plates:
            go_on()
            frames.append(self._source(plan, plate, index, go_on))
        return frames

    def _key_of(self, plan: Plan, plate: PlatePlan, index: int, near: int | None = None) -> tuple:
        """Under which a plate's picture is kept: last its number, or that of another one ``near``, and its size."""
        media, nominal = plate.plate.media, plate.source.size
        depth = plate.plate.depth.path if plate.plate.depth is not None else ""
        number, size = 0 if plate.source.still and not depth else plate.source_index(index), (0, 0)
        if plate.source.drawn:
            number = round(1000 * scale_of(plan, plate, index))
        else:
            scale = min(1.0, max(plan.size[0] / plan.delivered[0], plan.size[1] / plan.delivered[1]))
            size = (2 * max(1, round(nominal[0] * scale / 2)), 2 * max(1, round(nominal[1] * scale / 2)))
        return (media, depth, plate.source, number if near is None else near, size)

    def _is_kept(self, plan: Plan, plate: PlatePlan, index: int) -> bool:
        """Whether a plate's picture need not be decoded: it is kept, or there is a proxy of its footage."""
        return self.reads_copy_of(plate) or self._key_of(plan, plate, index) in self.kept

    def _source(
        self, plan: Plan, plate: PlatePlan, index: int, go_on: Callable[[], None], near: int | None = None
    ) -> Frame:
        key = self._key_of(plan, plate, index, near)
        *_, number, size = key
        frame = self.kept.get(key)
        if frame is None:
            frame = self._of_copy(plate, number, size)
            if frame is None:
                self.gate.load()  # two that decode the same would only be in each other's way
                reader = self._opened(plate)
                if isinstance(reader, VideoReader):
                    reader.look = go_on
                frame = picture_of(plan, plate, index, reader) if near is None else reader.read(near)
            if not plate.source.drawn:
                frame = reduce(frame, size, straight=plate.source.alpha == "straight", shrink=_shrink)
            self.kept.put(key, frame, frame.nbytes)
        return frame

    def _of_copy(self, plate: PlatePlan, number: int, size: tuple[int, int]) -> Frame | None:
        """A picture out of a reduced copy of heavy footage, where there is one with pixels enough."""
        media, info = plate.plate.media, plate.source
        place = self.copies.ready(media.path, info) if self.copies is not None else None
        if place is None or (plate.plate.depth is not None and plate.plate.depth.path):
            return None
        key = (media, "reduced", info.stamp, ())
        try:
            reader = self._readers.take(key, lambda: footage.open_source(str(place)), self.needed)
            enough = reader.info.size[0] >= size[0] and reader.info.size[1] >= size[1]
            return proxies.read(reader, number, info) if enough and reader.info.frames == info.frames else None
        except TremorError:
            self._readers.drop([key])
            self.copies.bad(media.path, info)  # type: ignore[union-attr]
            return None

    def _opened(self, plate: PlatePlan) -> FrameSource:
        """A reader of a plate's picture in a state; those used longest ago are closed."""
        media, source = plate.plate.media, plate.source
        depth = plate.plate.depth.path if plate.plate.depth is not None else ""
        key = (media, depth, source.stamp, source.size if media.drawn else ())
        return self._readers.take(key, lambda: self._open(plate.plate, source.size), self.needed)

    def _let_go(self, paths: set[str]) -> None:
        """Close the readers of files. In the reading thread."""
        self._readers.drop(key for key in self._readers if key[0].path in paths or key[1] in paths)


def _shrink(plane: np.ndarray, size: tuple[int, int]) -> np.ndarray:
    """A plane at a smaller size by whichever library is faster."""
    rows, columns = plane.shape
    whole = columns % size[0] == 0 and rows % size[1] == 0
    if whole or plane.dtype not in plane_scaler.SCALED:
        return shrink(plane, size)
    return plane_scaler.scale_by_area(plane, size)
