"""A pangolin in a scarf at a telescope, a lit lantern beside it, under a moon."""

from __future__ import annotations

import numpy as np

from demo.lineart._shapes import Drawing, box, ellipse, leaf, smooth, star, turned


def pangolin() -> Drawing:
    art = Drawing("Pangolin at the telescope", 107.95, 139.7)
    scale, scale_deep, skin, brass = "#b07a45", "#8f5f38", "#e3b898", "#c9a04a"
    moon = "#f0e3b0"
    art.add("Moon", ellipse(85, 24, 14, 14), "dome", moon, 3)
    for k, (x, y, r) in enumerate(((80, 20, 2.9), (89, 27.5, 3.6), (87.5, 16.5, 1.8), (79.6, 30, 2.0)), start=1):
        art.add(f"Moon crater {k}", ellipse(x, y, r, r * 0.9), "hollow", "#d9c98f", 2)
    for k, (x, y, r, t) in enumerate(
        ((14, 18, 4.2, 8), (50, 12, 3.4, -10), (30, 34, 3.0, 20), (62, 32, 2.6, 0)), start=1
    ):
        art.add(f"Star {k}", star(x, y, r, turn_deg=t), "dome", "#e8c65c", 1)

    art.add(
        "Far hill",
        np.concatenate(
            [smooth([(4, 116), (24, 108), (48, 111), (74, 105), (104, 112)], closed=False), [(104, 136), (4, 136)]]
        ),
        "dome",
        "#5f7d86",
        3,
    )
    art.add(
        "Hill",
        np.concatenate(
            [smooth([(4, 124), (26, 119), (56, 117), (84, 119), (104, 122)], closed=False), [(104, 136), (4, 136)]]
        ),
        "dome",
        "#6f8f5a",
        3,
    )

    # Tripod and telescope, pointing up at the moon.
    for k, (x0, x1, y1) in enumerate(((76.5, 68, 125), (78.5, 91, 124), (77.5, 79, 128)), start=1):
        art.add(
            f"Tripod leg {k}", [(x0 - 0.9, 83), (x0 + 0.9, 83), (x1 + 1.1, y1), (x1 - 1.1, y1)], "tube", "#8a5a36", 2
        )
    pivot, tilt = (77.5, 79), 42

    def on_tube(along: float, across: float, length: float, width: float) -> np.ndarray:
        return turned(box(pivot[0] + across - width / 2, pivot[1] - along - length, width, length), tilt, pivot)

    art.add("Tube, front", on_tube(4, 0, 19, 10.5), "tube", "#2c7f96", 3)
    art.add("Tube, back", on_tube(-12, 0, 16, 8.6), "tube", "#2c7f96", 3)
    art.add("Front ring", on_tube(22, 0, 4.6, 12.4), "tube", brass, 3)
    art.add("Middle ring", on_tube(2, 0, 3.4, 11.6), "tube", brass, 3)
    art.add("Back ring", on_tube(-14.4, 0, 3, 9.6), "tube", brass, 2)
    art.add("Eyepiece", on_tube(-20.4, 0, 6, 4.4), "tube", "#5b5f68", 2)
    art.add("Mount", ellipse(77.5, 81.6, 3.6, 3.6), "dome", brass, 3)

    # The tail sweeps left along the ground; scales lie like tiles, the tip's first.
    tail = smooth(
        [(40, 102), (30, 110), (20, 117), (11, 120), (7, 123.6), (14, 127), (28, 126.5), (42, 123.5), (50, 116)]
    )
    art.add("Tail", tail, "dome", scale_deep, 3)
    for k, (x, y, deg, size) in enumerate(
        ((15, 121.8, -104, 8.5), (22.5, 120, -112, 10), (30.5, 117, -122, 11.5), (37.5, 112.5, -134, 12.5)), start=1
    ):
        art.add(f"Tail scale {k}", leaf(x + 5, y + 0.6, size, size * 0.78, deg, belly=0.5), "dome", scale, 3)

    # Body seen from the side, facing right.
    art.add(
        "Foot, back",
        smooth([(41, 119.5), (47, 118), (55, 119.6), (57.5, 122.6), (54, 124.8), (43, 124.6), (39.5, 122.4)]),
        "dome",
        skin,
        3,
    )
    body = smooth(
        [
            (47, 62),
            (56, 64),
            (61.5, 74),
            (63.5, 88),
            (63, 102),
            (58, 115),
            (48, 120),
            (38, 117),
            (32, 106),
            (31, 90),
            (35.5, 74),
        ]
    )
    art.add("Belly", body, "dome", skin, 4)
    art.add(
        "Foot, front",
        smooth([(52, 119), (58, 117.6), (65, 119.4), (67.6, 122.4), (64, 124.6), (54, 124.4), (50.4, 122)]),
        "dome",
        skin,
        3,
    )
    # Rows of scales down the back, the lowest row first so that upper ones overlap it.
    rows = [
        (113, 4, 36.5, 12.5),
        (104.5, 4, 33.4, 13),
        (95, 4, 32.4, 13),
        (85.5, 4, 33.0, 12.5),
        (76.5, 3, 36.2, 11.5),
        (68.8, 2, 40.4, 10.5),
    ]
    for row, (y, count, x, size) in enumerate(rows, start=1):
        for k in range(count):
            art.add(
                f"Back scale {row}.{k + 1}",
                leaf(x + k * 5.4 + 1.2, y - 9.5 + 0.9 * k, size, size * 0.74, 200 - 9 * k, belly=0.56),
                "dome",
                scale if (row + k) % 2 else scale_deep,
                3,
            )
    # Head with a long snout towards the eyepiece.
    art.add("Ear, far", ellipse(47.5, 50, 2.6, 3.6, -14), "hollow", "#d99b85", 2)
    head = smooth(
        [
            (41, 57),
            (42, 50.5),
            (48, 47.4),
            (54.4, 49.6),
            (59.5, 55.5),
            (64, 61.6),
            (65.4, 65.2),
            (63.2, 66.8),
            (57, 66),
            (49.5, 66.4),
            (43.4, 63.6),
        ]
    )
    art.add("Head", head, "dome", skin, 4)
    art.add("Cap scale 1", leaf(43, 58, 13, 9, 14, belly=0.5), "dome", scale_deep, 3)
    art.add("Cap scale 2", leaf(46.4, 55.4, 10.5, 8, 44, belly=0.5), "dome", scale, 3)
    art.add("Nose", ellipse(64.2, 65, 1.9, 1.6, 30), "dome", "#7c5a55", 1)
    art.add("Ear", ellipse(46.6, 59.6, 2.5, 3.3, -20), "hollow", "#d99b85", 2)
    art.add("Eye", ellipse(55, 57.6, 1.9, 2.1), "dome", "", 1)
    art.dot(55.5, 57.8, 1.05)
    art.line(smooth([(59.6, 64.4), (57.6, 65), (55.4, 64.2)], closed=False))
    # Scarf: a fall with stripes behind, then the wrap.
    art.add(
        "Scarf fall",
        smooth([(41.5, 68), (48, 69.6), (47.4, 80), (46.6, 90), (38.6, 89), (39.8, 78)], steps=6),
        "tube",
        "#b3414f",
        3,
    )
    art.add("Scarf stripe 1", [(39.7, 76), (47.4, 77.2), (47.2, 80.6), (39.3, 79.4)], "tube", "#eadfcf", 2)
    art.add("Scarf stripe 2", [(39.0, 83), (47.0, 84.2), (46.8, 87.4), (38.7, 86.2)], "tube", "#eadfcf", 2)
    art.add(
        "Scarf wrap",
        smooth(
            [(39.5, 64.6), (48, 67.6), (57, 66.4), (60.4, 68.4), (59.6, 72.6), (49.5, 74.2), (40.4, 71.6), (37.9, 67.6)]
        ),
        "tube",
        "#b3414f",
        4,
    )
    # The near arm holds the lantern out to the front.
    art.add(
        "Arm",
        smooth([(52.5, 77), (58, 78), (64.5, 85), (68.6, 88.6), (67.2, 92.4), (62, 91.4), (54.4, 86.4), (51, 81)]),
        "dome",
        skin,
        3,
    )
    art.add(
        "Paw",
        smooth([(65.6, 87.2), (70, 87.6), (71.6, 90.2), (70.2, 93.2), (66.4, 93.2), (64.4, 90.4)]),
        "dome",
        "#d9a684",
        2,
    )
    _lantern(art, 68.4, 96)
    return art


def _lantern(art: Drawing, x: float, y: float) -> None:
    """A lit lantern hanging from (x, y - 3)."""
    metal = "#5b5f68"
    outer, inner = ellipse(x, y + 0.6, 3.6, 4, start=180, end=360), ellipse(x, y + 0.6, 2.5, 2.9, start=180, end=360)
    art.add("Lantern handle", np.concatenate([outer, inner[::-1]]), "tube", metal, 1)
    art.add(
        "Lantern glass",
        smooth(
            [
                (x - 4.6, y + 5),
                (x + 4.6, y + 5),
                (x + 5.6, y + 10.5),
                (x + 4.6, y + 16),
                (x - 4.6, y + 16),
                (x - 5.6, y + 10.5),
            ],
            steps=8,
        ),
        "dome",
        "#f7e5a6",
        2,
    )
    art.add("Flame", leaf(x, y + 15, 8.4, 5, 0, belly=0.36), "dome", "#f0a93c", 2)
    art.add(
        "Lantern cap",
        [(x - 5.4, y + 5.6), (x - 2.6, y + 1), (x + 2.6, y + 1), (x + 5.4, y + 5.6)],
        "tube",
        metal,
        3,
        axis_deg=0,
    )
    art.add("Lantern base", box(x - 5.6, y + 15.6, 11.2, 3.8), "tube", metal, 3, axis_deg=0)
