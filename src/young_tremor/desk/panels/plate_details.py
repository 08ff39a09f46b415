"""The controls of a plate that are seldom needed: its time, its colours, whether it fills the frame."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

from msgspec.structs import replace
from PySide6.QtCore import QObject
from PySide6.QtWidgets import QHBoxLayout, QLabel, QWidget

from young_tremor.base.number_scale import NumberScale
from young_tremor.base.units import parse_rate
from young_tremor.desk.kit import theme
from young_tremor.desk.kit.colour_swatch import ColourSwatch
from young_tremor.desk.kit.column import Column
from young_tremor.desk.kit.i18n import tr
from young_tremor.desk.kit.number_field import NumberField
from young_tremor.desk.panels.controls import Controls
from young_tremor.desk.state.gestures import bind
from young_tremor.engine.document.session import Session
from young_tremor.engine.media import footage
from young_tremor.model.project import Plate, Shot
from young_tremor.model.shot_edits import Edit, set_frame

WORDS = "Time and colours"


class PlateDetails(QObject):
    """Puts its controls into a group of a column; ``edit(**changes)`` makes the edit of the chosen plate."""

    def __init__(self, session: Session, column: Column, edit: Callable[..., Edit]) -> None:
        super().__init__(column)
        self._session, self._edit = session, edit
        self.plate: Plate | None = None
        self.shot: Shot | None = None
        column.heading(WORDS, folded=True)
        self._controls = Controls(Plate, session, column, edit)
        self.blend = self._controls.choice("blend")
        self.rate = NumberField(
            "Rate",
            NumberScale(1, 60, "fps", 3, least=0.1, most=1000),
            value=24,
            reset=24,
            tip="Frame rate of numbered pictures",
        )
        bind(self.rate, session, "Rate", lambda v: self._media(rate=rate_of(v)))
        column.rows.addWidget(self.rate)
        self.offset = self._controls.number("offset")
        for path in ("past", "fills", "media.alpha", "media.space"):
            self._controls.choice(path)
        self.colour = ColourSwatch("Colour")
        self.colour.picked.connect(lambda c: session.apply(tr("Colour"), self._media(colour=c)))
        self._colour = _line(column, "Colour", self.colour)
        self.behind = ColourSwatch("Behind everything")
        self.behind.picked.connect(lambda c: session.apply(tr("Colour behind"), self._set_behind(c)))
        self._behind = _line(column, "Behind everything", self.behind)

    def _set_behind(self, colour: str) -> Edit:
        return set_frame(self.shot.id, behind=colour) if self.shot is not None else lambda project: project

    def _media(self, **changes: Any) -> Edit:
        return self._edit(media=replace(self.plate.media, **changes)) if self.plate else lambda project: project

    def show_plate(self, shot: Shot, plate: Plate, *, alpha: bool) -> None:
        """Show a plate; ``alpha``: its file holds any."""
        self.plate, self.shot = plate, shot
        self._behind.setVisible(alpha or plate.media.kind == "title")
        self.behind.set_colour(shot.frame.behind)
        lowest, media = plate is shot.footage, plate.media
        self._controls.show(plate)
        for path, shown in (
            ("blend", not lowest),
            ("past", not lowest and not media.drawn),
            ("fills", not plate.glass),
            ("media.alpha", alpha),
            ("media.space", not media.drawn),
        ):
            line = self._controls.choices[path].parentWidget()
            assert line is not None
            line.setVisible(shown)
        self.rate.setVisible(footage.is_sequence(media))
        if footage.is_sequence(media):
            self.rate.set_value(float(parse_rate(media.rate or "24")))
        self.offset.setVisible(not lowest)
        self._colour.setVisible(media.kind == "fill")
        if media.colour is not None:
            self.colour.set_colour(media.colour)


def rate_of(value: float) -> str:
    """Frames a second as a document keeps them: 23.976 is meant as 24000/1001."""
    return str(parse_rate(f"{value:g}"))


def _line(column: Column, words: str, widget: QWidget) -> QWidget:
    """A widget with words before it, in a line of the column."""
    line = QWidget()
    row = QHBoxLayout(line)
    row.setContentsMargins(0, 0, 0, 0)
    label = QLabel(tr(words))
    label.setStyleSheet(f"color: {theme.DIM};")
    row.addWidget(label)
    row.addStretch(1) if isinstance(widget, ColourSwatch) else None
    row.addWidget(widget, 0 if isinstance(widget, ColourSwatch) else 1)
    column.rows.addWidget(line)
    return line
