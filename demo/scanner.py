"""A simulated scanner: line art in, a believable scan of its stamping out. It stands in for a real device."""

from __future__ import annotations

import io
from dataclasses import dataclass

import cv2
import numpy as np
from numpy.typing import NDArray
from PIL import Image

from demo.lineart import Drawing
from paleta.colour import lab_to_srgb
from paleta.materials import PAPERS

BLACK_INK = (0.1, 0.09, 0.1)
WHITE_INK = (0.93, 0.92, 0.88)


@dataclass(frozen=True)
class Faults:
    """What goes wrong between stamp and scan.

    turn_deg    the card lay askew on the glass.
    patchy      0..1, uneven ink.
    specks      stray ink dots per square cm.
    gaps        breaks in the lines, per 10 cm of line about.
    gap_mm      widest break.
    shading     0..1, light falling off towards one edge.
    """

    turn_deg: float = 0.6
    patchy: float = 0.3
    specks: float = 0.15
    gaps: float = 0.0
    gap_mm: float = 0.9
    shading: float = 0.06


def scan(
    drawing: Drawing,
    *,
    dpi: float = 300,
    paper: str = "smooth-white",
    faults: Faults | None = None,
    seed: int = 1,
    ink_rgb: tuple[float, float, float] = BLACK_INK,
) -> tuple[bytes, NDArray[np.int32]]:
    """JPEG bytes of the scan, and for every pixel the number of the shape truly seen there (0 = paper)."""
    faults = faults or Faults()
    chance = np.random.default_rng(seed)
    ink, seen = drawing.rasterise(dpi)
    if faults.gaps:
        ink = _break_lines(ink, faults, dpi, chance)
    coverage = _uneven(ink.astype(np.float32) / 255, faults, dpi, chance)
    coverage, seen = _turn(coverage, seen, faults.turn_deg)
    coverage = np.maximum(coverage, _specks(coverage.shape, faults, dpi, chance))
    paper_rgb = lab_to_srgb(PAPERS[paper].lab).astype(np.float32)
    grain = cv2.GaussianBlur(chance.normal(0, 1, coverage.shape).astype(np.float32), (0, 0), 1.2) * 0.02
    picture = paper_rgb * (1 + grain[..., None]) * (1 - coverage[..., None]) + np.float32(ink_rgb) * coverage[..., None]
    fall = np.linspace(0, 1, picture.shape[1], dtype=np.float32) ** 2
    picture *= (1 - faults.shading * fall)[None, :, None]
    picture = cv2.GaussianBlur(picture, (0, 0), 0.6 * dpi / 300)
    pixels = (np.clip(picture, 0, 1) * 255 + 0.5).astype(np.uint8)
    out = io.BytesIO()
    Image.fromarray(pixels).save(out, "JPEG", quality=92, subsampling=0, dpi=(dpi, dpi))
    return out.getvalue(), seen


def _uneven(
    coverage: NDArray[np.float32], faults: Faults, dpi: float, chance: np.random.Generator
) -> NDArray[np.float32]:
    slow = _noise(coverage.shape, dpi / 25.4 * 5, chance)
    fine = _noise(coverage.shape, dpi / 25.4 * 0.12, chance)
    soft = cv2.GaussianBlur(coverage, (0, 0), dpi / 25.4 * 0.05)
    edge = np.clip((soft - 0.5 + 0.10 * faults.patchy * fine) * 5 + 0.5, 0, 1)
    return (
        edge * np.clip(0.95 - 0.28 * faults.patchy * np.maximum(slow, 0) - 0.12 * faults.patchy * np.abs(fine), 0.2, 1)
    ).astype(np.float32)


def _noise(shape: tuple[int, ...], sigma_px: float, chance: np.random.Generator) -> NDArray[np.float32]:
    step = max(1, int(sigma_px / 2))
    small = chance.normal(0, 1, (shape[0] // step + 2, shape[1] // step + 2)).astype(np.float32)
    small = cv2.GaussianBlur(small, (0, 0), max(0.6, sigma_px / step))
    field = cv2.resize(small / max(float(small.std()), 1e-6), shape[::-1], interpolation=cv2.INTER_CUBIC)
    return field.astype(np.float32)


def _break_lines(ink: NDArray[np.uint8], faults: Faults, dpi: float, chance: np.random.Generator) -> NDArray[np.uint8]:
    rows, cols = np.nonzero(ink > 128)
    scale = dpi / 25.4
    length_mm = len(rows) / scale**2 / 0.45
    broken = ink.copy()
    for _ in range(int(faults.gaps * length_mm / 100)):
        k = int(chance.integers(len(rows)))
        cv2.circle(
            broken, (int(cols[k]), int(rows[k])), max(2, int(chance.uniform(0.5, 1) * faults.gap_mm * scale / 2)), 0, -1
        )
    return broken


def _specks(shape: tuple[int, ...], faults: Faults, dpi: float, chance: np.random.Generator) -> NDArray[np.float32]:
    layer = np.zeros(shape, np.float32)
    scale = dpi / 25.4
    count = int(faults.specks * shape[0] * shape[1] / scale**2 / 100)
    for _ in range(count):
        centre = (int(chance.integers(shape[1])), int(chance.integers(shape[0])))
        cv2.circle(
            layer,
            centre,
            max(1, int(chance.uniform(0.03, 0.1) * scale)),
            float(chance.uniform(0.3, 0.8)),
            -1,
            cv2.LINE_AA,
        )
    return layer


def _turn(
    coverage: NDArray[np.float32], seen: NDArray[np.int32], deg: float
) -> tuple[NDArray[np.float32], NDArray[np.int32]]:
    height, width = coverage.shape
    matrix = cv2.getRotationMatrix2D((width / 2, height / 2), -deg, 1.0)
    turned = cv2.warpAffine(coverage, matrix, (width, height), flags=cv2.INTER_LINEAR)
    truth = cv2.warpAffine(seen.astype(np.float32), matrix, (width, height), flags=cv2.INTER_NEAREST)
    return turned, truth.astype(np.int32)
