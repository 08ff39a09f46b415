"""What is said in one's own words."""

from __future__ import annotations

from collections.abc import Iterable

from young_tremor.api import arguments
from young_tremor.api.arguments import Rate, Size, Time
from young_tremor.api.checks import check_arguments
from young_tremor.base.errors import RequestError
from young_tremor.engine.asking.ask import ask as ask_of
from young_tremor.engine.asking.entries import Answer
from young_tremor.engine.asking.sentences import place_of, preset_of
from young_tremor.model.project import Preset, Project, Shot


@check_arguments
def ask(text: str, what: Project | Shot | None = None, *, shot: str | None = None) -> Answer:
    """What the window's ask line understands and offers for a sentence, the best first. ``what``: the project (its
    first shot, or the one named) or the shot that is asked about; without one, what can be asked with nothing open."""
    if what is None or (isinstance(what, Project) and not what.shots):
        if shot is not None:
            raise RequestError("A shot is one of a project: name the project too.")
        return ask_of(text)
    chosen = what if isinstance(what, Shot) else arguments.one_of(what, shot)
    return ask_of(text, place_of(chosen), what.takes if isinstance(what, Project) else ())


@check_arguments
def move(
    sentences: str | Iterable[str], *, size: Size = (1920, 1080), fps: Rate = 24, seconds: Time | None = None
) -> Preset:
    """A motion said in figures, as a preset: ``move("30 px 2 Hz")``. Several sentences are strands of one shake.

    ``size``: of the frame that its pixels are of; ``fps``: by which frames are read; ``seconds``: of the shot, over
    which its reach is to hold. UnreadableValue for a sentence that says no motion, or something that is not understood.
    """
    texts = (sentences,) if isinstance(sentences, str) else tuple(sentences)
    if not texts:
        raise RequestError("move: “sentences” cannot be empty: give one like “30 px 2 Hz”.")
    rate, frame = arguments.rate_of(fps), arguments.size_of(size)
    assert rate is not None
    assert frame is not None
    length = None if seconds is None else arguments.seconds_of(seconds, rate)
    return preset_of(texts, height=frame[1], rate=rate, seconds=length)
