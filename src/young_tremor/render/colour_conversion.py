"""Pictures of one colour space as pictures of another: light in cd/m² lies between, as a screen shows it.

Standard range has its white at :attr:`Rendering.white` (203 cd/m², ITU-R BT.2408) and is shown by BT.1886; sRGB by its
own curve. PQ is ITU-R BT.2100 (SMPTE ST 2084), HLG with its system gamma for a screen of 1,000 cd/m². What a screen
cannot show is mapped: highlights by the curve of ITU-R BT.2390, section 5.4, on the largest of red, green and blue;
colours out of its gamut towards the grey of the same luminance.
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass, replace
from functools import lru_cache, partial

import numpy as np

from young_tremor import kernels
from young_tremor.base import colour, colour_spaces
from young_tremor.base.colour_spaces import BT1886, GAMMAS, HLG, PQ, SRGB
from young_tremor.base.frames import Frame
from young_tremor.base.pixels import ColourTags, PixelFormat, planar_format
from young_tremor.kernels.colour_tables import STEPS, ColourTables, drawn_to_grey
from young_tremor.model.project import FrameSettings
from young_tremor.render import camera_spaces
from young_tremor.render.frame_cache import FrameCache

PQ_TOP, HLG_TOP = 10_000.0, 1_000.0  # cd/m² of the largest values
HLG_GAMMA = 1.2  # of the system, for a screen of HLG_TOP
# of ITU-R BT.2100, table 4 and 5
M1, M2, C1, C2, C3 = 2610 / 16384, 2523 / 32, 3424 / 4096, 2413 / 128, 2392 / 128
A, B, C = 0.17883277, 0.28466892, 0.55991073
LEVELS = 65535  # of PQ, by which light is measured
BEYOND = 1.1  # codes of standard range up to which a table reaches
STRIPE, SIDE_BY_SIDE = 256, 2  # rows of a picture that are converted at a time, and how many such
MARGIN = 8  # rows beyond them, of which their chroma is made
LEAST, NEARLY = 1e-7, 1e-4  # of the top, by which light may be below nothing or beyond it and counts as within
MOST_LIGHT = 65504.0  # what half floats hold, for what is without end
MOST_MAPPED = 10_000.0  # cd/m² up to which highlights are mapped
KEEP = 512 << 20  # bytes of converted pictures that are kept


@dataclass(frozen=True)
class Rendering:
    """By what standard and high range are taken for each other: ``white`` of standard range, and the ``peak`` that high
    range reaches, in cd/m². ``gain``: of the light, for looking at a picture brighter or darker."""

    white: float = 203.0
    peak: float = 1000.0
    gain: float = 1.0


USUAL = Rendering()


def rendering_of(frame: FrameSettings) -> Rendering | None:
    """By what a shot's colours are converted; None where they are not."""
    return Rendering(frame.white, frame.peak) if frame.match_colours else None


def pq_code(light: np.ndarray) -> np.ndarray:
    """PQ values of light in cd/m²."""
    power = (np.clip(light, 0, PQ_TOP) / PQ_TOP) ** M1
    return np.asarray(((C1 + C2 * power) / (1 + C3 * power)) ** M2)


def pq_light(code: np.ndarray) -> np.ndarray:
    """Light in cd/m² of PQ values."""
    power = np.clip(code, 0, 1) ** (1 / M2)
    return np.asarray(PQ_TOP * (np.maximum(power - C1, 0) / (C2 - C3 * power)) ** (1 / M1))


def _hlg_scene(code: np.ndarray) -> np.ndarray:
    """Light of the scene 0…1 of HLG values."""
    code = np.clip(code, 0, 1)
    return np.where(code <= 0.5, code**2 / 3, (np.exp((code - C) / A) + B) / 12)


def _hlg_light(code: np.ndarray, weights: np.ndarray) -> np.ndarray:
    scene = _hlg_scene(code)
    luminance = (scene @ weights)[..., None]
    return np.asarray(HLG_TOP * scene * luminance ** (HLG_GAMMA - 1))


def _hlg_code(light: np.ndarray, weights: np.ndarray) -> np.ndarray:
    shown = np.clip(light / HLG_TOP, 0, None)
    luminance = np.maximum(shown @ weights, 1e-12)[..., None]
    return _hlg_signal(shown * luminance ** (1 / HLG_GAMMA - 1))


def _hlg_signal(scene: np.ndarray) -> np.ndarray:
    """HLG values of light of the scene."""
    scene = np.clip(scene, 0, 1)
    return np.where(scene <= 1 / 12, np.sqrt(3 * scene), A * np.log(np.maximum(12 * scene - B, 1e-12)) + C)


def _standard_light(code: np.ndarray, transfer: int) -> np.ndarray:
    """Light 0…1 of values of standard range; what is below black is black."""
    code = np.maximum(code, 0)
    if transfer == SRGB:
        return np.where(code <= 0.04045, code / 12.92, ((code + 0.055) / 1.055) ** 2.4)
    return np.asarray(code ** GAMMAS.get(transfer, BT1886))


def _standard_code(light: np.ndarray, transfer: int) -> np.ndarray:
    light = np.maximum(light, 0)
    if transfer == SRGB:
        return np.where(light <= 0.0031308, 12.92 * light, 1.055 * light ** (1 / 2.4) - 0.055)
    return np.asarray(light ** (1 / GAMMAS.get(transfer, BT1886)))


def light_of(code: np.ndarray, tags: ColourTags, rendering: Rendering = USUAL) -> np.ndarray:
    """Light in cd/m² (…, 3) of R'G'B' values (…, 3) in a picture's own primaries."""
    return _own_light(np.asarray(code, np.float64), tags, rendering) * rendering.gain


def _own_light(code: np.ndarray, tags: ColourTags, rendering: Rendering) -> np.ndarray:
    if colour_spaces.is_light(tags):
        return np.nan_to_num(code, nan=0.0, posinf=MOST_LIGHT, neginf=-MOST_LIGHT) * rendering.white
    if tags.transfer == PQ:
        return pq_light(code)
    if tags.transfer == HLG:
        return _hlg_light(code, colour_spaces.to_xyz(tags)[1])
    return _standard_light(code, tags.transfer) * rendering.white


def code_of(light: np.ndarray, tags: ColourTags, rendering: Rendering = USUAL) -> np.ndarray:
    """R'G'B' values (…, 3) of light in cd/m² (…, 3) in the primaries of a space."""
    if colour_spaces.is_light(tags):
        return light / rendering.white
    if tags.transfer == PQ:
        return pq_code(light)
    if tags.transfer == HLG:
        return _hlg_code(light, colour_spaces.to_xyz(tags)[1])
    return _standard_code(light / rendering.white, tags.transfer)


def _top(tags: ColourTags, rendering: Rendering) -> float:
    """The most light that a space holds, in cd/m²."""
    if colour_spaces.is_light(tags):
        return np.inf
    return {PQ: PQ_TOP, HLG: HLG_TOP}.get(tags.transfer, rendering.white)


def _peak(tags: ColourTags, rendering: Rendering) -> float:
    """The most light that is in a picture of a space of high range, in cd/m²; 0 of the others, of which nothing is
    mapped."""
    if not colour_spaces.is_high(tags):
        return 0.0
    return HLG_TOP if tags.transfer == HLG else rendering.peak


def mapped_highlight(light: np.ndarray, peak: float, top: float) -> np.ndarray:
    """Light of a picture that reaches ``peak`` on a screen that reaches ``top``, in cd/m² (ITU-R BT.2390, 5.4.1)."""
    whole, most = float(pq_code(np.array(peak))), float(pq_code(np.array(top)))
    value, most = pq_code(np.minimum(light, peak)) / whole, most / whole
    knee = 1.5 * most - 0.5
    t = np.clip((value - knee) / (1 - knee), 0, 1)
    bent = (2 * t**3 - 3 * t**2 + 1) * knee + (t**3 - 2 * t**2 + t) * (1 - knee) + (3 * t**2 - 2 * t**3) * most
    return pq_light(np.where(value < knee, value, bent) * whole)


def convert_rgb(rgb: np.ndarray, source: ColourTags, target: ColourTags, rendering: Rendering = USUAL) -> np.ndarray:
    """R'G'B' (…, 3) of one space as R'G'B' of another, worked out in full: float64.

    Curves of standard range are all for the same screen: between two of them the one of the source counts both ways.
    """
    if not (colour_spaces.is_known(source) and colour_spaces.is_known(target)):
        return camera_spaces.convert(rgb, source, target, gain=rendering.gain)
    if colour_spaces.is_standard(source) and colour_spaces.is_standard(target):
        target = replace(target, transfer=source.transfer)
    light = light_of(rgb, source, rendering)
    top, peak = _top(target, rendering), _peak(source, rendering)
    if peak > top:
        largest = np.maximum(light.max(axis=-1, keepdims=True), 1e-6)
        light = light * (mapped_highlight(largest, peak, top) / largest)
    if colour_spaces.chromaticities(source) != colour_spaces.chromaticities(target):
        back = np.linalg.inv(colour_spaces.to_xyz(target))
        light = light @ (back @ colour_spaces.to_xyz(source)).T
    if not colour_spaces.is_light(target):
        reach = top * BEYOND**BT1886 if colour_spaces.is_standard(source) and top < PQ_TOP else top
        light = drawn_to_grey(light, colour_spaces.to_xyz(target)[1], reach)
    return code_of(light, target, rendering)


@lru_cache(maxsize=16)
def _tables(source: ColourTags, target: ColourTags, rendering: Rendering) -> ColourTables:
    """The tables by which values of one space, neither of which is light, become those of another."""
    if colour_spaces.is_standard(source) and colour_spaces.is_standard(target):
        target = replace(target, transfer=source.transfer)
    share = np.arange(STEPS) / (STEPS - 1)
    standard, reach, top = colour_spaces.is_standard(source), 1.0, _top(target, rendering)
    if standard:
        reach, top = BEYOND, top * BEYOND**BT1886 if top < PQ_TOP else top
    into, weights = colour_spaces.to_xyz(source), colour_spaces.to_xyz(target)[1]
    ratio, peak = None, _peak(source, rendering)
    if peak > top:
        largest = np.maximum(share, share[1]) ** 2 * MOST_MAPPED
        ratio = _single(mapped_highlight(largest, peak, top) / largest)
    from_scene, to_scene = source.transfer == HLG, target.transfer == HLG
    luminance = np.maximum(share, share[1]) ** 4
    return ColourTables(
        _single(_hlg_scene(share) if from_scene else light_of(share * reach, source, rendering)),
        (STEPS - 1) / reach,
        _single(np.linalg.solve(colour_spaces.to_xyz(target), into)),
        _single(weights),
        top,
        -LEAST * top,
        (1 + NEARLY) * top,
        _single(_hlg_signal(share**4 * top / HLG_TOP) if to_scene else code_of(share**4 * top, target, rendering)),
        (STEPS - 1) / top**0.25,
        _single(into[1]),
        _single(rendering.gain * HLG_TOP * luminance ** (HLG_GAMMA - 1)) if from_scene else None,
        ratio,
        (STEPS - 1) / MOST_MAPPED**0.5,
        _single(luminance ** (1 / HLG_GAMMA - 1)) if to_scene else None,
        (STEPS - 1) / HLG_TOP**0.25,
    )


def _single(values: np.ndarray) -> np.ndarray:
    return np.ascontiguousarray(values, np.float32)


def _by_stripes(frame: Frame, work: Callable[[Frame], Sequence[np.ndarray]], steps: Sequence[int]) -> list[np.ndarray]:
    """What ``work`` makes of a frame, stripe by stripe and side by side: arrays that have a row for so many of the
    frame's. Each stripe comes with some rows more, which it takes to make chroma."""
    rows = frame.size[1]
    frame = replace(frame, colour=colour.with_matrix(frame.colour, frame.format, frame.size))
    if rows <= STRIPE:
        return list(work(frame))

    def convert_rows(first: int) -> list[np.ndarray]:
        low, end = max(first - MARGIN, 0), min(first + STRIPE, rows)
        arrays = work(_rows(frame, low, min(end + MARGIN, rows)))
        return [
            array[(first - low) // step : -(-(end - low) // step)] for array, step in zip(arrays, steps, strict=True)
        ]

    with ThreadPoolExecutor(SIDE_BY_SIDE, "colours") as pool:
        parts = list(pool.map(convert_rows, range(0, rows, STRIPE)))
    return [np.concatenate(arrays) for arrays in zip(*parts, strict=True)]


def _rows(frame: Frame, low: int, high: int) -> Frame:
    steps = [frame.format.plane_step(number)[1] for number in range(frame.format.planes)]
    planes = (plane[low // step : -(-high // step)] for plane, step in zip(frame.planes, steps, strict=True))
    return Frame(tuple(planes), frame.format, frame.colour)


def _converted(frame: Frame, target: ColourTags, rendering: Rendering) -> np.ndarray:
    """R'G'B' of a frame in another space (rows, columns, 3) float32."""

    def convert_rows(rows: Frame) -> tuple[np.ndarray]:
        return (_converted_rows(rows, target, rendering),)

    return _by_stripes(frame, convert_rows, (1,))[0]


def _converted_rows(frame: Frame, target: ColourTags, rendering: Rendering) -> np.ndarray:
    """The same at once: by tables where its values are whole numbers, in full where they are not."""
    rgb = colour.to_rgb(frame)
    source = ColourTags(frame.colour.primaries, frame.colour.transfer, space=frame.colour.space)
    target = ColourTags(target.primaries, target.transfer, space=target.space)
    whole = not frame.format.real
    if not (colour_spaces.is_known(source) and colour_spaces.is_known(target)):
        return camera_spaces.convert(rgb, source, target, quickly=whole, gain=rendering.gain)
    if not whole or colour_spaces.is_light(source) or colour_spaces.is_light(target):
        return convert_rgb(rgb, source, target, rendering).astype(np.float32)
    values = np.ascontiguousarray(rgb, np.float32)
    kernels.convert_colours(values, _tables(source, target, rendering))
    return values


_converted_frames: FrameCache[Frame] = FrameCache(KEEP)


def in_space_of(frame: Frame, target: ColourTags, rendering: Rendering, *, premultiplied: bool = False) -> Frame:
    """A plate's picture in the space of the footage that it lies over: itself where the spaces are the same, else as
    R'G'B' in float. ``premultiplied``: its colours are drawn towards black already, and stay so."""
    if not colour_spaces.differ(frame.colour, target):
        return frame
    key = (target.primaries, target.transfer, target.space, rendering, premultiplied)
    return _converted_frames.of(frame, key, partial(_float_frame, frame, target, rendering, premultiplied))


def _float_frame(frame: Frame, target: ColourTags, rendering: Rendering, premultiplied: bool) -> Frame:
    alpha = colour.alpha_of(frame)
    if alpha is not None and premultiplied:
        straight = colour.to_rgb(frame) / np.maximum(alpha, 1e-6)[..., None]
        whole = colour.from_rgb(straight, planar_format("rgb", 32, real=True), ColourTags(2, 2, 0, True))
        rgb = _converted(replace(whole, colour=replace(frame.colour, matrix=0, full=True)), target, rendering)
        rgb = rgb * alpha[..., None]
    else:
        rgb = _converted(frame, target, rendering)
    tags = ColourTags(target.primaries, target.transfer, 0, True, target.space)
    matched = colour.from_rgb(rgb, planar_format("rgb", 32, alpha=alpha is not None, real=True), tags, alpha)
    pieces = tuple(_float_frame(piece, target, rendering, premultiplied) for piece in frame.pieces)
    return replace(frame, planes=matched.planes, format=matched.format, colour=tags, pieces=pieces)


def convert(frame: Frame, format: PixelFormat, target: ColourTags, rendering: Rendering = USUAL) -> Frame:
    """A frame in another format and the colours of another space; the frame itself where there is nothing to do."""
    if not colour_spaces.differ(frame.colour, target):
        return colour.convert(frame, format, target)
    tags = colour.with_matrix(target, format, frame.size)

    def convert_rows(rows: Frame) -> tuple[np.ndarray, ...]:
        rgb = _converted_rows(rows, target, rendering)
        return colour.from_rgb(rgb, format, tags, colour.alpha_of(rows)).planes

    steps = [format.plane_step(number)[1] for number in range(format.planes)]
    return Frame(tuple(_by_stripes(frame, convert_rows, steps)), format, target)


def light_level(frame: Frame) -> np.ndarray:
    """(2,): the most light in cd/m² of the largest of red, green and blue of a PQ frame's pixels, and its mean."""
    largest = np.clip(colour.to_rgb(frame).max(axis=-1), 0, 1)
    light = _pq_table()[np.rint(largest * LEVELS).astype(np.int32)]
    return np.array([light.max(), light.mean(dtype=np.float64)])


@lru_cache(maxsize=1)
def _pq_table() -> np.ndarray:
    return _single(pq_light(np.arange(LEVELS + 1) / LEVELS))


SCREEN = ColourTags(1, 1, 0, True)  # as standard range is shown, so that one looks right beside the other


def for_screen(frame: Frame, stops: float = 0.0) -> np.ndarray:
    """R'G'B' of a frame as a screen shows it (rows, columns, 3) float32, high range mapped; with light of so many stops
    more or less. What was lit for no screen goes through the view that a person chose, if they did."""
    rendering, tags = Rendering(gain=2.0**stops), frame.colour
    if camera_spaces.has_view() and (colour_spaces.is_light(tags) or not colour_spaces.is_known(tags)):
        source = ColourTags(tags.primaries, tags.transfer, space=tags.space)
        quickly = not (frame.format.real or colour_spaces.is_light(tags))
        return camera_spaces.by_view(colour.to_rgb(frame), source, quickly=quickly, gain=rendering.gain)
    return _converted(frame, SCREEN, rendering)


def brighter(frame: Frame, stops: float) -> np.ndarray:
    """R'G'B' of a frame that a screen shows as it is (rows, columns, 3) float32, with so many stops more or less."""
    power = GAMMAS.get(frame.colour.transfer, BT1886)
    return np.asarray(colour.to_rgb(frame) * np.float32(2.0 ** (stops / power)))
