"""Further things by chance; see _kinds."""

from __future__ import annotations

from itertools import pairwise

import numpy as np

from tools.things._canvas import Canvas, band, box, circle, dense, petal, turned
from tools.things._kinds import Kind, star


def bricks(c: Canvas, x: float, y: float, size: float) -> None:
    chance, stone = c.chance, c.group()
    rows, w = int(chance.integers(3, 7)), size * chance.uniform(0.35, 0.6)
    h = 1.6 * size / rows
    wall = c.shape(box(x - size, y - 0.8 * size, x + size, y + 0.8 * size), alike=stone, wobble=0.0)
    for i in range(rows):
        for k in range(-1, int(2 * size / w) + 2):
            left = x - size + (k + 0.5 * (i % 2)) * w
            top = y - 0.8 * size + i * h
            c.shape(box(left, top, left + w, top + h), alike=stone, within=wall, wobble=0.0)
    if chance.random() < 0.5:
        vine, leaves = c.group(), c.group()
        t = np.linspace(-0.8, 0.8, 30)
        spine = np.stack([x + 0.5 * size * np.sin(3 * t), y + size * t], axis=1)
        c.shape(band(spine, 0.06 * size), part=vine, alike=vine)
        for k in range(3, 28, 6):
            c.shape(petal(*spine[k], 0.3 * size, 0.18 * size, chance.uniform(0, 7), point=1.2), alike=leaves)


def quilt(c: Canvas, x: float, y: float, size: float) -> None:
    """Squares, some parted into triangles; each shape of one place in the pattern is alike."""
    chance = c.chance
    squares, halves = c.group(), c.group()
    n = int(chance.integers(2, 5))
    w = 1.7 * size / n
    parted = chance.random() < 0.7
    for i in range(n):
        for j in range(n):
            left, top = x - 0.85 * size + j * w, y - 0.85 * size + i * w
            one = np.array([[0, 0], [1, 0], [1, 1], [0, 1]], float) * w + (left, top)
            if parted and (i + j) % 2:
                c.shape(dense(one[[0, 1, 2]]), alike=halves, wobble=0.0)
                c.shape(dense(one[[0, 2, 3]]), alike=halves, wobble=0.0)
            else:
                c.shape(dense(one), alike=squares, wobble=0.0)


def wheel(c: Canvas, x: float, y: float, size: float) -> None:
    """A ring, spokes or sectors, a hub."""
    chance, sectors = c.chance, c.group()
    n = int(chance.integers(5, 14))
    c.shape(circle(x, y, size))
    inner = c.shape(circle(x, y, 0.82 * size))
    for k in range(n):
        a, b = 2 * np.pi * k / n, 2 * np.pi * (k + 1) / n
        corners = np.array([[0, 0], [np.cos(a), np.sin(a)], [np.cos(b), np.sin(b)]]) * 1.2 * size + (x, y)
        c.shape(dense(corners), alike=sectors, within=inner, wobble=0.0)
    c.shape(circle(x, y, 0.22 * size))


def lighthouse(c: Canvas, x: float, y: float, size: float) -> None:
    chance, tower = c.chance, c.group()
    two = c.group(), c.group()
    n = int(chance.integers(4, 8))
    for k in range(n):
        top, low = y - 0.6 * size + 1.5 * size * k / n, y - 0.6 * size + 1.5 * size * (k + 1) / n
        a, b = 0.22 + 0.18 * k / n, 0.22 + 0.18 * (k + 1) / n
        corners = np.array([[x - a * size, top], [x + a * size, top], [x + b * size, low], [x - b * size, low]])
        c.shape(dense(corners), part=tower, alike=two[k % 2], wobble=0.0)
    c.shape(box(x - 0.3 * size, y - 0.68 * size, x + 0.3 * size, y - 0.58 * size), wobble=0.0)
    panes = c.group()
    for k in range(3):
        left = x - 0.18 * size + 0.12 * k * size
        c.shape(box(left, y - 0.9 * size, left + 0.12 * size, y - 0.68 * size), alike=panes, wobble=0.0)
    c.shape(dense(np.array([[-0.25, -0.9], [0.25, -0.9], [0.0, -1.15]]) * size + (x, y)), wobble=0.0)


def ladder(c: Canvas, x: float, y: float, size: float) -> None:
    """Two rails before rungs, leaning."""
    chance, rungs, rails = c.chance, c.group(), c.group()
    slant = chance.uniform(-0.4, 0.4)
    n = int(chance.integers(4, 8))
    for k in range(n):
        at = -0.8 * size + 1.6 * size * k / n
        c.shape(turned(box(-0.4 * size, at, 0.4 * size, at + 0.1 * size), slant, x, y), alike=rungs, wobble=0.0)
    for side in (-0.42, 0.32):
        rail = box(side * size, -size, (side + 0.1) * size, size)
        c.shape(turned(rail, slant, x, y), alike=rails, wobble=0.0)


def fan(c: Canvas, x: float, y: float, size: float) -> None:
    """A shell or a fan: ribs from one point, all of one surface."""
    chance, surface = c.chance, c.group()
    n, turn, wide = int(chance.integers(5, 11)), chance.uniform(0, 7), chance.uniform(1.5, 2.8)
    for k in range(n):
        a, b = turn + wide * k / n, turn + wide * (k + 1) / n
        arc = np.linspace(a, b, 8)
        swell = 1 + 0.05 * np.sin(np.linspace(0, np.pi, 8))
        rim = np.stack([np.cos(arc), np.sin(arc)], axis=1) * size * swell[:, None]
        rib = np.concatenate([np.zeros((1, 2)), rim])
        c.shape(turned(rib, 0.0, x, y), part=surface, alike=surface, wobble=0.0)
    c.shape(circle(x, y, 0.12 * size))


def lattice(c: Canvas, x: float, y: float, size: float) -> None:
    """A pineapple, a corn cob: diamonds or kernels on one body, with leaves on top."""
    chance, skin, leaves = c.chance, c.group(), c.group()
    for k in range(int(chance.integers(3, 7))):
        c.shape(petal(x, y - 0.5 * size, 0.7 * size, 0.25 * size, -np.pi / 2 + 0.35 * (k - 2), point=1.3), alike=leaves)
    body = c.shape(circle(x, y + 0.1 * size, 0.75 * size, squash=1.15), alike=skin, wobble=0.002)
    w = size * chance.uniform(0.3, 0.45)
    for i in range(-4, 9):
        for j in range(-4, 5):
            at = x + (j + 0.5 * (i % 2)) * w, y - 0.9 * size + i * 0.5 * w * 1.2
            one = np.array([[0, -0.6], [0.5, 0], [0, 0.6], [-0.5, 0]]) * w + at
            c.shape(dense(one), alike=skin, within=body, wobble=0.0)


def caterpillar(c: Canvas, x: float, y: float, size: float) -> None:
    chance, legs = c.chance, c.group()
    body, n = c.group(), int(chance.integers(4, 9))
    for k in range(n):
        at = x - 0.85 * size + 1.7 * size * k / n, y + 0.2 * size * np.sin(k)
        c.shape(box(at[0] - 0.04 * size, at[1], at[0] + 0.04 * size, at[1] + 1.9 * size / n), alike=legs)
        c.shape(circle(*at, 1.15 * size / n), alike=body)
    c.shape(circle(x + 0.85 * size, y, 1.3 * size / n))


def snowman(c: Canvas, x: float, y: float, size: float) -> None:
    chance, snow, coal = c.chance, c.group(), c.group()
    for level, r in ((0.55, 0.45), (-0.1, 0.34), (-0.62, 0.24)):
        c.shape(circle(x, y + level * size, r * size), alike=snow)
    for k in range(int(chance.integers(2, 5))):
        c.shape(circle(x, y + (-0.2 + 0.15 * k) * size, 0.045 * size), alike=coal)
    for side in (-1, 1):
        c.shape(circle(x + 0.09 * side * size, y - 0.68 * size, 0.04 * size), alike=coal)
    c.shape(dense(np.array([[0, -0.6], [0.25, -0.55], [0, -0.52]]) * size + (x, y)), wobble=0.0)
    if chance.random() < 0.6:
        hat = c.group()
        c.shape(box(x - 0.17 * size, y - 1.15 * size, x + 0.17 * size, y - 0.82 * size), alike=hat, wobble=0.0)
        c.shape(box(x - 0.28 * size, y - 0.86 * size, x + 0.28 * size, y - 0.8 * size), alike=hat, wobble=0.0)


def fish(c: Canvas, x: float, y: float, size: float) -> None:
    chance, skin, fins = c.chance, c.group(), c.group()
    c.shape(dense(np.array([[0.6, 0], [1.05, -0.4], [0.95, 0], [1.05, 0.4]]) * size + (x, y)), alike=fins)
    for side in (-1, 1):
        c.shape(
            petal(x, y + 0.2 * side * size, 0.55 * size, 0.35 * size, side * np.pi / 2 + 0.4, point=0.9), alike=fins
        )
    body = c.shape(circle(x, y, 0.75 * size, squash=0.55), part=skin, alike=skin)
    if chance.random() < 0.5:
        w = 0.22 * size
        for i in range(-3, 4):
            for j in reversed(range(7)):
                at = x - 0.2 * size + (j + 0.5 * (i % 2)) * w * 0.8, y + i * 0.6 * w
                c.shape(circle(*at, 0.5 * w), alike=skin, within=body)
    else:
        bands = c.group()
        for k in range(int(chance.integers(2, 5))):
            at = x + (-0.2 + 0.25 * k) * size
            c.shape(box(at, y - size, at + 0.1 * size, y + size), alike=bands, within=body, wobble=0.0)
    c.shape(circle(x - 0.5 * size, y - 0.08 * size, 0.07 * size))


def mountains(c: Canvas, x: float, y: float, size: float) -> None:
    chance, rock, snow = c.chance, c.group(), c.group()
    for k in range(int(chance.integers(2, 5))):
        at, tall, half = x + (0.5 * k - 0.7) * size, size * chance.uniform(0.9, 1.4), size * chance.uniform(0.4, 0.6)
        foot = y + 0.7 * size
        corners = np.array([[at - half, foot], [at, foot - tall], [at + half, foot]])
        whole = c.shape(dense(corners), alike=rock, wobble=0.001)
        ragged = np.linspace(-1, 1, 9)
        edge = np.stack([at + half * ragged, foot - tall * (0.62 + 0.06 * (np.arange(9) % 2))], axis=1)
        above = np.array([[at + half, foot - 2 * tall], [at - half, foot - 2 * tall]])
        c.shape(np.concatenate([edge, above]), alike=snow, within=whole, wobble=0.0)


def weave(c: Canvas, x: float, y: float, size: float) -> None:
    """Strips over and under: each a surface in pieces; across and down are two sorts."""
    chance = c.chance
    across, down = c.group(), c.group()
    n = int(chance.integers(2, 5))
    w = 1.7 * size / n
    spots = [(x - 0.85 * size + (k + 0.5) * w, y - 0.85 * size + (k + 0.5) * w) for k in range(n)]
    half = 0.3 * w
    rows, cols = [c.group() for _ in range(n)], [c.group() for _ in range(n)]
    for k in range(n):
        c.shape(box(x - size, spots[k][1] - half, x + size, spots[k][1] + half), part=rows[k], alike=across, wobble=0.0)
    for k in range(n):
        c.shape(box(spots[k][0] - half, y - size, spots[k][0] + half, y + size), part=cols[k], alike=down, wobble=0.0)
    for i in range(n):
        for j in range(n):
            if (i + j) % 2:
                left, right, top, low = spots[j][0] - half, spots[j][0] + half, spots[i][1] - half, spots[i][1] + half
                patch = box(left, top, right, low)
                mask = c.shape(patch, part=rows[i], alike=across, wobble=0.0)
                # It runs through: no lines where it goes on to either side.
                inner = int(max(3, c.line_px))
                ys, xs = np.nonzero(mask)
                c.ink[ys.min() + inner : ys.max() - inner, xs.min() - inner : xs.max() + inner] = 0


def bouquet(c: Canvas, x: float, y: float, size: float) -> None:
    """Tulips, stems, long leaves, a ribbon."""
    chance, stems, leaves, cups = c.chance, c.group(), c.group(), c.group()
    n = int(chance.integers(3, 6))
    for k in range(n):
        lean = 0.7 * (k - (n - 1) / 2) / n
        t = np.linspace(0, 1, 12)[:, None]
        top = np.array([x + lean * 1.6 * size, y - 0.4 * size])
        spine = np.array([x, y + 0.9 * size]) * (1 - t) + top * t
        c.shape(band(spine, 0.07 * size), alike=stems)
        c.shape(petal(*spine[5], 0.7 * size, 0.18 * size, -np.pi / 2 + lean + 0.5, point=1.3), alike=leaves)
        for turn in (-0.35, 0.35, 0.0):
            c.shape(petal(*top, 0.45 * size, 0.3 * size, -np.pi / 2 + lean + turn, point=1.0), alike=cups)
    bow = c.group()
    for side in (0.3, np.pi - 0.3):
        c.shape(petal(x, y + 0.4 * size, 0.4 * size, 0.25 * size, side, point=0.7), alike=bow)
    c.shape(circle(x, y + 0.4 * size, 0.08 * size), alike=bow)


def bird(c: Canvas, x: float, y: float, size: float) -> None:
    chance, coat, wing = c.chance, c.group(), c.group()
    for k in range(int(chance.integers(2, 5))):
        c.shape(petal(x + 0.5 * size, y, 0.6 * size, 0.2 * size, 0.25 * (k - 1), point=0.8), alike=wing)
    c.shape(circle(x, y, 0.6 * size, squash=0.65), alike=coat)
    for k in range(int(chance.integers(3, 6))):
        c.shape(
            petal(x - 0.25 * size, y - 0.1 * size, (0.75 - 0.1 * k) * size, 0.22 * size, 0.5 - 0.2 * k, point=0.7),
            alike=wing,
        )
    c.shape(circle(x - 0.5 * size, y - 0.35 * size, 0.28 * size), alike=coat)
    c.shape(dense(np.array([[-0.72, -0.4], [-1.0, -0.3], [-0.72, -0.25]]) * size + (x, y)), wobble=0.0)
    c.shape(circle(x - 0.56 * size, y - 0.42 * size, 0.06 * size))
    legs = c.group()
    for at in (-0.1, 0.12):
        c.shape(box(x + at * size, y + 0.36 * size, x + (at + 0.06) * size, y + 0.8 * size), alike=legs, wobble=0.0)


def umbrella(c: Canvas, x: float, y: float, size: float) -> None:
    cloth, n = c.group(), int(c.chance.integers(4, 8))
    handle = c.group()
    c.shape(box(x - 0.04 * size, y, x + 0.04 * size, y + size), part=handle, alike=handle, wobble=0.0)
    edges = np.sin(np.linspace(-np.pi / 2, np.pi / 2, n + 1)) * size
    t = np.linspace(0, np.pi / 2, 20)
    for a, b in pairwise(edges):
        left = np.stack([x + a * np.sin(t), y - size * np.cos(t)], axis=1)
        right = np.stack([x + b * np.sin(t), y - size * np.cos(t)], axis=1)[::-1]
        scallop = np.stack(
            [np.linspace(x + a, x + b, 9), y - 0.12 * abs(b - a) * np.sin(np.linspace(0, np.pi, 9))], axis=1
        )
        c.shape(np.concatenate([left, scallop[1:-1], right]), part=cloth, alike=cloth, wobble=0.0)


def butterfly(c: Canvas, x: float, y: float, size: float) -> None:
    """Mirrored wings with spots and rims."""
    chance, upper, lower, spots, inner = (c.chance, *(c.group() for _ in range(4)))
    wide = chance.uniform(0.6, 0.8)
    for side in (1, -1):
        for turn, group, long in ((-0.6, upper, 1.0), (0.7, lower, 0.7)):
            angle = turn if side > 0 else np.pi - turn
            wing = c.shape(petal(x, y, long * size, wide * long * size, angle, point=0.75), part=None, alike=group)
            if group == upper:
                c.shape(petal(x, y, 0.6 * size, 0.35 * size, angle, point=0.75), alike=inner)
            for k in range(2):
                at = np.array([np.cos(angle + 0.25 * (k - 0.5)), np.sin(angle + 0.25 * (k - 0.5))]) * 0.78 * long * size
                c.shape(circle(x + at[0], y + at[1], 0.07 * size), alike=spots, within=wing)
    c.shape(circle(x, y, 0.45 * size, squash=0.16, turn=np.pi / 2))


def turtle(c: Canvas, x: float, y: float, size: float) -> None:
    chance, skin, plates, rims = (c.chance, *(c.group() for _ in range(3)))
    for at in ((-0.6, 0.35), (0.6, 0.35), (-0.6, -0.35), (0.6, -0.35)):
        c.shape(circle(x + at[0] * size, y + at[1] * size, 0.2 * size), alike=skin)
    c.shape(circle(x - 0.95 * size, y, 0.22 * size), alike=skin)
    shell = c.shape(circle(x, y, 0.75 * size, squash=0.8), alike=rims)
    n = int(chance.integers(5, 8))
    for k in range(n):
        a = 2 * np.pi * k / n
        at = x + 0.48 * size * np.cos(a), y + 0.38 * size * np.sin(a)
        hexagon = np.stack([np.cos(np.arange(6) * np.pi / 3), np.sin(np.arange(6) * np.pi / 3)], axis=1)
        c.shape(dense(0.2 * size * hexagon + at), alike=plates, within=shell, wobble=0.0)
    c.shape(circle(x, y, 0.2 * size, n=6), alike=plates, wobble=0.0)


def waves(c: Canvas, x: float, y: float, size: float) -> None:
    """Rows of scallops before each other."""
    chance, water = c.chance, c.group()
    n, m = int(chance.integers(3, 6)), int(chance.integers(3, 6))
    for i in range(n):
        for j in range(m):
            at = x - size + (2 * size * (j + 0.5 * (i % 2))) / m, y - 0.6 * size + 1.2 * size * i / n
            c.shape(circle(*at, 1.05 * size / m), alike=water)


def present(c: Canvas, x: float, y: float, size: float) -> None:
    """A box cut in four by its ribbon, with a bow."""
    paper, ribbon, bow = c.group(), c.group(), c.group()
    c.shape(box(x - 0.8 * size, y - 0.5 * size, x + 0.8 * size, y + 0.8 * size), part=paper, alike=paper, wobble=0.0)
    c.shape(
        box(x - 0.8 * size, y + 0.05 * size, x + 0.8 * size, y + 0.25 * size), part=ribbon, alike=ribbon, wobble=0.0
    )
    c.shape(box(x - 0.1 * size, y - 0.5 * size, x + 0.1 * size, y + 0.8 * size), part=ribbon, alike=ribbon, wobble=0.0)
    for turn in (-0.5, np.pi + 0.5):
        c.shape(petal(x, y - 0.5 * size, 0.6 * size, 0.35 * size, turn, point=0.7), alike=bow)
    c.shape(circle(x, y - 0.52 * size, 0.12 * size), alike=bow)


def cone(c: Canvas, x: float, y: float, size: float) -> None:
    """Scoops on a waffle."""
    chance, waffle, crumbs = c.chance, c.group(), c.group()
    corners = np.array([[-0.45, -0.1], [0.45, -0.1], [0.0, 1.1]]) * size + (x, y)
    whole = c.shape(dense(corners), alike=waffle, wobble=0.0)
    w = 0.28 * size
    for i in range(-1, 10):
        for j in range(-3, 4):
            at = x + (j + 0.5 * (i % 2)) * w, y - 0.1 * size + i * 0.5 * w
            one = np.array([[0, -0.5], [0.5, 0], [0, 0.5], [-0.5, 0]]) * w + at
            c.shape(dense(one), alike=waffle, within=whole, wobble=0.0)
    for k in range(int(chance.integers(1, 4))):
        c.shape(circle(x + 0.1 * size * (k % 2), y - (0.3 + 0.35 * k) * size, 0.42 * size), alike=None)
        for _ in range(int(chance.integers(0, 4))):
            at = x + chance.uniform(-0.2, 0.2) * size, y - (0.3 + 0.35 * k) * size + chance.uniform(-0.2, 0.1) * size
            c.shape(
                turned(box(-0.07 * size, -0.025 * size, 0.07 * size, 0.025 * size), chance.uniform(0, 3), *at),
                alike=crumbs,
            )


def train(c: Canvas, x: float, y: float, size: float) -> None:
    chance, wheels, panes, hubs = (c.chance, *(c.group() for _ in range(3)))
    cars = c.group() if chance.random() < 0.5 else None
    for k in range(2):
        left = x + (-1.0 + 1.05 * k) * size
        c.shape(box(left, y - 0.3 * size, left + 0.95 * size, y + 0.4 * size), alike=cars, wobble=0.0)
        for j in range(int(chance.integers(2, 4))):
            c.shape(
                box(left + (0.08 + 0.3 * j) * size, y - 0.2 * size, left + (0.3 + 0.3 * j) * size, y),
                alike=panes,
                wobble=0.0,
            )
        for at in (0.25, 0.7):
            c.shape(circle(left + at * size, y + 0.45 * size, 0.17 * size), alike=wheels)
            c.shape(circle(left + at * size, y + 0.45 * size, 0.07 * size), alike=hubs)


def lantern(c: Canvas, x: float, y: float, size: float) -> None:
    """Ribs of paper between two caps, tassels, small stars around."""
    chance, paper, caps = c.chance, c.group(), c.group()
    body = c.shape(circle(x, y, 0.6 * size, squash=1.1), part=paper, alike=paper)
    n = int(chance.integers(3, 6))
    for k in range(n):
        half = 0.55 * size * (1 - 2 * (k + 0.5) / (n + 1))
        if half > 0:
            c.shape(circle(x, y, half, squash=2.0), part=paper, alike=paper, within=body, wobble=0.0)
    for at in (-0.7, 0.6):
        c.shape(box(x - 0.25 * size, y + at * size, x + 0.25 * size, y + (at + 0.12) * size), alike=caps, wobble=0.0)
    threads, stars = c.group(), c.group()
    for k in range(4):
        left = x + (-0.16 + 0.08 * k) * size
        c.shape(box(left, y + 0.72 * size, left + 0.08 * size, y + 1.1 * size), alike=threads, wobble=0.0)
    for _ in range(int(chance.integers(0, 5))):
        at = x + chance.choice([-1, 1]) * chance.uniform(0.75, 1.0) * size, y + chance.uniform(-0.8, 0.8) * size
        c.shape(star(*at, 0.12 * size, 0.2), alike=stars, wobble=0.0)


FURTHER: dict[str, Kind] = {
    one.__name__: one
    for one in (
        bricks, quilt, wheel, lighthouse, ladder, fan, lattice, caterpillar, snowman, fish, mountains, weave, bouquet,
        bird,
    )
}  # fmt: skip
ONCE_HELD_BACK: dict[str, Kind] = {
    one.__name__: one for one in (umbrella, butterfly, turtle, waves, present, cone, train, lantern)
}
"""Held back from fitting until how well things are found in them had been looked at too often."""
