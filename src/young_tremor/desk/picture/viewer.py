"""What is on: the current shot, its pictures, and playing them. Ties session, preview and player to the views."""

from __future__ import annotations

import sys
import time
from collections.abc import Callable
from fractions import Fraction
from functools import partial
from typing import TypedDict

from msgspec.structs import replace
from PySide6.QtCore import QObject, Qt, QTimer, Signal

from young_tremor.base.errors import TremorError
from young_tremor.base.frames import SourceInfo
from young_tremor.base.units import drops
from young_tremor.desk.kit.i18n import tr
from young_tremor.desk.kit.thread_bridge import on_desk
from young_tremor.desk.picture import frame_marks
from young_tremor.desk.picture.picture_view import PictureView
from young_tremor.desk.state.desk_state import DeskState, Selection
from young_tremor.desk.state.task_runner import TaskRunner
from young_tremor.engine.analysis import reel_layout, traces
from young_tremor.engine.library import settings
from young_tremor.engine.media import footage, proxies
from young_tremor.engine.playback import player
from young_tremor.engine.preview import launch
from young_tremor.engine.preview.preview_process import PreviewProcess
from young_tremor.engine.preview.preview_worker import (
    FrameReadings,
    Mode,
    PictureRequest,
    Plan,
    PreviewPicture,
    PreviewWorker,
)
from young_tremor.engine.sound import mixing
from young_tremor.model.project import Shot

AHEAD = 6  # pictures that are ready before playing begins
LATE = 48  # frames by which a picture may be late and is still shown
SAID = 0.5  # seconds between two words of how fast it plays
GRAIN = 0.08  # seconds of sound heard where the playhead is put
PATIENCE = 0.8  # seconds after which it begins all the same


class ViewerController(QObject):
    """For the desk's thread. ``shot_changed`` comes with every change of what is to be seen."""

    shot_changed = Signal()
    read = Signal(object, object, str)  # plan, readings, error
    played = Signal(bool, str)
    told = Signal(str)  # a sentence for the person
    opened = Signal(str, object)  # path, facts of newly read footage
    answered = Signal()  # what was asked for is shown, or cannot be

    def __init__(
        self, state: DeskState, picture: PictureView, runner: TaskRunner, device: player.Device | None = None
    ) -> None:
        super().__init__()
        sys.setswitchinterval(0.0002)  # the preview's thread must not wait for the painting, nor the other way round
        self.state, self.session, self.view, self._view_widget = state, state.session, state.time, picture
        self.copies = proxies.ProxyMaker(runner.rest)
        launched = launch.take()
        self.preview = PreviewWorker() if launched is None else PreviewProcess(launched)
        self.preview.serve(self.copies, runner.rest)
        runner.rest.owe(bool(state.session.project.shots))  # the first picture comes before all that is quiet
        self._device = device
        self.player: player.Player | None = None
        self._runner = runner
        self._request: PictureRequest | None = None
        self.preview.picture.connect(on_desk(self, self._show))
        self.preview.readings.connect(on_desk(self, self._readings))
        self.preview.failed.connect(on_desk(self, self._failed))
        self.preview.replaced.connect(on_desk(self, self._file_replaced))
        self._timer = QTimer(self)
        self._timer.setTimerType(Qt.TimerType.PreciseTimer)
        self._timer.timeout.connect(self._tick)
        self._late_count, self._late_said = 0, 0.0
        self._waiting: tuple[Callable[[], None], range, float] | None = None
        self._volume = 1.0
        self._entry: tuple[str, Fraction] | None = None  # the shot that is put on, and seconds at which it is entered
        self._trial: Shot | None = None  # what is tried on, in place of the shot
        self._before_trial: tuple[str | None, int] | None = None  # shot and frame; None where it was playing already
        state.changed.connect(self._chosen)
        self.session.changed.connect(lambda old, new: self.refresh())
        self.session.replaced.connect(self._replaced)
        self.opened.connect(self._read_footage)
        picture.resized.connect(self.refresh_picture)

    def _read_footage(self, path: str, info: SourceInfo | None) -> None:
        """Heavy footage of the reel gets a reduced copy, after what is looked at."""
        if info is not None and proxies.size_of(info) is not None:
            self.copies.wanted([path], first=False)

    @property
    def playing(self) -> bool:
        """Whether it plays."""
        return self._waiting is not None or (self.player is not None and self.player.playing)

    def _chosen(self, before: Selection, now: Selection) -> None:
        """Follow what is chosen: another shot is put on, another way to look shown."""
        if before.shot != now.shot:
            self.stop()
            if self._entry is None or self._entry[0] != now.shot:
                self._entry = None
                self.view.set_frame(0)
            self._view_widget.show_picture(None)
            self.refresh()
        elif _looked_at(before) != _looked_at(now):
            self.refresh_picture()

    def choose_beside(self, by: int) -> None:
        """Put on the shot so many further on in the reel; the ends stay."""
        ids = [shot.id for shot in self.session.project.shots]
        if self.state.now.shot in ids:
            place = ids.index(self.state.now.shot) + by
            if 0 <= place < len(ids):
                self.state.choose_shot(ids[place])

    def refresh(self) -> None:
        """Follow the document."""
        shot = self.state.shot
        if shot is not None and self.state.info is None:
            self.open(shot.footage.media.path)
        if shot is None:
            self.stop()
            self._view_widget.show_picture(None)
            self._view_widget.aspect = None
        info = self.state.info
        if shot is not None and info is not None:
            try:
                frames, rate, aspect = traces.delivery(shot, info)
            except TremorError as error:
                self.read.emit(None, None, str(error))
                return
            self._view_widget.aspect = aspect
            self._view_widget.rows = shot.size.height if shot.size else info.size[1]
            self.view.drop = ";" in info.timecode and drops(rate)
            self.view.set_shot(frames, rate)
            frame = self.view.frame if self._entry is None else round(self._entry[1] * rate)
            self._entry = None
            self.view.set_frame(min(frame, frames - 1))
        else:
            self.view.set_shot(0, self.view.rate)
        self.refresh_picture()
        self.shot_changed.emit()

    def open(self, path: str) -> None:
        """Read the facts of footage in the background."""

        def land(info: SourceInfo) -> None:
            self.state.facts[path] = info
            self.opened.emit(path, info)
            self.refresh()

        def failed(words: str) -> None:
            self._view_widget.hint = words
            self._view_widget.update()
            self.opened.emit(path, None)
            self.answered.emit()

        if self._runner.run(f"open {path}", lambda report: footage.facts(path).info, land, failed=failed):
            self._view_widget.hint = tr("Opening…")

    def refresh_picture(self) -> None:
        """Ask for the picture at the playhead."""
        shot, info = self._trial or self.state.seen, self.state.info
        if shot is None or info is None or not self._view_widget.is_sized:
            self._request = None
            return
        looked = self.state.now
        mode: Mode = "still" if looked.peek else looked.mode
        first, last = (0, None) if self.view.marks is None else self._stretch()
        other_variant = next((variant for variant in shot.others if variant.letter == looked.against), None)
        against = (
            replace(shot, shake=other_variant.shake, variant=other_variant.letter, others=())
            if other_variant and not looked.peek
            else None
        )
        self._view_widget.names = (shot.variant, other_variant.letter) if other_variant else ("Shaken", "Still")
        bare = replace(shot, others=())  # what a picture does not depend on is no reason to make it again
        self._request = PictureRequest(
            bare,
            self._view_widget.wanted(),
            mode,
            self.view.frame,
            first,
            last,
            against=against,
            overscan=self._view_widget.overscan,
            then=self._next_request(mode),
            **_looking(looked),
        )
        if self.session.in_gesture:
            self.view.after_picture.hold()
        self.preview.ask(self._request)

    def follow_settings(self, kept: settings.Settings) -> None:
        """Show colours as the settings say from now on."""
        if footage.use_colour_settings(kept):
            self.preview.forget(kept)
            self.refresh_picture()

    def _next_request(self, mode: Mode) -> PictureRequest | None:
        """What is to be made ready behind the end of the shot: the next one of the reel, while that is looked at."""
        if self.state.now.scope != "reel":
            return None
        place = self.state.place
        places = self.state.places
        following = places[places.index(place) + 1] if place in places and place is not places[-1] else None
        if following is None or self.state.know(following.shot.footage.media) is None:
            return None
        bare = replace(self.state.under_spans(following), others=())
        overscan = self._view_widget.overscan
        return PictureRequest(bare, self._view_widget.wanted(), mode, 0, overscan=overscan, **_looking(self.state.now))

    def audition(self, shot: Shot | None) -> None:
        """Show, and play, the shot as it would be; None: as it is again."""
        if shot is None and self._trial is None:
            return
        if shot is not None and self._trial is None:
            self._before_trial = None if self.playing else (self.state.now.shot, self.view.frame)
        self._trial = shot
        self.refresh_picture()
        if shot is not None and not self.playing:
            self.toggle_play()
        elif shot is None and self._before_trial is not None:
            self.stop()
            looked_at, frame = self._before_trial
            if looked_at == self.state.now.shot:
                self.go(frame)  # looking changes nothing that lasts

    def go_in_reel(self, frame: int) -> None:
        """Put the playhead on a frame of the reel, in whichever shot that is."""
        found = reel_layout.at_frame(self.state.places, frame)
        if found is None:
            return
        place, inside = found
        self.state.reel_time.set_frame(min(max(frame, 0), place.first + place.frames - 1))
        if place.shot.id != self.state.now.shot:
            self.stop()
            self._entry = place.shot.id, inside / place.rate
            self.state.choose(shot=place.shot.id)
        else:
            self.go(round(inside / place.rate * self.view.rate))

    def _stretch(self) -> tuple[int, int]:
        """First and last frame of the shot that are played: all, the marked ones, or those that the reel's marks
        have."""
        frames = max(self.view.frames - 1, 0)
        if self.state.now.scope != "reel":
            return self.view.marks or (0, frames)
        place, marks = self.state.place, self.state.reel_time.marks
        if place is None or marks is None:
            return 0, frames
        first, last = (round((mark - place.first) / place.rate * self.view.rate) for mark in marks)
        return min(max(first, 0), frames), max(min(last, frames), 0)

    def through(self) -> None:
        """The shot that plays is over: go on with the next one of the reel, or with what is played first."""
        places, place, marks = self.state.places, self.state.place, self.state.reel_time.marks
        if place is None:
            self.stop()
            return
        after = place.first + place.frames
        first, last = marks or (0, places[-1].first + places[-1].frames - 1)
        self.go_in_reel(after if after <= last else first)
        self.toggle_play()

    def go(self, frame: int) -> None:
        """Put the playhead on a frame."""
        frame = min(max(frame, 0), max(self.view.frames - 1, 0))
        if self.playing:
            self.stop()
        if frame != self.view.frame and self.player is not None and self.player.audible:
            shot = self.state.seen
            if shot is not None:
                self.hear(shot, float(frame / self.view.rate), GRAIN)
        self.view.set_frame(frame)
        ready = self.preview.look(self._request, frame) if self._request else None
        if ready is not None:
            self._view_widget.show_picture(ready)
        self.refresh_picture()

    def toggle_play(self) -> None:
        """Play from the playhead, or stop."""
        if self.playing:
            self.stop()
            return
        shot, info = self.state.shot, self.state.info
        if shot is None or info is None or self.view.frames < 2:
            return
        player = self._made_player()
        of_reel, marks = self.state.now.scope == "reel", self.state.reel_time.marks
        if of_reel and marks is not None and not marks[0] <= self.state.reel_time.frame < marks[1]:
            self.go_in_reel(marks[0])
            shot, info = self.state.shot, self.state.info
            if shot is None or info is None:
                return
        first, last = self._stretch()
        start = self.view.frame if first <= self.view.frame < last else first
        heard = self._heard(self._trial or self.state.seen or shot)
        long = float(self.view.frames / self.view.rate)
        sound = (lambda seconds: mixing.playing(heard, long, seconds)) if heard is not None else None
        once = of_reel and len(self.state.places) > 1
        play = partial(player.play, start=start, first=first, last=last, rate=self.view.rate, sound=sound, once=once)
        ahead = range(start, min(start + AHEAD, last + 1))
        self._waiting = (play, ahead, time.monotonic() + PATIENCE)
        self.preview.follow(start)
        self._late_count = 0
        self._timer.start(max(2, int(250 / float(self.view.rate))))
        self.played.emit(True, "")

    def _heard(self, shot: Shot) -> Shot | None:
        """What is heard of a shot; None where that is nothing. A sound whose file is gone is said, and left out."""
        info = self.state.info
        if not mixing.is_mixed(shot):
            return shot if info is not None and info.audio else None
        try:
            mixing.check(shot)
        except TremorError as error:
            self.told.emit(str(error))
            return mixing.without_missing_sounds(shot)
        return shot

    def _made_player(self) -> player.Player:
        if self.player is None:
            if self._device is None:
                self._device = player.best_device(settings.load().device)
                if isinstance(self._device, player.SilentDevice):
                    self.told.emit(tr("No sound device: playback is silent."))
            self.player = player.Player(self._device)
            self.player.set_volume(self._volume)
        return self.player

    def set_volume(self, volume: float) -> None:
        """How loud it plays, 0 … 1."""
        self._volume = volume
        if self.player is not None:
            self.player.set_volume(volume)

    def hear(self, shot: Shot, start: float, seconds: float) -> None:
        """Let some seconds of a shot be heard while the picture stands."""
        heard = self._heard(shot)
        if heard is None or self.playing:
            return
        long = max(float(self.view.frames / self.view.rate), start + seconds)
        self._made_player().hear(lambda: mixing.playing(heard, long, start), seconds)

    def stop(self) -> None:
        if self.playing:
            self._waiting = None
            if self.player is not None:
                self.player.stop()
            self._timer.stop()
            self.view.set_frame(self.view.frame)
            self.played.emit(False, "")
            self.refresh_picture()

    def close(self) -> None:
        """Stop everything and wait for it."""
        self._timer.stop()
        if self.player is not None:
            self.player.close()
        elif self._device is not None:
            self._device.close()
        self.copies.close()
        self.preview.close()

    def _tick(self) -> None:
        player, request = self.player, self._request
        if player is None or request is None:
            return
        if self._waiting is not None:
            # the clock starts once the first pictures are there, so that none of them is late
            play, ahead, end = self._waiting
            missing = next((k for k in ahead if self.preview.look(request, k) is None), None)
            if missing is not None and time.monotonic() < end:
                self.preview.follow(missing)
                return
            self._waiting = None
            play()
        index = due = player.due()
        if player.lost:
            self.told.emit(tr("The sound device is gone: playback continues without sound."))
            player.lost = False
        if player.over:
            self.through()
            return
        if index == self.view.frame and player.shown:
            return
        ready = self.preview.look(request, index)
        if ready is None:
            self.preview.follow(due + 1)
            ready = self._late(request, due)
            if ready is None:
                return
            index = ready.index
        self.view.play_frame(index)
        self._view_widget.show_picture(ready)
        player.show(index, time.monotonic())
        self.preview.follow(due + 1)
        if player.dropped > self._late_count and time.monotonic() > self._late_said + SAID:
            self._late_count, self._late_said = player.dropped, time.monotonic()
            self.played.emit(True, tr("{0:.1f} fps reached", player.rate_now))

    def _late(self, request: PictureRequest, due: int) -> PreviewPicture | None:
        """The newest picture that was made too late: where none comes in time it is better than one that stands."""
        for index in range(due - 1, max(due - LATE, self.view.frame), -1):
            picture = self.preview.look(request, index)
            if picture is not None:
                return picture
        return None

    def _show(self, picture: PreviewPicture) -> None:
        if self._request is picture.request:
            self._view_widget.show_picture(picture)
            self.view.after_picture.release()
            self.answered.emit()

    def _readings(self, shot: Shot, plan: Plan, readings: FrameReadings) -> None:
        if self._request is not None and shot == self._request.shot:
            self.read.emit(plan, readings, "")

    def _file_replaced(self, shot: Shot) -> None:
        """A file was replaced: what is known of it is asked anew."""
        for path in footage.paths(shot):
            self.state.facts.pop(path, None)
        self.told.emit(tr("The footage of “{0}” was changed on disk and is read anew.", shot.name))
        self.refresh()

    def _failed(self, shot: Shot, words: str) -> None:
        if self._request is not None and shot == self._request.shot:
            self.read.emit(None, None, words)
            self.told.emit(words)
            self.answered.emit()

    def _replaced(self) -> None:
        self.stop()
        self.view.set_frame(0)
        self._view_widget.show_picture(None)
        self.refresh()


class _Looking(TypedDict):
    stops: float
    values: bool


def _looking(now: Selection) -> _Looking:
    """How a picture is looked at, whatever it shows."""
    return {"stops": now.stops, "values": frame_marks.LENS in now.overlays}


def _looked_at(now: Selection) -> tuple[object, ...]:
    return now.mode, now.peek, now.against, _looking(now)
