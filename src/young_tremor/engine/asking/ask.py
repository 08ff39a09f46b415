"""The ask line: one list of what a person may have meant, the best first."""

from __future__ import annotations

import re
from dataclasses import replace
from functools import cache

from young_tremor.engine.asking import (
    axis_entries,
    holder_entries,
    moment_entries,
    motion_entries,
    motion_phrase,
    setting_entries,
    settings_index,
    shape_entries,
)
from young_tremor.engine.asking.command_texts import COMMAND_TEXTS
from young_tremor.engine.asking.entries import Answer, DoCommand, Entry, OpenPage, PutPreset, PutTake
from young_tremor.engine.asking.question import Question
from young_tremor.engine.asking.settings_index import Place
from young_tremor.engine.asking.word_search import Findable, WordSearch
from young_tremor.engine.library import preset_library, translations, word_table
from young_tremor.media import codecs
from young_tremor.model.fields import Choice
from young_tremor.model.project import NO_SHOT, Preset
from young_tremor.model.shake import STRAND_TYPES, Drift
from young_tremor.model.take import Take
from young_tremor.motion.strand_kinds import word_of

MOST = 12  # entries
SHARE = 0.25  # of the best one's score that others need
RENDER_AS = "render-as-"  # before a form's name: opens the render sheet with it
LEAST = 0.12  # of a score that is worth showing
STRANDS = {"jolts": "Add jolts", "plotted": "Add a plotted motion"}
SOUNDS = {
    "rumble": "Add a rumble",
    "knocks": "Add knocks",
    "layer": "Sound file…",
    "thud": "Thud at each hit from a file…",
    "sway": "Sound sway",
}
EXAMPLES = ("30 px 2 Hz", "shutter 90", "subtle handheld")
WELCOME = (  # of every kind one
    "30 px 2 Hz",
    "subtle handheld",
    "roll 0.3° 5 Hz, rising",
    "motion blur 90",
    "hide the edges",
    "swell here 2 s",
    "hit 3.5 s 80 %",
)
NOWHERE = Place(NO_SHOT)


def ask(text: str, place: Place | None = None, takes: tuple[Take, ...] = (), more: WordSearch | None = None) -> Answer:
    """What a person may mean by a sentence; ``place``: where they stand, None with nothing open. ``takes``: of the
    project. ``more``: further commands of the moment, found by their key."""
    question = Question(text, place or NOWHERE)
    entries = _from_figures(question) if place is not None else []
    motion = next((entry.detail for entry in entries if entry.kind == "move"), None)
    entries += _from_words(question, takes, more)
    best: dict[tuple[str, str, str], Entry] = {}
    for entry in entries:
        key = (entry.kind, entry.name, entry.detail)
        if entry.score >= LEAST and (key not in best or best[key].score < entry.score):
            best[key] = entry
    ranked = sorted(best.values(), key=_rank)
    ranked = [entry for entry in ranked if entry.score >= SHARE * ranked[0].score][:MOST]
    return Answer(_understood(question, ranked, motion), tuple(ranked))


def _rank(entry: Entry) -> float:
    return -entry.score


def _understood(question: Question, ranked: list[Entry], motion: str | None) -> str | None:
    """What was understood of the figures of a sentence; None if it has none."""
    if question.figures and ranked and ranked[0].kind in ("set", "time", "hit"):
        return f"{ranked[0].name}: {ranked[0].detail}"
    return motion


def _from_figures(question: Question) -> list[Entry]:
    """What the figures of a sentence can be meant for."""
    phrase = motion_phrase.understand(question.tokens, question.clock)
    return [
        *moment_entries.times(question),
        *moment_entries.hits(question),
        *(motion_entries.moves(phrase, question) if phrase is not None else ()),
        *holder_entries.holders(question),
        *shape_entries.shapes(question),
        *axis_entries.axes(question),
        *setting_entries.crop_limit(question),
        *setting_entries.by_unit(question),
    ]


def examples(place: Place | None) -> tuple[str, ...]:
    """Three things that can be asked here."""
    if place is None:
        return ("open", "add a title", "manual")
    chosen = next((strand for strand in place.shot.shake.strands if strand.id == place.strand), None)
    if chosen is not None and not isinstance(chosen, Drift):
        return ("amount 50 %", "30 px 2 Hz", "hit here")
    return EXAMPLES


def _from_words(question: Question, takes: tuple[Take, ...], more: WordSearch | None) -> list[Entry]:
    """What the words find, each as an entry."""
    scores: dict[str, tuple[float, Findable]] = {}
    plain = (question.text, " ".join(question.content))
    queries = dict.fromkeys((*plain, " ".join(question.bare)))
    of_takes = WordSearch(Findable(f"take:{take.id}", take.name, ("take",), "takes") for take in takes)
    for search in (_fixed(), _presets(preset_library.presets()), of_takes, *((more,) if more else ())):
        for query in queries:
            for score, item in search.find(query):
                fits = query in plain or item.key.startswith("set:")  # “no jolts” is not “jolts”
                if fits and (item.key not in scores or scores[item.key][0] < score):
                    scores[item.key] = (score, item)
    entries = [_entry_of(item, question, score, takes) for score, item in scores.values()]
    return [entry for entry in entries if entry is not None]


def _entry_of(item: Findable, question: Question, score: float, takes: tuple[Take, ...]) -> Entry | None:
    """What was found as an entry; None where it cannot be done now."""
    kind, _, key = item.key.partition(":")
    nowhere = question.place is NOWHERE
    if kind == "set":
        setting = settings_index.settings()[int(key)]
        return None if nowhere else setting_entries.of_setting(setting, question, score)
    if kind == "preset":
        preset = preset_library.by_name()[key]
        return Entry("preset", preset.name, translations.first_sentence(preset.note), PutPreset(preset), score)
    if kind == "take":
        take = next(take for take in takes if take.id == key)
        return Entry("take", take.name, f"{take.seconds:.1f} s", PutTake(take), score)
    if kind == "page":
        return Entry("page", item.name, "page of the manual", OpenPage(key), score)
    needs_shot = key.startswith(RENDER_AS) or (key in COMMAND_TEXTS and COMMAND_TEXTS[key].shot)
    if nowhere and needs_shot:
        return None
    if key.startswith(RENDER_AS):
        return Entry("do", COMMAND_TEXTS["render"].words, item.name, DoCommand(key), score)
    return Entry("do", item.name, item.group, DoCommand(key), score)


@cache
def _fixed() -> WordSearch:
    """What can always be found."""
    return WordSearch(findables())


@cache
def findables() -> tuple[Findable, ...]:
    """What can always be found: commands, settings, pages, with the words they are found by."""
    return tuple(_in_two_languages(item) for item in (*_commands(), *_forms(), *_settings(), *_pages()))


def _in_two_languages(item: Findable) -> Findable:
    """Something that is found by its name in the window's language as well."""
    name = translations.translated(item.name)
    return item if name == item.name else replace(item, phrases=(*item.phrases, name.rstrip("…")))


def _twice(text: str) -> str:
    """A sentence, and what it is in the window's language where that is not ours."""
    translation = translations.translated(text)
    return text if translation == text else f"{text} {translation}"


def _phrases(text: str) -> tuple[str, ...]:
    return tuple(part.strip() for part in text.split(",") if part.strip())


def _commands() -> list[Findable]:
    items = []
    for text in COMMAND_TEXTS.values():
        if not text.menu_only or text.name in word_table.table()["commands"]:
            name = text.words
            phrases = _phrases(word_table.phrases("commands", text.name))
            items.append(Findable(f"do:{text.name}", name, phrases, text.menu))
    for kind in STRAND_TYPES:
        word = word_of(kind)
        phrases = _phrases(word_table.phrases("commands", f"add-{word}"))
        items.append(Findable(f"do:add-{word}", STRANDS.get(word, f"Add a {kind.LABEL.lower()}"), phrases, "Shake"))
    for word, name_of_sound in SOUNDS.items():
        phrases = _phrases(word_table.phrases("commands", f"add-sound-{word}"))
        items.append(Findable(f"do:add-sound-{word}", name_of_sound, phrases, "Shake"))
    return items


def _forms() -> list[Findable]:
    """Rendering in each form: “export prores”."""
    verbs = word_table.table()["forms"]
    items = []
    for form in codecs.CODECS:
        label = codecs.CODECS[form].words
        phrases = tuple(f"{verb} {name}" for verb in verbs for name in (form, label))
        items.append(Findable(f"do:{RENDER_AS}{form}", label, (form, *phrases), "Project", weight=0.95))
    return items


def _settings() -> list[Findable]:
    items = []
    for number, setting in enumerate(settings_index.settings()):
        note = setting.field
        own = getattr(note, "words", "") if not setting.over_time else ""
        more = word_table.table()["over time"] if setting.over_time else word_table.phrases("settings", setting.key)
        options = [words for _, words in note.options] if isinstance(note, Choice) else []
        whole = [words.partition(",")[0] for words in options if " " in words]
        weight = 0.97 if setting.kind is not None else 1.0
        explanation = "" if setting.over_time else " ".join(map(_twice, (note.tip, *options)))
        items.append(
            Findable(
                f"set:{number}", setting.name, (*_phrases(f"{own}, {more}"), *whole), setting.owner, explanation, weight
            )
        )
    return items


@cache
def page_titles() -> dict[str, str]:
    """The title of each page of the manual, by its file's name."""
    pages = (preset_library.ASSETS / "manual").glob("*.md")
    return {path.stem: path.read_text(encoding="utf-8").splitlines()[0].lstrip("# ") for path in sorted(pages)}


def _pages() -> list[Findable]:
    return [
        Findable(f"page:{page}", title, _phrases(word_table.phrases("pages", page)), "manual", weight=0.6)
        for page, title in page_titles().items()
    ]


@cache
def _presets(presets: tuple[Preset, ...]) -> WordSearch:
    items = []
    for preset in presets:
        words = tuple(re.split(r"[ ,]+", word_table.phrases("presets", preset.name)))
        note = _twice(translations.first_sentence(preset.note))
        item = Findable(f"preset:{preset.name.casefold()}", preset.name, words, preset.group, note, 1.02)
        items.append(_in_two_languages(item))
    return WordSearch(items)
