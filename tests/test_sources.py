"""One door for media: every kind frame by frame, files that change, what is no media, and sound in its place."""

from __future__ import annotations

import itertools
import os
import struct
import threading
import zlib
from fractions import Fraction
from pathlib import Path

import av
import numpy as np
import pytest
from msgspec.structs import replace

from clips import clip, number_of
from test_films import quiet, still
from young_tremor.base.errors import DecodeError, MissingFile, RequestError, WorkError
from young_tremor.engine.delivery import actions
from young_tremor.engine.media import footage
from young_tremor.engine.preview.preview_worker import PictureRequest, PreviewWorker
from young_tremor.media import audio_reader, frame_index, sources
from young_tremor.media.audio_device import Feed
from young_tremor.model.project import Project, Size

X264 = {"g": "20", "bf": "3", "preset": "veryfast"}
KINDS = {
    **{
        f"h264{end}": ("libx264", X264)
        for end in (".mp4", ".mkv", ".ts", ".m2ts", ".mts", ".avi", ".flv", ".nut", ".h264")
    },
    "h265.ts": ("libx265", {"x265-params": "log-level=error:keyint=20:bframes=3"}),
    **{f"mpeg2{end}": ("mpeg2video", {"bf": "2", "b": "8M"}) for end in (".ts", ".mpg", ".vob", ".mxf", ".m2v")},
    "mpeg1.mpg": ("mpeg1video", {"bf": "2", "b": "8M"}),
    "mpeg4.avi": ("mpeg4", {"bf": "2", "b": "8M"}),
    "mjpeg.avi": ("mjpeg", {}),
    "vp9.webm": ("libvpx-vp9", {}),
    "wmv.asf": ("wmv2", {"b": "8M"}),
}


@pytest.mark.parametrize("late", [0, 41])
@pytest.mark.parametrize("name", KINDS)
def test_every_frame_of_every_kind_is_found_by_its_number(tmp_path: Path, name: str, late: int) -> None:
    codec, options = KINDS[name]
    pix_fmt = "yuvj420p" if codec == "mjpeg" else "yuv420p"
    path = clip(tmp_path / name, frames=70, rate=25, codec=codec, options=options, pix_fmt=pix_fmt, offset=late)
    source = footage.open_source(str(path))
    first = source.info.frames - 70  # containers that only count keep the empty beginning
    assert source.info.rate == 25
    assert first in (0, late, late - 2)
    order = [0, 69, 35, 34, 3, *np.random.default_rng(2).integers(0, 70, 40).tolist()]
    assert [number_of(source.read(k + first).planes[0]) for k in order] == order
    source.close()
    reader = sources.open_footage(path)
    told = [
        (round(t * 25) - first, number_of(frame.planes[0]))
        for t, frame in reader.pictures(1.0 + first / 25, 2.0 + first / 25)
    ]
    assert told == [(k, k) for k in range(25, 50)]
    reader.close()


def test_a_file_too_large_to_be_read_through_is_timed_in_places(
    tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    path = clip(tmp_path / "long.mkv", frames=400, rate=Fraction(30000, 1001), options=X264, size=(160, 96))
    monkeypatch.setattr(frame_index, "MOST_READ", 1000)
    source = footage.open_source(str(path))
    assert (source.info.frames, source.info.rate) == (400, Fraction(30000, 1001))
    order = [0, 399, 200, 199, *np.random.default_rng(4).integers(0, 400, 30).tolist()]
    assert [number_of(source.read(k).planes[0]) for k in order] == order
    source.close()
    stamps = np.cumsum([0, *np.random.default_rng(3).choice([40, 40, 80, 120, 33], 60)]).tolist()
    uneven = footage.facts(str(clip(tmp_path / "phone.mkv", frames=61, stamps=stamps))).info
    assert "variable frame rate" in uneven.notes[0]


def test_facts_are_found_once_and_a_replaced_file_is_noticed(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    path = clip(tmp_path / "a.mp4", frames=10)
    asked: list[Path] = []
    real = sources._read
    monkeypatch.setattr(sources, "_read", lambda key: (asked.append(Path(key.path)), real(key))[1])
    first = footage.facts(str(path))
    assert footage.facts(str(path)) is first
    footage.open_source(str(path)).close()
    footage.thumbnail(str(path))
    assert len(asked) == 1
    source = footage.open_source(str(path))
    source.read(0)
    os.replace(clip(tmp_path / "b.mp4", frames=14), path)
    with pytest.raises(WorkError, match=r"a\.mp4 was changed"):
        source.read(9)
    source.close()
    assert footage.facts(str(path)).info.frames == 14
    path.unlink()
    with pytest.raises(MissingFile):
        footage.facts(str(path))


def test_the_preview_shows_what_a_replaced_file_holds_now(tmp_path: Path) -> None:
    path = clip(tmp_path / "a.mkv", frames=10, codec="ffv1")
    preview, seen, said, came = PreviewWorker(), [], [], threading.Event()
    preview.picture.connect(seen.append)
    preview.picture.connect(lambda picture: came.set())
    preview.replaced.connect(said.append)
    request = PictureRequest(still(path), (320, 180), "still", 3, fill=False)

    preview.ask(request)
    assert came.wait(20)
    came.clear()
    clip(tmp_path / "b.mkv", frames=10, codec="ffv1", offset=0, size=(320, 180), tags=(1, 1, 1, 2))
    os.replace(tmp_path / "b.mkv", path)
    preview.ask(replace_request(request))
    assert came.wait(20)
    assert said
    assert (seen[0].info.colour.full, seen[1].info.colour.full) == (False, True)
    preview.close()


def replace_request(request: PictureRequest) -> PictureRequest:
    return PictureRequest(request.shot, request.size, request.mode, request.index + 1, fill=False)


@pytest.mark.parametrize("what", ["truncated", "replaced", "gone"])
def test_footage_that_changes_during_a_render_is_noticed(tmp_path: Path, what: str) -> None:
    path = clip(tmp_path / "in.mp4", frames=240, size=(640, 360))
    other = clip(tmp_path / "other.mp4", frames=240)
    out = tmp_path / "out.mp4"

    def meddle(done: int, total: int) -> None:
        if done == 12:
            if what == "truncated":
                os.truncate(path, path.stat().st_size // 2)
            elif what == "replaced":
                os.replace(other, path)
            else:
                path.unlink()

    with pytest.raises(WorkError, match=r"in\.mp4 (was changed|is not there any more)"):
        actions.render((still(path),), out, meddle)
    assert not out.exists()
    assert not list(tmp_path.glob(".*"))


def test_what_is_no_media_is_refused_in_a_sentence(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    clip(tmp_path / "real.ts", frames=6)
    (tmp_path / "list.m3u8").write_text("#EXTM3U\n#EXT-X-TARGETDURATION:1\n#EXTINF:1,\nreal.ts\n#EXT-X-ENDLIST\n")
    (tmp_path / "list.ffconcat").write_text("ffconcat version 1.0\nfile real.ts\n")
    (tmp_path / "list.sdp").write_text(
        "v=0\no=- 0 0 IN IP4 127.0.0.1\ns=x\nc=IN IP4 127.0.0.1\nm=video 5004 RTP/AVP 96\n"
    )
    (tmp_path / "empty.mp4").write_bytes(b"")
    (tmp_path / "noise.mp4").write_bytes(np.random.default_rng(1).bytes(5000))
    os.mkfifo(tmp_path / "pipe.mp4")
    for name in ("list.m3u8", "list.ffconcat", "list.sdp", "empty.mp4", "noise.mp4", "pipe.mp4", ".", "/dev/zero"):
        with pytest.raises((RequestError, DecodeError)) as caught:
            footage.facts(str(tmp_path / name))
        assert "\n" not in str(caught.value)
    # a folder whose name looks like an address is a folder
    monkeypatch.chdir(tmp_path)
    (tmp_path / "http:").mkdir()
    clip(tmp_path / "http:" / "a.mkv", frames=5)
    assert footage.facts("http:/a.mkv").info.frames == 5
    with pytest.raises(MissingFile):
        footage.facts("http://127.0.0.1:9/a.mkv")


def test_pictures_that_would_take_the_machine_down_are_refused(tmp_path: Path) -> None:
    path = tmp_path / "huge.png"
    packed = zlib.compressobj(1)
    rows = b"".join(packed.compress(bytes(100 * (1 + 3 * 16000))) for _ in range(160)) + packed.flush()
    chunks = ((b"IHDR", struct.pack(">IIBBBBB", 16000, 16000, 8, 2, 0, 0, 0)), (b"IDAT", rows), (b"IEND", b""))
    path.write_bytes(
        b"\x89PNG\r\n\x1a\n"
        + b"".join(
            struct.pack(">I", len(data)) + name + data + struct.pack(">I", zlib.crc32(name + data))
            for name, data in chunks
        )
    )
    with pytest.raises(RequestError, match=r"huge\.png is 16000x16000, \d+ MB a picture"):
        footage.facts(str(path))
    small = still(clip(tmp_path / "small.mp4", frames=5), size=Size(16000, 16000))
    with pytest.raises(RequestError, match="16000x16000 take"):
        actions.render((small,), tmp_path / "out.mp4", quiet)


def beeps(
    path: Path,
    seconds: float,
    at: float,
    *,
    rate: int = 48000,
    codec: str = "aac",
    gap: float = 0.0,
    frames: int | None = None,
) -> Path:
    """A clip of so many seconds, silent but for 20 ms of tone at a place; ``gap``: seconds left out before it."""
    with av.open(str(path), "w") as file:
        stream = file.add_stream("libx264", rate=25)
        stream.width, stream.height, stream.pix_fmt = 64, 64, "yuv420p"
        sound = file.add_stream(codec, rate=rate, layout="mono")
        for k in range(frames or round(seconds * 25)):
            picture = av.VideoFrame(64, 64, "yuv420p")
            picture.pts = k
            file.mux(stream.encode(picture))
        file.mux(stream.encode(None))
        samples = np.zeros(round(seconds * rate), np.float32)
        first = round(at * rate)
        samples[first : first + rate // 50] = 0.5 * np.sin(np.arange(rate // 50) * 2 * np.pi * 1000 / rate)
        kind = "fltp" if codec == "aac" else "s16"
        hole = round((at - gap) * rate) // 1024 * 1024
        for start in range(0, len(samples), 1024):
            if gap and hole <= start < hole + round(gap * rate) - 2048:
                continue
            part = samples[start : start + 1024]
            data = part[None] if codec == "aac" else np.rint(part * 32767).astype(np.int16)[None]
            block = av.AudioFrame.from_ndarray(np.ascontiguousarray(data), kind, "mono")
            block.sample_rate, block.pts, block.time_base = rate, start, Fraction(1, rate)
            file.mux(sound.encode(block))
        file.mux(sound.encode(None))
    return path


def heard(path: Path) -> tuple[list[float], float]:
    """When beeps begin in a file's sound, and how long the sound is, in seconds."""
    blocks = list(audio_reader.blocks(path, 0.0, origin=footage.facts(str(path)).origin, layout="mono"))
    samples = np.abs(np.concatenate(blocks)[:, 0])
    loud = np.flatnonzero(samples > 0.2)
    starts = loud[np.diff(loud, prepend=-48000) > 4800]
    return [round(k / 48000, 3) for k in starts], len(samples) / 48000


def test_the_sound_of_a_reel_is_cut_and_filled_to_each_shot(tmp_path: Path) -> None:
    """Sound longer than its picture, shorter than it, and at 44.1 kHz: each shot's beep stays where its picture is."""
    a = beeps(tmp_path / "a.mp4", 2.6, 1.0, frames=50)  # 2 s of picture
    b = beeps(tmp_path / "b.mp4", 1.5, 1.0, frames=50, rate=44100)
    c = beeps(tmp_path / "c.mkv", 2.0, 1.0, codec="pcm_s16le")
    out = tmp_path / "reel.mkv"
    shots = tuple(still(path) for path in (a, b, c, a))
    actions.render(shots, out, quiet, codec_name="ffv1")
    starts, long = heard(out)
    assert starts == pytest.approx([1.0, 3.0, 5.0, 7.0], abs=0.002)
    assert long == pytest.approx(8.0, abs=0.002)
    cut = replace(still(a), start=0.5, end=1.8)
    actions.render((cut,), tmp_path / "cut.mp4", quiet)
    assert heard(tmp_path / "cut.mp4")[0] == pytest.approx([0.5], abs=0.003)
    actions.render((still(a),), tmp_path / "whole.mp4", quiet)
    starts, long = heard(tmp_path / "whole.mp4")
    assert starts == pytest.approx([1.0], abs=0.003)
    assert long <= 2.0 + 0.05  # nothing runs on after the picture


def test_a_gap_in_a_track_stays_a_gap(tmp_path: Path) -> None:
    path = beeps(tmp_path / "gap.mkv", 3.0, 2.5, gap=1.0)
    assert heard(path)[0] == pytest.approx([2.5], abs=0.03)
    inside = np.concatenate(
        list(audio_reader.exactly(audio_reader.blocks(path, 2.4, origin=0.0, layout="mono"), 4800 * 3, 1))
    )
    assert np.argmax(np.abs(inside[:, 0]) > 0.2) / 48000 == pytest.approx(0.1, abs=0.03)
    assert len(inside) == 4800 * 3


@pytest.mark.parametrize(
    ("name", "codec"), [("a.avi", "pcm_s16le"), ("b.mkv", "pcm_s16be"), ("c.mov", "pcm_s24le"), ("d.avi", "pcm_u8")]
)
def test_any_sound_goes_into_any_container(tmp_path: Path, name: str, codec: str) -> None:
    path = tmp_path / name
    with av.open(str(path), "w") as file:
        stream = file.add_stream("mpeg4", rate=25)
        stream.width, stream.height, stream.pix_fmt = 64, 64, "yuv420p"
        sound = file.add_stream(codec, rate=11025, layout="mono")
        for k in range(25):
            picture = av.VideoFrame(64, 64, "yuv420p")
            picture.pts = k
            file.mux(stream.encode(picture))
        file.mux(stream.encode(None))
        kind = {"pcm_s24le": "s32", "pcm_u8": "u8"}.get(codec, "s16")
        block = av.AudioFrame.from_ndarray(
            np.full((1, 11025), 128 if kind == "u8" else 0, {"s32": np.int32, "u8": np.uint8}.get(kind, np.int16)),
            kind,
            "mono",
        )
        block.sample_rate, block.pts, block.time_base = 11025, 0, Fraction(1, 11025)
        file.mux(sound.encode(block))
        file.mux(sound.encode(None))
    for ending, form in ((".mp4", "h264"), (".mov", "h264"), (".mkv", "ffv1")):
        out = tmp_path / f"out{ending}"
        actions.render((still(path),), out, quiet, codec_name=form)
        assert len(footage.facts(str(out)).sounds) == 1
        out.unlink()


def test_the_sound_that_is_played_is_made_ahead_and_never_stops_the_clock() -> None:
    def broken():  # type: ignore[no-untyped-def]
        yield np.ones((100, 2), np.float32)
        raise DecodeError("damaged")

    feed = Feed(broken())
    feed._thread.join()
    assert feed.take(60).sum() == 120
    assert feed.take(60).sum() == 80  # 40 samples, then silence
    assert feed.take(60).sum() == 0
    assert isinstance(feed.error, DecodeError)
    feed.close()
    endless = Feed(itertools.repeat(np.ones((480, 2), np.float32)), most=4800)
    assert endless.take(480).min() == 1
    endless.close()
    assert not endless._thread.is_alive()


def test_a_project_with_missing_footage_says_which(tmp_path: Path) -> None:
    with pytest.raises(MissingFile, match=r"gone\.mp4 is not there"):
        actions.render((still(tmp_path / "gone.mp4"),), tmp_path / "out.mp4", quiet)
    assert Project().shots == ()
