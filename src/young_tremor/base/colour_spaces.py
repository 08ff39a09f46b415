"""Colour spaces by name, and what a picture's tags say of its own."""

from __future__ import annotations

from dataclasses import dataclass, replace
from functools import lru_cache

import numpy as np

from young_tremor.base.errors import UnknownName
from young_tremor.base.pixels import ColourTags

LINEAR, PQ, HLG, SRGB = 8, 16, 18, 13  # transfers of ITU-T H.273 that differ from a screen's
GAMMAS = {4: 2.2, 5: 2.8}  # transfers that are a plain power; the others of standard range are shown by BT.1886
BT1886 = 2.4
UNTOLD_PRIMARIES = UNTOLD_TRANSFER = 2
OWN = "ocio:"  # before the name of a space of a person's own configuration
WIDE = (9, 11, 12)  # primaries that a usual screen does not show

# red, green, blue and white as x, y, by the number of ITU-T H.273
_D65 = (0.3127, 0.3290)
CHROMATICITIES = {
    1: ((0.640, 0.330), (0.300, 0.600), (0.150, 0.060), _D65),
    4: ((0.670, 0.330), (0.210, 0.710), (0.140, 0.080), (0.310, 0.316)),
    5: ((0.640, 0.330), (0.290, 0.600), (0.150, 0.060), _D65),
    6: ((0.630, 0.340), (0.310, 0.595), (0.155, 0.070), _D65),
    7: ((0.630, 0.340), (0.310, 0.595), (0.155, 0.070), _D65),
    9: ((0.708, 0.292), (0.170, 0.797), (0.131, 0.046), _D65),
    11: ((0.680, 0.320), (0.265, 0.690), (0.150, 0.060), (0.314, 0.351)),
    12: ((0.680, 0.320), (0.265, 0.690), (0.150, 0.060), _D65),
    22: ((0.630, 0.340), (0.295, 0.605), (0.155, 0.077), _D65),
}
# of spaces that H.273 has no numbers for (SMPTE ST 2065-1; Academy S-2014-004; Adobe RGB (1998), of photographs)
_ACES_WHITE = (0.32168, 0.33767)
NAMED_CHROMATICITIES = {
    "acescg": ((0.713, 0.293), (0.165, 0.830), (0.128, 0.044), _ACES_WHITE),
    "adobe-rgb": ((0.640, 0.330), (0.210, 0.710), (0.150, 0.060), _D65),
    "aces2065-1": ((0.7347, 0.2653), (0.0, 1.0), (0.0001, -0.0770), _ACES_WHITE),
}


@dataclass(frozen=True)
class ColourSpace:
    """A colour space: its name in documents and options, its label, and the tags of its pictures. ``named``: it has no
    numbers in H.273, so that its tags carry its name."""

    name: str
    label: str
    primaries: int
    transfer: int
    named: bool = False

    def tags(self, colour: ColourTags) -> ColourTags:
        """The tags of a picture, matrix and range as they are, as one of this space."""
        space = self.name if self.named else ""
        return replace(colour, primaries=self.primaries, transfer=self.transfer, space=space)


SPACES = (
    ColourSpace("rec709", "Rec. 709", 1, 1),
    ColourSpace("rec601-525", "Rec. 601, 525 lines", 6, 6),
    ColourSpace("rec601-625", "Rec. 601, 625 lines", 5, 5),
    ColourSpace("srgb", "sRGB", 1, SRGB),
    ColourSpace("display-p3", "Display P3", 12, SRGB),
    ColourSpace("adobe-rgb", "Adobe RGB (1998)", UNTOLD_PRIMARIES, 4, named=True),
    ColourSpace("rec2020", "Rec. 2020", 9, 14),
    ColourSpace("pq", "Rec. 2100 PQ", 9, PQ),
    ColourSpace("hlg", "Rec. 2100 HLG", 9, HLG),
    ColourSpace("p3-pq", "P3 PQ", 12, PQ),
    ColourSpace("linear", "Linear, Rec. 709", 1, LINEAR),
    ColourSpace("linear-p3", "Linear, P3", 12, LINEAR),
    ColourSpace("linear-2020", "Linear, Rec. 2020", 9, LINEAR),
    ColourSpace("acescg", "ACEScg", UNTOLD_PRIMARIES, LINEAR, named=True),
    ColourSpace("aces2065-1", "ACES2065-1", UNTOLD_PRIMARIES, LINEAR, named=True),
)
NAMES = tuple(space.name for space in SPACES)
#: Spaces of cameras by the names that the built-in configuration of OpenColorIO has for them.
CAMERAS = (
    "ARRI LogC4",
    "ARRI LogC3 (EI800)",
    "S-Log3 S-Gamut3.Cine",
    "S-Log3 S-Gamut3",
    "CanonLog2 CinemaGamut D55",
    "CanonLog3 CinemaGamut D55",
    "V-Log V-Gamut",
    "Log3G10 REDWideGamutRGB",
    "BMDFilm WideGamut Gen5",
    "D-Log D-Gamut",
    "Apple Log",
    "ACEScct",
)
_BY_NAME = {space.name: space for space in SPACES}


def space_named(name: str) -> ColourSpace:
    """The space of that name or label, whatever its case, or a camera's; after "ocio:" one of a person's own
    configuration. UnknownName otherwise."""
    lower = name.strip().casefold()
    for space in SPACES:
        if lower in (space.name, space.label.casefold()):
            return space
    own = name.strip()[len(OWN) :].strip() if lower.startswith(OWN) else ""
    label = own or next((camera for camera in CAMERAS if camera.casefold() == lower), "")
    if label:
        return _elsewhere(label)
    raise UnknownName(f"“{name}” is no colour space that is known: choose from {', '.join((*NAMES, *CAMERAS))}.")


def _elsewhere(name: str) -> ColourSpace:
    """A space that OpenColorIO knows by that name."""
    return ColourSpace(name, name, UNTOLD_PRIMARIES, UNTOLD_TRANSFER, named=True)


def space_of(colour: ColourTags) -> ColourSpace:
    """The space that tags say; untold primaries are taken for BT.709's, an untold transfer for standard range."""
    if colour.space:
        return _BY_NAME.get(colour.space) or _elsewhere(colour.space)
    primaries = colour.primaries if colour.primaries in CHROMATICITIES else 1
    transfer = _family(colour.transfer)
    for space in SPACES:
        if not space.named and space.primaries == primaries and _family(space.transfer) == transfer:
            return space
    label = {PQ: "PQ", HLG: "HLG", LINEAR: "Linear"}.get(transfer, "Standard range")
    return ColourSpace("", f"{label}, primaries {primaries}", primaries, colour.transfer)


def is_known(colour: ColourTags) -> bool:
    """Whether a picture's space is one of these; otherwise OpenColorIO knows it."""
    return not colour.space or colour.space in _BY_NAME


def is_guessed(colour: ColourTags) -> bool:
    """Whether tags leave open which space it is."""
    return not colour.space and (colour.primaries not in CHROMATICITIES or colour.transfer in (2, 3))


def is_high(colour: ColourTags) -> bool:
    """Whether a picture has more range than a screen of standard range shows: PQ or HLG."""
    return colour.transfer in (PQ, HLG)


def is_standard(colour: ColourTags) -> bool:
    """Whether it is of standard range."""
    return is_known(colour) and not is_high(colour) and not is_light(colour)


def is_light(colour: ColourTags) -> bool:
    """Whether its values are light, as renderers write it."""
    return colour.transfer == LINEAR


def is_mapped_for_screens(colour: ColourTags) -> bool:
    """Whether a usual screen cannot show a picture as it is: of high range, of light, or of a wide gamut."""
    return not is_standard(colour) or colour.primaries in WIDE or colour.space == "adobe-rgb"


def differ(first: ColourTags, other: ColourTags) -> bool:
    """Whether a picture of one space has to be converted to be one of the other. Curves of standard range are all for
    the same screen, so that there only primaries count, and only where both are told."""
    if not (is_known(first) and is_known(other)):
        return first.space != other.space
    if is_standard(first) and is_standard(other):
        both_told = all(tags.space or tags.primaries in CHROMATICITIES for tags in (first, other))
        return both_told and chromaticities(first) != chromaticities(other)
    if _family(first.transfer) != _family(other.transfer):
        return True
    return chromaticities(first) != chromaticities(other)


def chromaticities(colour: ColourTags) -> tuple[tuple[float, float], ...]:
    """Red, green, blue and white of a picture's space, as x and y."""
    if colour.space in NAMED_CHROMATICITIES:
        return NAMED_CHROMATICITIES[colour.space]
    return CHROMATICITIES.get(colour.primaries, CHROMATICITIES[1])


def _family(transfer: int) -> int:
    """Transfers that are decoded alike: PQ, HLG, light, and all of standard range as one."""
    return transfer if transfer in (PQ, HLG, LINEAR) else 1


@lru_cache(maxsize=256)
def to_xyz(colour: ColourTags) -> np.ndarray:
    """(3, 3): linear RGB of a picture's space → CIE XYZ under D65, white having a Y of 1; of another white it is
    adapted by the Bradford transform."""
    return under(colour, _xyz(_D65))


def under(colour: ColourTags, white: np.ndarray) -> np.ndarray:
    """(3, 3): the same under another ``white``, (3,) XYZ."""
    *primaries, own = chromaticities(colour)
    columns = np.array([(x / y, 1.0, (1 - x - y) / y) for x, y in primaries]).T
    matrix = columns * np.linalg.solve(columns, _xyz(own))
    if np.allclose(_xyz(own), white, atol=1e-9):
        return matrix
    cones = _BRADFORD @ _xyz(own), _BRADFORD @ white
    return np.asarray(np.linalg.inv(_BRADFORD) @ np.diag(cones[1] / cones[0]) @ _BRADFORD @ matrix)


_BRADFORD = np.array([[0.8951, 0.2664, -0.1614], [-0.7502, 1.7135, 0.0367], [0.0389, -0.0685, 1.0296]])


def _xyz(white: tuple[float, float]) -> np.ndarray:
    x, y = white
    return np.array([x / y, 1.0, (1 - x - y) / y])
