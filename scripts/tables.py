"""Writes what is made from the code: the schema of projects, ``docs/limits.md`` and the keys in the README."""

from __future__ import annotations

from pathlib import Path

from young_tremor.desk.window.listed import ALL, MENUS
from young_tremor.engine import actions, library
from young_tremor.model.limits import COUNTS, FRACTIONS, NUMBERS

DOCS = Path(__file__).parents[1] / "docs"


def limits() -> str:
    """The table of limits as Markdown."""
    lines = [
        "# What numbers may be", "",
        "Made by `python scripts/tables.py` from `model.limits`. A value outside is refused by the name of its field "
        "when it is", "typed, read or made. Curves have the limits at every key.", "",
        "| value | field | least | most |", "| --- | --- | --- | --- |",
    ]  # fmt: skip
    for kind, fields in NUMBERS.items():
        lines += [f"| {kind} | {field} | {low:.12g} | {high:.12g} |" for field, (low, high) in fields.items()]
    for kind, bounds in FRACTIONS.items():
        lines += [f"| {kind} | {field} (a fraction) | {low} | {high} |" for field, (low, high) in bounds.items()]
    for kind, counts in COUNTS.items():
        lines += [f"| {kind} | number of {field} | 0 | {most} |" for field, most in counts.items()]
    return "\n".join(lines) + "\n"


def keys() -> str:
    """The keys of all commands as Markdown, menu by menu."""
    lines = ["| key | does |", "| --- | --- |"]
    for menu in MENUS:
        for command in ALL:
            if command.menu == menu and command.keys:
                lines.append(f"| {', '.join(command.keys)} | {command.words.rstrip('…')} |")
    lines += ["| hold C | the still original |", "| wheel, Shift+wheel | zoom and pan on the chart |",
              "| Alt+wheel | turn the rule under the pointer |"]  # fmt: skip
    return "\n".join(lines) + "\n"


def with_keys(text: str) -> str:
    """The README with its table of keys made anew."""
    begin, end = text.index("| key | does |"), text.index("\n\n", text.index("| key | does |"))
    return text[:begin] + keys() + text[end + 1 :]


if __name__ == "__main__":
    (DOCS / "limits.md").write_text(limits(), encoding="utf-8")
    (library.ASSETS / "project.schema.json").write_text(actions.schema_json(), encoding="utf-8")
    readme = DOCS.parent / "README.md"
    readme.write_text(with_keys(readme.read_text(encoding="utf-8")), encoding="utf-8")
