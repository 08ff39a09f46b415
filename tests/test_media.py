"""Footage in and out: the right frame, the same bits, and files that are whole or not there."""

from __future__ import annotations

import errno
import struct
import wave
from fractions import Fraction
from pathlib import Path

import av
import numpy as np
import pytest
from msgspec.structs import replace

from clips import clip, decoded, number_of, numbered
from young_tremor.base.errors import (
    Cancelled,
    DecodeError,
    DiskError,
    EncodeError,
    ExistingFile,
    MissingFile,
    RequestError,
    WorkError,
    from_os,
)
from young_tremor.base.frames import Frame
from young_tremor.engine.delivery import actions
from young_tremor.engine.library import preset_library
from young_tremor.engine.media import description, footage
from young_tremor.media.decoder_formats import reading, writing
from young_tremor.media.sources import open_footage
from young_tremor.model.project import Shot


def upright_number(frame: Frame, turns: int = 0) -> int:
    return number_of(np.rot90(frame.planes[0], -turns))


def turn_mark(path: Path) -> None:
    """Write the rotation mark of a phone held upright (90° clockwise) into an MP4's track header."""
    data = bytearray(path.read_bytes())
    at = data.index(b"tkhd") + 44
    data[at : at + 36] = struct.pack(">9i", 0, 1 << 16, 0, -(1 << 16), 0, 0, 0, 0, 1 << 30)
    path.write_bytes(data)


LONG_GOP = {"frames": 120, "size": (320, 180)}
CLIPS = {
    "h264.mp4": {**LONG_GOP, "options": {"b-pyramid": "normal", "bf": "5"}},
    "open-gop.mkv": {**LONG_GOP, "options": {"x264-params": "open-gop=1", "g": "24"}, "rate": Fraction(24000, 1001)},
    "ten-bit.mp4": {
        "frames": 40,
        "codec": "libx265",
        "pix_fmt": "yuv422p10le",
        "options": {"x265-params": "log-level=error:bframes=4"},
    },
    "late.mp4": {**LONG_GOP, "offset": 37},
    "early.mkv": {**LONG_GOP, "offset": -3},
    "odd.mkv": {"frames": 24, "codec": "ffv1", "size": (321, 181)},
    "full.mkv": {"frames": 24, "pix_fmt": "yuv444p", "tags": (1, 1, 1, 2)},
    "packed.mov": {"frames": 24, "codec": "qtrle", "pix_fmt": "rgb24"},
}


@pytest.mark.parametrize("name", CLIPS)
def test_every_frame_is_found_by_its_number(tmp_path: Path, name: str) -> None:
    options = CLIPS[name]
    reader = open_footage(clip(tmp_path / name, **options))  # type: ignore[arg-type]
    frames = reader.info.frames
    assert frames == options["frames"]
    assert reader.info.rate == options.get("rate", 24)
    assert reader.info.size == options.get("size", (320, 180))
    order = [0, frames - 1, frames // 2, frames // 2 - 1, 3, *np.random.default_rng(1).integers(0, frames, 25).tolist()]
    assert [number_of(reader.read(index).planes[0]) for index in order] == order
    assert number_of(reader.read(10**6).planes[0]) == frames - 1
    if name == "ten-bit.mp4":
        assert (reader.info.format.name, reader.read(0).planes[1].shape) == ("yuv422p10le", (180, 160))
    if name == "full.mkv":
        assert reader.info.colour.full is True
    reader.close()


def test_variable_rate_is_conformed_and_said(tmp_path: Path) -> None:
    stamps = np.cumsum([0, *np.random.default_rng(3).choice([40, 40, 40, 80, 120, 33], 60)]).tolist()
    reader = open_footage(clip(tmp_path / "phone.mkv", frames=61, stamps=stamps))
    assert reader.info.rate == 25
    assert "variable frame rate, taken as a constant 25" in reader.info.notes[0]
    for index in (60, 7, 33, 0, 12):
        shown = max(k for k, stamp in enumerate(stamps) if stamp <= index * 40)
        assert number_of(reader.read(index).planes[0]) == shown
    reader.close()


def test_phones_are_turned_and_wide_pixels_kept(tmp_path: Path) -> None:
    path = clip(tmp_path / "phone.mp4", frames=12, aspect=Fraction(4, 3), audio=True)
    turn_mark(path)
    reader = open_footage(path)
    turns = {(180, 320): reader.info.notes}[reader.info.size]
    assert any("turned upright" in note for note in turns)
    assert reader.info.pixel_aspect == Fraction(3, 4)
    picture = reader.read(9)
    assert picture.size == (180, 320)
    assert upright_number(picture, -1) == 9
    reader.close()


def lossless(shot: Shot, output: Path) -> Path:
    actions.render((shot,), output, lambda done, total: None, codec_name="ffv1")
    return output


@pytest.mark.parametrize("pix_fmt", ["yuv420p", "yuv420p10le", "yuv422p", "yuv444p10le"])
def test_untouched_is_bit_for_bit_with_tags_and_sound(tmp_path: Path, pix_fmt: str) -> None:
    tags = (9, 16, 9, 1) if "10" in pix_fmt else (1, 1, 1, 2)
    source = clip(
        tmp_path / "in.mkv", frames=30, pix_fmt=pix_fmt, audio=True, aspect=Fraction(8, 9), tags=tags, size=(322, 182)
    )
    still = actions.adjust_shake(preset_library.preset("walking").shake, amount=0)
    shot = actions.one_shot(source, replace(preset_library.preset("walking"), shake=still), edges="open")
    out = lossless(shot, tmp_path / "out.mkv")
    for a, b in zip(decoded(source), decoded(out), strict=True):
        np.testing.assert_array_equal(a, b)
    before, after = footage.facts(str(source)).info, footage.facts(str(out)).info
    assert (after.colour, after.pixel_aspect, after.rate, after.format) == (
        before.colour,
        before.pixel_aspect,
        before.rate,
        before.format,
    )

    def sound(path: Path) -> bytes:
        with av.open(str(path)) as file:
            return b"".join(bytes(packet) for packet in file.demux(audio=0) if packet.size)

    assert sound(source) == sound(out) != b""


def test_sound_stays_in_time_when_cut_and_recoded(tmp_path: Path, footage: Path) -> None:
    """The second half of a shot carries the second half of its sound, from the file's own clock."""
    path = clip(tmp_path / "late.mkv", frames=48, offset=20, audio=False)
    assert description.describe(path)["audio"] == []
    shot = replace(actions.one_shot(footage, preset_library.preset("standing, breathing")), start=1.0)
    actions.render((shot,), tmp_path / "cut.mp4", lambda d, n: None)
    with av.open(str(tmp_path / "cut.mp4")) as file:
        samples = np.concatenate([f.to_ndarray() for f in file.decode(audio=0)], axis=1)[0]
    assert len(samples) / 48000 == pytest.approx(1.0, abs=0.05)
    spectrum = np.abs(np.fft.rfft(samples[4800:43200]))
    assert np.argmax(spectrum) * 48000 / 38400 == pytest.approx(440, abs=3)
    assert description.describe(tmp_path / "cut.mp4")["frames"] == 24


def test_cancel_and_failure_leave_nothing_behind(tmp_path: Path, footage: Path, monkeypatch) -> None:  # type: ignore[no-untyped-def]
    shot = actions.one_shot(footage, preset_library.preset("walking"))
    out = tmp_path / "out.mp4"

    def stop(done: int, total: int) -> None:
        assert not out.exists()
        if done == 5:
            raise Cancelled

    with pytest.raises(Cancelled):
        actions.render((shot,), out, stop)
    assert list(tmp_path.iterdir()) == []
    out.write_text("mine")
    with pytest.raises(ExistingFile, match=r"out\.mp4 exists already"):
        actions.render((shot,), out, lambda d, n: None)
    assert out.read_text() == "mine"
    with pytest.raises(RequestError, match=r"FFV1.*out\.mp4.*\.mkv"):
        lossless(shot, out)
    with pytest.raises(RequestError, match="footage itself"):
        actions.render((shot,), footage, lambda d, n: None, overwrite=True)

    def full(*args: object) -> None:
        raise OSError(errno.ENOSPC, "No space left on device")

    monkeypatch.setattr("young_tremor.media.video_writer.to_picture", full)
    with pytest.raises(DiskError, match=r"disk is full.*out\.mp4"):
        actions.render((shot,), out, lambda d, n: None, overwrite=True)
    assert out.read_text() == "mine"
    assert [p.name for p in tmp_path.iterdir()] == ["out.mp4"]


def test_foreign_errors_are_translated_with_name_and_last_words(tmp_path: Path) -> None:
    torn = tmp_path / "torn.mp4"
    torn.write_bytes(clip(tmp_path / "whole.mp4").read_bytes()[:900])
    for path, error, words in (
        (tmp_path / "none.mp4", MissingFile, "is not there"),
        (torn, DecodeError, "torn.mp4 cannot be read as footage"),
        (_sound_only(tmp_path), RequestError, "has no picture"),
    ):
        with pytest.raises(error, match=words):
            open_footage(path)
    with pytest.raises(DecodeError, match=r"x\.mp4.*Invalid data"), reading("x.mp4"):
        raise av.InvalidDataError(1094995529, "Invalid data found when processing input")
    with pytest.raises(EncodeError, match=r"y\.mp4"), writing("y.mp4"):
        raise av.FFmpegError(22, "Invalid argument")
    for number, kind, words in (
        (errno.ENOSPC, DiskError, "full"),
        (errno.EACCES, DiskError, "permission"),
        (errno.ENOENT, MissingFile, "there"),
        (errno.EISDIR, RequestError, "folder"),
        (errno.ENOTDIR, RequestError, "folder"),
        (errno.EIO, WorkError, "a.mp4"),
    ):
        found = from_os(OSError(number, "words"), tmp_path / "a.mp4", "write")
        assert isinstance(found, kind)
        assert words in str(found).lower()


def _sound_only(folder: Path) -> Path:
    path = folder / "sound.wav"
    with wave.open(str(path), "wb") as file:
        file.setparams((1, 2, 48000, 0, "NONE", ""))
        file.writeframes(bytes(9600))
    return path


def test_numbers_are_drawn_as_they_are_read() -> None:
    assert [number_of(numbered(k, (320, 180))[..., 0]) for k in (0, 1, 77, 65535)] == [0, 1, 77, 65535]
