"""Colour spaces of cameras and of a person's own configuration, converted by OpenColorIO.

The configuration is the one that ``$OCIO`` or the preferences name, else the studio configuration that comes with the
library. What such a space becomes on a screen or in a film is its view for that display: tone-mapped as its authors
say. What goes into such a space comes from the display's own colours, without tone mapping.
"""

from __future__ import annotations

import os
from functools import lru_cache
from typing import TYPE_CHECKING

import numpy as np

from young_tremor.base import colour_spaces
from young_tremor.base.colour_spaces import HLG, PQ
from young_tremor.base.errors import RequestError, UnknownName
from young_tremor.base.lazy_import import lazily
from young_tremor.base.pixels import ColourTags

if TYPE_CHECKING:
    import PyOpenColorIO
else:
    PyOpenColorIO = lazily("PyOpenColorIO")

BUILT_IN, VARIABLE = "studio-config-latest", "OCIO"
GRID = 129  # points a side of a table of log values, which are even to the eye: a tenth of the time, and a seventh
# of a code value of 10 bits off as a rule (near the edge of the gamut up to some twenty)
STANDARD = "Rec.1886 Rec.709 - Display"
# by transfer: the display, and the beginning of the view that is taken, if it is there
DISPLAYS = {
    PQ: ("Rec.2100-PQ - Display", "ACES 2.0 - HDR 1000 nits (Rec.2020)"),
    HLG: ("Rec.2100-HLG - Display", "ACES 2.0 - HDR 1000 nits"),
}
_own_path, _own_view = "", ("", "")


def use_configuration(path: str, view: tuple[str, str] = ("", "")) -> bool:
    """Take spaces from the configuration in a file, unless ``$OCIO`` names another; "" is the built-in one. ``view``:
    the display and its view through which a screen shows what was lit for none; empty: the usual one. Whether that is
    new."""
    global _own_path, _own_view
    if (path, view) == (_own_path, _own_view):
        return False
    _own_path, _own_view = path, view
    for cached in (_configuration, _processor, views):
        cached.cache_clear()
    return True


@lru_cache(maxsize=1)
def _configuration() -> PyOpenColorIO.Config:
    path = os.environ.get(VARIABLE) or _own_path
    try:
        if path and not path.startswith("ocio://"):
            return PyOpenColorIO.Config.CreateFromFile(path)
        return PyOpenColorIO.Config.CreateFromBuiltinConfig(path or BUILT_IN)
    except PyOpenColorIO.Exception as error:
        first = (str(error).splitlines() or ["damaged"])[0][:120]
        raise RequestError(f"The colour configuration {path} cannot be used ({first}): name another.") from error


def names() -> tuple[str, ...]:
    """The spaces of the configuration; RequestError where it cannot be read."""
    return tuple(_configuration().getColorSpaceNames())


@lru_cache(maxsize=1)
def views() -> tuple[tuple[str, str], ...]:
    """The displays of the configuration, each with its views; RequestError where it cannot be read."""
    config = _configuration()
    return tuple((display, view) for display in config.getDisplays() for view in config.getViews(display))


def has_view() -> bool:
    """Whether a view was chosen that the configuration has."""
    return bool(_own_view[1]) and _own_view in views()


def check(name: str) -> None:
    """UnknownName where the configuration has no space of that name."""
    if _configuration().getColorSpace(name) is None:
        some = ", ".join(names()[:8])
        raise UnknownName(f"The colour configuration has no space “{name}”: it has {some}, …")


def convert(
    rgb: np.ndarray, source: ColourTags, target: ColourTags, *, quickly: bool = False, gain: float = 1.0
) -> np.ndarray:
    """R'G'B' (…, 3) of one space as R'G'B' of another, one of which is the configuration's: float32. ``quickly``: by a
    table, where a view takes long. ``gain``: of the scene's light, where a view shows it."""
    return _applied(rgb, source, target, ("", ""), quickly, gain)


def by_view(rgb: np.ndarray, source: ColourTags, *, quickly: bool, gain: float) -> np.ndarray:
    """R'G'B' (…, 3) of a space as the view that was chosen shows it: float32."""
    return _applied(rgb, source, ColourTags(), _own_view, quickly, gain)


def _applied(
    rgb: np.ndarray, source: ColourTags, target: ColourTags, view: tuple[str, str], quickly: bool, gain: float
) -> np.ndarray:
    values = np.array(rgb, np.float32)
    _processor(source, target, view, quickly=quickly, gain=gain).applyRGB(values.reshape(1, -1, 3))
    return values


@lru_cache(maxsize=16)
def _processor(
    source: ColourTags, target: ColourTags, view: tuple[str, str], *, quickly: bool, gain: float
) -> PyOpenColorIO.CPUProcessor:
    """What converts: by a display's view for a target of screens, or for any if one is given; ``quickly``: a view baked
    into a table."""
    config = _configuration()
    try:
        if not view[1] and (colour_spaces.is_known(source) or not _is_of_screens(target)):
            return config.getProcessor(_name_of(source), _name_of(target)).getDefaultCPUProcessor()
        display, name = view if view[1] else _display_of(target)
        transform = PyOpenColorIO.GroupTransform()
        begin = _name_of(source)
        if gain != 1:
            scaled = np.diag([gain, gain, gain, 1.0]).ravel()
            transform.appendTransform(PyOpenColorIO.ColorSpaceTransform(begin, "scene_linear"))
            transform.appendTransform(PyOpenColorIO.MatrixTransform(scaled))
            begin = "scene_linear"
        transform.appendTransform(PyOpenColorIO.DisplayViewTransform(src=begin, display=display, view=name))
        whole = config.getProcessor(transform).getDefaultCPUProcessor()
        return _baked(whole) if quickly else whole
    except PyOpenColorIO.Exception as error:
        first = (str(error).splitlines() or [""])[0][:160]
        raise RequestError(f"The colour configuration does not convert these colours: {first}") from error


def _is_of_screens(tags: ColourTags) -> bool:
    return colour_spaces.is_known(tags) and not colour_spaces.is_light(tags)


def _name_of(tags: ColourTags) -> str:
    """The configuration's name for a space: its own, a display's, or light of known primaries; its scene-linear role
    where it has none."""
    if not colour_spaces.is_known(tags):
        return tags.space
    if not colour_spaces.is_light(tags):
        return _display_of(tags)[0]
    by_primaries = {1: "Linear Rec.709 (sRGB)", 9: "Linear Rec.2020", 12: "Linear P3-D65"}
    name = {"acescg": "ACEScg", "aces2065-1": "ACES2065-1"}.get(tags.space, by_primaries.get(tags.primaries, ""))
    return name if _configuration().getColorSpace(name) is not None else "scene_linear"


def _display_of(tags: ColourTags) -> tuple[str, str]:
    """The display and view that stand for a space of screens: the configuration's usual ones, if it has not ours."""
    config, (name, begins) = _configuration(), DISPLAYS.get(tags.transfer, (STANDARD, ""))
    display = name if name in list(config.getDisplays()) else config.getDefaultDisplay()
    views = list(config.getViews(display))
    view = next((view for view in views if begins and view.startswith(begins)), config.getDefaultView(display))
    return display, view


def _baked(processor: PyOpenColorIO.CPUProcessor) -> PyOpenColorIO.CPUProcessor:
    axis = np.linspace(0, 1, GRID, dtype=np.float32)
    nodes = np.ascontiguousarray(np.stack(np.meshgrid(axis, axis, axis, indexing="ij"), axis=-1).reshape(1, -1, 3))
    processor.applyRGB(nodes)
    table = PyOpenColorIO.Lut3DTransform(gridSize=GRID)
    table.setData(nodes.ravel())
    table.setInterpolation(PyOpenColorIO.INTERP_TETRAHEDRAL)
    return PyOpenColorIO.Config.CreateRaw().getProcessor(table).getDefaultCPUProcessor()
