"""From where a card looks lit: the direction of the lamp that would give the shades that were laid."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace

import numpy as np
from numpy.typing import NDArray

from paleta.colour import linear_to_lab
from paleta.light import Body, Lamp
from paleta.photo_check._cells import DARKEST
from paleta.picture import Planned

STEP_DEG = 7.5
MOST_PX, ENOUGH_PX = 700, 2000.0
LEAST_PX, LEAST_SPAN = 120, 6.0
"""A body needs so many pixels and so much lightness between its shades to say where its light comes from."""
LEAST_LIKE = 0.35
"""Correlation with the best lamp below which no lamp gives what was laid."""
SHARE_PX = 40.0
"""Pixels near each other are laid in one stroke: so many count as one."""
LEAN = 0.05
"""How much rather the plan's lamp, or the one straight across, is believed where shades cannot tell: along a tube."""
ALIKE = 1.5
"""By so many times what its own shades leave in doubt a thing is believed to be lit as the card as a whole is."""


@dataclass(frozen=True, slots=True)
class LaidLight:
    """azimuth_deg as of a Lamp, doubt_deg to either side, like: correlation of the shades with that lamp's."""

    azimuth_deg: float
    doubt_deg: float
    like: float

    @property
    def clock(self) -> str:
        return Lamp(azimuth_deg=self.azimuth_deg, elevation_deg=40).clock


def lights_laid(
    plan: Planned, groups: Mapping[int, Sequence[Body]], seen_light: NDArray[np.float32], clear: NDArray[np.bool_]
) -> tuple[LaidLight | None, dict[int, LaidLight]]:
    """The lamp that all shades together point to, and that of each group of bodies (by what it is called); without
    those that are too small, too flat, or like no lamp's.

    Every direction is tried: the light it would throw on a body's form is ranked, the shades planned for it are dealt
    out by these ranks, and what was laid (`seen_light` h x w, L*) is compared with that.

    Parameters
    ----------
    plan
        what was to be laid
    groups
        bodies by what their group is called
    seen_light
        h x w, lightness as laid
    clear
        h x w, what is no line and was seen
    """
    lamp = plan.sheet.light.lamp
    lamps = np.array([replace(lamp, azimuth_deg=azimuth).direction for azimuth in azimuths()])
    curves: dict[int, list[tuple[NDArray[np.float64], float]]] = {}
    for name, bodies in groups.items():
        found = [curve for body in bodies if (curve := _curve(plan, body, lamps, seen_light, clear)) is not None]
        if found:
            curves[name] = found
    whole = _together([one for found in curves.values() for one in found], lamp, None)
    lights = {name: light for name, found in curves.items() if (light := _together(found, lamp, whole)) is not None}
    return whole, lights


def _together(
    curves: Sequence[tuple[NDArray[np.float64], float]], lamp: Lamp, whole: LaidLight | None
) -> LaidLight | None:
    if not curves:
        return None
    weights = np.array([min(pixels, ENOUGH_PX) for _, pixels in curves])
    like = np.average([like for like, _ in curves], axis=0, weights=weights)
    return _best(like, float(weights.sum()), lamp, whole)


def lightness_of(log: NDArray[np.float32]) -> NDArray[np.float32]:
    """L* of logarithms of light h x w x 3."""
    return np.asarray(linear_to_lab(np.maximum(np.exp(log) - DARKEST, 0))[..., 0], np.float32)


def azimuths() -> NDArray[np.float64]:
    return np.arange(0, 360, STEP_DEG)


def _curve(
    plan: Planned,
    body: Body,
    lamps: NDArray[np.float64],
    seen_light: NDArray[np.float32],
    clear: NDArray[np.bool_],
) -> tuple[NDArray[np.float64], float] | None:
    """Likeness of what was laid to the light of each of `lamps` (directions, lamps x 3), and on how many pixels."""
    box = plan.box(body.regions)
    rows, cols = (
        place + side.start
        for place, side in zip(np.nonzero(np.isin(plan.labels[box], body.regions) & clear[box]), box, strict=True)
    )
    if len(rows) < LEAST_PX:
        return None
    pixels = float(len(rows))
    step = -(-len(rows) // MOST_PX)
    rows, cols = rows[::step], cols[::step]
    planned, place = plan.lab_at(rows, cols)[:, 0], plan.labels[rows, cols]
    seen = seen_light[rows, cols].astype(np.float64)
    if np.ptp(planned) < LEAST_SPAN:
        return None
    normals, tuck = plan.relief.normals[rows, cols], plan.relief.tuck[rows, cols]
    light = np.clip(normals @ lamps.T, 0, 1) * (1 - tuck[:, None])
    return _likes(light, planned, seen, place), pixels


def _likes(
    light: NDArray[np.float64], planned: NDArray[np.float64], seen: NDArray[np.float64], place: NDArray[np.int32]
) -> NDArray[np.float64]:
    """Correlation of what was laid on N pixels with the planned shades dealt out by `light` of each of several lamps
    (N x lamps), each region for itself."""
    both, own, other = np.zeros(light.shape[1]), 0.0, 0.0
    for label in np.unique(place):
        here = place == label
        dealt, laid = np.sort(planned[here]) - planned[here].mean(), seen[here] - seen[here].mean()
        both += dealt @ laid[np.argsort(light[here], axis=0, kind="stable")]
        own, other = own + float(dealt @ dealt), other + float(laid @ laid)
    return both / max(np.sqrt(own * other), 1e-9)


def _best(like: NDArray[np.float64], pixels: float, lamp: Lamp, whole: LaidLight | None) -> LaidLight | None:
    turns = azimuths()
    # As in a test of two correlations: what lies within the noise of the best cannot be told from it.
    noise = (1 - like.max() ** 2) / np.sqrt(max(pixels / SHARE_PX, 4)) + 0.004
    leaning = like + LEAN * np.abs(np.cos(np.radians(turns - lamp.azimuth_deg)))
    if whole is not None:
        leaning += ALIKE * noise * np.cos(np.radians(turns - whole.azimuth_deg))
    top = int(leaning.argmax())
    if like[top] < LEAST_LIKE:
        return None
    before, here, after = leaning[top - 1], leaning[top], leaning[(top + 1) % len(turns)]
    bend = before - 2 * here + after
    between = 0.5 * (before - after) / bend if bend < -1e-9 else 0.0
    close = like > like[top] - noise
    doubt = STEP_DEG * close.sum() / 2
    return LaidLight(float((turns[top] + STEP_DEG * between) % 360), float(min(doubt, 180)), float(like[top]))
