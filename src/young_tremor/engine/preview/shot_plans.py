"""Plans of the shots that the preview shows: made when files or numbers change, first with a rough crop where solving
takes long, and solved exactly when the person rests."""

from __future__ import annotations

from collections import deque
from collections.abc import Callable
from dataclasses import dataclass

from msgspec.structs import replace

from young_tremor.engine.media import footage
from young_tremor.engine.preview.effort import draft
from young_tremor.engine.preview.picture_request import PictureRequest
from young_tremor.render.plan import Plan
from young_tremor.render.resolve_plan import readings, resolve, rough, slow, watch_solving

KEPT = 12  # plans


@dataclass(frozen=True)
class ShotPlan:
    """The ``number`` of a plan, the plan itself, and that of the ``still`` picture it is compared with."""

    number: int
    plan: Plan
    still: Plan


class ShotPlans:
    """For the preview's thread, but for :meth:`known`."""

    def __init__(self) -> None:
        self._stamps: dict[str, tuple[int, ...]] = {}  # of each file, the state that was last seen
        self._plans: dict[tuple, ShotPlan] = {}
        self._exact: dict[str, Plan] = {}  # by shot, the last plan whose crop was solved
        self._rough: set[tuple] = set()
        self._solved: deque[tuple] = deque(maxlen=KEPT)  # shots whose crop takes long and was solved
        self._drafts: dict[tuple[int, int], Plan] = {}  # by the number of a plan and a step of effort
        self._numbers = 0

    def known(self, request: PictureRequest) -> ShotPlan | None:
        """The plan of a request if there is one. For any thread."""
        return self._plans.get(self._key(request))

    def is_rough(self, request: PictureRequest) -> bool:
        """Whether the plan of a request has a rough crop."""
        return self._key(request) in self._rough

    def changed_files(self, request: PictureRequest) -> tuple[bool, frozenset[str]]:
        """Whether any file of a request is new or has changed since it was last looked at, and those that have."""
        stamps = dict(zip(footage.paths(request.shot), footage.stamps(request.shot), strict=True))
        unlike = {path for path, stamp in stamps.items() if self._stamps.get(path) != stamp}
        changed = frozenset(path for path in unlike if path in self._stamps)
        self._stamps |= stamps
        return bool(unlike), changed

    def plan(self, request: PictureRequest) -> ShotPlan:
        """The plan of a request. TremorError where its footage cannot be read."""
        key = self._key(request)
        if key not in self._plans:
            self._make(request, key)
        return self._plans[key]

    def _make(self, request: PictureRequest, key: tuple) -> None:
        shot, against = request.shot, request.against
        infos, quality = footage.infos(shot), request.quality
        still = resolve(against, infos, quality) if against else resolve(shot, infos, quality, shaken=False)
        uncropped = resolve(replace(shot, frame=replace(shot.frame, edges="open")), infos, quality)
        if key not in self._solved and slow(uncropped):
            self._rough.add(key)
            last = self._exact.get(shot.id)
            plan = resolve(
                shot, infos, quality, known=last if last and last.frames == still.frames else rough(uncropped)
            )
        else:
            plan = self._exact[shot.id] = resolve(shot, infos, quality)
        self._numbers += 1
        while len(self._plans) >= KEPT:
            oldest = next(iter(self._plans))
            self._plans.pop(oldest)
            self._rough.discard(oldest)
        self._plans[key] = ShotPlan(self._numbers, plan, still)
        alive = self.numbers
        self._drafts = {key: plan for key, plan in self._drafts.items() if key[0] in alive}

    @property
    def numbers(self) -> set[int]:
        """The numbers of all plans that are kept."""
        return {shot_plan.number for shot_plan in self._plans.values()}

    def solve(self, request: PictureRequest, look: Callable[[], None]) -> None:
        """Solve the crop of a request whose plan is rough. ``look`` is called often; what it raises ends the solving,
        and the rough plan stays."""
        key = self._key(request)
        with watch_solving(look):
            plan = resolve(request.shot, footage.infos(request.shot), request.quality)
            readings(plan)
        self._exact[request.shot.id] = plan
        self._solved.append(key)
        self._rough.discard(key)
        self._plans.pop(key, None)

    def draft(self, request: PictureRequest, number: int, plan: Plan, step: int) -> Plan:
        """A plan with so many steps less effort."""
        less = self._drafts.get((number, step))
        if less is None:
            sources = tuple(plate.source for plate in plan.plates)
            less = self._drafts[number, step] = resolve(plan.shot, sources, draft(request.quality, step), known=plan)
        return less

    def clear(self) -> None:
        """Let go of all plans."""
        self._plans.clear()
        self._exact.clear()

    def _key(self, request: PictureRequest) -> tuple:
        states = tuple(self._stamps.get(path, ()) for path in footage.paths(request.shot))
        return (*request.look, states)
