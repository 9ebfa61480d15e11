"""What a fourth hand draws, of sorts that none of the three before it drew; see _kinds and _third_objects."""

from __future__ import annotations

from functools import partial
from itertools import pairwise

import numpy as np

from tools.things._canvas import Place, Points, band, box, circle, dense, petal, turned
from tools.things._figures import curve
from tools.things._kinds import Kind
from tools.things._third_hand import leaning
from tools.things._third_objects import diamonds


def again(p: Place, outline: Points) -> None:
    """Go over an outline once more, where what was drawn within it ate into its line."""
    p.line(np.concatenate([outline, outline[:1]]))


def pineapple(p: Place) -> None:
    """A net of eyes over one egg, a crown of leaves in two or three tiers."""
    chance, eyes, leaves = p.canvas.chance, p.canvas.group(), p.canvas.group()
    tiers = int(chance.integers(2, 4))
    for tier in range(tiers):
        n = 5 - tier
        for k in range(n):
            way = -np.pi / 2 + (k - (n - 1) / 2) * (0.55 - 0.1 * tier)
            p.draw(petal(0, -0.25, 0.8 - 0.15 * tier, 0.2, way, point=1.2), alike=leaves)
    egg = circle(0, 0.35, 0.7, squash=0.75, turn=np.pi / 2)
    diamonds(p, p.draw(egg, alike=eyes), eyes, chance.uniform(0.22, 0.4))
    again(p, egg)


def windmill(p: Place) -> None:
    """A tower in courses, a cap, a door; four sails, each a pole before a grid of cloths."""
    chance, stone, cloths, poles = p.canvas.chance, *(p.canvas.group() for _ in range(3))
    levels = np.linspace(-0.35, 1.0, int(chance.integers(2, 6)))
    for a, b in pairwise(levels):
        wide = [0.3 + 0.15 * (level + 0.35) for level in (a, b)]
        p.draw(dense(np.array([[-wide[0], a], [wide[0], a], [wide[1], b], [-wide[1], b]])), part=stone, alike=stone)
    p.draw(petal(0, 0.98, 0.45, 0.4, -np.pi / 2, point=0.6))
    p.draw(petal(0, -0.25, 0.5, 0.75, -np.pi / 2, point=0.6))
    turn, n = chance.uniform(0, 1.5), int(chance.integers(2, 5))
    for k in range(4):
        way = turn + k * np.pi / 2
        ends = np.linspace(0.25, 0.95, n + 1)
        for a, b in pairwise(ends):
            p.draw(turned(box(a, 0.0, b, 0.22), way, 0, -0.45), alike=cloths)
        p.draw(turned(box(0.0, -0.03, 1.0, 0.03), way, 0, -0.45), alike=poles)
    p.draw(circle(0, -0.45, 0.09))


def fern(p: Place) -> None:
    """A frond: leaflets in pairs that dwindle towards a curled tip, the midrib before them."""
    chance, green = p.canvas.chance, p.canvas.group()
    spine = curve([(-0.2, 1.0), (0.0, 0.3), (chance.uniform(-0.2, 0.3), -0.4), (0.35, -0.95)])
    for at in range(6, len(spine) - 4, int(chance.integers(5, 9))):
        way = np.arctan2(*(spine[at + 1] - spine[at])[::-1])
        long = 0.75 * (1 - at / len(spine)) + 0.12
        for side in (-1, 1):
            p.draw(petal(*spine[at], long, 0.3 * long, way + 0.9 * side, point=1.0), alike=green)
    p.draw(band(spine, np.linspace(0.09, 0.03, len(spine))))


def pine_cone(p: Place) -> None:
    """Scales in rows, each row before the one above; needles behind, in tufts."""
    chance, scales, needles = p.canvas.chance, p.canvas.group(), p.canvas.group()
    for k in range(int(chance.integers(0, 10))):
        p.draw(petal(0, -0.6, chance.uniform(0.5, 0.8), 0.08, -np.pi * (0.05 + 0.1 * k), point=0.8), alike=needles)
    rows = int(chance.integers(4, 8))
    for row in range(rows):
        level = -0.6 + 1.3 * row / rows
        half = 0.62 * np.sqrt(max(1 - ((level - 0.05) / 1.0) ** 2, 0.05))
        n = max(2, round(half / 0.16))
        for k in range(n):
            at = (k - (n - 1) / 2) * 2 * half / n
            p.draw(petal(at, level, 2.6 / rows, 2.4 * half / n, np.pi / 2, point=0.7), alike=scales)


def cups(p: Place) -> None:
    """A pile of cups on saucers, bands or dots on each, handles that show what is behind."""
    chance, china, saucers, dots = p.canvas.chance, *(p.canvas.group() for _ in range(3))
    n, dotted, stripe = int(chance.integers(1, 4)), chance.random() < 0.5, p.canvas.group()
    for k in range(n):
        foot, side = 0.85 - 0.6 * k, chance.choice([-1, 1])
        p.draw(circle(0, foot, 0.8 - 0.1 * k, squash=0.13), alike=saucers)
        p.draw(
            band(curve([(0.4, -0.4), (0.75, -0.4), (0.7, -0.1), (0.3, -0.1)]) * (side, 1) + (0, foot), 0.1), alike=china
        )
        cup = curve([(-0.5, -0.5), (-0.42, -0.15), (-0.2, 0.0), (0.2, 0.0), (0.42, -0.15), (0.5, -0.5)])
        whole = p.draw(cup + np.array([0, foot]), alike=china)
        if dotted:
            for j in range(-2, 3):
                p.draw(circle(0.18 * j, foot - 0.28, 0.06, n=16), alike=dots, within=whole)
        elif chance.random() < 0.7:
            p.draw(box(-0.6, foot - 0.35, 0.6, foot - 0.22), alike=stripe, within=whole)
    for k in range(int(chance.integers(0, 3))):
        p.line(
            curve([(-0.15 + 0.15 * k, 0.2 - 0.6 * n), (-0.05 + 0.15 * k, 0.05 - 0.6 * n), (-0.15 + 0.15 * k, -0.6 * n)])
        )


def shoal(p: Place) -> None:
    """Fish of one or two sorts swimming one way, striped or plain, weeds before some of them, bubbles."""
    chance, weeds, bubbles = p.canvas.chance, p.canvas.group(), p.canvas.group()
    sorts = [[p.canvas.group() for _ in range(4)] for _ in range(int(chance.integers(1, 3)))]
    striped = chance.random() < 0.6
    for k in range(int(chance.integers(2, 6))):
        body, fins, stripes, eyes = sorts[k % len(sorts)]
        fish = p.within(
            -0.45 + 0.9 * (k % 2), -0.75 + 0.38 * k, 0.42 * chance.uniform(0.8, 1.1), turn=chance.normal(0, 0.1)
        )
        fish.draw(dense(np.array([[-0.7, 0.0], [-1.15, -0.4], [-1.15, 0.4]])), alike=fins)
        fish.draw(petal(0.1, -0.2, 0.5, 0.4, -2.0, point=0.7), alike=fins)
        outline = petal(-0.85, 0, 1.8, 0.9, 0.0, point=0.75)
        whole = fish.draw(outline, alike=body)
        for at in (-0.4, 0.05)[: 2 * striped]:
            bow = curve([(at, -0.6), (at + 0.1, 0), (at, 0.6)])
            fish.draw(band(bow, 0.18), alike=stripes, within=whole)
        again(fish, outline)
        fish.draw(circle(0.55, -0.1, 0.11, n=20), alike=eyes)
    for k in range(int(chance.integers(0, 4))):
        at = -0.8 + 0.55 * k
        spine = curve([(at, 1.1), (at + 0.12, 0.6), (at - 0.1, 0.2), (at + 0.08, -0.3)])
        p.draw(band(spine, np.linspace(0.14, 0.04, len(spine))), alike=weeds)
    for at in chance.uniform((-0.9, -1.0), (0.9, 0.6), (int(chance.integers(0, 6)), 2)):
        p.draw(circle(*at, chance.uniform(0.05, 0.09), n=24), alike=bubbles)


def gate(p: Place) -> None:
    """Bars between two brick posts with balls on them, two rails before the bars, a spear on each."""
    chance, bars, spears, bricks, balls = p.canvas.chance, *(p.canvas.group() for _ in range(4))
    n, rails = int(chance.integers(4, 9)), p.canvas.group()
    for k in range(n):
        at = -0.55 + 1.1 * k / (n - 1)
        top = -0.3 - 0.35 * np.cos(np.pi * (k / (n - 1) - 0.5))
        p.draw(box(at - 0.035, top, at + 0.035, 0.9), alike=bars)
        p.draw(petal(at, top + 0.02, 0.2, 0.13, -np.pi / 2, point=1.0), alike=spears)
    for level in (0.0, 0.65):
        p.draw(box(-0.65, level, 0.65, level + 0.09), alike=rails)
    courses = int(chance.integers(3, 7))
    for side in (-0.8, 0.8):
        for k in range(courses):
            a, b = -0.4 + 1.4 * k / courses, -0.4 + 1.4 * (k + 1) / courses
            split = side + (0.08 if k % 2 else -0.08)
            for left, right in ((side - 0.2, split), (split, side + 0.2)):
                p.draw(box(left, a, right, b), alike=bricks)
        p.draw(circle(side, -0.55, 0.17), alike=balls)


def dragonfly(p: Place) -> None:
    """Two pairs of wings, cut or not by a vein; a tail in segments, an eye to either side."""
    chance, fore, hind, tail, eyes = p.canvas.chance, *(p.canvas.group() for _ in range(4))
    veined = chance.random() < 0.5
    for group, way, long in ((hind, 0.35, 0.85), (fore, -0.25, 1.0)):
        for side in (-1, 1):
            wing, t = p.canvas.group(), np.linspace(0, 1, 30)
            half, turn = 0.16 * np.sin(np.pi * t**0.7) ** 0.7, (way if side > 0 else np.pi - way)
            spine = np.stack([long * t, 0 * t], axis=1)
            rims = [np.stack([long * t, s * half], axis=1) for s in (-1, 1)]
            pieces = [(rims[0], spine), (spine, rims[1])] if veined else [(rims[0], rims[1])]
            for a, b in pieces:
                p.draw(turned(np.concatenate([a, b[::-1]]), turn, 0, -0.35), part=wing, alike=group)
    n = int(chance.integers(3, 8))
    for k in range(n):
        p.draw(circle(0, -0.1 + 1.0 * (k + 0.5) / n, 0.62 / n, squash=1.0), alike=tail)
    p.draw(circle(0, -0.35, 0.2, squash=1.3))
    for side in (-1, 1):
        p.draw(circle(0.1 * side, -0.66, 0.13), alike=eyes)


def sundae(p: Place) -> None:
    """A tall glass in layers of two sorts, scoops above it, wafers behind them, a cherry on top."""
    chance, wafers, scoops = p.canvas.chance, p.canvas.group(), p.canvas.group()
    for k in range(int(chance.integers(0, 3))):
        wafer = p.within(0.3 + 0.15 * k, -0.55, 0.5, turn=0.4 + 0.3 * k)
        whole = wafer.draw(box(-0.2, -0.8, 0.2, 0.8), alike=wafers)
        for j in range(4):
            wafer.draw(box(-0.2, -0.8 + 0.4 * j, 0.2, -0.6 + 0.4 * j), alike=wafers, within=whole)
    for at in ((-0.3, -0.2), (0.3, -0.2), (0.0, -0.5))[: int(chance.integers(1, 4))]:
        p.draw(circle(*at, 0.36), alike=scoops)
    glass = dense(np.array([[-0.6, -0.1], [0.6, -0.1], [0.28, 0.75], [-0.28, 0.75]]))
    whole = p.draw(glass)
    levels = np.linspace(-0.1, 0.75, int(chance.integers(2, 6)))
    two = (p.canvas.group(), p.canvas.group())
    for k, (a, b) in enumerate(pairwise(levels)):
        p.draw(box(-0.7, a, 0.7, b), alike=two[k % 2], within=whole)
    again(p, glass)
    p.draw(dense(np.array([[-0.08, 0.75], [0.08, 0.75], [0.4, 1.0], [-0.4, 1.0]])))
    p.draw(circle(0.0, -0.85, 0.12))


def wheat(p: Place) -> None:
    """Ears of grains in pairs on crossing stalks, bound by a ribbon with a bow."""
    chance, grains, stalks, silk = p.canvas.chance, *(p.canvas.group() for _ in range(3))
    n, pairs = int(chance.integers(1, 6)), int(chance.integers(3, 7))
    for k in np.argsort(chance.random(n)):
        lean = 0.9 * (k - (n - 1) / 2) / max(n, 2)
        top = np.array([lean, -0.25])
        p.draw(band(curve([(-0.5 * lean, 1.0), (0.1 * lean, 0.4), tuple(top)]), 0.05), alike=stalks)
        ear = p.within(*top, 0.7, turn=0.6 * lean)
        ear.draw(petal(0, -0.16 * pairs + 0.1, 0.35, 0.2, -np.pi / 2), alike=grains)
        for j in range(pairs):
            for side in (-1, 1):
                ear.draw(petal(0, 0.05 - 0.16 * (pairs - 1 - j), 0.34, 0.19, -np.pi / 2 + 0.6 * side), alike=grains)
    p.draw(box(-0.22, 0.38, 0.22, 0.52), alike=silk)
    if chance.random() < 0.6:
        for side in (0.3, np.pi - 0.3):
            p.draw(petal(0, 0.45, 0.42, 0.28, side, point=0.7), alike=silk)


def clock(p: Place) -> None:
    """A dial in rings, twelve marks on it, two hands that cross it; feet, bells or a gable above."""
    chance, marks, feet, hands = p.canvas.chance, *(p.canvas.group() for _ in range(3))
    for side in (-1, 1):
        p.draw(turned(box(-0.1, 0, 0.1, 0.35), 0.5 * side, -0.5 * side, 0.75), alike=feet)
    if chance.random() < 0.5:
        for side in (-1, 1):
            p.draw(circle(0.45 * side, -0.75, 0.28), alike=feet)
    else:
        p.draw(dense(np.array([[-0.7, -0.5], [0.0, -1.1], [0.7, -0.5]])))
    p.draw(circle(0, 0, 0.85))
    p.draw(circle(0, 0, 0.7))
    n = int(chance.choice([4, 8, 12, 12]))
    for k in range(n):
        way = 2 * np.pi * k / n
        if n == 12 and k % 3 == 0:
            p.draw(petal(0.45 * np.cos(way), 0.45 * np.sin(way), 0.2, 0.1, way, point=0.8))
        p.draw(circle(0.58 * np.cos(way), 0.58 * np.sin(way), 0.065, n=20), alike=marks)
    for long in (0.5, 0.35):
        p.draw(petal(0, 0, long, 0.13, chance.uniform(0, 7), point=0.8), alike=hands)
    p.draw(circle(0, 0, 0.08))


def drum(p: Place) -> None:
    """A shell of zigzag fields of two sorts between two hoops, the head above, two sticks across."""
    chance, hoops, sticks, tips = p.canvas.chance, *(p.canvas.group() for _ in range(3))
    two, n = (p.canvas.group(), p.canvas.group()), int(chance.integers(3, 8))
    whole = p.draw(box(-0.8, -0.3, 0.8, 0.75), alike=two[0])
    w = 1.6 / n
    for k in range(n):
        left = -0.8 + k * w
        p.draw(dense(np.array([[left, -0.3], [left + w, -0.3], [left + w / 2, 0.75]])), alike=two[1], within=whole)
    p.draw(box(-0.88, 0.68, 0.88, 0.9), alike=hoops)
    p.draw(box(-0.88, -0.4, 0.88, -0.18), alike=hoops)
    p.draw(circle(0, -0.4, 0.85, squash=0.25))
    for side in (-1, 1):
        p.draw(band(np.array([[0.9 * side, -0.95], [0.2 * side, -0.5], [-0.1 * side, -0.32]]), 0.07), alike=sticks)
        p.draw(circle(-0.12 * side, -0.32, 0.08), alike=tips)


def beehive(p: Place) -> None:
    """A dome of rolls of straw, one surface; a door in it, bees round it, a board below."""
    chance, straw, wings, bees = p.canvas.chance, *(p.canvas.group() for _ in range(3))
    p.draw(box(-0.95, 0.75, 0.95, 0.92))
    n = int(chance.integers(3, 8))
    for k in range(n):
        level = 0.75 - 1.4 * (k + 1) / n
        half = 0.82 * np.sqrt(max(1 - ((level - 0.4) / 1.2) ** 2, 0.06))
        p.draw(petal(-half, level + 0.7 / n, 2 * half, 2.0 / n, 0.0, point=0.35), part=straw, alike=straw)
    p.draw(circle(0, 0.45, 0.2))
    for at in chance.uniform((-1.1, -1.0), (1.1, 0.2), (int(chance.integers(1, 5)), 2)):
        for way in (-2.0, -1.1):
            p.draw(petal(*at, 0.17, 0.1, way, point=0.6), alike=wings)
        p.draw(circle(*at, 0.11, squash=0.65), alike=bees)


def bridge(p: Place) -> None:
    """Arches of wedge stones under a parapet, courses between them, waves below."""
    chance, wedges, courses, water = p.canvas.chance, *(p.canvas.group() for _ in range(3))
    arches, n = int(chance.integers(1, 3)), int(chance.integers(5, 10))
    rows, w = int(chance.integers(2, 5)), chance.uniform(0.25, 0.45)
    whole = p.draw(box(-1, -0.5, 1, 0.6), alike=courses)
    for i in range(rows):
        for j in range(-5, 6):
            left, h = (j + 0.5 * (i % 2)) * w, 1.1 / rows
            p.draw(box(left, -0.5 + h * i, left + w, -0.5 + h * (i + 1)), alike=courses, within=whole)
    again(p, box(-1, -0.5, 1, 0.6))
    for a in range(arches):
        x, r = (a - (arches - 1) / 2) * 1.0, 0.62 if arches == 1 else 0.38
        t = np.linspace(np.pi, 2 * np.pi, n * 6 + 1)
        rim = np.stack([np.cos(t), np.sin(t)], axis=1)
        p.draw(np.concatenate([rim * r, [[r, 0.01], [-r, 0.01]]]) + np.array([x, 0.6]))
        for k in range(n):
            piece = rim[6 * k : 6 * k + 7]
            p.draw(np.concatenate([piece * r, piece[::-1] * (r + 0.14)]) + np.array([x, 0.6]), alike=wedges)
    p.draw(box(-1.05, -0.65, 1.05, -0.48))
    t = np.linspace(-1.05, 1.05, 50)
    for k in range(int(chance.integers(1, 3))):
        crest = 0.6 + 0.16 * k + 0.04 * np.sin(9 * t + 2 * k)
        p.draw(np.concatenate([np.stack([t, crest], axis=1), [[1.05, 1.0], [-1.05, 1.0]]]), alike=water)


def blossom_tree(p: Place) -> None:
    """A forked trunk behind a crown of lobes, one surface; blossoms of five petals strewn on it, some fallen."""
    chance, bark, crown, petals, hearts = p.canvas.chance, *(p.canvas.group() for _ in range(4))
    for side in (-1, 1):
        fork = curve([(0, 0.5), (0.15 * side, 0.1), (0.45 * side, -0.3)])
        p.draw(band(fork, np.linspace(0.16, 0.07, len(fork))), part=bark, alike=bark)
    p.draw(band(curve([(0.05, 1.0), (0.0, 0.6), (0.0, -0.3)]), np.linspace(0.28, 0.12, 61)), part=bark, alike=bark)
    lobes = int(chance.integers(4, 8))
    for k in range(lobes):
        way = np.pi * (0.9 + 1.2 * k / (lobes - 1))
        p.draw(circle(0.55 * np.cos(way), -0.25 + 0.45 * np.sin(way), 0.38), part=crown, alike=crown)
    p.draw(circle(0, -0.3, 0.42), part=crown, alike=crown)
    for at in chance.uniform((-0.7, -0.85), (0.7, 0.0), (int(chance.integers(1, 6)), 2)):
        bloom = p.within(*at, 0.14, turn=chance.uniform(0, 6))
        for k in range(5):
            bloom.draw(petal(0, 0, 1, 0.85, 1.26 * k, point=0.6), alike=petals)
        bloom.draw(circle(0, 0, 0.28, n=20), alike=hearts)
    for k in range(int(chance.integers(0, 4))):
        p.draw(petal(-0.7 + 0.4 * k, 0.9, 0.16, 0.1, chance.uniform(0, 3), point=0.7), alike=petals)


def frog(p: Place) -> None:
    """A frog seen from the front on a notched pad: legs behind, a belly in folds, eyes on top."""
    chance, skin, feet, eyes, spots = p.canvas.chance, *(p.canvas.group() for _ in range(4))
    t = np.linspace(0.25, 2 * np.pi - 0.25, 60)
    pad = np.concatenate([[[0.0, 0.75]], np.stack([1.05 * np.cos(t - 0.7), 0.75 + 0.25 * np.sin(t - 0.7)], axis=1)])
    p.draw(pad)
    for side in (-1, 1):
        p.draw(circle(0.55 * side, 0.45, 0.3, squash=1.2), alike=skin)
        for toe in (-0.4, 0.0, 0.4):
            p.draw(petal(0.5 * side, 0.68, 0.28, 0.13, np.pi / 2 - 0.7 * side + toe, point=0.7), alike=feet)
    p.draw(circle(0, 0.2, 0.55, squash=1.1), alike=skin)
    belly, folds = p.canvas.group(), int(chance.integers(1, 5))
    whole = p.draw(circle(0, 0.35, 0.38), part=belly, alike=belly)
    for k in range(1, folds):
        p.draw(box(-0.5, -0.03 + 0.76 * k / folds, 0.5, 1.0), part=belly, alike=belly, within=whole)
    for side in (-1, 1):
        p.draw(circle(0.32 * side, -0.7, 0.2), alike=skin)
    p.draw(circle(0, -0.4, 0.55, squash=0.65), alike=skin)
    for side in (-1, 1):
        p.draw(circle(0.32 * side, -0.72, 0.11), alike=eyes)
        p.line(circle(0.32 * side, -0.72, 0.04, n=10), solid=True)
        for k in range(int(chance.integers(0, 3))):
            p.draw(circle((0.25 + 0.13 * k) * side, -0.35 + 0.08 * k, 0.05, n=16), alike=spots)
    p.line(curve([(-0.3, -0.2), (0, -0.12), (0.3, -0.2)]))


def striped_sock(p: Place) -> None:
    """Stockings on a line: bands of two sorts down the leg, heel, toe and cuff of a third; pegs before the cuffs."""
    chance, pegs, ends = p.canvas.chance, p.canvas.group(), p.canvas.group()
    two, n, many = (p.canvas.group(), p.canvas.group()), int(chance.integers(2, 6)), int(chance.integers(1, 4))
    p.draw(box(-1.1, -0.9, 1.1, -0.84))
    for k in range(many):
        sock, leg = p.within(-0.6 * (many - 1) / 2 + 0.6 * k, 0, 0.95 if many == 1 else 0.8), p.canvas.group()
        spine = curve([(0, -0.8), (0, -0.2), (0.02, 0.3), (0.15, 0.6), (0.5, 0.7)])
        cuts = np.linspace(0, len(spine) - 1, n + 1).astype(int)
        for j, (a, b) in enumerate(pairwise(cuts)):
            sock.draw(band(spine[a : b + 1], 0.38), part=leg, alike=two[j % 2])
        sock.draw(circle(0.0, 0.55, 0.2), alike=ends)
        sock.draw(circle(0.55, 0.68, 0.21), alike=ends)
        sock.draw(box(-0.24, -1.0, 0.24, -0.75), alike=ends)
        sock.draw(box(-0.05, -1.15, 0.05, -0.85), alike=pegs)


FOURTH_HAND: dict[str, Kind] = {
    one.__name__: partial(leaning, one)
    for one in (
        pineapple, windmill, fern, pine_cone, cups, shoal, gate, dragonfly, sundae, wheat, clock, drum, beehive, bridge,
        blossom_tree, frog, striped_sock,
    )
}  # fmt: skip
