"""Write every word of the interface into a file for translators: python scripts/words.py young-tremor_LANGUAGE.ts

What is translated in the file already stays."""

from __future__ import annotations

import ast
import re
import sys
from collections.abc import Iterator
from pathlib import Path
from typing import get_args
from xml.etree import ElementTree
from xml.sax.saxutils import escape

from tables import described_structs
from young_tremor.desk.chart.curve_rows import ROWS
from young_tremor.desk.kit.i18n import CONTEXT, COUNTED
from young_tremor.desk.panels.strand_panel import CHANNEL_WORDS
from young_tremor.desk.sheets.ask_line import KINDS
from young_tremor.desk.sheets.preset_sheet import GROUPS
from young_tremor.desk.sheets.take_sheet import TAGS
from young_tremor.engine.asking import ask
from young_tremor.engine.asking.command_texts import COMMAND_TEXTS
from young_tremor.engine.library import preset_library
from young_tremor.engine.library.translations import first_sentence
from young_tremor.engine.sound import sound_presets
from young_tremor.media.codecs import CODECS
from young_tremor.model import fields
from young_tremor.model.curve_shapes import SHAPES
from young_tremor.model.shake import PLOTTED, STRAND_TYPES, Point
from young_tremor.model.title import Apart

DESK = Path(__file__).parents[1] / "src" / "young_tremor" / "desk"
NO_WORDS = re.compile(r"[{}]|;$|^#|^\w+[a-z][A-Z]\w*$|^(Fusion|Barlow Semi Condensed|Spline Sans Mono)$")


def words() -> list[str]:
    """The sentences, in the order of their letters."""
    found = {each for pair in COUNTED.values() for each in pair} | field_words() | ask_words() | composed_words()
    for path in DESK.rglob("*.py"):
        tree = ast.parse(path.read_text())
        unsaid = {id(each) for node in ast.walk(tree) for each in _unsaid(node)}
        for node in ast.walk(tree):
            if isinstance(node, ast.Call) and getattr(node.func, "id", "") == "tr" and node.args:
                found |= set(_strings(node.args[0]))
            elif isinstance(node, ast.Constant) and isinstance(node.value, str) and id(node) not in unsaid:
                found |= {node.value} if _says(node.value) else set()
    return sorted(found - {""})


def _unsaid(node: ast.AST) -> Iterator[ast.AST]:
    """Texts of the source that nobody sees: docstrings, and pieces of composed ones (:func:`composed_words`)."""
    if isinstance(node, ast.Module | ast.ClassDef | ast.FunctionDef) and isinstance(node.body[0], ast.Expr):
        yield node.body[0].value
    elif isinstance(node, ast.JoinedStr):
        yield from node.values


def composed_words() -> set[str]:
    """Sentences that are put together of names, and what is shipped by name: presets, sounds, formats."""
    found = {*KINDS.values(), *get_args(Apart), *(codec.words for codec in CODECS.values())}
    found |= {each for row in ROWS for each in row[:2]}
    for name, words in CHANNEL_WORDS.items():
        found |= {f"{words} reach", f"Rate and phase of {words.lower()}", name}
    found |= {f"Edit {name} on the row; the others are locked" for name in PLOTTED}
    found |= {each for group in GROUPS for each in (group, group.capitalize(), f"Presets: {group}")}
    found |= {tag.capitalize() for tag in ("name", *TAGS)}
    for name in "xy":
        tip = fields.number_at(Point, name).tip
        found.add(f"Its centre: {tip[0].lower()}{tip[1:]}")
    for name, kind, note in sound_presets.sound_rows():
        found |= {name, kind, first_sentence(note)}
    for preset in preset_library.factory():
        found |= {preset.name, first_sentence(preset.note)}
        for strand in preset.shake.strands:
            found |= {strand.name} | ({strand.note} if not re.search(r"\d", strand.note) else set())  # figures stay
    return found


def field_words() -> set[str]:
    """Labels, tips and options of the fields of the document and of the preferences, and labels of strands."""
    found = {kind.LABEL for kind in STRAND_TYPES}
    for struct in described_structs().values():
        for field in fields.fields(struct).values():
            found |= {field.label, field.tip}
            if isinstance(field, fields.Choice):
                found |= {words for _, words in field.options}
    return found


def ask_words() -> set[str]:
    """The words of the commands, and what else the ask line says. What it understands stands in
    ``assets/ask_words.json``, which is translated as a whole."""
    commands = {word for text in COMMAND_TEXTS.values() for word in (text.words, text.menu)}
    shapes = {shape.label for shape in SHAPES}
    entries = {
        word.value
        for path in Path(ask.__file__).parent.glob("*.py")
        for node in ast.walk(ast.parse(path.read_text()))
        if isinstance(node, ast.Call) and getattr(node.func, "id", "") == "Entry"
        for word in node.args[1:3]
        if isinstance(word, ast.Constant)
    }
    return (
        commands
        | shapes
        | entries
        | {*ask.STRANDS.values(), *ask.SOUNDS.values(), *ask.EXAMPLES, *ask.page_titles().values()}
    )


def _strings(node: ast.AST) -> Iterator[str]:
    for each in ast.walk(node):
        if isinstance(each, ast.Constant) and isinstance(each.value, str):
            yield each.value


def _says(text: str) -> bool:
    """Whether it is meant for people rather than a key of ours."""
    return bool(re.match(r"[A-Z].*[a-z]|.*[a-z] [a-z]", text)) and not NO_WORDS.search(text)


def write(name: Path) -> tuple[int, int]:
    """Write the file, with what is translated in it already; how many sentences it has, and how many are to be done."""
    done: dict[str, str] = {}
    if name.exists():
        for message in ElementTree.parse(name).iter("message"):
            done[message.findtext("source") or ""] = message.findtext("translation") or ""
    lines = [
        '<?xml version="1.0" encoding="utf-8"?>',
        "<!DOCTYPE TS>",
        '<TS version="2.1">',
        "<context>",
        f"    <name>{CONTEXT}</name>",
    ]
    sentences = words()
    for each in sentences:
        text = done.get(each, "")
        translation = f"<translation>{escape(text)}</translation>" if text else '<translation type="unfinished"/>'
        lines.append(f"    <message><source>{escape(each)}</source>{translation}</message>")
    name.write_text("\n".join([*lines, "</context>", "</TS>", ""]), encoding="utf-8")
    return len(sentences), sum(not done.get(each) for each in sentences)


def main(name: str) -> None:
    count, to_do = write(Path(name))
    print(f"{name}: {count} sentences, {to_do} to be translated")


if __name__ == "__main__":
    main(sys.argv[1] if len(sys.argv) > 1 else "young-tremor_xx.ts")
