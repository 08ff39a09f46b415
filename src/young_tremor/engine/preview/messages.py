"""What the window and the process of its preview say to each other, and how it is carried over a socket.

A message is pickled; its pictures are sent behind it as they lie in memory, and are not copied where they arrive.
"""

from __future__ import annotations

import pickle
import socket
import struct
from dataclasses import dataclass
from typing import Any

from young_tremor.base.frames import SourceInfo
from young_tremor.engine.library.settings import Settings
from young_tremor.engine.preview.picture_request import PictureKey, PictureRequest, RenderedPicture
from young_tremor.media.sources import Facts
from young_tremor.render.plan import Plan
from young_tremor.render.resolve_plan import FrameReadings

# From the window


@dataclass(frozen=True)
class Known:
    """Facts of files that need not be read again."""

    facts: tuple[Facts, ...]


@dataclass(frozen=True)
class Ask:
    """Show this next."""

    number: int
    request: PictureRequest


@dataclass(frozen=True)
class Follow:
    """Frames from this one on are wanted next: it plays."""

    index: int


@dataclass(frozen=True)
class Keep:
    """Keep so many bytes of pictures."""

    limit: int


@dataclass(frozen=True)
class Forget:
    """Let go of all pictures, which look otherwise with these settings. ``epoch``: how often that was asked for."""

    epoch: int
    settings: Settings


# From the preview


@dataclass(frozen=True)
class Planned:
    """How a request, or the one that comes ``then``, is rendered from now on: the number of its plan, its frames, and
    what its lowest plate shows."""

    number: int
    then: bool
    plan: int
    frames: int
    source: SourceInfo


@dataclass(frozen=True)
class Finished:
    """A picture is ready, and others gave way to it. ``epoch``: of the :class:`Forget` that it is not older than."""

    epoch: int
    key: PictureKey
    picture: RenderedPicture
    gone: tuple[PictureKey, ...]


@dataclass(frozen=True)
class Gone:
    """Pictures that are no longer kept."""

    keys: tuple[PictureKey, ...]


@dataclass(frozen=True)
class Answer:
    """What a request asked for: a picture that was finished before, or ``picture``, which is not kept."""

    number: int
    index: int
    source: SourceInfo
    exact: bool
    key: PictureKey
    picture: RenderedPicture | None


@dataclass(frozen=True)
class Answered:
    """Nothing is owed to a request any more."""

    number: int


@dataclass(frozen=True)
class Read:
    """The plan of a request, and what its edges cost."""

    number: int
    plan: Plan
    readings: FrameReadings


@dataclass(frozen=True)
class Failed:
    """A request cannot be shown: why, in a sentence."""

    number: int
    words: str


@dataclass(frozen=True)
class Replaced:
    """A file of a request's shot is another than before."""

    number: int


@dataclass(frozen=True)
class Loaded:
    """Footage is being decoded; heavy work would be in the way."""


@dataclass(frozen=True)
class Filled:
    """A frame ahead was made ready."""


@dataclass(frozen=True)
class WantCopies:
    """Heavy files of which copies are wanted."""

    paths: tuple[str, ...]


FromWindow = Known | Ask | Follow | Keep | Forget
OfRequest = Planned | Answer | Answered | Read | Failed | Replaced
FromPreview = Finished | Gone | Loaded | Filled | WantCopies | OfRequest
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


def receive(line: socket.socket) -> Any:
    """The next message. EOFError where the other side has ended, OSError where the line is broken."""
    count, length = struct.unpack("!2Q", _read(line, 16))
    lengths = struct.unpack(f"!{count}Q", _read(line, 8 * count))
    head = _read(line, length)
    return pickle.loads(head, buffers=[_read(line, size) for size in lengths])


def _read(line: socket.socket, length: int) -> bytearray:
    data = bytearray(length)
    view, done = memoryview(data), 0
    while done < length:
        count = line.recv_into(view[done:], flags=socket.MSG_WAITALL)
        if not count:
            raise EOFError
        done += count
    return data
