"""Sprays: drawings made by chance, to measure on. No two seeds are alike: flowers, stems, berries, pots, open lines."""

from __future__ import annotations

from dataclasses import replace

import numpy as np

from demo.lineart._shapes import Drawing, Points, Shape, box, ellipse, leaf, smooth, star, turned

WIDTH_MM, HEIGHT_MM = 107.95, 139.7
WIDEST_GAP_MM = 1.2


def sprays(seed: int, open_share: float = 0.4) -> Drawing:
    """A bunch of invented plants in a pot under some stars.

    `open_share` of the outlines have one to three gaps of 0.4 to 1.2 mm in them, as stamps are drawn. Lines are 0.3
    to 0.6 mm wide.
    """
    chance = np.random.default_rng(seed)
    art = Drawing(f"Spray {seed}", WIDTH_MM, HEIGHT_MM, line_mm=float(chance.uniform(0.32, 0.6)))
    art.add("Table", box(4, 118, 100, float(chance.uniform(5, 10))), "flat", "#c59a68")
    for _ in range(int(chance.integers(3, 7))):
        x, y = chance.uniform(8, 100), chance.uniform(6, 24)
        art.add("Star", star(x, y, float(chance.uniform(1.8, 4)), turn_deg=float(chance.uniform(0, 70))), "flat")
    foot = np.array((54.0, 96.0))
    heads = [(chance.uniform(14, 94), chance.uniform(28, 72)) for _ in range(int(chance.integers(4, 8)))]
    for x, y in heads:
        _stem(art, chance, foot, np.array((x, y)))
    for x, y in heads:
        kind = chance.integers(3)
        (_daisy if kind == 0 else _berries if kind == 1 else _bud)(art, chance, x, y)
    _pot(art, chance, 54, 90)
    art.shapes = [opened(shape, chance, open_share) for shape in art.shapes]
    return art


def _stem(art: Drawing, chance: np.random.Generator, foot: Points, head: Points) -> None:
    bend = (foot + head) / 2 + chance.uniform(-9, 9, 2)
    middle = smooth([foot, bend, head], closed=False)
    along = np.gradient(middle, axis=0)
    across = np.stack([-along[:, 1], along[:, 0]], axis=1) / np.linalg.norm(along, axis=1, keepdims=True)
    half = chance.uniform(0.7, 1.3)
    art.add("Stem", np.concatenate([middle + half * across, (middle - half * across)[::-1]]), "tube", "#5f8f4e", 2)
    for _ in range(int(chance.integers(0, 4))):
        k = int(chance.integers(6, len(middle) - 6))
        length, deg = float(chance.uniform(6, 15)), float(chance.uniform(-150, 150))
        art.add("Leaf", leaf(*middle[k], length, float(length * chance.uniform(0.3, 0.5)), deg), "leaf", "#6fa05a")
        if chance.random() < 0.5:  # a vein that ends before the tip
            tip = turned(np.array([(0, -0.12 * length), (0, -0.72 * length)]) + middle[k], deg, middle[k])
            art.line(tip)


def _daisy(art: Drawing, chance: np.random.Generator, x: float, y: float) -> None:
    count, length = int(chance.integers(5, 12)), float(chance.uniform(7, 13))
    start = chance.uniform(0, 360)
    for k in range(count):
        width = float(2.4 * length * np.sin(np.pi / count) * chance.uniform(0.7, 1.1))
        art.add("Petal", leaf(x, y, length, width, start + 360 * k / count, belly=0.65), "petal", "#d9618a")
    r = float(length * chance.uniform(0.22, 0.34))
    art.add("Flower centre", ellipse(x, y, r, r), "dome", "#e6bd4f", 2)
    if chance.random() < 0.5:
        for _ in range(6):
            art.dot(*(np.array((x, y)) + chance.uniform(-0.5, 0.5, 2) * r), 0.22)


def _berries(art: Drawing, chance: np.random.Generator, x: float, y: float) -> None:
    for _ in range(int(chance.integers(6, 14))):
        r = float(chance.uniform(0.75, 2.4))
        art.add("Berry", ellipse(x + chance.normal(0, 5), y + chance.normal(0, 5), r, r), "dome", "#a03a4a", 2)


def _bud(art: Drawing, chance: np.random.Generator, x: float, y: float) -> None:
    length, deg = float(chance.uniform(9, 15)), float(chance.uniform(-50, 50))
    for turn, width in ((-16, 0.42), (16, 0.42), (0, 0.5)):
        art.add(
            "Bud petal", leaf(x, y + length / 2, length, width * length, deg + turn, belly=0.55), "petal", "#b77fc0"
        )
    foot = smooth(
        [
            (x - 2.6, y + length / 2 - 1.5),
            (x, y + length / 2 - 3.2),
            (x + 2.6, y + length / 2 - 1.5),
            (x, y + length / 2 + 1.6),
        ]
    )
    art.add("Bud cup", turned(foot, deg, (x, y + length / 2)), "dome", "#5f8f4e", 2)


def _pot(art: Drawing, chance: np.random.Generator, x: float, top: float) -> None:
    half, taper = float(chance.uniform(13, 18)), float(chance.uniform(1, 4))
    art.add("Pot", box(x - half, top, 2 * half, 30, taper=taper), "tube", "#c7694f")
    bands = int(chance.integers(0, 3))
    for k in range(bands):
        y = top + 8 + 9 * k
        art.add("Pot band", box(x - half + taper * 0.4, y, 2 * half - taper * 0.8, 4.4), "flat", "#e6bd4f", beside=True)
        for spot in np.linspace(x - half + 4, x + half - 4, 6):
            if chance.random() < 0.6:
                art.add("Pot spot", ellipse(spot, y + 2.2, 1.2, 1.2), "flat", "#3f74c0", 1, beside=True)
    for _ in range(int(chance.integers(0, 7))):  # strokes that end free on either side: not borders
        a = np.array((x + chance.uniform(-half + 4, half - 7), top + 27 + chance.uniform(-0.5, 0.5)))
        art.line([a, a + np.array((2.2, -1.1))])
    art.add("Pot rim", box(x - half - 1.5, top - 4, 2 * half + 3, 5.5), "tube", "#c7694f")


def opened(shape: Shape, chance: np.random.Generator, share: float) -> Shape:
    """The shape with one to three gaps in its outline, for `share` of the shapes."""
    if not shape.closed or shape.solid or chance.random() >= share:
        return shape
    size = np.ptp(shape.points, axis=0).min()
    widest = min(WIDEST_GAP_MM, 0.45 * size)
    if widest < 0.4:
        return shape
    gaps = tuple(
        (float(chance.random()), float(chance.uniform(0.4, widest))) for _ in range(int(chance.integers(1, 4)))
    )
    return replace(shape, gaps=gaps)
