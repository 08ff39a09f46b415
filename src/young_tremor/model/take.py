"""A take: motion measured from a real clip, frozen as data."""

from __future__ import annotations

from typing import Annotated, Literal

import numpy as np

from young_tremor.base.errors import UnreadableValue
from young_tremor.base.number_scale import NumberScale
from young_tremor.model.fields import FACTOR, Checked, Number, check_text

COLUMNS = ("t", "x", "y", "roll", "scale", "pan", "tilt", "confidence")
Beyond = Literal["loop", "back", "carry", "rest"]
BEYOND_WORDS = (
    ("carry", "Carry on like it"),
    ("loop", "Loop, crossfaded"),
    ("back", "There and back"),
    ("rest", "Come to rest"),
)
GAIN_SCALE = NumberScale(0, 300, "%", 0, bend=1.585, least=-1000, most=1000)


class Endless(Checked, frozen=True):
    """What goes on for ever like a take: its spectrum per channel, how its channels go together, its corrections.

    ``lines``: little-endian float64 rows (m, 13): frequency in Hz, then for x, y, roll, zoom, pan, tilt the cosine and
    sine parts at it, in channel units. ``steps``: rows (k, 7): seconds a correction takes, then how far it goes in each
    channel. ``every``: seconds from one correction to the next. ``level``: (6,) the middle of the take.
    """

    lines: bytes = b""
    steps: bytes = b""
    every: Annotated[
        float, Number("Every", "From one correction of the framing to the next, as learned", (0, 1e6), unit="s")
    ] = 0.0
    level: tuple[float, float, float, float, float, float] = (0.0,) * 6

    def __post_init__(self) -> None:
        super().__post_init__()
        for rows, columns in ((self.lines, 13), (self.steps, 7)):
            if len(rows) % (8 * columns) or not _sane(rows):
                raise UnreadableValue("What a drift was learned from is damaged: learn it anew.")
        if not all(abs(value) <= 1e6 for value in self.level):
            raise UnreadableValue("What a drift was learned from is damaged: learn it anew.")


class Take(Checked, frozen=True):
    """Motion as it was measured, against the clip's first frame and about its centre.

    ``rows``: little-endian float64 rows (n, 8): seconds, x and y in square pixels of ``width`` by ``height`` (right and
    down), turn in degrees (clockwise), scale, pan and tilt in degrees, confidence 0…1. ``fps`` and ``focal_mm`` are the
    clip's; None: not known. ``lens``, ``weight``, ``activity``: tags for finding it again.
    """

    id: str
    name: str
    width: Annotated[int, Number("Width", "Of the clip that was measured", (1, 65536), unit="pixels")]
    height: Annotated[int, Number("Height", "Of it", (1, 65536), unit="pixels")]
    rows: bytes
    fps: str = "24"
    source: str = ""
    focal_mm: Annotated[
        float | None,
        Number(
            "Filmed at",
            "Focal length of the clip, for a sensor 36 mm wide; 0 is not known",
            (0.001, 1e5),
            NumberScale(0, 200, "mm", 0, bend=1.8, least=0, most=5000),
            noun="focal length",
        ),
    ] = None
    lens: str = ""
    weight: str = ""
    activity: str = ""
    note: str = ""

    def __post_init__(self) -> None:
        super().__post_init__()
        check_text("name", self.name)
        broken = len(self.rows) % (8 * len(COLUMNS)) or self.frames < 2 or not _sane(self.rows)
        table = None if broken else self.table()
        if table is None or (np.diff(table[:, 0]) <= 0).any() or (table[:, 4] <= 0).any():
            raise UnreadableValue(f"The take “{self.name[:80]}” is damaged: measure it again, or open an older copy.")

    def table(self) -> np.ndarray:
        """The rows: (n, 8) float64, not to be changed."""
        return np.frombuffer(self.rows, "<f8").reshape(-1, len(COLUMNS))

    @property
    def seconds(self) -> float:
        """From its first sample to its last."""
        table = self.table()
        return float(table[-1, 0] - table[0, 0])

    @property
    def frames(self) -> int:
        """How many samples there are."""
        return len(self.rows) // (8 * len(COLUMNS))


def _sane(rows: bytes) -> bool:
    """Whether rows of float64 hold nothing but numbers that motion can have."""
    return bool((np.abs(np.frombuffer(rows, "<f8")) <= 1e9).all())


def pack_rows(table: np.ndarray) -> bytes:
    """Rows as they are kept."""
    return np.ascontiguousarray(table, "<f8").tobytes()


class Gains(Checked, frozen=True):
    """Factors on the channels of a take; ``x`` and ``y`` hold for its pan and tilt as well."""

    x: Annotated[
        float,
        Number(
            "X gain",
            "Percent of what was measured; below 0 is opposed",
            FACTOR,
            GAIN_SCALE,
            per=100,
            words="gain, multiplier",
        ),
    ] = 1.0
    y: Annotated[
        float,
        Number(
            "Y gain",
            "Percent of what was measured; below 0 is opposed",
            FACTOR,
            GAIN_SCALE,
            per=100,
            words="gain, multiplier",
        ),
    ] = 1.0
    roll: Annotated[
        float,
        Number(
            "Roll gain",
            "Percent of what was measured; below 0 is opposed",
            FACTOR,
            GAIN_SCALE,
            per=100,
            words="gain, multiplier",
        ),
    ] = 1.0
    zoom: Annotated[
        float,
        Number(
            "Zoom gain",
            "Percent of what was measured; below 0 is opposed",
            FACTOR,
            GAIN_SCALE,
            per=100,
            words="gain, multiplier",
        ),
    ] = 1.0
