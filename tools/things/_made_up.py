"""Things nobody has a name for: a body, a pattern on it and what hangs about it, put together by chance.

They are for fitting only, so that the networks learn what lines do and not what some dozens of kinds look like. What
is one surface and what is alike follows the same rules as in `_kinds`.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, replace
from itertools import pairwise

import numpy as np

from tools.things._canvas import Canvas, Mask, Place, Points, band, box, dense, petal, turned
from tools.things._kinds import Kind, star

Chance = np.random.Generator
LEVELS = 40
"""In how many heights an outline's two sides are told."""


# Outlines, each about as large as a circle of radius 1.


def _rounded(chance: Chance) -> Points:
    """From diamond over circle to box."""
    angle = np.linspace(0, 2 * np.pi, 64, endpoint=False)
    sharp = float(chance.choice([0.8, 1.0, 1.0, 1.5, 3.0]))
    cos, sin = np.cos(angle), np.sin(angle)
    return np.stack([np.sign(cos) * np.abs(cos) ** (1 / sharp), np.sign(sin) * np.abs(sin) ** (1 / sharp)], axis=1)


def _lumpy(chance: Chance) -> Points:
    angle = np.linspace(0, 2 * np.pi, 72, endpoint=False)
    reach = np.ones(72)
    for wave in range(2, int(chance.integers(3, 8))):
        reach += chance.normal(0, 0.18 / wave**0.5) * np.cos(wave * angle + chance.uniform(0, 7))
    return np.stack([reach * np.cos(angle), reach * np.sin(angle)], axis=1)


def _cornered(chance: Chance) -> Points:
    n = int(chance.integers(3, 8))
    loose = float(chance.choice([0.0, 0.1, 0.3]))
    angle = (np.arange(n) + chance.uniform(-loose, loose, n)) * 2 * np.pi / n - np.pi / 2
    reach = chance.uniform(1 - loose, 1, n)
    return dense(np.stack([reach * np.cos(angle), reach * np.sin(angle)], axis=1))


def _leafy(chance: Chance) -> Points:
    return petal(-1, 0, 2, chance.uniform(0.6, 1.6), 0.0, point=chance.uniform(0.6, 1.6))


def _lathed(chance: Chance) -> Points:
    """A vase, a bell, a bottle, a pawn: wider and narrower from top to bottom."""
    knots = np.linspace(-1, 1, int(chance.integers(2, 6)))
    wide = chance.uniform(0.25, 1.0, len(knots))
    y = np.linspace(-1, 1, 30)
    half = np.interp(y, knots, wide)
    if chance.random() < 0.6:
        half = np.convolve(np.pad(half, 4, mode="edge"), np.ones(9) / 9, mode="valid")
    if chance.random() < 0.4:
        half = half * np.sqrt(np.clip(1 - y**8, 0.02, 1))
    return np.concatenate([np.stack([half, y], axis=1), np.stack([-half, y], axis=1)[::-1]])


def _domed(chance: Chance) -> Points:
    """Round above, flat, scalloped or jagged below."""
    t = np.linspace(0, np.pi, 30)
    top = np.stack([-np.cos(t), -np.sin(t) * chance.uniform(0.6, 1.4) + 0.4], axis=1)
    foot, n = np.linspace(1, -1, 37), int(chance.integers(2, 8))
    depth = float(chance.choice([0.0, 0.0, 0.1, 0.2]))
    below = 0.4 + depth * np.abs(np.sin(np.pi * n * (foot + 1) / 2)) * chance.choice([-1, 1])
    return np.concatenate([top, np.stack([foot, below], axis=1)[1:-1]])


def _bent(chance: Chance) -> Points:
    t = np.linspace(-1, 1, 40)
    bend = chance.uniform(0, 0.5) * np.sin(chance.uniform(1, 4) * t + chance.uniform(0, 7))
    ends = chance.uniform(0.1, 0.8, 2)
    return band(np.stack([t, bend], axis=1), np.linspace(*ends, 40))


def _starry(chance: Chance) -> Points:
    return star(0, 0, 1, chance.uniform(0, 2), int(chance.integers(4, 9)))


def _moon(chance: Chance) -> Points:
    t, away = np.linspace(-1, 1, 30) * chance.uniform(1.6, 2.4), chance.uniform(0.1, 0.5)
    outer = np.stack([np.cos(t), np.sin(t)], axis=1)
    return np.concatenate([outer, (outer * (away, 1.0) - (0.1, 0))[::-1]])


OUTLINES: tuple[Callable[[Chance], Points], ...] = (
    _rounded, _rounded, _lumpy, _cornered, _leafy, _lathed, _lathed, _domed, _bent, _starry, _moon,
)  # fmt: skip


def outline(chance: Chance, *, slim: float = 0.5) -> Points:
    """Some outline, from `slim` as wide as high to the other way round, turned in some way."""
    points = OUTLINES[int(chance.integers(len(OUTLINES)))](chance)
    points = points - (points.min(axis=0) + points.max(axis=0)) / 2
    points = points / np.abs(points).max(axis=0) * (chance.uniform(slim, 1.0), chance.uniform(slim, 1.0))
    return turned(points, float(chance.choice([0.0, 0.0, 0.0, np.pi / 2, np.pi, chance.uniform(0, 7)])))


def _sides(body: Points) -> tuple[Points, Points, Points]:
    """Heights, and how far left and right the outline reaches at each."""
    ring = np.concatenate([body, body[:1]])
    heights = np.linspace(body[:, 1].min(), body[:, 1].max(), LEVELS)
    left, right = np.full(LEVELS, np.inf), np.full(LEVELS, -np.inf)
    for (x0, y0), (x1, y1) in pairwise(ring):
        crossed = (heights >= min(y0, y1)) & (heights <= max(y0, y1))
        share = (heights[crossed] - y0) / (y1 - y0) if abs(y1 - y0) > 1e-9 else np.zeros(int(crossed.sum()))
        at = x0 + share * (x1 - x0)
        left[crossed], right[crossed] = np.minimum(left[crossed], at), np.maximum(right[crossed], at)
    return heights, left, right


# Patterns on a body: its own group as a surface, its mask, and the sort it was drawn as.


@dataclass(frozen=True)
class Body:
    place: Place
    outline: Points
    mask: Mask
    surface: int
    sort: int

    def piece(self, points: Points, alike: int | None, *, own: bool = False) -> Mask:
        """Part of the body's surface, or a thing of its own on it."""
        return self.place.draw(points, part=None if own else self.surface, alike=alike, within=self.mask)


def _sorts(body: Body, chance: Chance) -> list[int]:
    """One sort, that of the body, or two in turn."""
    return [body.sort] if chance.random() < 0.5 else [body.sort, body.place.canvas.group()]


def gores(body: Body, chance: Chance) -> None:
    heights, left, right = _sides(body.outline)
    n, sorts = int(chance.integers(3, 9)), _sorts(body, chance)
    shares = np.linspace(-1, 1, n + 1)
    if chance.random() < 0.6:
        shares = np.sin(shares * np.pi / 2)
    middle, half = (left + right) / 2, (right - left) / 2
    edges = [np.stack([middle + 1.03 * share * half, heights], axis=1) for share in shares]
    for k, (a, b) in enumerate(pairwise(edges)):
        body.piece(np.concatenate([a, b[::-1]]), sorts[k % len(sorts)])


def nested(body: Body, chance: Chance) -> None:
    """Ribs: the outline again and again, narrower."""
    n = int(chance.integers(1, 4))
    ways = np.array([[1.0, 0.0], [0.0, 1.0]])[int(chance.integers(2))]
    for k in range(n):
        body.piece(body.outline * (1 - ways * (k + 1) / (n + 1)), body.sort)


def bands(body: Body, chance: Chance) -> None:
    n, sorts = int(chance.integers(2, 9)), _sorts(body, chance)
    levels = np.cumsum([0.0, *(chance.uniform(0.6, 1.4) if k % 2 else 1.0 for k in range(n))])
    levels = levels / levels[-1] * 2.4 - 1.2
    x = np.linspace(-1.4, 1.4, 30)
    bend, turn = chance.uniform(-0.4, 0.4) * (1 - x**2), float(chance.choice([0.0, 0.0, chance.uniform(-0.9, 0.9)]))
    for k, (top, low) in enumerate(pairwise(levels)):
        piece = np.concatenate([np.stack([x, top + bend], axis=1), np.stack([x, low + bend], axis=1)[::-1]])
        body.piece(turned(piece, turn), sorts[k % len(sorts)])


def ridges(body: Body, chance: Chance) -> None:
    """Hills or waves one before the other: no two lines run alike, and each is a thing of its own."""
    x, n = np.linspace(-1.4, 1.4, 40), int(chance.integers(2, 6))
    for level in np.linspace(-0.8, 0.8, n) + chance.uniform(-0.3, 0.3, n) / n:
        edge = level + chance.uniform(0.05, 0.5) / n * np.sin(chance.uniform(1, 5) * x + chance.uniform(0, 7))
        below = np.concatenate([np.stack([x, edge], axis=1), [[1.4, 2.0], [-1.4, 2.0]]])
        body.piece(below, body.place.canvas.group(), own=True)


def belts(body: Body, chance: Chance) -> None:
    """Strips of another sort across it, each one surface, as a ribbon round a box."""
    sort = body.place.canvas.group()
    for turn in chance.permutation([0.0, np.pi / 2, chance.uniform(0, 3)])[: int(chance.integers(1, 3))]:
        bend = np.linspace(-1.5, 1.5, 30)
        spine = np.stack([bend, chance.uniform(-0.4, 0.4) + chance.uniform(-0.2, 0.2) * bend**2], axis=1)
        body.piece(turned(band(spine, chance.uniform(0.1, 0.4)), turn), sort, own=True)


def tiled(body: Body, chance: Chance) -> None:
    """Boxes, bricks or diamonds, cut by the outline."""
    wide, turn = chance.uniform(0.25, 0.6), float(chance.choice([0.0, 0.0, chance.uniform(0, 3)]))
    high, slip = wide * chance.uniform(0.4, 1.3), float(chance.choice([0.0, 0.5]))
    diamond = chance.random() < 0.35
    for i in range(-int(1.5 / high) - 1, int(1.5 / high) + 2):
        for j in range(-int(1.5 / wide) - 1, int(1.5 / wide) + 2):
            if diamond:
                at = (j + 0.5 * (i % 2)) * wide, i * high / 2
                tile = dense(np.array([[0.0, -high], [wide, 0.0], [0.0, high], [-wide, 0.0]]) / 2 + at, 3)
            else:
                left, top = (j + slip * (i % 2)) * wide, i * high
                tile = box(left, top, left + wide, top + high)
            tile = turned(tile, turn)
            if np.abs(tile).min(axis=0).max() < 1.05:
                body.piece(tile, body.sort, own=True)


def sectors(body: Body, chance: Chance) -> None:
    """From a middle, each a thing of its own; or from a point of the rim, ribs of one surface."""
    from_rim, n = chance.random() < 0.5, int(chance.integers(5, 13))
    pole = body.outline[int(chance.integers(len(body.outline)))] if from_rim else chance.uniform(-0.15, 0.15, 2)
    ways = np.arctan2(*(body.outline - pole).T[::-1])
    ways = np.sort(ways[np.hypot(*(body.outline - pole).T) > 0.2])
    rays = np.interp(np.linspace(0, 1, n + 1), np.linspace(0, 1, len(ways)), ways) if from_rim else (
        np.linspace(0, 2 * np.pi, n + 1) + chance.uniform(0, 7)
    )  # fmt: skip
    for a, b in pairwise(rays):
        if b - a < 0.12 or b - a > 2.0:
            continue
        arc = np.linspace(a, b, 6)
        rim = pole + 3 * np.stack([np.cos(arc), np.sin(arc)], axis=1)
        body.piece(np.concatenate([[pole], rim]), body.sort, own=not from_rim)


def overlapping(body: Body, chance: Chance) -> None:
    """Rows of scales, each row before the last."""
    wide, sort = chance.uniform(0.3, 0.6), body.place.canvas.group()
    high = wide * chance.uniform(0.6, 1.1)
    scale = outline(chance, slim=0.7) * (0.56 * wide, 0.62 * high * 1.3)
    rows = range(-int(1.3 / high) - 1, int(1.3 / high) + 2)
    for i in rows if chance.random() < 0.3 else reversed(rows):
        for j in range(-int(1.3 / wide) - 1, int(1.3 / wide) + 2):
            at = np.array([(j + 0.5 * (i % 2)) * wide, i * high])
            if np.abs(at).max() < 1.1:
                body.piece(scale + at, sort, own=True)


def strewn(body: Body, chance: Chance) -> None:
    sort, mark = body.place.canvas.group(), outline(chance)
    for _ in range(int(chance.integers(2, 12))):
        at, turn = chance.uniform(-0.9, 0.9, 2), chance.uniform(0, 7) if chance.random() < 0.3 else 0.0
        body.piece(turned(mark * chance.uniform(0.09, 0.2), turn) + at, sort, own=True)


def in_a_ring(body: Body, chance: Chance) -> None:
    """Plates, petals or holes on it, round its middle."""
    sort, mark, n = body.place.canvas.group(), outline(chance), int(chance.integers(4, 11))
    reach, large = chance.uniform(0.35, 0.7), chance.uniform(0.1, 0.22) * 8 / n
    for k in range(n):
        angle = 2 * np.pi * k / n
        body.piece(turned(mark * large + (reach, 0), angle), sort, own=True)
    if chance.random() < 0.5:
        body.piece(outline(chance) * chance.uniform(0.12, 0.25), None, own=True)


def rimmed(body: Body, chance: Chance) -> None:
    """Another outline in it, with a pattern of its own now and then."""
    inner = body.outline * chance.uniform(0.6, 0.88) if chance.random() < 0.6 else outline(chance) * 0.55
    surface, sort = body.place.canvas.group(), body.place.canvas.group()
    mask = body.place.draw(inner, part=surface, alike=sort, within=body.mask)
    if chance.random() < 0.5:
        decorate(replace(body, outline=inner, mask=mask, surface=surface, sort=sort), chance)


def zigzag(body: Body, chance: Chance) -> None:
    """Its upper or lower part of another sort, parted by a ragged or wavy line."""
    x, level = np.linspace(-1.4, 1.4, 33), chance.uniform(-0.4, 0.4)
    deep = chance.uniform(0.03, 0.15)
    edge = level + deep * ((np.arange(33) // 2 % 2) if chance.random() < 0.5 else np.sin(x * chance.uniform(6, 14)))
    far = -2.0 if chance.random() < 0.7 else 2.0
    above = np.concatenate([np.stack([x, edge], axis=1), [[1.4, far], [-1.4, far]]])
    body.piece(above, body.place.canvas.group(), own=True)


PATTERNS: tuple[Callable[[Body, Chance], None], ...] = (
    gores, gores, nested, bands, ridges, ridges, belts, belts, tiled, sectors, overlapping, strewn, strewn, in_a_ring,
    rimmed, rimmed, zigzag,
)  # fmt: skip


def decorate(body: Body, chance: Chance) -> None:
    PATTERNS[int(chance.integers(len(PATTERNS)))](body, chance)


# What is drawn more than once, and how the copies stand.


@dataclass(frozen=True)
class Copy:
    dx: float
    dy: float
    size: float
    turn: float = 0.0
    mirrored: bool = False


def _round_a_middle(chance: Chance) -> list[Copy]:
    n, reach = int(chance.integers(4, 13)), chance.uniform(0.5, 1.0)
    size, begin = reach * chance.uniform(2.2, 4.5) / n, chance.uniform(0, 7)
    return [
        Copy(reach * np.cos(a), reach * np.sin(a), min(size, 0.5), a)
        for a in begin + np.arange(n) * 2 * np.pi / n
    ]  # fmt: skip


def _left_and_right(chance: Chance) -> list[Copy]:
    copies = []
    for _ in range(int(chance.integers(1, 3))):
        dx, dy, size = chance.uniform(0.15, 0.9), chance.uniform(-0.9, 0.9), chance.uniform(0.1, 0.5)
        turn = float(chance.choice([0.0, chance.uniform(-1.5, 1.5)]))
        copies += [Copy(dx, dy, size, turn), Copy(-dx, dy, size, -turn, mirrored=True)]
    return copies


def _in_a_row(chance: Chance) -> list[Copy]:
    n, dy, bend = int(chance.integers(2, 9)), chance.uniform(-1.0, 1.0), chance.uniform(-0.3, 0.3)
    half = chance.uniform(0.4, 1.0)
    size = half / n * chance.uniform(0.7, 1.4)
    return [Copy(t * half, dy + bend * t**2, size) for t in np.linspace(-1, 1, n)]


def _in_a_stack(chance: Chance) -> list[Copy]:
    """Each smaller than the last, partly before or behind it."""
    n, shrink = int(chance.integers(2, 6)), chance.uniform(0.7, 1.0)
    sizes = 0.45 * shrink ** np.arange(n)
    ups = np.concatenate([[0.0], np.cumsum((sizes[1:] + sizes[:-1]) * chance.uniform(0.4, 0.8))])
    turn = float(chance.choice([0.0, 0.0, np.pi / 2, np.pi]))
    at = turned(np.stack([np.zeros(n), 0.6 - ups], axis=1), turn)
    return [Copy(x, y, size) for (x, y), size in zip(at.tolist(), sizes.tolist(), strict=True)]


def _along_a_line(chance: Chance) -> list[Copy]:
    n = int(chance.integers(4, 10))
    t = np.linspace(-1, 1, n)
    bend = chance.uniform(0, 0.5) * np.sin(chance.uniform(1, 4) * t + chance.uniform(0, 7))
    size = chance.uniform(0.7, 1.3) / n
    return [Copy(x, y, size) for x, y in turned(np.stack([t, bend], axis=1), chance.uniform(0, 3)).tolist()]


def _in_rows(chance: Chance) -> list[Copy]:
    """Waves, roof tiles, a crowd: rows before each other."""
    rows, cols = int(chance.integers(2, 5)), int(chance.integers(2, 6))
    size, slip = chance.uniform(0.8, 1.25) / cols, float(chance.choice([0.0, 0.5]))
    return [
        Copy(2 * (j + slip * (i % 2) + 0.5) / cols - 1, chance.uniform(0.5, 0.9) * (2 * i / rows - 0.7), size)
        for i in range(rows) for j in range(cols)
    ]  # fmt: skip


def _strewn_about(chance: Chance) -> list[Copy]:
    n = int(chance.integers(3, 10))
    size = chance.uniform(0.1, 0.3)
    return [Copy(*chance.uniform(-0.9, 0.9, 2), size * chance.uniform(0.8, 1.2)) for _ in range(n)]


def _alone(chance: Chance) -> list[Copy]:
    return [Copy(*chance.uniform(-0.8, 0.8, 2), chance.uniform(0.12, 0.6), chance.uniform(0, 7))]


STANDS: tuple[Callable[[Chance], list[Copy]], ...] = (
    _round_a_middle, _round_a_middle, _left_and_right, _left_and_right, _in_a_row, _in_a_row, _in_a_stack,
    _along_a_line, _in_rows, _strewn_about, _alone, _alone,
)  # fmt: skip


def repeated(place: Place, chance: Chance) -> None:
    """Some outline in several copies of one sort; a mark or a pattern on each is alike on all."""
    copies = STANDS[int(chance.integers(len(STANDS)))](chance)
    shape, sort = outline(chance), place.canvas.group()
    marked, mark = chance.random() < 0.3, outline(chance) * chance.uniform(0.25, 0.6)
    mark = mark + chance.uniform(-0.3, 0.3, 2)
    marks = place.canvas.group()
    patterned, pattern = len(copies) < 5 and chance.random() < 0.3, int(chance.integers(2**31))
    for one in copies:
        here = place.within(one.dx, one.dy, one.size, turn=one.turn, mirrored=one.mirrored)
        surface = place.canvas.group()
        mask = here.draw(shape, part=surface, alike=sort)
        if marked:
            here.draw(mark, alike=marks, within=mask)
        elif patterned:
            decorate(Body(here, shape, mask, surface, sort), np.random.default_rng(pattern))


def bodied(place: Place, chance: Chance) -> None:
    """One large outline, mostly with a pattern."""
    shape = outline(chance, slim=0.6) * chance.uniform(0.5, 0.9)
    here = place.within(*chance.uniform(-0.2, 0.2, 2), 1.0)
    surface, sort = place.canvas.group(), place.canvas.group()
    mask = here.draw(shape, part=surface, alike=sort)
    scale = float(np.abs(shape).max())
    own = replace(here, size=here.size * scale)
    if chance.random() < 0.85:
        decorate(Body(own, shape / scale, mask, surface, sort), chance)


def made_up(design: tuple[int, int]) -> Kind:
    """The kind of this number: always the same design."""

    def draw(canvas: Canvas, x: float, y: float, size: float) -> None:
        chance = np.random.default_rng(design)
        place = Place(canvas, x, y, size, float(chance.choice([0.0, 0.0, chance.uniform(-0.5, 0.5)])))
        layers = [bodied] * int(chance.integers(1, 3)) + [repeated] * int(chance.integers(0, 4))
        for layer in chance.permutation(len(layers)):
            layers[int(layer)](place, chance)

    return draw


def made_up_kinds(seed: int, number: int) -> dict[str, Kind]:
    """So many kinds for the drawing of this number."""
    return {f"made up {k}": made_up((seed, k)) for k in range(number)}
