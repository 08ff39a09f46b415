"""Who holds the camera, as a person would say it."""

from __future__ import annotations

from typing import Annotated, Literal

from young_tremor.base.number_scale import NumberScale
from young_tremor.model.curve import Curve
from young_tremor.model.fields import SEED, UNIT, UNIT_SCALE, Checked, Choice, Number, Switch

ORIGIN = "holder/"  # of strands that a holder made
FLINCH = f"{ORIGIN}flinch"
Grip = Literal["one", "two", "elbows", "shoulder", "braced", "worn", "stand"]
Doing = Literal["sits", "stands", "walks", "runs", "rides"]
GRIP_OPTIONS = (
    ("one", "One hand"),
    ("two", "Two hands"),
    ("elbows", "Elbows in"),
    ("shoulder", "On the shoulder"),
    ("braced", "Braced against something"),
    ("worn", "Worn on the body"),
    ("stand", "On a stand that is not firm"),
)
DOING_OPTIONS = (
    ("sits", "Sits"),
    ("stands", "Stands"),
    ("walks", "Walks"),
    ("runs", "Runs"),
    ("rides", "Rides"),
)


class Holder(Checked, frozen=True):
    """Who holds the camera: what it weighs, how it is held, what the holder does, and how they are.

    ``breath``: 0 calm … 1 out of breath; ``nerves``: 0 steady … 1 trembling; ``tired``: 0 fresh … 1 spent. ``flinch``:
    they start at hits.
    """

    weight: Annotated[
        float,
        Number(
            "Weight",
            "What the camera weighs; heavy ones filter what is quick",
            (0.2, 20),
            NumberScale(0.2, 20, "kg", 1, bend=2.5, least=0.2, most=20),
            unit="kg",
            words="camera weight, mass, heavy, light",
        ),
    ] = 1.0
    grip: Annotated[Grip, Choice("Held", "How the camera is held", GRIP_OPTIONS, words="grip, handheld, rig")] = "two"
    doing: Annotated[Doing, Choice("Doing", "What the holder does", DOING_OPTIONS, words="walk, run, sit, stand")] = (
        "stands"
    )
    speed: Annotated[
        Curve,
        Number(
            "Speed",
            "How fast the holder walks or runs",
            (0, 30),
            NumberScale(0, 16, "km/h", 1, least=0, most=30),
            unit="km/h",
            words="walking speed, pace",
        ),
    ] = Curve(4.5)
    breath: Annotated[
        Curve, Number("Breath", "0 calm, 1 out of breath", UNIT, UNIT_SCALE, words="breathing, exhausted, panting")
    ] = Curve(0.0)
    nerves: Annotated[
        Curve, Number("Nerves", "0 steady, 1 trembling", UNIT, UNIT_SCALE, words="nervous, trembling, fear, tension")
    ] = Curve(0.0)
    tired: Annotated[
        float, Number("Tired", "0 fresh, 1 spent", UNIT, UNIT_SCALE, words="fatigue, exhausted arms, tired arms")
    ] = 0.0
    flinch: Annotated[
        bool, Switch("Flinches at hits", "Starts at hits, less at each further one", words="startle, reaction")
    ] = True
    seed: Annotated[int, Number("Seed", "Which holder of that kind", SEED)] = 1
