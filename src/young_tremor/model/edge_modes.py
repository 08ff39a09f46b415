"""What can be done about the edges that the motion uncovers: one entry each, and nothing else tells them apart."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

Edges = Literal["open", "hold", "mirror", "repeat", "soft", "crop", "crop-as-needed"]
Border = Literal["black", "hold", "mirror", "repeat", "soft"]


@dataclass(frozen=True)
class EdgeMode:
    """One way to treat edges.

    ``words``: in the panel. ``border``: how the renderer goes on beyond the picture's edge. ``crops``: whether a crop
    covers every frame instead. ``fills``: what stands in frames that reach over the edge, for a sentence; empty where
    they show it.
    """

    words: str
    border: Border
    crops: bool = False
    fills: str = ""


#: In the order of the panel, the default first.
EDGE_MODES: dict[Edges, EdgeMode] = {
    "crop": EdgeMode("Crop in, steady", "hold", crops=True),
    "crop-as-needed": EdgeMode("Crop in as needed", "hold", crops=True),
    "soft": EdgeMode("Soft fill", "soft", fills="a soft fill stands there"),
    "mirror": EdgeMode("Mirror", "mirror", fills="the picture is mirrored there"),
    "hold": EdgeMode("Hold edge", "hold", fills="its edge is held"),
    "repeat": EdgeMode("Repeat", "repeat", fills="the picture repeats there"),
    "open": EdgeMode("Leave open", "black"),
}
EDGES: tuple[Edges, ...] = tuple(EDGE_MODES)


def crops(edges: Edges) -> bool:
    """Whether a crop covers every frame under an edge mode."""
    return EDGE_MODES[edges].crops
