"""A simulated hand: colours a card along its recipe, with an honest scatter and, where asked for, faults."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace

import cv2
import numpy as np
from numpy.typing import NDArray

from paleta.colour import Lab, as_lab, difference, lab_to_srgb, srgb_to_lab
from paleta.devices._noise import slow_noise
from paleta.impression import RegionMap
from paleta.light import SCALE
from paleta.order import Pen
from paleta.picture import Planned, lit, looks_of, painted, soft_of
from paleta.recipe import Sheet

HAND_KINDS = ("missing", "reversed", "pale", "dark", "colour", "pen", "uneven", "over")
WAYS = {"pale": (1.0, -0.15, 0.0), "dark": (-1.0, 0.1, 0.0), "colour": (0.0, 0.0, 1.0)}
"""Of a fault of this kind the parts of lightness, chroma and hue."""
SCATTER = 0.62
"""Spread of the hand in each of L*, a* and b* that makes about 1 CIEDE2000."""
WOBBLE_MM, WOBBLE_REACH_MM = 0.12, 3.0
STREAKS, STREAK_MM = 0.012, 0.8
UNEVEN_MM = 9.0
SHOWN, DULLER = 0.25, 0.5
"""A fault that loses less than this share of its size in sRGB, in the mean, can be shown; for one that cannot, so much
chroma goes for every step of lightness."""
FARTHEST, HALVINGS = 60.0, 20
"""How far a fault is looked for, and how often what is left of it is halved: to 1e-4."""
BLACK_INK: Lab = (9.0, 0.5, -1.0)


@dataclass(frozen=True, slots=True)
class HandFault:
    """One fault of the hand. kind: one of HAND_KINDS; on these regions, or wherever `pen` is used; size in CIEDE2000,
    for `over` in mm."""

    kind: str
    regions: tuple[int, ...] = ()
    pen: Pen | None = None
    size: float = 6.0

    def __post_init__(self) -> None:
        if self.kind not in HAND_KINDS:
            raise ValueError(f"There is no fault {self.kind!r} of the hand; choose one of {', '.join(HAND_KINDS)}.")


def colour_card(
    plan: Planned, region_map: RegionMap, faults: Sequence[HandFault] = (), *, seed: int = 1, scatter: float = 1.0,
    outline: Lab = BLACK_INK,
) -> NDArray[np.float32]:  # fmt: skip
    """The finished card as a flawless scanner would see it; the same for the same seed.

    Parameters
    ----------
    plan
        what was to be laid
    region_map
        the regions, at the size and resolution of the picture
    faults
        what the hand does wrong
    seed
        of all that chance decides: the same seed, the same card
    scatter
        how much the hand varies; 1 is about 1 CIEDE2000
    outline
        L*a*b* of the stamped line

    Returns
    -------
    H x W x 3 sRGB in 0..1, as a flawless scanner would see the card.
    """
    chance = np.random.default_rng([17, seed])
    sheet, labels = plan.sheet, plan.labels
    light = plan.light.copy()
    for fault in faults:
        if fault.kind == "reversed":
            far = replace(sheet.light.lamp, azimuth_deg=(sheet.light.lamp.azimuth_deg + 180) % 360)
            other = lit(sheet.with_part("light", shadows=False), region_map, plan.relief, far)
            where = np.isin(labels, fault.regions)
            light[where] = other[where]
    light = _wobbled(light, WOBBLE_MM * scatter * plan.px_per_mm, WOBBLE_REACH_MM * plan.px_per_mm, chance)
    looks = _looks(sheet, faults, chance, scatter)
    soft = {label: float(np.clip(one * chance.uniform(0.4, 1.3), 0.05, 1)) for label, one in soft_of(sheet).items()}
    rgb = painted(sheet, labels, light.astype(np.float32), plan.relief, looks=looks, soft=soft)
    picture: NDArray[np.float32] = (rgb / 255).astype(np.float32)
    for fault in faults:
        if fault.kind == "over":
            picture = _spilled(picture, labels, fault, plan.px_per_mm, chance)
        elif fault.kind == "uneven":
            cloud = slow_noise(light.shape, UNEVEN_MM * plan.px_per_mm, chance) * np.isin(labels, fault.regions)
            picture = (picture * (1 + 0.018 * fault.size * cloud[..., None])).astype(np.float32)
    streaks = STREAKS * scatter * slow_noise(light.shape, STREAK_MM * plan.px_per_mm, chance) * (labels > 0)
    picture = cv2.GaussianBlur((picture * (1 + streaks[..., None])).astype(np.float32), (0, 0), 0.12 * plan.px_per_mm)
    height, width = region_map.labels.shape
    large = cv2.resize(picture, (labels.shape[1] * SCALE, labels.shape[0] * SCALE))[:height, :width]
    ink = np.clip(cv2.GaussianBlur(region_map.ink.astype(np.float32), (0, 0), 0.7), 0, 1)[..., None]
    return np.asarray(np.clip(large * (1 - ink) + lab_to_srgb(outline).astype(np.float32) * ink, 0, 1), np.float32)


def _wobbled(
    light: NDArray[np.float32], far_px: float, reach_px: float, chance: np.random.Generator
) -> NDArray[np.float32]:
    """The light a little displaced here and there: no hand lays a shade quite where it should end."""
    x, y = np.meshgrid(*(np.arange(side, dtype=np.float32) for side in light.shape[::-1]))
    over, down = (far_px * slow_noise(light.shape, reach_px, chance) for _ in range(2))
    return cv2.remap(light, x + over, y + down, cv2.INTER_LINEAR, borderMode=cv2.BORDER_REPLICATE)


def _looks(
    sheet: Sheet, faults: Sequence[HandFault], chance: np.random.Generator, scatter: float
) -> dict[int, tuple[Lab, ...]]:
    """How the zones of each region came out."""
    for fault in faults:
        if fault.kind == "pen" and fault.pen is not None:
            sheet = _with_other_pen(sheet, fault.pen, fault.size, chance)
    planned = looks_of(sheet)
    looks: dict[int, tuple[Lab, ...]] = {}
    by_region = {label: fault for fault in faults for label in fault.regions}
    for label, zones in planned.items():
        own = by_region.get(label)
        came = [tuple(np.asarray(zone, float) + chance.normal(0, SCATTER * scatter, 3)) for zone in zones]
        if own is not None and own.kind == "missing":
            came = [sheet.stamp.paper_used.lab for _ in zones]
        elif own is not None and own.kind in WAYS:
            came = [tuple(zone) for zone in _all_off(np.array(came), WAYS[own.kind], own.size, chance)]
        looks[label] = tuple((float(one[0]), float(one[1]), float(one[2])) for one in came)
    return looks


def _with_other_pen(sheet: Sheet, pen: Pen, size: float, chance: np.random.Generator) -> Sheet:
    """The sheet with one swatch that is not what it says."""
    swatch = sheet.colours.swatches[pen]
    way = WAYS[str(chance.choice(["pale", "dark", "colour"]))]
    came = _all_off(np.array([swatch.lab]), way, size, chance)[0]
    other = swatch.recoloured(swatch.code, swatch.name, as_lab(np.clip(came, (0, -128, -128), (100, 128, 128))))
    return sheet.with_part("colours", swatches={**sheet.colours.swatches, pen: other})


def _all_off(
    labs: NDArray[np.float64], way: Sequence[float], size: float, chance: np.random.Generator
) -> NDArray[np.float64]:
    """Colours (N x 3) all off one way; duller as well, or the other way, if that way a card could not show them:
    nothing is paler than paper, or purer than sRGB."""
    sign = 1.0 if chance.random() < 0.5 else -1.0
    light, chroma, hue = way
    ways = (
        (light, chroma, sign * hue),
        (light, chroma, -sign * hue),
        (light, chroma - DULLER, sign * hue),
        (-light, chroma, sign * hue),
    )
    came = [_off(labs, each, size) for each in ways]
    lost = [float(np.linalg.norm(srgb_to_lab(lab_to_srgb(one)) - one, axis=1).mean()) for one in came]
    return came[next((place for place, one in enumerate(lost) if one < SHOWN * size), int(np.argmin(lost)))]


def _off(labs: NDArray[np.float64], way: Sequence[float], size: float) -> NDArray[np.float64]:
    """Colours (N x 3) each `size` CIEDE2000 from its own in `labs`, by parts of lightness, chroma and hue."""
    chroma = np.hypot(labs[:, 1], labs[:, 2])
    hue = np.where(chroma > 1, np.arctan2(labs[:, 2], labs[:, 1]), 0.8)
    along, across = np.stack([np.cos(hue), np.sin(hue)]), np.stack([-np.sin(hue), np.cos(hue)])
    step = np.stack([np.full(len(labs), way[0]), *(way[1] * along + way[2] * across)], axis=1)
    least, most = np.zeros(len(labs)), np.full(len(labs), FARTHEST)
    for _ in range(HALVINGS):
        middle = (least + most) / 2
        near = difference(labs, labs + middle[:, None] * step) < size
        least, most = np.where(near, middle, least), np.where(near, most, middle)
    return labs + most[:, None] * step


def _spilled(
    picture: NDArray[np.float32], labels: NDArray[np.int32], fault: HandFault, px_per_mm: float,
    chance: np.random.Generator,
) -> NDArray[np.float32]:  # fmt: skip
    """With the colour of a region run over its line along a part of it."""
    result = picture.copy()
    for label in fault.regions:
        own = (labels == label).astype(np.uint8)
        if not own.any():
            continue
        reach = max(2, round(fault.size * px_per_mm))
        near = cv2.dilate(own, cv2.getStructuringElement(cv2.MORPH_ELLIPSE, (2 * reach + 1, 2 * reach + 1)))
        rows, cols = np.nonzero(near)
        turn = chance.uniform(0, 2 * np.pi)
        along = np.cos(turn) * (cols - cols.mean()) + np.sin(turn) * (rows - rows.mean())
        part = along > np.quantile(along, 0.55)
        over = np.zeros_like(own)
        over[rows[part], cols[part]] = 1
        spill = (over > 0) & (own == 0)
        result[spill] = np.minimum(result[spill], np.median(picture[own > 0], axis=0))
    return result
