"""What a drawer lacks, what can stand in for a swatch, and small palettes from a wheel or a photo."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from itertools import pairwise

import cv2
import numpy as np
from numpy.typing import NDArray
from scipy.optimize import linear_sum_assignment

from paleta.colour import Lab, check_lab, difference, plain_name, srgb_to_lab
from paleta.errors import WishError
from paleta.media import Swatch, tip_to_tip
from paleta.palette._ramp import WIDE_STEP
from paleta.palette._search import PREFERRED_STEP, find_ramps, wanted_labs

Floats = NDArray[np.float64]
OWNED = 3.0
"""A swatch this near (CIEDE2000) is that pen. From memory."""
MUCH_BETTER = 0.85
"""A pen is only missing if the best ramp with it costs less than this share of the best without."""
LIGHTNESS_FIRST = 0.6
"""Added per unit of lightness: of a substitute lightness matters first, hue second (common practice)."""
SCHEMES: dict[str, tuple[float, ...]] = {
    "neighbours": (0, 30, -30, 60, -60, 90),
    "opposites": (0, 180, 20, 200, -20, 160),
    "triad": (0, 120, 240, 30, 150, 270),
    "split opposites": (0, 150, 210, 30, 180, -30),
    "square": (0, 90, 180, 270, 45, 225),
}
"""Degrees of hue from the first colour, in the order colours are added. Common practice of the colour wheel."""
FEWEST, MOST = 3, 6
CLUSTER_SIDE_PX = 120


@dataclass(frozen=True, slots=True)
class Missing:
    """The pen a ramp would need: its colour, that in plain words, and the nearest one owned with its distance."""

    lab: Lab
    name: str
    nearest: Swatch
    apart: float


def missing_pen(
    drawer: Sequence[Swatch], target_lab: Lab, n: int, *, shade_hue: str = "keep", meant: str = "middle"
) -> Missing | None:
    """The pen that would make the best ramp much better; None if the drawer has what is needed, or nothing at all.

    Where there is no ramp and one pen alone would make none, the one that is farthest from what is owned.

    Parameters
    ----------
    drawer
        What is owned.
    target_lab
        The wished colour.
    n
        Swatches of the ramp.
    shade_hue
        A key of SHADE_HUES.
    meant
        A key of MEANT: where in the ramp the wished colour stands.
    """
    if not drawer:
        return None
    best = find_ramps(drawer, target_lab, n, alternatives=1, shade_hue=shade_hue, meant=meant)
    lab = np.array([swatch.lab for swatch in drawer], float)
    tried: list[tuple[float, float, Missing]] = []
    for ideal in wanted_labs(target_lab, n, PREFERRED_STEP.get(n, 14.0), shade_hue=shade_hue, meant=meant):
        wish = (round(float(ideal[0]), 1), round(float(ideal[1]), 1), round(float(ideal[2]), 1))
        near = difference(lab, wish)
        nearest = int(np.argmin(near))
        if float(near[nearest]) < OWNED:
            continue
        pen = drawer[nearest].recoloured(f"{drawer[nearest].code} missing", drawer[nearest].name, wish)
        better = find_ramps([*drawer, pen], target_lab, n, alternatives=1, shade_hue=shade_hue, meant=meant)
        missing = Missing(wish, plain_name(wish), drawer[nearest], round(float(near[nearest]), 1))
        tried.append((better[0].cost if better else np.inf, -missing.apart, missing))
    if not tried:
        return None
    cost, _, missing = min(tried, key=lambda one: one[:2])
    return missing if not best or cost < MUCH_BETTER * best[0].cost else None


def in_betweens(ramp: Sequence[Swatch]) -> list[tuple[Swatch, Swatch, Lab]]:
    """Where two markers of a ramp lie too far apart to melt: the pair, and what their tips touched together give."""
    found = []
    for pale, dark in pairwise(ramp):
        if pale.medium == dark.medium == "marker" and pale.lab[0] - dark.lab[0] > WIDE_STEP:
            found.append((pale, dark, tip_to_tip(pale, dark, pale.paper)))
    return found


def substitutes(lab: Lab, swatches: Sequence[Swatch], count: int = 5) -> list[tuple[Swatch, float]]:
    """Nearest swatches of any medium, lightness weighted first, each with its CIEDE2000 distance.

    Parameters
    ----------
    lab
        The colour.
    swatches
        What is owned, of any media.
    count
        How many at most.
    """
    check_lab(lab, "The colour")
    if not swatches:
        return []
    labs = np.array([swatch.lab for swatch in swatches], float)
    apart = difference(labs, lab)
    cost = apart + LIGHTNESS_FIRST * np.abs(labs[:, 0] - lab[0])
    return [(swatches[k], round(float(apart[k]), 1)) for k in np.argsort(cost, kind="stable")[:count]]


def counterparts(ramp: Sequence[Swatch], drawer: Sequence[Swatch]) -> list[Swatch]:
    """As many swatches from another drawer, one for each of the ramp and none twice, nearest over all.

    Parameters
    ----------
    ramp
        Swatches.
    drawer
        What is owned.

    Raises
    ------
    WishError
        If the drawer holds fewer.
    """
    if len(drawer) < len(ramp):
        raise WishError(f"The drawer holds only {len(drawer)} swatches; {len(ramp)} are needed.")
    labs = np.array([swatch.lab for swatch in drawer], float)
    cost = np.stack([difference(labs, one.lab) + LIGHTNESS_FIRST * np.abs(labs[:, 0] - one.lab[0]) for one in ramp])
    _, chosen = linear_sum_assignment(cost)
    return [drawer[int(k)] for k in chosen]


def scheme(first: Lab, kind: str, count: int) -> list[Lab]:
    """`count` (3 to 6) colours round the hue circle from `first`, of its lightness and chroma.

    Parameters
    ----------
    first
        The colour to begin with.
    kind
        A key of SCHEMES.
    count
        3 to 6.

    Raises
    ------
    WishError
    """
    check_lab(first, "The first colour")
    if kind not in SCHEMES:
        raise WishError(f"A scheme is one of {', '.join(SCHEMES)}, not {kind!r}.")
    _check_count(count)
    chroma, hue = float(np.hypot(first[1], first[2])), float(np.degrees(np.arctan2(first[2], first[1])))
    angles = np.radians(hue + np.array(SCHEMES[kind][:count]))
    return [(first[0], round(float(chroma * np.cos(a)), 1), round(float(chroma * np.sin(a)), 1)) for a in angles]


def palette_of_photo(pixels: NDArray[np.float32], count: int) -> list[Lab]:
    """`count` (3 to 6) colours of a picture H x W x 3 (sRGB 0..1), the most covering first, by k-means in L*a*b*.

    Parameters
    ----------
    pixels
        H x W x 3, sRGB 0..1.
    count
        3 to 6.
    """
    _check_count(count)
    scale = CLUSTER_SIDE_PX / max(pixels.shape[:2])
    small = cv2.resize(pixels, None, fx=min(scale, 1), fy=min(scale, 1), interpolation=cv2.INTER_AREA)
    labs = srgb_to_lab(small.reshape(-1, 3).astype(float))
    # Chroma counts more than lightness: a theme is its colours, not its shadows.
    weighted = (labs * (0.6, 1.0, 1.0)).astype(np.float32)
    cv2.setRNGSeed(5)
    stop = (cv2.TERM_CRITERIA_EPS + cv2.TERM_CRITERIA_MAX_ITER, 40, 0.2)
    _, member, _ = cv2.kmeans(weighted, count, None, stop, 4, cv2.KMEANS_PP_CENTERS)
    groups = [labs[member.ravel() == k] for k in range(count)]
    groups = sorted((group for group in groups if len(group)), key=len, reverse=True)
    middles = [np.median(group, axis=0) for group in groups]
    return [(round(float(m[0]), 1), round(float(m[1]), 1), round(float(m[2]), 1)) for m in middles]


def _check_count(count: int) -> None:
    if not FEWEST <= count <= MOST:
        raise WishError(f"A palette has {FEWEST} to {MOST} colours, got {count}.")
