"""What ``info`` says of a file."""

from __future__ import annotations

from pathlib import Path
from typing import Any

from young_tremor.base.colour_spaces import is_guessed, space_of
from young_tremor.base.lazy_import import lazily
from young_tremor.base.units import format_rate
from young_tremor.engine.media.naming import is_sequence
from young_tremor.media import audio_cache, image_sequence, sources
from young_tremor.media.loudness import measure_loudness

store = lazily("young_tremor.document.store")  # of a project alone
LISTENED = 900.0  # seconds of sound whose loudness is told unasked


def describe(path: Path, *, loudness: bool = False) -> dict[str, Any]:
    """What ``info`` says of a file: footage or project. ``loudness``: measured however long it takes; else of what
    lasts a quarter of an hour at the most."""
    if path.suffix.lower() == ".tremor":
        project = store.load(path)
        return {
            "file": path.name,
            "kind": "project",
            "shots": [
                {
                    "name": s.name,
                    "footage": s.footage.media.path,
                    "preset": s.shake.preset,
                    "edges": s.frame.edges,
                }
                for s in project.shots
            ],
        }
    name = sources.resolve_path(path) if is_sequence(path) else str(path)
    facts = sources.facts(name)
    info = facts.info
    heard = {}
    if info.audio and (loudness or info.seconds <= LISTENED):
        blocks = audio_cache.blocks(name, 0.0, origin=facts.origin)
        heard = {"loudness": measure_loudness(blocks).numbers()}
    return {
        "file": info.name,
        "kind": "picture" if info.still else "sequence" if image_sequence.is_pattern(name) else "footage",
        "width": info.size[0],
        "height": info.size[1],
        "size": f"{info.size[0]}x{info.size[1]}",
        "pixel_aspect": str(info.pixel_aspect),
        "rate": str(info.rate),
        "fps": format_rate(info.rate),
        "frames": info.frames,
        "seconds": round(info.seconds, 6),
        "codec": info.codec,
        "pixel_format": info.format.name,
        "depth": info.format.depth,
        "alpha": info.alpha,
        "missing": [str(frame) for frame in info.missing],
        "timecode": info.timecode,
        "colour": {
            "primaries": info.colour.primaries,
            "transfer": info.colour.transfer,
            "matrix": info.colour.matrix,
            "space": space_of(info.colour).label,
            "found": "guessed" if is_guessed(info.colour) else "told",
            "range": {True: "full", False: "limited", None: "untold"}[info.colour.full],
        },
        "audio": list(info.audio),
        **heard,
        "notes": list(info.notes),
    }
