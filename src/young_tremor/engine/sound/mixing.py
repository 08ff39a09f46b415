"""The sound of shots: what is heard of each, mixed the same for playing, for a film and for stems."""

from __future__ import annotations

import itertools
import math
from collections.abc import Callable, Iterator
from functools import lru_cache, partial
from pathlib import Path

import numpy as np
from msgspec.structs import replace

from young_tremor.base.errors import MissingFile, TremorError
from young_tremor.base.units import parse_time
from young_tremor.engine.media import footage
from young_tremor.engine.media.byte_cache import ByteCache
from young_tremor.media import audio_cache, audio_reader
from young_tremor.media.loudness import Loudness, measure_loudness
from young_tremor.media.sound_writer import SoundTrack
from young_tremor.model.project import Over, Shot
from young_tremor.model.shake import Hit, Shake, blows
from young_tremor.model.sound import Knocks, Layer, Rumble, Sound
from young_tremor.motion import sample
from young_tremor.motion.jolts import SOUND
from young_tremor.render import motion_layers as moving
from young_tremor.sound import knocks as struck
from young_tremor.sound import limiter, rumble
from young_tremor.sound.camera_speed import CameraSpeed
from young_tremor.sound.mix import KnocksRow, LevelCurve, Mixer, MixRow, MixSway, ReadRow, RumbleRow

__all__ = [
    "FOOTAGE",
    "Loudness",
    "Mixer",
    "blocks",
    "check",
    "film",
    "first_sample",
    "forget",
    "gain_to",
    "is_mixed",
    "loudness_of",
    "measure_loudness",
    "mixer",
    "stems",
    "track_of",
]

RATE = audio_reader.RATE
BLOCK = limiter.BLOCK
FOOTAGE = "footage"  # the stem of the footage's own sound
MOST_KNOCK = 20.0  # seconds of a file that is struck
FINISHED = 64 << 20  # bytes of finished mixes: some three minutes

_finished: ByteCache[tuple[int, int], tuple[np.ndarray, float]] = ByteCache(FINISHED)
_numbers = itertools.count(1)


def is_mixed(shot: Shot) -> bool:
    """Whether anything is heard but the footage's own sound as it is."""
    return not shot.sound.untouched or any(
        over_span.span.on and any(s.on for s in over_span.span.sounds) for over_span in shot.over
    )


def track_of(shot: Shot, seconds: float, *, shaken: bool = True, gain: float = 1.0) -> SoundTrack:
    """The sound of a film's part: the footage's own as it is, or the mix. Without shake: the footage's own."""
    plain = footage.sound_of(shot, seconds)
    if not shaken or not (is_mixed(shot) or gain != 1.0):
        return plain
    check(shot)
    return SoundTrack(
        plain.path, seconds, plain.origin, plain.start, plain.whole, partial(blocks, shot, seconds, gain=gain)
    )


def blocks(shot: Shot, seconds: float, start: float = 0.0, *, gain: float = 1.0) -> Iterator[np.ndarray]:
    """The mix of a shot of so many seconds, from ``start`` on: (n, 2) float32 at 48 kHz."""
    new_mixer = mixer(shot, seconds, gain=gain)
    try:
        yield from new_mixer.blocks(round(start * RATE))
    finally:
        new_mixer.close()


def mixer(shot: Shot, seconds: float, *, gain: float = 1.0) -> Mixer:
    """What adds it all up. MissingFile for a sound file that is gone."""
    mix, count = shot.sound, round(seconds * RATE)
    course = _course(shot)
    rows: list[MixRow] = []
    own = None
    if mix.footage and has_sound(shot):
        own = ReadRow(FOOTAGE, LevelCurve(mix.level), partial(_footage, shot))
        rows.append(own)
    for sound in mix.heard:
        rows.append(_row(sound, course, _late(shot.shake), shot.hits, 0.0, None))
    for over_span in shot.over:
        if over_span.span.on:
            rows += [_of_span(over_span, sound, shot) for sound in over_span.span.sounds if sound.on]
    sway = None
    if mix.on and mix.sway.on:
        looks = np.linspace(0, max(seconds, 0.1), 400)
        side = float(np.sqrt(np.mean((course.place(looks) - course.place(looks).mean()) ** 2)))
        sway = MixSway(mix.sway, course, course.usual(0.0, seconds), side)
    blocks = _KeptBlocks(_mix_number(replace(shot, others=()), seconds, gain, _states(shot)))
    return Mixer(tuple(rows), count, footage=own, sway=sway, limit=mix.limit, gain=gain, finished=blocks)


def forget() -> None:
    """Let go of all finished blocks: what is heard next is mixed anew."""
    _finished.clear()


class _KeptBlocks:
    """The finished blocks of one mix."""

    def __init__(self, number: int) -> None:
        self._number = number

    def get(self, number: int) -> tuple[np.ndarray, float] | None:
        return _finished.get((self._number, number))

    def put(self, number: int, block: np.ndarray, least: float) -> None:
        _finished.put((self._number, number), (block, least), block.nbytes)


@lru_cache(maxsize=64)
def _mix_number(shot: Shot, seconds: float, gain: float, states: tuple) -> int:
    """A number that no other mix has."""
    return next(_numbers)


def _states(shot: Shot) -> tuple:
    """In which state all files are that are heard of a shot."""
    spans = (sound for over_span in shot.over for sound in over_span.span.sounds)
    heard = {path for sound in (*shot.sound.rows, *spans) if (path := getattr(sound, "path", ""))}
    return (footage.stamps(shot), tuple((path, _state(path)) for path in sorted(heard) if Path(path).is_file()))


def has_sound(shot: Shot) -> bool:
    """Whether the footage of a shot has sound of its own."""
    return not shot.footage.media.drawn and bool(footage.facts(shot.footage.media.path).sounds)


def stems(shot: Shot) -> tuple[str, ...]:
    """The names of all that is heard of a shot, each of which is a stem."""
    own = (FOOTAGE,) if shot.sound.footage and has_sound(shot) else ()
    spans = (sound.name for over_span in shot.over if over_span.span.on for sound in over_span.span.sounds if sound.on)
    return tuple(dict.fromkeys((*own, *(sound.name for sound in shot.sound.heard), *spans)))


def film(
    shots: tuple[Shot, ...], lengths: tuple[float, ...], *, stem: str | None = None, gain: float = 1.0
) -> Iterator[np.ndarray]:
    """The sound of shots one after the other, each cut or filled to its seconds of picture; of one stem or all."""
    total, number = 0.0, 0
    for shot, long in zip(shots, lengths, strict=True):
        total += long
        count = round(total * RATE) - number  # what was rounded does not add up
        number += count
        new_mixer = mixer(shot, long, gain=gain)
        try:
            yield from audio_reader.exactly(new_mixer.stem(stem) if stem is not None else new_mixer.blocks(), count, 2)
        finally:
            new_mixer.close()


def playing(shot: Shot, seconds: float, start: float) -> Iterator[np.ndarray]:
    """What is heard of a shot while it plays: its mix, or its footage's sound as it is."""
    return blocks(shot, seconds, start) if is_mixed(shot) else footage.sound_blocks(shot, start)


def without_missing_sounds(shot: Shot) -> Shot:
    """A shot without the sounds whose files are gone."""

    def kept(rows: tuple[Sound, ...]) -> tuple[Sound, ...]:
        return tuple(row for row in rows if not getattr(row, "path", "") or Path(row.path).is_file())  # type: ignore[union-attr]

    over = tuple(
        replace(over_span, span=replace(over_span.span, sounds=kept(over_span.span.sounds))) for over_span in shot.over
    )
    return replace(shot, over=over, sound=replace(shot.sound, rows=kept(shot.sound.rows)))


def own(path: str) -> Iterator[np.ndarray]:
    """A file's own sound from its first picture on."""
    return audio_cache.blocks(path, 0.0, origin=footage.facts(path).origin)


def only_hit(shot: Shot, hit: Hit) -> Shot:
    """A shot of which nothing is heard but its knocks at one hit; all of it where it has none."""
    rows = tuple(row for row in shot.sound.rows if isinstance(row, Knocks))
    if not rows:
        return shot
    return replace(shot, hits=(hit,), over=(), sound=replace(shot.sound, on=True, footage=False, rows=rows))


def loudness_of(shot: Shot, seconds: float) -> Loudness:
    """How loud the mix of a shot is."""
    return measure_loudness(blocks(shot, seconds))


def gain_to(shots: tuple[Shot, ...], lengths: tuple[float, ...], wanted: float) -> float:
    """The factor that brings shots, one after the other, to an integrated loudness in LUFS, before the limiter."""
    bare = tuple(replace(shot, sound=replace(shot.sound, limit=False)) for shot in shots)
    loudness = measure_loudness(film(bare, lengths))
    return 1.0 if not math.isfinite(loudness.integrated) else float(10 ** ((wanted - loudness.integrated) / 20))


def first_sample(shot: Shot) -> int:
    """The sample of the day at which a shot begins, by its footage's timecode; 0 where it has none."""
    if shot.footage.media.drawn:
        return 0
    info = footage.facts(shot.footage.media.path).info
    if not info.timecode:
        return 0
    try:
        return round((parse_time(info.timecode, info.rate) + shot.start) * RATE)
    except TremorError:
        return 0


def check(shot: Shot) -> None:
    """Refuse sound files that are gone, before any work is done."""
    spans = (sound for over_span in shot.over if over_span.span.on for sound in over_span.span.sounds if sound.on)
    for sound in (*shot.sound.heard, *spans):
        path = getattr(sound, "path", "")
        if path and not Path(path).is_file():
            raise MissingFile(f"{path}, the sound of “{sound.name}”, is not there: find it, or switch that sound off.")


def _course(shot: Shot) -> CameraSpeed:
    size = (shot.size.width, shot.size.height) if shot.size else footage.frame_size(shot)
    focal = shot.frame.focal_mm / 36 * max(size) / size[1]

    def level(t: np.ndarray) -> np.ndarray:
        return np.asarray(shot.shake.intensity.at(t))

    return CameraSpeed(lambda t: moving.channels(shot, shot.footage, t), level, focal)


def _row(
    sound: Sound,
    course: CameraSpeed,
    late: Callable[[str], float],
    hits: tuple[Hit, ...],
    at: float,
    more: Callable[[np.ndarray], np.ndarray] | None,
) -> MixRow:
    """A sound ready to be mixed; ``at``: how far its own time is ahead of the shot's."""
    if isinstance(sound, Layer):
        more = _followed(sound, course, more)
    level = LevelCurve(sound.level, more, sound.place)
    if isinstance(sound, Rumble):
        return RumbleRow(sound.name, sound, level, course, round(at * RATE))
    if isinstance(sound, Knocks):
        own = _file(sound.path, _state(sound.path)) if sound.path else None
        delay = late(sound.strand) + sound.delay - at
        moments = struck.times(hits, delay)
        made = [(k, partial(struck.render_knock, sound, hit.id, hit.strength, own)) for k, hit in moments]
        long = (
            (len(own) / RATE if own is not None else min(struck.BODY * sound.decay + 0.05, 12.0))
            + sound.reverb * 1.2
            + 0.1
        )
        return KnocksRow(sound.name, level, made, round(long * RATE))
    return ReadRow(sound.name, level, partial(_layer, sound, round(at * RATE)))


def _followed(
    layer: Layer, course: CameraSpeed, more: Callable[[np.ndarray], np.ndarray] | None
) -> Callable[[np.ndarray], np.ndarray] | None:
    """What comes and goes of a layer: with the shake that it follows, and with ``more``."""
    if layer.follow == "nothing":
        return more

    def size(t: np.ndarray) -> np.ndarray:
        factors = rumble.gain(course.followed(t, layer.follow, layer.attack, layer.release), layer.follow)
        return factors if more is None else factors * more(t)

    return size


def _of_span(over: Over, sound: Sound, shot: Shot) -> MixRow:
    """A span's sound as a shot hears it: in the reel's time, on through the cuts, coming and going with the span."""
    span = over.span
    sway = next(layer for layer in moving.sways(replace(shot, over=(over,)), shot.footage) if layer.over is not None)
    size = footage.frame_size(shot)

    def channels(t: np.ndarray) -> np.ndarray:
        return sway.sample(t)

    def level(t: np.ndarray) -> np.ndarray:
        return sample.intensity(span.shake, sway.clock(t)) * sway.gain(t)

    course = CameraSpeed(channels, level, shot.frame.focal_mm / 36 * max(size) / size[1])
    return _row(sound, course, _late(span.shake), span.hits, over.at, sway.gain)


def _late(shake: Shake) -> Callable[[str], float]:
    """By the name of a strand of jolts: how late they come, in seconds."""
    jolts = blows(shake.strands)

    def find(name: str) -> float:
        chosen = next((j for j in jolts if j.name == name), jolts[0] if jolts else None)
        if chosen is None:
            return 0.0
        return chosen.delay + chosen.distance / SOUND

    return find


def _footage(shot: Shot, first: int) -> Iterator[np.ndarray]:
    return footage.sound_blocks(shot, first / RATE)


def _state(path: str) -> tuple[int, int]:
    try:
        found = Path(path).stat()
    except OSError:
        raise MissingFile(f"{path} is not there: find it, or choose another sound.") from None
    return found.st_mtime_ns, found.st_size


@lru_cache(maxsize=64)
def _facts(path: str, state: object) -> tuple[float, float]:
    return audio_reader.first_stamp(path), audio_reader.length(path)


@lru_cache(maxsize=16)
def _file(path: str, identity: object) -> np.ndarray:
    values = audio_reader.read_sound(path, MOST_KNOCK)
    values.setflags(write=False)
    return values


def _layer(layer: Layer, shift: int, first: int) -> Iterator[np.ndarray]:
    """A layer from a sample of the shot on: silence before it begins, over and over with crossfades if it is looped."""
    begin, seconds = _facts(layer.path, _state(layer.path))
    long = round(seconds * RATE)
    at = first + shift - round(layer.offset * RATE)
    if at < 0:
        yield np.zeros((-at, 2))
        at = 0
    fade = min(round(layer.fade * RATE), long // 2) if layer.loop else 0
    period = long - fade
    if period <= 0 or (not layer.loop and at >= long):
        return
    tail = np.zeros((0, 2))
    if fade:
        parts = list(audio_reader.exactly(audio_cache.blocks(layer.path, period / RATE, origin=begin), fade, 2))
        tail = np.concatenate([np.zeros((0, 2)), *parts])
    ramp = np.sqrt(np.linspace(0.0, 1.0, fade, endpoint=False))[:, None]
    turn, inside = divmod(at, period) if layer.loop else (0, at)
    while True:
        place = inside
        values = audio_cache.blocks(layer.path, inside / RATE, origin=begin)
        for block in audio_reader.exactly(values, (period if layer.loop else long) - inside, 2):
            new_values = np.array(block, np.float64)
            here = min(len(new_values), max(fade - place, 0))
            if turn and here:
                part = slice(place, place + here)
                new_values[:here] = new_values[:here] * ramp[part] + tail[part] * np.sqrt(1 - ramp[part] ** 2)
            yield new_values
            place += len(new_values)
        if not layer.loop:
            return
        turn, inside = turn + 1, 0
