"""What is shipped: factory presets and the demo project."""

from __future__ import annotations

import difflib
import re
from functools import cache, lru_cache
from pathlib import Path

from msgspec.structs import replace

from young_tremor.assets import ASSETS
from young_tremor.base import files, xdg
from young_tremor.base.errors import RequestError, TremorError, UnknownName
from young_tremor.document import codec, store
from young_tremor.engine.library import settings, translations, word_table
from young_tremor.model.project import Preset, Project
from young_tremor.model.shake import Shake
from young_tremor.model.shot_edits import holding
from young_tremor.motion.holder import held_by

DEMO = ASSETS / "demo" / "quillmark.tremor"
DEFAULT_PRESET = "Standing, breathing"


def presets() -> tuple[Preset, ...]:
    """Factory presets in the order in which they are shown, then the person's own by name."""
    return (*factory(), *own()[0])


@cache
def factory() -> tuple[Preset, ...]:
    """The presets that are shipped; a holder's strands are made."""
    path = ASSETS / "presets" / "factory.json"
    return tuple(
        replace(preset, shake=held_by(replace(preset.shake, holder=None), preset.shake.holder))
        if preset.shake.holder is not None
        else preset
        for preset in codec.decode_presets(path.read_bytes(), path.name)
    )


def data_folder() -> Path:
    """What a person keeps for all projects: the XDG data folder."""
    return xdg.data()


def own_folder() -> Path:
    """Where a person's own presets are kept."""
    return data_folder() / "presets"


def own() -> tuple[tuple[Preset, ...], tuple[str, ...]]:
    """A person's own presets by name, and a sentence for every file that could not be read (it is skipped)."""
    return _read_own(_own_files())


def by_name() -> dict[str, Preset]:
    """All presets by their names in lower case."""
    return _by_name(_own_files())


Files = tuple[tuple[Path, int, int], ...]  # path, time and size of each file


def _own_files() -> Files:
    out = []
    for path in sorted(own_folder().glob("*.json")):
        try:
            stat = path.stat()
        except OSError:
            out.append((path, 0, 0))  # reading it will say why
        else:
            out.append((path, stat.st_mtime_ns, stat.st_size))
    return tuple(out)


@lru_cache(maxsize=1)
def _by_name(kept: Files) -> dict[str, Preset]:
    return {preset.name.casefold(): preset for preset in (*_read_own(kept)[0], *factory())}


@lru_cache(maxsize=1)
def _read_own(kept: Files) -> tuple[tuple[Preset, ...], tuple[str, ...]]:
    presets: list[Preset] = []
    bad: list[str] = []
    for path, _, _ in kept:
        try:
            presets += _presets_of(path)
        except TremorError as error:
            bad.append(str(error))
    return tuple(sorted(presets, key=lambda preset: preset.name.casefold())), tuple(bad)


def save_own(preset: Preset) -> Path:
    """Keep a preset; one of the same name is replaced. The file it is in."""
    name = preset.name.strip()
    if not name:
        raise RequestError("A preset needs a name: type one.")
    if any(preset.name.casefold() == name.casefold() for preset in factory()):
        raise RequestError(f"“{name}” is a factory preset: choose another name.")
    with files.lock(own_folder() / "presets"):
        path = next((p for p in sorted(own_folder().glob("*.json")) if _holds(p, name)), None)
        free = replace(preset.shake, strands=holding(preset.shake.strands, 0.0))  # another shot has its own length
        path = path or own_folder() / files.file_name(name, ".json")
        return files.keep(codec.encode_presets((replace(preset, name=name, shake=free),)), path)


def _presets_of(path: Path) -> tuple[Preset, ...]:
    return codec.decode_presets(files.read_regular(path, store.MOST_PRESETS, "a presets file"), path.name)


def _holds(path: Path, name: str) -> bool:
    """Whether a file holds the preset of that name, and nothing else."""
    try:
        return [preset.name for preset in _presets_of(path)] == [name]
    except TremorError:
        return False


def remove_own(name: str) -> None:
    """Forget a preset of one's own."""
    for path in own_folder().glob("*.json"):
        if _holds(path, name):
            path.unlink(missing_ok=True)


def take_in(path: Path) -> int:
    """Copy the presets of a file, or of every file of a folder, to one's own; how many. TremorError if none is one."""
    paths = sorted(path.glob("*.json")) if path.is_dir() else [path]
    number, words = 0, f"{path.name} holds no presets: choose another."
    for file in paths:
        try:
            for preset in _presets_of(file):
                save_own(preset)
                number += 1
        except TremorError as error:
            words = str(error)
    if not number:
        raise RequestError(words)
    return number


def search_words(preset: Preset, *, own: bool) -> str:
    """What a preset is found by, in small letters: its name, its group, and what it is for. Of ours that is the first
    sentence of the note and a list of words; the rest of a note names figures and books."""
    if own:
        return f"{preset.name} {preset.group} {preset.note}".casefold()
    texts = (preset.name, preset.group, translations.first_sentence(preset.note))
    phrases = word_table.phrases("presets", preset.name)
    return " ".join((*texts, phrases, *map(translations.translated, texts))).casefold()


def is_found(text: str, query: str) -> bool:
    """Whether every word of a query begins a word of a text, both in small letters."""
    words = re.findall(r"\w+", text)
    return all(any(word.startswith(wanted) for word in words) for wanted in re.findall(r"\w+", query.casefold()))


def export(names: tuple[str, ...], path: Path) -> int:
    """Write presets to one file, or each to a file of its own where ``path`` is a folder; how many."""
    chosen = [preset(name) for name in names]
    if path.is_dir():
        for item in chosen:
            files.write_whole(codec.encode_presets((item,)), path / files.file_name(item.name, ".json"))
    else:
        files.write_whole(codec.encode_presets(tuple(chosen)), path if path.suffix else path.with_suffix(".json"))
    return len(chosen)


NOTHING = "nothing"  # as what footage is opened with, in the settings


def starting_preset() -> Preset:
    """What new footage starts with: the person's choice (which may be nothing), or ours where that is gone."""
    if settings.load().first == NOTHING:
        return Preset("", "", "", Shake())
    return by_name().get(settings.load().first.casefold()) or preset(DEFAULT_PRESET)


def preset(name: str) -> Preset:
    """The preset of that name, whatever its case; UnknownName otherwise."""
    if not name.strip():
        raise UnknownName("The name of the preset is empty: see young-tremor presets.")
    found_preset = by_name().get(name.strip().casefold())
    if found_preset is not None:
        return found_preset
    wanted = name.strip().casefold()
    begun = [preset for preset in presets() if preset.name.casefold().startswith(wanted)]
    if len(begun) == 1:
        return begun[0]
    if begun:
        several = ", ".join(f"“{preset.name}”" for preset in begun)
        raise UnknownName(f"“{name}” is the beginning of {several}: say more of it.")
    near = difflib.get_close_matches(wanted, [preset.name.casefold() for preset in presets()], 1, 0.5)
    meant = f"did you mean “{by_name()[near[0]].name}”? " if near else ""
    names = ", ".join(f"“{preset.name}”" for preset in presets())
    raise UnknownName(f"There is no preset “{name}”: {meant or 'choose '}{'All are' if meant else 'one of'} {names}.")


def shake_file(path: Path) -> Preset:
    """The first preset of a saved file, or the one that the path names, FILE.json#NAME; TremorError in one sentence
    otherwise."""
    file, _, name = ("", "", "") if path.exists() else str(path).rpartition("#")
    path = Path(file) if file else path
    presets = _presets_of(path)
    if not presets:
        raise UnknownName(f"{path.name} holds no shake: choose another file.")
    named = next((preset for preset in presets if preset.name.casefold() == name.casefold()), None)
    if file and named is None:
        names = ", ".join(f"“{preset.name}”" for preset in presets[:20])
        raise UnknownName(f"{path.name} holds no “{name[:60]}”: name one of {names}.")
    return named or presets[0]


def demo_project() -> Project:
    """The demo: Quillmark Press at night."""
    return store.load(DEMO)
