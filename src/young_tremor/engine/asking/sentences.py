"""Sentences that are carried out at once, without a list to choose from: a motion, a setting."""

from __future__ import annotations

from collections.abc import Sequence
from fractions import Fraction

from msgspec.structs import replace

from young_tremor.base.errors import UnreadableValue
from young_tremor.engine.analysis import reel_layout
from young_tremor.engine.asking import motion_phrase
from young_tremor.engine.asking.ask import ask
from young_tremor.engine.asking.entries import ChangeShot
from young_tremor.engine.asking.grammar import Clock, Comma, Quantity, Token, Word, tokens
from young_tremor.engine.asking.motion_phrase import MotionPhrase
from young_tremor.engine.asking.settings_index import Place
from young_tremor.engine.library import preset_diff
from young_tremor.engine.media import footage
from young_tremor.model.curve import Curve, Key
from young_tremor.model.project import Preset, Shot, new_id
from young_tremor.model.shake import Drift, Hit, Jolts, Shake, Strand

MISSED = 0.05  # of the reach, from which on it is said
SEEDS = 101  # by which strands of several sentences differ in their seed


def place_of(shot: Shot) -> Place:
    """Where one stands at the beginning of a shot. TremorError where its footage cannot be read."""
    info = footage.infos(shot)[0]
    return Place(
        shot,
        size=footage.frame_size(shot),
        rate=Fraction(shot.rate) if shot.rate else info.rate,
        seconds=reel_layout.seconds_of(shot, info),
    )


def read_motion(text: str, rate: Fraction) -> MotionPhrase:
    """The motion that a sentence says; UnreadableValue for one that says none, or more than is understood."""
    clock = Clock(rate)
    phrase = motion_phrase.understand(tokens(text, clock), clock)
    if phrase is None or (not phrase.amounts and phrase.rate is None):
        raise UnreadableValue(f"“{text[:60]}” is no motion: write it like “30 px 2 Hz” or “roll 0.3° 5 Hz, rising”.")
    if phrase.unknown:
        raise UnreadableValue(
            f"“{phrase.unknown[0][:40]}” in “{text[:60]}” is not understood: write it like “30 px 2 Hz, rough 0.4”."
        )
    return phrase


def strands_of(
    texts: tuple[str, ...], *, height: float, rate: Fraction, seconds: float | None = None
) -> tuple[Strand, ...]:
    """A strand for each sentence, in a frame ``height`` pixels high; ``seconds``: of the shot, over which the reach is
    to hold. UnreadableValue as :func:`read_motion`."""
    strands: list[Strand] = []
    for number, text in enumerate(texts):
        phrase, strand_id, seed = read_motion(text, rate), f"move{number + 1}", 5 + SEEDS * number
        if phrase.jolts:
            strands.append(replace(motion_phrase.jolts_of(phrase, strand_id, height=height), seed=seed))
            continue
        base = preset_diff.plain("drift", strand_id, seed)
        assert isinstance(base, Drift)
        drift = motion_phrase.strand_of(phrase, strand_id, height=height, base=base, seconds=seconds)
        strands.append(drift if seconds is None else motion_phrase.with_fitting_seed(drift, rate, seconds)[0])
    return tuple(strands)


def hits_of(strands: tuple[Strand, ...]) -> tuple[Hit, ...]:
    """A hit for each strand of jolts that acts in a stretch of its own: where that begins."""
    starts = (strand.stretch.start for strand in strands if isinstance(strand, Jolts))
    return tuple(Hit(new_id(), start) for start in starts if start is not None)


def preset_of(texts: tuple[str, ...], *, height: float, rate: Fraction, seconds: float | None = None) -> Preset:
    """A preset of the motions that are said."""
    return Preset(
        ", ".join(texts)[:80],
        "own",
        "Said in figures.",
        Shake(strands_of(texts, height=height, rate=rate, seconds=seconds)),
    )


def miss_words(strand: Strand, place: Place) -> str:
    """By how much a drift misses its reach in a shot, in a sentence; empty where that is little."""
    if not isinstance(strand, Drift) or place.seconds is None:
        return ""
    _, missed = motion_phrase.with_fitting_seed(strand, place.rate, place.seconds)
    if missed <= MISSED:
        return ""
    return (
        f"In this shot of {place.seconds:.1f} s the drift misses what was asked by {100 * missed:.0f} %: "
        "it is too short to hold it in all channels."
    )


def with_shape(shot: Shot, text: str) -> Shot:
    """A shot whose intensity goes through values at times of its input: “0 at 2 s, 1 at 3 s, 0 at 5 s”; a value is a
    factor or %. It keeps the first value before them and the last one after. UnreadableValue for anything else."""
    clock = Clock(place_of(shot).rate)
    parts = [token for token in tokens(text, clock) if not isinstance(token, Comma)]
    read = [_shape_key(parts[i : i + 3], clock, shot.start) for i in range(0, len(parts), 3)]
    keys = tuple(key for key in read if key is not None)
    if not keys or len(keys) < len(read):
        raise UnreadableValue(f"“{text[:60]}” is no shape: write it like “0 at 2 s, 1 at 3 s, 0 at 5 s”.")
    if any(after.t <= before.t for before, after in zip(keys[:-1], keys[1:], strict=True)):
        raise UnreadableValue(f"The times of “{text[:60]}” do not go on: name them in their order.")
    return replace(shot, shake=replace(shot.shake, intensity=Curve(keys[0].value, keys)))


def _shape_key(three: Sequence[Token], clock: Clock, start: float) -> Key | None:
    """The key of three tokens, “50 %”, “at” and “2 s”; None for others."""
    match three:
        case [Quantity(value, ("" | "%" | "×") as unit, ""), Word("at" | "@"), Quantity() as time]:
            seconds = clock.seconds(time)
            strength = value / 100 if unit == "%" else value
            return None if seconds is None or strength < 0 else Key(seconds - start, strength, "smooth")
    return None


def with_setting(shot: Shot, text: str) -> Shot:
    """A shot with one number, choice or switch as is said: “shutter 90”, “edges mirror”. UnreadableValue if nothing of
    it is understood, or no value is said."""
    place = place_of(shot)
    entries = [entry for entry in ask(text, place).entries if entry.kind == "set"]
    if not entries:
        raise UnreadableValue(f"“{text[:60]}” names no setting: young-tremor ask “{text[:60]}” shows what is near.")
    act = entries[0].act
    if not isinstance(act, ChangeShot):
        raise UnreadableValue(
            f"“{text[:60]}” names “{entries[0].name}” ({entries[0].detail}) without a value that fits it: add one."
        )
    return act.edit(shot)
