"""Writes what is made from the code: the schema of projects, and the manual's tables of numbers and keys."""

from __future__ import annotations

from young_tremor.desk.window.commands import COMMANDS
from young_tremor.document import codec
from young_tremor.engine.asking import word_index
from young_tremor.engine.asking.command_texts import MENUS
from young_tremor.engine.library import preset_library
from young_tremor.engine.library.settings import Settings
from young_tremor.model import fields
from young_tremor.model.project import Preset

#: Types under the headings of the page, in the order of work.
HEADINGS: dict[str, tuple[str, ...]] = {
    "A shake": ("Shake", "Together", "Holder", "Preset", "Stretch", "Region"),
    "Drift": ("Drift", "DriftChannel", "Wander", "Rests", "Corrections", "Steps"),
    "Blows": ("Hit", "Jolts", "Smear", "Knock", "Afterimages"),
    "Takes": ("Take", "Taken", "Gains", "Endless"),
    "Plotted motion and shimmer": ("Plotted", "Shimmer"),
    "The frame": ("FrameSettings", "Shutter", "Box", "Point"),
    "Shots, plates and titles": ("Shot", "Size", "Plate", "Placement", "Title", "Depth", "Ramp", "Raised"),
    "Spans": ("Span", "Over"),
    "Sound": ("Mix", "Rumble", "Knocks", "Layer", "SoundSway"),
    "Curves": ("Key", "Curve"),
    "Preferences": ("Settings",),
}

PAGES = preset_library.ASSETS / "manual"


def described_structs() -> dict[str, type]:
    """The structs of the document, of presets and of the preferences by name."""
    return {k: v for root in (codec.ProjectFile, Preset, Settings) for k, v in fields.structs_below(root).items()}


def limit_text(limit: float) -> str:
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
    structs = described_structs()
    for heading, kinds in HEADINGS.items():
        lines += [
            "",
            f"## {heading}",
            "",
            "| number | unit | means | least | most |",
            "| --- | --- | --- | --- | --- |",
        ]
        for kind in kinds:
            for field, number in fields.numbers(structs[kind]).items():
                least, most = map(limit_text, number.bounds)
                lines.append(f"| {kind}.{field} | {number.document_unit} | {number.tip} | {least} | {most} |")
    lines += ["", "## How many", "", "| of | in | most |", "| --- | --- | --- |"]
    for kind, struct in structs.items():
        for field, note in fields.descriptions(struct).items():
            if isinstance(note, fields.AtMost):
                lines.append(f"| {field} | {kind} | {note.count} |")
    lines += ["", "Rates are fractions of a second from 1/10 to 1000, the shape of a pixel from 1/16 to 16."]
    return "\n".join(lines) + "\n"


def keys() -> str:
    """The keys of all commands as Markdown, menu by menu."""
    lines = ["| key | does |", "| --- | --- |"]
    for menu in MENUS:
        for command in COMMANDS:
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
    (preset_library.ASSETS / "presets.schema.json").write_text(codec.presets_schema_json(), encoding="utf-8")
    (PAGES / "13-index.md").write_text(word_index.page(), encoding="utf-8")
    page = PAGES / "11-keyboard.md"
    page.write_text(keyboard(page.read_text(encoding="utf-8")), encoding="utf-8")
