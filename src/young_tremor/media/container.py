"""Opening a media file: a regular file on this machine, of a kind that holds its pictures itself."""

from __future__ import annotations

import errno
import os
import stat
from dataclasses import dataclass
from pathlib import Path
from typing import Any, TypeAlias

import av

from young_tremor.base.errors import DecodeError, MissingFile, RequestError, WorkError, from_os
from young_tremor.base.pixels import MOST_BYTES
from young_tremor.media import image_sequence
from young_tremor.media.decoder_formats import reading

# what the film library opens and decodes: its own types say less than is used here
Container: TypeAlias = Any
Stream: TypeAlias = Any
Picture: TypeAlias = Any

#: Demuxers that read one file and nothing else: no playlist, no list of files, no device, no network.
KINDS = (
    "mov,mp4,m4a,3gp,3g2,mj2",
    "matroska,webm",
    "mpegts",
    "mpeg",
    "mpegvideo",
    "avi",
    "mxf",
    "mxf_opatom",
    "flv",
    "asf",
    "ogg",
    "nut",
    "gxf",
    "dv",
    "ivf",
    "gif",
    "apng",
    "h264",
    "hevc",
    "av1",
    "obu",
    "m4v",
    "vc1",
    "dnxhd",
    "yuv4mpegpipe",
    "rm",
    "wtv",
    "png_pipe",
    "jpeg_pipe",
    "mjpeg",
    "mjpeg_2000",
    "tiff_pipe",
    "bmp_pipe",
    "webp_pipe",
    "exr_pipe",
    "j2k_pipe",
    "dpx_pipe",
    "ppm_pipe",
    "pgm_pipe",
    "pam_pipe",
    "pbm_pipe",
    "tga_pipe",
    "qoi_pipe",
    "sgi_pipe",
    "psd_pipe",
    "hdr_pipe",
    "jpegls_pipe",
    "sunrast_pipe",
    "gif_pipe",
    "wav",
    "w64",
    "aiff",
    "flac",
    "mp3",
    "aac",
    "ac3",
    "eac3",
    "caf",
    "au",
    "amr",
    "dts",
    "loas",
    "tta",
    "voc",
)
STILLS = tuple(kind for kind in KINDS if kind.endswith("_pipe"))
_OPTIONS = {"format_whitelist": ",".join(KINDS), "protocol_whitelist": "file", "enable_drefs": "0"}
_STARTS = {b"\xff\xd8\xff": "jpeg_pipe", b"\x89PNG": "png_pipe", b"II*\0": "tiff_pipe", b"MM\0*": "tiff_pipe"}
MOST_SIDE = 32_768  # pixels


@dataclass(frozen=True)
class Identity:
    """Which file it is, and in which state: path, device, inode, size in bytes and time of change."""

    path: str
    device: int
    inode: int
    size: int
    changed_ns: int

    @property
    def stamp(self) -> tuple[int, ...]:
        """The state of the file: device, inode, size, time."""
        return (self.device, self.inode, self.size, self.changed_ns)


def identity(path: Path | str) -> Identity:
    """The present state of a media file; TremorError where it is not there or no regular file."""
    text = os.fspath(path)
    if "\0" in text:
        raise RequestError("A file name cannot hold the character 0: choose another file.")
    if image_sequence.is_pattern(text):
        return Identity(os.path.abspath(text), *image_sequence.state(os.path.abspath(text)))
    try:
        found = os.stat(text)
    except OSError as error:
        if error.errno in (errno.ENOENT, errno.ENOTDIR):
            raise MissingFile(f"{text} is not there: check the name and the folder.") from error
        raise from_os(error, text, "read") from error
    if stat.S_ISDIR(found.st_mode):
        raise RequestError(f"{text} is a folder: name a file.")
    if not stat.S_ISREG(found.st_mode):
        raise RequestError(f"{text} is no regular file but a device or a pipe: choose a media file.")
    return Identity(os.path.abspath(text), found.st_dev, found.st_ino, found.st_size, found.st_mtime_ns)


def still_as(known: Identity) -> None:
    """Raise WorkError where a file is not what it was."""
    try:
        same = identity(known.path) == known
    except (MissingFile, RequestError):
        raise WorkError(f"{Path(known.path).name} is not there any more: bring it back and try again.") from None
    if not same:
        raise WorkError(f"{Path(known.path).name} was changed while it was being read: try again.")


def open_container(path: Path | str) -> Container:
    """A container of a media file, its absolute name never taken for an address. TremorError where it cannot be.

    The caller closes it, and uses it from one thread at a time.
    """
    known = identity(path)
    name = Path(path).name
    if known.size == 0:
        raise DecodeError(f"{name} is empty: choose another file.")
    with reading(path):
        try:
            return av.open(
                f"file:{known.path}",
                format=_still_kind(path),
                container_options=dict(_OPTIONS),
                metadata_errors="replace",
            )
        except av.error.ArgumentError as error:
            raise RequestError(
                f"{name} is not a film, picture or sound that can be read: lists of other files, addresses and devices "
                "are not taken."
            ) from error


def _still_kind(path: Path | str) -> str | None:
    """The demuxer of a single picture whose name would have it taken for a list of numbered files."""
    with open(path, "rb") as file:
        head = file.read(12)
    return next((kind for start, kind in _STARTS.items() if head.startswith(start)), None)


def check_size(name: str, size: tuple[int, int], each: int) -> None:
    """Refuse pictures that would take the machine down, ``each`` being the bytes of one."""
    if size[0] <= 0 or size[1] <= 0:
        raise DecodeError(f"{name} holds pictures without a size: the file may be damaged.")
    if max(size) > MOST_SIDE or each > MOST_BYTES:
        raise RequestError(
            f"{name} is {size[0]}x{size[1]}, {each >> 20} MB a picture, which is more than can be worked with "
            f"({MOST_BYTES >> 20} MB): scale it down first."
        )
