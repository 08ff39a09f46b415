"""An edit decision list (CMX 3600) of delivered films, to be conformed by timecode alone."""

from __future__ import annotations

import re
import unicodedata
from fractions import Fraction

from young_tremor.base.units import timecode
from young_tremor.exchange.timeline import Delivered, is_drop_frame

REEL = 8  # characters of a reel name
TITLE = 70  # characters


def text_of(name: str, clips: tuple[Delivered, ...], *, rate: Fraction, record: int) -> str:
    """The text of an EDL.

    Parameters
    ----------
    clips
        In order, without gaps. Source columns are the film's own timecode, in the film's frames.
    rate
        Frames a second of the record side.
    record
        Number of the first frame of the record side. It counts drop-frame where every film does.
    """
    drop = is_drop_frame(clips, rate)
    lines = [f"TITLE: {_plain(name, TITLE) or 'UNTITLED'}", f"FCM: {'DROP FRAME' if drop else 'NON-DROP FRAME'}", ""]
    reels: dict[str, str] = {}
    at, exact = record, Fraction(record)
    for number, clip in enumerate(clips, start=1):
        begin = clip.first + clip.before
        exact += Fraction(clip.frames) / clip.rate * rate
        end = round(exact)
        source = [timecode(k, clip.rate, hours=True, drop=clip.drop) for k in (begin, begin + clip.frames)]
        target = [timecode(k, rate, hours=True, drop=drop) for k in (at, end)]
        lines.append(f"{number:03d}  {_reel(clip, reels):<{REEL}} V     C        {' '.join((*source, *target))}")
        lines.append(f"* FROM CLIP NAME: {_plain(clip.path.name, 200)}")
        lines.append(f"* FROM CLIP: {clip.path.absolute()}")
        for seconds, words in clip.markers:
            place = timecode(at + round(seconds * rate), rate, hours=True, drop=drop)
            lines.append(f"* LOC: {place} RED     {_plain(words, 60)}")
        lines.append("")
        at = end
    return "\n".join(lines)


def _reel(clip: Delivered, reels: dict[str, str]) -> str:
    """A reel name of capitals and digits: what the film itself says, else its name, one for each film."""
    source = clip.reel or str(clip.path)
    if source not in reels:
        base = re.sub(r"[^A-Z0-9]", "", _plain(clip.reel or clip.path.stem, 200).upper())[:REEL] or "REEL"
        name, number = base, 1
        while name in reels.values():
            number += 1
            name = f"{base[: REEL - len(str(number))]}{number}"
        reels[source] = name
    return reels[source]


def _plain(text: str, most: int) -> str:
    """A text in one line of ASCII, accents taken off."""
    bare = unicodedata.normalize("NFKD", text).encode("ascii", "ignore").decode()
    return " ".join("".join(letter if letter.isprintable() else " " for letter in bare).split())[:most]
