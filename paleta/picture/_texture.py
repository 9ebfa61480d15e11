"""How the hand's work shows by medium: drying edges and granulation, paper tooth, or nothing at all.

The amounts are kept low, for judging colour comes first; they are from memory.
"""

from __future__ import annotations

import cv2
import numpy as np
from numpy.typing import NDArray

NEUTRAL = 200
"""Texture value that leaves a colour as it is: colours are multiplied by texture / NEUTRAL."""
EDGE_MM, EDGE_DARK = 0.45, 0.13
GRAIN_MM, GRAIN = 0.35, 0.022
TOOTH_MM, TOOTH = 0.16, 0.075
PAD_MM, PAD = 2.5, 0.02
WET = ("watercolour", "soluble")


def texture(labels: NDArray[np.int32], medium: str, px_per_mm: float) -> NDArray[np.uint8] | None:
    """h x w x 3 uint8 for a label map h x w, or None for marker, which dries smooth."""
    if medium == "marker":
        return None
    chance = np.random.default_rng(11)
    if medium in WET:
        field = 1 + GRAIN * _noise(labels.shape, GRAIN_MM * px_per_mm, chance)
        inner = np.ones(labels.shape, np.uint8)
        inner[:, 1:][labels[:, 1:] != labels[:, :-1]] = 0
        inner[1:][labels[1:] != labels[:-1]] = 0
        # Pigment is carried to the edge of a puddle and dries there in a darker line.
        away = cv2.distanceTransform(inner, cv2.DIST_L2, 3) / px_per_mm
        field *= 1 - EDGE_DARK * np.exp(-((away / EDGE_MM) ** 2)) * (1 if medium == "watercolour" else 0.5)
    elif medium == "pencil":
        # Pencil catches on the hills of the paper and leaves its valleys paler.
        field = 1 + TOOTH * np.maximum(_noise(labels.shape, TOOTH_MM * px_per_mm, chance), -0.4)
    else:
        field = 1 + PAD * _noise(labels.shape, PAD_MM * px_per_mm, chance)
    plane = np.clip(field * NEUTRAL + 0.5, 0, 255).astype(np.uint8)
    plane[labels == 0] = NEUTRAL
    return np.repeat(plane[..., None], 3, axis=2)


def _noise(shape: tuple[int, ...], sigma_px: float, chance: np.random.Generator) -> NDArray[np.float32]:
    """Noise of standard deviation 1 with grains of about `sigma_px`."""
    field = chance.normal(0, 1, shape).astype(np.float32)
    if sigma_px > 0.6:
        field = cv2.GaussianBlur(field, (0, 0), sigma_px)
    return (field / max(float(field.std()), 1e-6)).astype(np.float32)
