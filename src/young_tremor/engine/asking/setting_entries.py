"""Numbers, choices and switches as entries, with what would change."""

from __future__ import annotations

from young_tremor.engine.asking import settings_index
from young_tremor.engine.asking.entries import ChangeShot, DoCommand, Entry, OpenSetting
from young_tremor.engine.asking.grammar import Quantity, Relation
from young_tremor.engine.asking.question import Question
from young_tremor.engine.asking.settings_index import Setting, Value
from young_tremor.engine.asking.word_search import stems
from young_tremor.engine.library import word_table
from young_tremor.model.fields import Choice, Number
from young_tremor.model.shake import STRAND_TYPES
from young_tremor.motion.strand_kinds import word_of

BY_UNIT: dict[str, tuple[str, ...]] = {  # what a figure alone can be meant for
    "Hz": ("Drift.rate", "Jolts.ring"),
    "mm": ("FrameSettings.focal_mm",),
    "dB": ("Mix.level",),
    "°": ("Shutter.angle",),
    "rad": ("channel.roll",),
    "%": ("Shake.intensity", "Common.amount"),
    "×": ("Shake.pace", "FrameSettings.crop"),
    "px": ("reach",),
}
LIMIT = "limit-"  # before percents: turns the intensity down until such a crop is enough
MOST_CROPPED = 50.0  # percent
GIVEN = 0.3  # how much likelier a setting is meant if the sentence has a value for it
OUTSIDE = 0.5  # what is left of a score where a figure lies beyond what the setting may be
ABSENT = 0.8  # what is left of a score where there is nothing yet that has the setting


def by_unit(question: Question) -> list[Entry]:
    """What a figure alone can be meant for, by its unit: “2 Hz”, “35 mm”, “-6 dB”."""
    if len(question.tokens) != 1 or not question.figures:
        return []
    keys = BY_UNIT.get(question.figures[0].unit, ())
    fitting = [setting for setting in settings_index.settings() if setting.key in keys]
    entries = [_present(setting, question, 1.6 - 0.05 * number) for number, setting in enumerate(fitting)]
    return [entry for entry in entries if entry is not None]


def crop_limit(question: Question) -> list[Entry]:
    """The most that may be cropped: “crop at most 4 %”."""
    figures = [figure for figure in question.figures if figure.unit == "%" and 0 < figure.value <= MOST_CROPPED]
    if not (figures and question.says("crop") and question.says("most")):
        return []
    percent = figures[0].value
    return [Entry("do", "Crop at most", f"{percent:g} %", DoCommand(f"{LIMIT}{percent:g}"), 2.9)]


def of_setting(setting: Setting, question: Question, score: float) -> Entry:
    """A setting with what would change, or the way to it."""
    if setting.owner == "preferences":
        return Entry("set", setting.name, "in the preferences", DoCommand("preferences"), score)
    if setting.over_time:
        return Entry("set", setting.name, "shape it on the chart", OpenSetting(setting), score)
    return _present(setting, question, score) or _absent(setting, score * ABSENT)


def _present(setting: Setting, question: Question, score: float) -> Entry | None:
    """A setting of something that is there; None where nothing has it yet."""
    place = question.place
    if not settings_index.can_be_set(setting, place):
        return None
    before = settings_index.value_words(setting, settings_index.value_now(setting, place))
    value = _value(setting, question)
    if value is None:
        return Entry("set", setting.name, before, OpenSetting(setting), score)
    after = settings_index.value_words(setting, value)
    if before == after:
        return Entry("set", setting.name, f"{before} already", OpenSetting(setting), score)
    change = ChangeShot(setting.name, settings_index.set_value(setting, place, value))
    fits = any(settings_index.is_within(setting, figure, place) for figure in _figures(setting, question))
    score = (score + GIVEN) * (OUTSIDE if isinstance(setting.field, Number) and not fits else 1.0)
    return Entry("set", setting.name, f"{before} → {after}", change, score)


def _value(setting: Setting, question: Question) -> Value:
    """The value that a sentence gives a setting; None if it gives none."""
    if isinstance(setting.field, Number):
        figures = _figures(setting, question)
        values = (settings_index.read_number(setting, figure, question.place) for figure in figures)
        return next((value for value in values if value is not None), None)
    own = set(stems(setting.name)) if isinstance(setting.field, Choice) else set()
    words = tuple(word for word in stems(" ".join(question.content)) if word not in own)
    return settings_index.read_choice(setting, words, settings_index.value_now(setting, question.place))


def _figures(setting: Setting, question: Question) -> tuple[Quantity, ...]:
    """The figures that a sentence gives a number: its own, or what words like *less*, *double* and *no* come to."""
    if question.figures:
        return question.figures
    if setting.key in word_table.words("zero when off") and question.says("off"):
        return (Quantity(0.0, ""),) if _is_named(setting, question.bare) else ()
    factors = word_table.table()["factors"] if setting.key in word_table.words("factors of") else {}
    relation: Relation = "/" if question.says("gentle") else "*"  # “more subtle” is less
    return tuple(Quantity(factors[word], "", relation) for word in question.words if word in factors)


def _is_named(setting: Setting, words: tuple[str, ...]) -> bool:
    """Whether any of some words is one of a setting's."""
    called = f"{setting.name} {getattr(setting.field, 'words', '')} {word_table.phrases('settings', setting.key)}"
    return not set(stems(called)).isdisjoint(stems(" ".join(words)))


def _absent(setting: Setting, score: float) -> Entry:
    """A setting of something that is not there yet: how to get it."""
    if setting.owner == "strand" and setting.kind in STRAND_TYPES:
        detail = f"of {setting.kind.LABEL.lower()}, which is added"
        return Entry("set", setting.name, detail, DoCommand(f"add-{word_of(setting.kind)}"), score)
    if setting.owner == "sound" and setting.kind is not None:
        word = setting.kind.__name__.lower()
        return Entry("set", setting.name, f"of {word}, added first", DoCommand(f"add-sound-{word}"), score)
    return Entry("set", setting.name, "", OpenSetting(setting), score)
