"""What can be done to chosen keys, and ready shapes for a curve."""

from __future__ import annotations

from collections.abc import Callable
from functools import partial

from PySide6.QtWidgets import QMenu

from young_tremor.desk.chart.key_editor import KeyEditor
from young_tremor.desk.kit.i18n import tr, tr_within
from young_tremor.model import curve_edits
from young_tremor.model.curve import Curve, Ease
from young_tremor.model.curve_shapes import SHAPES

EASES: tuple[tuple[Ease, str], ...] = (
    ("smooth", "Smooth"),
    ("linear", "Straight"),
    ("hold", "Hold"),
    ("hard", "Hold, hard"),
    ("free", "Free tangents"),
)


def fill(menu: QMenu, editor: KeyEditor) -> None:
    """What can be done to the chosen keys, and the ready shapes."""
    curve = editor.curve()
    if curve is None:
        return
    for ease, words in EASES:
        action = menu.addAction(words, partial(editor.ease, ease))
        action.setEnabled(bool(editor.chosen))
    scale = menu.addMenu(tr("Scale the chosen keys"))
    for words, time, value in (
        ("Half as long", 0.5, 1.0),
        ("Twice as long", 2.0, 1.0),
        ("Half as high", 1.0, 0.5),
        ("Twice as high", 1.0, 2.0),
    ):
        scale.addAction(words, partial(editor.scale, time, value))
    scale.setEnabled(len(editor.chosen) > 0)
    delete = menu.addAction(tr("Delete keys"), editor.delete)
    delete.setEnabled(bool(editor.chosen))
    menu.addSeparator()
    fill_shapes(menu, editor)
    menu.addSeparator()
    fit = menu.addAction(tr("Fit the view to the keys"), editor.fit)
    fit.setEnabled(len(curve.keys) > 1)
    menu.addAction(
        tr("Remove all keys"), lambda: editor.shape(tr("Clear {0} keys", tr_within(editor.name)), Curve(curve.value))
    )


def fill_shapes(menu: QMenu, editor: KeyEditor) -> None:
    """The ready shapes of a curve, at the playhead, the marks and the hits."""
    curve, view, anchors = editor.curve(), editor.view, editor.anchors
    if curve is None:
        return
    for shape in SHAPES:
        action = menu.addAction(
            tr(shape.label), partial(_lay, editor, shape.label, partial(shape.change, curve, anchors))
        )
        action.setEnabled(shape.can_stand(anchors))
    first, last = view.marks or (0, view.frames)
    a, b = float(first / view.rate), float(last / view.rate)
    marked = tr("the marked stretch") if view.marks else tr("the shot")
    menu.addSeparator()
    for words, change in (
        (tr("Ramp in over {0}", marked), partial(curve_edits.ramp_in, curve, a, b)),
        (tr("Ramp out over {0}", marked), partial(curve_edits.ramp_out, curve, a, b)),
        (tr("Swell and fall over {0}", marked), partial(curve_edits.swell, curve, a, b)),
        (tr("Spike at the playhead"), partial(curve_edits.spike, curve, anchors.now)),
    ):
        menu.addAction(words, partial(_lay, editor, words, change))


def _lay(editor: KeyEditor, label: str, make: Callable[[], Curve]) -> None:
    editor.shape(label, make())
