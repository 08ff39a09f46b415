"""What moves on its own in a picture: up to two layers, and which patches of a key picture belong to which.

The scene is one, a person or a car in front of it may be the other. Each is found among the patches that have gone its
way before, so that none is taken for the other, however much of the frame it covers.
"""

from __future__ import annotations

from dataclasses import dataclass
from enum import Enum

import numpy as np

from young_tremor.measure import alignment
from young_tremor.measure.alignment import (
    FEW,
    NEAREST,
    AlignedPicture,
    Alignment,
    KeyPicture,
    Shields,
    Similarity,
    apply,
)

SOME = 110  # patches that are looked for one by one, of each layer half as many
OTHERS = 50  # such patches that do not belong to the only layer
LEARNED = 0.15  # how fast it is learned whose a patch is, from one picture
FIRST = 0.6  # the same when a second layer has just been noticed
TRUSTED = 0.35  # how often a patch has agreed, from which it belongs to the only layer
TELLING = 1.0  # pixels between the two places of a patch, from which it is told whose it is
SUDDEN = 8.0  # pixels from where it was thought to be, by which a layer cannot have come to the place of the other
LEAST = 0.25  # of the first layer's patches that go another way together make a second layer
MIXED = 0.6  # share of patches that agree below which two ways are thought to be mixed up
GRID = (6, 4)  # parts of the frame in which a layer is looked for
Guesses = tuple[Similarity | None, Similarity | None]
Pair = tuple[Alignment | None, Alignment | None]


class Jury(Enum):
    """Which patches decide about a layer that is looked for alone: those that have agreed lately and, if they do not
    tell, all; or only those; or those that have ever agreed."""

    ALL = "all"
    TRUSTED = "trusted"
    EVER = "ever"


@dataclass(frozen=True)
class SecondLayer:
    """Patches that go a way of their own: which, and the way."""

    matrix: Similarity
    which: np.ndarray


def seek(
    key: KeyPicture,
    picture: AlignedPicture,
    guesses: Guesses,
    shields: Shields,
    *,
    rate: float = LEARNED,
    jury: Jury = Jury.ALL,
) -> tuple[Pair, SecondLayer | None]:
    """Find each layer of a key picture in another one, and whether something else moves in it as one.

    ``guesses``: where each of them is about; None for one that is not looked for. ``rate``: how fast it is learned
    whose a patch is. ``jury``: which patches decide about the only layer.
    """
    alone = sum(guess is not None for guess in guesses) == 1
    start = _starts(key, guesses)
    visible = alignment.inside_of(start, key.size, alignment.RADIUS + 2) & ~alignment.is_shielded(start, shields)
    which = np.flatnonzero(visible)
    if len(which) < FEW:
        return (None, None), None
    trust = key.most if jury is Jury.EVER else key.trust
    some = _some(trust[0 if guesses[0] is not None else 1], key, which, alone=alone)
    some, moved = alignment.follow(key, picture, some, start[some])
    layers: list[Alignment | None] = [None, None]
    rest = np.ones(len(some), bool)
    closest = NEAREST
    for number, guess in enumerate(guesses):
        if guess is None:
            continue
        whose = mine(key, number, alone=alone)
        best, fits = None, np.zeros(len(some), bool)
        # where two things are nearly together their mean may be what most agree on, and few do when looked at closely
        for near in (NEAREST, NEAREST / 3):
            if best is None or best.share < MIXED:
                matrix, these = _consensus(key, number, some, moved, near, guess, jury if alone else None)
                other_alignment = alignment.align(key, picture, matrix, whose, shields) if matrix is not None else None
                if other_alignment is not None and (best is None or other_alignment.count > 1.2 * best.count):
                    best, fits, closest = other_alignment, these, near
        rest &= ~fits
        layers[number] = best
    pair = layers[0], layers[1]
    learn(key, pair, rate)
    found_alone = alone and any(layer is not None for layer in pair)
    return pair, _second_layer(key, some, moved, rest, closest) if found_alone else None


def _second_layer(
    key: KeyPicture, some: np.ndarray, moved: np.ndarray, rest: np.ndarray, closest: float
) -> SecondLayer | None:
    """The patches that go a way of their own beside the only layer, if they are many enough.

    ``some`` (n,): the patches looked at, found at ``moved`` (n, 2); ``rest`` (n,) bool: those that do not go with the
    layer; ``closest``: within how many pixels patches agree.
    """
    if rest.sum() < FEW:
        return None
    matrix, fits = alignment.fit_similarity(key.points[some][rest], moved[rest], closest)
    if matrix is None or fits.sum() < max(FEW, LEAST * (~rest).sum()):
        return None
    return SecondLayer(matrix, some[rest][fits])


def mine(key: KeyPicture, number: int, *, alone: bool) -> np.ndarray:
    """How much each patch belongs to a layer: (n,) 0…1."""
    if alone:
        return np.ones(len(key.points))
    share = key.trust[number] / (key.trust.sum(axis=0) + 0.05)
    return np.asarray(np.clip((share - 0.35) / 0.3, 0.0, 1.0))


def split(key: KeyPicture, first: int, second: SecondLayer) -> None:
    """Begin a second layer: what is known of the patches that go its way."""
    key.trust[1 - first] = np.minimum(key.trust[first], 0.5)
    key.trust[1 - first][second.which] = 0.9
    key.trust[first][second.which] = 0.1
    key.most[1 - first] = key.trust[1 - first]
    key.most[first][second.which] = 0.1


def learn(key: KeyPicture, found: Pair, rate: float = LEARNED) -> None:
    """Remember how each patch has agreed, where the two layers' places for it differ."""
    one, alignment = found
    if rate == 0:
        return
    if one is None or alignment is None:
        for number, only in enumerate(found):
            if only is not None:
                _towards(key.trust[number], only.agree, only.seen, rate)
        np.maximum(key.most, key.trust, out=key.most)
        return
    apart = np.hypot(*(one.places - alignment.places).T) > TELLING
    known = np.maximum(one.agree, alignment.agree) > 0.25
    for number, match in enumerate((one, alignment)):
        _towards(key.trust[number], match.agree, apart & known & match.seen, rate)
        # covered or gone wrong: forgotten slowly
        _towards(key.trust[number], match.agree, apart & ~known & match.seen, 0.1 * rate)
    np.maximum(key.most, key.trust, out=key.most)


def inherit(fresh: KeyPicture, old: KeyPicture, back: Guesses, found: Pair) -> None:
    """What is known of a new key picture's patches, from the old one's: how they agree with its picture, and where the
    layers' ways do not differ, whose the nearest of the old patches are.

    ``back``: from the new key picture to the old one; ``found``: where the old patches are in the new picture.
    """
    votes, weights = np.full((2, len(fresh.points)), 0.35), np.full(len(fresh.points), 0.5)
    for number, item in enumerate(found):
        if item is None:
            continue
        whose = mine(old, number, alone=found[1 - number] is None) * (item.agree > 0.25)
        near = 1 / (1 + (_distances(fresh.points, item.places) / 24.0) ** 4)
        near = near * whose
        votes[number] += near.sum(axis=1)
        weights += near.sum(axis=1)
    fresh.trust[:] = votes / weights
    looked = [
        alignment.align(fresh, old.picture, matrix, mine(fresh, number, alone=back[1 - number] is None))
        if matrix is not None
        else None
        for number, matrix in enumerate(back)
    ]
    learn(fresh, (looked[0], looked[1]), FIRST)
    fresh.most[:] = fresh.trust


def cells(found: Alignment, whose: np.ndarray, size: tuple[int, int]) -> np.ndarray:
    """In which parts of the frame a layer shows: :data:`GRID` as (down, across) bool."""
    places = found.places[(found.agree > 0.25) & (whose > 0.4)]
    part = np.clip((places / size * GRID).astype(int), 0, np.array(GRID) - 1)
    out = np.zeros(GRID[::-1], bool)
    out[part[:, 1], part[:, 0]] = True
    return out


def reach(parts: np.ndarray) -> float:
    """How far a layer reaches round the frame's rim and over the frame, 0…1, from :func:`cells`."""
    rim = np.ones_like(parts)
    rim[1:-1, 1:-1] = False
    return float(0.7 * parts[rim].mean() + 0.3 * parts.mean())


def _some(trust: np.ndarray, key: KeyPicture, which: np.ndarray, *, alone: bool) -> np.ndarray:
    """Patches to look for one by one, enough of each layer to agree on; the alignment takes all."""
    other = (trust <= TRUSTED if alone else key.trust[1] > key.trust[0])[which]
    parts = (which[~other], SOME if alone else SOME // 2), (which[other], OTHERS if alone else SOME // 2)
    return np.concatenate([part[:: max(1, len(part) // count)] for part, count in parts])


def _starts(key: KeyPicture, guesses: Guesses) -> np.ndarray:
    """Where each patch should be, by the layer that it belongs to."""
    one, values = guesses
    if one is None or values is None:
        guess = one if one is not None else values
        assert guess is not None
        return apply(guess, key.points)
    second = key.trust[1] > key.trust[0]
    return np.where(second[:, None], apply(values, key.points), apply(one, key.points))


def _consensus(
    key: KeyPicture,
    number: int,
    some: np.ndarray,
    moved: np.ndarray,
    near: float,
    guess: Similarity,
    jury: Jury | None,
) -> tuple[Similarity | None, np.ndarray]:
    """The way that most of a layer's patches agree on, and which of all agree with it. ``jury``: None where there are
    two layers."""
    points = key.points[some]
    if jury is None:
        use = mine(key, number, alone=False)[some] > 0.5
        matrix = _most(points[use], moved[use], near)
    else:
        trusted = (key.most if jury is Jury.EVER else key.trust)[number] > TRUSTED
        use = trusted[some] if trusted.sum() >= 3 * FEW else np.ones(len(some), bool)
        matrix = _most(points[use], moved[use], near)
        if matrix is None and jury is Jury.ALL:
            # few agree, as in foliage: all are asked, but what goes elsewhere at once is not it
            matrix = _most(points, moved, near)
            if matrix is not None and np.median(np.hypot(*(apply(matrix, points) - apply(guess, points)).T)) > SUDDEN:
                matrix = None
    if matrix is None:
        return None, np.zeros(len(some), bool)
    return matrix, np.hypot(*(apply(matrix, points) - moved).T) < 2 * near


def _most(start: np.ndarray, moved: np.ndarray, near: float) -> Similarity | None:
    """The way that most places agree on; None where few do."""
    matrix, fits = alignment.fit_similarity(start, moved, near)
    return matrix if matrix is not None and int(fits.sum()) >= max(FEW, 0.12 * len(start)) else None


def _towards(values: np.ndarray, aim: np.ndarray, which: np.ndarray, rate: float) -> None:
    values[which] += rate * ((aim[which] > 0.25) - values[which])


def _distances(here: np.ndarray, there: np.ndarray) -> np.ndarray:
    return np.asarray(np.hypot(here[:, None, 0] - there[None, :, 0], here[:, None, 1] - there[None, :, 1]))
