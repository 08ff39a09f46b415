"""What is asked for in the ask line: who answers, what is shown meanwhile, what is done."""

from __future__ import annotations

from functools import partial

from msgspec.structs import replace
from PySide6.QtCore import QTimer
from PySide6.QtGui import QAction
from PySide6.QtWidgets import QCheckBox, QComboBox, QWidget

from young_tremor.desk.commands.registry import Commands
from young_tremor.desk.kit import theme
from young_tremor.desk.kit.column import Column
from young_tremor.desk.kit.i18n import tr
from young_tremor.desk.kit.number_field import NumberField
from young_tremor.desk.panels.controls import FIELD
from young_tremor.desk.sheets.ask_line import AskLine
from young_tremor.desk.sheets.preset_sheet import ApplyWay
from young_tremor.desk.window.actions import Actions
from young_tremor.engine.asking import ask as asking
from young_tremor.engine.asking import entries, setting_entries, settings_index
from young_tremor.engine.asking.command_texts import COMMAND_TEXTS
from young_tremor.engine.asking.settings_index import Place, Setting
from young_tremor.engine.asking.word_search import Findable, WordSearch
from young_tremor.engine.sound import sound_presets
from young_tremor.model.shake import Drift
from young_tremor.model.shot_edits import Edit

LOOKED = 120  # milliseconds that an entry is marked before the picture follows


class Asking:
    """Answers the ask line of a window."""

    def __init__(self, actions: Actions, commands: Commands) -> None:
        self._act, self._desk, self._commands = actions, actions.desk, commands
        self._menus: list[QAction] = []  # what only menus offer now: recent files, shots, steps
        self._found = WordSearch(())
        self._shown: entries.Entry | None = None
        self.line = AskLine(self._desk.window, self._desk.header.ask, self._answer)
        self.line.marked.connect(self._mark)
        self.line.chosen.connect(self._take)
        self._wait = QTimer(self.line)
        self._wait.setSingleShot(True)
        self._wait.setInterval(LOOKED)
        self._wait.timeout.connect(self._look)
        self._desk.header.ask.active.connect(self._show_active)

    def open_with(self, text: str) -> None:
        """Begin to ask with a sentence."""
        self.open()
        self._desk.header.ask.setText(text)

    def open(self) -> None:
        """Begin to ask."""
        self._desk.header.ask.show()
        self._desk.header.ask.setFocus()
        self._desk.header.ask.selectAll()

    def _show_active(self, on: bool) -> None:
        self._desk.header.make_room(on)
        if not on:
            return
        offered = [(way, action) for way, action in self._commands.found() if not action.objectName()]
        self._menus = [action for _, action in offered]
        self._found = WordSearch(
            Findable(f"do:menu:{number}", action.text().replace("&", ""), (), way, weight=0.8)
            for number, (way, action) in enumerate(offered)
        )
        place = self._place()
        words = ", ".join(f"“{tr(example)}”" for example in asking.examples(place))
        self.line.say_empty(
            tr("Ask for a motion in figures, a number, a command, a preset or a time: {0}.", words),
            tr("Nothing is called so. Ask for example: {0}.", words),
        )
        self._lay()
        self.line.open()

    def _lay(self) -> None:
        """Over the chart, beside the heads of its rows."""
        over = self._desk.charts.parentWidget() or self._desk.window
        corner = over.mapTo(self._desk.window, over.rect().topLeft())
        left = corner.x() + theme.HEADS
        top, tall = corner.y(), max(over.height(), 260)
        self.line.setGeometry(left, top + over.height() - tall, corner.x() + over.width() - left, tall)

    def _place(self) -> Place | None:
        """Where one stands; None with nothing open."""
        state, view = self._desk.state, self._desk.view
        shot, info = state.shot, state.info
        if shot is None or info is None:
            return None
        size = (shot.size.width, shot.size.height) if shot.size else info.size
        return Place(
            shot,
            strand=state.now.strand or "",
            plate=state.now.plate or "",
            sound=state.now.sound or "",
            now=view.frame / float(view.rate),
            size=size,
            rate=view.rate,
            seconds=view.frames / float(view.rate),
            marks=None
            if view.marks is None
            else (view.marks[0] / float(view.rate), (view.marks[1] + 1) / float(view.rate)),
            at_plate=state.now.page == "plates" and state.now.strand is None,
        )

    def _answer(self, text: str) -> entries.Answer:
        if not text.strip():
            return entries.Answer(None, ())
        return asking.ask(text, self._place(), self._desk.session.project.takes, self._found)

    def _mark(self, entry: entries.Entry | None) -> None:
        """Let the picture show what the marked entry would do, once it has been marked for a moment."""
        if entry == self._shown:
            return
        self._shown = entry
        if entry is None:
            self._wait.stop()
            self._desk.stage.audition(None)
        else:
            self._wait.start()

    def _look(self) -> None:
        entry, shot = self._shown, self._desk.state.seen
        if entry is None or shot is None:
            return
        if isinstance(entry.act, entries.PutPreset):
            self._act.shake.try_preset(entry.act.preset, ApplyWay())
        elif isinstance(entry.act, entries.PutTake):
            self._act.takes.try_on(entry.act.take)
        elif isinstance(entry.act, entries.ChangeShot):
            self._desk.stage.audition(entry.act.edit(shot))
        else:
            self._desk.stage.audition(None)

    def _take(self, entry: entries.Entry) -> None:
        """Do what an entry says."""
        act = entry.act
        if isinstance(act, entries.DoCommand):
            self._do(act.name)
        elif isinstance(act, entries.ChangeShot):
            self._change(entry, act)
        elif isinstance(act, entries.OpenSetting):
            self._show(act.setting)
        elif isinstance(act, entries.PutPreset):
            self._act.shake.apply_preset(act.preset, ApplyWay())
        elif isinstance(act, entries.PutTake):
            self._act.takes.use(act.take)
        elif isinstance(act, entries.GoTo):
            self._desk.stage.go(act.frame)
        else:
            self._act.overlays.show_manual(act.page)

    def _do(self, name: str) -> None:
        """Do a command of the list, one that only menus have now, or add a strand or a sound."""
        if name in COMMAND_TEXTS:
            self._commands.do(name)
        elif name.startswith("menu:"):
            self._menus[int(name.removeprefix("menu:"))].trigger()
        elif name.startswith(asking.RENDER_AS):
            self._act.render_as(name.removeprefix(asking.RENDER_AS))
        elif name.startswith(setting_entries.LIMIT):
            self._act.shake.limit(float(name.removeprefix(setting_entries.LIMIT)))
        elif name.startswith("add-sound-"):
            kind = name.removeprefix("add-sound-")
            first = next((sound for sound, of, _ in sound_presets.sound_rows() if of == kind), "")
            self._act.sound.add(kind, first)
        else:
            self._act.shake.add_strand(name.removeprefix("add-"))

    def _change(self, entry: entries.Entry, act: entries.ChangeShot) -> None:
        """Change the shot as one step; a motion takes the place of the drift that footage is opened with."""
        shot = self._desk.state.shot
        if shot is None:
            return
        before = {strand.id for strand in shot.shake.strands}
        label = tr(act.label)
        with self._desk.session.gesture(label):
            if entry.kind == "move":
                self._desk.make_room(shot.id)
            self._desk.session.apply(label, _in_shot(shot.id, act.edit))
        now = self._desk.shot_of(shot.id)
        new = [strand for strand in now.shake.strands if strand.id not in before] if now is not None else []
        if entry.kind == "move" and new:
            self._desk.state.choose(strand=new[-1].id)
        self._desk.notice.say(tr(entry.detail) if entry.kind == "move" else f"{tr(entry.name)}: {tr(entry.detail)}")

    def _show(self, setting: Setting) -> None:
        """Open the panel where a setting stands, with the focus in it; a curve on the chart."""
        place = self._place()
        owner = settings_index.owner_of(setting, place) if place is not None else None
        if setting.over_time:
            self._shape(setting, owner)
            return
        changes = {
            "strand": {"strand": getattr(owner, "id", None)},
            "sound": {"sound": getattr(owner, "id", None), "strand": None},
            "mix": {"sound": "footage", "strand": None},
            "plate": {"page": "plates", "plate": getattr(owner, "id", None), "strand": None},
        }.get(setting.owner, {"page": "frame", "strand": None})
        if setting.owner == "shake" and place is not None:  # a drift's panel has what belongs together
            drifts = [strand.id for strand in place.shot.shake.strands if isinstance(strand, Drift)]
            chosen = place.strand if place.strand in drifts else next(iter(drifts), None)
            changes = {"strand": chosen} if setting.paths[0].startswith("together") else changes
        self._desk.state.choose(**changes)
        QTimer.singleShot(0, self.line, partial(self._focus, setting))

    def _focus(self, setting: Setting) -> None:
        """Give the focus to the control of a setting: in the panel, or on the row of what it belongs to."""
        label, path = tr(setting.field.label), setting.paths[0]
        page = self._desk.panel.current
        controls: list[QWidget] = []
        for where in (page, self._desk.chart):
            if where is not None:
                for kind in (NumberField, QCheckBox, QComboBox):
                    controls += where.findChildren(kind)
        named = [
            item for item in controls if item.property(FIELD) in (path, path.removeprefix(f"{settings_index.TITLE}."))
        ]
        named += [item for item in controls if item.accessibleName() == label]
        for control in named[:1]:
            if isinstance(page, Column) and page.isAncestorOf(control):
                page.reveal(control)
            control.setFocus()

    def _shape(self, setting: Setting, owner: object) -> None:
        """Show the row on which a curve is shaped."""
        if setting.owner == "strand":
            self._desk.state.choose(strand=getattr(owner, "id", None))
            row = self._desk.chart.chosen_row
            if row is not None:
                self._desk.chart.fill_with_chosen()
            return
        self._desk.chart.shape(
            {"intensity": "Intensity", "pace": "Pace", "crop": "Crop"}.get(setting.paths[0], "Shutter")
        )


def _in_shot(shot_id: str, edit: settings_index.Edit) -> Edit:
    """The change of a project that changes one shot."""
    return lambda project: replace(
        project, shots=tuple(edit(shot) if shot.id == shot_id else shot for shot in project.shots)
    )
