"""Things by chance, each drawn with the truth of what is one surface (part) and what gets one ramp (alike).

Cells of equal shape side by side are alike, as nobody could tell them apart; only stripes along one surface alternate.
Every kind takes a canvas, a place and a size in px.
"""

from __future__ import annotations

from collections.abc import Callable
from itertools import pairwise

import numpy as np

from tools.things._canvas import Canvas, Points, band, box, circle, dense, petal, turned

Kind = Callable[[Canvas, float, float, float], None]


def flower(c: Canvas, x: float, y: float, size: float) -> None:
    chance = c.chance
    n, layers = int(chance.integers(4, 11)), int(chance.choice([1, 1, 2, 3]))
    leaves, green = c.group(), c.group()
    if chance.random() < 0.6:
        stem_to = y + size * chance.uniform(1.1, 1.7)
        t = np.linspace(0, 1, 20)[:, None]
        bend = chance.uniform(-0.3, 0.3) * size
        spine = np.concatenate([x + bend * np.sin(np.pi * t), y + (stem_to - y) * t], axis=1)
        c.shape(band(spine, size * chance.uniform(0.05, 0.09)), part=leaves, alike=leaves)
        for k in range(int(chance.integers(0, 4))):
            at = spine[int(chance.integers(9, 18))]
            side = 0.35 if k % 2 else np.pi - 0.35
            long = size * chance.uniform(0.4, 0.6)
            c.shape(petal(*at, long, long * chance.uniform(0.35, 0.5), side, point=1.2), alike=green)
    whole, point = c.group(), chance.uniform(0.6, 1.5)
    wide = chance.uniform(0.8, 1.5) * 2 * np.pi / n
    for layer in range(layers):
        reach = size * (1 - 0.27 * layer)
        turn = chance.uniform(0, 7)
        for k in range(n):
            angle = turn + 2 * np.pi * k / n + chance.normal(0, 0.03)
            c.shape(petal(x, y, reach * chance.normal(1, 0.02), reach * wide * 0.75, angle, point=point), alike=whole)
    core = size * chance.uniform(0.16, 0.26) * (1 - 0.2 * (layers - 1))
    c.shape(circle(x, y, core))
    if chance.random() < 0.3:
        dots = c.group()
        for k in range(int(chance.integers(5, 9))):
            angle = 2 * np.pi * k / 8
            c.shape(circle(x + 0.6 * core * np.cos(angle), y + 0.6 * core * np.sin(angle), 0.14 * core), alike=dots)


def rosette(c: Canvas, x: float, y: float, size: float) -> None:
    chance, whole = c.chance, c.group()
    layers = int(chance.integers(3, 5))
    for layer in range(layers):
        reach = size * (1 - layer / (layers + 0.6))
        n = int(chance.integers(6, 10)) - layer
        for k in range(n):
            angle = 2 * np.pi * (k + 0.5 * (layer % 2)) / n
            c.shape(petal(x, y, reach, reach * 5.2 / n, angle, point=chance.uniform(0.8, 0.95)), alike=whole)
    c.shape(circle(x, y, size * 0.12), alike=whole if chance.random() < 0.3 else None)


def twig(c: Canvas, x: float, y: float, size: float) -> None:
    chance, stem, leaves = c.chance, c.group(), c.group()
    t = np.linspace(-1, 1, 30)[:, None]
    spine = np.concatenate([x + 0.25 * size * np.sin(1.5 * t + chance.uniform(0, 3)), y + size * t], axis=1)
    c.shape(band(spine, size * 0.07), part=stem, alike=stem)
    ratio, point = chance.uniform(0.35, 0.55), chance.uniform(0.9, 1.5)
    for at in range(4, 29, int(chance.integers(4, 7))):
        for side in (0.5, np.pi - 0.5):
            long = size * chance.uniform(0.42, 0.5)
            c.shape(petal(*(spine[at] - (0, 4)), long, ratio * long, -side, point=point), alike=leaves)


def berries(c: Canvas, x: float, y: float, size: float) -> None:
    chance, fruit, shine = c.chance, c.group(), c.group()
    gleam = chance.random() < 0.4
    radius = size * chance.uniform(0.2, 0.3)
    for _ in range(int(chance.integers(4, 12))):
        angle, away = chance.uniform(0, 7), size * 0.75 * np.sqrt(chance.random())
        at = x + away * np.cos(angle), y + away * np.sin(angle)
        c.shape(circle(*at, radius * chance.normal(1, 0.08)), alike=fruit)
        if gleam:
            c.shape(circle(at[0] - 0.35 * radius, at[1] - 0.4 * radius, 0.22 * radius), alike=shine)


def tiles(c: Canvas, x: float, y: float, size: float) -> None:
    chance = c.chance
    sort = c.group()
    rows, cols = chance.integers(2, 6, 2)
    slant = chance.uniform(-0.2, 0.2) if chance.random() < 0.3 else 0.0
    w, h = 2 * size / cols, 1.6 * size / rows
    for i in range(rows):
        for j in range(cols):
            one = box(-size + j * w, -0.8 * size + i * h, -size + (j + 1) * w, -0.8 * size + (i + 1) * h)
            c.shape(turned(one, slant, x, y), alike=sort, wobble=0.001)


def planks(c: Canvas, x: float, y: float, size: float) -> None:
    chance, wood = c.chance, c.group()
    rows = int(chance.integers(3, 7))
    h = 1.6 * size / rows
    for i in range(rows):
        cuts = [-size, *sorted(chance.uniform(-0.7, 0.7, int(chance.integers(0, 3))) * size), size]
        for left, right in pairwise(cuts):
            top = -0.8 * size + i * h
            c.shape(turned(box(left, top, right, top + h), 0.0, x, y), alike=wood, wobble=0.001)


def scales(c: Canvas, x: float, y: float, size: float) -> None:
    chance, skin = c.chance, c.group()
    rows, cols = int(chance.integers(3, 6)), int(chance.integers(3, 6))
    w, h = 2 * size / cols, 1.6 * size / rows
    body = c.shape(circle(x, y, size, squash=0.75)) if chance.random() < 0.6 else None
    for i in reversed(range(rows)):
        for j in range(cols + 1):
            at = x - size + (j + 0.5 * (i % 2)) * w, y - 0.8 * size + i * h
            c.shape(circle(*at, 0.56 * w, squash=1.3 * h / w), alike=skin, within=body)


def stripes(c: Canvas, x: float, y: float, size: float) -> None:
    """A scarf, a pole: one surface in stripes of alternating sort."""
    chance, surface = c.chance, c.group()
    two, n = (c.group(), c.group()), int(chance.integers(4, 10))
    t = np.linspace(-1, 1, 60)[:, None]
    spine = turned(
        np.concatenate([size * t, 0.25 * size * np.sin(chance.uniform(1, 3) * t)], axis=1), chance.uniform(0, 3), x, y
    )
    outline = band(spine, size * chance.uniform(0.35, 0.6))
    share = chance.uniform(0.5, 1.0)
    ends = np.cumsum([0.0, *[1.0 if k % 2 else share for k in range(n)]])
    ends = (ends / ends[-1] * 59).astype(int)
    for k, (a, b) in enumerate(pairwise(ends)):
        piece = np.concatenate([outline[a : b + 1], outline[::-1][a : b + 1][::-1]])
        c.shape(piece, part=surface, alike=two[k % 2], wobble=0.0)


def balloon(c: Canvas, x: float, y: float, size: float) -> None:
    """Gores and bands of one envelope, with a woven basket below."""
    chance, surface = c.chance, c.group()
    whole = c.shape(circle(x, y, size, squash=chance.uniform(1.0, 1.2)), part=surface, alike=surface, wobble=0.002)
    n = int(chance.integers(4, 8))
    edges = np.sin(np.linspace(-np.pi / 2, np.pi / 2, n + 1))
    t = np.linspace(-1.3, 1.3, 40)
    arc = np.sqrt(np.maximum(1 - (t / 1.3) ** 2, 0))
    sides = [np.stack([x + edge * size * arc, y + size * t], axis=1) for edge in edges]
    for a, b in pairwise(sides):
        c.shape(np.concatenate([a, b[::-1]]), part=surface, alike=surface, within=whole, wobble=0.0)
    for _ in range(int(chance.integers(0, 3))):
        top = y + size * chance.uniform(-0.5, 0.5)
        spine = np.stack([np.linspace(x - 1.3 * size, x + 1.3 * size, 30), np.full(30, top)], axis=1)
        spine[:, 1] += 0.15 * size * (1 - ((spine[:, 0] - x) / size) ** 2)
        c.shape(band(spine, size * chance.uniform(0.12, 0.2)), part=surface, within=whole, wobble=0.0)
    if chance.random() < 0.6:
        weave, w = c.group(), size * 0.13
        for i in range(2):
            for j in range(4):
                left, top = x + (j - 2) * w, y + 1.45 * size + i * w
                c.shape(box(left, top, left + w, top + w), alike=weave, wobble=0.001)


def terraces(c: Canvas, x: float, y: float, size: float) -> None:
    """Hills behind trees that cut them."""
    chance = c.chance
    n = int(chance.integers(3, 6))
    t = np.linspace(-1, 1, 50)
    for k in range(n):
        level = y - 0.7 * size + 1.4 * size * k / n
        ridge = level + 0.12 * size * np.sin(chance.uniform(1.5, 4) * t + chance.uniform(0, 7))
        hill = np.concatenate(
            [np.stack([x + size * t, ridge], axis=1), [[x + size, y + 0.8 * size], [x - size, y + 0.8 * size]]]
        )
        one = c.group()
        c.shape(hill, part=one, alike=one, wobble=0.0)
    crowns, trunks = c.group(), c.group()
    for _ in range(int(chance.integers(1, 5))):
        at, foot = x + chance.uniform(-0.8, 0.8) * size, y + chance.uniform(-0.1, 0.75) * size
        tall = size * chance.uniform(0.3, 0.7)
        c.shape(box(at - 0.04 * size, foot - tall, at + 0.04 * size, foot), part=None, alike=trunks)
        c.shape(circle(at, foot - tall, 0.18 * size, squash=1.2), alike=crowns)


def spotted(c: Canvas, x: float, y: float, size: float) -> None:
    """A mushroom cap, an egg, a bowl: spots on one surface."""
    chance, surface, spots = c.chance, c.group(), c.group()
    if chance.random() < 0.5:
        c.shape(box(x - 0.22 * size, y, x + 0.22 * size, y + 0.9 * size))
    whole = c.shape(circle(x, y, size, squash=chance.uniform(0.6, 1.0)), part=surface, alike=surface)
    for _ in range(int(chance.integers(3, 10))):
        angle, away = chance.uniform(0, 7), size * np.sqrt(chance.uniform(0.02, 1))
        spot = circle(
            x + away * np.cos(angle), y + 0.7 * away * np.sin(angle), size * chance.uniform(0.09, 0.18), squash=0.85
        )
        c.shape(spot, alike=spots, within=whole)


def night(c: Canvas, x: float, y: float, size: float) -> None:
    """A panel of sky with stars, sometimes a moon and clouds."""
    chance, sky, stars, clouds = c.chance, c.group(), c.group(), c.group()
    whole = c.shape(box(x - size, y - 0.8 * size, x + size, y + 0.8 * size), part=sky, alike=sky, wobble=0.0)
    if chance.random() < 0.6:
        c.shape(circle(x + chance.uniform(-0.7, 0.7) * size, y - 0.3 * size, 0.22 * size), within=whole)
    n = int(chance.integers(4, 7))
    for _ in range(int(chance.integers(4, 14))):
        big = size * chance.uniform(0.06, 0.13)
        at = x + chance.uniform(-0.85, 0.85) * size, y + chance.uniform(-0.65, 0.65) * size
        c.shape(star(*at, big, chance.uniform(0, 2), n), alike=stars, within=whole, wobble=0.0)
    for _ in range(int(chance.integers(0, 3))):
        at = x + chance.uniform(-0.6, 0.6) * size, y + chance.uniform(-0.3, 0.6) * size
        c.shape(circle(*at, 0.25 * size, squash=0.4), alike=clouds, within=whole)


def star(x: float, y: float, size: float, turn: float, n: int = 5) -> Points:
    angle = np.linspace(0, 2 * np.pi, 2 * n, endpoint=False)
    reach = np.where(np.arange(2 * n) % 2, 0.45, 1.0) * size
    return turned(dense(np.stack([reach * np.cos(angle), reach * np.sin(angle)], axis=1), 4), turn, x, y)


def animal(c: Canvas, x: float, y: float, size: float) -> None:
    """Body, head, legs, ears, eyes; pairs are alike, and the coat is all of one colour."""
    chance, coat = c.chance, c.group()
    furred = chance.random() < 0.6
    legs, ears, inner, eyes = (c.group() for _ in range(4))
    if furred:
        legs = ears = coat
    for k in range(4):
        at = x + (-0.5 + 0.33 * k) * size
        c.shape(box(at - 0.09 * size, y + 0.2 * size, at + 0.09 * size, y + 0.85 * size), alike=legs)
    c.shape(circle(x, y, 0.72 * size, squash=0.62), alike=coat)
    hx, hy, r = x - 0.65 * size, y - 0.5 * size, 0.36 * size
    for side in (-1, 1):
        ear = petal(hx + side * 0.6 * r, hy - 0.4 * r, 1.1 * r, 0.6 * r, -np.pi / 2 + 0.3 * side, point=1.1)
        c.shape(ear, alike=ears)
        if chance.random() < 0.99 and furred:
            small = petal(hx + side * 0.62 * r, hy - 0.5 * r, 0.7 * r, 0.3 * r, -np.pi / 2 + 0.3 * side, point=1.1)
            c.shape(small, alike=inner)
    c.shape(circle(hx, hy, r), alike=coat)
    for side in (-1, 1):
        c.shape(circle(hx + side * 0.38 * r, hy - 0.1 * r, 0.16 * r), alike=eyes)
    c.shape(circle(hx, hy + 0.3 * r, 0.18 * r, squash=0.7))
    if chance.random() < 0.5:
        buttons = c.group()
        for k in range(3):
            c.shape(circle(x + (0.1 * k - 0.1) * size, y - 0.1 * size + 0.1 * k * size, 0.06 * size), alike=buttons)


def house(c: Canvas, x: float, y: float, size: float) -> None:
    chance, wall, panes, roof = c.chance, c.group(), c.group(), c.group()
    c.shape(box(x - 0.7 * size, y - 0.2 * size, x + 0.7 * size, y + 0.9 * size), part=wall, alike=wall, wobble=0.0)
    for row in range(int(chance.integers(1, 3))):
        for at in (-0.45, 0.0, 0.45)[: int(chance.integers(2, 4))]:
            left, top = x + at * size - 0.13 * size, y - 0.05 * size + 0.4 * row * size
            w = 0.26 * size
            if chance.random() < 0.5:
                c.shape(box(left, top, left + w, top + w), alike=panes, wobble=0.0)
            else:
                for i in range(2):
                    for j in range(2):
                        pane = box(left + i * w / 2, top + j * w / 2, left + (i + 1) * w / 2, top + (j + 1) * w / 2)
                        c.shape(pane, alike=panes, wobble=0.0)
    corners = np.array([[-0.85, -0.2], [0.0, -0.95], [0.85, -0.2]]) * size + (x, y)
    whole = c.shape(dense(corners), part=roof, alike=roof, wobble=0.0)
    if chance.random() < 0.6:
        for i in range(4):
            for j in range(9):
                left, top = x + (-0.9 + 0.2 * j + 0.1 * (i % 2)) * size, y - 0.95 * size + 0.19 * i * size
                c.shape(box(left, top, left + 0.2 * size, top + 0.19 * size), alike=roof, within=whole, wobble=0.0)


def pot(c: Canvas, x: float, y: float, size: float) -> None:
    """A pot with a rim and a pattern of bands, zigzags or dots, and something growing in it."""
    chance, clay = c.chance, c.group()
    twig(c, x, y - 0.7 * size, 0.5 * size)
    corners = np.array([[-0.6, -0.2], [0.6, -0.2], [0.42, 0.8], [-0.42, 0.8]]) * size + (x, y)
    whole = c.shape(dense(corners), part=clay, alike=clay, wobble=0.0)
    pattern = chance.integers(0, 3)
    if pattern == 0:
        marks = c.group()
        for k in range(5):
            at = x + (-0.44 + 0.22 * k) * size
            c.shape(star(at, y + 0.25 * size, 0.09 * size, 0.3, 4), alike=marks, within=whole)
    elif pattern == 1:
        teeth = c.group()
        for k in range(7):
            at = x + (-0.6 + 0.2 * k) * size
            tooth = np.array([[0.0, 0.0], [0.2, 0.0], [0.1, 0.28]]) * size + (at, y + 0.05 * size)
            c.shape(dense(tooth), alike=teeth, within=whole, wobble=0.0)
    else:
        for k in range(2):
            top = y + (0.1 + 0.32 * k) * size
            c.shape(box(x - size, top, x + size, top + 0.14 * size), alike=None, within=whole, wobble=0.0)
    c.shape(box(x - 0.68 * size, y - 0.32 * size, x + 0.68 * size, y - 0.1 * size), alike=clay, wobble=0.001)


def beads(c: Canvas, x: float, y: float, size: float) -> None:
    chance = c.chance
    two, alternating = (c.group(), c.group()), chance.random() < 0.4
    n = int(chance.integers(6, 13))
    for k in range(n):
        t = 2 * k / (n - 1) - 1
        at = x + size * t, y + 0.5 * size * (t**2 - 0.5)
        small = alternating and k % 2
        c.shape(circle(*at, size * (0.6 if small else 1.0) * 0.95 / n), alike=two[1 if small else 0])


def bunting(c: Canvas, x: float, y: float, size: float) -> None:
    chance = c.chance
    two, small = (c.group(), c.group()), float(chance.choice([1.0, 1.0, 0.6]))
    n = int(chance.integers(4, 9))
    spine = np.stack([np.linspace(x - size, x + size, 40), y + 0.25 * size * np.linspace(-1, 1, 40) ** 2], axis=1)
    w = 2 * size / n
    for k in range(n):
        at = spine[int((k + 0.5) / n * 39)]
        flag = np.array([[-0.42 * w, 0], [0.42 * w, 0], [0, 1.1 * w]]) * (small if k % 2 else 1.0)
        c.shape(dense(flag + at), alike=two[k % 2 if small < 1 else 0], wobble=0.001)
    rope = c.group()
    c.shape(band(spine, size * 0.05), part=rope, alike=rope)


def feathers(c: Canvas, x: float, y: float, size: float) -> None:
    """A wing: rows of feathers, each row shorter than the one below."""
    chance = c.chance
    turn = chance.uniform(0, 7)
    for row in range(int(chance.integers(2, 4))):
        kind, n = c.group(), int(chance.integers(5, 9))
        long = size * (1 - 0.3 * row)
        for k in range(n):
            angle = turn + 0.2 * k * 6 / n
            base = turned(np.array([[0.2 * size * k * 6 / n, 0.0]]), turn, x - 0.5 * size, y)[0]
            c.shape(petal(*base, long, 0.3 * long, angle + 1.0, point=0.7), alike=kind)


def fence(c: Canvas, x: float, y: float, size: float) -> None:
    """Pickets cut by rails: each picket one surface in pieces."""
    chance, pickets, rails = c.chance, c.group(), c.group()
    n = int(chance.integers(4, 8))
    w = 2 * size / n
    for k in range(n):
        left = x - size + k * w
        corners = np.array([[0.15, 0.2], [0.5, 0.0], [0.85, 0.2], [0.85, 1.4], [0.15, 1.4]])
        corners = corners * (w, size) + (left, y - 0.7 * size)
        c.shape(dense(corners), part=c.group(), alike=pickets, wobble=0.001)
    for top in (-0.3, 0.3):
        c.shape(
            box(x - 1.05 * size, y + top * size, x + 1.05 * size, y + (top + 0.14) * size), alike=rails, wobble=0.001
        )


def sun(c: Canvas, x: float, y: float, size: float) -> None:
    chance = c.chance
    n, kinds = 2 * int(chance.integers(4, 8)), int(chance.choice([1, 2]))
    two = c.group(), c.group()
    for k in range(n):
        long = size * (0.75 if kinds == 2 and k % 2 else 1.0)
        ray = petal(x, y, long, 0.3 * size * 8 / n, 2 * np.pi * k / n, point=1.5)
        c.shape(ray, alike=two[k % kinds])
    c.shape(circle(x, y, 0.45 * size))


def cake(c: Canvas, x: float, y: float, size: float) -> None:
    chance, cherries, candles, flames = c.chance, c.group(), c.group(), c.group()
    n = int(chance.integers(2, 5))
    for k in range(n):
        top = y + 0.7 * size - 0.4 * size * (k + 1)
        half = size * (0.9 - 0.2 * k)
        c.shape(box(x - half, top, x + half, top + 0.4 * size), wobble=0.001)
        icing = np.linspace(-1, 1, 40)
        drip = np.stack([x + half * icing, top + 0.12 * size + 0.06 * size * np.cos(14 * icing)], axis=1)
        c.shape(np.concatenate([drip, [[x + half, top], [x - half, top]]]), wobble=0.0)
    top = y + 0.7 * size - 0.4 * size * n
    for k in range(int(chance.integers(2, 5))):
        at = x + (0.12 * k - 0.2) * size
        c.shape(box(at - 0.03 * size, top - 0.25 * size, at + 0.03 * size, top), alike=candles, wobble=0.0)
        c.shape(petal(at, top - 0.25 * size, 0.16 * size, 0.1 * size, -np.pi / 2, point=1.2), alike=flames)
    for k in range(int(chance.integers(3, 7))):
        c.shape(circle(x + (0.28 * k - 0.7) * size, y + 0.6 * size, 0.09 * size), alike=cherries)


BASIC: dict[str, Kind] = {
    one.__name__: one
    for one in (
        flower, rosette, twig, berries, tiles, planks, scales, stripes, balloon, terraces, spotted, night, animal,
        house, pot, beads, bunting, feathers, fence, sun, cake,
    )
}  # fmt: skip
