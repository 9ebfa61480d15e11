"""Whole scenes: figures that stand before, on and beside each other, with strokes that bound nothing."""

from __future__ import annotations

from itertools import pairwise

import numpy as np

from tools.things._canvas import Canvas, Mask, Place, Points, band, box, circle, dense, petal, turned
from tools.things._figures import FIGURES, FLOWERS, RING, blob, cloud, creature, curve, pot, stalk, strewn, toy_balloon
from tools.things._kinds import Kind

ROOMY = 150.0
"""From what size in px a scene has room for many figures."""


def _many(p: Place, few: int, many: int) -> int:
    """By chance between the two, nearer to few where there is little room."""
    return int(p.canvas.chance.integers(few, (many if p.size > ROOMY else (few + many) // 2) + 1))


def _spots(p: Place, n: int, top: float, low: float) -> Points:
    return p.canvas.chance.uniform((-0.95, top), (0.95, low), (n, 2))


def _stand(p: Place, at: Points, size: float) -> None:
    """Any figure, its foot at a spot."""
    chance = p.canvas.chance
    figure = FIGURES[int(chance.integers(0, len(FIGURES)))]
    figure(p.within(at[0], at[1] - size, size, mirrored=bool(chance.random() < 0.5)))


def bunch(c: Canvas, x: float, y: float, size: float) -> None:
    """Flowers and buds on long stems that cross on their way into a pot on a table."""
    p, chance = Place(c, x, y, 1.15 * size), c.chance
    if chance.random() < 0.6:
        p.draw(box(-1, 0.85, 1, 1.0))
    green, heads = c.group(), []
    for _ in range(_many(p, 2, 6)):
        top = np.array([chance.uniform(-0.8, 0.8), chance.uniform(-0.8, -0.2)])
        foot = np.array([chance.uniform(-0.18, 0.18), 0.6])
        bend = (top + foot) / 2 + chance.normal(0, 0.1, 2)
        stalk(p, curve([tuple(foot), tuple(bend), tuple(top)]), chance.uniform(0.03, 0.07), green)
        heads.append(top)
    for top in heads:
        flower = FLOWERS[int(chance.integers(0, len(FLOWERS)))]
        turn = np.arctan2(top[0], 0.6 - top[1])
        flower(p.within(*top, chance.uniform(0.16, 0.32), turn=turn))
    pot(p.within(0, 0.6, 0.32))
    strewn(p, _spots(p, _many(p, 0, 8), -0.9, 0.3))


def hillside(c: Canvas, x: float, y: float, size: float) -> None:
    """Hills one before the other, cut by what stands on them; clouds or stars over them."""
    p, chance = Place(c, x, y, size), c.chance
    within: Mask | None = None
    if chance.random() < 0.5:
        within = p.draw(box(-1, -0.9, 1, 0.9))
    sort = c.group()
    for at in _spots(p, _many(p, 0, 3), -0.75, -0.4):
        cloud(p.within(*at, chance.uniform(0.15, 0.3)), within, sort)
    if chance.random() < 0.5:
        strewn(p, _spots(p, _many(p, 2, 9), -0.8, -0.3), within)
    n = _many(p, 1, 3)
    for k in range(n):
        t = np.linspace(-1, 1, 60)
        level = -0.1 + 0.7 * k / n
        ridge = level + 0.12 * np.sin(chance.uniform(1.5, 4) * t + chance.uniform(0, 7)) + chance.uniform(-0.1, 0.1) * t
        hill = np.concatenate([np.stack([t, ridge], axis=1), [[1.0, 0.9], [-1.0, 0.9]]])
        p.draw(hill, within=within)
        for at in np.sort(chance.uniform(-0.8, 0.8, _many(p, 0, 3))):
            foot = float(np.interp(at, t, ridge)) + chance.uniform(0.05, 0.2)
            _stand(p, np.array([at, foot]), chance.uniform(0.14, 0.3))


def shelf(c: Canvas, x: float, y: float, size: float) -> None:
    """Boards, and on them books in a row, figures before them."""
    p, chance, boards = Place(c, x, y, size), c.chance, c.group()
    rows = _many(p, 1, 2)
    if chance.random() < 0.4:
        p.draw(box(-1, -0.95, 1, 0.95))
    for row in range(rows):
        low, high = -0.9 + 1.8 * (row + 1) / rows, 1.5 / rows
        p.draw(box(-1, low - 0.08, 1, low + 0.04), alike=boards)
        left = -0.95 + chance.uniform(0, 0.3)
        even = chance.random() < 0.4
        wide, tall, sort = chance.uniform(0.08, 0.16), high * chance.uniform(0.4, 0.7), c.group()
        for _ in range(_many(p, 2, 8)):
            if not even:
                wide, tall, sort = chance.uniform(0.07, 0.18), high * chance.uniform(0.35, 0.75), c.group()
            p.draw(box(left, low - 0.08 - tall, left + wide, low - 0.08), alike=sort)
            if chance.random() < 0.3:
                p.line(np.array([[left + 0.3 * wide, low - tall], [left + 0.7 * wide, low - tall]]))
            left += wide
        for at in chance.uniform(-0.7, 0.8, int(chance.integers(0, 3))):
            _stand(p, np.array([at, low - 0.06]), high * chance.uniform(0.2, 0.4))


def pond(c: Canvas, x: float, y: float, size: float) -> None:
    """Water with round leaves that have a notch, reeds that cut each other, rings of waves, a creature before it."""
    p, chance, pads, reeds, cobs = (Place(c, x, y, size), c.chance, *(c.group() for _ in range(3)))
    p.draw(np.stack([np.cos(RING), 0.45 * np.sin(RING) + 0.4], axis=1))
    if chance.random() < 0.5:
        p.draw(np.stack([0.7 * np.cos(RING), 0.3 * np.sin(RING) + 0.42], axis=1))
    notch = np.linspace(0.35, 2 * np.pi - 0.35, 40)
    for at in chance.uniform((-0.7, 0.2), (0.7, 0.65), (_many(p, 1, 5), 2)):
        r, turn = chance.uniform(0.12, 0.22), chance.uniform(0, 7)
        rim = np.stack([np.cos(notch + turn), 0.5 * np.sin(notch + turn)], axis=1) * r
        p.draw(np.concatenate([[[0.0, 0.0]], rim]) + at, alike=pads)
    for at in chance.uniform(-0.95, 0.95, _many(p, 2, 6)):
        top = at + chance.uniform(-0.2, 0.2), chance.uniform(-0.9, -0.5)
        spine = curve([(at, 0.4), ((at + top[0]) / 2 + 0.05, -0.2), top])
        p.draw(band(spine, np.linspace(0.07, 0.03, len(spine))), alike=reeds)
        if chance.random() < 0.4:
            p.draw(circle(*top, 0.16, squash=0.35, turn=np.pi / 2), alike=cobs)
    if chance.random() < 0.5:
        creature(p.within(chance.uniform(-0.5, 0.5), 0.5, 0.35))


def wreath(c: Canvas, x: float, y: float, size: float) -> None:
    """A ring of leaves in turn outwards and inwards over a hoop, flowers and berries on it, a bow of two loops."""
    p, chance, leaves, fruit = Place(c, x, y, size), c.chance, c.group(), c.group()
    hoop = np.stack([0.72 * np.cos(RING), 0.72 * np.sin(RING)], axis=1)
    if chance.random() < 0.5:
        p.draw(hoop * 1.04)
        p.draw(hoop * 0.94)
    n = _many(p, 8, 22)
    for k in range(n):
        angle = 2 * np.pi * k / n
        way = angle + np.pi / 2 + (0.6 if k % 2 else -0.6) + chance.normal(0, 0.05)
        spot = 0.72 * np.cos(angle), 0.72 * np.sin(angle)
        p.draw(petal(*spot, 0.42, 0.2, way, point=1.1), alike=leaves)
        if chance.random() < 0.3:
            p.line(turned(np.array([[0.05, 0.0], [0.3, 0.0]]), way, *spot))
    for _ in range(_many(p, 0, 9)):
        angle = chance.uniform(0, 7)
        p.draw(circle(0.72 * np.cos(angle), 0.72 * np.sin(angle), 0.07), alike=fruit)
    flower = FLOWERS[int(chance.integers(0, len(FLOWERS)))]
    for angle in chance.uniform(0.5, 2.6, int(chance.integers(0, 4))):
        flower(p.within(0.72 * np.cos(angle), -0.72 * np.sin(angle), 0.22))
    if chance.random() < 0.6:
        loops, ends = c.group(), c.group()
        for side in (-1, 1):
            p.draw(curve([(0, 0.72), (0.15 * side, 1.1), (0.3 * side, 1.05), (0.05 * side, 0.7)]), alike=ends)
        for side in (-1, 1):
            p.draw(circle(0.2 * side, 0.72, 0.2, squash=0.6, turn=0.4 * side), alike=loops)
        p.draw(circle(0, 0.72, 0.08))


def cluster(c: Canvas, x: float, y: float, size: float) -> None:
    """Toy balloons before each other, held by a creature or by nothing; clouds."""
    p, chance = Place(c, x, y, size), c.chance
    sort, balloons = c.group(), c.group()
    for at in _spots(p, _many(p, 0, 3), -0.8, 0.2):
        cloud(p.within(*at, 0.25), None, sort)
    for at in chance.uniform((-0.6, -0.8), (0.6, 0.0), (_many(p, 2, 7), 2)):
        toy_balloon(p.within(*at, chance.uniform(0.45, 0.6)), balloons)
    if chance.random() < 0.6:
        creature(p.within(0, 0.6, 0.4))


def boat(c: Canvas, x: float, y: float, size: float) -> None:
    """A mast before sails in panels, a hull of strakes, rows of waves before it."""
    p, chance, cloth, hull, water = (Place(c, x, y, size), c.chance, *(c.group() for _ in range(3)))
    two = cloth, (c.group() if chance.random() < 0.4 else cloth)
    for side, wide in ((-1, chance.uniform(0.4, 0.8)), (1, chance.uniform(0.3, 0.9))):
        n, sail = int(chance.integers(1, 5)), c.group()
        edges = np.linspace(-0.85, 0.25, n + 1)
        for k, (a, b) in enumerate(pairwise(edges)):
            reach = [wide * (at + 0.9) / 1.15 + 0.04 for at in (a, b)]
            sheet = np.array([[0.02, a], [reach[0], a], [reach[1], b], [0.02, b]]) * (side, 1)
            p.draw(dense(sheet), part=sail, alike=two[k % 2])
    p.draw(box(-0.035, -0.95, 0.035, 0.4))
    n = int(chance.integers(1, 4))
    for a, b in pairwise(np.linspace(0.3, 0.8, n + 1)):
        left, right = 0.8 - 0.3 * (a - 0.3), 0.8 - 0.3 * (b - 0.3)
        p.draw(dense(np.array([[-left, a], [left, a], [right, b], [-right, b]])), alike=hull)
    ports = c.group()
    for at in np.linspace(-0.5, 0.5, int(chance.integers(0, 6))):
        p.draw(circle(at, 0.5, 0.07), alike=ports)
    t = np.linspace(-1, 1, 90)
    for k in range(_many(p, 1, 3)):
        crest = 0.65 + 0.15 * k + 0.05 * np.abs(np.sin((6 + k) * t + k))
        p.draw(np.concatenate([np.stack([t, crest], axis=1), [[1.0, 1.05], [-1.0, 1.05]]]), alike=water)


def mandala(c: Canvas, x: float, y: float, size: float) -> None:
    """Rings from the rim inwards, of arches, petals, discs or wedges; each ring is of one sort."""
    p, chance = Place(c, x, y, size), c.chance
    n, reach = int(chance.integers(5, 13)), 1.0
    rings = _many(p, 2, 4)
    for ring in range(rings):
        sort, inner = c.group(), reach * (1 - 1 / (rings - ring + 1))
        deep, one = reach - inner, int(chance.integers(0, 4))
        p.draw(circle(0, 0, reach, n=120))
        for k in range(n):
            turn = 2 * np.pi * (k + 0.5 * (ring % 2)) / n
            half = np.pi / n
            if one == 0:
                arc = np.linspace(-half, half, 14)
                wedge = np.concatenate([
                    np.stack([np.cos(arc), np.sin(arc)], axis=1) * reach,
                    np.stack([np.cos(arc), np.sin(arc)], axis=1)[::-1] * inner,
                ])  # fmt: skip
                p.draw(turned(wedge, turn), alike=sort)
            elif one == 1:
                p.draw(
                    petal(inner * np.cos(turn), inner * np.sin(turn), deep, 1.5 * inner * half + 0.1 * deep, turn),
                    alike=sort,
                )
            elif one == 2:
                r = min(0.4 * deep, 0.8 * (inner + deep / 2) * half)
                p.draw(turned(circle(inner + deep / 2, 0, r), turn), alike=sort)
            else:
                bow = np.linspace(-np.pi / 2, np.pi / 2, 16)
                arch = np.stack([inner + 0.85 * deep * np.cos(bow), 0.9 * inner * half * np.sin(bow)], axis=1)
                p.draw(turned(arch, turn), alike=sort)
        reach = inner
    p.draw(circle(0, 0, reach, n=120))


def street(c: Canvas, x: float, y: float, size: float) -> None:
    """Houses wall to wall before a sky; their panes are alike, a road before them."""
    p, chance, panes = Place(c, x, y, size), c.chance, c.group()
    within = p.draw(box(-1, -0.9, 1, 0.9)) if chance.random() < 0.4 else None
    left = -0.95
    while left < 0.8:
        wide, eaves = chance.uniform(0.3, 0.6), chance.uniform(-0.4, 0.1)
        right = min(left + wide, 0.98)
        p.draw(box(left, eaves, right, 0.75), within=within)
        gable = np.array([[left, eaves], [(left + right) / 2, eaves - chance.uniform(0.2, 0.4)], [right, eaves]])
        if chance.random() < 0.3:
            gable = np.array([[left, eaves], [left + 0.05, eaves - 0.2], [right - 0.05, eaves - 0.2], [right, eaves]])
        p.draw(dense(gable), within=within)
        w = (right - left) / 3.5
        for row in range(int(chance.integers(1, 3))):
            for col in (0.6, 2.1):
                at = left + col * w, eaves + 0.1 + 0.3 * row
                p.draw(box(*at, at[0] + 0.8 * w, at[1] + 0.2), alike=panes)
        if chance.random() < 0.7:
            p.draw(box(left + 0.9 * w, 0.5, left + 1.8 * w, 0.75))
        left = right
    p.draw(box(-1, 0.75, 1, 0.9))
    for at in chance.uniform(-0.8, 0.8, int(chance.integers(0, 3))):
        _stand(p, np.array([at, 0.88]), chance.uniform(0.15, 0.25))


def perch(c: Canvas, x: float, y: float, size: float) -> None:
    """An owl on a branch: rows of breast feathers, wings, rings round the eyes; leaves on the branch; a moon behind."""
    p, chance = Place(c, x, y, size), c.chance
    leaves, coat, down, wings, rings, eyes, feet = (c.group() for _ in range(7))
    if chance.random() < 0.5:
        p.draw(circle(0.4, -0.4, 0.55))
    spine = curve([(-1, 0.6), (-0.3, 0.72), (0.4, 0.62), (1, 0.75)])
    p.draw(band(spine, np.linspace(0.2, 0.1, len(spine))))
    for at in chance.integers(5, len(spine) - 5, _many(p, 1, 6)):
        p.draw(petal(*spine[at], 0.35, 0.17, chance.choice([-1, 1]) * chance.uniform(0.7, 1.8)), alike=leaves)
    body = p.draw(circle(0, 0.05, 0.5, squash=1.25), alike=coat)
    rows = _many(p, 2, 4)
    for row in reversed(range(rows)):
        for k in range(-2, 3):
            at = (k + 0.5 * (row % 2)) * 0.17, 0.05 + 0.45 * row / rows
            p.draw(circle(*at, 0.12, squash=1.1), alike=down, within=body)
    for side in (-1, 1):
        p.draw(petal(0.42 * side, -0.2, 0.85, 0.35, np.pi / 2 - 0.15 * side), alike=wings)
        p.draw(dense(np.array([[0.15 * side, -0.5], [0.5 * side, -0.8], [0.48 * side, -0.35]])), alike=coat)
        p.draw(circle(0.2 * side, -0.3, 0.22), alike=rings)
        p.draw(circle(0.2 * side, -0.3, 0.12), alike=eyes)
        p.line(circle(0.2 * side, -0.3, 0.05, n=12), solid=True)
        p.draw(circle(0.2 * side, 0.65, 0.12, squash=0.6), alike=feet)
    p.draw(dense(np.array([[-0.06, -0.22], [0.06, -0.22], [0, -0.05]])))


def egg(c: Canvas, x: float, y: float, size: float) -> None:
    """An egg or a heart with bands, waves, zigzags and rows of dots: bands are of its surface, dots lie
    on it; bands of one sort are alike."""
    p, chance, skin, t = Place(c, x, y, size), c.chance, c.group(), RING
    outline = np.stack([0.72 * np.sin(t) * (1 + 0.18 * np.cos(t)), -0.95 * np.cos(t)], axis=1)
    if chance.random() < 0.3:
        outline = np.stack([0.9 * np.sin(t) ** 3, -0.85 * np.cos(t) + 0.3 * np.cos(2 * t) + 0.1], axis=1)
    body = p.draw(outline, part=skin, alike=skin)
    across = np.linspace(-1, 1, 121)
    sorts = [c.group() for _ in range(4)]
    at = -0.75
    while at < 0.7:
        high, one = chance.uniform(0.12, 0.3), int(chance.integers(0, 4))
        bend = 0.0 * across
        if one == 1:
            bend = 0.06 * np.sin(across * chance.uniform(8, 16))
        elif one == 2:
            bend = 0.08 * (2 * np.abs(2 * (across * 4 % 1) - 1) - 1)
        edge = np.stack([across, at + bend], axis=1)
        if one < 3:
            p.draw(np.concatenate([edge, (edge + np.array([0, high]))[::-1]]), part=skin, alike=sorts[one], within=body)
        else:
            for spot in np.arange(-0.7, 0.75, chance.uniform(0.2, 0.3)):
                p.draw(circle(spot, at + high / 2, 0.4 * high), alike=sorts[one], within=body)
        at += high + chance.uniform(0.05, 0.25)


def kite(c: Canvas, x: float, y: float, size: float) -> None:
    """A kite in four fields, two sorts in turn, with bows on its tail; clouds behind it."""
    chance = c.chance
    p = Place(c, x, y, size, turn=chance.uniform(-0.4, 0.4))
    cloth, bows, sort, *two = (c.group() for _ in range(5))
    for at in _spots(p, _many(p, 1, 4), -0.8, 0.4):
        cloud(p.within(*at, chance.uniform(0.2, 0.35)), None, sort)
    tail = curve([(0, 0.35), (0.2, 0.6), (-0.2, 0.8), (0.1, 1.1)])
    p.line(tail)
    for at in range(12, len(tail) - 6, int(chance.integers(14, 24))):
        for side in (-1, 1):
            p.draw(dense(np.array([[0, 0], [0.12, -0.07], [0.12, 0.07]]) * (side, 1) + tail[at]), alike=bows)
    corners = np.array([[0, -0.8], [0.5, -0.2], [0, 0.4], [-0.5, -0.2]])
    for k in range(4):
        field = np.array([corners[k], corners[(k + 1) % 4], [0, -0.2]])
        p.draw(dense(field), part=cloth, alike=two[k % 2])


def meadow(c: Canvas, x: float, y: float, size: float) -> None:
    """Flowers side by side on upright stems, blades of grass before them, a sun over them."""
    p, chance, blades, green = Place(c, x, y, size), c.chance, c.group(), c.group()
    if chance.random() < 0.4:
        p.draw(circle(chance.uniform(-0.7, 0.7), -0.7, 0.2))
    for at in np.linspace(-0.8, 0.8, _many(p, 2, 5)):
        top = np.array([at + chance.uniform(-0.1, 0.1), chance.uniform(-0.5, 0.1)])
        stalk(p, curve([(at, 0.95), (at + chance.uniform(-0.1, 0.1), 0.5), tuple(top)]), 0.05, green)
        flower = FLOWERS[int(chance.integers(0, len(FLOWERS)))]
        flower(p.within(*top, chance.uniform(0.18, 0.3)))
    for at in chance.uniform(-0.95, 0.95, _many(p, 4, 16)):
        lean = chance.uniform(-0.15, 0.15)
        p.draw(petal(at, 1.0, chance.uniform(0.3, 0.6), 0.1, lean - np.pi / 2, point=1.3), alike=blades)


def basket(c: Canvas, x: float, y: float, size: float) -> None:
    """Fruit heaped up in a woven basket with a handle that arches behind them."""
    p, chance, reed = Place(c, x, y, size), c.chance, c.group()
    arch = np.stack([0.75 * np.cos(RING / 2 + np.pi), 0.1 + 1.0 * np.sin(RING / 2 + np.pi)], axis=1)
    p.draw(band(arch, 0.12), alike=reed)
    sorts = [c.group() for _ in range(3)]
    for at in chance.uniform((-0.55, -0.35), (0.55, 0.1), (_many(p, 3, 9), 2)):
        one = int(chance.integers(0, 3))
        shape = (circle(*at, 0.24), blob(p, 3, 0.1) * 0.24 + at, circle(*at, 0.28, squash=0.7, turn=at[0]))[one]
        p.draw(shape, alike=sorts[one])
        p.line(np.array([at - (0, 0.2), at - (-0.03, 0.3)]))
    body = p.draw(dense(np.array([[-0.8, 0.1], [0.8, 0.1], [0.6, 0.95], [-0.6, 0.95]])), alike=reed)
    rows, cols = int(chance.integers(2, 4)), int(chance.integers(4, 8))
    slats = c.group()
    for row in range(rows if chance.random() < 0.7 else 0):
        for col in range(cols):
            left, top = -0.8 + 1.6 * (col + 0.5 * (row % 2)) / cols, 0.22 + 0.7 * row / rows
            p.draw(box(left, top, left + 1.5 / cols, top + 0.6 / rows), alike=slats, within=body)
    p.draw(box(-0.88, 0.02, 0.88, 0.18))


def crowd(c: Canvas, x: float, y: float, size: float) -> None:
    """Figures of any sort in rows, the next row before the last."""
    p, chance = Place(c, x, y, size), c.chance
    rows = _many(p, 1, 2)
    for row in range(rows):
        for at in np.linspace(-0.7, 0.7, _many(p, 1, 4)):
            _stand(p, np.array([at + chance.normal(0, 0.05), 0.1 + 0.85 * (row + 1) / rows]), chance.uniform(0.3, 0.5))


SCENES: dict[str, Kind] = {
    one.__name__: one
    for one in (
        bunch, hillside, shelf, pond, wreath, cluster, boat, mandala, street, perch, egg, kite, meadow, basket, crowd,
    )
}  # fmt: skip
"""By their names."""
