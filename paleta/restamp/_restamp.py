"""The same stamp again: regions found on one stamping carried onto another."""

from __future__ import annotations

from dataclasses import dataclass, field

import cv2
import numpy as np
from numpy.typing import NDArray
from skimage.segmentation import watershed

from paleta.impression import PAPER, Impression, RegionMap
from paleta.photo_check import NotTheSameStamp, Registration, SoftPicture, Template, lines_of, photo_read

CORE_MM, CORE_SHARE = 0.3, 0.25
"""So far from its edge, or this share of its own depth, a region is sure to be itself; the rest goes by the new
line."""
MISSING_MM, NEW_MM, NEAR_MM = 2.0, 2.5, 0.45
"""Line that is gone or new is told from this length, and looked for within NEAR_MM of where it was."""
FAINT = 0.25


@dataclass(frozen=True, eq=False)
class Restamped:
    """Another stamping of the same stamp, laid upright on the first.

    pixels      H x W x 3, of the first one's size and resolution: its picture, as flat as it lies, bends left in.
    region_map  the first one's labels carried onto it. registration of the picture that was given on the first.
    missing     regions whose outline is gone in part, with how many mm; new: regions in which (0 = outside of all)
                there is line that the first one does not have, with how many mm. cut: regions outside of the picture.
    """

    pixels: NDArray[np.float32] = field(repr=False)
    region_map: RegionMap
    registration: Registration
    missing: dict[int, float]
    new: dict[int, float]
    cut: tuple[int, ...]


def restamp(
    photo: bytes | Impression, impression: Impression, region_map: RegionMap, *,
    corners: NDArray[np.float64] | None = None,
) -> Restamped | NotTheSameStamp:  # fmt: skip
    """Carry `region_map`, found on `impression`, onto another stamping of the same stamp.

    Whatever its shift, turn, scale, paper and resolution; where rubber gave, the map gives with it. `corners` as for
    `register`.

    Parameters
    ----------
    photo
        Of the other stamping.
    impression
        The one the map was found on.
    region_map
        With its edits.
    corners
        4 x 2, 0..1 across the photo, clockwise from the top left; found where nothing is said.

    Raises
    ------
    NotAnImage, ImageTooLarge
        If the photo cannot be read whole.
    """
    seen = photo_read(photo)
    template = Template.of(impression)
    found = template.found_in(seen, corners)
    if isinstance(found, NotTheSameStamp):
        return found
    pixels = _upright(seen, found)
    px_per_mm = impression.px_per_mm
    outside = np.isnan(pixels[..., 0])
    pixels[outside] = np.nanmedian(pixels.reshape(-1, 3)[::97], axis=0)
    # It may lie on other paper than the first: lines paler than the paper there need not be so here.
    lines = lines_of(pixels, px_per_mm)
    lines[outside] = 0
    source = _before_bending(found)
    labels = _settled(_carried(region_map.labels, source), lines, px_per_mm)
    labels[outside] = PAPER
    ink = (lines > 0.5) & ~outside
    carried = RegionMap(labels=labels, ink=ink, dpi=region_map.dpi)
    old_ink = _carried(region_map.ink.astype(np.int32), source) > 0
    there = set(np.unique(region_map.labels).tolist()) - {PAPER}
    kept = np.bincount(labels[~outside].ravel(), minlength=int(region_map.labels.max()) + 1)
    whole = np.bincount(region_map.labels.ravel(), minlength=len(kept))
    return Restamped(
        pixels=pixels,
        region_map=carried,
        registration=found,
        missing=_stretches(old_ink & ~outside, lines > FAINT, labels, px_per_mm, MISSING_MM),
        new=_stretches(ink, old_ink, labels, px_per_mm, NEW_MM),
        cut=tuple(sorted(label for label in there if kept[label] < 0.5 * whole[label])),
    )


def _upright(photo: Impression, found: Registration) -> NDArray[np.float32]:
    """The photo as a plane sheet on the first impression's pixels; NaN where it does not reach."""
    height, width = found.shape
    x, y = np.meshgrid(np.arange(width, dtype=np.float32), np.arange(height, dtype=np.float32))
    places = cv2.perspectiveTransform(np.stack([x, y], axis=-1), found.matrix)
    return SoftPicture(photo.pixels).at(places, beyond=np.nan)


def _before_bending(found: Registration) -> NDArray[np.float32]:
    """H x W x 2: which pixel of the first impression lies at each pixel of the upright picture."""
    height, width = found.shape
    bend = cv2.resize(found.bend, (width, height), interpolation=cv2.INTER_LINEAR)
    x, y = np.meshgrid(np.arange(width, dtype=np.float32), np.arange(height, dtype=np.float32))
    source = np.stack([x, y], axis=-1)
    for _ in range(4):
        there = cv2.remap(bend, source, None, cv2.INTER_LINEAR, borderMode=cv2.BORDER_REPLICATE)
        source = np.stack([x, y], axis=-1) - there
    return source


def _carried(values: NDArray[np.int32], source: NDArray[np.float32]) -> NDArray[np.int32]:
    moved = cv2.remap(values.astype(np.float32), source, None, cv2.INTER_NEAREST, borderMode=cv2.BORDER_REPLICATE)
    return np.asarray(moved, np.int32)


def _settled(labels: NDArray[np.int32], lines: NDArray[np.float32], px_per_mm: float) -> NDArray[np.int32]:
    """The labels with their borders drawn to the middle of the line as it was stamped now: grown from the sure middle
    of each region, over paper first and over line last ([Meyer1994])."""
    edge = np.zeros(labels.shape, bool)
    edge[:, 1:] |= labels[:, 1:] != labels[:, :-1]
    edge[1:] |= labels[1:] != labels[:-1]
    away = cv2.distanceTransform((~edge).astype(np.uint8), cv2.DIST_L2, 3)
    deepest = np.zeros(int(labels.max()) + 1, np.float32)
    np.maximum.at(deepest, labels.ravel(), away.ravel())
    sure = np.minimum(CORE_MM * px_per_mm, CORE_SHARE * deepest[labels])
    markers = np.where(away >= sure, labels + 1, 0)
    height = (cv2.GaussianBlur(lines, (0, 0), 0.05 * px_per_mm) * 255).astype(np.uint8)
    return np.asarray(watershed(height, markers) - 1, np.int32)


def _stretches(
    ink: NDArray[np.bool_], other: NDArray[np.bool_], labels: NDArray[np.int32], px_per_mm: float, least_mm: float
) -> dict[int, float]:
    """By region, how many mm of line of `ink` have none of `other` near, in stretches of `least_mm` and more. What runs
    off the picture is the edge of a sheet or a table."""
    reach = max(1, round(NEAR_MM * px_per_mm))
    kernel = cv2.getStructuringElement(cv2.MORPH_ELLIPSE, (2 * reach + 1, 2 * reach + 1))
    alone = (ink & (cv2.dilate(other.astype(np.uint8), kernel) == 0)).astype(np.uint8)
    count, marks, boxes, _ = cv2.connectedComponentsWithStats(alone, connectivity=8)
    found: dict[int, float] = {}
    for number in range(1, count):
        long_mm = float(max(boxes[number, cv2.CC_STAT_WIDTH], boxes[number, cv2.CC_STAT_HEIGHT])) / px_per_mm
        left, top, wide, high = (int(one) for one in boxes[number, :4])
        inside = min(left, top) > 0 and left + wide < ink.shape[1] and top + high < ink.shape[0]
        if long_mm >= least_mm and inside:
            box = (slice(top, top + high), slice(left, left + wide))
            names, times = np.unique(labels[box][marks[box] == number], return_counts=True)
            label = int(names[times.argmax()])
            found[label] = round(found.get(label, 0.0) + long_mm, 1)
    return found
