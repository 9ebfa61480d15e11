"""Figures that stand together in `_scenes`: each takes its place, in units of its size, upright round (0, 0).

What a figure has twice is alike; strokes that bound nothing are drawn too, as a stamp has them.
"""

from __future__ import annotations

from itertools import pairwise

import numpy as np

from tools.things._canvas import Mask, Place, Points, band, box, circle, dense, petal, turned
from tools.things._kinds import star

RING = np.linspace(0, 2 * np.pi, 60, endpoint=False)


def curve(corners: list[tuple[float, float]], n: int = 30) -> Points:
    """A smooth line through all of the points (Catmull and Rom's spline)."""
    at = np.array([corners[0], *corners, corners[-1]], float)
    t = np.linspace(0, 1, n, endpoint=False)[:, None]
    pieces = [
        0.5 * (2 * b + (c - a) * t + (2 * a - 5 * b + 4 * c - d) * t**2 + (3 * b - a - 3 * c + d) * t**3)
        for a, b, c, d in zip(at, at[1:], at[2:], at[3:], strict=False)
    ]
    return np.concatenate([*pieces, at[-1:]])


def blob(p: Place, lobes: int, depth: float) -> Points:
    """A round outline with so many swellings."""
    chance = p.canvas.chance
    reach = (
        1 + depth * np.abs(np.sin(lobes / 2 * RING + chance.uniform(0, 7))) + 0.1 * np.cos(RING + chance.uniform(0, 7))
    )
    return np.stack([reach * np.cos(RING), reach * np.sin(RING)], axis=1) / (1 + depth)


def pinwheel(p: Place) -> None:
    """Lopsided petals, each over the last, with a stroke in some; a heart with dots of ink."""
    chance, petals = p.canvas.chance, p.canvas.group()
    n, lean, core = int(chance.integers(4, 10)), chance.uniform(0.1, 0.8), chance.uniform(0.12, 0.3)
    wide = chance.uniform(2.6, 4.2) / n
    outline = curve(
        [(0, 0), (0.5, -0.5 * wide), (0.95, -0.4 * wide + 0.3 * lean), (0.9, 0.5 * lean), (0.5, 0.5 * wide), (0, 0)]
    )
    for k in range(n):
        turn = 2 * np.pi * k / n
        p.draw(turned(outline, turn), alike=petals)
        if chance.random() < 0.4:
            p.line(turned(curve([(0.3, 0.0), (0.5, 0.08 * lean), (0.75, 0.25 * lean)]), turn))
    p.draw(circle(0, 0, core))
    for k in range(int(chance.integers(0, 6))):
        p.line(turned(circle(0.55 * core, 0, 0.1 * core, n=12), 2.4 * k), solid=True)


def bud(p: Place) -> None:
    """Three petals out of a cup of two sepals, upright."""
    petals, sepals = p.canvas.group(), p.canvas.group()
    for turn in (-0.5, 0.5, 0.0):
        p.draw(petal(0, 0.6, 1.5, 0.75, turn - np.pi / 2), alike=petals)
    for turn in (-0.7, 0.7):
        p.draw(petal(0, 0.7, 1.0, 0.45, turn - np.pi / 2, point=1.2), alike=sepals)
    if p.canvas.chance.random() < 0.6:
        p.draw(circle(0, 0.6, 0.28))


def tulip(p: Place) -> None:
    """A cup of one petal before two."""
    petals = p.canvas.group()
    for side in (-1, 1):
        p.draw(curve([(0, 0.8), (0.7 * side, 0.3), (0.75 * side, -0.8), (0.1 * side, -0.3), (0, 0.8)]), alike=petals)
    p.draw(curve([(0, 0.85), (0.45, 0.3), (0, -0.75), (-0.45, 0.3), (0, 0.85)]), alike=petals)


def umbel(p: Place) -> None:
    """Many small round flowers in a head."""
    chance, flowers = p.canvas.chance, p.canvas.group()
    for at in chance.normal(0, 0.4, (int(chance.integers(5, 14)), 2)):
        p.draw(circle(*at, chance.uniform(0.18, 0.24)), alike=flowers)


FLOWERS = (pinwheel, pinwheel, bud, tulip, umbel)


def stalk(p: Place, spine: Points, wide: float, green: int) -> None:
    """A stem with leaves on both sides, some behind it, some before, some with a midrib that ends short of the tip."""
    chance = p.canvas.chance
    places = np.sort(chance.integers(len(spine) // 6, 5 * len(spine) // 6, int(chance.integers(0, 5))))
    before = chance.random(len(places)) < 0.5
    for late in (False, True):
        if late:
            p.draw(band(spine, wide))
        for at in places[before == late]:
            way = np.arctan2(*(spine[at + 1] - spine[at])[::-1]) + chance.choice([-1, 1]) * chance.uniform(0.4, 1.2)
            long = chance.uniform(0.25, 0.45)
            p.draw(petal(*spine[at], long, 0.45 * long, way, point=1.1), alike=green)
            if chance.random() < 0.5:
                p.line(turned(np.array([[0.15, 0.0], [0.75, 0.0]]) * long, way, *spine[at]))


def pot(p: Place) -> None:
    """A pot with a rim, bands across its body, dots on the bands, a gleam."""
    chance, clay = p.canvas.chance, p.canvas.group()
    foot, belly = chance.uniform(0.4, 0.8), chance.uniform(0.0, 0.5)
    side = curve([(0.8, -0.8), (0.8 + belly, 0.0), (foot, 0.9)])
    body = p.draw(np.concatenate([side, (side * (-1, 1))[::-1]]), part=clay, alike=clay)
    bands, dots = p.canvas.group(), p.canvas.group()
    for k in range(int(chance.integers(0, 3))):
        at, high = -0.4 + 0.55 * k, chance.uniform(0.15, 0.3)
        p.draw(box(-2, at, 2, at + high), part=clay, alike=bands, within=body)
        if chance.random() < 0.5:
            for x in np.arange(-0.6, 0.7, chance.uniform(0.25, 0.4)):
                p.draw(circle(x, at + high / 2, 0.35 * high), alike=dots, within=body)
    if chance.random() < 0.7:
        p.draw(box(-0.95, -1.0, 0.95, -0.72))
    for k in range(int(chance.integers(0, 3))):
        p.line(np.array([[-0.5, 0.6 - 0.1 * k], [-0.3 + 0.1 * k, 0.5]]))


def capped(p: Place) -> None:
    """A mushroom: a stalk with strokes at its foot, behind a cap that is spotted, or cut by ribs."""
    chance, spots = p.canvas.chance, p.canvas.group()
    wide, low = chance.uniform(0.18, 0.35), chance.uniform(-0.1, 0.2)
    p.draw(curve([(-wide, low), (-1.2 * wide, 1.0), (1.2 * wide, 1.0), (wide, low)]))
    for k in range(int(chance.integers(0, 4))):
        p.line(np.array([[-0.1 + 0.1 * k, 0.95], [-0.1 + 0.1 * k, 0.8]]))
    dome = np.stack([np.cos(RING / 2 + np.pi), 0.9 * np.sin(RING / 2 + np.pi)], axis=1) + np.array([0, low])
    body = p.draw(dome)
    if chance.random() < 0.35:
        for edge in np.linspace(-0.6, 0.6, int(chance.integers(2, 5))):
            p.line(curve([(0, low - 0.9), (0.8 * edge, low - 0.55), (edge, low)]))
    else:
        for at in chance.uniform((-0.8, -0.8), (0.8, -0.1), (int(chance.integers(2, 7)), 2)):
            p.draw(circle(at[0], at[1] + low, chance.uniform(0.08, 0.16)), alike=spots, within=body)


def creature(p: Place) -> None:
    """Seen from the front: a tail and feet behind, a belly on the body, ears in two, a muzzle, eyes of ink, a scarf."""
    chance = p.canvas.chance
    coat, feet, ears, inner, scarf = (p.canvas.group() for _ in range(5))
    if chance.random() < 0.6:
        p.draw(band(curve([(0.4, 0.7), (0.95, 0.4), (0.85, -0.1)]), 0.22), alike=coat)
    for side in (-1, 1):
        p.draw(circle(0.35 * side, 0.95, 0.22, squash=0.6), alike=feet)
    body = p.draw(circle(0, 0.45, 0.6, squash=chance.uniform(0.9, 1.1)), alike=coat)
    if chance.random() < 0.7:
        p.draw(circle(0, 0.55, 0.38), within=body)
    if chance.random() < 0.6:
        arms = p.canvas.group()
        for side in (-1, 1):
            p.draw(circle(0.5 * side, 0.4, 0.3, squash=0.5, turn=side * chance.uniform(0.5, 1.2)), alike=arms)
    tall = chance.uniform(0.25, 0.7)
    for side in (-1, 1):
        ear = petal(0.25 * side, -0.55, 0.4 + tall, 0.35, -np.pi / 2 + 0.4 * side, point=0.7)
        on = p.draw(ear, alike=ears)
        if tall > 0.4:
            p.draw(
                petal(0.25 * side, -0.5, 0.25 + tall, 0.18, -np.pi / 2 + 0.4 * side, point=0.7), alike=inner, within=on
            )
    p.draw(circle(0, -0.4, 0.55, squash=0.85), alike=coat)
    for side in (-1, 1):
        p.line(circle(0.2 * side, -0.5, 0.05, n=12), solid=True)
        for k in range(int(chance.integers(0, 3))):
            p.line(np.array([[0.3 * side, -0.25 + 0.05 * k], [0.5 * side, -0.28 + 0.1 * k]]))
    if chance.random() < 0.5:
        p.draw(circle(0, -0.25, 0.22, squash=0.7))
    p.line(circle(0, -0.32, 0.07, squash=0.7, n=16), solid=True)
    if chance.random() < 0.5:
        two = (scarf, p.canvas.group() if chance.random() < 0.5 else scarf)
        wrap = curve([(-0.5, -0.05), (0, 0.12), (0.5, -0.05)])
        n = int(chance.integers(1, 6))
        for k, (a, b) in enumerate(pairwise(np.linspace(0, len(wrap) - 1, n + 1).astype(int))):
            p.draw(band(wrap[a : b + 1], 0.2), part=scarf, alike=two[k % 2])
        p.draw(turned(box(-0.1, 0, 0.1, 0.5), 0.2, 0.3, 0.05), alike=scarf)


def cottage(p: Place) -> None:
    """A wall, a roof over it with strokes, panes cut by bars, a door, a chimney with smoke."""
    chance, panes = p.canvas.chance, p.canvas.group()
    half, eaves = chance.uniform(0.5, 0.8), chance.uniform(-0.3, 0.1)
    if chance.random() < 0.6:
        at = chance.uniform(-0.4, 0.4) * half
        p.draw(box(at - 0.1, -0.95, at + 0.1, eaves))
        smoke = p.canvas.group()
        for k in range(int(chance.integers(0, 3))):
            p.draw(circle(at + 0.12 * k, -1.05 - 0.2 * k, 0.1 + 0.04 * k), alike=smoke)
    p.draw(box(-half, eaves, half, 1.0))
    p.draw(dense(np.array([[-half - 0.12, eaves], [-0.5 * half, -0.8], [0.5 * half, -0.8], [half + 0.12, eaves]])))
    for _ in range(int(chance.integers(0, 6))):
        at = np.array([chance.uniform(-0.4, 0.3), chance.uniform(-0.7, eaves - 0.1)])
        p.line(np.array([at, at + np.array([0.12, 0.0])]))
    for x in (-0.55 * half, 0.55 * half):
        p.draw(box(x - 0.16, 0.15, x + 0.16, 0.5), alike=panes)
        if chance.random() < 0.6:
            p.line(np.array([[x, 0.15], [x, 0.5]]))
            p.line(np.array([[x - 0.16, 0.32], [x + 0.16, 0.32]]))
    p.draw(box(-0.14, 0.5, 0.14, 1.0))
    p.line(circle(0.08, 0.75, 0.025, n=10), solid=True)


def layered(p: Place) -> None:
    """A cake: tiers with icing that hangs down in waves, candles of one sort with flames."""
    chance, sponge, icing, candles, flames = (p.canvas.chance, *(p.canvas.group() for _ in range(4)))
    n = int(chance.integers(1, 4))
    for x in np.linspace(-0.25, 0.25, int(chance.integers(1, 5))):
        p.draw(petal(x, -0.85, 0.2, 0.1, -np.pi / 2), alike=flames)
        p.draw(box(x - 0.035, -0.85, x + 0.035, -0.5), alike=candles)
    t = np.linspace(0, 1, 60)
    for k in range(n):
        half, top, low = 0.5 + 0.25 * k, -0.55 + 1.5 * k / n, -0.55 + 1.5 * (k + 1) / n
        p.draw(box(-half, top, half, low), alike=sponge)
        hem = np.stack([-half + 2 * half * t, top + 0.5 / n + 0.2 / n * np.sin(t * np.pi * 2 * (3 + k))], axis=1)
        p.draw(np.concatenate([[[-half, top]], hem, [[half, top]]]), alike=icing)


def parcel(p: Place) -> None:
    """A box and its lid, cut in two by one ribbon; loops of a bow."""
    chance, loops = p.canvas.chance, p.canvas.group()
    for side in (-1, 1):
        p.draw(circle(0.3 * side, -0.6, 0.32, squash=0.6, turn=0.5 * side), alike=loops)
    p.draw(box(-0.8, -0.2, 0.8, 1.0))
    p.draw(box(-0.9, -0.45, 0.9, -0.15))
    at = chance.uniform(-0.3, 0.3)
    p.draw(box(at - 0.14, -0.45, at + 0.14, 1.0))
    p.draw(circle(0, -0.5, 0.12))


def bush(p: Place) -> None:
    """A crown of lobes over a trunk, with fruit."""
    chance, crown, fruit = p.canvas.chance, p.canvas.group(), p.canvas.group()
    p.draw(box(-0.12, 0.2, 0.12, 1.0))
    for _ in range(int(chance.integers(1, 4))):
        at = chance.uniform(-0.25, 0.25, 2) - (0, 0.3)
        p.draw(blob(p, int(chance.integers(5, 9)), 0.2) * 0.6 + at, alike=crown)
    for at in chance.uniform(-0.35, 0.35, (int(chance.integers(0, 6)), 2)):
        p.draw(circle(at[0], at[1] - 0.3, 0.08), alike=fruit)


def fowl(p: Place) -> None:
    """A round bird from the side: tail, body, wing with a row of feathers, eye of ink, beak, legs as strokes."""
    chance, coat, quills, tail = (p.canvas.chance, *(p.canvas.group() for _ in range(3)))
    for x in (-0.1, 0.15):
        p.line(np.array([[x, 0.6], [x, 0.98]]))
    for k in range(int(chance.integers(1, 4))):
        p.draw(petal(-0.4, 0.1, 0.8, 0.25, np.pi + 0.3 * (k - 0.5)), alike=tail)
    p.draw(dense(np.array([[0.6, -0.45], [0.95, -0.35], [0.6, -0.25]])))
    p.draw(circle(0, 0.15, 0.55, squash=0.85), alike=coat)
    p.draw(circle(0.4, -0.35, 0.32), alike=coat)
    p.line(circle(0.48, -0.42, 0.05, n=12), solid=True)
    wing = p.draw(petal(0.25, 0.05, 0.75, 0.5, np.pi - 0.25))
    for k in range(int(chance.integers(0, 4))):
        p.draw(circle(-0.35 + 0.18 * k, 0.2, 0.13), alike=quills, within=wing)


def toy_balloon(p: Place, sort: int) -> None:
    """A toy balloon with a gleam, on a string that is a mere line."""
    p.line(curve([(0, 0.55), (0.1, 0.8), (-0.05, 1.2)]))
    p.draw(dense(np.array([[-0.08, 0.6], [0.08, 0.6], [0, 0.48]])))
    p.draw(circle(0, 0, 0.45, squash=1.15), alike=sort)
    p.line(curve([(-0.28, -0.1), (-0.22, -0.28), (-0.08, -0.38)]))


FIGURES = (capped, creature, cottage, layered, parcel, bush, fowl, pot)


def cloud(p: Place, within: Mask | None, sort: int) -> None:
    p.draw(blob(p, int(p.canvas.chance.integers(5, 9)), 0.25) * (1, 0.45), alike=sort, within=within)


def strewn(p: Place, spots: Points, within: Mask | None = None) -> None:
    """Small things of one sort, each at its spot."""
    chance, sort = p.canvas.chance, p.canvas.group()
    n, big, one = int(chance.integers(4, 7)), chance.uniform(0.04, 0.08), int(chance.integers(0, 3))
    for x, y in spots:
        s, turn = big * chance.uniform(0.8, 1.4), chance.uniform(0, 7)
        shape = (star(x, y, s, turn, n), circle(x, y, 0.8 * s), petal(x, y, 2 * s, s, turn))[one]
        p.draw(shape, alike=sort, within=within)
