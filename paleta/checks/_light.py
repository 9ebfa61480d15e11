"""Is my light right? Regions whose shading contradicts the lamp."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from paleta.light import FORMS, Body, Lamp

AGREES_DEG = 60.0
"""Light seen to come from farther round than this from where the lamp stands contradicts it."""
OPPOSITE_DEG = 110.0
"""Printed shading that only leans to one side is no contradiction yet."""
LEAST_FALL = 0.04
"""Light (0..1) must fall by this much across a body before a direction is read off it."""
STEEP_LAMP_DEG = 75.0
"""A lamp nearly overhead gives no direction to contradict."""


LIGHT_REMEDIES = {
    "turn": "Take back the turn by hand",
    "base": "Take the base off",
    "print": "Do not follow the printed shading",
}


@dataclass(frozen=True, slots=True)
class LightDoubt:
    """One body that is lit against the lamp: its first region, why, and what puts it right.

    remedy  one of LIGHT_REMEDIES.
    """

    region: int
    why: str
    remedy: str


def check_light(
    light: NDArray[np.float32],
    labels: NDArray[np.int32],
    bodies: Sequence[Body],
    lamp: Lamp,
    *,
    px_per_mm: float,
    follows_print: bool = False,
) -> list[LightDoubt]:
    """Name bodies whose planned light does not come from the lamp.

    Parameters
    ----------
    light, labels
        h x w, of the same size. Light (0..1) of the lamp alone, without glows and cast shadows, but with printed
        shading if the sheet follows it. What no hand and no print changed follows the lamp anyway.
    bodies
        each with the numbers of its regions in `labels`
    lamp
        of the sheet
    px_per_mm
        pixels of both to a millimetre
    follows_print
        whether the sheet follows shading that is printed on the stamp
    """
    doubts = []
    if lamp.elevation_deg > STEEP_LAMP_DEG:
        return []
    directions = light_directions(light, labels, bodies)
    for number, body in enumerate(bodies):
        seen = directions[number]
        off = _apart(seen, lamp.azimuth_deg) if seen is not None and FORMS[body.form].sided else 0.0
        if off > (AGREES_DEG if body.turn_deg else OPPOSITE_DEG if follows_print else 360):
            at = Lamp(azimuth_deg=seen or 0.0, elevation_deg=0).clock
            cause = "Its light was turned by hand." if body.turn_deg else "The shading printed on the stamp says so."
            doubts.append(
                LightDoubt(
                    body.regions[0],
                    f"It is lit from {at}, but the lamp stands at {lamp.clock}. {cause}",
                    "turn" if body.turn_deg else "print",
                )
            )
        elif body.base_mm is not None:
            rows, cols = np.nonzero(np.isin(labels, body.regions))
            if not len(rows):
                continue
            x, y = np.array(body.base_mm) - (cols.mean() / px_per_mm, rows.mean() / px_per_mm)
            towards = float(np.degrees(np.arctan2(x, -y)) % 360)
            if not FORMS[body.form].deep_set and _apart(towards, lamp.azimuth_deg) < AGREES_DEG:
                doubts.append(
                    LightDoubt(
                        body.regions[0],
                        f"It is tucked in on the side that faces the lamp at {lamp.clock}: its contact shadow falls "
                        "where light should be.",
                        "base",
                    )
                )
    return doubts


def light_directions(
    light: NDArray[np.float32], labels: NDArray[np.int32], bodies: Sequence[Body]
) -> list[float | None]:
    """For every body where its light comes from, degrees clockwise from the top edge, by a plane fitted to the light;
    None where it hardly changes.

    Parameters
    ----------
    light
        h x w float32, 0..1.
    labels
        h x w int32.
    bodies
        Whose regions are among `labels`.
    """
    owner = np.zeros(int(labels.max()) + 1, np.int64)
    for number, body in enumerate(bodies, start=1):
        owner[[label for label in body.regions if label < len(owner)]] = number
    which = owner[labels].ravel()
    rows, cols = (grid.ravel().astype(float) for grid in np.indices(labels.shape))
    count = len(bodies) + 1

    def total(values: NDArray[np.float64] | None = None) -> NDArray[np.float64]:
        return np.bincount(which, weights=values, minlength=count).astype(float)

    area = np.maximum(total(), 1)
    bright = light.ravel().astype(float)
    x, y, z = (value - (total(value) / area)[which] for value in (cols, rows, bright))
    xx, yy, xy, xz, yz = (total(one * other) / area for one, other in ((x, x), (y, y), (x, y), (x, z), (y, z)))
    spread = np.maximum(xx * yy - xy**2, 1e-9)
    across, down = (xz * yy - yz * xy) / spread, (yz * xx - xz * xy) / spread
    # From end to end a body is about 3.5 standard deviations long.
    fall = np.hypot(across, down) * 3.5 * np.sqrt(np.maximum(xx, yy))
    degrees = np.degrees(np.arctan2(across, -down)) % 360
    return [float(degrees[k]) if fall[k] >= LEAST_FALL else None for k in range(1, count)]


def _apart(one: float, other: float) -> float:
    return abs((one - other + 180) % 360 - 180)
