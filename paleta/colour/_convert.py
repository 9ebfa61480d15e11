"""Conversions and the colour difference, on top of scikit-image."""

from __future__ import annotations

import re
from functools import lru_cache

import numpy as np
from numpy.typing import ArrayLike, NDArray
from skimage import color
from skimage.color.colorconv import xyz_from_rgb, xyz_tristimulus_values

from paleta.errors import ShapeError

Floats = NDArray[np.float64]
Lab = tuple[float, float, float]
"""One colour: CIE L*, a*, b* under D65."""
KNEE = 6 / 29
"""Where the cube root of L*a*b* turns into a straight line. [CIE15]"""


def difference(lab_a: ArrayLike, lab_b: ArrayLike) -> Floats:
    """Return the CIEDE2000 difference between CIE L*a*b* colours.

    Parameters
    ----------
    lab_a, lab_b : array_like, shape (..., 3)
        L* in 0..100; both under the same white point. They broadcast against each other.

    Returns
    -------
    ndarray, shape (...)
        0 for equal colours, without upper bound.

    Raises
    ------
    ShapeError
        If the last axis is not 3 long.

    References
    ----------
    [Sharma2005], equations 2 to 22.
    """
    one, other = np.broadcast_arrays(_triples(lab_a), _triples(lab_b))
    return np.asarray(color.deltaE_ciede2000(one, other), dtype=np.float64)


def lab_to_srgb(lab: ArrayLike) -> Floats:
    """L*a*b* (..., 3) to sRGB (..., 3) in 0..1; colours outside sRGB are clipped. [IEC61966]"""
    return linear_to_srgb(np.clip(lab_to_linear(lab), 0.0, 1.0))


def lab_to_linear(lab: ArrayLike) -> Floats:
    """L*a*b* (..., 3) to the linear light of sRGB's primaries (..., 3), below 0 or above 1 outside sRGB. [CIE15]

    Written out: the library's own function warns of every colour it has to clip.
    """
    return np.asarray(WHITE * xyz_over_white(lab) @ XYZ_TO_LINEAR.T, np.float64)


def linear_to_lab(linear: ArrayLike) -> Floats:
    """The inverse of `lab_to_linear`, outside sRGB too. [CIE15]"""
    return lab_of(_triples(linear) @ np.asarray(xyz_from_rgb).T / WHITE)


def xyz_over_white(lab: ArrayLike) -> Floats:
    """L*a*b* (..., 3) to XYZ as shares of the white point it was taken under. [CIE15]"""
    triples = _triples(lab)
    y = (triples[..., 0] + 16) / 116
    bent = np.stack([y + triples[..., 1] / 500, y, y - triples[..., 2] / 200], axis=-1)
    return np.where(bent > KNEE, bent**3, 3 * KNEE**2 * (bent - 4 / 29))


def lab_of(xyz_over_white: ArrayLike) -> Floats:
    """The inverse of `xyz_over_white`. [CIE15]"""
    ratios = _triples(xyz_over_white)
    bent = np.where(ratios > KNEE**3, np.cbrt(ratios), ratios / (3 * KNEE**2) + 4 / 29)
    x, y, z = bent[..., 0], bent[..., 1], bent[..., 2]
    return np.stack([116 * y - 16, 500 * (x - y), 200 * (y - z)], axis=-1)


def srgb_to_lab(srgb: ArrayLike) -> Floats:
    """sRGB (..., 3) in 0..1 to L*a*b* (..., 3). [IEC61966]"""
    triples = _triples(srgb)
    return np.asarray(
        color.rgb2lab(triples.reshape(-1, 1, 3), illuminant="D65", observer="2"), dtype=np.float64
    ).reshape(triples.shape)


def linear_to_srgb(linear: ArrayLike) -> Floats:
    """Linear light 0..1 to the sRGB signal. [IEC61966]"""
    values = np.asarray(linear, dtype=np.float64)
    return np.where(values <= 0.0031308, 12.92 * values, 1.055 * np.power(np.maximum(values, 1e-9), 1 / 2.4) - 0.055)


def srgb_to_linear(signal: ArrayLike) -> Floats:
    """The sRGB signal 0..1 to linear light. [IEC61966]"""
    values = np.asarray(signal, dtype=np.float64)
    return np.where(values <= 0.04045, values / 12.92, ((values + 0.055) / 1.055) ** 2.4)


def as_lab(values: ArrayLike) -> Lab:
    """Three numbers as one colour."""
    light, a, b = (float(value) for value in np.asarray(values, dtype=np.float64).reshape(3))
    return light, a, b


def lab_to_hex(lab: ArrayLike) -> str:
    """One colour as #rrggbb."""
    return _hex_of(*as_lab(lab))


@lru_cache(maxsize=20_000)
def _hex_of(light: float, a: float, b: float) -> str:
    """Kept, because drawers of thousands are shown again and again."""
    red, green, blue = np.round(lab_to_srgb((light, a, b)).reshape(3) * 255).astype(int)
    return f"#{red:02x}{green:02x}{blue:02x}"


def hex_to_lab(code: str) -> Lab:
    """#rrggbb to L*a*b*, rounded to two decimals.

    Raises
    ------
    ShapeError
        If `code` is not a # and six hexadecimal digits.
    """
    if not re.fullmatch(r"#[0-9a-fA-F]{6}", code):
        raise ShapeError(f"A colour is written as # and six digits 0-9 a-f, got {code!r}.")
    lab = srgb_to_lab([int(code[i : i + 2], 16) / 255 for i in (1, 3, 5)])
    return round(float(lab[0]), 2), round(float(lab[1]), 2), round(float(lab[2]), 2)


WHITE = np.array(xyz_tristimulus_values(illuminant="D65", observer="2"))
XYZ_TO_LINEAR = np.linalg.inv(xyz_from_rgb)


def _triples(values: ArrayLike) -> Floats:
    array = np.asarray(values, dtype=np.float64)
    if array.shape[-1:] != (3,):
        raise ShapeError(f"A colour has three numbers on the last axis, got an array of shape {array.shape}.")
    return array
