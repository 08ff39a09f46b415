"""How the frame follows the motion: recentring, breathing, limits and what must stay clear."""

from __future__ import annotations

from collections.abc import Callable

from PySide6.QtCore import QObject, Signal
from PySide6.QtWidgets import QHBoxLayout, QLabel, QPushButton

from young_tremor.base.number_scale import NumberScale
from young_tremor.desk.kit import theme
from young_tremor.desk.kit.column import Column
from young_tremor.desk.kit.i18n import counted, tr
from young_tremor.desk.kit.number_field import NumberField
from young_tremor.desk.panels.controls import Controls
from young_tremor.engine.document.session import Session
from young_tremor.model import shot_edits
from young_tremor.model.edge_modes import crops
from young_tremor.model.project import FrameSettings, Shot


class FramingFields(QObject):
    """Puts its controls into the frame's column; ``edit`` makes an edit of the frame's settings."""

    limit_asked = Signal(float)  # percent
    go_to = Signal(int)  # a frame
    drawing = Signal(bool)  # a keep-clear box is to be drawn on the picture

    def __init__(self, session: Session, column: Column, edit: Callable[..., shot_edits.Edit]) -> None:
        super().__init__(column)
        self._session = session
        self._controls = Controls(FrameSettings, session, column, edit)
        self.recentre = self._controls.switch("recentre")
        self.breathe = self._controls.number("breathe")
        self.most = NumberField(
            "Crop at most",
            NumberScale(0, 20, "%", 1, bend=2, least=0, most=700),
            value=4,
            reset=4,
            tip="How much crop there may be; Limit turns the intensity down to it",
        )
        column.rows.addWidget(self.most)
        self.limit = QPushButton(tr("Limit"))
        self.limit.setToolTip(tr("Scale the intensity so that this crop is enough and every keep-clear box stays in"))
        self.limit.clicked.connect(lambda: self.limit_asked.emit(self.most.value))
        self.draw = QPushButton(tr("Keep clear"))
        self.draw.setCheckable(True)
        self.draw.setToolTip(tr("Draw a box on the picture that must never leave the frame: a face, a title"))
        self.draw.clicked.connect(lambda on: self.drawing.emit(on))
        self.clear = QPushButton(tr("Remove"))
        self.clear.setToolTip(tr("Remove the keep-clear boxes"))
        self.clear.clicked.connect(lambda: session.apply(tr("Remove boxes"), edit(keep=())))
        row = QHBoxLayout()
        row.setSpacing(6)
        for button in (self.limit, self.draw, self.clear):
            row.addWidget(button)
        column.rows.addLayout(row)
        self.words = QLabel("")
        self.words.setWordWrap(True)
        self.words.setStyleSheet(f"color: {theme.BAD}; font-size: 13px;")
        self.words.linkActivated.connect(lambda frame: self.go_to.emit(int(frame)))
        self.words.hide()
        column.rows.addWidget(self.words)

    def show(self, shot: Shot) -> None:
        """Show what a shot has."""
        frame = shot.frame
        cropped = crops(frame.edges)
        self._controls.show(frame)
        self.recentre.setVisible(cropped)
        self.breathe.setVisible(frame.edges == "crop-as-needed")
        self.clear.setVisible(bool(frame.keep))

    def show_cut(self, count: int, first: int, at: str) -> None:
        """Say in how many frames a box is cut, and lead to the first; nothing where none is."""
        link = f'<a href="{first}" style="color: {theme.LAMP};">{at}</a>'
        self.words.setText(
            tr("A keep-clear box is cut in {0}, first at {1}.", counted(count, "frame"), link) if count else ""
        )
        self.words.setVisible(count > 0)
