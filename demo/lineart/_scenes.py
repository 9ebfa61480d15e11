"""Scenes: drawings made by chance, to measure on. Houses, cakes, fish and the like stand about; no two seeds are alike.

Beside the sprays they are another hand: straight walls, zigzags, inner strokes, narrow passages that are no breaks.
"""

from __future__ import annotations

from collections.abc import Callable, Sequence

import cv2
import numpy as np
from numpy.typing import ArrayLike

from demo.lineart._shapes import FINE_MM, Drawing, Points, box, ellipse
from demo.lineart._sprays import HEIGHT_MM, WIDTH_MM, opened

Chance = np.random.Generator
Thing = Callable[[Drawing, Chance, float, float, float], None]


def scenes(seed: int, open_share: float = 0.4, kinds: Sequence[str] = ()) -> Drawing:
    """A few things before some hills; `kinds` names which (all of KINDS when empty), `open_share` as in sprays."""
    chance = np.random.default_rng(seed)
    art = Drawing(f"Scene {seed}", WIDTH_MM, HEIGHT_MM, line_mm=float(chance.uniform(0.32, 0.6)))
    for k in range(int(chance.integers(0, 4))):
        x = np.linspace(5, 103, 80)
        y = 128 - (3 - k) * 13 * chance.uniform(0.6, 1) + 5 * np.sin(x / chance.uniform(9, 25) + chance.uniform(0, 6))
        art.add("Hill", np.concatenate([np.stack([x, y], axis=1), [(103, 135), (5, 135)]]), "ground")
    names = list(kinds or KINDS)
    for _ in range(int(chance.integers(6, 13))):
        thing = KINDS[names[int(chance.integers(len(names)))]]
        thing(art, chance, *chance.uniform((17, 17), (91, 118)), float(chance.uniform(7, 20)))
    art.shapes = [opened(shape, chance, open_share) for shape in art.shapes]
    return art


def _blob(chance: Chance, x: float, y: float, r: float, wobble: float = 0.05) -> Points:
    angle = np.linspace(0, 2 * np.pi, 120, endpoint=False)
    waves = [wobble / k * chance.normal() * np.cos(k * angle + chance.uniform(0, 6.3)) for k in (2, 3, 4)]
    radius, stretch = r * (1 + np.sum(waves, axis=0)), chance.uniform(0.75, 1.3)
    return np.stack([x + radius * stretch * np.cos(angle), y + radius / stretch * np.sin(angle)], axis=1)


def _within(art: Drawing, outline: ArrayLike, line: ArrayLike) -> None:
    """The part of a line that lies inside an outline."""
    line = np.asarray(line, float)
    along = np.concatenate([[0.0], np.cumsum(np.linalg.norm(np.diff(line, axis=0), axis=1))])
    at = np.linspace(0, along[-1], max(3, int(along[-1] / FINE_MM)))
    fine = np.stack([np.interp(at, along, line[:, axis]) for axis in (0, 1)], axis=1)
    hull = np.asarray(outline, np.float32)
    inside = np.array([cv2.pointPolygonTest(hull, (float(a), float(b)), False) >= 0 for a, b in fine])
    cuts = np.flatnonzero(np.diff(inside.astype(int))) + 1
    for part, kept in zip(np.split(fine, cuts), np.split(inside, cuts), strict=True):
        if kept[0] and len(part) > 2:
            art.line(part)


def _shape(art: Drawing, name: str, outline: ArrayLike, inner: Sequence[ArrayLike] = ()) -> None:
    art.add(name, outline)
    for line in inner:
        _within(art, outline, line)


def _tree(art: Drawing, chance: Chance, x: float, y: float, r: float) -> None:
    _shape(art, "Trunk", box(x - 0.14 * r, y, 0.28 * r, 1.3 * r), [[(x, y + 0.9 * r), (x, y + 1.2 * r)]])
    for _ in range(int(chance.integers(1, 4))):
        art.add("Crown", _blob(chance, *chance.normal((x, y), 0.3 * r), 0.55 * r, 0.15))
    for _ in range(int(chance.integers(0, 6))):
        art.add("Fruit", _blob(chance, *chance.normal((x, y), 0.3 * r), float(chance.uniform(0.6, 1.2))))


def _house(art: Drawing, chance: Chance, x: float, y: float, r: float) -> None:
    boards = (1 / 3, 2 / 3) if chance.random() < 0.4 else ()
    _shape(art, "Wall", box(x - 0.7 * r, y, 1.4 * r, r), [[(x - r, y + q * r), (x + r, y + q * r)] for q in boards])
    rows = (0.2, 0.4) if chance.random() < 0.5 else ()
    roof = [(x - 0.9 * r, y), (x, y - 0.7 * r), (x + 0.9 * r, y)]
    _shape(art, "Roof", roof, [[(x - r, y - q * r), (x + r, y - q * r)] for q in rows])
    art.add("Door", box(x - 0.15 * r, y + 0.45 * r, 0.35 * r, 0.55 * r))
    art.add("Knob", ellipse(x + 0.12 * r, y + 0.75 * r, max(0.45, 0.03 * r), max(0.45, 0.03 * r)))
    for side in (-0.45, 0.45):
        at, top, half = x + side * r, y + 0.3 * r, 0.16 * r
        cross = [[(at, top - half), (at, top + half)], [(at - half, top), (at + half, top)]]
        _shape(art, "Window", box(at - half, top - half, 2 * half, 2 * half), cross)


def _toadstool(art: Drawing, chance: Chance, x: float, y: float, r: float) -> None:
    art.add("Stalk", box(x - 0.35 * r, y, 0.7 * r, 0.9 * r))
    art.add("Cap", ellipse(x, y + 0.15 * r, r, 0.8 * r, start=180, end=360))
    for _ in range(int(chance.integers(3, 8))):
        place = (x + chance.uniform(-0.6, 0.6) * r, y - chance.uniform(0.05, 0.45) * r)
        art.add("Spot", _blob(chance, *place, float(chance.uniform(0.06, 0.14) * r)))


def _fish(art: Drawing, chance: Chance, x: float, y: float, r: float) -> None:
    tail = [(x + 0.7 * r, y), (x + 1.3 * r, y - 0.4 * r), (x + 1.15 * r, y), (x + 1.3 * r, y + 0.4 * r)]
    _shape(art, "Tail", tail, [[(x + 0.9 * r, y), (x + 1.2 * r, y - 0.2 * r)]])
    down = np.linspace(-0.55, 0.55, 13) * r
    wave = 0.08 * r * np.sin(np.arange(13) / 2)
    bands = [np.stack([x + q * r + wave, y + down], axis=1) for q in np.linspace(-0.4, 0.6, int(chance.integers(2, 6)))]
    _shape(art, "Fish", ellipse(x, y, r, 0.5 * r), bands)
    art.add("Eye", ellipse(x - 0.7 * r, y - 0.1 * r, 0.09 * r, 0.09 * r))
    art.dot(x - 0.7 * r, y - 0.1 * r, max(0.2, 0.04 * r))


def _cake(art: Drawing, chance: Chance, x: float, y: float, r: float) -> None:
    tiers = int(chance.integers(1, 4))
    for k in range(tiers):
        half, top = 0.8 * r * (1 - 0.25 * k), y - 0.45 * r * k
        art.add("Tier", box(x - half, top, 2 * half, 0.45 * r))
        across = np.linspace(-half, half, 2 * int(chance.integers(2, 7)) + 1)
        deep = np.where(np.arange(len(across)) % 2, chance.uniform(0.15, 0.22), chance.uniform(0.08, 0.13)) * r
        edge = np.stack([x + across, top + deep], axis=1)
        art.add("Icing", np.concatenate([[(x - half, top)], edge, [(x + half, top)]]))
    top = y - 0.45 * r * (tiers - 1)
    for q in np.linspace(-0.3, 0.3, int(chance.integers(1, 5))):
        art.add("Candle", box(x + q * r - 0.5, top - 0.3 * r, 1.0, 0.3 * r))
        art.add("Flame", _blob(chance, x + q * r, top - 0.36 * r, 0.8))


def _shell(art: Drawing, chance: Chance, x: float, y: float, r: float) -> None:
    rim = ellipse(x, y, r, r, start=189, end=351)
    angles = np.radians(np.linspace(205, 335, int(chance.integers(4, 10))))
    foot = y + (0.2 if chance.random() < 0.5 else 0.25) * r
    ribs = [[(x, foot), (x + 1.1 * r * np.cos(a), y + 1.1 * r * np.sin(a))] for a in angles]
    _shape(art, "Shell", np.concatenate([rim, [(x, y + 0.25 * r)]]), ribs)


def _gift(art: Drawing, chance: Chance, x: float, y: float, r: float) -> None:
    ribbon = [[(x + q * r, y - r), (x + q * r, y + r)] for q in (-0.1, 0.1)]
    _shape(art, "Box", box(x - 0.7 * r, y - 0.5 * r, 1.4 * r, 1.1 * r), ribbon)
    _shape(art, "Lid", box(x - 0.78 * r, y - 0.5 * r, 1.56 * r, 0.25 * r), ribbon)
    for side in (-1, 1):
        fold = [(x + side * 0.1 * r, y - 0.65 * r), (x + side * 0.35 * r, y - 0.68 * r)]
        _shape(art, "Loop", ellipse(x + side * 0.3 * r, y - 0.65 * r, 0.3 * r, 0.16 * r), [fold])
    art.add("Knot", _blob(chance, x, y - 0.6 * r, 0.1 * r))


def _bird(art: Drawing, chance: Chance, x: float, y: float, r: float) -> None:
    art.add("Body", _blob(chance, x, y, 0.6 * r, 0.08))
    art.add("Head", _blob(chance, x - 0.55 * r, y - 0.45 * r, 0.32 * r))
    art.add("Beak", [(x - 0.85 * r, y - 0.5 * r), (x - 1.1 * r, y - 0.42 * r), (x - 0.83 * r, y - 0.36 * r)])
    feathers = [[(x - 0.1 * r, y + q * r), (x + 0.3 * r, y + q * r)] for q in (0.05, 0.15)]
    _shape(art, "Wing", _blob(chance, x + 0.1 * r, y, 0.3 * r, 0.1), feathers)
    art.dot(x - 0.6 * r, y - 0.5 * r, max(0.25, 0.04 * r))
    for q in (0.0, 0.2):
        art.line([(x + q * r, y + 0.6 * r), (x + q * r, y + 0.9 * r)])


def _cloud(art: Drawing, chance: Chance, x: float, y: float, r: float) -> None:
    lobes = [np.pi * k / 5 for k in range(10)]
    centres = [(x + 0.6 * r * np.cos(a), y + 0.28 * r * np.sin(a)) for a in lobes]
    mask = np.zeros((int(HEIGHT_MM * 10), int(WIDTH_MM * 10)), np.uint8)
    for a, b in [*centres, (x, y)]:
        cv2.circle(mask, (int(a * 10), int(b * 10)), int(chance.uniform(2, 3) * r), 1, -1)
    outline = max(cv2.findContours(mask, cv2.RETR_EXTERNAL, cv2.CHAIN_APPROX_NONE)[0], key=len)[::4, 0] / 10
    art.add("Cloud", outline)


def _snowman(art: Drawing, chance: Chance, x: float, y: float, r: float) -> None:
    for k, share in enumerate((0.5, 0.36, 0.24)):
        art.add("Ball", _blob(chance, x, y + r * (0.5 - k * 0.55), r * share, 0.02))
    for k in range(3):
        art.add("Button", _blob(chance, x, y + r * (0.3 - 0.17 * k), max(0.5, 0.04 * r), 0.02))
    art.add("Scarf", box(x - 0.25 * r, y - 0.46 * r, 0.5 * r, 0.14 * r, turn_deg=5))
    end = box(x + 0.1 * r, y - 0.35 * r, 0.17 * r, 0.47 * r, turn_deg=-4)
    _shape(art, "Scarf end", end, [[(x, y), (x + 0.4 * r, y + 0.02 * r)]])


KINDS: dict[str, Thing] = {
    "tree": _tree, "house": _house, "toadstool": _toadstool, "fish": _fish, "cake": _cake, "shell": _shell,
    "gift": _gift, "bird": _bird, "cloud": _cloud, "snowman": _snowman,
}  # fmt: skip
