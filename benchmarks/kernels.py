"""Which kernel a final render resamples with: python benchmarks/kernels.py prints the table of docs/kernels.md."""

from __future__ import annotations

import statistics
import time

import cv2
import numpy as np

KERNELS = {"bilinear": cv2.INTER_LINEAR, "bicubic": cv2.INTER_CUBIC, "Lanczos 8 × 8": cv2.INTER_LANCZOS4}
SHIFTS = np.linspace(0.0, 1.0, 32, endpoint=False) + 1 / 64
ZOOMS = (1.0, 1.01, 1.035)
FREQUENCIES = (0.1, 0.2, 0.3, 0.4)  # cycles a pixel; 0.5 is the finest there is
SIZE = (1920, 1080)


def kept(flag: int, frequency: float) -> float:
    """How much of a grating's contrast is left, the mean over sub-pixel shifts and small zooms."""
    x = np.arange(1024, dtype=np.float32)
    wave = np.tile(np.float32(100) * np.cos(2 * np.pi * frequency * x) + 128, (8, 1)).astype(np.float32)
    out = []
    for zoom in ZOOMS:
        for shift in SHIFTS:
            matrix = np.array([[1 / zoom, 0, shift], [0, 1, 0]])
            got = cv2.warpAffine(wave, matrix, (900, 8), flags=flag | cv2.WARP_INVERSE_MAP)[4, 60:840] - 128
            at = np.arange(60, 840) / zoom + shift
            basis = np.stack([np.cos(2 * np.pi * frequency * at), np.sin(2 * np.pi * frequency * at)])
            out.append(np.hypot(*(basis @ got / (len(at) / 2))) / 100)
    return float(np.mean(out))


def overshoot(flag: int) -> float:
    """The most by which an edge rings over, in percent of its height."""
    step = np.tile(np.where(np.arange(64) < 32, 50, 200).astype(np.float32), (8, 1))
    worst = 0.0
    for shift in SHIFTS:
        got = cv2.warpAffine(step, np.array([[1, 0, shift], [0, 1, 0]]), (56, 8), flags=flag | cv2.WARP_INVERSE_MAP)
        worst = max(worst, float(got[:, 8:48].max()) - 200)
    return 100 * worst / 150


def misplaced(flag: int) -> float:
    """How far a soft bump lands from where it belongs, the worst over shifts, in hundredths of a pixel."""
    x = np.arange(96, dtype=np.float64)
    worst = 0.0
    for shift in SHIFTS:
        bump = np.tile(np.exp(-0.5 * ((x - 48) / 1.6) ** 2), (8, 1)).astype(np.float32)
        got = cv2.warpAffine(bump, np.array([[1, 0, shift], [0, 1, 0]]), (96, 8), flags=flag | cv2.WARP_INVERSE_MAP)[4]
        worst = max(worst, abs(float((got * x).sum() / got.sum()) - (48 - shift)))
    return 100 * worst


def cost(flag: int) -> float:
    """Milliseconds for a plane of 1080p."""
    plane = np.random.default_rng(1).integers(0, 255, SIZE[::-1]).astype(np.uint8)
    matrix = np.array([[1.01, 0.002, -7.3], [-0.002, 1.01, 4.1]])
    times = []
    for _ in range(9):
        begun = time.perf_counter()
        cv2.warpAffine(plane, matrix, SIZE, flags=flag | cv2.WARP_INVERSE_MAP)
        times.append(1000 * (time.perf_counter() - begun))
    return statistics.median(times)


def main() -> None:
    heads = [f"kept at {f:g}" for f in FREQUENCIES]
    print("| kernel |", " | ".join(heads), "| overshoot | misplaced | a plane of 1080p |")
    print("| --- |", " | ".join("---" for _ in heads), "| --- | --- | --- |")
    base = cost(cv2.INTER_LINEAR)
    for name, flag in KERNELS.items():
        kepts = " | ".join(f"{100 * kept(flag, f):.0f} %" for f in FREQUENCIES)
        ratio = cost(flag) / base
        print(f"| {name} | {kepts} | {overshoot(flag):.1f} % | {misplaced(flag):.1f} / 100 px | {ratio:.1f} × |")


if __name__ == "__main__":
    main()
