"""Smooth reflectance spectra from L*a*b* and back.

Three smooth bases weighted by linear sRGB ([Mallett2019]); the table is made by tools/make_spectra.py. Colours
outside sRGB are moved to its edge. Bands run from 400 to 700 nm in steps of 10.
"""

from __future__ import annotations

import csv
from importlib.resources import files

import numpy as np
from numpy.typing import ArrayLike, NDArray

from paleta.colour import lab_to_srgb, linear_to_srgb, srgb_to_lab, srgb_to_linear

Floats = NDArray[np.float64]
DARKEST = 0.003
"""No surface a pen leaves behind reflects less (glare alone is more); keeps logarithms finite."""


def _load() -> tuple[Floats, Floats]:
    rows = list(csv.DictReader((files("paleta.media") / "_spectra.csv").read_text().splitlines()))
    table = np.array([[float(value) for value in row.values()] for row in rows])
    return table[:, 1:4], table[:, 4:7]


_BASES, _TO_LINEAR = _load()


def lab_to_reflectance(lab: ArrayLike) -> Floats:
    """L*a*b* (..., 3) to reflectance (..., bands) within DARKEST..1."""
    return np.clip(srgb_to_linear(lab_to_srgb(lab)) @ _BASES.T, DARKEST, 1.0)


def reflectance_to_lab(reflectance: ArrayLike) -> Floats:
    """Reflectance (..., bands) to L*a*b* (..., 3) under D65."""
    linear = np.clip(np.asarray(reflectance, dtype=np.float64) @ _TO_LINEAR, 0.0, 1.0)
    return srgb_to_lab(linear_to_srgb(linear))
