"""A shelf of three potted succulents in patterned pots."""

from __future__ import annotations

import numpy as np

from demo.lineart._shapes import Drawing, box, ellipse, leaf, smooth, turned


def succulents() -> Drawing:
    art = Drawing("Three on the shelf", 139.7, 107.95)
    wood, sage, jade, plum = "#a9784b", "#7fa38a", "#4f9a7c", "#8f6a9f"
    art.add("Wall line", box(5, 80, 129.7, 1.6), "flat", "", 1)
    art.add("Shelf front", box(5, 88, 129.7, 7), "flat", wood, 3)
    art.add("Shelf top", [(11, 80.5), (128.7, 80.5), (134.7, 88), (5, 88)], "flat", "#c59a68", 3)
    for x in (22, 110):
        art.add(
            "Bracket, left" if x < 60 else "Bracket, right",
            np.concatenate([[(x, 95), (x + 9, 95)], ellipse(x + 9, 104, 9, 9, start=268, end=180)]),
            "flat",
            "#6f5138",
            2,
        )

    _pot(art, 30, "left", "#c7694f")
    # A rosette: outer leaves first, the heart last.
    for ring, (count, length, width, lift) in enumerate(((8, 15, 7.4, 0), (7, 11, 6.2, 2), (5, 7, 4.8, 3.4))):
        for k in range(count):
            deg = -112 + 224 * (k + 0.5) / count if ring == 0 else -100 + 200 * (k + 0.5) / count
            art.add(
                f"Rosette leaf {ring + 1}.{k + 1}",
                leaf(30, 56 - lift, length, width, deg, belly=0.55),
                "petal",
                (sage, jade, "#9cc0a0")[ring],
                3 if ring < 2 else 2,
                base=(30, 56 - lift),
            )
    art.add("Rosette heart", ellipse(30, 50.4, 2.6, 2.4), "dome", "#d58aa0", 2)

    _pot(art, 70, "middle", "#3f74c0")
    # A ball cactus in ribs with a flower on top.
    for k, (a, b) in enumerate(zip((-1, -0.72, -0.28, 0.28, 0.72), (-0.72, -0.28, 0.28, 0.72, 1), strict=True)):
        angle = np.linspace(-np.pi / 2, np.pi / 2, 40)
        left = np.stack([70 + 14.5 * a * np.cos(angle), 43 + 16 * np.sin(angle)], axis=1)
        right = np.stack([70 + 14.5 * b * np.cos(angle), 43 + 16 * np.sin(angle)], axis=1)
        art.add(
            f"Cactus rib {k + 1}",
            np.concatenate([left, right[::-1]]),
            "dome",
            jade,
            4 if k == 2 else 3,
            beside=k > 0,
            body="cactus",
        )
    for k in range(5):
        art.add(f"Flower petal {k + 1}", leaf(70, 28.5, 9, 5, -70 + 35 * k), "petal", "#d9618a", 3, base=(70, 28.5))
    art.add("Flower centre", ellipse(70, 28.4, 2.5, 2), "dome", "#e6bd4f", 2)

    _pot(art, 110, "right", "#d8a945")
    # Upright leaves, the back ones first.
    for k, (x, deg, length, width) in enumerate(
        (
            (104, -16, 27, 6.4),
            (116, 17, 26, 6.4),
            (100.5, -33, 19, 5.6),
            (119.5, 35, 18, 5.6),
            (110, 1, 33, 7.4),
            (106, -7, 17, 5.6),
            (114, 9, 18, 5.6),
        ),
        start=1,
    ):
        art.add(
            f"Aloe leaf {k}", leaf(x, 59, length, width, deg, belly=0.35), "leaf", (plum, sage)[k % 2], 3, base=(x, 59)
        )
    for k, x in enumerate((58, 86), start=1):
        art.add(f"Pebble {k}", ellipse(x, 84, 3.6, 2.2, -8), "dome", "#b9b2a6", 2)
    art.add(
        "Watering can",
        smooth([(46.5, 74.5), (53.5, 74.5), (54.4, 84.4), (45.6, 84.4)], steps=3),
        "tube",
        "#9aa9b5",
        3,
        axis_deg=0,
    )
    art.add(
        "Can spout",
        smooth([(53.6, 80.8), (57.6, 76.4), (59.4, 73.6), (60.4, 74.6), (58.8, 78.4), (54.2, 83.4)], steps=6),
        "tube",
        "#9aa9b5",
        2,
    )
    art.add(
        "Can handle",
        np.concatenate(
            [ellipse(46, 78.6, 3.6, 3.8, start=75, end=285), ellipse(46, 78.6, 2.2, 2.4, start=285, end=75)]
        ),
        "tube",
        "#9aa9b5",
        2,
    )
    return art


def _pot(art: Drawing, x: float, which: str, colour: str) -> None:
    """A pot with a rim and one of three patterns, standing on the shelf."""
    art.add(f"Soil, {which}", ellipse(x, 58.4, 12.6, 2.4), "flat", "#6b4c3b", 2)
    body = [(x - 13, 62), (x + 13, 62), (x + 9.6, 84.5), (x - 9.6, 84.5)]
    art.add(f"Pot, {which}", body, "tube", colour, 4, axis_deg=0)
    if which == "left":
        for k in range(3):
            y = 66.5 + 6 * k
            half = 12.25 - 0.15 * (y - 62)
            teeth = np.linspace(-half, half, 9)
            top = [(x + t, y + (1.6 if i % 2 else -0.4)) for i, t in enumerate(teeth)]
            half_low = 12.25 - 0.15 * (y + 2.4 - 62)
            low = [
                (x + t, y + 2.4 + (1.6 if i % 2 else -0.4)) for i, t in enumerate(np.linspace(-half_low, half_low, 9))
            ]
            art.add(f"Zigzag {k + 1}", np.array(top + low[::-1]), "flat", "#f0d9b0", 2)
    elif which == "middle":
        for k, (dx, y) in enumerate(((-7.6, 68), (0, 68), (7.6, 68), (-4, 75.5), (4, 75.5)), start=1):
            art.add(f"Pot spot {k}", ellipse(x + dx, y, 2.5, 2.7), "flat", "#e8edf2", 1)
        for dx in (-7.6, 0, 7.6):
            art.dot(x + dx, 68, 0.7)
    else:
        for k, dx in enumerate((-7.2, 0, 7.2), start=1):
            art.add(
                f"Pot diamond {k}",
                turned([(x + dx, 66), (x + dx + 2.8, 72), (x + dx, 78), (x + dx - 2.8, 72)], -dx * 0.9, (x + dx, 72)),
                "flat",
                "#5f7f6a",
                2,
            )
    art.add(f"Pot rim, {which}", box(x - 14.6, 58.2, 29.2, 5.2, taper=0.5), "tube", colour, 3, axis_deg=0)
