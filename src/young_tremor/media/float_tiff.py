"""TIFF pictures of floating point, which the film library does not read right."""

from __future__ import annotations

from pathlib import Path
from typing import TYPE_CHECKING, Any

import numpy as np

from young_tremor.base.errors import DecodeError
from young_tremor.base.frames import Alpha, Frame
from young_tremor.base.lazy_import import lazily
from young_tremor.base.pixels import ColourTags, PixelFormat, planar_format

if TYPE_CHECKING:
    import tifffile
else:
    tifffile = lazily("tifffile")

KINDS = (".tif", ".tiff")
LINEAR = ColourTags(2, 2, 2, True)


def real(path: Path) -> bool:
    """Whether a file is a TIFF picture of floating point. Never raises: whatever else it is, others say."""
    if path.suffix.lower() not in KINDS:
        return False
    try:
        with tifffile.TiffFile(path) as file:
            found = file.pages[0].dtype
            return found is not None and found.kind == "f"
    except Exception:
        return False


def shape(path: Path) -> tuple[tuple[int, int], PixelFormat, Alpha]:
    """Size, format and alpha of such a picture, without reading it. DecodeError where it is of no known kind."""
    try:
        with tifffile.TiffFile(path) as file:
            page: Any = file.pages[0]
            rows, columns, count = page.imagelength, page.imagewidth, page.samplesperpixel
            extra = tuple(int(extrasample) for extrasample in page.extrasamples)
    except Exception as error:
        raise DecodeError(f"{path.name} cannot be read as a picture ({error}): the file may be damaged.") from error
    if count not in (1, 3, 4):
        raise DecodeError(f"{path.name} has {count} channels: save it as grey, RGB or RGB with alpha.")
    format = planar_format("rgb" if count > 1 else "grey", 32, alpha=count == 4, real=True)
    alpha: Alpha = "none" if count < 4 else "premultiplied" if extra == (1,) else "straight"
    return (columns, rows), format, alpha


def read(path: Path) -> Frame:
    """Such a picture in single precision. DecodeError where it cannot be read."""
    _, format, _ = shape(path)
    try:
        values = np.asarray(tifffile.imread(path, key=0), np.float32)
    except Exception as error:
        last = (str(error).splitlines() or ["damaged"])[0]
        raise DecodeError(f"{path.name} cannot be read as a picture ({last[:100]}): save it uncompressed.") from error
    if values.ndim == 3 and values.shape[0] == format.planes and values.shape[-1] != format.planes:
        values = np.moveaxis(values, 0, -1)  # plane by plane
    if values.ndim == 2:
        return Frame((np.ascontiguousarray(values),), format, LINEAR)
    order = (1, 2, 0, 3)[: format.planes]
    return Frame(tuple(np.ascontiguousarray(values[..., k]) for k in order), format, LINEAR)
