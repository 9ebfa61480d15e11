"""What a fifth hand draws of the sorts that are stamped most: flowers, leaves, berries, tiles, planks, scales,
feathers, stripes, balloons, terraces, spots, stars. No network is ever to be fitted on it. Where `_held_back` asks how
far things are found that nobody thought of, this asks how well the usual ones are, drawn otherwise than anywhere else.
"""

from __future__ import annotations

from functools import partial
from itertools import pairwise

import numpy as np

from tools.things._canvas import Place, Points, band, box, circle, dense, turned
from tools.things._figures import curve
from tools.things._kinds import Kind, star
from tools.things._third_hand import leaning


def blade(length: float, wide: float, *, full: float = 0.5, notch: float = 0.0, n: int = 24) -> Points:
    """A petal or leaf from (0, 0) upwards, widest at `full` of its length, its tip drawn in by `notch`."""
    t = np.linspace(0, 1, n)
    half = wide / 2 * np.sin(np.pi * t ** (np.log(0.5) / np.log(full)))
    top = -length * (t - notch * t**8)
    return np.concatenate([np.stack([half, top], axis=1), np.stack([-half, top], axis=1)[::-1]])


def at(points: Points, x: float, y: float, turn: float = 0.0) -> Points:
    return turned(points, turn, x, y)


def many_cornered(n: int, inner: float) -> Points:
    """A regular polygon round (0, 0) with a flat side to the right, so far from its middle."""
    angle = (np.arange(n) + 0.5) * 2 * np.pi / n
    return dense(np.stack([np.cos(angle), np.sin(angle)], axis=1) * inner / np.cos(np.pi / n), 6)


def anemone(p: Place) -> None:
    """One large blossom with overlapping petals in one or two rounds, a ring of stamens, some leaves beneath."""
    chance, petals, leaves, stamens = p.canvas.chance, *(p.canvas.group() for _ in range(3))
    for k in range(int(chance.integers(0, 4))):
        p.draw(at(blade(1.25, 0.5, full=0.55), 0, 0, 2.2 * k + chance.normal(0, 0.2)), alike=leaves)
    n, notch = int(chance.integers(5, 9)), float(chance.choice([0.0, 0.0, 0.12]))
    for layer in range(int(chance.integers(1, 3))):
        one = blade(0.95 - 0.25 * layer, (6.6 - layer) / n, full=0.62, notch=notch)
        for k in range(n):
            p.draw(at(one, 0, 0, 2 * np.pi * (k + 0.5 * layer) / n + chance.normal(0, 0.04)), alike=petals)
    p.draw(circle(0, 0, 0.2))
    if chance.random() < 0.5:
        for k in range(10):
            p.draw(at(circle(0, -0.3, 0.045), 0, 0, 2 * np.pi * k / 10), alike=stamens)


def spray(p: Place) -> None:
    """A branching stem with small blossoms at its ends, each of five petals, and leaves along it that cross it."""
    chance, stem, leaves, hearts = p.canvas.chance, *(p.canvas.group() for _ in range(3))
    ends = [(-0.6, -0.55), (0.05, -0.8), (0.65, -0.5)][: int(chance.integers(2, 4))]
    for x, y in ends:
        p.draw(band(curve([(0, 1.0), (0.05, 0.4), (0.6 * x, 0.2 * y), (x, y)]), 0.06), part=stem, alike=stem)
    for k in range(int(chance.integers(3, 7))):
        side = 1 if k % 2 else -1
        leaf = blade(chance.uniform(0.4, 0.55), 0.2, full=0.45)
        p.draw(at(leaf, 0.02 * side, 0.85 - 0.16 * k, side * chance.uniform(0.7, 1.2)), alike=leaves)
    for x, y in ends:
        petals, turn = p.canvas.group(), chance.uniform(0, 6)
        for k in range(5):
            p.draw(at(blade(0.32, 0.28, full=0.65), x, y, turn + 2 * np.pi * k / 5), alike=petals)
        p.draw(circle(x, y, 0.08), alike=hearts)


def dahlia(p: Place) -> None:
    """Rounds of petals from the rim inwards, all of one sort, each round between the petals of the last."""
    chance, petals = p.canvas.chance, p.canvas.group()
    rounds, n = int(chance.integers(3, 6)), int(chance.integers(8, 14))
    full = chance.uniform(0.55, 0.75)
    for k in range(rounds):
        long = 1.0 - 0.8 * k / rounds
        for j in range(n):
            p.draw(at(blade(long, 6.0 * long / n, full=full), 0, 0, 2 * np.pi * (j + 0.5 * (k % 2)) / n), alike=petals)
    p.draw(circle(0, 0, 0.14))


def rowan(p: Place) -> None:
    """A twig with pairs of slim leaflets and a hanging heap of berries, each with a dark calyx."""
    chance, leaves, fruit, twig = p.canvas.chance, *(p.canvas.group() for _ in range(3))
    spine = curve([(-1.0, -0.5), (-0.2, -0.75), (1.0, -0.4)])
    p.draw(band(spine, 0.05), part=twig, alike=twig)
    for spot in np.linspace(4, 56, int(chance.integers(4, 7))).astype(int):
        x, y = spine[spot]
        for side in (0.35, np.pi - 0.35):
            p.draw(at(blade(0.5, 0.16, full=0.5), x, y + (0.02 if side > 1 else -0.02), side), alike=leaves)
    p.draw(band(curve([(0, -0.65), (0.05, -0.2), (0, 0.3)]), 0.05), part=twig, alike=twig)
    for row in range(int(chance.integers(3, 5))):
        for k in range(5 - row):
            x, y = 0.22 * (k - (4 - row) / 2) + chance.normal(0, 0.02), 0.15 + 0.2 * row
            p.draw(circle(x, y, 0.13), alike=fruit)
            if chance.random() < 0.8:
                p.line(at(star(0, 0, 0.035, 0.0, 4), x, y + 0.08), solid=True)


def floor(p: Place) -> None:
    """A floor of six-cornered tiles, or of eight-cornered ones with small squares between, or of fish scales."""
    chance, sort, small = p.canvas.chance, p.canvas.group(), p.canvas.group()
    pattern, step = int(chance.integers(0, 3)), chance.uniform(0.3, 0.5)
    frame = box(-1, -0.8, 1, 0.8)
    whole = p.draw(frame, part=sort, alike=sort)
    one = [many_cornered(6, step / 2), many_cornered(8, step / 2), circle(0, 0, step / 2)][pattern]
    high, lozenge = step * (np.sqrt(0.75), 1.0, 0.5)[pattern], dense(np.array([[0, -1], [1, 0], [0, 1], [-1, 0]]), 6)
    for row in range(int(1.7 / high), -2, -1):
        for col in range(-1, int(2 / step) + 2):
            x, y = -1 + step * (col + (0.0 if pattern == 1 else 0.5 * (row % 2))), -0.8 + high * row
            if pattern == 1:
                p.draw(at(lozenge * 0.3 * step, x + step / 2, y + step / 2), alike=small, within=whole)
            p.draw(at(one, x, y), alike=sort, within=whole)
    p.line(np.concatenate([frame, frame[:1]]))


def boards(p: Place) -> None:
    """A wall of boards, lying or upright, joints in turn, with nails; a bucket, a hoop or a sign before it."""
    chance, wood = p.canvas.chance, p.canvas.group()
    n, upright = int(chance.integers(4, 8)), chance.random() < 0.5
    high = 1.7 / n
    for k in range(n):
        joints = [-1.0, *([0.5 * (k % 3) - 0.5 + chance.normal(0, 0.05)] if chance.random() < 0.7 else []), 1.0]
        for a, b in pairwise(joints):
            one = box(a, -0.85 + high * k, b, -0.85 + high * (k + 1))
            p.draw(one[:, ::-1] if upright else one, alike=wood)
    kind, hoops = int(chance.integers(0, 3)), p.canvas.group()
    if kind == 0:
        p.draw(dense(np.array([[-0.3, 0.2], [0.3, 0.2], [0.22, 0.95], [-0.22, 0.95]])))
        p.draw(circle(0, 0.2, 0.3, squash=0.25))
    elif kind == 1:
        t = np.linspace(0, 2 * np.pi, 70)
        p.draw(band(np.stack([0.5 * np.cos(t), 0.5 * np.sin(t)], axis=1), 0.1), part=hoops, alike=hoops)


def carp(p: Place) -> None:
    """A fish from the side: overlapping scales from tail to gill, a head, fins in rays."""
    chance, scales, rays = p.canvas.chance, p.canvas.group(), p.canvas.group()
    for k in range(5):
        p.draw(at(blade(0.45, 0.2, full=0.6), 0.6, 0, np.pi / 2 - 0.6 + 0.3 * k), alike=rays)
    outline = circle(0, 0, 0.75, squash=0.56, n=70)
    whole = p.draw(outline)
    cols, rows = int(chance.integers(5, 9)), int(chance.integers(4, 7))
    step = 1.2 / cols
    for col in reversed(range(cols + 1)):
        for row in range(rows + 1):
            y = -0.45 + 0.9 * (row + 0.5 * (col % 2)) / rows
            scale = circle(-0.35 + step * col, y, 0.8 * step, squash=0.7 / rows / step)
            p.draw(scale, alike=scales, within=whole)
    head = p.draw(np.concatenate([outline[26:45], [[-0.35, -0.1], [-0.3, 0.1]]]))
    p.draw(circle(-0.55, -0.08, 0.07), within=head)
    p.line(np.concatenate([outline, outline[:1]]))


def wing(p: Place) -> None:
    """A wing spread to one side: long quills below, one or two rows of coverts over them, an arm along the top."""
    chance = p.canvas.chance
    n = int(chance.integers(7, 12))
    for row in range(int(chance.integers(2, 4))):
        kind, long = p.canvas.group(), (1.4, 0.75, 0.4)[row]
        for k in reversed(range(n)):
            x, y = -0.9 + 1.7 * k / n, -0.55 + 0.25 * (k / n) ** 2
            p.draw(at(blade(long, 3.0 / n, full=0.75), x, y, np.pi - 0.9 + 1.1 * (1 - k / n)), alike=kind)
    p.draw(band(curve([(-1.0, -0.6), (0, -0.68), (0.95, -0.25)]), 0.16))


def awning(p: Place) -> None:
    """Cloth in stripes of two sorts in turn over a window, with a valance of lobes, which hangs upright."""
    chance, cloth, panes = p.canvas.chance, p.canvas.group(), p.canvas.group()
    two, lobes, n = (p.canvas.group(), p.canvas.group()), p.canvas.group(), int(chance.integers(6, 13))
    p.draw(box(-0.8, -0.1, 0.8, 0.95))
    for k in range(4):
        x, y = -0.7 + 0.72 * (k % 2), 0.1 + 0.4 * (k // 2)
        p.draw(box(x, y, x + 0.68, y + 0.36), alike=panes)
    for k in range(n):
        top, low = (-0.8 + 1.6 * np.array([k, k + 1]) / n), (-1 + 2 * np.array([k, k + 1]) / n)
        lobe = np.stack([np.linspace(low[1], low[0], 9), 0.1 + 0.9 / n * np.sin(np.linspace(0, np.pi, 9))], axis=1)
        p.draw(lobe, alike=lobes)
        stripe = np.array([[top[0], -0.8], [top[1], -0.8], [low[1], 0.1], [low[0], 0.1]])
        p.draw(dense(stripe), part=cloth, alike=two[k % 2])


def ball(p: Place) -> None:
    """A beach ball: sectors of two sorts in turn from a pole towards us; it lies on stripes of sand and sea."""
    chance, skin = p.canvas.chance, p.canvas.group()
    two, n = (p.canvas.group(), p.canvas.group()), 2 * int(chance.integers(3, 6))
    for k in range(int(chance.integers(1, 4))):
        one = p.canvas.group()
        p.draw(box(-1.1, 0.1 + 0.25 * k, 1.1, 0.95), part=one, alike=one)
    whole = p.draw(circle(0, 0, 0.85), part=skin, alike=skin)
    pole = np.array([chance.uniform(-0.3, 0.3), -0.3])
    for k in range(n):
        t = np.linspace(2 * np.pi * k / n, 2 * np.pi * (k + 1) / n, 12)
        rim = 0.9 * np.stack([np.cos(t), np.sin(t)], axis=1)
        p.draw(np.concatenate([pole[None], rim]), part=skin, alike=two[k % 2], within=whole)
    p.draw(circle(*pole, 0.1))
    p.line(np.concatenate([circle(0, 0, 0.85), [[0.85, 0]]]))


def envelope(p: Place) -> None:
    """A hot-air balloon: gores of one surface, of one sort or two in turn, a wide belt across them, a basket below."""
    chance, cloth, weave = p.canvas.chance, p.canvas.group(), p.canvas.group()
    two, n = (p.canvas.group(), p.canvas.group()), int(chance.integers(5, 9))
    turns = int(chance.integers(1, 3))
    t = np.linspace(0, 1, 40)
    half = 0.75 * np.sin(np.pi * t**0.8) ** 0.7
    y = -1.0 + 1.5 * t
    outline = np.concatenate([np.stack([half, y], 1), np.stack([-half, y], 1)[::-1]])
    whole = p.draw(outline, part=cloth)
    edges = np.sin(np.linspace(-np.pi / 2, np.pi / 2, n + 1))
    for k, (a, b) in enumerate(pairwise(edges)):
        gore = np.concatenate([np.stack([a * half, y], 1), np.stack([b * half, y], 1)[::-1]])
        p.draw(gore, part=cloth, alike=two[k % turns], within=whole)
    if chance.random() < 0.6:
        p.draw(band(curve([(-1, -0.5), (0, -0.35), (1, -0.5)]), 0.22), part=cloth, within=whole)
    p.line(np.concatenate([outline, outline[:1]]))
    for row in range(3):
        for col in range(4):
            p.draw(box(-0.2 + 0.1 * col, 0.65 + 0.1 * row, -0.1 + 0.1 * col, 0.75 + 0.1 * row), alike=weave)


def terraced(p: Place) -> None:
    """Fields one before the other, from the skyline down, cut by cypresses, by a path and by a hut before them."""
    chance, trees = p.canvas.chance, p.canvas.group()
    n = int(chance.integers(4, 8))
    frame = p.draw(box(-1, -0.9, 1, 0.9))
    p.draw(circle(0.5, -0.6, 0.16), within=frame)
    x = np.linspace(-1.1, 1.1, 40)
    for k in range(n):
        field, tilt = p.canvas.group(), chance.normal(0, 0.12)
        ridge = -0.45 + 1.3 * k / n + tilt * x + 0.06 * np.cos(chance.uniform(2, 5) * x + chance.uniform(0, 6))
        low = np.array([[1.1, 1.1], [-1.1, 1.1]])
        p.draw(np.concatenate([np.stack([x, ridge], 1), low]), part=field, alike=field, within=frame)
    for _ in range(int(chance.integers(2, 6))):
        foot, tall = (chance.uniform(-0.85, 0.85), chance.uniform(0.0, 0.85)), chance.uniform(0.5, 0.9)
        p.draw(at(blade(tall, 0.26 * tall, full=0.35), *foot), alike=trees)
    if chance.random() < 0.5:
        path = p.canvas.group()
        p.draw(band(curve([(0.1, 0.88), (-0.2, 0.4), (0.15, 0.1)]), 0.1), part=path, alike=path, within=frame)


def spotted_dog(p: Place) -> None:
    """A sitting dog of one coat in pieces, spots on it, two ears, paws, a collar with studs."""
    chance, coat, spots, ears, eyes, studs = p.canvas.chance, *(p.canvas.group() for _ in range(5))
    body = p.draw(at(blade(1.2, 1.1, full=0.35), 0, 0.9), part=coat, alike=coat)
    for x, y in chance.uniform((-0.4, 0.0), (0.4, 0.8), (int(chance.integers(4, 9)), 2)):
        p.draw(circle(x, y, chance.uniform(0.06, 0.12), squash=chance.uniform(0.7, 1)), alike=spots, within=body)
    for side in (-1, 1):
        p.draw(circle(0.28 * side, 0.85, 0.2, squash=0.6), alike=coat)
    head = p.draw(circle(0, -0.5, 0.42, squash=0.9), alike=coat)
    for x, y in chance.uniform((-0.3, -0.85), (0.3, -0.6), (2, 2)):
        p.draw(circle(x, y, 0.08), alike=spots, within=head)
    for side in (-1, 1):
        p.draw(at(blade(0.6, 0.3, full=0.65), 0.33 * side, -0.75, np.pi - 0.35 * side), alike=ears)
        p.draw(circle(0.15 * side, -0.52, 0.06), alike=eyes)
    p.draw(circle(0, -0.3, 0.1, squash=0.7))
    collar = p.draw(band(curve([(-0.36, -0.12), (0, -0.02), (0.36, -0.12)]), 0.12))
    for k in range(5):
        p.draw(circle(-0.28 + 0.14 * k, -0.06 + 0.05 * (1 - abs(k - 2) / 2), 0.035), alike=studs, within=collar)


def starry(p: Place) -> None:
    """A sky behind a sill or a roof that cuts it, stars of two sizes, a moon, a cloud in front."""
    chance, sky, large, small = p.canvas.chance, *(p.canvas.group() for _ in range(3))
    frame = p.draw(box(-1, -0.9, 1, 0.9), part=sky, alike=sky)
    points, stars = int(chance.integers(4, 8)), int(chance.integers(8, 22))
    for x, y in chance.uniform((-0.92, -0.82), (0.92, 0.6), (stars, 2)):
        p.draw(star(x, y, 0.1 * chance.normal(1, 0.08), chance.uniform(0, 2), points), alike=large, within=frame)
    if chance.random() < 0.5:
        for x, y in chance.uniform((-0.92, -0.82), (0.92, 0.6), (6, 2)):
            p.draw(circle(x, y, 0.035), alike=small, within=frame)
    p.draw(circle(-0.45, -0.4, 0.24), within=frame)
    if chance.random() < 0.6:
        wall = p.canvas.group()
        p.draw(box(-0.06, -1, 0.06, 1), part=wall, alike=wall, within=frame)
        p.draw(box(-1, 0.0, 1, 0.1), part=wall, alike=wall, within=frame)


def ivy(p: Place) -> None:
    """A climbing stem before and behind its leaves, on a wall of bricks or before nothing."""
    chance, stem, leaves = p.canvas.chance, p.canvas.group(), p.canvas.group()
    if chance.random() < 0.5:
        bricks = p.canvas.group()
        for row in range(6):
            for k in range(-1, 4):
                left = -1 + 0.5 * k + 0.25 * (row % 2)
                a, b = max(left, -1.0), min(left + 0.5, 1.0)
                if b - a > 0.05:
                    p.draw(box(a, -0.9 + 0.3 * row, b, -0.6 + 0.3 * row), alike=bricks)
    spine = curve([(-0.3, 1.0), (0.3, 0.4), (-0.3, -0.2), (0.2, -1.0)])
    p.draw(band(spine, 0.07), part=stem, alike=stem)
    for k, spot in enumerate(np.linspace(6, 86, int(chance.integers(4, 9))).astype(int)):
        x, y = spine[spot]
        lobes = np.array([[0, 0], [0.22, 0.05], [0.14, -0.2], [0, -0.42], [-0.14, -0.2], [-0.22, 0.05]])
        p.draw(at(dense(lobes, 6) * chance.uniform(0.8, 1.2), x, y, (1 if k % 2 else -1) * 1.1), alike=leaves)


def bowl(p: Place) -> None:
    """Apples heaped in a bowl with a border of triangles; each with a stalk, some with a leaf."""
    chance, fruit, leaves, border = p.canvas.chance, *(p.canvas.group() for _ in range(3))
    for row in range(int(chance.integers(2, 4)), 0, -1):
        for k in range(6 - row):
            x, y = 0.34 * (k - (5 - row) / 2), 0.05 - 0.25 * row
            p.draw(circle(x, y, 0.2, squash=0.92), alike=fruit)
            if chance.random() < 0.4:
                p.draw(at(blade(0.16, 0.08), x, y - 0.16, 0.8), alike=leaves)
    t = np.linspace(0, np.pi, 40)
    dish = p.draw(np.stack([0.95 * np.cos(t), 0.05 + 0.75 * np.sin(t)], 1))
    n = int(chance.integers(5, 10))
    for k in range(n):
        x = -0.85 + 1.7 * k / n
        p.draw(dense(np.array([[x, 0.08], [x + 1.7 / n, 0.08], [x + 0.85 / n, 0.32]]), 6), alike=border, within=dish)


FIFTH_HAND: dict[str, Kind] = {
    one.__name__: partial(leaning, one)
    for one in (
        anemone, spray, dahlia, rowan, floor, boards, carp, wing, awning, ball, envelope, terraced, spotted_dog, starry,
        ivy, bowl,
    )
}  # fmt: skip
