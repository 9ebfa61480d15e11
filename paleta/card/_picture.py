"""The picture that goes on a card: where its figure is, what a place on it covers, where a greeting leaves it free."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from fractions import Fraction
from functools import cached_property

import cv2
import numpy as np
from numpy.typing import NDArray

from paleta.card._legible import contrasts
from paleta.card._length import Length

NEVER_EMPTY = 1e-6
FOCAL_COST = 10.0


@dataclass(frozen=True, slots=True)
class Thing:
    """A thing in the picture: its name and regions; focal: what the eye shall rest on; figure: no background."""

    name: str
    regions: tuple[int, ...]
    focal: bool = False
    figure: bool = True


@dataclass(frozen=True, slots=True)
class Place:
    """A rectangle in exact lengths, from a top left corner."""

    x: Length
    y: Length
    width: Length
    height: Length

    @property
    def right(self) -> Length:
        return self.x + self.width

    @property
    def bottom(self) -> Length:
        return self.y + self.height

    def holds(self, other: Place) -> bool:
        return self.x <= other.x and self.y <= other.y and other.right <= self.right and other.bottom <= self.bottom

    def moved(self, right: Length, down: Length) -> Place:
        return Place(self.x + right, self.y + down, self.width, self.height)


@dataclass(frozen=True)
class Picture:
    """labels H x W (0 = paper); things in the order of work; darkness: 0..1 by region, how heavy it looks; seen: the
    picture as it is planned, h x w x 3 in 8-bit sRGB and of any size, None while nothing is known of it."""

    labels: NDArray[np.int32]
    px_per_mm: float
    things: tuple[Thing, ...]
    darkness: Mapping[int, float]
    seen: NDArray[np.uint8] | None = None

    @cached_property
    def whole(self) -> Place:
        height, width = self.labels.shape
        zero = self.length(0)
        return Place(zero, zero, self.length(width), self.length(height))

    def length(self, pixels: float) -> Length:
        """Pixels as a length, to a hundredth of a millimetre: a scan says no more."""
        return Length(Fraction(round(pixels / self.px_per_mm * 100), 100))

    @cached_property
    def _areas(self) -> NDArray[np.int64]:
        return np.bincount(self.labels.ravel(), minlength=self._most + 1)

    @cached_property
    def _most(self) -> int:
        named = [label for thing in self.things for label in thing.regions]
        return max(int(self.labels.max(initial=0)), *named, 0)

    @cached_property
    def figure(self) -> NDArray[np.bool_]:
        """H x W: where the figure is; everything drawn where all of it is background."""
        labels = [label for thing in self.things if thing.figure for label in thing.regions]
        wanted = np.zeros(self._most + 1, bool)
        wanted[labels or [label for thing in self.things for label in thing.regions]] = True
        wanted[0] = False
        return wanted[self.labels]

    def middle(self, by: str = "figure") -> tuple[Length, Length]:
        """The middle of the figure: of the box round it, or where it would balance ("weight": dark pulls more)."""
        rows, columns = (np.flatnonzero(self.figure.any(axis=axis)) for axis in (1, 0))
        if not rows.size:
            height, width = self.labels.shape
            return self.length(width / 2), self.length(height / 2)
        if by == "figure":
            return self.length((columns[0] + columns[-1] + 1) / 2), self.length((rows[0] + rows[-1] + 1) / 2)
        heavy = np.zeros(self._most + 1)
        for label, darkness in self.darkness.items():
            if label <= self._most:
                heavy[label] = darkness
        weight = np.where(self.figure, heavy[self.labels] + NEVER_EMPTY, 0.0)
        total = weight.sum()
        across, down = weight.sum(axis=0), weight.sum(axis=1)
        x = (across * (np.arange(across.size) + 0.5)).sum() / total
        y = (down * (np.arange(down.size) + 0.5)).sum() / total
        return self.length(x), self.length(y)

    def _cells(self, place: Place) -> tuple[slice, slice]:
        height, width = self.labels.shape
        left, right, top, bottom = (
            round(float(edge.mm) * self.px_per_mm) for edge in (place.x, place.right, place.y, place.bottom)
        )
        rows = slice(min(max(top, 0), height), min(max(bottom, 0), height))
        return rows, slice(min(max(left, 0), width), min(max(right, 0), width))

    def box_of(self, regions: tuple[int, ...]) -> Place | None:
        """The box round some regions; None where there are none of them."""
        mask = np.isin(self.labels, regions)
        rows, columns = (np.flatnonzero(mask.any(axis=axis)) for axis in (1, 0))
        if not rows.size:
            return None
        x, y, right, bottom = (self.length(int(one)) for one in (columns[0], rows[0], columns[-1] + 1, rows[-1] + 1))
        return Place(x, y, right - x, bottom - y)

    def seen_in(self, place: Place) -> NDArray[np.uint8] | None:
        """What is seen in a place, h x w x 3; None where nothing is known or the place lies beside the picture."""
        if self.seen is None:
            return None
        rows, columns = self._cells(place)
        down, across = (self.seen.shape[axis] / self.labels.shape[axis] for axis in (0, 1))
        top, bottom = round(rows.start * down), round(rows.stop * down)
        found = self.seen[top:bottom, round(columns.start * across) : round(columns.stop * across)]
        return found if found.size else None

    def calmest(self, ink: str, least: float, place: Place, within: Place) -> Place:
        """A place of the same size inside `within` where an ink is read best and nothing of the focal things is hidden:
        where least of the ground has less than the `least` contrast with it; of equal ones the nearest to `place`."""
        assert self.seen is not None
        rows, columns = self._cells(within)
        labels = self.labels[rows, columns]
        # Half a millimetre is finer than any letter.
        step = max(1, round(self.px_per_mm / 2))
        small = labels[::step, ::step]
        seen = cv2.resize(self.seen, self.labels.shape[::-1], interpolation=cv2.INTER_AREA)[rows, columns]
        cost = (contrasts(ink, seen[::step, ::step]) < least).astype(np.float64)
        focal = [label for thing in self.things if thing.focal for label in thing.regions]
        cost[np.isin(small, focal)] += FOCAL_COST
        return self._cheapest(cost, step, place, within)

    def _cheapest(self, cost: NDArray[np.float64], step: int, place: Place, within: Place) -> Place:
        """A place of the same size as `place` where the sum of `cost` is least; of equal ones the nearest to it. `cost`
        holds every `step`-th pixel of `within`.

        Summed-area tables [Crow1984] give the sum over every place at once.
        """
        sums, scale = cv2.integral(cost), self.px_per_mm / step
        height, width = (round(float(side.mm) * scale) for side in (place.height, place.width))
        if height >= sums.shape[0] or width >= sums.shape[1]:
            return place
        covered = sums[height:, width:] - sums[:-height, width:] - sums[height:, :-width] + sums[:-height, :-width]
        y, x = (float((one - other).mm) * scale for one, other in ((place.y, within.y), (place.x, within.x)))
        away = np.hypot(np.arange(covered.shape[0])[:, None] - y, np.arange(covered.shape[1])[None, :] - x)
        row, column = np.unravel_index(int((covered + 1e-3 * away).argmin()), covered.shape)
        right, bottom = within.right - place.width, within.bottom - place.height
        return Place(
            min(within.x + self.length(float(column) * step), right),
            min(within.y + self.length(float(row) * step), bottom),
            place.width,
            place.height,
        )

    def shares_in(self, place: Place) -> dict[int, float]:
        """By number of the thing in `things`, how much of it lies in a place on the picture, 0..1."""
        within = np.bincount(self.labels[self._cells(place)].ravel(), minlength=self._most + 1)
        found = {}
        for number, thing in enumerate(self.things):
            area = int(self._areas[list(thing.regions)].sum())
            share = int(within[list(thing.regions)].sum()) / area if area else 0.0
            if share > 0:
                found[number] = share
        return found

    def clearest(self, place: Place, within: Place) -> Place:
        """A place of the same size inside `within` that covers least of the figure, and of the focal things first; of
        equal ones the nearest to `place`."""
        weight = np.zeros(self._most + 1, np.float64)
        for thing in self.things:
            weight[list(thing.regions)] = FOCAL_COST if thing.focal else 1.0 if thing.figure else 0.0
        weight[0] = 0.0
        return self._cheapest(weight[self.labels[self._cells(within)]], 1, place, within)

    def widest_mm(self, regions: tuple[int, ...]) -> float:
        """How wide the regions taken together are at their widest: twice the largest circle's radius."""
        mask = np.isin(self.labels, regions).astype(np.uint8)
        return 2 * float(cv2.distanceTransform(mask, cv2.DIST_L2, 5).max(initial=0.0)) / self.px_per_mm
