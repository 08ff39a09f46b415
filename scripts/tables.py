"""Writes what is made from the code: the schema of projects, and the manual's tables of numbers and keys."""

from __future__ import annotations

from meanings import HEADINGS, MEANINGS
from young_tremor.desk.window.commands import ALL, MENUS
from young_tremor.document import codec
from young_tremor.engine.library import preset_library
from young_tremor.model.limits import COUNTS, NUMBERS

PAGES = preset_library.ASSETS / "manual"


def said(limit: float) -> str:
    """A limit as it is read."""
    whole = f"{limit:,.0f}".replace(",", " ").replace("-", "−")
    return whole if limit == int(limit) and abs(limit) < 1e9 else f"{limit:.3g}".replace("-", "−")


def numbers() -> str:
    """The page of all numbers: what each means, its unit, the least and the most it may be."""
    lines = [
        "# What each number means",
        "",
        "A value outside its limits is refused by the name of its field, whether it is typed, read or made. Numbers",
        "that can be curves have the limits at every key. Shifts and sizes are measured by the height of the frame, so",
        "that they mean the same at any size; times are seconds, so that they mean the same at any rate.",
    ]
    for heading, kinds in HEADINGS.items():
        lines += [
            "",
            f"## {heading}",
            "",
            "| number | unit | means | least | most |",
            "| --- | --- | --- | --- | --- |",
        ]
        for kind in kinds:
            for field, (low, high) in NUMBERS[kind].items():
                unit, words = MEANINGS[kind][field]
                lines.append(f"| {kind}.{field} | {unit} | {words} | {said(low)} | {said(high)} |")
    lines += ["", "## How many", "", "| of | in | most |", "| --- | --- | --- |"]
    lines += [f"| {field} | {kind} | {most} |" for kind, counts in COUNTS.items() for field, most in counts.items()]
    lines += ["", "Rates are fractions of a second from 1/10 to 1000, the shape of a pixel from 1/16 to 16."]
    return "\n".join(lines) + "\n"


def keys() -> str:
    """The keys of all commands as Markdown, menu by menu."""
    lines = ["| key | does |", "| --- | --- |"]
    for menu in MENUS:
        for command in ALL:
            if command.menu == menu and command.keys:
                lines.append(f"| {', '.join(command.keys)} | {command.words.rstrip('…')} |")
    lines += [
        "| hold C | the still original |",
        "| wheel, Shift+wheel | zoom and pan on the chart |",
        "| Alt+wheel | turn the rule under the pointer |",
    ]
    return "\n".join(lines) + "\n"


def keyboard(text: str) -> str:
    """The page of the keyboard with its table of keys made anew."""
    return text[: text.index("| key | does |")] + keys()


if __name__ == "__main__":
    (PAGES / "12-numbers.md").write_text(numbers(), encoding="utf-8")
    (preset_library.ASSETS / "project.schema.json").write_text(codec.schema_json(), encoding="utf-8")
    page = PAGES / "11-keyboard.md"
    page.write_text(keyboard(page.read_text(encoding="utf-8")), encoding="utf-8")
