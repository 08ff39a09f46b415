"""Makes ``docs/formats.md``: kinds of files written by the decoder library itself, read frame by frame against the
numbers drawn into them, shaken, and delivered in every form.

    python scripts/formats.py [--only TEXT]
"""

from __future__ import annotations

import argparse
import sys
import tempfile
from dataclasses import dataclass
from fractions import Fraction
from pathlib import Path

import av
import numpy as np

ROOT = Path(__file__).parents[1]
sys.path.insert(0, str(ROOT / "tests"))

import kinds  # noqa: E402
from clips import number_of, numbered  # noqa: E402
from young_tremor.base import colour  # noqa: E402
from young_tremor.base.errors import TremorError  # noqa: E402
from young_tremor.engine.delivery import actions  # noqa: E402
from young_tremor.engine.library import preset_library  # noqa: E402
from young_tremor.engine.media import footage  # noqa: E402
from young_tremor.media import codecs, image_sequence  # noqa: E402
from young_tremor.media.sources import STILL  # noqa: E402

FRAMES, SIZE = 50, (320, 180)
FORMS = (("h264", ".mp4"), ("h265", ".mp4"), ("ffv1", ".mkv"))


@dataclass(frozen=True)
class Row:
    """One kind of file: its name, what encodes it, pixel format, settings; ``late`` frames before the first picture."""

    name: str
    encoder: str
    pix_fmt: str = "yuv420p"
    options: tuple[tuple[str, str], ...] = ()
    late: int = 0
    frames: int = FRAMES

    @property
    def shown(self) -> int:
        """How many frames it is shown for: a single picture for its five seconds at 24 a second."""
        return self.frames if self.frames > 1 else round(STILL * image_sequence.RATE)


B = (("bf", "2"),)
X264 = (("g", "24"), ("bf", "3"), ("preset", "veryfast"))
X265 = (("x265-params", "log-level=error:keyint=24:bframes=3"), ("preset", "veryfast"))
ROWS = (
    *(
        Row(f"H264 B-frames{ending}", "libx264", options=X264)
        for ending in (".mp4", ".mov", ".mkv", ".ts", ".m2ts", ".mts", ".avi", ".flv", ".3gp", ".nut", ".h264")
    ),
    *(Row(f"H264 late{ending}", "libx264", options=X264, late=37) for ending in (".mp4", ".mkv", ".ts")),
    Row("H264 open GOP.mp4", "libx264", options=(*X264, ("x264-params", "open-gop=1"))),
    Row("H264 10 bit 4_2_2.mov", "libx264", "yuv422p10le", X264),
    Row("H264 4_4_4.mkv", "libx264", "yuv444p", X264),
    Row("H264 full range.mp4", "libx264", "yuvj420p", X264),
    Row("H264 grey.mkv", "libx264", "gray", X264),
    Row("H265.mp4", "libx265", options=X265),
    Row("H265.ts", "libx265", options=X265),
    Row("H265 10 bit.mkv", "libx265", "yuv420p10le", X265),
    Row("H265 12 bit 4_4_4.mkv", "libx265", "yuv444p12le", X265),
    *(
        Row(f"MPEG-2 B-frames{ending}", "mpeg2video", options=B)
        for ending in (".ts", ".mpg", ".vob", ".mxf", ".mkv", ".m2v")
    ),
    Row("MPEG-1.mpg", "mpeg1video", options=B),
    Row("MPEG-4 B-frames.avi", "mpeg4", options=B),
    Row("MPEG-4 B-frames.mp4", "mpeg4", options=B),
    Row("WMV2.asf", "wmv2"),
    Row("VP8.ogv", "libvpx"),
    Row("VP9.webm", "libvpx-vp9"),
    Row("VP9 alpha.webm", "libvpx-vp9", "yuva420p"),
    Row("VP9.ivf", "libvpx-vp9"),
    Row("AV1.mp4", "libsvtav1", options=(("preset", "12"), ("svtav1-params", "logo=0"))),
    Row("ProRes 422.mov", "prores_ks", "yuv422p10le"),
    Row("ProRes 4444 alpha.mov", "prores_ks", "yuva444p10le"),
    Row("DNxHR.mxf", "dnxhd", "yuv422p", (("profile", "dnxhr_hq"),)),
    Row("DNxHR.mov", "dnxhd", "yuv422p", (("profile", "dnxhr_hq"),)),
    Row("MJPEG.avi", "mjpeg", "yuvj420p"),
    Row("MJPEG.mov", "mjpeg", "yuvj422p"),
    Row("FFV1.avi", "ffv1"),
    Row("FFV1 16 bit.mkv", "ffv1", "yuv444p16le"),
    Row("FFV1 RGB 16 bit alpha.mkv", "ffv1", "gbrap16le"),
    Row("HuffYUV.avi", "huffyuv", "yuv422p"),
    Row("UT RGB alpha.avi", "utvideo", "gbrap"),
    Row("PNG RGBA.mov", "png", "rgba"),
    Row("PNG 16 bit.mov", "png", "rgb48be"),
    Row("Animation.mov", "qtrle", "argb"),
    Row("CineForm.mov", "cfhd", "gbrp12le"),
    Row("raw.y4m", "wrapped_avframe"),
    Row("GIF.gif", "gif", "rgb8"),
    Row("still.png", "png", "rgb24", frames=1),
    Row("still alpha.png", "png", "rgba", frames=1),
    Row("still 16 bit.png", "png", "rgb48be", frames=1),
    Row("still.jpg", "mjpeg", "yuvj420p", frames=1),
    Row("still 4_4_4.jpg", "mjpeg", "yuvj444p", frames=1),
    Row("still.tiff", "tiff", "rgb48le", frames=1),
    Row("still.webp", "libwebp", "bgra", frames=1),
    Row("still float.exr", "exr", "gbrapf32le", frames=1),
)


def make(row: Row, folder: Path) -> Path:
    """Write a file of a kind, a number drawn into each picture."""
    path = folder / row.name
    kind = {"frames1": "image2"}.get(f"frames{row.frames}")
    options = {"update": "1"} if kind else {}
    with av.open(str(path), "w", format=kind, options=options) as file:
        stream = file.add_stream(row.encoder, rate=25)
        stream.width, stream.height, stream.pix_fmt = (
            *SIZE,
            row.pix_fmt if row.encoder != "wrapped_avframe" else "yuv420p",
        )
        stream.options = dict(row.options)
        if row.encoder in ("mjpeg", "libwebp", "mpeg2video", "mpeg1video", "mpeg4"):
            stream.bit_rate = 8_000_000
        stream.codec_context.time_base = Fraction(1, 25)
        for number in range(row.frames):
            rgb = numbered(number if row.frames > 1 else 5, SIZE)
            picture = av.VideoFrame.from_ndarray(rgb, format="rgb24").reformat(format=stream.pix_fmt)
            picture.pts, picture.time_base = number + row.late, Fraction(1, 25)
            file.mux(stream.encode(picture))
        file.mux(stream.encode(None))
    return path


def read(path: Path, row: Row) -> str:
    """Whether every frame is found by its number, in any order, with its colours."""
    source = footage.open_source(str(path))
    try:
        if source.info.frames != row.shown:
            return f"{source.info.frames} frames for {row.shown}"
        order = [0, row.shown - 1, *np.random.default_rng(1).integers(0, row.shown, 30).tolist()]
        wrong = [k for k in order if number_of(colour.luma8(source.read(k))) != (k if row.frames > 1 else 5)]
        return (
            f"wrong: {sorted(set(wrong))}" if wrong else off(source.read(order[-1]), order[-1] if row.frames > 1 else 5)
        )
    finally:
        source.close()


def off(frame, number: int) -> str:  # type: ignore[no-untyped-def]
    """Whether a frame has the colours that were drawn, codecs' losses apart."""
    frame = colour.over_black(frame) if frame.format.alpha else frame
    rgb = colour.to_rgb(frame) * 255
    truth = numbered(number, SIZE).astype(np.float32)
    apart = float(np.abs(rgb[60:].reshape(-1, 3).mean(axis=0) - truth[60:].reshape(-1, 3).mean(axis=0)).max())
    return "yes" if apart < 6 else f"colours off by {apart:.0f}"


def deliver(path: Path, row: Row, codec: str, ending: str) -> str:
    """What a still render of a file becomes in a form, and whether it holds what it should."""
    preset = preset_library.preset("walking")
    calm = actions.adjust_shake(preset.shake, amount=0)
    shot = actions.one_shot(path, type(preset)(preset.name, "", "", calm), edges="open")
    out = path.with_name(f"out-{codec}{ending}")
    actions.render((shot,), out, lambda done, total: None, codec_name=codec, overwrite=True)
    info = footage.facts(str(out)).info
    found = read(out, row)
    return info.format.name if found == "yes" else f"{info.format.name}: {found}"


def shaken(path: Path) -> str:
    shot = actions.one_shot(path, preset_library.preset("walking"))
    out = path.with_name("shaken.mp4")
    actions.render((shot,), out, lambda done, total: None, overwrite=True)
    return "yes" if footage.facts(str(out)).info.frames == footage.facts(str(path)).info.frames else "frames differ"


def product(folder: Path) -> tuple[list[str], int]:
    """The rows of the second table: each kind through every edge mode in every form; and how many are wrong."""
    lines, bad = [], 0
    for kind in kinds.KINDS:
        source = kinds.make(kind, folder)
        cells = []
        for form in kinds.FORMS:
            wrong = [
                f"{edges}: {words}"
                for edges in kinds.EDGES
                if (words := kinds.wrong(kind, source, edges, form, folder))
            ]
            bad += len(wrong)
            cells.append("; ".join(wrong) or "right")
        lines.append(f"| {kind.name} | {' | '.join(cells)} |")
        print(lines[-1], flush=True)
    return lines, bad


def main() -> int:
    """Make every file, and the tables."""
    parser = argparse.ArgumentParser()
    parser.add_argument("--only", default="")
    only = parser.parse_args().only
    lines, bad = [], 0
    with tempfile.TemporaryDirectory() as name:
        for row in ROWS:
            if only.lower() not in row.name.lower():
                continue
            cells: list[str] = []
            try:
                path = make(row, Path(name))
                info = footage.facts(str(path)).info
                cells = [f"{info.format.name}{', ' + info.alpha + ' alpha' if info.alpha != 'none' else ''}"]
                cells += [read(path, row), shaken(path)]
                cells += [deliver(path, row, *form) for form in FORMS]
            except (TremorError, av.FFmpegError) as error:
                cells = [*cells, f"{type(error).__name__}: {error}"]
            bad += any(":" in cell or "off" in cell or "differ" in cell or " for " in cell for cell in cells[1:])
            line = f"| {row.name.replace('_', ':')} | {' | '.join(cells)} |"
            print(line, flush=True)
            lines.append(line)
    if not only:
        with tempfile.TemporaryDirectory() as name:
            rows, wrong = product(Path(name))
        bad += wrong
        page = HEAD + "\n".join(lines) + PRODUCT + "\n".join(rows) + TAIL
        (ROOT / "docs" / "formats.md").write_text(page, encoding="utf-8")
    return 1 if bad else 0


HEAD = """# Which files come through, and how

Made by `python scripts/formats.py`: each kind is written by the decoder library itself with a number drawn into every
picture, read in a random order against those numbers and colours, shaken, and delivered as it is (nothing moving) in
every form, where the planes that stand in the file are named.

| kind | worked in as | every frame right | shaken | H.264 | H.265 | FFV1 |
| --- | --- | --- | --- | --- | --- | --- |
"""
PRODUCT = f"""

## Every edge mode in every form

Each kind was shaken hard under each of the edge modes ({", ".join(kinds.EDGES)}) and delivered in every form: the
numbers and colours of the middle have to be those of the source, grey has to stay grey, and H.264 and H.265 have to be
what players know. *right*: all seven.

| kind | {" | ".join(codecs.CODECS[form].words for form in kinds.FORMS)} |
| --- |{" --- |" * len(kinds.FORMS)}
"""
TAIL = """

- **Lossless stays what it is:** FFV1 keeps depth, chroma, RGB and alpha. What it has no form for goes into the next
  larger one (12-bit 4:2:0 with alpha into 16 bit), every value kept.
- **H.264 and H.265 are for being played:** 4:2:0, which all players know, of 8 or 10 bits; graphics are 8 bits in
  H.264. 4:2:2 of 10 bits stays in H.264, where whoever plays the one plays the other. *Full chroma* (`--full-chroma`)
  keeps 4:2:2 and 4:4:4, which many players refuse. RGB and other chroma become limited range with the matrix of their
  size (BT.709 from high definition on, BT.601 below). Footage that is 4:2:0 already keeps its range and tags. Alpha is
  laid over black. Each of these is said, in `shake` on standard error and in the window when it is written.
- **Sound:** tracks of a whole file are passed on packet by packet where the container takes them, up to the end of the
  picture; otherwise they are cut or filled to the picture and encoded (AAC, or FLAC beside FFV1).
- **Colours:** a file is in the space that its tags tell, a picture in that of its profile (ICC in PNG, JPEG and TIFF)
  or sRGB, EXR in light of its chromaticities (BT.709's without them). What differs from the footage, or from the film,
  is converted: greys of Rec. 601, 709, 2020 and sRGB keep their values, only primaries are converted between them.

| space in | told by | space out |
| --- | --- | --- |
| Rec. 601, 709, 2020 | tags; untold it is 709 | itself, or any |
| sRGB, Display P3, Adobe RGB | tags, profile | itself, or any |
| Rec. 2100 PQ and HLG, P3 PQ | tags | itself in 10 bits or more; standard range by BT.2390 |
| light: Rec. 709, P3, 2020, ACEScg, ACES2065-1 | EXR chromaticities | itself in EXR and FFV1, else Rec. 709 |
| camera logs, a configuration's spaces | a person | their view (OpenColorIO) |

  Metadata: the mastering display and light level of PQ go along where it stays PQ, in H.265 and AV1; VP9, ProRes and
  FFV1 do not carry them here, which is said. Dynamic metadata (Dolby Vision, HDR10+) are not kept.
- **Not taken:** lists of other files (playlists, concat lists), addresses, devices and pipes; pictures of more than
  200 MB each.
"""

if __name__ == "__main__":
    sys.exit(main())
