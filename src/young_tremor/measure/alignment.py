"""One picture against another: the similarity that takes the first to the second, and how sure it is.

Small patches, well spread over a key picture, are found again by pyramidal Lucas–Kanade (J.-Y. Bouguet, 2000); a
robust similarity through them (RANSAC) starts a direct alignment of all patches at once (inverse compositional:
S. Baker and I. Matthews, "Lucas-Kanade 20 years on", International Journal of Computer Vision 56, 2004). Each patch is
compared after its own mean and contrast are taken off, so that changes of light do not matter, and weighted by how well
it agrees. Never a warp or perspective: shift, turn and scale only.
"""

from __future__ import annotations

from dataclasses import dataclass, field, replace

import cv2
import numpy as np

RADIUS = 6  # of a patch, in pixels of the working picture
CELLS = 380  # about so many patches on a key picture
NEAREST = 1.5  # pixels that a patch may be off at first
LEVELS = 3
WINDOW = 13  # pixels of the small picture that are followed
COHERENT = 2.05  # compression moves the whole picture too, which its parts do not tell: by calibration, docs/proof.md
NOISY, CODED = 1.25, 1.95  # neighbours that err together err so much more than noise: as noise does, as a coded picture
BLOCKS = (6, 4)  # parts of the picture whose errors are taken for independent
RELIT = 12.0  # grey values by which light has to differ for a picture to be taken as if it were lit so
ROUNDS = 3  # of the alignment, of some patches and of all
ENOUGH = 110  # patches by which it is begun
TUNED = 0.35  # pixels of disagreement at which a patch counts a half
MANY = 60  # patches from which a bend is told from a turn
FEW = 12  # patches below which nothing is said
ROUGH, CLOSE = 0.03, 0.01  # pixels of change at which the alignment of some patches, of all is done
PARTS = np.stack(np.meshgrid((np.arange(16) + 0.5) / 16, (np.arange(12) + 0.5) / 12), axis=-1)
OFFSETS = np.stack(np.meshgrid(*[np.arange(-RADIUS, RADIUS + 1.0)] * 2), axis=-1).reshape(-1, 2)

Shields = tuple[tuple[float, ...], ...]
Similarity = np.ndarray  # (3, 3) float64, points (x, y, 1) of the one picture to those of the other


@dataclass(frozen=True)
class AlignedPicture:
    """A picture ready to be looked at: ``small`` (uint8, half as large, to follow patches in), ``smooth`` (float32)."""

    small: np.ndarray
    smooth: np.ndarray


@dataclass
class KeyPicture:
    """A picture made ready to be found in others. ``points`` (n, 2) are patch centres in its pixels."""

    picture: AlignedPicture
    points: np.ndarray
    slopes: np.ndarray  # (n, p, 7) float32: patches without mean, of length 1; then what a little shift x, y, turn,
    # growth, skew, other shape change in them
    own: np.ndarray  # (n, 6, 6)
    alone: np.ndarray  # (n, 2, 2) how far a patch by itself would go
    strength: np.ndarray  # (n,) length of the patches before
    energy: np.ndarray  # (n,) of its contrast, 1 for the median patch and no more than 2
    centre: np.ndarray
    trust: np.ndarray = field(repr=False)  # (2, n) how often a patch has agreed with each of the layers, 0…1
    most: np.ndarray = field(repr=False)  # (2, n) the most that was of each: what is covered now may show again

    @property
    def size(self) -> tuple[int, int]:
        """(width, height) of the working picture."""
        rows, columns = self.picture.smooth.shape
        return columns, rows


@dataclass(frozen=True)
class Alignment:
    """How a layer of a key picture lies in another picture.

    ``matrix`` takes points of the key to the other. ``error``: standard error of a point of the picture, RMS over the
    whole of it, in working pixels; ``share`` of the visible patches of the layer that agree, by their contrast;
    ``count`` of them;
    ``overlap`` of the two pictures 0…1. ``seen``, ``agree``: (n,) bool and 0…1, which patches show and how well each
    agrees; ``places`` (n, 2) where they are; ``bent`` (10,): by how much rows lower by a pixel lie further right, and
    further down, than they would; then (4, 2) how much of these is in the shift, turn and growth that were found; not a
    number where there are too few patches to tell. ``contrast``: of the patches that agree, against the key's.
    """

    matrix: Similarity
    error: float
    share: float
    count: int
    overlap: float
    seen: np.ndarray = field(repr=False)
    agree: np.ndarray = field(repr=False)
    places: np.ndarray = field(repr=False)
    bent: np.ndarray = field(repr=False)
    contrast: float


def ready(luma: np.ndarray) -> AlignedPicture:
    """Make a picture, luma (rows, columns) uint8, ready for :func:`key` and :func:`find`."""
    # linear interpolation is exact for what is smooth: details near the pixel pitch would pull towards whole pixels
    return AlignedPicture(cv2.pyrDown(luma), cv2.GaussianBlur(luma, (5, 5), 1.0).astype(np.float32))


def key(picture: AlignedPicture, shields: Shields = (), cells: int = CELLS) -> KeyPicture | None:
    """Make a picture the one that others are compared with; None where it has too little texture.

    Parameters
    ----------
    picture
        From :func:`ready`.
    shields : tuple of (x, y, width, height)
        Parts that are not to be looked at, in pixels of the picture.
    cells
        About so many patches.
    """
    smooth = picture.smooth
    points = _corners(smooth, shields, cells)
    if len(points) < FEW:
        return None
    patches = _look(smooth, points)
    shape = patches - patches.mean(axis=1, keepdims=True)
    size = np.linalg.norm(shape, axis=1)
    shape /= size[:, None]
    gx = _look(cv2.Scharr(smooth, cv2.CV_32F, 1, 0, scale=1 / 32), points)
    gy = _look(cv2.Scharr(smooth, cv2.CV_32F, 0, 1, scale=1 / 32), points)
    centre = (np.array(smooth.shape[::-1], dtype=np.float64) - 1) / 2
    rel = (points[:, None] + OFFSETS - centre).astype(np.float32)
    x, y = rel[..., 0], rel[..., 1]
    slope = np.stack([gx, gy, gy * x - gx * y, gx * x + gy * y, gx * y + gy * x, gx * x - gy * y], axis=2)
    slope = (slope - slope.mean(axis=1, keepdims=True)) / size[:, None, None]
    # contrast is free as well: what lies along the patch itself says nothing
    slope -= shape[..., None] * np.einsum("np,npk->nk", shape, slope)[:, None]
    own = np.einsum("npk,npl->nkl", slope, slope).astype(np.float64)
    alone = np.linalg.inv(own[:, :2, :2] + 1e-9 * np.eye(2))
    # the error of a coded picture is common to all of it, and follows weak patches most
    energy = size.astype(np.float64) ** 2 / np.median(size) ** 2
    energy = 2 * energy / (1 + energy)
    slopes = np.concatenate([shape[..., None], slope], axis=2)
    trust = np.full((2, len(points)), 0.7)
    return KeyPicture(picture, points, slopes, own, alone, size, energy, centre, trust, trust.copy())


def follow(
    key: KeyPicture, picture: AlignedPicture, which: np.ndarray, start: np.ndarray
) -> tuple[np.ndarray, np.ndarray]:
    """Look for patches ``which`` (k,) one by one, from ``start`` (k, 2): those that were found, and where (m, 2)."""
    moved, ok, _ = cv2.calcOpticalFlowPyrLK(
        key.picture.small,
        picture.small,
        (key.points[which] / 2).astype(np.float32),
        (start / 2).astype(np.float32),
        winSize=(WINDOW, WINDOW),
        maxLevel=LEVELS - 1,
        flags=cv2.OPTFLOW_USE_INITIAL_FLOW,
        criteria=(cv2.TERM_CRITERIA_EPS | cv2.TERM_CRITERIA_COUNT, 10, 0.03),
    )
    good = ok.ravel() > 0
    return which[good], 2.0 * moved[good].astype(np.float64)  # pixel k of the small picture lies on pixel 2k


def whole_shift(picture: AlignedPicture, other: AlignedPicture) -> Similarity:
    """How far most of a picture lies from where it is in another, by the phases of their waves (C. D. Kuglin and D. C.
    Hines, "The phase correlation image alignment method", IEEE Conference on Cybernetics and Society, 1975)."""
    first, second = (cv2.pyrDown(shown.small).astype(np.float32) for shown in (picture, other))
    window = cv2.createHanningWindow(first.shape[::-1], cv2.CV_32F)
    (x, y), _ = cv2.phaseCorrelate(first, second, window)
    out = np.eye(3)
    out[:2, 2] = 4 * x, 4 * y
    return out


def relit(key: KeyPicture, picture: AlignedPicture) -> KeyPicture:
    """A key picture in the light of another, if that differs by much (a flash, which also cuts off what is bright):
    grey values as often as there. What is learned of its patches is learned of the key's."""
    small, other = key.picture.small, picture.small
    if abs(float(small.mean()) - float(other.mean())) < RELIT:
        return key
    shares = [np.cumsum(cv2.calcHist([luma], [0], None, [256], [0, 256])) / luma.size for luma in (small, other)]
    table = np.clip(np.searchsorted(shares[1], shares[0]), 0, 255).astype(np.uint8)
    return replace(key, picture=AlignedPicture(cv2.LUT(small, table), key.picture.smooth))


def overlap(matrix: Similarity, size: tuple[int, int]) -> float:
    """Share of a picture of ``size`` that still shows in the other one."""
    width, height = size
    grid = (PARTS * (width, height)).reshape(-1, 2)
    return float(inside_of(apply(matrix, grid), size, 0).mean())


def similarity(params: np.ndarray, centre: np.ndarray) -> Similarity:
    """The matrix of shift x, y (pixels), turn (radians) and log scale about a centre."""
    x, y, turn, grow = params
    c, s = np.exp(grow) * np.cos(turn), np.exp(grow) * np.sin(turn)
    linear = np.array([[c, -s], [s, c]])
    out = np.eye(3)
    out[:2, :2] = linear
    out[:2, 2] = centre - linear @ centre + (x, y)
    return out


def parameters(matrix: Similarity, centre: np.ndarray) -> np.ndarray:
    """Shift x, y (pixels), turn (radians) and log scale about a centre of a similarity: (4,)."""
    linear = matrix[:2, :2]
    shift = linear @ centre + matrix[:2, 2] - centre
    a, b = linear[0, 0] + linear[1, 1], linear[1, 0] - linear[0, 1]
    return np.array([*shift, np.arctan2(b, a), np.log(np.hypot(a, b) / 2)])


def _corners(smooth: np.ndarray, shields: Shields, cells: int) -> np.ndarray:
    """The best corner of each cell of a grid: (n, 2) float64, whole pixels."""
    rows, columns = smooth.shape
    cell = max(2 * RADIUS, round(np.sqrt(rows * columns / cells)))
    strength = cv2.cornerMinEigenVal(smooth, 7, ksize=3)
    edge = RADIUS + 3
    strength[:edge] = strength[-edge:] = 0
    strength[:, :edge] = strength[:, -edge:] = 0
    for x, y, width, height in shields:
        strength[max(int(y), 0) : max(int(y + height) + 1, 0), max(int(x), 0) : max(int(x + width) + 1, 0)] = 0
    down, across = rows // cell, columns // cell
    blocks = strength[: down * cell, : across * cell].reshape(down, cell, across, cell).transpose(0, 2, 1, 3)
    flat = blocks.reshape(down * across, cell * cell)
    best = flat.argmax(axis=1)
    value = flat[np.arange(len(flat)), best]
    place = np.arange(len(flat))
    xs, ys = (place % across) * cell + best % cell, (place // across) * cell + best // cell
    floor = max(2e-3 * float(np.quantile(value, 0.95)), 2e-5)
    keep = value > floor
    return np.column_stack([xs[keep], ys[keep]]).astype(np.float64)


def _look(picture: np.ndarray, middles: np.ndarray, linear: np.ndarray = np.eye(2)) -> np.ndarray:
    """Patches of a picture about ``middles`` (n, 2), turned by ``linear``: (n, p) float32, linear between pixels."""
    around, middles = (OFFSETS @ linear.T).astype(np.float32), middles.astype(np.float32)
    xs = np.add.outer(middles[:, 0], around[:, 0])
    ys = np.add.outer(middles[:, 1], around[:, 1])
    return cv2.remap(picture, xs, ys, cv2.INTER_LINEAR, borderMode=cv2.BORDER_REPLICATE)


def apply(matrix: Similarity, points: np.ndarray) -> np.ndarray:
    """Places (n, 2) under a similarity."""
    return points @ matrix[:2, :2].T + matrix[:2, 2]


def inside_of(points: np.ndarray, size: tuple[int, int], edge: float) -> np.ndarray:
    """Which places (n, 2) lie inside a picture, with a margin: (n,) bool."""
    x, y = points[..., 0], points[..., 1]
    return (x >= edge) & (y >= edge) & (x <= size[0] - 1 - edge) & (y <= size[1] - 1 - edge)


def is_shielded(points: np.ndarray, shields: Shields) -> np.ndarray:
    """Which places (n, 2) lie in a shielded box: (n,) bool."""
    out = np.zeros(len(points), bool)
    for x, y, width, height in shields:
        inside_x = (points[:, 0] >= x) & (points[:, 0] <= x + width)
        out |= inside_x & (points[:, 1] >= y) & (points[:, 1] <= y + height)
    return out


def fit_similarity(start: np.ndarray, moved: np.ndarray, near: float = NEAREST) -> tuple[Similarity | None, np.ndarray]:
    """A similarity through places (n, 2) that went to ``moved``, and which of them agree with it to ``near``
    pixels (n,) bool."""
    if len(start) < FEW:
        return None, np.zeros(len(start), bool)
    answer: tuple[np.ndarray | None, np.ndarray] = cv2.estimateAffinePartial2D(
        start, moved, method=cv2.RANSAC, ransacReprojThreshold=near, maxIters=600, confidence=0.999
    )
    values, inliers = answer
    if values is None:
        return None, np.zeros(len(start), bool)
    return np.vstack([values, [0.0, 0.0, 1.0]]), inliers.ravel() > 0


def align(
    key: KeyPicture, picture: AlignedPicture, matrix: Similarity, mine: np.ndarray, shields: Shields = ()
) -> Alignment | None:
    """Align all patches at once, from a similarity that is right to a pixel or two; None where it cannot be told.

    ``mine`` (n,) 0…1: how much each patch belongs to what is looked for.
    """
    some, whole = slice(None, None, max(1, int((mine > 0.4).sum()) // ENOUGH)), slice(None)
    bend = np.zeros(2)  # skew and change of shape, of the key's places
    limit = 3 * TUNED
    for which, close in ((some, ROUGH), (whole, CLOSE)):
        whose, energy, own = mine[which], key.energy[which], key.own[which]
        for _ in range(ROUNDS):
            pulls = _pulls(key, picture, which, matrix, bend, shields)
            agree = pulls.alike / (1 + (pulls.far / limit) ** 2) ** 2
            weight = agree * whose
            counted = (weight > 0.25) & (whose > 0.4)
            count = int(counted.sum())
            if which is some and count < MANY:
                break
            if (weight > 0).sum() < FEW:
                return None
            free = 6 if count >= MANY else 4
            weight = weight * energy
            normal = np.einsum("n,nkl->kl", weight, own[:, :free, :free])
            step = _inverse(normal) @ (weight @ pulls.all[:, :free])
            matrix = matrix @ similarity(-step[:4], key.centre)
            bend -= np.append(step[4:], np.zeros(6 - free))
            limit = TUNED
            if np.abs(step[:2]).max() < close and np.abs(step[2:]).max() * key.size[0] < 2 * close:
                break
    visible = energy[pulls.inside & (whose > 0.4)].sum()
    if count < FEW:
        return None
    # the similarity nearest to what was found; what it cannot follow is told apart
    normal_of_all = np.einsum("n,nkl->kl", weight, own)
    towards = _inverse(normal_of_all[:4, :4]) @ normal_of_all[:4, 4:]
    matrix = matrix @ similarity(towards @ bend, key.centre)
    left = weight[:, None] * (pulls.all - np.einsum("nkl,l->nk", own[:, :, :free], step))[:, :4]
    error = _error(key.points, left, _inverse(normal[:4, :4]), key.size)
    # a skew of rows alone is half turn, half skew; a stretch of rows half growth, half change of shape
    share = towards * (0.5, -0.5) + np.array([[0, 0], [0, 0], [-0.5, 0], [0, 0.5]])
    bent = np.append([2 * bend[0], -2 * bend[1]], share if free == 6 else np.full(8, np.nan))
    return Alignment(
        matrix,
        error,
        float(energy[counted].sum() / max(visible, 1e-6)),
        count,
        overlap(matrix, key.size),
        pulls.inside,
        agree,
        apply(matrix, key.points),
        bent,
        float(np.median((pulls.length / key.strength)[counted])),
    )


def _inverse(normal: np.ndarray) -> np.ndarray:
    """Of normal equations (k, k): what nothing tells of stays where it is."""
    least = 1e-9 * max(float(np.trace(normal)), 1e-12)
    return np.asarray(np.linalg.inv(normal + least * np.eye(len(normal))))


@dataclass(frozen=True)
class _Pulls:
    """What pulls on patches of a key picture where they are thought to lie in another: ``inside`` (n,) bool, ``alike``
    (n,) 0…1, ``length`` (n,) of their contrast, ``all`` (n, 6) along the slopes, ``far`` (n,) how far each would go."""

    inside: np.ndarray
    alike: np.ndarray
    length: np.ndarray
    all: np.ndarray
    far: np.ndarray


def _pulls(
    key: KeyPicture, picture: AlignedPicture, which: slice, matrix: Similarity, bend: np.ndarray, shields: Shields
) -> _Pulls:
    linear = np.array([[bend[1], bend[0]], [bend[0], -bend[1]]])
    points = key.points[which]
    middles = apply(matrix, points + (points - key.centre) @ linear)
    inside = inside_of(middles, key.size, RADIUS) & ~is_shielded(middles, shields)
    now = _look(picture.smooth, middles, matrix[:2, :2] @ (np.eye(2) + linear))
    now -= now.mean(axis=1, keepdims=True)
    length = np.maximum(np.sqrt(np.einsum("np,np->n", now, now)), 1e-6)
    # the slopes have nothing along the patch itself, so what is left there does not pull
    products = np.matmul(now[:, None, :], key.slopes[which])[:, 0].astype(np.float64) / length[:, None]
    alike, pull = products[:, 0], products[:, 1:]
    apart = np.einsum("nij,nj->ni", key.alone[which], pull[:, :2])
    return _Pulls(
        inside, np.where(inside & (alike > 0.3), alike, 0.0), length, pull, np.hypot(apart[:, 0], apart[:, 1])
    )


def _error(points: np.ndarray, pulls: np.ndarray, back: np.ndarray, size: tuple[int, int]) -> float:
    """Standard error of a place, RMS over the picture, from what still pulls on the patches of each part of it.

    Neighbours err together (compression, light, a lens), so parts are counted, not patches: K.-Y. Liang and S. Zeger,
    "Longitudinal data analysis using generalized linear models", Biometrika 73, 1986.
    """
    across, down = BLOCKS
    part = (points[:, 0] * across // size[0]).astype(int) + across * (points[:, 1] * down // size[1]).astype(int)
    sums = np.stack([np.bincount(part, pulls[:, k], across * down) for k in range(4)], axis=1)
    used = max(int((np.bincount(part, np.abs(pulls).sum(axis=1), across * down) > 0).sum()), 5)
    together = _spread(back, sums, size) * np.sqrt(used / (used - 4))
    alike = together / max(_spread(back, pulls, size), 1e-12)
    return float(together * np.interp(alike, (NOISY, CODED), (1.0, COHERENT)))


def mean_square_distance(size: tuple[float, float]) -> float:
    """Of the places of a picture from its centre."""
    return (size[0] ** 2 + size[1] ** 2) / 12


def _spread(back: np.ndarray, sums: np.ndarray, size: tuple[int, int]) -> float:
    """Standard error of a place, RMS over the picture, where ``sums`` (n, 4) err by themselves."""
    spread = back @ (sums.T @ sums) @ back
    return float(np.sqrt(spread[0, 0] + spread[1, 1] + mean_square_distance(size) * (spread[2, 2] + spread[3, 3])))
