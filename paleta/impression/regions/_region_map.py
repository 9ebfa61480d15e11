"""The partition of an impression into regions, and what is measured on it."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property

import cv2
import numpy as np
from numpy.typing import NDArray

from paleta.errors import ShapeError
from paleta.impression.reading._impression import MM_PER_INCH

CRACK_TO_LENGTH = np.pi / 4
"""Steps between pixels overcount a line of unknown direction by 4/pi on average (Cauchy-Crofton formula)."""
PAPER = 0


@dataclass(frozen=True, slots=True)
class Region:
    """One closed cell. Positions are (row, col) in pixels of the label map; `bbox` is half open."""

    label: int
    area_mm2: float
    bbox: tuple[int, int, int, int]
    centroid: tuple[float, float]
    anchor: tuple[int, int]
    """The pixel farthest from the outline and from lines drawn inside it: good for a number or a click."""
    inradius_mm: float


@dataclass(frozen=True, slots=True)
class Border:
    """The line along which two regions touch; `a < b`, and `a` may be 0, the paper."""

    a: int
    b: int
    length_mm: float


@dataclass(frozen=True, eq=False)
class RegionMap:
    """labels H x W int32 (0 = paper around the image), ink H x W bool, dpi of both."""

    labels: NDArray[np.int32]
    ink: NDArray[np.bool_]
    dpi: float

    def __post_init__(self) -> None:
        if self.labels.ndim != 2 or self.labels.shape != self.ink.shape:
            raise ShapeError(f"labels {self.labels.shape} and ink {self.ink.shape} must be equal H x W.")

    @property
    def px_per_mm(self) -> float:
        return self.dpi / MM_PER_INCH

    @cached_property
    def regions(self) -> tuple[Region, ...]:
        """All regions but the paper, by label."""
        return tuple(_measure(self.labels, self.ink, self.px_per_mm))

    @cached_property
    def borders(self) -> tuple[Border, ...]:
        """Every pair of touching regions, paper included."""
        pairs, cracks = touching_pairs(self.labels)
        lengths = cracks * CRACK_TO_LENGTH / self.px_per_mm
        return tuple(Border(int(a), int(b), float(length)) for (a, b), length in zip(pairs, lengths, strict=True))

    def neighbours(self) -> dict[int, set[int]]:
        """Which regions touch which, the paper left out."""
        touching: dict[int, set[int]] = {region.label: set() for region in self.regions}
        for border in self.borders:
            if border.a != PAPER:
                touching[border.a].add(border.b)
                touching[border.b].add(border.a)
        return touching


def touching_pairs(labels: NDArray[np.int32]) -> tuple[NDArray[np.int64], NDArray[np.int64]]:
    """Pairs of labels that share pixel edges (N x 2, smaller first), and how many edges each pair shares."""
    span = int(labels.max()) + 1
    codes = []
    for first, second in ((labels[:, :-1], labels[:, 1:]), (labels[:-1], labels[1:])):
        differ = first != second
        one, other = first[differ].astype(np.int64), second[differ].astype(np.int64)
        codes.append(np.minimum(one, other) * span + np.maximum(one, other))
    found, counts = np.unique(np.concatenate(codes), return_counts=True)
    return np.stack([found // span, found % span], axis=1), counts


def labels_in(labels: NDArray[np.int32]) -> set[int]:
    """The regions of an H x W label map, the paper around them left out."""
    return {int(label) for label in np.flatnonzero(np.bincount(labels.ravel()))} - {PAPER}


def _measure(labels: NDArray[np.int32], ink: NDArray[np.bool_], px_per_mm: float) -> list[Region]:
    count = int(labels.max()) + 1
    flat = labels.ravel()
    areas = np.bincount(flat, minlength=count)
    rows, cols = np.indices(labels.shape, dtype=np.float32)
    row_sums = np.bincount(flat, weights=rows.ravel(), minlength=count)
    col_sums = np.bincount(flat, weights=cols.ravel(), minlength=count)
    regions = []
    for label, (top, left, bottom, right) in _bounding_boxes(labels, count).items():
        inside = np.pad(labels[top:bottom, left:right] == label, 1).astype(np.uint8)
        distance = cv2.distanceTransform(inside, cv2.DIST_L2, 3)
        paper = inside & ~np.pad(ink[top:bottom, left:right], 1)
        clear = cv2.distanceTransform(paper, cv2.DIST_L2, 3) if paper.any() else distance
        row, col = np.unravel_index(int(clear.argmax()), clear.shape)
        area = int(areas[label])
        regions.append(
            Region(
                label=label,
                area_mm2=area / px_per_mm**2,
                bbox=(top, left, bottom, right),
                centroid=(float(row_sums[label] / area), float(col_sums[label] / area)),
                anchor=(int(row) - 1 + top, int(col) - 1 + left),
                inradius_mm=float(distance.max()) / px_per_mm,
            )
        )
    return regions


def _bounding_boxes(labels: NDArray[np.int32], count: int) -> dict[int, tuple[int, int, int, int]]:
    from scipy.ndimage import find_objects

    return {
        label: (rows.start, cols.start, rows.stop, cols.stop)
        for label, found in enumerate(find_objects(labels, max_label=count - 1), start=1)
        if found is not None
        for rows, cols in [found]
    }


def labels_to_png(region_map: RegionMap) -> bytes:
    """Pack labels and ink into one 16-bit grey PNG: the label in 15 bits, ink in the highest."""
    packed = region_map.labels.astype(np.uint16) | (region_map.ink.astype(np.uint16) << 15)
    return cv2.imencode(".png", packed, [cv2.IMWRITE_PNG_COMPRESSION, 6])[1].tobytes()


def labels_from_png(data: bytes, *, dpi: float) -> RegionMap:
    """Undo `labels_to_png`.

    Parameters
    ----------
    data
        A PNG of 16 bits and one channel.
    dpi
        Of the map.

    Raises
    ------
    ShapeError
        If the data is not such a picture.
    """
    packed = cv2.imdecode(np.frombuffer(data, np.uint8), cv2.IMREAD_UNCHANGED) if data else None
    if packed is None or packed.ndim != 2 or packed.dtype != np.uint16:
        raise ShapeError("The region map is not a 16-bit grey PNG.")
    return RegionMap(labels=(packed & 0x7FFF).astype(np.int32), ink=packed >> 15 == 1, dpi=dpi)
