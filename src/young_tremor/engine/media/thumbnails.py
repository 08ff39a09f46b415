"""Small pictures: of a shot's composite, and of one plate."""

from __future__ import annotations

from dataclasses import replace as change

import cv2
import numpy as np
from msgspec.structs import replace

from young_tremor.base import colour
from young_tremor.base.colour_spaces import is_mapped_for_screens
from young_tremor.engine.media import footage
from young_tremor.model.project import Media, Plate, Shot
from young_tremor.model.shake import Shake
from young_tremor.render.colour_conversion import for_screen
from young_tremor.render.frame import render_frame
from young_tremor.render.plan import Quality
from young_tremor.render.plate_pixels import picture_of
from young_tremor.render.resolve_plan import resolve
from young_tremor.render.screen import reduce, to_rgb

SIZE = (240, 136)
PLATE = (120, 68)
CHECKS = (54, 66)  # grey values of the pattern behind what is transparent
CHECK = 6  # pixels


def looks(shot: Shot) -> Shot:
    """What of a shot its print depends on: two with equal looks have equal prints."""
    plates = tuple(
        replace(p, id=str(number), name="", share=1.0, distance=1.0, shake=None, depth=None)
        for number, p in enumerate(shot.plates)
    )
    return Shot("", "", plates, start=shot.start, end=None, size=shot.size, rate=shot.rate)


def shot_print(shot: Shot, size: tuple[int, int] = SIZE) -> np.ndarray:
    """The first picture of a shot's composite, still, as RGB (rows, columns, 3) of about a size. TremorError where one
    of its files cannot be used."""
    still = replace(shot, shake=Shake(), hits=(), others=())
    infos = footage.infos(still)
    whole = resolve(still, infos, shaken=False)
    wide = whole.delivered[0] * float(whole.pixel_aspect)
    scale = min(1.0, max(size[0] / wide, size[1] / whole.delivered[1]))
    fitted = (2 * max(1, round(wide * scale / 2)), 2 * max(1, round(whole.delivered[1] * scale / 2)))
    plan = resolve(still, infos, Quality(fitted, "linear"), shaken=False)
    sources = footage.sources_of(still)
    try:
        frames = [picture_of(plan, plate, 0, source) for plate, source in zip(plan.plates, sources, strict=True)]
    finally:
        for source in sources:
            source.close()
    return to_rgb(render_frame(plan, 0, frames))


def plate_print(media: Media, frame: tuple[int, int], size: tuple[int, int] = PLATE) -> np.ndarray:
    """A plate's own picture, its transparency on a pattern of checks: RGB (rows, columns, 3)."""
    info = footage.info_of(media, frame)
    left, top, right, bottom = footage.bounds(media, info.size)
    if media.title is not None:  # as large as it goes
        room = 0.8 * min(info.size[0] / (right - left), info.size[1] / (bottom - top))
        media = replace(media, title=replace(media.title, size=min(media.title.size * room, 400.0)))
    plate = Plate("p", "p", media)
    shot = Shot("s", "s", (plate,))
    wide, high = info.size[0] * float(info.pixel_aspect), info.size[1]
    scale = min(size[0] / wide, size[1] / high)
    fitted = (max(2, round(wide * scale)), max(2, round(high * scale)))
    plan = resolve(shot, info, Quality(fitted, "linear"), shaken=False)
    source = footage.open_media(media, frame)
    try:
        given = picture_of(plan, plan.base, 0, source)
    finally:
        source.close()
    rows, columns = np.indices(fitted[::-1]) // CHECK
    checks = np.where((rows + columns) % 2, *CHECKS).astype(np.uint8)[..., None].repeat(3, axis=2)
    if not given.format.alpha:
        return to_rgb(reduce(given, fitted))[: fitted[1], : fitted[0]]
    new_frame = render_frame(change(plan, alpha=given.format), 0, [given])
    alpha = colour.alpha_of(new_frame)
    assert alpha is not None
    shown = for_screen(new_frame) if is_mapped_for_screens(new_frame.colour) else colour.to_rgb(new_frame)
    rgb = cv2.resize(np.clip(shown, 0, 1) * 255, fitted)
    cover = cv2.resize(alpha, fitted)[..., None]
    return np.asarray(np.rint(rgb * cover + checks * (1 - cover))).astype(np.uint8)
