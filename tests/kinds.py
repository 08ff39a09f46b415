"""Kinds of sources, edges and forms, whose product must come out whole: for the tests and ``scripts/formats.py``."""

from __future__ import annotations

from dataclasses import dataclass
from fractions import Fraction
from pathlib import Path

import av
import numpy as np
from msgspec.structs import replace

from clips import numbered
from young_tremor.base import colour
from young_tremor.engine.delivery import actions
from young_tremor.engine.library import preset_library
from young_tremor.engine.media import footage
from young_tremor.media import codecs
from young_tremor.model.project import Shot

SIZE = (256, 144)
EDGES = ("open", "hold", "mirror", "repeat", "soft", "crop", "crop-as-needed")
FORMS = {name: codec.suffixes[0] for name, codec in codecs.CODECS.items()}
PLAYED = {"h264": ("yuv420p", "yuv420p10le", "yuv422p10le"), "h265": ("yuv420p", "yuv420p10le")}
MOST_OFF = 6.0  # of 255, of the mean colour of a block


@dataclass(frozen=True)
class Kind:
    """One kind of source: its file's ending, encoder and pixel format; ``frames`` 1 for a still."""

    name: str
    ending: str
    encoder: str
    pix_fmt: str
    frames: int = 2

    @property
    def graphic(self) -> bool:
        return self.pix_fmt.startswith(("rgb", "gbr", "argb", "bgra"))


KINDS = (
    Kind("4:2:0", ".mp4", "libx264", "yuv420p"),
    Kind("4:2:0 full range", ".mp4", "libx264", "yuvj420p"),
    Kind("4:2:2", ".mov", "dnxhd", "yuv422p"),
    Kind("4:4:4", ".mkv", "ffv1", "yuv444p"),
    Kind("4:2:0 10 bit", ".mkv", "libx265", "yuv420p10le"),
    Kind("4:2:2 10 bit", ".mov", "prores_ks", "yuv422p10le"),
    Kind("4:4:4 12 bit", ".mkv", "ffv1", "yuv444p12le"),
    Kind("4:4:4 16 bit", ".mkv", "ffv1", "yuv444p16le"),
    Kind("4:2:0 alpha", ".webm", "libvpx-vp9", "yuva420p"),
    Kind("4:4:4 alpha", ".mov", "prores_ks", "yuva444p10le"),
    Kind("grey", ".mkv", "ffv1", "gray"),
    Kind("grey 10 bit", ".mkv", "ffv1", "gray10le"),
    Kind("grey 16 bit", ".mkv", "ffv1", "gray16le"),
    Kind("grey still", ".png", "png", "gray", frames=1),
    Kind("RGB", ".mov", "qtrle", "rgb24"),
    Kind("RGB 16 bit", ".mov", "png", "rgb48be"),
    Kind("RGB alpha", ".mov", "qtrle", "argb"),
    Kind("RGB 16 bit alpha", ".mkv", "ffv1", "gbrap16le"),
    Kind("RGB still", ".png", "png", "rgb24", frames=1),
    Kind("RGB still alpha", ".png", "png", "rgba", frames=1),
    Kind("RGB still 16 bit", ".tiff", "tiff", "rgb48le", frames=1),
    Kind("float still", ".exr", "exr", "gbrpf32le", frames=1),
)


def make(kind: Kind, folder: Path) -> Path:
    """A file of a kind, with :func:`clips.numbered` pictures."""
    path = folder / f"{kind.name.replace(':', '')}{kind.ending}"
    options = {"update": "1"} if kind.frames == 1 else {}
    with av.open(str(path), "w", format="image2" if kind.frames == 1 else None, options=options) as file:
        stream = file.add_stream(kind.encoder, rate=24)
        stream.width, stream.height, stream.pix_fmt = *SIZE, kind.pix_fmt
        quick = {
            "libx264": {"preset": "ultrafast"},
            "libx265": {"preset": "ultrafast", "x265-params": "log-level=none:bframes=0:frame-threads=1"},
        }
        stream.options = {"profile": "dnxhr_hq"} if kind.encoder == "dnxhd" else quick.get(kind.encoder, {})
        for number in range(kind.frames):
            picture = av.VideoFrame.from_ndarray(numbered(number, SIZE), format="rgb24").reformat(format=kind.pix_fmt)
            picture.pts, picture.time_base = number, Fraction(1, 24)
            file.mux(stream.encode(picture))
        file.mux(stream.encode(None))
    return path


def shot_of(path: Path, edges: str, *, amount: float = 5.0) -> Shot:
    """A violent shot of a file, so that edges show; short where it is a still."""
    shot = actions.one_shot(path, preset_library.preset("walking"), edges=edges)
    shot = replace(shot, shake=actions.adjust_shake(shot.shake, amount=amount))
    return replace(shot, end=2 / 24) if footage.facts(str(path)).info.still else shot


def written(out: Path) -> Path:
    """The first file of a delivery: of numbered pictures the first of them."""
    return out if out.exists() else sorted(out.parent.glob(f"{out.stem}.*{out.suffix}"))[0]


def deliver(shot: Shot, out: Path, form: str) -> tuple[str, np.ndarray]:
    """Deliver a shot: the pixel format of what was written, and its first picture as RGB over black, 0…255."""
    actions.render((shot,), out, lambda done, total: None, codec_name=form, overwrite=True)
    with footage_of(written(out)) as (info, frame):
        return info, frame


class footage_of:  # noqa: N801  # reads as a function
    """The pixel format of a file and its first picture as RGB over black, 0…255; closed in the end."""

    def __init__(self, path: Path) -> None:
        self._source = footage.open_source(str(path))

    def __enter__(self) -> tuple[str, np.ndarray]:
        frame = self._source.read(0)
        frame = colour.over_black(frame) if frame.format.alpha else frame
        return self._source.info.format.name, colour.to_rgb(frame) * 255

    def __exit__(self, *error: object) -> None:
        self._source.close()


def wrong(kind: Kind, source: Path, edges: str, form: str, folder: Path) -> str:
    """What is wrong with a delivery, in words; empty where nothing is."""
    with footage_of(source) as (_, given):
        name, rgb = deliver(shot_of(source, edges), folder / f"out{FORMS[form]}", form)
    for old in folder.glob("out*"):
        old.unlink()
    if kind.ending == ".exr" and not name.endswith("f32le"):  # light, which goes into whole numbers by BT.1886
        given = 255 * (given / 255).clip(0, 1) ** (1 / 2.4)
    middle = np.s_[48:96, 80:176]
    off = float(np.abs(rgb[middle].mean((0, 1)) - given[middle].mean((0, 1))).max())
    if off > MOST_OFF:
        return f"colours off by {off:.0f}"
    if kind.pix_fmt.startswith("gray") and float(np.ptp(rgb[middle].mean((0, 1)))) > 1.5:
        return "grey is no longer grey"
    if form in PLAYED and name not in PLAYED[form]:
        return f"{name} is not played everywhere"
    if form == "h264" and kind.graphic and name != "yuv420p":
        return f"{name} of a graphic"
    return ""
