"""Smooth reflectance spectra from L*a*b* and back.

Three smooth bases weighted by linear sRGB ([Mallett2019]); the table is made by tools/make_spectra.py. Bands run from
400 to 700 nm in steps of 10.
"""

from __future__ import annotations

import csv
from importlib.resources import files

import numpy as np
from numpy.typing import ArrayLike, NDArray

from paleta.colour import lab_to_linear, linear_to_lab

Floats = NDArray[np.float64]
DARKEST = 0.003
"""No surface a pen leaves behind reflects less (glare alone is more); keeps logarithms finite."""
ROUNDS, RIDGE = 12, 1e-3
"""Then the starter drawers' swatches are as near to themselves as after a hundred rounds (measured)."""


def _load() -> tuple[Floats, Floats]:
    rows = list(csv.DictReader((files("paleta.media") / "_spectra.csv").read_text().splitlines()))
    table = np.array([[float(value) for value in row.values()] for row in rows])
    return table[:, 1:4], table[:, 4:7]


_BASES, _TO_LINEAR = _load()


def lab_to_reflectance(lab: ArrayLike, most: ArrayLike = 1.0) -> Floats:
    """L*a*b* (..., 3) to reflectance (..., bands) within DARKEST..most.

    Where the bases do not stay within these bounds, as of strong inks outside sRGB, or of a pale ink that cannot be
    paler than its paper at any wavelength (`most`), their weights are moved by what the bounded spectrum still falls
    short of, until that gives the colour or as much of it as any surface can.

    Parameters
    ----------
    lab
        L*a*b*, ... x 3
    most
        the highest reflectance, one number or one for each band
    """
    wanted = np.atleast_2d(lab_to_linear(lab))
    most = np.asarray(most, np.float64)
    spectra = wanted @ _BASES.T
    beyond = ((spectra < DARKEST) | (spectra > most)).any(axis=-1)
    if beyond.any():
        spectra[beyond] = _within(wanted[beyond], most)
    return np.clip(spectra, DARKEST, most).reshape(*np.shape(lab)[:-1], -1)


def _within(wanted: Floats, most: Floats) -> Floats:
    """Spectra (n, bands) within DARKEST..most that come as near to linear light `wanted` (n, 3) as Newton's method
    finds."""
    weights, best, least = wanted.copy(), wanted @ _BASES.T, np.full(len(wanted), np.inf)
    for _ in range(ROUNDS):
        loose = weights @ _BASES.T
        bounded = np.clip(loose, DARKEST, most)
        short = wanted - bounded @ _TO_LINEAR
        apart = np.abs(short).max(axis=1)
        better = apart < least
        best[better], least[better] = bounded[better], apart[better]
        moves = (loose == bounded).astype(np.float64)
        slope = np.einsum("nb,bk,bl->nlk", moves, _BASES, _TO_LINEAR) + RIDGE * np.eye(3)
        weights = weights + np.clip(np.linalg.solve(slope, short[..., None])[..., 0], -0.5, 0.5)
    return best


def reflectance_to_lab(reflectance: ArrayLike) -> Floats:
    """Reflectance (..., bands) to L*a*b* (..., 3) under D65."""
    return linear_to_lab(np.asarray(reflectance, dtype=np.float64) @ _TO_LINEAR)
