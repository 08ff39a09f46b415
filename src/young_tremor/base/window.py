"""A part of a picture."""

from __future__ import annotations

from dataclasses import dataclass

from young_tremor.base.pixels import PixelFormat


@dataclass(frozen=True)
class Window:
    """A part of a frame: its first pixel and its size. In luma pixels it begins on a whole pixel of every plane."""

    left: int
    top: int
    width: int
    height: int

    @property
    def right(self) -> int:
        """The first column beyond it."""
        return self.left + self.width

    @property
    def bottom(self) -> int:
        """The first row beyond it."""
        return self.top + self.height

    def of(self, format: PixelFormat, plane: int) -> tuple[slice, slice]:
        """Its rows and columns of a plane of the frame."""
        across, down = format.plane_step(plane)
        return (slice(self.top // down, -(-self.bottom // down)), slice(self.left // across, -(-self.right // across)))

    def meets(self, other: Window) -> bool:
        """Whether two have a pixel in common."""
        return (
            self.left < other.right and other.left < self.right and self.top < other.bottom and other.top < self.bottom
        )

    def around(self, other: Window) -> Window:
        """The least that holds both."""
        left, top = min(self.left, other.left), min(self.top, other.top)
        return Window(left, top, max(self.right, other.right) - left, max(self.bottom, other.bottom) - top)
