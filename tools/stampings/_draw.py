"""Line art by chance: things drawn one over the other, each hiding what lies behind it."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from itertools import pairwise

import cv2
import numpy as np
from numpy.typing import NDArray

Points = NDArray[np.float64]
Thing = Callable[["Panel", np.random.Generator, float, float, float], None]
SHIFT = 4
"""Points are drawn to a sixteenth of a pixel."""


@dataclass
class Panel:
    """Ink of a drawing as 0..255 on `dpi`: `whole` with all its lines closed, `drawn` with the gaps its maker left."""

    width_mm: float
    height_mm: float
    dpi: float
    line_mm: float
    gap_mm: float
    """Widest gap the maker left; 0 = every outline is closed."""
    gap_share: float
    """Of the outlines, how many have gaps."""

    def __post_init__(self) -> None:
        self.px = self.dpi / 25.4
        size = (round(self.height_mm * self.px), round(self.width_mm * self.px))
        self.whole, self.drawn = np.zeros(size, np.uint8), np.zeros(size, np.uint8)
        self.gaps: list[tuple[float, float, float]] = []
        """x, y and width of each gap, in mm; some are hidden by later things."""

    def shape(self, points: Points, chance: np.random.Generator, *, hides: bool = True) -> None:
        """A closed outline in front of what is there already."""
        where = self._fixed(points)
        if hides:
            for ink in (self.whole, self.drawn):
                cv2.fillPoly(ink, [where], 0, cv2.LINE_AA, SHIFT)
        ring = np.concatenate([points, points[:1]])
        self._stroke(self.whole, ring)
        for stretch in self._broken(ring, chance):
            self._stroke(self.drawn, stretch)

    def line(self, points: Points, chance: np.random.Generator, *, closes: bool = False) -> None:
        """An open line; one that parts two cells may be broken as outlines are."""
        self._stroke(self.whole, points)
        for stretch in self._broken(points, chance) if closes else [points]:
            self._stroke(self.drawn, stretch)

    def _broken(self, line: Points, chance: np.random.Generator) -> list[Points]:
        steps = np.hypot(*np.diff(line, axis=0).T)
        along = np.concatenate([[0.0], np.cumsum(steps)])
        if self.gap_mm <= 0 or along[-1] < 8 * self.gap_mm or chance.random() > self.gap_share:
            return [line]
        width = chance.uniform(0.4, 1.0) * self.gap_mm
        open_ = width + self.line_mm
        """Ends are round and reach half a line into the gap from either side."""
        start = chance.uniform(0.1, 0.9) * (along[-1] - open_)
        self.gaps.append((*_at(line, along, start + open_ / 2), width))
        ends = np.array([_at(line, along, start), _at(line, along, start + open_)])
        return [
            np.concatenate([line[along <= start], ends[:1]]),
            np.concatenate([ends[1:], line[along >= start + open_]]),
        ]

    def _stroke(self, ink: NDArray[np.uint8], points: Points) -> None:
        if len(points) < 2:
            return
        thick = max(1, round(self.line_mm * self.px))
        cv2.polylines(ink, [self._fixed(points)], False, 255, thick, cv2.LINE_AA, SHIFT)

    def _fixed(self, points: Points) -> NDArray[np.int32]:
        return np.round(np.asarray(points) * self.px * 2**SHIFT).astype(np.int32)


def panel(seed: int, dpi: float = 300, *, other_from: int | None = None) -> Panel:
    """The drawing of a seed: what it shows, the weight of its lines and the gaps its maker left are the seed's. Its
    `other_from`-th thing and those after it are of the same kinds and about as large, but drawn anew: another drawing
    of like design."""
    chance = np.random.default_rng([7, seed])
    width, height = chance.uniform(55, 85), chance.uniform(70, 105)
    line = float(chance.choice([0.22, 0.3, 0.4, 0.55, 0.7]))
    gap = float(chance.choice([0.0, 0.0, 0.5, 0.8, 1.0, 1.4, 2.0]))
    here = Panel(width, height, dpi, line, gap, gap_share=0.25)
    edge = chance.uniform(5, 10)
    if chance.random() < 0.45:
        framed(here, chance, edge)
    else:
        edge += 2
    kinds = [THINGS[k] for k in chance.choice(len(THINGS), chance.integers(2, 5), replace=False)]
    for number in range(chance.integers(6, 14)):
        if number == other_from:
            chance = np.random.default_rng([8, seed])
        size = chance.uniform(6, 17)
        x = chance.uniform(edge + size * 0.7, width - edge - size * 0.7)
        y = chance.uniform(edge + size * 0.7, height - edge - size * 0.7)
        kinds[chance.integers(len(kinds))](here, chance, x, y, size)
    return here


def closing_panel(seed: int, dpi: float = 300) -> Panel:
    """A drawing whose lines are meant to close: no veins or zigzags that end short of an outline, no fringes, fewer
    gaps. What is missed here was not left open by its maker, and a plain finder finds nearly all of it."""
    chance = np.random.default_rng([22, seed])
    width, height = chance.uniform(70, 100), chance.uniform(80, 120)
    line = float(chance.choice([0.3, 0.4, 0.5]))
    here = Panel(width, height, dpi, line, float(chance.choice([0.0, 0.5, 0.8])), gap_share=0.08)
    if chance.random() < 0.4:
        framed(here, chance, 6)
    kinds = [CLOSING[k] for k in chance.choice(len(CLOSING), 3, replace=False)]
    for _ in range(6):
        size = chance.uniform(10, 17)
        x = chance.uniform(size + 6, width - size - 6)
        y = chance.uniform(size + 6, height - size - 6)
        kinds[chance.integers(len(kinds))](here, chance, x, y, size)
    return here


def framed(panel: Panel, chance: np.random.Generator, edge: float) -> None:
    """A frame, often with hills or a horizon in it."""
    w, h = panel.width_mm, panel.height_mm
    panel.shape(_box(edge, edge, w - edge, h - edge), chance)
    for _ in range(chance.integers(0, 4)):
        x = np.linspace(edge, w - edge, 60)
        y = h * chance.uniform(0.3, 0.85) + chance.uniform(1, 6) * np.sin(
            x / chance.uniform(6, 20) + chance.uniform(0, 6)
        )
        y = np.clip(y, edge + 2, h - edge - 2)
        panel.line(np.stack([x, y], axis=1), chance, closes=True)


def flower(panel: Panel, chance: np.random.Generator, x: float, y: float, size: float) -> None:
    for ring in range(chance.integers(1, 4)):
        count = int(chance.integers(5, 12))
        reach = size * (1 - 0.28 * ring)
        for turn in np.arange(count) / count * 2 * np.pi + chance.uniform(0, 1):
            wide = reach * np.pi / count * chance.uniform(0.7, 1.2)
            petal = _turned(_drop(reach, wide), turn, (x, y))
            panel.shape(petal, chance)
            if reach > 9 and chance.random() < 0.4:  # a vein that ends inside
                far = np.array([np.cos(turn), np.sin(turn)])
                panel.line(np.array([(x, y) + far * reach * 0.5, (x, y) + far * reach * 0.75]), chance)
    panel.shape(_oval(x, y, size * 0.2, size * 0.2), chance)
    if size > 10 and chance.random() < 0.6:
        for dx, dy in chance.uniform(-0.11, 0.11, (5, 2)) * size:
            panel.shape(_oval(x + dx, y + dy, 0.35, 0.35), chance)


def leaf(panel: Panel, chance: np.random.Generator, x: float, y: float, size: float) -> None:
    turn = chance.uniform(0, 2 * np.pi)
    t = np.linspace(0, np.pi, 30)
    upper = np.stack([np.cos(t), 0.36 * np.sin(t) ** 1.3], axis=1) * size
    outline = np.concatenate([upper, (upper * (1, -1))[::-1]])
    panel.shape(_turned(outline, turn, (x, y)), chance)
    middle = np.stack([np.linspace(-1, 1, 12), 0.05 * np.sin(np.linspace(0, 3, 12))], axis=1) * size
    panel.line(_turned(middle, turn, (x, y)), chance, closes=True)
    for k in np.linspace(-0.6, 0.5, chance.integers(2, 6)):
        for side in (1, -1):
            reach = 0.36 * (1 - k * k) ** 0.65 * (0.75 if chance.random() < 0.5 else 1.05)
            vein = np.array([(k, 0), (k + 0.12, side * reach)]) * size
            panel.line(_turned(vein, turn, (x, y)), chance)


def house(panel: Panel, chance: np.random.Generator, x: float, y: float, size: float) -> None:
    w, h = size * chance.uniform(0.6, 0.9), size * chance.uniform(0.5, 0.8)
    panel.shape(_box(x - w, y - h, x + w, y + h), chance)
    panel.shape(np.array([(x - w * 1.15, y - h), (x, y - h - size * 0.6), (x + w * 1.15, y - h)]), chance)
    panel.shape(_box(x - w * 0.2, y + h * 0.1, x + w * 0.25, y + h), chance)
    for side in (-0.6, 0.65):
        wx, wy, s = x + side * w, y - h * 0.3, size * 0.16
        panel.shape(_box(wx - s, wy - s, wx + s, wy + s), chance)
        panel.line(np.array([(wx - s, wy), (wx + s, wy)]), chance, closes=True)
        panel.line(np.array([(wx, wy - s), (wx, wy + s)]), chance, closes=True)


def bricks(panel: Panel, chance: np.random.Generator, x: float, y: float, size: float) -> None:
    rows, high, long = int(chance.integers(3, 7)), size * 0.26, size * 0.5
    x0, y0 = x - 1.5 * long, y - rows * high / 2
    panel.shape(_box(x0, y0, x0 + 3 * long, y0 + rows * high), chance)
    for row in range(rows):
        top = y0 + row * high
        if row:
            panel.line(np.array([(x0, top), (x0 + 3 * long, top)]), chance, closes=True)
        for k in range(1, 4):
            at = x0 + (k - 0.5 * (row % 2)) * long
            if at < x0 + 3 * long - 0.1:
                panel.line(np.array([(at, top), (at, top + high)]), chance, closes=True)


def scaled(panel: Panel, chance: np.random.Generator, x: float, y: float, size: float) -> None:
    """A fish or roof of overlapping scales."""
    s = size * chance.uniform(0.16, 0.26)
    for row in range(6, -1, -1):
        for k in range(-2, 3):
            cx, cy = x + (k + 0.5 * (row % 2)) * 2 * s, y + (row - 3) * s
            panel.shape(_oval(cx, cy, s, s * 1.1), chance)
    panel.shape(_oval(x - size * 0.75, y, size * 0.45, size * 0.55), chance)
    panel.shape(_oval(x - size * 0.85, y - size * 0.1, size * 0.09, size * 0.09), chance)


def rosette(panel: Panel, chance: np.random.Generator, x: float, y: float, size: float) -> None:
    """Rings cut by spokes."""
    radii = np.linspace(size, size * 0.25, chance.integers(3, 6))
    for r in radii:
        panel.shape(_oval(x, y, r, r), chance)
        count = int(chance.integers(6, 14))
        inner = r - (radii[0] - radii[1])
        for turn in np.arange(count) / count * 2 * np.pi + chance.uniform(0, 1):
            far = np.array([np.cos(turn), np.sin(turn)])
            panel.line(np.array([(x, y) + far * max(inner, 0.1 * size), (x, y) + far * r]), chance, closes=True)
    panel.shape(_oval(x, y, radii[-1], radii[-1]), chance)


def banded(panel: Panel, chance: np.random.Generator, x: float, y: float, size: float) -> list[float]:
    """A pot or balloon with bands; returns how high they lie, as shares of its size."""
    panel.shape(_oval(x, y, size * 0.75, size), chance)
    levels = np.linspace(-0.75, 0.75, chance.integers(4, 8)).tolist()
    for low in levels:
        half = 0.75 * np.sqrt(max(0.02, 1 - low**2))
        bend = 0.1 * np.cos(np.linspace(-np.pi / 2, np.pi / 2, 20))
        band = np.stack([np.linspace(-half, half, 20), low + bend - 0.02], axis=1) * size + (x, y)
        panel.line(band, chance, closes=True)
    return levels


def pot(panel: Panel, chance: np.random.Generator, x: float, y: float, size: float) -> None:
    """The same, some with a zigzag that ends short of the rim."""
    levels = banded(panel, chance, x, y, size)
    if chance.random() < 0.6:
        step = levels[1] - levels[0]
        half = 0.7 * np.sqrt(1 - max(abs(levels[1]), abs(levels[2])) ** 2 * 0.98)
        zig = np.stack([np.linspace(-half, half, 9), levels[1] + 0.08 + step * 0.75 * (np.arange(9) % 2)], axis=1)
        panel.line(zig * size + (x, y), chance)


def star(panel: Panel, chance: np.random.Generator, x: float, y: float, size: float) -> None:
    count, turn = int(chance.integers(5, 9)), chance.uniform(0, 1)
    angles = np.arange(2 * count) * np.pi / count + turn
    radii = np.where(np.arange(2 * count) % 2, 0.45, 0.9) * size * 0.8
    tips = np.stack([np.cos(angles), np.sin(angles)], axis=1) * radii[:, None] + (x, y)
    panel.shape(_fine(tips), chance)
    if chance.random() < 0.5:
        for tip in tips:
            panel.line(np.array([(x, y), tip]), chance, closes=True)


def hair(panel: Panel, chance: np.random.Generator, x: float, y: float, size: float) -> None:
    """A head with long locks: thin strips side by side."""
    count = int(chance.integers(5, 10))
    t = np.linspace(0, 1, 24)
    edges = np.linspace(-0.8, 0.8, count + 1)
    left = [np.stack([e + 0.15 * np.sin(4 * t + e), 1.6 * t - 0.6], axis=1) * size + (x, y) for e in edges]
    panel.shape(np.concatenate([left[0], left[-1][::-1]]), chance)
    for edge in left[1:-1]:
        panel.line(edge, chance, closes=True)
    panel.shape(_oval(x, y - 0.6 * size, size * 0.82, size * 0.5), chance)
    for side in (-0.3, 0.3):
        panel.shape(_oval(x + side * size, y - 0.6 * size, size * 0.1, size * 0.12), chance)


def berries(panel: Panel, chance: np.random.Generator, x: float, y: float, size: float) -> None:
    for _ in range(chance.integers(6, 16)):
        dx, dy = chance.normal(0, 0.4, 2) * size
        r = size * chance.uniform(0.1, 0.22)
        panel.shape(_oval(x + dx, y + dy, r, r), chance)
        if r > 1.2:
            glint = _oval(x + dx - r * 0.35, y + dy - r * 0.35, r * 0.22, r * 0.22)
            panel.shape(glint, chance, hides=False)


def feather(panel: Panel, chance: np.random.Generator, x: float, y: float, size: float) -> None:
    turn, count = chance.uniform(0, 2 * np.pi), int(chance.integers(4, 8))
    for k in range(count):
        at = (k / count - 0.5) * 1.5
        for side in (1, -1):
            lobe = _turned(_drop(size * 0.5, size * 0.16), side * 0.9, (at * size, 0))
            panel.shape(_turned(lobe, turn, (x, y)), chance)
    shaft = np.array([(-1.0, 0.03), (0.9, 0.03), (0.9, -0.03), (-1.0, -0.03)]) * size
    panel.shape(_turned(_fine(shaft), turn, (x, y)), chance)


def quilt(panel: Panel, chance: np.random.Generator, x: float, y: float, size: float) -> None:
    """Tiles, some of them tiny."""
    rows, cols = int(chance.integers(3, 6)), int(chance.integers(3, 6))
    xs = np.cumsum(np.concatenate([[0], chance.uniform(0.6, 1.6, cols)]))
    ys = np.cumsum(np.concatenate([[0], chance.uniform(0.6, 1.6, rows)]))
    xs, ys = (xs / xs[-1] - 0.5) * 1.5 * size + x, (ys / ys[-1] - 0.5) * 1.5 * size + y
    for i in range(rows):
        for j in range(cols):
            panel.shape(_fine(_box(xs[j], ys[i], xs[j + 1], ys[i + 1])), chance)
            if chance.random() < 0.3:
                panel.line(np.array([(xs[j], ys[i]), (xs[j + 1], ys[i + 1])]), chance, closes=True)


THINGS: Sequence[Thing] = (
    flower, leaf, house, bricks, scaled, rosette, pot, star, hair, berries, feather, quilt,
)  # fmt: skip
CLOSING: Sequence[Thing] = (flower, star, rosette, quilt, bricks, hair, scaled, house, banded)


def _at(line: Points, along: NDArray[np.float64], where: float) -> tuple[float, float]:
    return float(np.interp(where, along, line[:, 0])), float(np.interp(where, along, line[:, 1]))


def _box(left: float, top: float, right: float, bottom: float) -> Points:
    return np.array([(left, top), (right, top), (right, bottom), (left, bottom)])


def _oval(x: float, y: float, across: float, down: float) -> Points:
    t = np.linspace(0, 2 * np.pi, 48, endpoint=False)
    return np.stack([x + across * np.cos(t), y + down * np.sin(t)], axis=1)


def _drop(reach: float, wide: float) -> Points:
    """A petal from the origin along x."""
    t = np.linspace(0, np.pi, 24)
    upper = np.stack([reach * (1 - np.cos(t)) / 2, wide * np.sin(t) * (0.6 + 0.5 * (1 - np.cos(t)) / 2)], axis=1)
    return np.concatenate([upper, (upper * (1, -1))[::-1]])


def _fine(points: Points) -> Points:
    """More points along straight sides."""
    ring = np.concatenate([points, points[:1]])
    return np.concatenate([np.linspace(a, b, 8, endpoint=False) for a, b in pairwise(ring)])


def _turned(points: Points, angle: float, to: tuple[float, float]) -> Points:
    c, s = np.cos(angle), np.sin(angle)
    return np.asarray(points @ np.array([(c, s), (-s, c)]) + np.array(to))
