"""A canvas that remembers what was drawn: of every pixel the shape it belongs to, and what that shape is part of."""

from __future__ import annotations

from dataclasses import dataclass, replace

import cv2
import numpy as np
from numpy.typing import NDArray

from paleta.impression import Impression, RegionMap, find_regions

DPI = 200.0
Points = NDArray[np.float64]
Mask = NDArray[np.uint8]
SHIFT = 4
COVERED, LOST, ON_ONE = 0.05, 0.25, 0.9
"""A shape lies over another one if so much of it does, or if so much of the other vanishes; less is a line's width. It
lies on a single one if so much does."""


@dataclass(frozen=True)
class Drawn:
    """A region map with the truth of each region: `part` says which surface it is a piece of, `alike` what gets one
    ramp; by label from 1, 0 where the drawing does not say."""

    region_map: RegionMap
    part: NDArray[np.int64]
    alike: NDArray[np.int64]
    kinds: tuple[str, ...]
    owner: NDArray[np.int64]
    """Of each region the shape it shows."""
    over: frozenset[tuple[int, int]]
    """Shapes as (nearer, farther), where one was drawn over the other."""


class Canvas:
    """Shapes are drawn from back to front; each hides what it covers."""

    def __init__(self, height: int, width: int, line_px: int, chance: np.random.Generator) -> None:
        self.owner = np.zeros((height, width), np.int32)
        self.ink = np.zeros((height, width), np.uint8)
        self.line_px, self.chance = line_px, chance
        self.part, self.alike = [0], [0]
        self.over: set[tuple[int, int]] = set()
        self._lies_on: dict[int, int] = {}
        self._last = 0
        self._visible = np.array([height * width])
        """Of every shape how many pixels are seen."""
        self.kinds: list[str] = []
        """What was drawn, by its names."""

    def group(self) -> int:
        """A new name for a surface, or for what gets one ramp."""
        self._last += 1
        return self._last

    def shape(
        self, points: Points, *, part: int | None = None, alike: int | None = None,
        within: Mask | None = None, wobble: float = 0.006,
    ) -> Mask:  # fmt: skip
        """Draw an outline, filled with paper; only `within` a mask if there is one. Returns its own mask."""
        fixed = np.round(self._by_hand(points, wobble) * 2**SHIFT).astype(np.int32)
        mask, line = np.zeros(self.ink.shape, np.uint8), np.zeros(self.ink.shape, np.uint8)
        cv2.fillPoly(mask, [fixed], 1, shift=SHIFT)
        cv2.polylines(line, [fixed], True, 1, self.line_px, shift=SHIFT)
        # Only what lies round the shape can change, which is far less than all.
        around = self._around(fixed)
        own_mask, own_line, owner, ink = (one[around] for one in (mask, line, self.owner, self.ink))
        if within is not None:
            own_mask &= within[around]
            own_line &= cv2.dilate(within[around], np.ones((3, 3), np.uint8))
        self.part.append(self.group() if part is None else part)
        self.alike.append(self.group() if alike is None else alike)
        own = len(self.part) - 1
        covered = np.bincount(owner[own_mask > 0], minlength=own)
        # Without its rim: what only lies beside another one shares an edge with it.
        inner = np.bincount(owner[cv2.erode(own_mask, np.ones((3, 3), np.uint8)) > 0], minlength=own)
        covers = {int(old) for old in np.flatnonzero((inner > COVERED * inner.sum()) | (inner > LOST * self._visible))}
        covers.discard(0)
        host = int(covered.argmax())
        if host and covered[host] > ON_ONE * covered.sum():
            # What lies on one thing stands where that does, before and behind the same others.
            self.over |= {(own, far) for near, far in self.over if near == host}
            hiding = {near for near, far in self.over if far == host and self._lies_on.get(near) != host}
            self.over |= {(near, own) for near in hiding - covers}
            self._lies_on[own] = host
        self.over |= {(own, old) for old in covers}
        self._visible = np.append(self._visible - covered, covered.sum())
        owner[own_mask > 0] = own
        ink[own_mask > 0] = 0
        ink[own_line > 0] = 1
        return mask

    def line(self, points: Points, *, solid: bool = False) -> None:
        """Draw a mere line on what is there, or a solid spot of ink."""
        fixed = [np.round(points * 2**SHIFT).astype(np.int32)]
        if solid:
            cv2.fillPoly(self.ink, fixed, 1, shift=SHIFT)
        else:
            cv2.polylines(self.ink, fixed, False, 1, self.line_px, shift=SHIFT)

    def _around(self, fixed: NDArray[np.int32]) -> tuple[slice, slice]:
        """Rows and columns that a shape of these corners, and its line, can touch; never none."""
        margin, size = self.line_px + 3, np.array(self.ink.shape[::-1])
        low = np.clip((fixed.min(axis=0) >> SHIFT) - margin, 0, size - 1)
        high = np.clip((fixed.max(axis=0) >> SHIFT) + margin + 1, low + 1, size)
        return slice(low[1], high[1]), slice(low[0], high[0])

    def _by_hand(self, points: Points, wobble: float) -> Points:
        """No hand draws a circle: the outline swells and shrinks a little, slowly."""
        middle = points.mean(axis=0)
        angle = np.linspace(0, 2 * np.pi, len(points), endpoint=False)
        swell = np.zeros(len(points))
        for wave in range(2, 6):
            swell += self.chance.normal(0, wobble) * np.cos(wave * angle + self.chance.uniform(0, 7))
        return middle + (points - middle) * (1 + swell)[:, None]

    def finished(self) -> Drawn:
        """The regions a finder sees, each with the truth of the shape it shows most of."""
        pixels = np.repeat((1.0 - self.ink.astype(np.float32))[..., None], 3, axis=2)
        pixels = cv2.GaussianBlur(pixels, (0, 0), 0.7)
        region_map = find_regions(Impression(pixels=pixels, dpi=DPI, warnings=()))
        count, bare = int(region_map.labels.max()) + 1, self.ink == 0
        both = region_map.labels[bare].astype(np.int64) * len(self.part) + self.owner[bare]
        seen = np.bincount(both, minlength=count * len(self.part)).reshape(count, len(self.part))
        owner = seen.argmax(axis=1)
        part, alike = np.array(self.part)[owner], np.array(self.alike)[owner]
        # Of paper that a drawing happens to enclose it does not say anything.
        part[0] = alike[0] = 0
        return Drawn(region_map, part, alike, tuple(dict.fromkeys(self.kinds)), owner, frozenset(self.over))


@dataclass(frozen=True)
class Place:
    """Where something stands; what is drawn there is given in units of its size, upright round (0, 0)."""

    canvas: Canvas
    x: float
    y: float
    size: float
    turn: float = 0.0
    mirrored: bool = False

    def draw(
        self, points: Points, *, part: int | None = None, alike: int | None = None, within: Mask | None = None
    ) -> Mask:
        return self.canvas.shape(self._seen(points), part=part, alike=alike, within=within, wobble=0.002)

    def line(self, points: Points, *, solid: bool = False) -> None:
        self.canvas.line(self._seen(points), solid=solid)

    def within(self, dx: float, dy: float, size: float, *, turn: float = 0.0, mirrored: bool = False) -> Place:
        """A smaller place in this one."""
        ((x, y),) = self._seen(np.array([[dx, dy]]))
        turn = self.turn + (-turn if self.mirrored else turn)
        return replace(self, x=x, y=y, size=self.size * size, turn=turn, mirrored=self.mirrored != mirrored)

    def _seen(self, points: Points) -> Points:
        ways = np.array([-1.0 if self.mirrored else 1.0, 1.0])
        return turned(points * ways * self.size, self.turn, self.x, self.y)


def circle(x: float, y: float, radius: float, *, squash: float = 1.0, turn: float = 0.0, n: int = 60) -> Points:
    angle = np.linspace(0, 2 * np.pi, n, endpoint=False)
    return turned(np.stack([radius * np.cos(angle), squash * radius * np.sin(angle)], axis=1), turn, x, y)


def petal(x: float, y: float, length: float, width: float, turn: float, *, point: float = 1.0, n: int = 40) -> Points:
    """From its base at (x, y) outwards; `point` 0.6 is round, 1.6 pointed."""
    t = np.linspace(0, 1, n // 2)
    half = width / 2 * np.sin(np.pi * t**0.85) ** point
    outline = np.concatenate([np.stack([t * length, half], axis=1), np.stack([t * length, -half], axis=1)[::-1]])
    return turned(outline, turn, x, y)


def box(left: float, top: float, right: float, bottom: float) -> Points:
    return dense(np.array([[left, top], [right, top], [right, bottom], [left, bottom]], float))


def dense(corners: Points, n: int = 12) -> Points:
    """The outline of a polygon, n points a side."""
    share = np.linspace(0, 1, n, endpoint=False)[:, None]
    return np.concatenate([a * (1 - share) + b * share for a, b in zip(corners, np.roll(corners, -1, 0), strict=True)])


def band(spine: Points, width: float | Points) -> Points:
    """The outline of a strip along a line."""
    way = np.gradient(spine, axis=0)
    off = np.stack([-way[:, 1], way[:, 0]], axis=1) / np.maximum(np.hypot(*way.T), 1e-6)[:, None]
    half = np.asarray(width, float).reshape(-1, 1) / 2
    return np.concatenate([spine + off * half, (spine - off * half)[::-1]])


def turned(points: Points, angle: float, x: float = 0.0, y: float = 0.0) -> Points:
    """Turned round the origin, then moved to (x, y)."""
    cos, sin = np.cos(angle), np.sin(angle)
    return points @ np.array([[cos, sin], [-sin, cos]]) + np.array([x, y])
