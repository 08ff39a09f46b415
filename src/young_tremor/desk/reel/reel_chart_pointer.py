"""What a hand does on the chart of the reel: what lies under it, spans that are drawn out, shots that are trimmed."""

from __future__ import annotations

from typing import Any

from young_tremor.desk.kit.i18n import tr
from young_tremor.desk.reel import reel_chart_paint as paint
from young_tremor.desk.state.desk_state import DeskState
from young_tremor.desk.state.time_view import TimeView
from young_tremor.engine.analysis.reel_layout import PlacedShot
from young_tremor.model import reel_edits
from young_tremor.model.project import Project, Span

EDGE = 7  # pixels within which an end is taken hold of


def shot_at(
    places: tuple[PlacedShot, ...], view: TimeView, width: int, x: float, y: float
) -> tuple[PlacedShot, str] | None:
    """The shot under a place, and which end of it, if any."""
    if not paint.TOPS["shots"] <= y < paint.TOPS["level"]:
        return None
    for place in places:
        card = paint.box(place, view, width)
        if card.left() <= x < card.right():
            if card.width() > 4 * EDGE and x < card.left() + EDGE:
                return place, "start"
            return place, "end" if card.width() > 4 * EDGE and x > card.right() - EDGE else ""
    return None


def span_at(spans: tuple[Span, ...], view: TimeView, width: int, x: float, y: float) -> tuple[Span, str] | None:
    """The span under a place, and what of it: an end, a corner where it is whole, or all of it."""
    if not paint.TOPS["spans"] <= y < paint.TOPS["shots"]:
        return None
    for span in reversed(spans):
        for role, t in (
            ("start", span.start),
            ("end", span.end),
            ("fade_in", span.start + span.fade_in),
            ("fade_out", span.end - span.fade_out),
        ):
            if abs(view.x(t, width) - x) < EDGE:
                return span, role
        if span.start <= view.t(x, width) <= span.end:
            return span, "move"
    return None


def frame_time(view: TimeView, t: float) -> float:
    """A time on a whole frame of the reel."""
    return round(max(t, 0.0) * float(view.rate)) / float(view.rate)


def drag_span(state: DeskState, drag: dict[str, Any], t: float) -> None:
    """Follow a hand that moves a span, or one of its corners, from where it was taken hold of to ``t`` seconds."""
    span, role, session = drag["span"], drag["role"], state.session
    frame = 1 / float(state.reel_time.rate)
    if role == "move":
        far = frame_time(state.reel_time, span.start + t - drag["t"]) - span.start
        session.apply(drag["words"], _whole_span(span, reel_edits.move_span(span.id, far)))
        return
    changes = {
        "start": lambda: {"start": min(frame_time(state.reel_time, t), span.end - 2 * frame)},
        "end": lambda: {"end": max(frame_time(state.reel_time, t), span.start + 2 * frame)},
        "fade_in": lambda: {"fade_in": min(max(t - span.start, 0.0), span.end - span.start - span.fade_out)},
        "fade_out": lambda: {"fade_out": min(max(span.end - t, 0.0), span.end - span.start - span.fade_in)},
    }[role]()
    session.apply(drag["words"], reel_edits.set_span(span.id, **{k: round(v, 6) for k, v in changes.items()}))


def drag_trim(state: DeskState, drag: dict[str, Any], t: float) -> float:
    """Follow a hand that trims an end of a shot; the second of the shot that is to be seen meanwhile."""
    place, session = drag["place"], state.session
    shot, by = place.shot, frame_time(state.reel_time, t) - frame_time(state.reel_time, drag["t"])
    info = state.know(shot.footage.media)
    free = info is None or info.still
    if drag["role"] == "start":
        start = max(shot.start + by, 0.0)
        edit = reel_edits.trim(shot.id, start=min(start, shot.start + (place.end - place.at) - reel_edits.SHORTEST))
        value = 0.0
    else:
        end = shot.start + (place.end - place.at) + by
        end = end if free or info is None else min(end, info.seconds)
        edit = reel_edits.trim(shot.id, end=end)
        value = max(end - shot.start - 1 / float(state.reel_time.rate), 0.0)
    session.apply(tr("Trim shot"), _whole_shot(shot, edit))
    return value


def _whole_shot(shot: Any, edit: Any) -> Any:
    """An edit from the shot as it was when the drag began, so that a drag back brings all of it back."""

    def change(project: Project) -> Project:
        made = edit(Project((shot,))).shots[0]
        return reel_edits.replace_shot(made)(project)

    return change


def _whole_span(span: Span, edit: Any) -> Any:
    def change(project: Project) -> Project:
        made = edit(Project(spans=(span,))).spans[0]
        return reel_edits.put_span(made)(project)

    return change
