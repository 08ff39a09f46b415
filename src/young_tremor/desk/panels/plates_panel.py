"""The shot's plates: a short stack, top first, and the controls of the chosen one."""

from __future__ import annotations

import secrets
from functools import partial
from typing import Any

from msgspec.structs import replace
from PySide6.QtCore import Qt, Signal
from PySide6.QtGui import QImage
from PySide6.QtWidgets import QHBoxLayout, QLabel, QMenu, QPushButton, QVBoxLayout

from young_tremor.desk.kit import theme
from young_tremor.desk.kit.column import Column, remark
from young_tremor.desk.kit.i18n import tr
from young_tremor.desk.panels.controls import Controls
from young_tremor.desk.panels.depth_fields import DepthFields
from young_tremor.desk.panels.plate_details import PlateDetails
from young_tremor.desk.panels.plate_row import PlateRow
from young_tremor.desk.panels.preset_box import PresetBox
from young_tremor.desk.panels.title_fields import SETTING, WORDS, TitleFields
from young_tremor.desk.state.desk_state import DeskState
from young_tremor.engine.library import preset_library
from young_tremor.model import curve_edits, shot_edits
from young_tremor.model.curve import Curve
from young_tremor.model.fields import numbers
from young_tremor.model.project import Placement, Plate, Shot
from young_tremor.model.shake import Shake
from young_tremor.model.title import Title

OWN = "A shake of its own"
# what can be added: a word for it, what it is called, what it is
KINDS = (
    ("title", "A title", "Text, as one or letter by letter"),
    ("fill", "A fill", "One colour over the frame"),
    ("file", "A file…", "A picture, numbered pictures or a film: it shakes along"),
    ("glass", "A file on the glass…", "Neither the shake nor the crop touches it"),
)


class PlatesPanel(Column):
    """The stack, and the controls of the chosen plate."""

    add_asked = Signal(str)  # one of the kinds
    nudged = Signal(int, int)
    print_asked = Signal(object)  # the plate whose little picture is wanted

    def __init__(self, state: DeskState) -> None:
        super().__init__()
        self._state, self._session = state, state.session
        self._shot: Shot | None = None
        self.now = 0.0
        self._rows: dict[str, PlateRow] = {}
        self._stack = QVBoxLayout()
        self._stack.setSpacing(3)
        self.rows.addLayout(self._stack)
        row = QHBoxLayout()
        self.add = QPushButton(tr("Add plate +"))
        self.add.setProperty("quiet", True)
        self.add.setToolTip(tr("A title, a fill, a picture or a film over the others"))
        self.add.clicked.connect(self._ask_kind)
        row.addWidget(self.add)
        row.addStretch(1)
        label = QLabel(tr("share of the shake"))
        label.setStyleSheet(f"color: {theme.DIM}; font-size: 13px;")
        row.addWidget(label)
        self.rows.addLayout(row)
        self.title = TitleFields(self._session, self, self._titled)
        self.heading("With the shot")
        self._controls = Controls(Plate, self._session, self, self._edit)
        self.share = self._controls.number("share")
        self.distance = self._controls.number("distance")
        self.glass = self._controls.switch("glass")
        self.heading(OWN)
        self.own = PresetBox("Shake of its own", none="None", order=lambda preset: preset.group != "graphics")
        self.own.setToolTip(tr("Moves the plate on top of its share of the shot's shake"))
        self.own.activated.connect(self._set_own)
        self.rows.addWidget(self.own)
        self._shake = Controls(Shake, self._session, self, self._edit_own, step="Own shake")
        self.amount = self._shake.number("intensity", label="Amount", tip="How much of its own shake")
        self.pace = self._shake.number("pace")
        self.course = QPushButton(tr("New course"))
        self.course.setToolTip(tr("Another random seed: the same kind of motion"))
        self.course.clicked.connect(self._another)
        self.rows.addWidget(self.course)
        self.title.more(self)
        self.heading("Placement")
        self._placement = Controls(Placement, self._session, self, self._edit_placement, step="Placement")
        self.place = self._placement.numbers
        for field in numbers(Placement):
            self._placement.number(field).menu = lambda menu, field=field: menu.addAction(
                tr("Set a key at the playhead"), partial(self._key, field)
            )
        self.deep = DepthFields(self._session, self, lambda depth: self._edit(depth=depth))
        self.more = PlateDetails(self._session, self, self._edit)
        self.heading("In the stack")
        buttons = QHBoxLayout()
        self.buttons: dict[str, QPushButton] = {}
        for key, words, act in (
            ("up", "Up", partial(self._move_chosen, 1)),
            ("down", "Down", partial(self._move_chosen, -1)),
            ("remove", "Remove", self._remove_chosen),
        ):
            button = self.buttons[key] = QPushButton(tr(words))
            button.clicked.connect(act)
            buttons.addWidget(button)
        self.rows.addLayout(buttons)
        self.only = remark()
        self.only.setText(tr("The lowest plate is the shot's footage: the others lie over it."))
        self.rows.addWidget(self.only)
        self.finish()

    def _ask_kind(self) -> None:
        menu = QMenu(self)
        menu.setToolTipsVisible(True)
        for kind, words, tip in KINDS:
            menu.addAction(tr(words), partial(self.add_asked.emit, kind)).setToolTip(tr(tip))
        menu.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        menu.popup(self.add.mapToGlobal(self.add.rect().bottomLeft()))

    @property
    def plate(self) -> Plate | None:
        """The chosen plate: the lowest one where none is."""
        if self._shot is None:
            return None
        chosen = self._state.now.plate
        return next((plate for plate in self._shot.plates if plate.id == chosen), self._shot.footage)

    def _edit(self, plate: Plate | None = None, **changes: Any) -> shot_edits.Edit:
        mine = plate or self.plate
        if self._shot is None or mine is None:
            return lambda project: project
        return shot_edits.set_plate(self._shot.id, mine.id, **changes)

    def _media(self, **changes: Any) -> shot_edits.Edit:
        plate = self.plate
        return self._edit(media=replace(plate.media, **changes)) if plate is not None else lambda project: project

    def _titled(self, title: Title) -> shot_edits.Edit:
        """The plate with another title; it is called after its text until it has a name of its own."""
        plate = self.plate
        if plate is None or plate.media.title is None:
            return lambda project: project
        named = plate.name in (shot_edits.title_name(plate.media.title), shot_edits.title_name(Title("")))
        name = shot_edits.title_name(title) if named else plate.name
        return self._edit(media=replace(plate.media, title=title), name=name)

    def _set_own(self, number: int) -> None:
        """Give the plate the shake of a preset, held over the shot's length, or none."""
        name, view = self.own.itemData(number), self._state.time
        shake = None
        if name:
            mine = frozenset((self.plate.id,)) if self.plate is not None else frozenset[str]()
            shakes = shot_edits.shakes_of(self._session.project, without=mine)
            shake = shot_edits.unlike(shot_edits.from_preset(preset_library.preset(name)), shakes)
            shake = replace(shake, strands=shot_edits.holding(shake.strands, float(view.frames / view.rate)))
        self._session.apply(tr("Shake of its own"), self._edit(shake=shake))

    def _edit_own(self, **changes: Any) -> shot_edits.Edit:
        plate = self.plate
        if plate is None or plate.shake is None:
            return lambda project: project
        return self._edit(shake=replace(plate.shake, **changes))

    def _another(self) -> None:
        plate = self.plate
        if plate is not None and plate.shake is not None:
            strands = tuple(replace(strand, seed=secrets.randbelow(9999) + 1) for strand in plate.shake.strands)
            self._session.apply(tr("Another course"), self._edit(shake=replace(plate.shake, strands=strands)))

    def _edit_placement(self, **changes: Any) -> shot_edits.Edit:
        plate = self.plate
        if plate is None:
            return lambda project: project
        return self._edit(placement=replace(plate.placement, **changes))

    def _key(self, field: str) -> None:
        """The first key holds what is there; from then on a changed number is another key."""
        plate = self.plate
        if plate is not None:
            curve: Curve = getattr(plate.placement, field)
            placement = replace(plate.placement, **{field: curve_edits.with_key(curve, self.now)})
            self._session.apply(tr("Placement key"), self._edit(placement=placement))

    def _move(self, plate: str, by: int) -> None:
        if self._shot is not None:
            self._session.apply(tr("Move plate"), shot_edits.move_plate(self._shot.id, plate, by))

    def _move_chosen(self, by: int) -> None:
        if self.plate is not None:
            self._move(self.plate.id, by)

    def _remove_chosen(self) -> None:
        if self._shot is not None and self.plate is not None:
            self._session.apply(tr("Remove plate"), shot_edits.remove_plate(self._shot.id, self.plate.id))

    def show_shot(self, shot: Shot | None, now: float) -> None:
        """Show a shot's plates as they are at ``now`` seconds."""
        self.setEnabled(shot is not None)
        self._shot, self.now = shot, now
        plate = self.plate
        if shot is None or plate is None:
            return
        self._show_stack(shot, plate)
        self._controls.show(plate, now)
        self._placement.show(plate.placement, now)
        self._show_own(plate)
        lowest = plate is shot.footage
        for widget in (self.share, self.distance):
            widget.setEnabled(not plate.glass)
        self.glass.setVisible(not lowest)
        title = plate.media.title
        for words in (WORDS, SETTING):
            self.show_group(words, shown=title is not None)
        if title is not None:
            self.title.show_title(title)
        self.deep.show_depth(plate.depth, now)
        info = self._state.facts.get(plate.media.path)
        self.more.show_plate(shot, plate, alpha=info is not None and info.alpha != "none")
        place = shot.plates.index(plate)
        self.buttons["up"].setEnabled(place < len(shot.plates) - 1 and not lowest)
        self.buttons["down"].setEnabled(place > 1)
        self.buttons["remove"].setEnabled(not lowest)
        self.only.setVisible(len(shot.plates) == 1)

    def _show_own(self, plate: Plate) -> None:
        """Its own shake; one whose preset is gone stands under the words for it."""
        shake = plate.shake
        self.own.show_preset(shake.preset if shake else "")
        for widget in (self.amount, self.pace, self.course):
            widget.setVisible(shake is not None)
        if shake is not None:
            self._shake.show(shake, self.now)

    def _show_stack(self, shot: Shot, plate: Plate) -> None:
        """Rows of plates that are still there are kept."""
        old, self._rows = self._rows, {}
        for number, item in enumerate(reversed(shot.plates)):
            row = old.pop(item.id, None)
            if row is None:
                row = PlateRow(item)
                row.chosen.connect(lambda chosen: self._state.choose(plate=chosen))
                row.moved.connect(self._move)
                row.nudged.connect(self.nudged.emit)
                row.lamp.toggled.connect(partial(self._light, item.id))
            row.show_plate(item, current=item.id == plate.id, lowest=item is shot.footage)
            self.print_asked.emit(item)
            self._rows[item.id] = row
            if self._stack.indexOf(row) != number:
                self._stack.insertWidget(number, row)
        for gone in old.values():
            self._stack.removeWidget(gone)
            gone.hide()
            gone.deleteLater()

    def set_print(self, plate: str, image: QImage) -> None:
        """The little picture of a plate."""
        row = self._rows.get(plate)
        if row is not None:
            row.set_image(image)

    def _light(self, plate: str, on: bool) -> None:
        if self._shot is not None:
            words = tr("Plate on") if on else tr("Plate off")
            self._session.apply(words, shot_edits.set_plate(self._shot.id, plate, on=on))
