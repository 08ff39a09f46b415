"""Young Tremor as a library: everything the window and the command line do, without either.

    from young_tremor import api

    shot = api.shake("press.mp4", preset="Walking", amount=0.6)
    api.render(shot, "press-shaken.mp4", clean="press-clean.mp4")

What holds for all of it:

- Paths are text or paths. Times are seconds, or text as on the command line ("1:30", a timecode). Sizes are
  (width, height) or "1920x1080"; rates are numbers, fractions or text ("23.976").
- What is wrong raises :class:`TremorError`, whose text is one sentence that a person understands: :class:`RequestError`
  and its kin for a request, others for work that failed. Files appear under their names only when they are whole.
- ``tell`` is called with each sentence that a person should know (of the footage, of what a form cannot hold), and
  ``report`` with a file's name, how much is done and of how much; what it raises stops the work, and nothing is left.
- Values (projects, shots, presets, takes) never change; ``msgspec.structs.replace`` makes others of them. Every
  function may be called from any thread.

**Stability.** What ``__all__`` names keeps its names, its meaning and the order of its arguments within one number
before the first dot; before 1.0 within the second. Arguments are added by keyword only. Whatever else the package
holds may change at any time.
"""

from __future__ import annotations

from young_tremor.api.arguments import existing
from young_tremor.api.asking import ask, move
from young_tremor.api.films import deliver, render, render_each, sound
from young_tremor.api.motion import Motion, gyro, info, margin, measure, motion, presets, read_take, stmap
from young_tremor.api.requests import (
    DeliverRequest,
    FilmRequest,
    GyroRequest,
    MapRequest,
    MeasureRequest,
    MotionRequest,
    ShakeRequest,
)
from young_tremor.api.shots import framing, open, reel, save, shake
from young_tremor.base.errors import MissingFile, RequestError, TremorError, UnreadableValue
from young_tremor.engine.asking.ask import EXAMPLES as ASK_EXAMPLES
from young_tremor.engine.asking.entries import Answer, Entry
from young_tremor.engine.delivery import actions
from young_tremor.model.project import Preset, Project, Shot
from young_tremor.model.shake import Drift, Jolts, Plotted, Shake, Shimmer, Taken
from young_tremor.model.take import Take

#: The forms that can be delivered, the default first.
FORMS = actions.codec_names()

__all__ = [
    "ASK_EXAMPLES",
    "FORMS",
    "Answer",
    "DeliverRequest",
    "Drift",
    "Entry",
    "FilmRequest",
    "GyroRequest",
    "Jolts",
    "MapRequest",
    "MeasureRequest",
    "MissingFile",
    "Motion",
    "MotionRequest",
    "Plotted",
    "Preset",
    "Project",
    "RequestError",
    "Shake",
    "ShakeRequest",
    "Shimmer",
    "Shot",
    "Take",
    "Taken",
    "TremorError",
    "UnreadableValue",
    "ask",
    "deliver",
    "existing",
    "framing",
    "gyro",
    "info",
    "margin",
    "measure",
    "motion",
    "move",
    "open",
    "presets",
    "read_take",
    "reel",
    "render",
    "render_each",
    "save",
    "shake",
    "sound",
    "stmap",
]
