"""A gored balloon with a basket over terraced hills."""

from __future__ import annotations

import numpy as np

from demo.lineart._shapes import Drawing, Points, box, ellipse, leaf, smooth


def _profile(share: float, t: Points) -> Points:
    """Points down a gore line; share -1..1 across the envelope, t 0..1 from crown to mouth."""
    half = 25.5 * np.sin(np.pi * np.clip(t, 0, 1) ** 0.78) ** 0.72
    half = np.where(t > 0.62, np.maximum(half, 6.2 - 1.4 * (t - 0.62) / 0.38), half)
    half = np.where(t < 0.02, 1.5, half)
    return np.stack([52 + share * half, 12 + 57 * t], axis=1)


def balloon() -> Drawing:
    art = Drawing("Balloon over the terraces", 107.95, 139.7)
    green, moss, wheat, earth = "#6f9e4c", "#8fa763", "#d9b45c", "#a8784a"
    art.add("Sun", ellipse(88, 22, 9, 9), "dome", "#efc75e", 2)
    for x, y, size, name in ((15, 30, 1.0, "Cloud, left"), (92, 58, 0.82, "Cloud, right")):
        art.add(
            name,
            smooth(
                [
                    (x - 9 * size, y + 4 * size),
                    (x - 9.5 * size, y - 0.5 * size),
                    (x - 5 * size, y - 2 * size),
                    (x - 2 * size, y - 6 * size),
                    (x + 3 * size, y - 5 * size),
                    (x + 5 * size, y - 1.5 * size),
                    (x + 9.5 * size, y - 0.5 * size),
                    (x + 9.5 * size, y + 4 * size),
                ]
            ),
            "dome",
            "#c9d7e4",
            2,
        )

    # Terraces, from the back forwards.
    rows = [
        ("Far hill", [(4, 97), (18, 89), (36, 86), (52, 92), (68, 86), (88, 82), (104, 90)], "#9db7a5", 3),
        ("Upper terrace", [(4, 104), (24, 98), (46, 99), (66, 103), (86, 97), (104, 98)], moss, 3),
        ("Wheat terrace", [(4, 113), (22, 109), (44, 106), (64, 111), (84, 108), (104, 105)], wheat, 3),
        ("Middle terrace", [(4, 120), (26, 118), (48, 114), (70, 119), (104, 114)], green, 3),
        ("Ploughed terrace", [(4, 128), (20, 126), (46, 122), (66, 127), (104, 122)], earth, 3),
    ]
    for name, ridge, colour, shades in rows:
        line = smooth(ridge, closed=False)
        art.add(name, np.concatenate([line, [(104, 136), (4, 136)]]), "dome", colour, shades)
    art.add(
        "Front meadow",
        np.concatenate(
            [smooth([(4, 134), (24, 129.5), (50, 129), (78, 132), (104, 129)], closed=False), [(104, 136), (4, 136)]]
        ),
        "dome",
        green,
        2,
    )

    # A farmhouse and trees on the terraces.
    art.add("House wall", box(75, 89, 13, 9), "flat", "#ecd9bd", 2)
    art.add("House roof", [(73, 89.4), (77.5, 82), (86, 82), (90, 89.4)], "flat", "#b5543f", 3)
    art.add("House door", box(79.5, 92.2, 3.4, 5.8), "flat", "#7a5233", 2)
    art.add("House window", box(84, 91.4, 2.6, 2.6), "flat", "#efc75e", 1)
    for x, y, size, number in ((20, 99, 1.0, 1), (30, 102, 0.8, 2), (95, 107, 1.05, 3)):
        art.add(f"Tree trunk {number}", box(x - 0.9 * size, y, 1.8 * size, 6.5 * size), "tube", "#7a5233", 2)
        art.add(
            f"Tree crown {number}",
            smooth(
                [
                    (x - 5 * size, y + 0.6 * size),
                    (x - 5.2 * size, y - 5 * size),
                    (x - 2 * size, y - 9.5 * size),
                    (x + 2.2 * size, y - 9.3 * size),
                    (x + 5.2 * size, y - 4.8 * size),
                    (x + 4.8 * size, y + 0.8 * size),
                ]
            ),
            "dome",
            "#4f8050",
            3,
        )

    # The envelope: gores from the sides inwards would need no order, they only touch.
    t = np.linspace(0, 1, 60)
    shares = [-1, -0.74, -0.3, 0.3, 0.74, 1]
    colours = ["#b8506f", "#3f9d8a", "#e0b24d", "#3f9d8a", "#b8506f"]
    names = ["outer left", "left", "middle", "right", "outer right"]
    for a, b, colour, name in zip(shares, shares[1:], colours, names, strict=False):
        art.add(
            f"Gore, {name}",
            np.concatenate([_profile(a, t), _profile(b, t)[::-1]]),
            "dome",
            colour,
            4,
            beside=name != "outer left",
            body="envelope",
        )
    band = np.linspace(0.40, 0.515, 12)
    for a, b, colour, name in zip(shares, shares[1:], colours[1:] + colours[1:2], names, strict=False):
        across = np.linspace(a, b, 10)
        top = np.concatenate([_profile(s, np.array([0.40 + 0.03 * (1 - s * s)])) for s in across])
        low = np.concatenate([_profile(s, np.array([0.515 + 0.03 * (1 - s * s)])) for s in across[::-1]])
        right = _profile(b, band + 0.03 * (1 - b * b))
        left = _profile(a, (band + 0.03 * (1 - a * a))[::-1])
        art.add(
            f"Band, {name}",
            np.concatenate([top, right, low, left]),
            "dome",
            colour if name != "middle" else "#b8506f",
            3,
            beside=name != "outer left",
            body="envelope",
        )
    art.add(
        "Crown cap",
        smooth([(46.8, 14.6), (48.5, 11.6), (52, 10.8), (55.5, 11.6), (57.2, 14.6), (52, 15.6)]),
        "dome",
        "#b8506f",
        2,
    )
    art.add("Mouth ring", box(46.6, 68.6, 10.8, 3.4, taper=0.6), "tube", "#b8506f", 3, axis_deg=0)

    for x0, x1 in ((47.6, 46.8), (50.4, 50.2), (53.6, 53.8), (56.4, 57.2)):
        art.line([(x0, 72), (x1, 80.5)])
    art.add(
        "Basket",
        smooth([(46, 81.5), (58, 81.5), (57.4, 90), (55.6, 91.4), (48.4, 91.4), (46.6, 90)], steps=4),
        "tube",
        "#b98a4e",
        3,
        axis_deg=0,
    )
    art.add("Basket band", box(46.2, 84.6, 11.6, 2.3, taper=0.15), "tube", "#3f9d8a", 2, axis_deg=0)
    art.add("Basket rim", box(44.8, 79.8, 14.4, 2.6), "tube", "#7a5233", 2, axis_deg=90)
    art.add(
        "Sandbag, left",
        smooth([(44.2, 83.4), (46, 83.6), (46.4, 87.6), (45, 88.8), (43.4, 87.6)]),
        "dome",
        "#d9b45c",
        2,
    )
    art.add(
        "Sandbag, right",
        smooth([(58, 83.6), (59.8, 83.4), (60.6, 87.6), (59, 88.8), (57.6, 87.6)]),
        "dome",
        "#d9b45c",
        2,
    )
    for number, (x, deg) in enumerate(((45, -20), (48.2, 4), (51.4, 26)), start=1):
        art.add(f"Grass blade {number}", leaf(x - 30, 131 - number, 8, 3.2, deg), "dome", "#4f8050", 2)
    for number, (x, y) in enumerate(((62, 130.2), (71, 132.4), (80, 131.2)), start=1):
        art.add(f"Pumpkin {number}", ellipse(x, y, 3.4, 2.8), "dome", "#d98a3a", 3)
        art.line(smooth([(x - 0.6, y - 2.6), (x - 0.9, y - 4.2), (x + 0.4, y - 4.8)], closed=False))
    return art
