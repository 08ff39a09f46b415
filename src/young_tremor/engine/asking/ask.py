"""The ask line: one list of what a person may have meant, the best first."""

from __future__ import annotations

import re
from collections.abc import Callable
from dataclasses import dataclass, field
from functools import cache, partial
from typing import Any, Literal, cast

import msgspec

from young_tremor.base.units import timecode
from young_tremor.engine.asking import motion_phrase, settings_index
from young_tremor.engine.asking.command_texts import COMMAND_TEXTS
from young_tremor.engine.asking.grammar import FRAMES, TIMES, Clock, Quantity, Token, Word, tokens
from young_tremor.engine.asking.motion_phrase import MotionPhrase
from young_tremor.engine.asking.settings_index import Edit, Place, Setting
from young_tremor.engine.asking.word_search import Findable, WordSearch, stems
from young_tremor.engine.library import preset_diff, preset_library, word_table
from young_tremor.model import curve_edits
from young_tremor.model.curve import Curve
from young_tremor.model.fields import Choice, Number, Switch
from young_tremor.model.project import Preset, Shot, new_id
from young_tremor.model.shake import STRAND_TYPES, Drift, Hit, Shake, Strand
from young_tremor.model.take import Take
from young_tremor.motion.strand_kinds import word_of

Kind = Literal["do", "set", "move", "preset", "take", "time", "hit", "page"]
MOST = 12  # entries
SHAPED = 1.0  # seconds that a swell takes if nothing is said
SHARE = 0.25  # of the best one's score that others need
LEAST = 0.12  # of a score that is worth showing
STRANDS = {"jolts": "Add jolts", "plotted": "Add a plotted motion"}
SOUNDS = {"rumble": "Add a rumble", "knocks": "Add knocks", "layer": "Sound file…", "sway": "Sound sway"}
EXAMPLES = ("30 px 2 Hz", "shutter 90", "subtle handheld")

# Act: what an entry does when it is taken.


@dataclass(frozen=True)
class DoCommand:
    """Do a command by its name."""

    name: str


@dataclass(frozen=True)
class ChangeShot:
    """Change the shot, as one step of that label."""

    label: str
    edit: Edit = field(compare=False)


@dataclass(frozen=True)
class OpenSetting:
    """Show where a setting stands, with the focus in it."""

    setting: Setting


@dataclass(frozen=True)
class PutPreset:
    """Put a preset in place of the shake."""

    preset: Preset


@dataclass(frozen=True)
class PutTake:
    """Put a take on the shot."""

    take: Take


@dataclass(frozen=True)
class GoTo:
    """Put the playhead on a frame."""

    frame: int


@dataclass(frozen=True)
class OpenPage:
    """Open a page of the manual by the beginning of its file's name."""

    page: str


Act = DoCommand | ChangeShot | OpenSetting | PutPreset | PutTake | GoTo | OpenPage


@dataclass(frozen=True)
class Entry:
    """One line of the list. ``score``: how likely it is meant."""

    kind: Kind
    name: str
    detail: str
    act: Act
    score: float = 0.0


@dataclass(frozen=True)
class Answer:
    """What was understood, in our words (None: words alone), and the entries, the best first."""

    understood: str | None
    entries: tuple[Entry, ...]


def ask(text: str, place: Place | None = None, takes: tuple[Take, ...] = (), more: WordSearch | None = None) -> Answer:
    """What a person may mean by a sentence; ``place``: where they stand, None with nothing open. ``takes``: of the
    project. ``more``: further commands of the moment, found by their key."""
    clock = Clock(place.rate) if place else Clock()
    said = tokens(text, clock)
    phrase = motion_phrase.understand(said, clock)
    entries: list[Entry] = []
    understood = None
    if place is not None:
        entries += _times(said, place)
        entries += _hits(said, place)
        if phrase is not None:
            moves = _moves(phrase, said, place)
            entries += moves
            understood = f"{'Jolts' if phrase.jolts else 'Drift'}: {phrase.words()}" if moves else None
        entries += _shapes(said, place)
        entries += _unit_settings(said, place)
    entries += _found(text, said, place, takes, more)
    best: dict[tuple[Kind, str, str], Entry] = {}
    for entry in entries:
        key = (entry.kind, entry.name, entry.detail)
        if entry.score >= LEAST and (key not in best or best[key].score < entry.score):
            best[key] = entry
    ranked = sorted(best.values(), key=lambda entry: -entry.score)
    ranked = [entry for entry in ranked if entry.score >= SHARE * ranked[0].score]
    if understood is None or (ranked and ranked[0].kind not in ("move",)):
        understood = f"{ranked[0].name}: {ranked[0].detail}" if ranked and _says_figure(ranked[0], said) else understood
    return Answer(understood, tuple(ranked[:MOST]))


def _says_figure(entry: Entry, said: tuple[Token, ...]) -> bool:
    return entry.kind in ("set", "time", "hit") and any(isinstance(token, Quantity) for token in said)


def examples(place: Place | None) -> tuple[str, ...]:
    """Three things that can be asked here."""
    if place is None:
        return ("open", "add a title", "manual")
    chosen = next((strand for strand in place.shot.shake.strands if strand.id == place.strand), None)
    if chosen is not None and not isinstance(chosen, Drift):
        return ("amount 50 %", "30 px 2 Hz", "hit here")
    return EXAMPLES


def _words_of(said: tuple[Token, ...]) -> tuple[str, ...]:
    """The words of a sentence that are not figures, nor there for grammar alone."""
    stop = word_table.words("stop")
    return tuple(token.text for token in said if isinstance(token, Word) and token.text not in stop)


def _times(said: tuple[Token, ...], place: Place) -> list[Entry]:
    """A place in time: “95”, “f95”, “2:10”, “3.5 s”, “-12f”."""
    figures = [token for token in said if isinstance(token, Quantity)]
    if len(figures) != 1 or figures[0].relation == "*":
        return []
    quantity = figures[0]
    words = [token.text for token in said if isinstance(token, Word)]
    if any(word not in word_table.words("go") and word not in word_table.words("stop") for word in words):
        return []
    bare = quantity.unit in ("", FRAMES)
    if quantity.unit not in ("", FRAMES, *TIMES) or (bare and quantity.value != int(quantity.value)):
        return []
    rate = float(place.rate)
    seconds = Clock(place.rate).seconds(quantity)
    frames = quantity.value if bare or seconds is None else seconds * rate
    now = round(place.now * rate)
    target = now + frames if quantity.value < 0 or quantity.relation else frames
    last = round(place.seconds * rate) - 1 if place.seconds else None
    frame = max(0, round(target) if last is None else min(round(target), max(last, 0)))
    words_of_frame = f"frame {frame}, {timecode(frame, place.rate)}"
    return [Entry("time", f"Go to frame {frame}", words_of_frame, GoTo(frame), 2.0 if not bare or words else 1.4)]


def _hits(said: tuple[Token, ...], place: Place) -> list[Entry]:
    """A hit at a time: “hit 3.5 s 80 %”."""
    words = {token.text for token in said if isinstance(token, Word)}
    figures = [token for token in said if isinstance(token, Quantity)]
    if not words & word_table.words("hits") or not figures or any(word in words for word in ("px", "to")):
        return []
    strengths = [token for token in figures if token.unit in ("%", "×")]
    times = [token for token in figures if token.unit in ("", FRAMES, *TIMES)]
    if len(times) > 1 or len(strengths) > 1 or len(times) + len(strengths) < len(figures):
        return []
    clock = Clock(place.rate)
    t = place.now
    if times:
        quantity = times[0] if times[0].unit != FRAMES else Quantity(times[0].value, "f")
        if quantity.unit == "" and quantity.value == int(quantity.value) and "s" not in words:
            quantity = Quantity(quantity.value, "f")
        t = clock.seconds(quantity) or 0.0
    strength = 1.0 if not strengths else strengths[0].value / (100 if strengths[0].unit == "%" else 1)
    if t < 0 or not -100 <= strength <= 100 or (place.seconds is not None and t > place.seconds):
        return []
    hit = Hit(new_id(), t, strength)

    def edit(shot: Shot) -> Shot:
        hits = [old for old in shot.hits if abs(old.t - t) > 0.01]
        return msgspec.structs.replace(shot, hits=tuple(sorted((*hits, hit), key=lambda item: item.t)))

    detail = f"at {t:.2f} s, strength {100 * strength:.0f} %"
    return [Entry("hit", "Hit", detail, ChangeShot("Add hit", edit), 2.6)]


def _moves(phrase: MotionPhrase, said: tuple[Token, ...], place: Place) -> list[Entry]:
    """A motion in figures: in place of the shake, added, or given to the chosen strand."""
    score = 2.9 if phrase.amounts and phrase.rate is not None else 2.2 if phrase.amounts else 1.0
    score *= 0.3 ** len(phrase.unknown)
    if not (phrase.amounts and phrase.rate is not None) and set(_words_of(said)) & word_table.words("names of figures"):
        score *= 0.4  # “amplitude 20 px”: the number that is called so is meant
    height = float(place.size[1])
    if phrase.jolts:
        if not phrase.amounts:
            return []
        jolts = motion_phrase.jolts_of(phrase, new_id(), height=height)
        return [
            Entry(
                "move",
                "Jolts, added to the shake",
                f"Jolts: {phrase.words()}",
                ChangeShot("Add jolts", _added(jolts, place)),
                score,
            )
        ]
    chosen = next((s for s in place.shot.shake.strands if s.id == place.strand), None)
    fresh = preset_diff.plain("drift", new_id(), 5)
    assert isinstance(fresh, Drift)
    drift = motion_phrase.strand_of(phrase, fresh.id, height=height, base=fresh, seconds=place.seconds)
    drift_words = f"Drift: {phrase.words()}"
    replaced = Entry(
        "move", "In place of the shake", drift_words, ChangeShot("Drift in figures", _in_place(drift, place)), score
    )
    added = Entry(
        "move", "Added to the shake", drift_words, ChangeShot("Add drift", _added(drift, place)), score - 0.01
    )
    entries = [added, replaced] if phrase.way == "added" else [replaced, added]
    if isinstance(chosen, Drift):
        own = motion_phrase.strand_of(phrase, chosen.id, height=height, base=chosen, seconds=place.seconds)
        own = msgspec.structs.replace(own, name=chosen.name, amount=own.amount if phrase.shape else chosen.amount)

        def edit(shot: Shot) -> Shot:
            strands = tuple(own if strand.id == own.id else strand for strand in shot.shake.strands)
            return msgspec.structs.replace(shot, shake=msgspec.structs.replace(shot.shake, strands=strands))

        entries.append(
            Entry(
                "move",
                f"To the chosen strand, {chosen.name}",
                drift_words,
                ChangeShot("Drift in figures", edit),
                score - 0.02,
            )
        )
    return entries


def _in_place(strand: Drift, place: Place) -> Edit:
    return lambda shot: msgspec.structs.replace(shot, shake=Shake((_fitted(strand, place),)))


def _added(strand: Strand, place: Place) -> Edit:
    """A strand put under the others."""

    def edit(shot: Shot) -> Shot:
        strands = (*shot.shake.strands, _fitted(strand, place))
        return msgspec.structs.replace(shot, shake=msgspec.structs.replace(shot.shake, strands=strands))

    return edit


def _fitted(strand: Strand, place: Place) -> Strand:
    """A drift in the course that holds its reach in the shot; other strands as they are."""
    if not isinstance(strand, Drift) or place.seconds is None:
        return strand
    return motion_phrase.with_fitting_seed(strand, place.rate, place.seconds)[0]


def _shapes(said: tuple[Token, ...], place: Place) -> list[Entry]:
    """A ready shape of the intensity at the playhead or over the marks: “swell here”, “still up to here”."""
    words = {token.text for token in said if isinstance(token, Word)}
    figures = [token for token in said if isinstance(token, Quantity) and token.unit in ("s", "ms", "f")]
    if not words & word_table.words("here") or any(isinstance(token, Quantity) for token in said) != bool(figures):
        return []
    seconds = Clock(place.rate).seconds(figures[0]) if figures else None
    known = word_table.meaning("shapes at the playhead")
    end = place.seconds if place.seconds is not None else place.now + 1
    length = SHAPED if seconds is None or seconds <= 0 else seconds
    a, b = place.marks or (max(place.now - length / 2, 0.0), min(place.now + length / 2, end))
    changes: dict[str, tuple[str, Callable[[Curve], Curve]]] = {
        "still": ("Still up to here", lambda curve: curve_edits.still_up_to(curve, place.now, min(length, 0.5))),
        "swell": ("Swell around here", lambda curve: curve_edits.swell_around(curve, place.now, length / 2)),
        "rise": ("Rise to here", lambda curve: curve_edits.ramp_in(curve, 0.0, max(place.now, 0.04))),
        "fall": ("Fall from here to the end", lambda curve: curve_edits.ramp_out(curve, place.now, max(end, a + 0.04))),
        "between": ("Only between the marks", lambda curve: curve_edits.only_between(curve, a, b, 0.2)),
    }
    names = dict.fromkeys(known[word] for word in words if word in known)
    entries = []
    for name in names:
        label, change = changes[name]
        detail = f"Intensity, at {timecode(round(place.now * place.rate), place.rate)}"
        entries.append(Entry("set", label, detail, ChangeShot(label, partial(_shaped, change=change)), 2.5))
    return entries


def _shaped(shot: Shot, *, change: Callable[[Curve], Curve]) -> Shot:
    """A shot with its intensity in another shape."""
    shake = msgspec.structs.replace(shot.shake, intensity=change(shot.shake.intensity))
    return msgspec.structs.replace(shot, shake=shake)


def _unit_settings(said: tuple[Token, ...], place: Place) -> list[Entry]:
    """What a figure alone can be meant for, by its unit: “2 Hz”, “35 mm”, “-6 dB”."""
    if len(said) != 1 or not isinstance(said[0], Quantity):
        return []
    keys = {
        "Hz": ("Drift.rate", "Jolts.ring"), "mm": ("FrameSettings.focal_mm",), "dB": ("Mix.level",),
        "°": ("Shutter.angle",), "rad": ("channel.roll",), "%": ("Shake.intensity", "Common.amount"),
        "×": ("Shake.pace", "FrameSettings.crop"), "px": ("reach",),
    }.get(said[0].unit, ())  # fmt: skip
    entries = []
    for number, setting in enumerate(item for item in settings_index.settings() if item.key in keys):
        entry = _set_entry(setting, said, (), place, 1.6 - 0.05 * number)
        if entry is not None:
            entries.append(entry)
    return entries


def _set_entry(
    setting: Setting, said: tuple[Token, ...], words: tuple[str, ...], place: Place, score: float
) -> Entry | None:
    """A setting with what would change; where no value was said, or nothing has it yet, the way to it."""
    if not settings_index.can_be_set(setting, place):
        return None
    now = settings_index.value_now(setting, place)
    value = _value_said(setting, said, words, place)
    if value is None:
        return Entry("set", setting.name, settings_index.value_words(setting, now), OpenSetting(setting), score)
    before, after = (settings_index.value_words(setting, item) for item in (now, value))
    if before == after:
        return Entry("set", setting.name, f"{before} already", OpenSetting(setting), score)
    edit = settings_index.set_value(setting, place, value)
    return Entry("set", setting.name, f"{before} → {after}", ChangeShot(setting.name, edit), score + 0.3)


def _value_said(setting: Setting, said: tuple[Token, ...], words: tuple[str, ...], place: Place) -> Any:
    """The value that a sentence gives a setting; None if it gives none."""
    figures = [token for token in said if isinstance(token, Quantity)]
    if isinstance(setting.field, Number):
        for quantity in figures:
            value = settings_index.read_number(setting, quantity, place)
            if value is not None:
                return value
        factors = [word_table.table()["factors"][word] for word in words if word in word_table.table()["factors"]]
        if factors and not figures and setting.key in word_table.words("factors of"):
            return settings_index.read_number(setting, Quantity(factors[0], "", "*"), place)
        return None
    if isinstance(setting.field, Choice | Switch):
        own = set(stems(setting.name)) if isinstance(setting.field, Choice) else set()
        return settings_index.read_choice(setting, tuple(word for word in stems(" ".join(words)) if word not in own))
    return None


def _found(
    text: str, said: tuple[Token, ...], place: Place | None, takes: tuple[Take, ...], more: WordSearch | None
) -> list[Entry]:
    """What the words find, each as an entry."""
    bare = " ".join(_words_of(said))
    scores: dict[str, tuple[float, Findable]] = {}
    of_takes = WordSearch(Findable(f"take:{take.id}", take.name, ("take",), "takes") for take in takes)
    for search in (_fixed(), _presets(preset_library.presets()), of_takes, *((more,) if more else ())):
        for query in dict.fromkeys((text, bare)):
            for score, item in search.find(query):
                if item.key not in scores or scores[item.key][0] < score:
                    scores[item.key] = (score, item)
    words = tuple(token.text for token in said if isinstance(token, Word))
    entries = []
    for score, item in scores.values():
        entry = _entry_of(item, said, words, place, score, takes)
        if entry is not None:
            entries.append(entry)
    return entries


def _entry_of(
    item: Findable,
    said: tuple[Token, ...],
    words: tuple[str, ...],
    place: Place | None,
    score: float,
    takes: tuple[Take, ...],
) -> Entry | None:
    kind, _, key = item.key.partition(":")
    if kind == "set":
        setting = settings_index.settings()[int(key)]
        if setting.owner == "preferences":
            return Entry("set", setting.name, "in the preferences", DoCommand("preferences"), score)
        if place is None:
            return None
        if setting.over_time:
            return Entry("set", setting.name, "shape it on the chart", OpenSetting(setting), score)
        return _set_entry(setting, said, words, place, score) or _absent(setting, score)
    if kind == "preset":
        preset = preset_library.by_name().get(key)
        return (
            None
            if preset is None
            else Entry("preset", preset.name, preset.note.partition(". ")[0], PutPreset(preset), score)
        )
    if kind == "take":
        take = next((take for take in takes if take.id == key), None)
        return None if take is None else Entry("take", take.name, f"{take.seconds:.1f} s", PutTake(take), score)
    if kind == "page":
        return Entry("page", item.name, "page of the manual", OpenPage(key), score)
    command = COMMAND_TEXTS.get(key)
    if command is not None and command.shot and place is None:
        return None
    return Entry("do", item.name, item.group, DoCommand(key), score)


def _absent(setting: Setting, score: float) -> Entry | None:
    """A setting of something that is not there yet: how to get it."""
    if setting.owner == "strand" and setting.kind is not None and setting.kind in STRAND_TYPES:
        word = word_of(setting.kind)
        label = setting.kind.LABEL.lower()
        return Entry("set", setting.name, f"of {label}, which are added", DoCommand(f"add-{word}"), score * 0.8)
    if setting.owner == "sound" and setting.kind is not None:
        word = cast(str, cast(Any, setting.kind).__struct_config__.tag)
        return Entry("set", setting.name, f"of {word}, added first", DoCommand(f"add-sound-{word}"), score * 0.8)
    return Entry("set", setting.name, "", OpenSetting(setting), score * 0.8)


@cache
def _fixed() -> WordSearch:
    """What can always be found: commands, settings, pages."""
    items = [*_commands(), *_settings(), *_pages()]
    return WordSearch(items)


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


def _settings() -> list[Findable]:
    items = []
    for number, setting in enumerate(settings_index.settings()):
        note = setting.field
        own = getattr(note, "words", "") if not setting.over_time else ""
        more = word_table.table()["over time"] if setting.over_time else word_table.phrases("settings", setting.key)
        options = " ".join(words for _, words in note.options) if isinstance(note, Choice) else ""
        weight = 0.97 if setting.kind is not None else 1.0
        said = "" if setting.over_time else f"{note.tip} {options}"
        items.append(Findable(f"set:{number}", setting.name, _phrases(f"{own}, {more}"), setting.owner, said, weight))
    return items


@cache
def page_titles() -> dict[str, str]:
    """The title of each page of the manual, by its file's name."""
    pages = sorted((preset_library.ASSETS / "manual").glob("*.md"), key=lambda path: int(path.stem.partition("-")[0]))
    return {path.stem: path.read_text(encoding="utf-8").splitlines()[0].lstrip("# ") for path in pages}


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
        note = preset.note.partition(". ")[0]
        items.append(Findable(f"preset:{preset.name.casefold()}", preset.name, words, preset.group, note, 1.02))
    return WordSearch(items)
