"""What is heard, as files and figures."""

from __future__ import annotations

from collections.abc import Iterator
from pathlib import Path

import numpy as np
from msgspec.structs import replace

from young_tremor.base.errors import RequestError, UnknownName
from young_tremor.engine.media import footage
from young_tremor.engine.sound import mixing
from young_tremor.media import wave_writer
from young_tremor.media.loudness import Meter
from young_tremor.model.project import Shot
from young_tremor.render.resolve_plan import resolve


def write(
    shots: tuple[Shot, ...],
    output: Path,
    *,
    stem: str | None = None,
    loudness: float | None = None,
    overwrite: bool = False,
) -> str:
    """Write what is heard of shots as a WAV file of 24 bits, or one stem of it; how loud that is, in words."""
    if output.suffix.lower() != ".wav":
        raise RequestError(f"{output.name} is no WAV file: call it {output.stem}.wav.")
    names = tuple(dict.fromkeys(name for shot in shots for name in mixing.stems(shot)))
    chosen = next((name for name in names if stem is not None and name.casefold() == stem.casefold()), stem)
    if stem is not None and chosen not in names:
        raise UnknownName(f"There is no sound “{stem}”: there are {', '.join(names) or 'none'}.")
    plans = [resolve(replace(shot, frame=replace(shot.frame, edges="open")), footage.infos(shot)) for shot in shots]
    lengths = tuple(plan.seconds for plan in plans)
    for shot in shots:
        mixing.check(shot)
    gain = mixing.gain_to(shots, lengths, loudness) if loudness is not None else 1.0
    first = mixing.first_sample(shots[0]) if shots else 0
    meter = Meter()
    heard = _heard(mixing.film(shots, lengths, stem=chosen, gain=gain), meter)
    wave_writer.write(output, heard, first=first, overwrite=overwrite)
    return describe_loudness(meter.result())


def _heard(given: Iterator[np.ndarray], meter: Meter) -> Iterator[np.ndarray]:
    for block in given:
        meter.hear(block)
        yield block


def describe_loudness(found: mixing.Loudness) -> str:
    """How loud sound is, in words."""
    if not np.isfinite(found.integrated):
        return "silence"
    return (
        f"{found.integrated:.1f} LUFS, at most {found.short:.1f} over three seconds, range {found.range:.1f} LU, "
        f"true peak {found.peak:.1f} dBTP"
    )
