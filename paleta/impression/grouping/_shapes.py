"""What is measured of every region's outline: nothing that turning, mirroring or another size would change, and where
it lies and which way it points."""

from __future__ import annotations

from dataclasses import dataclass
from typing import NamedTuple

import cv2
import numpy as np
from numpy.typing import NDArray
from scipy.spatial.distance import cdist

from paleta.impression.grouping._matrices import Floats
from paleta.impression.regions._region_map import PAPER, Region, RegionMap

Places = NDArray[np.intp]
"""Where regions stand in Shapes."""
SAMPLES, RIM = 64, 16
"""Points along an outline; so many of them stand for it where it is asked how near two come."""
HARMONICS = 6
OVERLAY, OVERLAY_REACH = 20, 1.5
"""Cells along each side of a picture of a shape, and how far it reaches from the middle, in square roots of its
area."""
LIKE = 0.35
"""Two outlines no more unlike than this look alike at a glance."""
MEASURES = ("slim", "fills", "solid", "compact", "round inside", "skew", "holes", "corners")


@dataclass(frozen=True, slots=True, eq=False)
class Shapes:
    """All regions as columns, in the order of `labels`.

    size_mm    square root of the area
    measures   n x len(MEASURES), about 0..1
    harmonics  n x HARMONICS: strength of the outline's waves against its size, either way round taken together
    middle_mm  n x 2, x and y
    axis       n x 2, unit vector along the long side of the tightest rectangle
    length_mm  how long that side is; thick_mm: across the widest circle that fits inside
    hulls      convex outlines in mm
    overlays   n x OVERLAY**2, the shape turned level, moved to the middle and made of one size: share of each cell
    upright    the same, not turned
    rims_mm    n x RIM x 2, points along the outline, x and y
    around_mm  length of the outline and of all holes; on_paper: whether the paper around the image is touched
    """

    labels: NDArray[np.int64]
    size_mm: Floats
    measures: Floats
    harmonics: Floats
    middle_mm: Floats
    axis: Floats
    length_mm: Floats
    thick_mm: Floats
    hulls: list[NDArray[np.float32]]
    overlays: NDArray[np.float32]
    upright: NDArray[np.float32]
    rims_mm: Floats
    around_mm: Floats
    on_paper: NDArray[np.bool_]

    @property
    def looks(self) -> Floats:
        """n x k: shapes lie as far apart here as they look different; size does not count much."""
        return np.concatenate([self.measures, 0.7 * self.harmonics, 0.35 * np.log(self.size_mm)[:, None]], axis=1)

    def unlike(self) -> Floats:
        """n x n: how different two outlines look."""
        return np.asarray(cdist(self.looks, self.looks))

    def places(self) -> Places:
        """By label: where the region stands here; -1 of the paper."""
        place = np.full(int(self.labels.max(initial=0)) + 1, -1)
        place[self.labels] = np.arange(len(self.labels))
        return place


class _Outline(NamedTuple):
    """One region's rows of Shapes, in px."""

    measures: list[float]
    harmonics: Floats
    axis: Floats
    length: float
    hull: NDArray[np.float32]
    overlay: NDArray[np.float32]
    upright: NDArray[np.float32]
    rim: Floats
    around: float


def shapes_of(region_map: RegionMap) -> Shapes:
    regions, px = region_map.regions, region_map.px_per_mm
    seen = [_outlined(region_map, region) for region in regions]
    on_paper = {border.b for border in region_map.borders if border.a == PAPER}
    return Shapes(
        labels=np.array([region.label for region in regions], np.int64),
        size_mm=np.sqrt([max(region.area_mm2, 1e-3) for region in regions]),
        measures=np.array([one.measures for one in seen]).reshape(-1, len(MEASURES)),
        harmonics=np.array([one.harmonics for one in seen]).reshape(-1, HARMONICS),
        middle_mm=np.array([region.centroid[::-1] for region in regions]).reshape(-1, 2) / px,
        axis=np.array([one.axis for one in seen]).reshape(-1, 2),
        length_mm=np.array([one.length for one in seen]) / px,
        thick_mm=np.array([2 * region.inradius_mm + 1 / px for region in regions]),
        hulls=[one.hull / px for one in seen],
        overlays=np.array([one.overlay for one in seen], np.float32).reshape(-1, OVERLAY**2),
        upright=np.array([one.upright for one in seen], np.float32).reshape(-1, OVERLAY**2),
        rims_mm=np.array([one.rim for one in seen]).reshape(-1, RIM, 2) / px,
        around_mm=np.array([one.around for one in seen]) / px,
        on_paper=np.array([region.label in on_paper for region in regions], bool),
    )


def _outlined(region_map: RegionMap, region: Region) -> _Outline:
    top, left, bottom, right = region.bbox
    mask = (region_map.labels[top:bottom, left:right] == region.label).astype(np.uint8)
    contours, _ = cv2.findContours(mask, cv2.RETR_CCOMP, cv2.CHAIN_APPROX_NONE)
    outline = max(contours, key=cv2.contourArea).reshape(-1, 2).astype(np.float32)
    area = float(cv2.countNonZero(mask))
    hull = cv2.convexHull(outline).reshape(-1, 2)
    _, (width, height), turn = cv2.minAreaRect(hull)
    along = np.radians(turn if width >= height else turn + 90)
    axis = np.array([np.cos(along), np.sin(along)])
    around = float(sum(cv2.arcLength(contour, True) for contour in contours))
    outer = max(1.0, cv2.contourArea(outline))
    inradius = region.inradius_mm * region_map.px_per_mm
    middle = outline.mean(axis=0)
    reach = (outline - middle) @ axis
    spread = max(float(reach.std()), 1e-6)
    measures = [
        float((min(width, height) + 1) / (max(width, height) + 1)),
        min(1.2, area / ((width + 1) * (height + 1))),
        min(1.2, area / max(1.0, cv2.contourArea(hull))),
        float(min(1.2, 4 * np.pi * area / max(1.0, cv2.arcLength(outline, True)) ** 2)),
        float(min(1.2, np.pi * inradius**2 / max(area, 1.0))),
        float(min(2.0, abs(((reach / spread) ** 3).mean()))),
        max(0.0, 1 - area / outer),
        len(cv2.approxPolyDP(outline, 0.04 * cv2.arcLength(outline, True), True)) / 8,
    ]
    place, points = np.array((left, top), np.float32), _along(outline)
    overlay, upright = _overlays(mask, area, axis)
    return _Outline(
        measures, _waves(points), axis, max(width, height) + 1, hull + place, overlay, upright,
        points[:: SAMPLES // RIM] + place, around,
    )  # fmt: skip


def _overlays(mask: NDArray[np.uint8], area: float, axis: Floats) -> tuple[NDArray[np.float32], NDArray[np.float32]]:
    """The shape on a small grid, its long side lying level; and as it stands."""
    moments = cv2.moments(mask, binaryImage=True)
    middle = np.array([moments["m10"], moments["m01"]]) / area
    scale = OVERLAY / (2 * OVERLAY_REACH * np.sqrt(area))
    soft = cv2.GaussianBlur(mask.astype(np.float32), (0, 0), max(0.3, 0.4 / scale))

    def turned(x: float, y: float) -> NDArray[np.float32]:
        turn = scale * np.array([[x, y], [-y, x]])
        shift = OVERLAY / 2 - 0.5 - turn @ middle
        return np.asarray(cv2.warpAffine(soft, np.column_stack([turn, shift]), (OVERLAY, OVERLAY)), np.float32).ravel()

    return turned(*axis), turned(1.0, 0.0)


def _along(outline: NDArray[np.float32]) -> Floats:
    """SAMPLES points at like distances along a closed outline, x and y."""
    steps = np.hypot(*np.diff(outline, axis=0, append=outline[:1]).T)
    along = np.concatenate([[0.0], np.cumsum(steps)])
    at = np.linspace(0, along[-1], SAMPLES, endpoint=False)
    closed = np.concatenate([outline, outline[:1]])
    return np.stack([np.interp(at, along, closed[:, 0]), np.interp(at, along, closed[:, 1])], axis=1)


def _waves(points: Floats) -> Floats:
    """Strengths of the outline's Fourier waves ([Zahn1972]), equal for turned, moved, larger and mirrored outlines."""
    waves = np.abs(np.fft.fft(points @ (1, 1j)))
    first = max(waves[1], waves[-1], 1e-6)
    return np.array([np.hypot(waves[k], waves[-k]) for k in range(2, 2 + HARMONICS)]) / first
