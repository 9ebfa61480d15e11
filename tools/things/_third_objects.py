"""Objects by a third hand, of sorts that neither of the others drew; see _kinds. Each takes its place, a little leaning
or mirrored, in units of its size.

Pieces of one surface that seams, folds, ribs or something before it cut are one part; on one surface two sorts may take
turns.
"""

from __future__ import annotations

from itertools import pairwise

import numpy as np

from tools.things._canvas import Mask, Place, Points, band, box, circle, dense, petal, turned
from tools.things._figures import curve


def strips(left: Points, right: Points, cuts: int) -> list[Points]:
    """What lies between two lines of equally many points, cut into so many strips along them."""
    shares = np.linspace(0, 1, cuts + 1)
    edges = [left * (1 - share) + right * share for share in shares]
    return [np.concatenate([a, b[::-1]]) for a, b in pairwise(edges)]


def ring(radius: float, width: float) -> Points:
    """A closed band; it has a seam at the foot, where something should lie before it."""
    t = np.linspace(np.pi / 2, 2.5 * np.pi, 90)
    return band(np.stack([np.cos(t), np.sin(t)], axis=1) * radius, width)


def diamonds(p: Place, within: Mask, group: int, w: float) -> None:
    """A net of diamonds over a mask."""
    for i in range(-int(1.4 / w), int(1.4 / w) + 1):
        for j in range(-int(1.4 / w), int(1.4 / w) + 1):
            at = np.array([(j + 0.5 * (i % 2)) * w, i * 0.5 * w])
            p.draw(dense(np.array([[0, -0.5], [0.5, 0], [0, 0.5], [-0.5, 0]]) * w + at), alike=group, within=within)


def cactus(p: Place) -> None:
    """A ribbed trunk and arms in a pot with a rim; blossoms on top, a stroke for a thorn here and there."""
    chance, skin, blossoms, clay = p.canvas.chance, *(p.canvas.group() for _ in range(3))
    for side in (-1, 1)[: int(chance.integers(0, 3))]:
        arm = curve([(0, 0.1), (0.5 * side, 0.05), (0.62 * side, -0.2), (0.62 * side, -0.5)])
        p.draw(band(arm, 0.24), alike=skin)
    trunk, n = p.canvas.group(), int(chance.integers(3, 7))
    t = np.linspace(-1.35, 1.35, 30)
    edge = np.sqrt(np.maximum(1 - (t / 1.4) ** 4, 0))
    for k in range(n):
        a, b = np.sin(np.pi * (k / n - 0.5)) * 0.38, np.sin(np.pi * ((k + 1) / n - 0.5)) * 0.38
        left, right = (np.stack([x * edge, 0.6 * t - 0.1], axis=1) for x in (a, b))
        p.draw(np.concatenate([left, right[::-1]]), part=trunk, alike=skin)
    for k in range(int(chance.integers(0, 4))):
        spot = p.within(0.25 * (k - 1), -0.88, 0.16)
        for turn in range(5):
            spot.draw(petal(0, 0, 1, 0.8, 1.26 * turn), alike=blossoms)
    p.draw(dense(np.array([[-0.5, 0.6], [0.5, 0.6], [0.36, 1.1], [-0.36, 1.1]])), part=clay, alike=clay)
    p.draw(box(-0.58, 0.5, 0.58, 0.68), alike=clay)
    for k in range(int(chance.integers(0, 9))):
        p.line(np.array([[-0.2 + 0.05 * k, -0.5 + 0.11 * k], [-0.14 + 0.05 * k, -0.54 + 0.11 * k]]))


def teapot(p: Place) -> None:
    """A belly in bands, between them a row of one motif; lid, knob, spout, a handle that shows what is behind."""
    chance, china, motif = p.canvas.chance, p.canvas.group(), p.canvas.group()
    p.draw(band(curve([(0.55, -0.3), (1.05, -0.35), (1.1, 0.2), (0.6, 0.4)]), 0.14), alike=china)
    p.draw(np.array([[-0.5, 0.2], [-1.1, -0.45], [-0.95, -0.5], [-0.45, -0.15]]), alike=china)
    whole = p.draw(circle(0, 0.1, 0.72, squash=0.85), part=china, alike=china)
    if chance.random() < 0.7:
        stripe = p.canvas.group()
        bow = curve([(-1, 0.0), (0, 0.18), (1, 0.0)])
        for level in ((-0.2, 0.3), (0.1,), (-0.25, 0.05, 0.35))[int(chance.integers(0, 3))]:
            p.draw(band(bow + np.array([0, level]), 0.12), part=china, alike=stripe, within=whole)
    for k in range(int(chance.integers(0, 6))):
        p.draw(circle(-0.45 + 0.22 * k, 0.2, 0.08, n=12), alike=motif, within=whole)
    top, rim = curve([(-0.42, -0.42), (0, -0.72), (0.42, -0.42)]), curve([(0.42, -0.42), (0, -0.36), (-0.42, -0.42)])
    p.draw(np.concatenate([top, rim]), alike=china)
    p.draw(circle(0, -0.72, 0.1), alike=china)


def cupcake(p: Place) -> None:
    """A paper cup in pleats, swirls of icing each before the one above, sugar strewn on it, a cherry."""
    chance, cup, icing, sugar = p.canvas.chance, *(p.canvas.group() for _ in range(3))
    n = int(chance.integers(5, 10))
    left, right = np.array([[-0.72, 0.05], [-0.5, 0.95]]), np.array([[0.72, 0.05], [0.5, 0.95]])
    for strip in strips(np.linspace(*left, 8), np.linspace(*right, 8), n):
        p.draw(strip, part=cup, alike=cup)
    p.draw(circle(0.05, -0.98, 0.17))
    p.line(curve([(0.05, -1.1), (0.12, -1.25), (0.3, -1.3)]))
    swirls = int(chance.integers(2, 5))
    for k in range(swirls):
        wide, at = 0.3 + 0.55 * k / (swirls - 1), -0.75 + 0.75 * k / (swirls - 1)
        p.draw(circle(0, at, wide, squash=0.38 / wide * 0.75), part=icing, alike=icing)
    for at in chance.uniform((-0.5, -0.6), (0.5, 0.1), (int(chance.integers(0, 12)), 2)):
        p.draw(turned(box(-0.06, -0.02, 0.06, 0.02), chance.uniform(0, 3), *at), alike=sugar)


def tiers(p: Place) -> None:
    """A cake on a plate: tiers with icing that runs down before them, candles with flames."""
    chance, sponge, icing, candles, flames = p.canvas.chance, *(p.canvas.group() for _ in range(4))
    p.draw(circle(0, 0.9, 1.0, squash=0.14))
    n, striped = int(chance.integers(1, 4)), chance.random() < 0.3
    for k in range(int(chance.integers(1, 6))):
        at = -0.3 + 0.15 * k
        p.draw(box(at - 0.03, 0.4 - 0.5 * n, at + 0.03, 0.85 - 0.5 * n), alike=candles)
        p.draw(petal(at, 0.38 - 0.5 * n, 0.18, 0.1, -np.pi / 2, point=0.9), alike=flames)
    for k in range(n):
        half, top = 0.85 - 0.2 * k, 0.4 - 0.5 * k
        whole = p.draw(box(-half, top, half, top + 0.5), alike=sponge)
        if striped:
            p.draw(box(-half, top + 0.3, half, top + 0.4), within=whole)
        t = np.linspace(-half, half, 60)
        runs = top + 0.14 + 0.08 * np.sin(chance.uniform(6, 12) * t + k) + 0.05 * np.sin(17 * t)
        p.draw(np.concatenate([np.stack([t, runs], axis=1), [[half, top], [-half, top]]]), alike=icing)


def rainbow(p: Place) -> None:
    """Bows side by side, no two alike, that end behind clouds of lobes."""
    chance, sky = p.canvas.chance, p.canvas.group()
    n, t = int(chance.integers(3, 7)), np.linspace(np.pi, 2 * np.pi, 50)
    for k in range(n):
        arc = np.stack([np.cos(t), np.sin(t)], axis=1) * (0.95 - 0.13 * k) + np.array([0, 0.5])
        p.draw(band(arc, 0.13))
    for side in (-1, 1):
        cloud = p.canvas.group()
        for dx, dy, r in ((-0.2, 0.05, 0.2), (0.22, 0.05, 0.18), (0.0, -0.06, 0.24))[: int(chance.integers(1, 4))]:
            p.draw(circle(0.7 * side + dx, 0.55 + dy, r, squash=0.85), part=cloud, alike=sky)
    drops = p.canvas.group()
    for at in chance.uniform((-0.5, 0.5), (0.5, 1.1), (int(chance.integers(0, 8)), 2)):
        p.draw(petal(*at, 0.2, 0.1, np.pi / 2, point=0.7), alike=drops)


def fruit_basket(p: Place) -> None:
    """Fruit behind a woven rim, each with a leaf; rows of weave or upright canes; a handle that the fruit hides."""
    chance, canes, fruit, leaves = p.canvas.chance, *(p.canvas.group() for _ in range(3))
    t = np.linspace(np.pi, 2 * np.pi, 40)
    p.draw(band(np.stack([0.75 * np.cos(t), np.sin(t) + 0.1], axis=1), 0.1), part=canes, alike=canes)
    for k in range(int(chance.integers(2, 6))):
        at = -0.5 + 0.25 * k, 0.02 - 0.12 * (k % 2)
        p.draw(circle(*at, 0.24), alike=fruit)
        p.draw(petal(at[0], at[1] - 0.2, 0.22, 0.12, -0.6 - 0.3 * (k % 3), point=1.2), alike=leaves)
    whole = p.draw(dense(np.array([[-0.85, 0.1], [0.85, 0.1], [0.62, 0.95], [-0.62, 0.95]])), alike=canes)
    rows, w = int(chance.integers(3, 6)), chance.uniform(0.2, 0.4)
    if chance.random() < 0.6:
        for i in range(rows):
            for j in range(-5, 5):
                left, top, h = (j + 0.5 * (i % 2)) * w, 0.2 + 0.75 * i / rows, 0.75 / rows
                p.draw(box(left, top, left + w, top + h), alike=canes, within=whole)
    else:
        for j in range(-3, 4):
            p.draw(box(0.24 * j - 0.05, 0.1, 0.24 * j + 0.05, 1), alike=canes, within=whole)
    p.draw(box(-0.9, 0.05, 0.9, 0.22), alike=canes)


def sailing_boat(p: Place) -> None:
    """Sails in panels to either side of a mast, a hull of planks, waves before it."""
    chance, cloth, hull, water = p.canvas.chance, *(p.canvas.group() for _ in range(3))
    two = (cloth, p.canvas.group()) if chance.random() < 0.4 else (cloth, cloth)
    n = int(chance.integers(1, 6))
    for foot, top, reach in ((0.06, -0.95, 0.75), (-0.06, -0.75, -0.6)):
        sail = p.canvas.group()
        levels = np.linspace(top, 0.25, n + 1)
        for k, (a, b) in enumerate(pairwise(levels)):
            wide = [foot + (reach - foot) * ((level - top) / (0.25 - top)) ** 0.9 for level in (a, b)]
            p.draw(dense(np.array([[foot, a], [wide[0], a], [wide[1], b], [foot, b]])), part=sail, alike=two[k % 2])
    p.draw(box(-0.04, -1.05, 0.04, 0.4))
    flag = np.array([[0.04, -1.05], [0.35, -0.97], [0.04, -0.88]])
    p.draw(dense(flag))
    planks = int(chance.integers(1, 4))
    for k in range(planks):
        a, b = 0.35 + 0.4 * k / planks, 0.35 + 0.4 * (k + 1) / planks
        wide = [0.95 - 0.7 * (level - 0.35) for level in (a, b)]
        strake = np.array([[-wide[0], a], [wide[0], a], [wide[1], b], [-wide[1], b]])
        p.draw(dense(strake), part=hull, alike=hull)
    t = np.linspace(-1.1, 1.1, 60)
    for k in range(int(chance.integers(1, 4))):
        crest = 0.7 + 0.13 * k + 0.05 * np.abs(np.sin(7 * t + k))
        p.draw(np.concatenate([np.stack([t, crest], axis=1), [[1.1, 1.1], [-1.1, 1.1]]]), alike=water)


def curtains(p: Place) -> None:
    """A window of panes behind curtains in folds, gathered or straight; a pelmet, a sill."""
    chance, panes, cloth = p.canvas.chance, p.canvas.group(), p.canvas.group()
    n = int(chance.integers(2, 4))
    for i in range(n):
        for j in range(2):
            p.draw(box(-0.6 + 0.6 * j, -0.8 + 1.5 * i / n, 0.6 * j, -0.8 + 1.5 * (i + 1) / n), alike=panes)
    tied, folds = chance.random() < 0.5, int(chance.integers(2, 5))
    for side in (-1, 1):
        curtain = p.canvas.group()
        inner = (
            [(0.15, -0.85), (0.2, -0.3), (0.6, 0.1), (0.5, 0.85)] if tied else [(0.4, -0.85), (0.42, 0), (0.38, 0.85)]
        )
        outer = (
            [(0.9, -0.85), (0.9, -0.3), (0.85, 0.1), (0.9, 0.85)] if tied else [(0.95, -0.85), (0.93, 0), (0.95, 0.85)]
        )
        ways = np.array([side, 1.0])
        for strip in strips(curve(inner) * ways, curve(outer) * ways, folds):
            p.draw(strip, part=curtain, alike=cloth)
        if tied:
            p.draw(box(0.55, 0.05, 0.92, 0.16) * ways)
    p.draw(box(-1, -1, 1, -0.82))
    p.draw(box(-1, 0.85, 1, 1))


def hoop(p: Place) -> None:
    """A ring cut by leaves, berries and a bow that lie before it: one surface, however many pieces."""
    chance, wood, leaves, berries, silk = p.canvas.chance, *(p.canvas.group() for _ in range(4))
    p.draw(ring(0.78, chance.uniform(0.1, 0.2)), part=wood, alike=wood)
    n = int(chance.integers(4, 9))
    for k in range(n):
        angle = 2 * np.pi * k / n + np.pi / 2 + 0.35
        at = 0.78 * np.array([np.cos(angle), np.sin(angle)])
        for turn in (-0.6, 0.6)[: int(chance.integers(1, 3))]:
            p.draw(petal(*at, 0.36, 0.16, angle + np.pi / 2 + turn, point=1.2), alike=leaves)
        if chance.random() < 0.5:
            p.draw(circle(*at, 0.08), alike=berries)
    for side in (0.35, np.pi - 0.35):
        p.draw(petal(0, 0.78, 0.42, 0.26, side, point=0.7), alike=silk)
    p.draw(circle(0, 0.78, 0.1), alike=silk)


def branch(p: Place) -> None:
    """A moon behind a branch that cuts it, with leaves; a small bird may sit on it."""
    chance, bark, leaves, coat = p.canvas.chance, *(p.canvas.group() for _ in range(3))
    p.draw(circle(0.1, -0.1, 0.75))
    spine = curve([(-1.0, 0.3), (-0.3, 0.1), (0.4, 0.2), (1.0, -0.2)])
    for at, way in ((15, -0.9), (35, -1.2), (55, 0.7))[: int(chance.integers(1, 4))]:
        tip = spine[at] + 0.55 * np.array([np.cos(way), np.sin(way)])
        p.draw(band(np.linspace(spine[at], tip, 12), np.linspace(0.08, 0.04, 12)), part=bark, alike=bark)
        p.draw(petal(*tip, 0.25, 0.13, way, point=1.2), alike=leaves)
    p.draw(band(spine, np.linspace(0.16, 0.07, len(spine))), part=bark, alike=bark)
    for at in range(6, len(spine) - 4, int(chance.integers(8, 16))):
        p.draw(petal(*spine[at], 0.3, 0.14, float(chance.choice([-1.2, -2.0, 1.2])), point=1.2), alike=leaves)
    if chance.random() < 0.5:
        p.draw(petal(0.15, 0.0, 0.4, 0.14, 0.4, point=0.8), alike=coat)
        p.draw(circle(0.0, -0.08, 0.22, squash=0.8), alike=coat)
        p.draw(circle(-0.15, -0.28, 0.13), alike=coat)
        p.draw(petal(0.0, -0.1, 0.25, 0.13, 0.3, point=0.8))
        p.line(circle(-0.19, -0.3, 0.025, n=8), solid=True)


def books(p: Place) -> None:
    """Rows of backs on boards, each its own, some with two bands alike, now and then apart."""
    chance, boards = p.canvas.chance, p.canvas.group()
    for row in range(int(chance.integers(1, 3))):
        foot, at = -0.1 + 1.0 * row, -0.9
        while at < 0.75:
            wide, tall = chance.uniform(0.1, 0.24), chance.uniform(0.5, 0.8)
            bands = p.canvas.group()
            whole = p.draw(box(at, foot - tall, at + wide, foot))
            for level in (0.15, 0.75)[: int(chance.choice([0, 0, 2, 2, 1]))]:
                top = foot - tall * (1 - level)
                p.draw(box(at, top, at + wide, top + 0.06), alike=bands, within=whole)
            at += wide + chance.choice([0.0, 0.0, 0.1])
        p.draw(box(-1, foot, 1, foot + 0.1), alike=boards)


OBJECTS = (cactus, teapot, cupcake, tiers, rainbow, fruit_basket, sailing_boat, curtains, hoop, branch, books)
