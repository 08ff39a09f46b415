"""What the window and the process of its preview say to each other, and how it is carried over a socket.

A message is pickled; its pictures are sent behind it as they lie in memory, and are not copied where they arrive.
"""

from __future__ import annotations

import pickle
import socket
import struct
from dataclasses import dataclass

from young_tremor.base.frames import SourceInfo
from young_tremor.base.sandbox import read_exactly
from young_tremor.engine.library.settings import Settings
from young_tremor.engine.preview.picture_request import PictureKey, PictureRequest, RenderedPicture
from young_tremor.media.sources import Facts
from young_tremor.render.plan import Plan
from young_tremor.render.resolve_plan import FrameReadings

# From the window


@dataclass(frozen=True)
class KnownFiles:
    """Facts of files that need not be read again."""

    facts: tuple[Facts, ...]


@dataclass(frozen=True)
class NewRequest:
    """Show this next."""

    number: int
    request: PictureRequest


@dataclass(frozen=True)
class PlayedFrame:
    """Frames from this one on are wanted next: it plays."""

    index: int


@dataclass(frozen=True)
class CacheLimit:
    """Keep so many bytes of pictures."""

    limit: int


@dataclass(frozen=True)
class NewSettings:
    """Let go of all pictures, which look otherwise with these settings. ``epoch``: how often that was asked for."""

    epoch: int
    settings: Settings


# From the preview


@dataclass(frozen=True)
class OfRequest:
    """What is about a request, by its number."""

    number: int


@dataclass(frozen=True)
class RequestPlan(OfRequest):
    """How a request, or the one that comes ``then``, is rendered from now on: the number of its plan, its frames, and
    what its lowest plate shows."""

    then: bool
    plan: int
    frames: int
    source: SourceInfo


@dataclass(frozen=True)
class FinishedPicture:
    """A picture is ready, and others gave way to it. ``epoch``: that of the last :class:`NewSettings` before it."""

    epoch: int
    key: PictureKey
    picture: RenderedPicture
    gone: tuple[PictureKey, ...]


@dataclass(frozen=True)
class DroppedPictures:
    """Pictures that are no longer kept."""

    keys: tuple[PictureKey, ...]


@dataclass(frozen=True)
class RequestAnswer(OfRequest):
    """What a request asked for: a picture that was finished before, or ``picture``, which is not kept."""

    index: int
    source: SourceInfo
    exact: bool
    key: PictureKey
    picture: RenderedPicture | None


@dataclass(frozen=True)
class RequestDone(OfRequest):
    """Nothing is owed to a request any more."""


@dataclass(frozen=True)
class PlanReadings(OfRequest):
    """The plan of a request, and what its edges cost."""

    plan: Plan
    readings: FrameReadings


@dataclass(frozen=True)
class RequestFailure(OfRequest):
    """A request cannot be shown: why, in a sentence."""

    words: str


@dataclass(frozen=True)
class ReplacedFile(OfRequest):
    """A file of a request's shot is another than before."""


@dataclass(frozen=True)
class DecodingNotice:
    """Footage is being decoded; heavy work would be in the way."""


@dataclass(frozen=True)
class FilledNotice:
    """A frame ahead was made ready."""


@dataclass(frozen=True)
class WantedCopies:
    """Heavy files of which copies are wanted."""

    paths: tuple[str, ...]


FromWindow = KnownFiles | NewRequest | PlayedFrame | CacheLimit | NewSettings
FromPreview = FinishedPicture | DroppedPictures | DecodingNotice | FilledNotice | WantedCopies | OfRequest
Message = FromWindow | FromPreview


def send(line: socket.socket, message: Message) -> None:
    """Send a message; OSError where nobody is there to receive it. For one thread at a time."""
    parts: list[pickle.PickleBuffer] = []
    head = pickle.dumps(message, 5, buffer_callback=parts.append)
    views = [part.raw() for part in parts]
    lengths = struct.pack(f"!{len(views) + 2}Q", len(views), len(head), *(view.nbytes for view in views))
    line.sendall(lengths + head)
    for view in views:
        line.sendall(view)


def receive(line: socket.socket) -> Message:
    """The next message. EOFError where the other side has ended, OSError where the line is broken."""
    count, length = struct.unpack("!2Q", _read(line, 16))
    lengths = struct.unpack(f"!{count}Q", _read(line, 8 * count))
    head = _read(line, length)
    message: Message = pickle.loads(head, buffers=[_read(line, size) for size in lengths])
    return message


def _read(line: socket.socket, length: int) -> bytearray:
    data = read_exactly(line, length)
    if data is None:
        raise EOFError
    return data
