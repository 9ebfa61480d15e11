"""How the hand's work shows by medium: drying edges and granulation, paper tooth, or nothing at all.

The amounts are kept low, for judging colour comes first; they are from memory.
"""

from __future__ import annotations

from collections.abc import Mapping

import cv2
import numpy as np
from numpy.typing import NDArray

from paleta.impression import to_edge
from paleta.media import MEDIUMS, Texture
from paleta.picture._strokes import strokes

NEUTRAL = 200
"""Texture value that leaves a colour as it is: colours are multiplied by texture / NEUTRAL."""
EDGE_MM, EDGE_DARK = 0.45, 0.13
GRAIN_MM, GRAIN = 0.35, 0.022
TOOTH_MM, TOOTH = 0.14, 0.03
STRAND_MM, STROKES = 0.09, 0.028
PAD_MM, PAD = 2.5, 0.02
MOTTLE_MM, MOTTLE = 0.6, 0.008
POUNCED = "pounced"
"""Ink that was pounced with felt: mottled."""
POUNCE_MM, POUNCE = 0.9, 0.04


def texture(labels: NDArray[np.int32], media: Mapping[int, str], px_per_mm: float) -> NDArray[np.uint8] | None:
    """h x w x 3 uint8 for a label map h x w whose regions are laid in `media` at the top; None where all dries
    smooth, as marker does.

    Parameters
    ----------
    labels
        h x w regions
    media
        code of the uppermost medium by region
    px_per_mm
        pixels to a millimetre
    """
    there = sorted(one for one in set(media.values()) if one == POUNCED or MEDIUMS[one].texture.kind != "smooth")
    if not there:
        return None
    span = int(labels.max()) + 1
    plane = np.full(labels.shape, NEUTRAL, np.uint8)
    inner = to_edge(labels)
    for medium in there:
        field = _field(medium, inner, px_per_mm)
        own = np.zeros(span, bool)
        own[[label for label, one in media.items() if one == medium and 0 < label < span]] = True
        np.copyto(plane, np.clip(field * NEUTRAL + 0.5, 0, 255).astype(np.uint8), where=own[labels])
    return np.repeat(plane[..., None], 3, axis=2)


def _field(medium: str, inner: NDArray[np.float32], px_per_mm: float) -> NDArray[np.float32]:
    shape = inner.shape
    chance = np.random.default_rng(11)
    kind = Texture() if medium == POUNCED else MEDIUMS[medium].texture
    if kind.kind == "wash":
        # Pigment is carried to the edge of a puddle and dries there in a darker line.
        edge = EDGE_DARK * kind.rim * np.exp(-((inner / px_per_mm / EDGE_MM) ** 2))
        return np.asarray((1 + GRAIN * _noise(shape, GRAIN_MM * px_per_mm, chance)) * (1 - edge), np.float32)
    if kind.kind == "strokes":
        # Pencil catches on the hills of the paper and leaves its valleys paler, stroke beside stroke.
        tooth = np.clip(_noise(shape, TOOTH_MM * px_per_mm, chance), -1.2, 1.2)
        strands = strokes(_noise(shape, STRAND_MM * px_per_mm, chance), inner, px_per_mm)
        return np.asarray(1 + TOOTH * tooth + STROKES * np.clip(strands, -2, 2), np.float32)
    if medium == POUNCED:
        return np.asarray(1 + POUNCE * np.clip(_noise(shape, POUNCE_MM * px_per_mm, chance), -2, 2), np.float32)
    if kind.kind == "clouds":
        cloud = PAD * _noise(shape, PAD_MM * px_per_mm, chance)
        return np.asarray(1 + cloud + MOTTLE * _noise(shape, MOTTLE_MM * px_per_mm, chance), np.float32)
    return np.ones(shape, np.float32)


def _noise(shape: tuple[int, ...], sigma_px: float, chance: np.random.Generator) -> NDArray[np.float32]:
    """Noise of standard deviation 1 with grains of about `sigma_px`."""
    field = chance.normal(0, 1, shape).astype(np.float32)
    if sigma_px > 0.6:
        field = cv2.GaussianBlur(field, (0, 0), sigma_px)
    return (field / max(float(field.std()), 1e-6)).astype(np.float32)
