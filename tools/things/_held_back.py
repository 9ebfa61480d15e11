"""What a fourth hand draws that no network is ever to be fitted on; see _fourth_hand."""

from __future__ import annotations

from functools import partial
from itertools import pairwise

import numpy as np

from tools.things._canvas import Place, band, box, circle, dense, petal
from tools.things._figures import curve
from tools.things._fourth_hand import again
from tools.things._kinds import Kind, star
from tools.things._third_hand import leaning


def owl(p: Place) -> None:
    """A breast of scales in rows, a wing of feathers to either side, eyes in rings, claws over a branch."""
    chance, scales, feathers, rings, eyes, claws = p.canvas.chance, *(p.canvas.group() for _ in range(5))
    for side in (-1, 1):
        p.draw(dense(np.array([[0.15 * side, -0.75], [0.5 * side, -1.0], [0.5 * side, -0.5]])), alike=claws)
    whole = p.draw(circle(0, 0.15, 0.85, squash=0.75, turn=np.pi / 2))
    rows = int(chance.integers(3, 6))
    for row in range(rows):
        n = 5 - row % 2
        for k in range(n):
            at = 0.2 * (k - (n - 1) / 2), -0.1 + 0.8 * row / rows
            p.draw(petal(*at, 1.4 / rows, 0.24, np.pi / 2, point=0.6), alike=scales, within=whole)
    n = int(chance.integers(1, 5))
    for side in (-1, 1):
        for k in range(n):
            way = np.pi / 2 - side * (0.15 - 0.1 * k)
            p.draw(petal(0.62 * side - 0.06 * k * side, -0.2 + 0.12 * k, 1.0 - 0.08 * k, 0.32, way), alike=feathers)
    for side in (-1, 1):
        p.draw(circle(0.25 * side, -0.45, 0.27), alike=rings)
        p.draw(circle(0.25 * side, -0.45, 0.14), alike=eyes)
        p.line(circle(0.25 * side, -0.45, 0.05, n=12), solid=True)
    p.draw(dense(np.array([[-0.08, -0.35], [0.08, -0.35], [0.0, -0.12]])))
    p.draw(band(curve([(-1.1, 0.95), (0, 0.88), (1.1, 0.98)]), 0.16))
    for side in (-1, 1):
        for k in range(3):
            p.draw(petal(0.3 * side + 0.09 * (k - 1), 0.78, 0.24, 0.1, np.pi / 2, point=0.6), alike=claws)


def church_window(p: Place) -> None:
    """A pointed arch of lead: panes in a net, a rose of petals in its head, a border of two sorts in turn."""
    chance, panes, rose = p.canvas.chance, p.canvas.group(), p.canvas.group()
    arch = curve([(-0.7, 0.95), (-0.7, -0.2), (0.0, -1.0)])[:-1], curve([(0.0, -1.0), (0.7, -0.2), (0.7, 0.95)])
    outline = np.concatenate(arch)
    two, n = (p.canvas.group(), p.canvas.group()), int(chance.integers(5, 10))
    middle = np.array([0, 0.1])
    inner = middle + (outline - middle) * 0.8
    cuts = np.linspace(0, len(outline) - 1, 2 * n + 1).astype(int)
    p.draw(outline)
    for k, (a, b) in enumerate(pairwise(cuts)):
        p.draw(np.concatenate([outline[a : b + 1], inner[a : b + 1][::-1]]), alike=two[k % 2])
    whole = p.draw(inner, alike=panes)
    cols, rows = int(chance.integers(2, 5)), int(chance.integers(3, 6))
    for i in range(rows):
        for j in range(cols):
            a, b = -0.56 + 1.12 * j / cols, -0.56 + 1.12 * (j + 1) / cols
            top = -0.7 + 1.5 * i / rows
            p.draw(box(a, top, b, top + 1.5 / rows), alike=panes, within=whole)
    again(p, inner)
    head, m = p.within(0, -0.3, 0.3), int(chance.integers(4, 9))
    head.draw(circle(0, 0, 1.1))
    for k in range(m):
        head.draw(petal(0, 0, 1.0, 4.4 / m, 2 * np.pi * k / m, point=0.7), alike=rose)
    head.draw(circle(0, 0, 0.25))


def lotus(p: Place) -> None:
    """Petals in layers, the outer ones to the sides, all of one sort; two pads with a notch, rings on the water."""
    chance, petals, pads, rings = p.canvas.chance, *(p.canvas.group() for _ in range(3))
    for k in range(int(chance.integers(0, 3))):
        p.draw(circle(0, 0.65, 1.15 - 0.12 * k, squash=0.2), part=rings, alike=rings)
    for side in (-1, 1)[: int(chance.integers(0, 3))]:
        t = np.linspace(0.3, 2 * np.pi - 0.3, 40)
        pad = np.concatenate([[[0, 0]], np.stack([0.4 * np.cos(t), 0.14 * np.sin(t)], axis=1)])
        p.draw(pad + np.array([0.6 * side, 0.75]), alike=pads)
    layers = int(chance.integers(2, 4))
    for layer in range(layers):
        n, reach = 5 - layer, 1.15 - 0.2 * layer
        for k in sorted(range(n), key=lambda k: -abs(k - (n - 1) / 2)):
            lean = (k - (n - 1) / 2) * (0.62 - 0.08 * layer)
            p.draw(petal(0, 0.7, reach, 0.52, -np.pi / 2 + lean, point=0.95), alike=petals)


def rocket(p: Place) -> None:
    """A hull in sections with a row of ports, fins, flames in three tongues; a planet with a ring, stars."""
    chance, fins, ports, flames, stars, hull = p.canvas.chance, *(p.canvas.group() for _ in range(5))
    for at in chance.uniform((-1, -1), (-0.5, 0.9), (int(chance.integers(0, 6)), 2)):
        p.draw(star(*at, 0.09, chance.uniform(0, 1)), alike=stars)
    if chance.random() < 0.6:
        ring = p.canvas.group()
        t = np.linspace(0, 2 * np.pi, 80)
        around = np.stack([0.42 * np.cos(t), 0.12 * np.sin(t)], axis=1) + np.array([0.7, -0.6])
        p.draw(band(around[40:], 0.07), part=ring, alike=ring)
        p.draw(circle(0.7, -0.6, 0.24))
        p.draw(band(around[:41], 0.07), part=ring, alike=ring)
    for way in (-0.3, 0.3, 0.0):
        p.draw(petal(0, 0.5, 0.55, 0.22, np.pi / 2 + way, point=1.0), alike=flames)
    for side in (-1, 1):
        fin = np.array([[0.2 * side, 0.1], [0.6 * side, 0.45], [0.55 * side, 0.8], [0.2 * side, 0.55]])
        p.draw(dense(fin), alike=fins)
    outline = petal(0, 0.95, 2.0, 0.75, -np.pi / 2, point=0.8)
    whole = p.draw(outline, part=hull, alike=hull)
    levels = [-0.5, *np.linspace(-0.5, 0.62, int(chance.integers(1, 5)) + 1)[1:]]
    p.draw(box(-0.5, -1.2, 0.5, -0.5), within=whole)
    for a, b in pairwise(levels):
        p.draw(box(-0.5, a, 0.5, b), part=hull, alike=hull, within=whole)
        p.draw(circle(0, (a + b) / 2, min(0.13, 0.4 * (b - a))), alike=ports)
    again(p, outline)
    p.draw(box(-0.24, 0.55, 0.24, 0.68))


def barn(p: Place) -> None:
    """Upright boards, a door braced by a cross, a loft hatch, a roof of rows; a silo in rings beside it."""
    chance, boards, doors, roof, rings = p.canvas.chance, *(p.canvas.group() for _ in range(4))
    silo = p.canvas.group()
    if chance.random() < 0.6:
        for k in range(int(chance.integers(2, 6))):
            p.draw(box(0.7, -0.5 + 0.3 * k, 1.1, 0.9), part=silo, alike=rings)
        p.draw(petal(0.68, -0.5, 0.44, 0.5, 0.0, point=0.5))
    front = np.array([[-0.9, 0.9], [-0.9, -0.2], [-0.55, -0.6], [-0.1, -0.8], [0.35, -0.6], [0.7, -0.2], [0.7, 0.9]])
    whole, n = p.draw(dense(front), alike=boards), int(chance.integers(5, 12))
    for k in range(n):
        p.draw(box(-0.9 + 1.6 * k / n, -1, -0.9 + 1.6 * (k + 1) / n, 1), alike=boards, within=whole)
    p.draw(box(-0.5, 0.1, 0.3, 0.9))
    middle, corners = np.array([-0.1, 0.5]), np.array([[-0.45, 0.15], [0.25, 0.15], [0.25, 0.85], [-0.45, 0.85]])
    for k in range(4):
        p.draw(dense(np.array([middle, corners[k], corners[(k + 1) % 4]])), alike=doors)
    p.draw(box(-0.25, -0.5, 0.05, -0.15))
    for side in (-1, 1):
        eaves = np.array([[-0.1, -0.8], [-0.1 + 0.48 * side, -0.6], [-0.1 + 0.9 * side, -0.12]])
        p.draw(band(eaves, 0.1), alike=roof)


def bamboo(p: Place) -> None:
    """Canes in segments between knots, each cane one surface, leaves that cross before and behind them."""
    chance, cane, knots, leaves = p.canvas.chance, *(p.canvas.group() for _ in range(3))
    many, segments = int(chance.integers(2, 5)), int(chance.integers(2, 5))
    late = []
    for k in range(many):
        x, one, wide = (
            -0.75 + 1.5 * (k + 0.5) / many + chance.normal(0, 0.04),
            p.canvas.group(),
            chance.uniform(0.12, 0.2),
        )
        for j in range(segments):
            a, b = -1 + 2 * j / segments, -1 + 2 * (j + 1) / segments
            p.draw(box(x - wide / 2, a, x + wide / 2, b), part=one, alike=cane)
        for j in range(1, segments):
            y = -1 + 2 * j / segments
            p.draw(box(x - 0.6 * wide, y - 0.04, x + 0.6 * wide, y + 0.04), alike=knots)
            late += [(x, y, float(way)) for way in chance.uniform(-0.6, 0.8, int(chance.integers(0, 3)))]
    for x, y, way in late:
        p.draw(petal(x, y, 0.6, 0.15, way if chance.random() < 0.5 else np.pi - way, point=1.2), alike=leaves)


def sheep(p: Place) -> None:
    """Wool in curls, one coat; legs behind it, a face before it, ears, tufts of grass, one or two of the flock."""
    chance, wool, legs, faces, ears, grass = p.canvas.chance, *(p.canvas.group() for _ in range(5))
    many = int(chance.integers(1, 3))
    for k in range(many):
        one, coat = (
            p.within(0.5 * (2 * k - many + 1), -0.3 * (many - 1) + 0.5 * k, 1.0 if many == 1 else 0.6),
            p.canvas.group(),
        )
        for at in (-0.4, -0.15, 0.2, 0.45):
            one.draw(box(at - 0.07, 0.3, at + 0.07, 0.95), alike=legs)
        n = int(chance.integers(7, 12))
        for j in range(n):
            way = 2 * np.pi * j / n
            one.draw(circle(0.55 * np.cos(way), 0.1 + 0.36 * np.sin(way), 0.26), part=coat, alike=wool)
        one.draw(circle(0, 0.1, 0.5, squash=0.7), part=coat, alike=wool)
        for side in (-1, 1):
            one.draw(petal(-0.6, -0.3, 0.32, 0.14, np.pi / 2 - side * 1.2, point=0.7), alike=ears)
        one.draw(circle(-0.6, -0.15, 0.28, squash=0.8, turn=np.pi / 2), alike=faces)
        one.draw(circle(-0.55, -0.38, 0.15), part=coat, alike=wool)
        for side in (-1, 1):
            one.line(circle(-0.6 + 0.1 * side, -0.18, 0.035, n=10), solid=True)
    for at in chance.uniform(-1.0, 1.0, int(chance.integers(0, 5))):
        for lean in (-0.4, 0.0, 0.4):
            p.draw(petal(at, 1.0, 0.3, 0.08, -np.pi / 2 + lean, point=1.1), alike=grass)


def shells(p: Place) -> None:
    """A fan shell in ribs, one surface; a star with a row of dots on each arm; pebbles on a strip of sand."""
    chance, dots, pebbles = p.canvas.chance, p.canvas.group(), p.canvas.group()
    t = np.linspace(-1.1, 1.1, 50)
    sand = np.concatenate([np.stack([t, 0.6 + 0.06 * np.sin(4 * t)], axis=1), [[1.1, 1.0], [-1.1, 1.0]]])
    p.draw(sand)
    for _ in range(int(chance.integers(1, 3))):
        fan, surface, n = (
            p.within(chance.uniform(-0.7, 0.2), 0.5, chance.uniform(0.6, 0.9)),
            p.canvas.group(),
            int(chance.integers(4, 9)),
        )
        for k in range(n):
            a, b = (-np.pi * (0.1 + 0.8 * share) for share in (k / n, (k + 1) / n))
            arc = np.linspace(a, b, 9)
            bulge = 1 + 0.05 * np.sin(np.linspace(0, np.pi, 9))
            rim = np.stack([np.cos(arc), np.sin(arc)], axis=1) * bulge[:, None]
            fan.draw(np.concatenate([[[0, 0]], rim]), part=surface, alike=surface)
        fan.draw(petal(-0.2, 0.02, 0.4, 0.2, 0.0, point=0.5))
    arms = p.within(0.6, 0.3, 0.45, turn=chance.uniform(0, 1))
    arms.draw(star(0, 0, 1.0, 0.0))
    for k in range(5 * int(chance.integers(0, 2))):
        way = -np.pi / 2 + 2 * np.pi * k / 5
        for reach in (0.25, 0.5):
            arms.draw(circle(reach * np.cos(way), reach * np.sin(way), 0.07, n=16), alike=dots)
    for at in chance.uniform((-0.9, 0.7), (0.9, 0.95), (int(chance.integers(0, 7)), 2)):
        p.draw(circle(*at, chance.uniform(0.06, 0.1), squash=0.7), alike=pebbles)


def robot(p: Place) -> None:
    """Arms and legs of links, a chest with knobs of one sort and a dial, bolts at the neck, a lamp on a rod."""
    chance, links, hands, knobs, bolts, eyes = p.canvas.chance, *(p.canvas.group() for _ in range(5))
    n = int(chance.integers(2, 5))
    for side in (-1, 1):
        for k in range(n):
            p.draw(circle((0.55 + 0.12 * k) * side, -0.1 + 0.5 * k / n, 0.13), alike=links)
        p.draw(circle((0.55 + 0.12 * n) * side, 0.45, 0.16), alike=hands)
        for k in range(n):
            p.draw(box(0.25 * side - 0.12, 0.5 + 0.4 * k / n, 0.25 * side + 0.12, 0.5 + 0.4 * (k + 1) / n), alike=links)
        p.draw(box(0.3 * side - 0.22, 0.88, 0.3 * side + 0.22, 1.02), alike=hands)
    p.draw(box(-0.12, -0.4, 0.12, -0.15))
    p.draw(box(-0.5, -0.25, 0.5, 0.52))
    p.draw(box(-0.03, -1.1, 0.03, -0.9))
    p.draw(circle(0, -1.12, 0.09))
    for side in (-1, 1):
        p.draw(box(0.42 * side - 0.08, -0.72, 0.42 * side + 0.08, -0.55), alike=bolts)
    p.draw(box(-0.4, -0.92, 0.4, -0.35))
    for side in (-1, 1):
        p.draw(circle(0.17 * side, -0.7, 0.11), alike=eyes)
    teeth, m = p.canvas.group(), int(chance.integers(1, 6))
    for k in range(m):
        p.draw(box(-0.24 + 0.48 * k / m, -0.52, -0.24 + 0.48 * (k + 1) / m, -0.42), alike=teeth)
    for k in range(int(chance.integers(2, 5))):
        p.draw(circle(-0.32 + 0.17 * k, 0.35, 0.065, n=20), alike=knobs)
    p.draw(circle(0.0, 0.02, 0.2))


def silk_bow(p: Place) -> None:
    """A bow: loops that show their inside, tails with a fold, all one silk but the inside; dots or a stripe on it."""
    chance, silk, inside, dots = p.canvas.chance, *(p.canvas.group() for _ in range(3))
    for side in (-1, 1):
        tail = curve([(0.05 * side, 0.0), (0.35 * side, 0.5), (0.55 * side, 1.0)])
        p.draw(band(tail, np.linspace(0.15, 0.36, len(tail))), part=silk, alike=silk)
        if chance.random() < 0.5:
            p.draw(band(tail[len(tail) // 2 :] + np.array([-0.2 * side, 0.05]), 0.2), part=silk, alike=silk)
    dotted = chance.random() < 0.5
    for side in (-1, 1):
        loop = curve([(0, 0), (0.5 * side, -0.5), (1.0 * side, -0.4), (1.0 * side, 0.3), (0.5 * side, 0.25), (0, 0)])
        whole = p.draw(loop, part=silk, alike=silk)
        p.draw(petal(0.15 * side, 0.02, 0.75, 0.28, (0.0 if side > 0 else np.pi) + 0.05, point=0.8), alike=inside)
        for at in chance.uniform((0.3, -0.45), (0.95, 0.2), (4 * dotted, 2)):
            p.draw(circle(at[0] * side, at[1], 0.06, n=16), alike=dots, within=whole)
    p.draw(box(-0.16, -0.18, 0.16, 0.18), part=silk, alike=silk)


def penguins(p: Place) -> None:
    """A family: bellies, flippers and feet alike over all of them, large and small; one with a scarf in stripes."""
    chance, coats, bellies, flippers, feet, bills = p.canvas.chance, *(p.canvas.group() for _ in range(5))
    many, two = int(chance.integers(1, 5)), (p.canvas.group(), p.canvas.group())
    ice = p.canvas.group()
    for k in range(int(chance.integers(0, 3))):
        p.draw(circle(0.1 * k, 0.92 + 0.04 * k, 1.05 - 0.2 * k, squash=0.14), alike=ice)
    for k in range(many):
        one = p.within(-0.7 * (many - 1) / 2 + 0.7 * k, 0.15 * (k % 2), 0.9 if many == 1 else (0.75, 0.5)[k % 2])
        for side in (-1, 1):
            one.draw(petal(0.15 * side, 0.8, 0.4, 0.2, np.pi / 2 - 0.7 * side, point=0.7), alike=feet)
        one.draw(circle(0, 0.2, 0.75, squash=0.65, turn=np.pi / 2), alike=coats)
        one.draw(circle(0, 0.3, 0.55, squash=0.6, turn=np.pi / 2), alike=bellies)
        for side in (-1, 1):
            one.draw(petal(0.42 * side, -0.15, 0.7, 0.22, np.pi / 2 - 0.35 * side, point=0.8), alike=flippers)
        one.draw(circle(0, -0.62, 0.36), alike=coats)
        one.draw(dense(np.array([[-0.1, -0.6], [0.1, -0.6], [0, -0.42]])), alike=bills)
        for side in (-1, 1):
            one.line(circle(0.13 * side, -0.7, 0.04, n=10), solid=True)
        if k == 0 and chance.random() < 0.7:
            n = int(chance.integers(2, 6))
            for j in range(n):
                one.draw(box(-0.36 + 0.72 * j / n, -0.4, -0.36 + 0.72 * (j + 1) / n, -0.22), alike=two[j % 2])


def jellyfish(p: Place) -> None:
    """Bells in gores with a frill of lobes, arms that wave below it, several of one sort; bubbles."""
    chance, gores, lobes, arms, bubbles = p.canvas.chance, *(p.canvas.group() for _ in range(4))
    many, n, m = int(chance.integers(1, 4)), int(chance.integers(1, 6)), int(chance.integers(3, 7))
    for k in range(many):
        one, bell = (
            p.within(-0.6 * (many - 1) / 2 + 0.6 * k, -0.2 + 0.3 * (k % 2), 0.95 if many == 1 else 0.55),
            p.canvas.group(),
        )
        for j in range(m):
            x = 0.5 * (j - (m - 1) / 2) * 2 / m
            spine = curve([(x, 0.0), (x + 0.12, 0.4), (x - 0.1, 0.8), (x + 0.05, 1.2)])
            one.draw(band(spine, np.linspace(0.1, 0.03, len(spine))), alike=arms)
        for j in range(n):
            a, b = (np.sin(np.pi * (share - 0.5)) * 0.75 for share in (j / n, (j + 1) / n))
            edge = np.cos(np.linspace(0, np.pi / 2, 20))
            left, right = (np.stack([x * edge, -0.85 * np.sin(np.linspace(0, np.pi / 2, 20))], axis=1) for x in (a, b))
            one.draw(np.concatenate([left, right[::-1]]), part=bell, alike=gores)
        for j in range(2 * m):
            one.draw(circle(-0.75 + 1.5 * (j + 0.5) / (2 * m), 0.03, 0.8 / (2 * m)), alike=lobes)
    for at in chance.uniform(-0.95, 0.95, (int(chance.integers(0, 6)), 2)):
        p.draw(circle(*at, 0.06, n=24), alike=bubbles)


HELD_BACK: dict[str, Kind] = {
    one.__name__: partial(leaning, one)
    for one in (
        owl, church_window, lotus, rocket, barn, bamboo, sheep, shells, robot, silk_bow, penguins, jellyfish,
    )
}  # fmt: skip
