"""*To add …* in docs/architecture.md, done for real: in a copy of the package, by the files that the page names."""

from __future__ import annotations

import os
import re
import shutil
import subprocess
import sys
from pathlib import Path

import pytest

import young_tremor

ROOT = Path(__file__).parents[1]
PAGE = ROOT / "docs" / "architecture.md"

LOOK = """
import os, sys
from pathlib import Path
from PySide6.QtWidgets import QApplication
from young_tremor.desk.kit import theme
from young_tremor.desk.window.window import MainWindow
from young_tremor.document import codec
from young_tremor.engine.library import preset_library
from young_tremor.engine.playback.player import SilentDevice
from young_tremor.engine.document.session import Session

app = QApplication([])
theme.dress(app)
window = MainWindow(Session(preset_library.demo_project()), SilentDevice())
window.show()

def settle():
    while True:
        app.processEvents()
        shown = window.desk.picture.picture
        if window._first.isActive():
            continue  # the panel follows the first picture
        asked = window.desk.stage._request
        if shown is not None and shown.exact and shown.request is asked and shown.index == window.desk.view.frame:
            return shown.rgb.copy()

def again(project):
    return codec.decode_project(codec.encode_project(project, Path("/tmp")), Path("/tmp"), "again")

settle()
"""

END = """
window._ending = True
window.close()
os._exit(0)  # as the application ends
"""

EDGE = """
from young_tremor.model.project import EDGES
box = window.desk.panel.frame.edges
number = box.findData("fold")
assert box.itemText(number) == "Fold over", "it stands in the panel"
box.setCurrentIndex(number)
box.activated.emit(number)
assert window.desk.state.shot.frame.edges == "fold"
settle()
window.desk.session.undo(), window.desk.session.redo()
settle()
assert again(window.desk.session.project) == window.desk.session.project
assert "fold" in str(codec.project_schema()["$defs"]["FrameSettings"])
from young_tremor import api
shot = api.shake(preset_library.ASSETS / "demo" / "press-wide.mp4", preset="Walking", amount=6, edges="fold")
assert "it is folded over there" in api.framing(shot, "a.mp4")
from young_tremor.cli.main import commands
assert "fold" in next(each for each in commands.commands["shake"].params if each.name == "edges").type.choices
"""

STRAND = """
import numpy as np
before = settle()
window.act.shake.add_strand("pulse")
strand = window.desk.state.strand
assert type(strand).__name__ == "Pulse"
assert window.desk.panel.current.name.text() == "Pulse", "its panel is there"
window.desk.panel.current.amount._once(150.0)
row = window.desk.chart._rows[strand.id]
assert "pulse" in row.head.note
row.second._once(7.0)
assert window.desk.panel.current.controls.numbers["beats"].value == 7.0, "made of its fields"
assert window.desk.state.strand.beats == 7.0
assert window.desk.state.strand.amount.value == 1.5
assert np.abs(settle().astype(int) - before).mean() > 0.2, "it moves the picture"
assert again(window.desk.session.project) == window.desk.session.project
assert "Pulse" in codec.project_schema()["$defs"]
assert any(action.text() == "Pulse" for _, action in window.commands.found())
window.act.deletion.delete()
assert window.desk.state.strand is None
settle()
"""

FORM = """
from av import open as read
from young_tremor import api
from young_tremor.engine.delivery import actions, delivery_plan
assert "rawish" in api.FORMS
form = window.desk.sheet.form
assert form.codec.itemText(form.codec.findData("rawish")) == "Easily read"
shot = api.shake(preset_library.ASSETS / "demo" / "press-wide.mp4", preset="Walking", seconds=0.5)
film = Path(os.environ["OUT"]) / "film.avi"
api.render(shot, film, form="rawish")
with read(str(film)) as file:
    assert file.streams.video[0].codec_context.name == "utvideo"
"""

FIELD = """
window.act.shake.add_strand("drift")
strand = window.desk.state.strand
panel = window.desk.panel.drift
assert panel.controls.numbers["swagger"].label == "Swagger"
panel.controls.numbers["swagger"]._once(25.0)
assert window.desk.state.strand.swagger == 0.25
settle()
assert again(window.desk.session.project) == window.desk.session.project
described = codec.project_schema()["$defs"]["Drift"]["properties"]["swagger"]
assert (described["maximum"], described["description"]) == (2, "How proudly it goes")
from young_tremor.base.errors import UnreadableValue
try:
    type(strand)("a", swagger=3.0)
except UnreadableValue as error:
    assert "swagger of 3" in str(error)
else:
    raise AssertionError("a limit that is none")
sys.path.insert(0, os.environ["SCRIPTS"])
import tables, words
assert "| Drift.swagger | factor | How proudly it goes | 0 | 2 |" in tables.numbers()
assert {"Swagger", "How proudly it goes"} <= words.field_words()
"""

#: What is added to which file: (file, text before which it is put or that it replaces, the new text).
EDGE_CHANGES = [
    ("model/edge_modes.py", '"crop-as-needed"]', '"crop-as-needed", "fold"]'),
    (
        "model/edge_modes.py",
        '    "open": EdgeMode(',
        '    "fold": EdgeMode("Fold over", "mirror", fills="it is folded over there"),\n    "open": EdgeMode(',
    ),
]
STRAND_CHANGES = [
    (
        "model/shake.py",
        "Strand = Drift |",
        'class Pulse(Common, frozen=True, kw_only=True, tag="pulse", tag_field="kind"):\n'
        '    """Goes up and down so many times a second."""\n\n'
        '    LABEL: ClassVar[str] = "Pulse"\n    SECOND: ClassVar[str] = "beats"\n\n    name: str = "Pulse"\n'
        '    beats: Annotated[float, Number("Beats", "Beats a second", (0, 100), PLACE_SCALE)] = 2.0\n\n\n'
        "Strand = Pulse | Drift |",
    ),
    ("motion/strand_kinds.py", "    Plotted,\n    Shimmer,", "    Plotted,\n    Pulse,\n    Shimmer,"),
    (
        "motion/strand_kinds.py",
        "        StrandKind(\n            Plotted,",
        "        StrandKind(\n            Pulse,\n            lambda strand_id, seed: Pulse(strand_id, seed=seed),\n"
        "            lambda strand, t, pace, hits: np.outer(np.cos(6.28 * strand.beats * t), [0, 2.0, 0, 0, 0, 0]),\n"
        "            lambda strand: np.array([0, 2.0, 0, 0, 0, 0]),\n        ),\n"
        "        StrandKind(\n            Plotted,",
    ),
]
FORM_CHANGES = [
    (
        "media/codecs.py",
        '    Codec("png", "PNG pictures",',
        '    Codec("rawish", "Easily read", "utvideo", (".avi",), 12.0, lossless=True),\n'
        '    Codec("png", "PNG pictures",',
    ),
    ("media/codecs.py", '".webm": "webm"}', '".webm": "webm", ".avi": "avi"}'),
]
FIELD_CHANGES = [
    (
        "model/shake.py",
        "    rests: Rests = Rests()",
        '    swagger: Annotated[float, Number("Swagger", "How proudly it goes", (0, 2), AMOUNT_SCALE, per=100)] = 0.0\n'
        "    rests: Rests = Rests()",
    )
]


@pytest.mark.parametrize(
    ("thing", "changes", "look"),
    [
        ("an edge mode", EDGE_CHANGES, EDGE),
        ("a strand kind", STRAND_CHANGES, STRAND),
        ("a delivery form", FORM_CHANGES, FORM),
        ("a field of the document", FIELD_CHANGES, FIELD),
    ],
    ids=["edge", "strand", "form", "field"],
)
def test_a_thing_is_added_by_the_files_that_the_page_names(
    thing: str, changes: list[tuple[str, str, str]], look: str, tmp_path: Path
) -> None:
    row = next(line for line in PAGE.read_text().splitlines() if line.startswith(f"| {thing} |"))
    named = set(re.findall(r"`src/young_tremor/([\w/]+\.py)`", row))
    assert {file for file, _, _ in changes} == named, f"what the page says of {thing}"
    package = tmp_path / "young_tremor"
    shutil.copytree(Path(young_tremor.__file__).parent, package, ignore=shutil.ignore_patterns("__pycache__"))
    for file, before, after in changes:
        text = (package / file).read_text()
        assert text.count(before) == 1, (file, before)
        (package / file).write_text(text.replace(before, after))
    done = subprocess.run(
        [sys.executable, "-c", LOOK + look + END],
        text=True,
        capture_output=True,
        check=False,
        timeout=120,
        env=os.environ
        | {
            "PYTHONPATH": str(tmp_path),
            "QT_QPA_PLATFORM": "offscreen",
            "OUT": str(tmp_path),
            "SCRIPTS": str(ROOT / "scripts"),
        },
    )
    assert done.returncode == 0, done.stderr[-2000:]
