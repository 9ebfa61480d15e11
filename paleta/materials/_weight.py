"""Paper weights: grams per square metre from pounds, by the definition of basis weight.

The weight in pounds is that of 500 sheets of the basis size, which differs from kind to kind of paper.
"""

from __future__ import annotations

from paleta.errors import SwatchError

BASIS_IN = {
    "cover": (20.0, 26.0),
    "text": (25.0, 38.0),
    "bond": (17.0, 22.0),
    "index": (25.5, 30.5),
    "bristol": (22.5, 28.5),
    "tag": (24.0, 36.0),
    "watercolour": (22.0, 30.0),
}
"""Basis sizes in inches, as the trade defines them."""
GRAMS_PER_LB = 453.59237
METRES_PER_IN = 0.0254
SHEETS = 500


def grams_per_m2(pounds: float, kind: str) -> float:
    """What `pounds` of a kind of paper weighs.

    Parameters
    ----------
    pounds
        Of 500 sheets of the basis size.
    kind
        A key of BASIS_IN.

    Returns
    -------
    g/m2.

    Raises
    ------
    SwatchError
        If the kind is unknown or the weight is not above 0.
    """
    return pounds * GRAMS_PER_LB / (SHEETS * _area_m2(pounds, kind))


def pounds_of(grams: float, kind: str) -> float:
    """The inverse of `grams_per_m2`.

    Parameters
    ----------
    grams
        g/m2.
    kind
        A key of BASIS_IN.

    Returns
    -------
    Pounds of 500 sheets of the basis size.
    """
    return grams * SHEETS * _area_m2(grams, kind) / GRAMS_PER_LB


def _area_m2(weight: float, kind: str) -> float:
    if kind not in BASIS_IN:
        raise SwatchError(f"A kind of paper is one of {', '.join(BASIS_IN)}, not {kind!r}.")
    if not weight > 0:
        raise SwatchError(f"A paper's weight is above 0, got {weight}.")
    width, height = BASIS_IN[kind]
    return width * METRES_PER_IN * height * METRES_PER_IN
