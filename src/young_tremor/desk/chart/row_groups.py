"""Groups of rows: the shot's own shake, and one for each plate that has a shake of its own."""

from __future__ import annotations

from functools import partial

from msgspec.structs import replace
from PySide6.QtCore import QPointF, QRectF, Qt, Signal
from PySide6.QtGui import (
    QAccessible,
    QColor,
    QContextMenuEvent,
    QPainter,
    QPaintEvent,
    QPen,
    QPolygonF,
)
from PySide6.QtWidgets import QHBoxLayout, QMenu, QWidget

from young_tremor.desk.chart.row_context import RowContext
from young_tremor.desk.chart.strand_row_specs import menu_entries
from young_tremor.desk.chart.strips import Strip
from young_tremor.desk.kit import theme
from young_tremor.desk.kit.accessible import tell
from young_tremor.desk.kit.i18n import counted, tr
from young_tremor.desk.kit.pressable import Pressable
from young_tremor.engine.library import preset_diff
from young_tremor.model import shot_edits
from young_tremor.model.project import Plate, Shot

TALL = 24
SHAKE = "shake"  # the group of the shot's own shake


def groups(shot: Shot) -> list[tuple[str, Shot]]:
    """The groups of a shot: their ids, and the shot as each sees it, its shake the one that the group shows."""
    owners = [(plate.id, plate.shake) for plate in reversed(shot.plates) if plate.shake is not None]
    return [(SHAKE, shot), *((owner, replace(shot, shake=shake)) for owner, shake in owners)]


class GroupHead(Pressable):
    """The heading of a group: a click folds it."""

    toggled = Signal()
    menu = Signal(object)

    def __init__(self) -> None:
        super().__init__()
        self.words = self.note = ""
        self.folded = False
        self.margin = 8  # pixels kept free at the right
        self.setFixedSize(theme.HEADS, TALL)
        self.setToolTip(tr("Fold or unfold"))

    def show_group(self, words: str, note: str, *, folded: bool) -> None:
        """Show a group's name and a note, folded or not."""
        if (words, note, folded) != (self.words, self.note, self.folded):
            self.words, self.note, self.folded = words, note, folded
            self.setAccessibleName(words)
            self.update()

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.fillRect(self.rect(), QColor(theme.DEEP))
        ink = QColor(theme.LAMP if self.hasFocus() else theme.DIM)
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(ink)
        middle = QPointF(17, TALL / 2)
        turned = [(-2, -4), (3, 0), (-2, 4)] if self.folded else [(-4, -2), (4, -2), (0, 3)]
        painter.drawPolygon(QPolygonF([middle + QPointF(x, y) for x, y in turned]))
        painter.setFont(theme.text_font(14))
        painter.setPen(QPen(QColor(theme.TEXT)))
        metrics = painter.fontMetrics()
        room = QRectF(28, 0, self.width() - 28 - self.margin, TALL)
        side = Qt.AlignmentFlag.AlignVCenter
        words = metrics.elidedText(self.words, Qt.TextElideMode.ElideRight, 170)
        painter.drawText(room, side, words)
        painter.setFont(theme.text_font(13))
        painter.setPen(QColor(theme.FAINT))
        left = room.width() - metrics.horizontalAdvance(words) - 14
        note = painter.fontMetrics().elidedText(self.note, Qt.TextElideMode.ElideRight, round(max(left, 0)))
        painter.drawText(room, side | Qt.AlignmentFlag.AlignRight, note)

    def press(self) -> None:
        """Fold or unfold."""
        self.toggled.emit()

    def contextMenuEvent(self, event: QContextMenuEvent) -> None:
        menu = QMenu(self)
        self.menu.emit(menu)
        if menu.actions():
            menu.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
            menu.popup(event.globalPos())


tell(GroupHead, QAccessible.Role.Button, lambda head: tr("folded") if head.folded else tr("open"))


class GroupRow(QWidget):
    """A heading and blank paper beside it."""

    def __init__(self, paper: RowContext, owner: str) -> None:
        super().__init__()
        self._paper, self.owner = paper, owner
        self.head = GroupHead()
        self.strip = Strip(paper.view, lambda *_: [], TALL, name="Paper")
        self.strip.scrubbed.connect(paper.scrubbed.emit)
        row = QHBoxLayout(self)
        row.setContentsMargins(0, 0, 0, 0)
        row.setSpacing(0)
        row.addWidget(self.head)
        row.addWidget(self.strip, 1)
        self.head.toggled.connect(lambda: paper.state.choose(folded=paper.state.now.folded ^ {owner}))
        self.head.menu.connect(self._fill_menu)

    def show_shot(self, shot: Shot, *, folded: bool) -> None:
        """Say what the group is."""
        plate = self._plate(shot)
        shake = shot.shake if plate is None or plate.shake is None else plate.shake
        note = [counted(len(shake.strands), "strand")]
        if plate is None:
            note.insert(0, tr(shake.preset or "whole shake"))
            words = tr("Shake")
        else:
            words = tr("Plate: {0}", plate.name)
            title = plate.media.title
            note.insert(
                0, tr(shake.preset) if title is None or title.apart == "whole" else tr("by {0}", tr(title.apart))
            )
        self.head.show_group(words, " · ".join(filter(None, note)), folded=folded)

    def _plate(self, shot: Shot | None) -> Plate | None:
        return next((plate for plate in shot.plates if plate.id == self.owner), None) if shot is not None else None

    def _fill_menu(self, menu: QMenu) -> None:
        """What can be done with the shake of a plate."""
        plate, session = self._plate(self._paper.shot), self._paper.session
        if plate is None or plate.shake is None:
            return
        adding = menu.addMenu(tr("Add strand"))
        for word, label in menu_entries(takes_too=False):
            adding.addAction(label, partial(self._add, plate, word))
        shot = self._paper.shot_id
        menu.addAction(
            tr("Remove its own shake"),
            lambda: session.apply(tr("Shake of its own"), shot_edits.set_plate(shot, plate.id, shake=None)),
        )

    def _add(self, plate: Plate, word: str) -> None:
        assert plate.shake is not None
        strand = preset_diff.plain(word, shot_edits.new_id(), len(plate.shake.strands) * 7 + 5)
        shake = replace(plate.shake, strands=(*plate.shake.strands, strand))
        self._paper.session.apply(tr("Add strand"), shot_edits.set_plate(self._paper.shot_id, plate.id, shake=shake))
        self._paper.state.choose(strand=strand.id)
