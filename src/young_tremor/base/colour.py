"""Colour by the pixel contract: matrices, RGB in float both ways, and pictures from one format to another."""

from __future__ import annotations

from dataclasses import replace

import cv2
import numpy as np

from young_tremor.base.colour_spaces import is_light
from young_tremor.base.frames import Frame
from young_tremor.base.pixels import UNTOLD, ColourTags, PixelFormat, full_range, levels, without_alpha

# Kr, Kb of the colour matrices of ITU-T H.273 by number
_WEIGHTS = {
    1: (0.2126, 0.0722),
    4: (0.30, 0.11),
    5: (0.299, 0.114),
    6: (0.299, 0.114),
    7: (0.212, 0.087),
    9: (0.2627, 0.0593),
    10: (0.2627, 0.0593),
}
_RGB_ORDER = (2, 0, 1)  # R, G, B among the planes G, B, R


def matrix_of(colour: ColourTags, size: tuple[int, int]) -> int:
    """The number of a picture's colour matrix; untold (or RGB's "identity") it goes by its size: BT.709 from high
    definition on, BT.601 below."""
    return colour.matrix if colour.matrix in _WEIGHTS else (1 if size[1] > 576 or size[0] > 1024 else 6)


def matrix_for(primaries: int) -> int:
    """The number of the colour matrix that goes with primaries."""
    return {9: 9, 5: 5, 6: 6, 7: 6}.get(primaries, 1)


def with_matrix(colour: ColourTags, format: PixelFormat, size: tuple[int, int]) -> ColourTags:
    """Tags that say which matrix pictures of a format and size have, so that a part or a smaller copy keeps it."""
    return replace(colour, matrix=matrix_of(colour, size)) if format.kind == "yuv" else colour


def luma_weights(colour: ColourTags, size: tuple[int, int]) -> tuple[float, float]:
    """Kr and Kb of a picture's colour matrix."""
    return _WEIGHTS[matrix_of(colour, size)]


def to_rgb(frame: Frame) -> np.ndarray:
    """R'G'B' about 0…1 of a frame, nothing clipped: (rows, columns, 3) float32. Alpha is left out."""
    format, colour = frame.format, frame.colour
    if format.kind == "rgb":
        return np.stack([_unit(frame, plane) for plane in _RGB_ORDER], axis=-1)
    if format.kind == "grey":
        return np.repeat(_unit(frame, 0)[..., None], 3, axis=2)
    planes = [plane.astype(np.float32) for plane in frame.planes[:3]]
    planes[1:] = [upsample_chroma(plane, format, frame.size) for plane in planes[1:]]
    zero, span = np.array([levels(format, colour, plane) for plane in range(3)]).T
    whole = np.linalg.inv(_ycc(*luma_weights(colour, frame.size))) / span
    return np.asarray(cv2.transform(cv2.merge(planes), np.column_stack([whole, -whole @ zero])))


def from_rgb(rgb: np.ndarray, format: PixelFormat, colour: ColourTags, alpha: np.ndarray | None = None) -> Frame:
    """R'G'B' about 0…1, (rows, columns, 3) float, as a frame of a format: rounded, inside its values.

    ``alpha``: (rows, columns) 0…1 for a format that holds it, covered all over where there is none.
    """
    return Frame(tuple(_rounded(plane, format) for plane in planes_of(rgb, format, colour, alpha)), format, colour)


def _rounded(plane: np.ndarray, format: PixelFormat) -> np.ndarray:
    """What :meth:`PixelFormat.rounded` makes of a plane, in one pass."""
    if format.real:
        return format.rounded(plane)
    depth = cv2.CV_8U if format.depth <= 8 else cv2.CV_16U
    return format.clipped(np.asarray(cv2.addWeighted(plane, 1.0, plane, 0.0, 0.0, dtype=depth)))


def planes_of(
    rgb: np.ndarray, format: PixelFormat, colour: ColourTags, alpha: np.ndarray | None = None
) -> list[np.ndarray]:
    """The same as code values before they are rounded: float32 planes."""
    size = (rgb.shape[1], rgb.shape[0])
    zero, span = np.array([levels(format, colour, number) for number in range(format.planes)], np.float32).T
    if format.kind == "rgb":
        planes = [rgb[..., k] * span[n] + zero[n] for n, k in enumerate((1, 2, 0))]
    else:
        matrix = _ycc(*luma_weights(colour, size))[: format.colours]
        coded = np.column_stack([matrix * span[: format.colours, None], zero[: format.colours]])
        rgb = np.ascontiguousarray(rgb, np.float32)
        planes = [cv2.transform(rgb, row[None]) for row in coded]  # one by one: no picture of three to take apart
        planes[1:] = [downsample_chroma(plane, format, size) for plane in planes[1:]]
    if format.alpha:
        cover = np.ones(rgb.shape[:2], np.float32) if alpha is None else alpha
        planes.append(cover * span[-1] + zero[-1])
    return planes


def pack_premultiplied(frame: Frame, format: PixelFormat, colour: ColourTags, *, premultiplied: bool) -> np.ndarray:
    """A frame with alpha as one array in the colours of a format: code values less black, drawn towards it by alpha,
    all at the luma's places, and alpha 0…1 last: (rows, columns, 4) float32. Of grey only the first is used.

    ``premultiplied``: its colours are drawn towards black already.
    """
    own, size = frame.format, frame.whole
    planes = [_unit(frame, plane) for plane in range(own.planes)]
    alpha = planes.pop() if own.alpha else np.ones(planes[0].shape, np.float32)
    if own.kind == "yuv":
        planes[1:] = [upsample_chroma(part, own, frame.size) for part in planes[1:]]
    if own.alpha and not premultiplied:
        planes = [cv2.multiply(plane, alpha) for plane in planes]
    planes = planes if len(planes) == 3 else planes * 3
    return np.asarray(
        cv2.transform(
            cv2.merge([*planes, alpha]), _linear(own.kind, luma_weights(frame.colour, size), format, colour, size)
        )
    )


def _linear(
    kind: str, weights: tuple[float, float], format: PixelFormat, colour: ColourTags, size: tuple[int, int]
) -> np.ndarray:
    """(4, 4): planes 0…1 of a kind (YCbCr by ``weights``), alpha → code values of a format, less black, and alpha."""
    rgb = np.eye(3)[[2, 0, 1]] if kind == "rgb" else np.array([[1.0, 0, 0]] * 3)
    if kind == "yuv":
        rgb = np.linalg.inv(_ycc(*weights))
    made = np.eye(3)[[1, 2, 0]] @ rgb if format.kind == "rgb" else _ycc(*luma_weights(colour, size)) @ rgb
    out = np.eye(4)
    out[:3, :3] = made
    for plane in range(format.colours):
        out[plane] *= levels(format, colour, plane)[1]
    return out


def _ycc(kr: float, kb: float) -> np.ndarray:
    """(3, 3): R', G', B' → Y', Cb, Cr."""
    luma = np.array([kr, 1 - kr - kb, kb])
    return np.stack(
        [luma, (np.array([0, 0, 1.0]) - luma) / (2 * (1 - kb)), (np.array([1.0, 0, 0]) - luma) / (2 * (1 - kr))]
    )


def luma8(frame: Frame) -> np.ndarray:
    """The luma of a frame (green, for RGB), as 8-bit code values whatever its depth: (rows, columns) uint8. Light is
    taken by its root, about as it is seen."""
    plane, format = frame.planes[0], frame.format
    if format.real:
        values = np.clip(plane, 0, 1)
        return np.rint((np.sqrt(values) if is_light(frame.colour) else values) * 255).astype(np.uint8)
    return plane if format.depth == 8 else (plane >> (format.depth - 8)).astype(np.uint8)


def upsample_chroma(plane: np.ndarray, format: PixelFormat, size: tuple[int, int]) -> np.ndarray:
    """A chroma plane (float32, or int16 with a fraction) at the places of the luma, its siting respected: (height,
    width)."""
    if format.step == (1, 1):
        return plane
    halves = (format.step, format.siting) == ((2, 2), (0.0, 0.5)) and size == (2 * plane.shape[1], 2 * plane.shape[0])
    if plane.dtype == np.int16 and halves:
        return _raised_by_halves(plane)
    (across, down), (x, y) = format.step, format.siting
    matrix = np.array([[1 / across, 0, -x / across], [0, 1 / down, -y / down]])
    flags = cv2.INTER_LINEAR | cv2.WARP_INVERSE_MAP
    return cv2.warpAffine(plane, matrix, size, flags=flags, borderMode=cv2.BORDER_REPLICATE)


def _raised_by_halves(plane: np.ndarray) -> np.ndarray:
    """The same for the commonest chroma: rows lie between the luma's, and every second column on one of them."""
    rows, columns = plane.shape
    own = cv2.resize(plane, (columns, 2 * rows), interpolation=cv2.INTER_LINEAR)
    after = np.hstack([own[:, 1:], own[:, -1:]])
    return cv2.merge([own, cv2.addWeighted(own, 0.5, after, 0.5, 0.0)]).reshape(2 * rows, 2 * columns)


def downsample_chroma(plane: np.ndarray, format: PixelFormat, size: tuple[int, int]) -> np.ndarray:
    """A float plane at the places of the luma (channels last, if any), as a chroma plane of a format: averaged about
    each chroma sample's place."""
    width, height = format.plane_size(1, size)
    for axis, step, siting, count in (
        (0, format.step[1], format.siting[1], height),
        (1, format.step[0], format.siting[0], width),
    ):
        if step == 1:
            continue
        # a tent as wide as the distance between samples, or a box where they lie between the luma's
        if siting != int(siting) and plane.shape[axis] == step * count and siting == (step - 1) / 2:
            half = (plane.shape[1], count) if axis == 0 else (count, plane.shape[0])
            plane = cv2.resize(plane, half, interpolation=cv2.INTER_AREA)
            continue
        taps = np.ones(step) if siting != int(siting) else np.convolve(np.ones(step), np.ones(step))
        first = -int(np.floor(siting - (len(taps) - 1) / 2 + 0.5))
        kernel = (taps / taps.sum()).astype(np.float32).reshape((-1, 1) if axis == 0 else (1, -1))
        anchor = (0, first) if axis == 0 else (first, 0)
        plane = cv2.filter2D(plane, -1, kernel, anchor=anchor, borderType=cv2.BORDER_REPLICATE)
        plane = np.ascontiguousarray(plane[::step] if axis == 0 else plane[:, ::step])
    return plane


def _unit(frame: Frame, plane: int) -> np.ndarray:
    """A plane as float32: 0 black (or no colour), 1 white."""
    zero, span = levels(frame.format, frame.colour, plane)
    return (frame.planes[plane].astype(np.float32) - np.float32(zero)) / np.float32(span)


def alpha_of(frame: Frame) -> np.ndarray | None:
    """How much of each pixel is covered, 0…1 float32; None where the format holds no alpha."""
    return _unit(frame, frame.format.colours) if frame.format.alpha else None


def coded_colour(format: PixelFormat, colour: ColourTags, made: PixelFormat, size: tuple[int, int]) -> ColourTags:
    """The tags of pictures that are taken from one format into another: RGB in YCbCr gets the matrix of its size, and
    what has to be made anew is of limited range, which every player shows right."""
    if made.kind == format.kind == "yuv" and made.step == format.step:
        return colour
    if made.kind == "yuv":
        if format.kind == "yuv" and not colour.full:
            return replace(colour, matrix=colour.matrix or matrix_of(colour, size), full=False)
        # RGB, grey, and what still pictures hold
        matrix = 9 if colour.primaries == 9 else matrix_of(UNTOLD, size)
        primaries = colour.primaries if colour.primaries != 2 else (1 if matrix == 1 else 2)
        return ColourTags(primaries, colour.transfer, matrix, False)
    return replace(
        colour, matrix=0 if made.kind == "rgb" else colour.matrix, full=colour.full if format.kind != "yuv" else True
    )


def convert(frame: Frame, format: PixelFormat, colour: ColourTags) -> Frame:
    """A frame in another format and colour description; the frame itself where there is nothing to do.

    More depth in the same planes is exact (each value stands for itself); otherwise float32 lies between, rounded once.
    """
    if frame.format == format and frame.colour == colour:
        return frame
    alike = (
        frame.format.kind == format.kind
        and frame.format.step == format.step
        and not format.real
        and not frame.format.real
        and full_range(frame.format, frame.colour) == full_range(format, colour)
        and (format.kind != "yuv" or matrix_of(frame.colour, frame.size) == matrix_of(colour, frame.size))
    )
    if alike:
        return Frame(_deeper(frame, format, colour), format, colour)
    if _is_finer(frame, format, colour):
        return Frame(_finer(frame, format), format, colour)
    return from_rgb(to_rgb(frame), format, colour, alpha_of(frame))


def _is_finer(frame: Frame, format: PixelFormat, colour: ColourTags) -> bool:
    """Whether a format holds YCbCr of limited range with finer chroma or more bits, all in whole numbers."""
    old = frame.format
    return (
        old.kind == format.kind == "yuv"
        and old.depth <= format.depth <= 12
        and old.alpha == format.alpha
        and old.step[0] in (format.step[0], 2 * format.step[0])
        and old.step[1] in (format.step[1], 2 * format.step[1])
        and all(
            finer == coarser or (siting in (0.0, 0.5) and format.siting[k] == (siting if finer == coarser else 0.0))
            for k, (finer, coarser, siting) in enumerate(zip(format.step, old.step, old.siting, strict=True))
        )
        and not full_range(old, frame.colour)
        and not full_range(format, colour)
        and matrix_of(frame.colour, frame.size) == matrix_of(colour, frame.size)
    )


def _finer(frame: Frame, format: PixelFormat) -> tuple[np.ndarray, ...]:
    """The planes of a frame with finer chroma: samples between others by their distance, siting respected."""
    old, out = frame.format, []
    for number, source in enumerate(frame.planes):
        plane, bits = source.astype(np.uint16), format.depth - old.depth
        if number == old.colours:  # alpha is of full range
            out.append(format.rounded(source.astype(np.float32) * np.float32(format.top / old.top)))
            continue
        if format.chroma(number):
            for axis in (0, 1):
                if old.step[1 - axis] != format.step[1 - axis]:
                    count = format.plane_size(number, frame.size)[1 - axis]
                    plane, bits = _double_samples(plane, axis, old.siting[1 - axis], count), bits - 2
        if bits < 0:
            plane = (plane + np.uint16(1 << (-bits - 1))) >> np.uint16(-bits)
        elif bits:
            plane = plane << np.uint16(bits)
        out.append(plane.astype(format.dtype, copy=False))
    return tuple(out)


def _double_samples(plane: np.ndarray, axis: int, siting: float, count: int) -> np.ndarray:
    """Four times the values of a plane at twice as many places along an axis: its own lie at 0, 2, 4 … plus ``siting``
    (0 or 0.5) of the new ones."""
    rows = plane if axis == 0 else plane.T
    before, after = np.concatenate([rows[:1], rows[:-1]]), np.concatenate([rows[1:], rows[-1:]])
    out = np.empty((2 * len(rows), rows.shape[1]), np.uint16)
    if siting:
        out[::2], out[1::2] = 3 * rows + before, 3 * rows + after
    else:
        out[::2], out[1::2] = 4 * rows, 2 * rows + 2 * after
    out = out[:count]
    return out if axis == 0 else np.ascontiguousarray(out.T)


def _deeper(frame: Frame, format: PixelFormat, colour: ColourTags) -> tuple[np.ndarray, ...]:
    """The planes of a frame in a format that differs in depth and alpha alone."""
    old, out = frame.format, []
    for plane in range(format.planes):
        if plane >= frame.format.planes:
            out.append(np.full(frame.planes[0].shape, format.top, format.dtype))
            continue
        source = frame.planes[plane]
        if format.depth == old.depth:
            out.append(source)
            continue
        (zero, span), (zero_before, span_before) = levels(format, colour, plane), levels(old, frame.colour, plane)
        out.append(format.rounded((source.astype(np.float32) - zero_before) * (span / span_before) + zero))
    return tuple(out)


def over_black(frame: Frame) -> Frame:
    """A frame with alpha, over black and without it."""
    alpha = alpha_of(frame)
    if alpha is None:
        return frame
    planes = premultiply(frame.planes, frame.format, frame.colour, alpha)
    format = without_alpha(frame.format)
    return Frame(tuple(format.rounded(p) for p in planes), format, frame.colour)


def premultiply(
    planes: tuple[np.ndarray, ...], format: PixelFormat, colour: ColourTags, alpha: np.ndarray
) -> list[np.ndarray]:
    """Colour planes drawn towards black by how much of each pixel is covered (alpha 0…1 at the luma's places): float32
    code values."""
    out = []
    for plane in range(format.colours):
        zero = np.float32(levels(format, colour, plane)[0])
        share = downsample_chroma(alpha, format, (alpha.shape[1], alpha.shape[0])) if format.chroma(plane) else alpha
        out.append((planes[plane].astype(np.float32) - zero) * share + zero)
    return out
