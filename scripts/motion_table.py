"""Makes ``docs/motion-figures.md``: what each preset's motion is in figures: python scripts/motion_table.py."""

from __future__ import annotations

from pathlib import Path

from young_tremor.engine.analysis import motion_figures
from young_tremor.engine.library import preset_library
from young_tremor.model.project import Preset
from young_tremor.model.shake import Hit

OUT = Path(__file__).parents[1] / "docs" / "motion-figures.md"
SECONDS = 600.0
HITS = tuple(Hit(f"h{number}", float(second)) for number, second in enumerate(range(1, 600, 6)))
HEAD = """# The presets' motion in figures

Made by `python scripts/motion_table.py`, of ten minutes of each preset, jolts struck every six seconds. *Reach* and
*turn* are 95 % quantiles at 1080 lines, *rate* swings a second of the axis that moves most, *quick* the share of the
speed's power above 4 Hz, *way* and *speed* their kurtosis: 3 is even, more is quiet with blows. *Together* is the
correlation of the activity of x, y and roll, *again* how much the leading axis is like itself 20 to 40 s later. The
published figures stand in each preset's note: a machine may repeat, and is struck alike; a person may not.

| preset | reach px | turn ° | rate Hz | quick % | way | speed | together | again |
| --- | --- | --- | --- | --- | --- | --- | --- | --- |
"""


def row(preset: Preset) -> str:
    """A preset's line of the table."""
    figures = motion_figures.portrait(motion_figures.course(preset, SECONDS, HITS))
    cells = (
        preset.name,
        f"{figures.reach:.1f}",
        f"{figures.turn:.3f}",
        f"{figures.rate:.2f}",
        f"{100 * figures.fast:.0f}",
        f"{figures.kurtosis:.1f}",
        f"{figures.blows:.1f}",
        f"{figures.together:.2f}",
        f"{figures.repeats:.2f}",
    )
    return f"| {' | '.join(cells)} |\n"


if __name__ == "__main__":
    OUT.write_text(HEAD + "".join(map(row, preset_library.factory())), encoding="utf-8")
