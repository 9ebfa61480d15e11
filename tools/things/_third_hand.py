"""Creatures and patterns by a third hand, and all that it draws; see _third_objects."""

from __future__ import annotations

from collections.abc import Callable
from functools import partial
from itertools import pairwise

import numpy as np

from tools.things._canvas import Canvas, Place, band, box, circle, dense, petal, turned
from tools.things._figures import blob, curve
from tools.things._kinds import Kind, star
from tools.things._third_objects import OBJECTS, diamonds, strips


def bauble(p: Place) -> None:
    """A ball in bands: plain ones of two sorts in turn, one of zigzag teeth, one of dots; a cap and a loop."""
    chance, glass, teeth, dots = p.canvas.chance, *(p.canvas.group() for _ in range(3))
    two, n = (p.canvas.group(), p.canvas.group()), int(chance.integers(2, 6))
    p.draw(box(-0.14, -0.98, 0.14, -0.72))
    whole = p.draw(circle(0, 0.1, 0.85), part=glass, alike=two[0])
    levels = np.linspace(-0.85, 1.05, n + 1)
    bow = curve([(-1, 0.0), (0, chance.uniform(0, 0.25)), (1, 0.0)])
    for k, (a, b) in enumerate(pairwise(levels)):
        strip = np.concatenate([bow + np.array([0, a - 0.1]), (bow + np.array([0, b - 0.1]))[::-1]])
        mask = p.draw(strip, part=glass, alike=two[k % 2], within=whole)
        if 0 < k < n - 1 and chance.random() < 0.4:
            for j in range(-5, 6):
                p.draw(circle(0.19 * j, (a + b) / 2 + 0.05, 0.06, n=16), alike=dots, within=mask)
        elif 0 < k < n - 1 and chance.random() < 0.4:
            for j in range(-5, 5):
                tooth = np.array([[0.2 * j, b], [0.2 * j + 0.1, (a + b) / 2], [0.2 * j + 0.2, b]])
                p.draw(dense(tooth), alike=teeth, within=mask)
    p.line(circle(0, -1.06, 0.09))


def sunflower(p: Place) -> None:
    """Two rows of petals, the back ones mere tips; a heart in a ring and a net of seeds; a stalk with broad leaves."""
    chance, petals, seeds, green = p.canvas.chance, *(p.canvas.group() for _ in range(3))
    stalk = p.canvas.group()
    p.draw(band(curve([(0, 0.2), (0.08, 0.8), (0, 1.3)]), 0.09), part=stalk, alike=stalk)
    for side in (0.5, np.pi - 0.5)[: int(chance.integers(0, 3))]:
        p.draw(petal(0.03, 0.95, 0.6, 0.36, side, point=1.1), alike=green)
    n, wide = int(chance.integers(10, 19)), chance.uniform(2.6, 3.6)
    for row in (0.5, 0.0):
        for k in range(n):
            reach = 0.78 * chance.normal(1, 0.04)
            p.draw(petal(0, 0, reach, wide / n, 2 * np.pi * (k + row) / n, point=0.9), alike=petals)
    if chance.random() < 0.5:
        p.draw(circle(0, 0, 0.36))
    heart = p.draw(circle(0, 0, 0.28), alike=seeds)
    if chance.random() < 0.6:
        diamonds(p, heart, seeds, chance.uniform(0.12, 0.2))


def peacock(p: Place) -> None:
    """A fan of feathers, each with an eye in two rings, row before row; body and crest before them."""
    chance, vanes, outer, inner, crest = p.canvas.chance, *(p.canvas.group() for _ in range(4))
    for row in range(int(chance.integers(1, 3))):
        reach, n = 1.0 - 0.35 * row, int(chance.integers(6, 10))
        for k in range(n):
            turn = np.pi * (1.04 + 0.92 * (k + 0.5 * row) / n)
            p.draw(petal(0, 0.5, 1.3 * reach, 2.6 * reach / n, turn, point=0.6), alike=vanes)
            at = np.array([np.cos(turn), np.sin(turn)]) * 1.05 * reach + np.array([0, 0.5])
            p.draw(circle(*at, 0.75 * reach / n, squash=0.8, turn=turn), alike=outer)
            p.draw(circle(*at, 0.35 * reach / n, n=16), alike=inner)
    p.draw(petal(0, 0.9, 1.1, 0.5, -np.pi / 2, point=0.8))
    for k in range(3):
        p.draw(circle(-0.1 + 0.1 * k, -0.42, 0.045, n=12), alike=crest)
    p.draw(circle(0, -0.2, 0.16))
    for side in (-1, 1):
        p.line(circle(0.06 * side, -0.23, 0.025, n=8), solid=True)


def snail(p: Place) -> None:
    """A shell wound in rings of one surface, a long foot, horns."""
    chance, shell, horns = p.canvas.chance, p.canvas.group(), p.canvas.group()
    foot = curve([(-0.9, 0.8), (-0.3, 0.7), (0.4, 0.75), (0.75, 0.5), (0.8, 0.1)])
    for dx in (-0.1, 0.08):
        p.draw(band(np.array([[0.8 + dx, 0.05], [0.85 + 2.5 * dx, -0.4]]), 0.05), alike=horns)
    p.draw(band(foot, np.linspace(0.1, 0.3, len(foot))))
    turns = int(chance.integers(2, 5))
    for k in range(turns):
        r = 0.62 * (1 - k / (turns + 0.4))
        p.draw(circle(-0.15 + 0.06 * k, 0.15 + 0.05 * k, r), part=shell, alike=shell)
    p.line(circle(0.84, 0.12, 0.025, n=8), solid=True)


def hedgehog(p: Place) -> None:
    """Rows of spines, each row before the one behind; a face, feet, sometimes an apple on top."""
    chance, spines, feet, ears = p.canvas.chance, *(p.canvas.group() for _ in range(3))
    for at in (-0.35, 0.3):
        p.draw(circle(at, 0.68, 0.16, squash=0.6), alike=feet)
    p.draw(petal(0.3, 0.35, 0.8, 0.6, 0.15, point=0.8))
    rows, n = int(chance.integers(2, 5)), int(chance.integers(5, 10))
    for row in range(rows):
        for k in range(n - row):
            turn = np.pi * (0.95 + (k + 0.5 * (row % 2)) / (n - row))
            reach = 0.95 - 0.62 * row / rows
            p.draw(petal(-0.1, 0.45, reach, 1.9 * reach / n, turn, point=chance.uniform(0.8, 1.2)), alike=spines)
    p.draw(circle(0.3, 0.15, 0.12), alike=ears)
    p.draw(circle(1.08, 0.46, 0.08, n=16))
    p.line(circle(0.7, 0.25, 0.04, n=10), solid=True)
    if chance.random() < 0.5:
        p.draw(circle(-0.2, -0.55, 0.2))
        p.draw(petal(-0.2, -0.72, 0.25, 0.12, -0.8, point=1.2))


def tabby(p: Place) -> None:
    """A sitting cat: stripes across a coat of one surface, ears with an inside, a tail in rings of two sorts."""
    chance, coat, stripes, inner = p.canvas.chance, *(p.canvas.group() for _ in range(3))
    tail, n = p.canvas.group(), int(chance.integers(1, 7))
    spine = curve([(0.4, 0.8), (0.9, 0.7), (0.95, 0.1), (0.75, -0.1)])
    ends = np.linspace(0, len(spine) - 1, n + 1).astype(int)
    for k, (a, b) in enumerate(pairwise(ends)):
        p.draw(band(spine[a : b + 1], 0.18), part=tail, alike=stripes if k % 2 else coat)
    flanks = [(-0.3, -0.3), (-0.6, 0.5), (-0.55, 0.95)], [(0.55, 0.95), (0.6, 0.5), (0.3, -0.3)]
    whole = p.draw(np.concatenate([curve(flank) for flank in flanks]), alike=coat)
    for k in range(int(chance.integers(0, 5))):
        for side in (-1, 1):
            wedge = np.array([[0.7 * side, 0.0 + 0.2 * k], [0.7 * side, 0.1 + 0.2 * k], [0.25 * side, 0.07 + 0.2 * k]])
            p.draw(dense(wedge), alike=stripes, within=whole)
    for side in (-1, 1):
        p.draw(dense(np.array([[0.45 * side, -0.95], [0.08 * side, -0.75], [0.42 * side, -0.5]])), alike=coat)
        p.draw(dense(np.array([[0.4 * side, -0.86], [0.2 * side, -0.74], [0.38 * side, -0.62]])), alike=inner)
    head = p.draw(circle(0, -0.5, 0.44, squash=0.85), alike=coat)
    for k in range(-1, int(chance.integers(0, 3))):
        p.draw(
            dense(np.array([[0.1 * k - 0.03, -0.95], [0.1 * k + 0.03, -0.95], [0.1 * k, -0.68]])),
            alike=stripes,
            within=head,
        )
    for side in (-1, 1):
        p.draw(circle(0.17 * side, -0.52, 0.07, n=16), alike=inner)
        for k in range(2):
            p.line(np.array([[0.15 * side, -0.35 + 0.05 * k], [0.55 * side, -0.38 + 0.1 * k]]))
    p.draw(dense(np.array([[-0.05, -0.4], [0.05, -0.4], [0, -0.34]])))


def octopus(p: Place) -> None:
    """Arms that curl to either side with rows of suckers, a round head before them."""
    chance, skin, suckers, eyes = p.canvas.chance, *(p.canvas.group() for _ in range(3))
    sucked = chance.random() < 0.6
    for k in np.argsort(chance.random(6)):
        side, way = (-1, 1)[int(k) % 2], 0.25 + 0.3 * (int(k) // 2)
        spine = curve([(0, 0.1), (way * side, 0.5), ((way + 0.25) * side, 0.85), ((way + 0.3) * side, 0.55)])
        p.draw(band(spine, np.linspace(0.2, 0.06, len(spine))), alike=skin)
        for at in range(len(spine) // 3, len(spine) - 8, 9) if sucked else ():
            p.draw(circle(*spine[at], 0.04, n=12), alike=suckers)
    p.draw(circle(0, -0.3, 0.55, squash=1.1), alike=skin)
    for side in (-1, 1):
        p.draw(circle(0.2 * side, -0.2, 0.11), alike=eyes)
        p.line(circle(0.2 * side, -0.18, 0.04, n=10), solid=True)


def crown(p: Place) -> None:
    """A band with gems of two sorts in turn, peaks with a ball on each, a lining behind."""
    chance, gold, balls, peaks = p.canvas.chance, *(p.canvas.group() for _ in range(3))
    gems, n = (p.canvas.group(), p.canvas.group()), int(chance.integers(3, 8))
    p.draw(circle(0, -0.05, 0.8, squash=0.2))
    w = 1.7 / n
    for k in range(n):
        left, tall = -0.85 + k * w, 0.75 if k % 2 else chance.uniform(0.55, 0.75)
        p.draw(dense(np.array([[left, 0.45], [left + w / 2, 0.45 - tall], [left + w, 0.45]])), alike=peaks)
        p.draw(circle(left + w / 2, 0.4 - tall, 0.08, n=20), alike=balls)
    p.draw(box(-0.9, 0.35, 0.9, 0.8), part=gold, alike=gold)
    for k in range(n):
        at = -0.85 + (k + 0.5) * w, 0.57
        stone = turned(box(-0.1, -0.1, 0.1, 0.1), 0.78, *at) if k % 2 else circle(*at, 0.1, n=24)
        p.draw(stone, alike=gems[k % 2])


def castle(p: Place) -> None:
    """Towers under pointed roofs, walls with merlons, slits in rows, a gate of boards, pennants."""
    chance, stone, slits, roofs, flags, boards = p.canvas.chance, *(p.canvas.group() for _ in range(5))
    wall = p.canvas.group()
    p.draw(box(-0.8, -0.05, 0.8, 0.9), part=wall, alike=stone)
    n = int(chance.integers(4, 8))
    for k in range(n):
        left = -0.7 + 1.4 * (k + 0.2) / n
        p.draw(box(left, -0.2, left + 0.8 / n, -0.05), part=wall, alike=stone)
    for side in (-1, 1):
        p.draw(box(0.8 * side - 0.22, -0.5, 0.8 * side + 0.22, 0.95), alike=stone)
        p.draw(dense(np.array([[0.8 * side - 0.3, -0.5], [0.8 * side, -1.05], [0.8 * side + 0.3, -0.5]])), alike=roofs)
        p.draw(dense(np.array([[0.8 * side, -1.05], [0.8 * side + 0.25, -1.13], [0.8 * side, -1.2]])), alike=flags)
        for k in range(int(chance.integers(1, 4))):
            p.draw(box(0.8 * side - 0.05, -0.3 + 0.38 * k, 0.8 * side + 0.05, -0.1 + 0.38 * k), alike=slits)
    t = np.linspace(np.pi, 2 * np.pi, 24)
    gate = np.concatenate([np.stack([0.3 * np.cos(t), 0.4 + 0.3 * np.sin(t)], axis=1), [[0.3, 0.9], [-0.3, 0.9]]])
    whole = p.draw(gate, part=boards, alike=boards)
    for k in range(-2, 2) if chance.random() < 0.6 else ():
        p.draw(box(0.15 * k, 0, 0.15 * (k + 1), 1), part=boards, alike=boards, within=whole)


def big_leaf(p: Place) -> None:
    """One large leaf cut by its veins into fields of one surface, drops on it."""
    chance, green = p.canvas.chance, p.canvas.group()
    stalk, drops = p.canvas.group(), p.canvas.group()
    n, point = int(chance.integers(2, 7)), chance.uniform(0.7, 1.2)
    outline = petal(-0.95, 0, 1.9, chance.uniform(0.8, 1.4), 0.0, point=point, n=80)
    spine = np.stack([np.linspace(-0.95, 0.95, 40), 0.05 * np.sin(np.linspace(0, 4, 40))], axis=1)
    for side in (outline[:40], outline[40:][::-1]):
        ends = np.linspace(0, 39, n + 1).astype(int)
        for a, b in pairwise(ends):
            lean = min(4, 39 - b)
            rim = side[a + min(4, 39 - a) if a else 0 : b + lean + 1]
            p.draw(np.concatenate([spine[a : b + 1], rim[::-1]]), part=green, alike=green)
    if chance.random() < 0.6:
        p.draw(band(np.array([[-1.2, 0.05], [-0.9, 0.0], [0.6, 0.0]]), 0.06), part=stalk, alike=stalk)
    for at in chance.uniform((-0.5, -0.3), (0.5, 0.3), (int(chance.integers(0, 4)), 2)):
        p.draw(circle(*at, 0.08, squash=0.8), alike=drops)


def paper_kite(p: Place) -> None:
    """Four quarters, opposite ones of one sort; a tail with bows in pairs."""
    chance, cloth, bows = p.canvas.chance, p.canvas.group(), p.canvas.group()
    two = (p.canvas.group(), p.canvas.group())
    ends = np.array([[0, -1.0], [0.6, -0.35], [0, 0.5], [-0.6, -0.35]])
    middle = np.array([[0, -0.35]])
    for k in range(4):
        quarter = np.concatenate([middle, ends[[k, (k + 1) % 4]]])
        p.draw(dense(quarter), part=cloth, alike=two[k % 2])
    tail = curve([(0, 0.5), (0.25, 0.75), (-0.1, 1.0), (0.2, 1.3)])
    p.line(tail)
    for at in range(15, len(tail) - 5, int(chance.integers(18, 30))):
        for side in (0.2, np.pi + 0.2):
            p.draw(petal(*tail[at], 0.22, 0.16, side, point=0.6), alike=bows)
    if chance.random() < 0.5:
        p.draw(star(0, -0.35, 0.2, 0.3))


def strawberry(p: Place) -> None:
    """Seeds in rows on the fruit, sepals over its shoulder, a blossom beside it."""
    chance, seeds, sepals, petals = p.canvas.chance, *(p.canvas.group() for _ in range(3))
    half = [(0, -0.6), (0.6, -0.55), (0.7, 0.0), (0.35, 0.6), (0, 0.9)]
    outline = curve([*half, *((-x, y) for x, y in half[-2::-1])])
    whole = p.draw(outline)
    for i in range(int(chance.integers(2, 6))):
        for j in range(-2, 3):
            at = 0.25 * (j + 0.5 * (i % 2)) + chance.normal(0, 0.02), -0.3 + 0.22 * i
            p.draw(petal(*at, 0.12, 0.08, np.pi / 2, point=0.8), alike=seeds, within=whole)
    n = int(chance.integers(4, 8))
    for k in range(n):
        p.draw(petal(0, -0.6, 0.55, 0.24, np.pi * (k + 0.5) / n, point=1.1), alike=sepals)
    p.draw(band(curve([(0, -0.6), (0.05, -0.85), (0.25, -1.0)]), 0.08))
    if chance.random() < 0.5:
        for k in range(5):
            p.draw(petal(0.75, -0.7, 0.3, 0.26, 1.26 * k, point=0.6), alike=petals)
        p.draw(circle(0.75, -0.7, 0.09))


def mitten(p: Place) -> None:
    """A knitted hand: ribs in the cuff, rows of a pattern across the palm, which is one surface, and a thumb."""
    chance, wool, cuff, marks = p.canvas.chance, *(p.canvas.group() for _ in range(3))
    palm, ribs = p.canvas.group(), int(chance.integers(4, 9))
    p.draw(petal(-0.3, 0.4, 0.8, 0.42, -2.5, point=0.6), alike=wool)
    t = np.linspace(np.pi, 2 * np.pi, 30)
    outline = np.concatenate([np.stack([0.5 * np.cos(t), 0.5 * np.sin(t) - 0.4], axis=1), [[0.45, 0.6], [-0.45, 0.6]]])
    whole = p.draw(outline, part=palm, alike=wool)
    for level in ((), (-0.2,), (-0.35, 0.15))[int(chance.integers(0, 3))]:
        stripe = p.canvas.group()
        mask = p.draw(box(-0.6, level, 0.6, level + 0.28), part=palm, alike=stripe, within=whole)
        for j in range(-3, 4):
            mark = turned(box(-0.07, -0.07, 0.07, 0.07), 0.78, 0.2 * j, level + 0.14)
            p.draw(mark, alike=marks, within=mask)
    for strip in strips(np.linspace((-0.5, 0.55), (-0.5, 0.95), 6), np.linspace((0.5, 0.55), (0.5, 0.95), 6), ribs):
        p.draw(strip, part=cuff, alike=cuff)


def bee(p: Place) -> None:
    """A body in stripes of two sorts in turn, two pairs of wings, feelers."""
    chance, body, wings, back = p.canvas.chance, *(p.canvas.group() for _ in range(3))
    two, n = (p.canvas.group(), p.canvas.group()), int(chance.integers(3, 8))
    for group, way, long in ((back, -1.0, 0.6), (wings, -1.9, 0.8)):
        p.draw(petal(0.05, -0.2, long, 0.4 * long, way, point=0.7), alike=group)
    whole = p.draw(circle(0, 0.1, 0.75, squash=0.55), part=body, alike=two[0])
    ends = np.linspace(-0.75, 0.75, n + 1)
    bow = curve([(0, -0.6), (0.12, 0.1), (0, 0.8)])
    for k, (a, b) in enumerate(pairwise(ends)):
        strip = np.concatenate([bow + np.array([a, 0]), (bow + np.array([b, 0]))[::-1]])
        p.draw(strip, part=body, alike=two[k % 2], within=whole)
    p.draw(circle(0.75, 0.05, 0.26))
    for side in (-0.1, 0.12):
        p.line(curve([(0.8, -0.2), (0.85 + side, -0.4), (0.95 + side, -0.45)]))
    p.line(circle(0.82, 0.0, 0.04, n=10), solid=True)


def oak(p: Place) -> None:
    """Acorns in scaled cups, lobed leaves with a midrib that halves them."""
    chance, cups, nuts, leaves = p.canvas.chance, *(p.canvas.group() for _ in range(3))
    for turn in (-2.4, -0.7, 0.9)[: int(chance.integers(1, 4))]:
        leaf, lobes = p.canvas.group(), int(chance.integers(3, 6))
        t = np.linspace(0, 1, 40)
        half = (0.2 + 0.09 * np.abs(np.sin(lobes * np.pi * t))) * np.sin(np.pi * t**0.8) * 1.3
        spine = np.stack([1.1 * t, np.zeros(40)], axis=1)
        for side in (-1, 1):
            rim = np.stack([1.1 * t, side * half], axis=1)
            p.draw(turned(np.concatenate([spine, rim[::-1]]), turn), part=leaf, alike=leaves)
    for k in range(int(chance.integers(1, 4))):
        place = p.within(-0.3 + 0.35 * k, 0.3, 0.5, turn=chance.uniform(-0.6, 0.6))
        place.draw(petal(0, -0.1, 0.95, 0.75, np.pi / 2, point=0.6), alike=nuts)
        cap = np.concatenate(
            [curve([(-0.5, 0.05), (0, -0.5), (0.5, 0.05)]), curve([(0.5, 0.05), (0, 0.15), (-0.5, 0.05)])]
        )
        whole = place.draw(cap, alike=cups)
        if chance.random() < 0.5:
            diamonds(place, whole, cups, 0.3)


def monster(p: Place) -> None:
    """A creature of lobes with horns, teeth, spots and eyes, as many as chance has it."""
    chance, horns, teeth, spots, eyes = p.canvas.chance, *(p.canvas.group() for _ in range(4))
    for side in (-1, 1):
        p.draw(petal(0.3 * side, -0.5, 0.55, 0.25, -np.pi / 2 + 0.5 * side, point=1.1), alike=horns)
    whole = p.draw(blob(p, int(chance.integers(5, 12)), chance.uniform(0.05, 0.2)) * 0.85)
    for at in chance.uniform(-0.8, 0.8, (int(chance.integers(0, 7)), 2)):
        p.draw(circle(*at, chance.uniform(0.06, 0.12)), alike=spots, within=whole)
    mouth = p.draw(circle(0, 0.3, 0.45, squash=0.45))
    n = int(chance.integers(2, 6))
    for k in range(n):
        left = -0.4 + 0.8 * k / n
        p.draw(
            dense(np.array([[left, 0.05], [left + 0.8 / n, 0.05], [left + 0.4 / n, 0.35]])), alike=teeth, within=mouth
        )
    for k in range(int(chance.integers(1, 4))):
        p.draw(circle(-0.35 + 0.35 * k, -0.25, 0.16), alike=eyes)
        p.line(circle(-0.35 + 0.35 * k, -0.22, 0.05, n=10), solid=True)


def leaning(figure: Callable[[Place], None], c: Canvas, x: float, y: float, size: float) -> None:
    """A figure as a kind: a little leaning, now and then mirrored."""
    figure(Place(c, x, y, size, turn=c.chance.normal(0, 0.12), mirrored=bool(c.chance.random() < 0.5)))


THIRD_HAND: dict[str, Kind] = {
    one.__name__: partial(leaning, one)
    for one in (
        *OBJECTS, bauble, sunflower, peacock, snail, hedgehog, tabby, octopus, crown, castle, big_leaf, paper_kite,
        strawberry, mitten, bee, oak, monster,
    )
}  # fmt: skip
