"""The light of a ground: how it fades from its deepest to its palest, in place of a form's light.

A fade says where the ink is deepest. A linear one follows the drawn direction, one from the edges the distance to the
nearest edge of the panel, one from the figure the distance to what stands before it, and one round a point the fall-off
of a light there.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

import cv2
import numpy as np
from numpy.typing import NDArray

from paleta.errors import FadeError
from paleta.fields import Choice, Flag, Number, check_fields, holds

FADES = {
    "even": "Even",
    "side": "From one side",
    "edges": "From all edges inwards",
    "figure": "From the figure outwards",
    "point": "Round a point",
}
DIRECTIONS = {0: "the top", 90: "the right", 180: "the bottom", 270: "the left"}
"""Where a fade from one side may begin, clockwise from the top edge; anything between is allowed too."""
PROFILES = {"inverse square": "Like a light", "linear": "Evenly"}
EVEN_LIGHT = 0.5
PANEL_FILL = 0.97
"""A ground that fills so much of its box, with what stands in it, is an upright panel."""


@dataclass(frozen=True, slots=True, kw_only=True)
class Fade:
    """kind     one of FADES: where the ground is deepest. Round a point it is palest there.
    from_deg    "side" only: the side that is deepest, clockwise from the top edge.
    reach_mm    so far from its deepest, or from its point, it fades; beyond, it is palest (deepest, round a point).
                0 = over all of the ground.
    x_mm, y_mm  "point" only, from the picture's top left corner. bare_mm: within this distance paper stays bare.
    profile     "point" only: falling off as a light does, with the square of the distance, or evenly.
    turned      palest where else it is deepest, and the other way round.
    """

    kind: str = holds(Choice(FADES), "side")
    from_deg: float = holds(Number(0, 360), 0.0)
    reach_mm: float = holds(Number(0, 1000), 0.0)
    x_mm: float = holds(Number(0, 1000), 0.0)
    y_mm: float = holds(Number(0, 1000), 0.0)
    bare_mm: float = holds(Number(0, 200), 0.0)
    profile: str = holds(Choice(PROFILES), "inverse square")
    turned: bool = holds(Flag(), False)

    def __post_init__(self) -> None:
        check_fields(self, FadeError)

    @property
    def words(self) -> str:
        """How it fades, in a few words."""
        if self.kind == "side":
            nearest = min(DIRECTIONS, key=lambda one: abs((self.from_deg - one + 180) % 360 - 180))
            exact = abs((self.from_deg - nearest + 180) % 360 - 180) < 1
            words = f"from {DIRECTIONS[nearest]}" if exact else f"from {self.from_deg:.0f}°"
        else:
            words = FADES[self.kind].lower()
        bare = f", {self.bare_mm:g} mm left bare" if self.kind == "point" and self.bare_mm else ""
        return words + (", turned round" if self.turned else "") + bare


def fade(mask: NDArray[np.bool_], spec: Fade, *, px_per_mm: float) -> NDArray[np.float32]:
    """The light of the ground `mask` (h x w), h x w float32: 0 = deepest, 1 = palest, and 0 outside of it.

    Linear fades are linear in mm along their direction; distances are Euclidean, from pixel centre to pixel centre,
    and the picture's border counts as an edge. Round a point the light is 1 / (1 + (r / reach)^2), which falls with the
    square of the distance far from it, or 1 - r / reach.

    Parameters
    ----------
    mask
        h x w bool.
    spec
        The fade, lengths in mm.
    px_per_mm
        Of the mask.

    Raises
    ------
    FadeError
        If nothing lies in the mask, or px_per_mm is not above 0.
    """
    if px_per_mm <= 0 or mask.ndim != 2:
        raise FadeError("A fade needs a mask of rows and columns, and how many of its pixels make a millimetre.")
    if not mask.any():
        raise FadeError("There is no paper left for this ground.")
    if spec.kind == "even":
        light = np.full(mask.shape, EVEN_LIGHT, np.float32)
    elif spec.kind == "point":
        light = _round_point(mask, spec, px_per_mm)
    else:
        away = _away(mask, spec) / px_per_mm
        reach = spec.reach_mm or float(away[mask].max())
        light = np.clip(away / max(reach, 1e-6), 0, 1).astype(np.float32)
    if spec.turned:
        light = 1 - light
    return np.where(mask, light, np.float32(0))


def faded(
    labels: NDArray[np.int32], fades: Mapping[int, Fade], *, px_per_mm: float
) -> tuple[NDArray[np.bool_], NDArray[np.float32]]:
    """Where the grounds of `fades` (by label) lie on `labels` (h x w bool), and the light of each of those pixels.

    Parameters
    ----------
    labels
        h x w int32.
    fades
        By label.
    px_per_mm
        Of `labels`.

    Returns
    -------
    h x w bool, and n float32 for its n pixels in reading order.
    """
    where, light = np.zeros(labels.shape, bool), np.zeros(labels.shape, np.float32)
    for label, spec in fades.items():
        mask = labels == label
        if mask.any():
            np.copyto(light, fade(mask, spec, px_per_mm=px_per_mm), where=mask)
            where |= mask
    return where, light[where]


def bare(shape: tuple[int, int], spec: Fade, *, px_per_mm: float) -> NDArray[np.bool_] | None:
    """Where on a picture of `shape` paper stays bare round the fade's point; None if nowhere.

    Parameters
    ----------
    shape
        h, w in pixels.
    spec
        The fade, lengths in mm.
    px_per_mm
        Of the picture.
    """
    if spec.kind != "point" or not spec.bare_mm:
        return None
    return _away_from_point(shape, spec, px_per_mm) <= spec.bare_mm


def length_mm(mask: NDArray[np.bool_], spec: Fade, *, px_per_mm: float) -> float:
    """How long the way from deepest to palest is; 0 for an even ground.

    Parameters
    ----------
    mask
        h x w bool.
    spec
        The fade, lengths in mm.
    px_per_mm
        Of the mask.
    """
    if spec.kind == "even" or not mask.any():
        return 0.0
    if spec.reach_mm and spec.kind != "point":
        return spec.reach_mm
    if spec.kind == "point":
        # Its reach is where the light has fallen to half; the fade goes on beyond.
        return float(_away_from_point(mask.shape, spec, px_per_mm)[mask].max()) - spec.bare_mm
    return float(_away(mask, spec)[mask].max()) / px_per_mm


def _away(mask: NDArray[np.bool_], spec: Fade) -> NDArray[np.float32]:
    """Distance from where the ground is deepest, in pixels."""
    if spec.kind == "side":
        return _along(mask, spec)
    return _from_edges(mask) if spec.kind == "edges" else _from_figure(mask)


def _along(mask: NDArray[np.bool_], spec: Fade) -> NDArray[np.float32]:
    """Distance along the direction from the mask's farthest pixel on the deepest side, in pixels."""
    angle = np.radians(spec.from_deg)
    rows, cols = (np.arange(size, dtype=np.float32) for size in mask.shape)
    # Away from the side that is deepest: from the top (0 degrees) downwards.
    along = np.float32(-np.sin(angle)) * cols[None, :] + np.float32(np.cos(angle)) * rows[:, None]
    return np.asarray(along - along[mask].min(), np.float32)


def _from_edges(mask: NDArray[np.bool_]) -> NDArray[np.float32]:
    """Distance to the nearest pixel outside of the panel; what stands before the ground is no edge of it."""
    return _distance(_filled(mask))


def _from_figure(mask: NDArray[np.bool_]) -> NDArray[np.float32]:
    """Distance to the nearest pixel of what stands in the ground; from its edge where nothing does."""
    figure = _filled(mask) & ~mask
    if not figure.any():
        return _from_edges(mask)
    return cv2.distanceTransform((~figure).astype(np.uint8), cv2.DIST_L2, cv2.DIST_MASK_PRECISE)


def _distance(inside: NDArray[np.bool_]) -> NDArray[np.float32]:
    padded = np.pad(inside.astype(np.uint8), 1)
    return cv2.distanceTransform(padded, cv2.DIST_L2, cv2.DIST_MASK_PRECISE)[1:-1, 1:-1]


def _filled(mask: NDArray[np.bool_]) -> NDArray[np.bool_]:
    """The mask with its holes: all that the outside cannot reach round it. A figure that stands on the panel's edge is
    one too, so the panel is taken as the mask's upright bounding box where the figure reaches that."""
    rows, cols = np.flatnonzero(mask.any(axis=1)), np.flatnonzero(mask.any(axis=0))
    box = np.zeros(mask.shape, bool)
    box[rows[0] : rows[-1] + 1, cols[0] : cols[-1] + 1] = True
    outside = np.pad((~mask).astype(np.uint8), 1, constant_values=1)
    cv2.floodFill(outside, None, (0, 0), 2)
    filled = outside[1:-1, 1:-1] != 2
    # A panel is nearly all of its box; a round or slanting ground is not, and keeps its own edge.
    return box if filled.sum() > PANEL_FILL * box.sum() or _touches_all_sides(mask, rows, cols) else filled


def _touches_all_sides(mask: NDArray[np.bool_], rows: NDArray[np.intp], cols: NDArray[np.intp]) -> bool:
    """Whether most of at least three sides of its bounding box belong to it: a panel with a figure at its edge."""
    sides = (
        mask[rows[0], cols[0] : cols[-1] + 1],
        mask[rows[-1], cols[0] : cols[-1] + 1],
        mask[rows[0] : rows[-1] + 1, cols[0]],
        mask[rows[0] : rows[-1] + 1, cols[-1]],
    )
    return sum(float(side.mean()) > 0.5 for side in sides) >= 3


def _round_point(mask: NDArray[np.bool_], spec: Fade, px_per_mm: float) -> NDArray[np.float32]:
    away = np.maximum(_away_from_point(mask.shape, spec, px_per_mm) - spec.bare_mm, 0)
    farthest = float(away[mask].max())
    if spec.profile == "linear":
        return np.clip(1 - away / max(spec.reach_mm or farthest, 1e-6), 0, 1).astype(np.float32)
    # Without a reach the far end of the ground is down to a tenth.
    reach = spec.reach_mm or max(farthest / 3, 1e-6)
    return (1 / (1 + (away / reach) ** 2)).astype(np.float32)


def _away_from_point(shape: tuple[int, ...], spec: Fade, px_per_mm: float) -> NDArray[np.float32]:
    """Distance of every pixel's centre from the point, in mm."""
    rows, cols = ((np.arange(size, dtype=np.float32) + 0.5) / np.float32(px_per_mm) for size in shape)
    return np.hypot(cols[None, :] - np.float32(spec.x_mm), rows[:, None] - np.float32(spec.y_mm))
