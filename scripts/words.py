"""Write every word of the interface into a file for translators: python scripts/words.py young-tremor_LANGUAGE.ts"""

from __future__ import annotations

import ast
import re
import sys
from collections.abc import Iterator
from pathlib import Path
from xml.sax.saxutils import escape

from tables import described_structs
from young_tremor.desk.kit.i18n import CONTEXT, COUNTED
from young_tremor.engine.asking import ask
from young_tremor.engine.asking.command_texts import COMMAND_TEXTS
from young_tremor.model import fields
from young_tremor.model.shake import STRAND_TYPES

DESK = Path(__file__).parents[1] / "src" / "young_tremor" / "desk"
GIVEN = {  # calls that translate what they are given
    "NumberField",
    "section",
    "heading",
    "Fold",
    "Glyph",
    "Segments",
    "Sheet",
    "bind",
    "SoundSecond",
    "CurveSubject",
    "Strip",
    "LevelStrip",
    "StrandCurve",
    "Controls",
    "apply",
    "number",
    "_shapeable",
}


def words() -> list[str]:
    """The sentences, in the order of their letters."""
    found = {each for pair in COUNTED.values() for each in pair} | field_words() | ask_words()
    for path in DESK.rglob("*.py"):
        tree = ast.parse(path.read_text())
        for node in ast.walk(tree):
            if isinstance(node, ast.Call):
                name = getattr(node.func, "attr", getattr(node.func, "id", ""))
                if name == "tr" and node.args:
                    found |= set(_strings(node.args[0]))
                elif name in GIVEN:
                    found |= {each for each in _strings(node) if _says(each)}
            elif isinstance(node, ast.Assign | ast.AnnAssign) and node in tree.body and node.value is not None:
                found |= {each for each in _strings(node.value) if _says(each)}
    return sorted(found)


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
    return commands | {*ask.STRANDS.values(), *ask.SOUNDS.values(), *ask.EXAMPLES}


def _strings(node: ast.AST) -> Iterator[str]:
    for each in ast.walk(node):
        if isinstance(each, ast.Constant) and isinstance(each.value, str):
            yield each.value


def _says(text: str) -> bool:
    """Whether it is meant for people rather than a key of ours."""
    return bool(re.match(r"[A-Z].*[a-z]|.*[a-z] [a-z]", text)) and not re.search(r"[{};]|^#", text)


def main(name: str) -> None:
    lines = [
        '<?xml version="1.0" encoding="utf-8"?>',
        "<!DOCTYPE TS>",
        '<TS version="2.1">',
        "<context>",
        f"    <name>{CONTEXT}</name>",
    ]
    for each in words():
        lines.append(f'    <message><source>{escape(each)}</source><translation type="unfinished"/></message>')
    Path(name).write_text("\n".join([*lines, "</context>", "</TS>", ""]), encoding="utf-8")
    print(f"{name}: {len(words())} sentences")


if __name__ == "__main__":
    main(sys.argv[1] if len(sys.argv) > 1 else "young-tremor_xx.ts")
