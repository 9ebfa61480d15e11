"""What most stamps show, drawn by another hand than _kinds: the same sorts of things, built up otherwise."""

from __future__ import annotations

from itertools import pairwise

import numpy as np

from tools.things._canvas import Canvas, Points, band, box, circle, dense, petal, turned
from tools.things._kinds import Kind, star


def _arc(points: list[tuple[float, float]], n: int = 24) -> Points:
    """A smooth line from the first to the last, drawn towards those between (de Casteljau's scheme)."""
    t, corners = np.linspace(0, 1, n)[:, None], np.array(points, float)[:, None]
    while len(corners) > 1:
        corners = corners[:-1] * (1 - t) + corners[1:] * t
    return corners[0]


def _halved_leaf(c: Canvas, x: float, y: float, long: float, turn: float, group: int, *, veins: int = 0) -> None:
    """A leaf that its midrib, and veins to the rim, cut into pieces of one surface."""
    outline = petal(x, y, long, long * c.chance.uniform(0.4, 0.6), turn, point=1.2)
    surface, n = c.group(), len(outline) // 2
    rim = outline[:n], outline[n:][::-1]
    spine = (rim[0] + rim[1]) / 2
    places = np.linspace(0, n - 1, veins + 2).astype(int)
    for side in rim:
        for a, b in pairwise(places):
            # Veins lean towards the tip.
            low, high = (min(n - 1, at + n // 6) if at else 0 for at in (a, b))
            piece = np.concatenate([spine[a : b + 1], side[low : high + 1][::-1]])
            c.shape(piece, part=surface, alike=group, wobble=0.0)


def daisy(c: Canvas, x: float, y: float, size: float) -> None:
    """Many slim petals in two rows round a disc, on a stem with halved leaves."""
    chance, petals, green, stem = c.chance, c.group(), c.group(), c.group()
    spine = _arc([(x, y), (x + chance.uniform(-0.4, 0.4) * size, y + size), (x, y + 1.6 * size)])
    c.shape(band(spine, 0.06 * size), part=stem, alike=stem)
    for side in (0.5, np.pi - 0.5):
        _halved_leaf(c, *spine[17], 0.6 * size, side, green, veins=int(chance.integers(0, 3)))
    n, rows = int(chance.integers(9, 17)), int(chance.integers(1, 3))
    for row in range(rows):
        for k in range(n):
            angle = 2 * np.pi * (k + 0.5 * row) / n + chance.normal(0, 0.02)
            c.shape(petal(x, y, 0.85 * size * (1 - 0.15 * row), 3.2 * size / n, angle, point=0.6), alike=petals)
    c.shape(circle(x, y, 0.25 * size, squash=chance.uniform(0.8, 1.0)))


def rose(c: Canvas, x: float, y: float, size: float) -> None:
    """Rounds of petals, each round within the last, the innermost curled up; sepals behind."""
    chance, whole, sepals = c.chance, c.group(), c.group()
    for k in range(5):
        c.shape(petal(x, y, 1.15 * size, 0.35 * size, 2 * np.pi * k / 5, point=1.4), alike=sepals)
    reach, turn = 0.95 * size, chance.uniform(0, 7)
    for round_ in range(int(chance.integers(2, 4))):
        n = 5 - round_ // 2
        for k in range(n):
            angle = turn + 2 * np.pi * k / n
            at = x + 0.5 * reach * np.cos(angle), y + 0.5 * reach * np.sin(angle)
            c.shape(circle(*at, 0.52 * reach, squash=0.85, turn=angle + np.pi / 2), alike=whole)
        reach, turn = 0.64 * reach, turn + np.pi / n
    c.shape(circle(x, y, 0.5 * reach), alike=whole)
    t = np.linspace(0, 2 * np.pi, 30)
    c.shape(np.stack([x + 0.3 * reach * np.cos(t), y + 0.18 * reach * np.sin(t)], axis=1), alike=whole)


def vine(c: Canvas, x: float, y: float, size: float) -> None:
    """A winding stem, one surface that its leaves cut into pieces; berries along it."""
    chance, stem, green, fruit = c.chance, c.group(), c.group(), c.group()
    t = np.linspace(-1, 1, 60)
    spine = np.stack([x + size * t, y + 0.25 * size * np.sin(chance.uniform(3, 6) * t)], axis=1)
    c.shape(band(spine, 0.09 * size), part=stem, alike=stem)
    places = np.linspace(6, 52, int(chance.integers(4, 8))).astype(int)
    halved = chance.random() < 0.5
    for k, at in enumerate(places):
        side = (1 if k % 2 else -1) * chance.uniform(0.9, 1.5)
        base, long = spine[at], size * chance.uniform(0.4, 0.55)
        if halved:
            _halved_leaf(c, *base, long, side, green)
        else:
            c.shape(petal(*(base - (0.1 * size * np.cos(side), 0)), long, 0.55 * long, side, point=1.1), alike=green)
    for at in places[1::2]:
        c.shape(circle(*(spine[at] + (0.12 * size, -0.12 * size)), 0.1 * size), alike=fruit)


def grapes(c: Canvas, x: float, y: float, size: float) -> None:
    """A bunch: rows of berries, each row hiding half of the one above, under a leaf in five lobes."""
    chance, fruit = c.chance, c.group()
    rows = int(chance.integers(3, 6))
    r = 0.95 * size / rows
    c.shape(band(_arc([(x, y - 0.3 * size), (x + 0.1 * size, y - size), (x + 0.3 * size, y - size)]), 0.08 * size))
    for row in range(rows):
        for k in range(rows - row):
            at = x + (k - (rows - row - 1) / 2) * 1.6 * r, y - 0.5 * size + row * 1.25 * r
            c.shape(circle(*at, r * chance.uniform(0.85, 1.0)), alike=fruit)
    angle = np.linspace(0, 2 * np.pi, 80, endpoint=False)
    lobes = 0.4 * size * (1 + 0.25 * np.cos(5 * angle))
    c.shape(np.stack([x + lobes * np.cos(angle), y - 0.75 * size + 0.7 * lobes * np.sin(angle)], axis=1))


def paving(c: Canvas, x: float, y: float, size: float) -> None:
    """Hexagons or herringbone, cut by a round or square frame; what has one shape is of one sort."""
    chance, stones = c.chance, c.group()
    frame = circle(x, y, size) if chance.random() < 0.5 else box(x - size, y - 0.8 * size, x + size, y + 0.8 * size)
    within = c.shape(frame, alike=stones, wobble=0.0)
    w = size * chance.uniform(0.3, 0.5)
    if chance.random() < 0.5:
        six = np.stack([np.cos(np.arange(6) * np.pi / 3), np.sin(np.arange(6) * np.pi / 3)], axis=1) * w * 0.58
        for i in range(-4, 5):
            for j in range(-4, 5):
                at = x + 0.87 * w * i, y + w * (j + 0.5 * (i % 2))
                c.shape(dense(six) + at, alike=stones, within=within, wobble=0.0)
    else:
        for i in range(-8, 9):
            for j in range(-4, 5):
                left, top = x + (0.5 * i + j) * w, y + (0.5 * i - j) * w
                c.shape(box(left, top, left + w, top + 0.5 * w), alike=stones, within=within, wobble=0.0)
                c.shape(
                    box(left, top + 0.5 * w, left + 0.5 * w, top + 1.5 * w), alike=stones, within=within, wobble=0.0
                )


def door(c: Canvas, x: float, y: float, size: float) -> None:
    """Upright boards in a frame, cut by hinges: each board one surface; nails strewn in rows, a knob."""
    chance, wood, iron, nails = c.chance, c.group(), c.group(), c.group()
    n = int(chance.integers(3, 7))
    w = 1.3 * size / n
    if chance.random() < 0.5:
        c.shape(box(x - 0.8 * size, y - size, x + 0.8 * size, y + size), wobble=0.0)
    for k in range(n):
        left = x - 0.65 * size + k * w
        c.shape(box(left, y - 0.85 * size, left + w, y + 0.85 * size), alike=wood, wobble=0.0)
    long = chance.uniform(0.6, 1.3)
    for top in (-0.6, 0.5):
        hinge = box(x - 0.65 * size, y + top * size, x + (long - 0.65) * size, y + (top + 0.14) * size)
        c.shape(hinge, alike=iron, wobble=0.0)
        for k in range(n if chance.random() < 0.6 else 0):
            at = x - 0.65 * size + (k + 0.5) * w
            if at < x + (long - 0.7) * size:
                c.shape(circle(at, y + (top + 0.07) * size, 0.035 * size), alike=nails)
    c.shape(circle(x + 0.5 * size, y, 0.08 * size))


def shingles(c: Canvas, x: float, y: float, size: float) -> None:
    """A roof or a tail: rows of tongues, each row before the one below."""
    chance, tongues = c.chance, c.group()
    rows, cols, round_ = int(chance.integers(3, 7)), int(chance.integers(4, 8)), chance.random() < 0.6
    w, h = 2 * size / cols, 1.5 * size / rows
    t = np.linspace(0, np.pi, 14)
    for i in reversed(range(rows)):
        for j in range(cols):
            left, top = x - size + (j + 0.5 * (i % 2)) * w, y - 0.8 * size + i * h
            foot = np.stack([left + w / 2 - w / 2 * np.cos(t), top + h + 0.3 * h * np.sin(t)], axis=1)
            if not round_:
                foot = np.array([[left, top + h], [left + w / 2, top + 1.35 * h], [left + w, top + h]])
            tongue = dense(np.concatenate([[[left, top]], foot, [[left + w, top]]]), 6)
            c.shape(tongue, alike=tongues, wobble=0.0)


def plume(c: Canvas, x: float, y: float, size: float) -> None:
    """Single feathers, each vane halved by a shaft, now and then barred or with an eye."""
    chance, vanes, shafts, bars, eyes = (c.chance, *(c.group() for _ in range(4)))
    barred, eyed = chance.random() < 0.3, chance.random() < 0.4
    n = int(chance.integers(1, 5))
    for k in range(n):
        turn = -np.pi / 2 + (k - (n - 1) / 2) * 0.5
        base = x + 0.1 * size * (k - (n - 1) / 2), y + 0.8 * size
        long, wide = 1.5 * size, size * min(0.55, 1.2 / n)
        outline = petal(*base, long, wide, turn, point=0.7)
        half = len(outline) // 2
        spine = (outline[:half] + outline[half:][::-1]) / 2
        surface = c.group()
        for side in (outline[:half], outline[half:][::-1]):
            piece = np.concatenate([spine, side[::-1]])
            mask = c.shape(piece, part=surface, alike=vanes, wobble=0.0)
            if barred:
                for at in range(5, half - 3, 5):
                    strip = np.concatenate([spine[at : at + 3], side[at + 1 : at + 4][::-1]])
                    c.shape(strip, alike=bars, within=mask, wobble=0.0)
        if eyed:
            at = np.array(base) + 0.75 * long * np.array([np.cos(turn), np.sin(turn)])
            c.shape(circle(*at, 0.35 * wide, squash=0.8, turn=turn), alike=eyes)
        c.shape(band(spine[: half - 3], 0.05 * size), alike=shafts, wobble=0.0)


def tent(c: Canvas, x: float, y: float, size: float) -> None:
    """Stripes from a peak down, two sorts in turn, with a valance of scallops and a pennant."""
    chance, roof, wall = c.chance, c.group(), c.group()
    two, scallops = (c.group(), c.group()), c.group()
    n = int(chance.integers(4, 9))
    top, eaves, foot = y - 0.8 * size, y - 0.1 * size, y + 0.8 * size
    at = np.linspace(x - 0.9 * size, x + 0.9 * size, n + 1)
    low = np.linspace(x - 0.75 * size, x + 0.75 * size, n + 1)
    if chance.random() < 0.7:
        for k in range(n):
            side = np.array([[low[k], eaves], [low[k + 1], eaves], [low[k + 1], foot], [low[k], foot]])
            c.shape(dense(side), part=wall, alike=two[k % 2], wobble=0.0)
    sag = chance.uniform(0, 0.12) * size
    edges = [_arc([(x, top), ((x + a) / 2, (top + eaves) / 2 + sag), (a, eaves)], 16) for a in at]
    for k, (left, right) in enumerate(pairwise(edges)):
        c.shape(np.concatenate([left, right[::-1]]), part=roof, alike=two[k % 2], wobble=0.0)
    if chance.random() < 0.6:
        for a, b in pairwise(at):
            t = np.linspace(0, np.pi, 12)
            bow = np.stack([(a + b) / 2 + (b - a) / 2 * np.cos(t), eaves + 0.14 * size * np.sin(t)], axis=1)
            c.shape(bow, alike=scallops, wobble=0.0)
    c.shape(dense(np.array([[x, top], [x, top - 0.3 * size], [x + 0.3 * size, top - 0.2 * size]])), wobble=0.0)


def airship(c: Canvas, x: float, y: float, size: float) -> None:
    """A drop-shaped envelope in gores that meet at crown and mouth, of one sort or two; a belt; a basket on ropes."""
    chance, surface = c.chance, c.group()
    two = (c.group(), c.group()) if chance.random() < 0.6 else (c.group(),) * 2
    t = np.linspace(0, np.pi, 40)
    round_ = np.sin(t) * (1 - 0.25 * (t / np.pi) ** 2)
    down = y - 0.9 * size * np.cos(t) - 0.2 * size
    n = int(chance.integers(3, 9))
    edges = np.sin(np.linspace(-np.pi / 2, np.pi / 2, n + 1)) * 0.9 * size
    keep = slice(0, 36)
    masks = []
    for k, (a, b) in enumerate(pairwise(edges)):
        left, right = (np.stack([x + edge * round_, down], axis=1)[keep] for edge in (a, b))
        masks.append(c.shape(np.concatenate([left, right[::-1]]), part=surface, alike=two[k % 2], wobble=0.0))
    if chance.random() < 0.5:
        belt = _arc([(x - size, y - 0.3 * size), (x, y + 0.1 * size), (x + size, y - 0.3 * size)])
        c.shape(band(belt, 0.22 * size), part=surface, within=np.maximum.reduce(masks), wobble=0.0)
    ropes = c.group()
    for side in (-1, 1):
        rope = np.array([[x + 0.2 * side * size, y + 0.62 * size], [x + 0.13 * side * size, y + 0.95 * size]])
        c.shape(band(np.linspace(*rope, 8), 0.03 * size), alike=ropes, wobble=0.0)
    c.shape(box(x - 0.18 * size, y + 0.92 * size, x + 0.18 * size, y + 1.15 * size), wobble=0.0)


def country(c: Canvas, x: float, y: float, size: float) -> None:
    """Sky, sun and rolling hills in a frame, cut from top to foot by trunks, or by a fence of posts."""
    chance, sky = c.chance, c.group()
    within = c.shape(box(x - size, y - 0.8 * size, x + size, y + 0.8 * size), part=sky, alike=sky, wobble=0.0)
    if chance.random() < 0.6:
        c.shape(circle(x + chance.uniform(-0.6, 0.6) * size, y - 0.4 * size, 0.2 * size), within=within)
    t = np.linspace(-1.1, 1.1, 60)
    for k in range(int(chance.integers(2, 5))):
        land, middle = c.group(), chance.uniform(-0.8, 0.8)
        bow = y + (-0.15 + 0.22 * k) * size + 0.3 * size * (t - middle) ** 2 * chance.choice([-0.6, 1.0])
        foot = [[x + 1.2 * size, y + size], [x - 1.2 * size, y + size]]
        hill = np.concatenate([np.stack([x + size * t, bow], axis=1), foot])
        c.shape(hill, part=land, alike=land, within=within, wobble=0.0)
    trunks, posts = c.group(), c.group()
    if chance.random() < 0.6:
        for at in chance.uniform(-0.8, 0.8, int(chance.integers(1, 4))):
            wide = size * chance.uniform(0.06, 0.14)
            sides = np.array([[-0.4, -0.9], [0.4, -0.9], [0.6, 0.9], [-0.6, 0.9]])
            trunk = dense(sides * (wide, size) + (x + at * size, y))
            c.shape(trunk, alike=trunks, within=within, wobble=0.0)
    else:
        for at in np.linspace(-0.85, 0.75, int(chance.integers(4, 8))):
            left = x + at * size
            c.shape(box(left, y + 0.2 * size, left + 0.1 * size, y + 0.7 * size), alike=posts, wobble=0.0)


def fields(c: Canvas, x: float, y: float, size: float) -> None:
    """Steps up a slope, each a strip of its own before the next, cut by a tree that stands before them."""
    chance, crown = c.chance, c.group()
    n = int(chance.integers(4, 8))
    t = np.linspace(-1, 1, 40)
    lean = chance.uniform(-0.3, 0.3) * size
    for k in range(n):
        level, step = y - 0.7 * size + 1.3 * size * k / n, c.group()
        edge = level + 0.1 * size * np.cos(3 * t + 0.4 * k) + lean * t * (1 - k / n)
        foot = np.array([[x + size, y + 0.85 * size], [x - size, y + 0.85 * size]])
        c.shape(np.concatenate([np.stack([x + size * t, edge], axis=1), foot]), part=step, alike=step, wobble=0.0)
    trunk = c.group()
    at = x + chance.uniform(-0.6, 0.6) * size
    spine = _arc([(at, y + 0.7 * size), (at + 0.15 * size, y), (at - 0.1 * size, y - 0.6 * size)])
    c.shape(band(spine, np.linspace(0.18, 0.08, 24) * size), part=trunk, alike=trunk, wobble=0.0)
    for away in ((-0.25, -0.55), (0.2, -0.6), (-0.05, -0.8)):
        c.shape(circle(at + away[0] * size, y + away[1] * size, 0.26 * size, squash=0.85), alike=crown)


def ladybird(c: Canvas, x: float, y: float, size: float) -> None:
    """Two wing cases of one sort with mirrored spots, a head, six legs."""
    chance, cases, spots, legs = (c.chance, *(c.group() for _ in range(3)))
    for side in (-1, 1):
        for k in range(3):
            foot = petal(x, y + (k - 1) * 0.4 * size, size, 0.16 * size, 0 if side > 0 else np.pi, point=0.6)
            c.shape(foot, alike=legs)
    c.shape(circle(x, y - 0.75 * size, 0.4 * size))
    t = np.linspace(0, np.pi, 30)
    for side in (-1, 1):
        half = np.stack([x + side * 0.75 * size * np.sin(t), y - 0.85 * size * np.cos(t)], axis=1)
        c.shape(half, alike=cases, wobble=0.0)
    for at, big in zip(
        chance.uniform((0.2, -0.6), (0.6, 0.6), (int(chance.integers(1, 5)), 2)), (3, 2, 3, 2), strict=False
    ):
        for side in (-1, 1):
            c.shape(circle(x + side * at[0] * size, y + at[1] * size, 0.05 * big * size), alike=spots, wobble=0.0)


def toadstools(c: Canvas, x: float, y: float, size: float) -> None:
    """Half-round caps with spots that the rim cuts, on bellied stalks, large before small."""
    chance, stalks, caps, spots = (c.chance, *(c.group() for _ in range(3)))
    for k, big in enumerate(sorted(chance.uniform(0.4, 0.9, int(chance.integers(1, 4))))):
        s, at = big * size, x + (0.6 * k - 0.5) * size
        belly = np.array([[-0.15, -0.2], [0.15, -0.2], [0.28, 1.0], [-0.28, 1.0]]) * s + (at, y)
        c.shape(dense(belly), alike=stalks)
        t = np.linspace(np.pi, 2 * np.pi, 30)
        hat = np.concatenate([np.stack([at + s * np.cos(t), y + s * np.sin(t)], axis=1), [[at, y + 0.12 * s]]])
        within = c.shape(hat, alike=caps, wobble=0.0)
        for spot in chance.uniform((-0.9, -0.95), (0.9, -0.05), (int(chance.integers(3, 9)), 2)):
            c.shape(
                circle(at + spot[0] * s, y + spot[1] * s, s * chance.uniform(0.1, 0.18)), alike=spots, within=within
            )


def window(c: Canvas, x: float, y: float, size: float) -> None:
    """A night sky seen through bars: the sky is one surface in pieces; stars in three sizes, a sickle moon."""
    chance, sky, stars, frame = (c.chance, *(c.group() for _ in range(3)))
    within = c.shape(box(x - size, y - 0.9 * size, x + size, y + 0.9 * size), part=sky, alike=sky, wobble=0.0)
    t = np.linspace(-2.2, 2.2, 24)
    sickle = np.concatenate([
        np.stack([np.cos(t), np.sin(t)], axis=1), np.stack([0.55 * np.cos(t) - 0.1, 0.8 * np.sin(t)], axis=1)[::-1]
    ])  # fmt: skip
    c.shape(
        turned(sickle * 0.3 * size, chance.uniform(0, 7), x + 0.4 * size, y - 0.4 * size), within=within, wobble=0.0
    )
    n = int(chance.integers(4, 7))
    for at in chance.uniform(-0.8, 0.8, (int(chance.integers(4, 12)), 2)):
        big = size * chance.choice([0.06, 0.1, 0.14])
        c.shape(star(*(at * size + (x, y)), big, chance.uniform(0, 7), n), alike=stars, within=within, wobble=0.0)
    for k in range(int(chance.integers(1, 3))):
        at = y + (-0.1 + 0.5 * k) * size
        c.shape(box(x - size, at, x + size, at + 0.08 * size), part=frame, alike=frame, wobble=0.0)
    c.shape(box(x - 0.05 * size, y - 0.9 * size, x + 0.05 * size, y + 0.9 * size), part=frame, alike=frame, wobble=0.0)


def gnome(c: Canvas, x: float, y: float, size: float) -> None:
    """Boots, coat, beard, nose and a tall hat in rings of two sorts."""
    chance, boots, hands, hat = (c.chance, *(c.group() for _ in range(3)))
    two, buttons = (c.group(), c.group()), c.group()
    for side in (-1, 1):
        c.shape(circle(x + 0.28 * side * size, y + 0.85 * size, 0.28 * size, squash=0.6), alike=boots)
    coat = np.array([[-0.35, -0.1], [0.35, -0.1], [0.6, 0.8], [-0.6, 0.8]]) * size + (x, y)
    c.shape(dense(coat))
    for side in (-1, 1):
        c.shape(circle(x + 0.55 * side * size, y + 0.35 * size, 0.14 * size), alike=hands)
    for k in range(int(chance.integers(0, 4))):
        c.shape(circle(x, y + (0.45 + 0.13 * k) * size, 0.045 * size), alike=buttons)
    beard = _arc([(x - 0.45 * size, y - 0.1 * size), (x - 0.3 * size, y + 0.9 * size), (x + 0.3 * size, y + 0.9 * size),
                  (x + 0.45 * size, y - 0.1 * size)], 40)  # fmt: skip
    c.shape(beard, wobble=0.0)
    n = int(chance.integers(1, 5))
    tip = np.array([x + chance.uniform(-0.3, 0.3) * size, y - 1.2 * size])
    sides = [_arc([(x + 0.55 * s * size, y - 0.1 * size), (x + 0.4 * s * size, y - 0.6 * size), tuple(tip)], 20 * n + 1)
             for s in (-1, 1)]  # fmt: skip
    for k in range(n):
        left, right = (side[20 * k : 20 * k + 21] for side in sides)
        c.shape(np.concatenate([left, right[::-1]]), part=hat, alike=two[k % 2], wobble=0.0)
    c.shape(circle(x, y - 0.05 * size, 0.13 * size, squash=0.85))


def fir(c: Canvas, x: float, y: float, size: float) -> None:
    """Tiers before each other, baubles, a star on top."""
    chance, tiers, baubles = c.chance, c.group(), c.group()
    c.shape(box(x - 0.1 * size, y + 0.7 * size, x + 0.1 * size, y + size))
    n = int(chance.integers(3, 6))
    for k in reversed(range(n)):
        top, half = y + (-0.9 + 1.3 * k / n) * size, size * (0.35 + 0.45 * k / n)
        low = top + 0.62 * size
        t = np.linspace(0, 1, 25)
        hem = np.stack([x - half + 2 * half * t, low + 0.06 * size * np.abs(np.sin(3 * np.pi * t))], axis=1)[::-1]
        c.shape(
            np.concatenate([dense(np.array([[x - half, low], [x, top], [x + half, low]]))[:24], hem]),
            alike=tiers,
            wobble=0.0,
        )
    for at in chance.uniform((-0.35, -0.3), (0.35, 0.55), (int(chance.integers(0, 9)), 2)):
        c.shape(circle(x + at[0] * size, y + at[1] * size, 0.07 * size), alike=baubles)
    c.shape(star(x, y - 0.92 * size, 0.17 * size, -np.pi / 2), wobble=0.0)


def pumpkin(c: Canvas, x: float, y: float, size: float) -> None:
    """Ribs of one skin, the middle one foremost; a stalk, sometimes a face cut out of it."""
    chance, skin, eyes = c.chance, c.group(), c.group()
    c.shape(box(x - 0.1 * size, y - 0.9 * size, x + 0.12 * size, y - 0.5 * size))
    n = int(chance.integers(1, 4))
    for k in reversed(range(n + 1)):
        for side in (-1, 1) if k else (1,):
            at = x + side * k * min(0.4, 0.75 / n) * size
            c.shape(circle(at, y, 0.38 * size, squash=1.75 - 0.15 * k), part=skin, alike=skin, wobble=0.002)
    if chance.random() < 0.4:
        for side in (-1, 1):
            eye = np.array([[-0.13, 0.1], [0.13, 0.1], [0.0, -0.14]]) + np.array([0.3 * side, -0.15])
            c.shape(dense(eye * size + (x, y)), alike=eyes, wobble=0.0)


OTHER_HAND: dict[str, Kind] = {
    one.__name__: one
    for one in (
        daisy, rose, vine, grapes, paving, door, shingles, plume, tent, airship, country, fields, ladybird,
        toadstools, window, gnome, fir, pumpkin,
    )
}  # fmt: skip
"""The same sorts of things as in BASIC, as somebody else would draw them."""
