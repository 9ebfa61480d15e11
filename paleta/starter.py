"""Five invented drawers that every new account and the demo start with.

Names are a colour word and a running number of the project's own.
"""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import replace
from functools import cache

import numpy as np

from paleta.colour import difference
from paleta.materials import PAPERS
from paleta.media import Swatch, appearance

POSSIBLE = 0.5
"""CIEDE2000 between a colour and the nearest that its medium can show."""

# family: hue in degrees, chroma at its fullest, lightnesses from pale to dark. Gaps are on purpose.
MARKERS = {
    "rose": (8, 52, (91, 79, 66, 53, 40, 29)),
    "brick": (38, 58, (88, 76, 62, 49, 36, 27)),
    "coral": (50, 55, (90, 78, 67, 55, 43)),
    "orange": (66, 66, (89, 79, 69, 57, 44)),
    "ochre": (80, 55, (91, 80, 67, 54, 41, 31)),
    "yellow": (96, 72, (94, 90, 86, 80)),
    "lime": (115, 60, (91, 81, 70, 59)),
    "leaf": (136, 54, (90, 79, 67, 54, 41, 29)),
    "sea green": (172, 40, (90, 77, 64, 51, 38, 26)),
    "teal": (210, 36, (89, 76, 62, 48, 34)),
    "sky": (246, 38, (90, 78, 65, 52, 38)),
    "blue": (276, 52, (88, 74, 60, 45, 30)),
    "violet": (305, 46, (88, 74, 60, 46, 31)),
    "plum": (338, 44, (89, 75, 59, 43, 29)),
    "sand": (70, 26, (90, 78, 64, 48, 33)),
    "grey": (260, 3, (91, 79, 67, 53, 39, 24)),
}
WATERCOLOURS = {
    "rose": (6, 58, (62, 44)),
    "brick": (36, 60, (58, 42)),
    "orange": (62, 74, (76, 64, 50)),
    "ochre": (78, 56, (72, 58, 42)),
    "yellow": (94, 82, (86, 78)),
    "leaf": (132, 50, (66, 48, 34)),
    "sea green": (170, 42, (68, 52, 36)),
    "teal": (208, 38, (58, 38)),
    "sky": (248, 42, (64, 46)),
    "blue": (280, 58, (48, 32)),
    "violet": (308, 48, (50, 32)),
    "plum": (340, 48, (50, 32)),
    "earth": (58, 40, (60, 46, 34, 24)),
    "grey": (250, 5, (78, 60, 42, 26)),
}
PENCILS = {
    "white": (90, 2, (97,)),
    "rose": (8, 48, (82, 66, 50, 36)),
    "brick": (38, 54, (76, 58, 42)),
    "orange": (64, 60, (80, 66, 50)),
    "ochre": (80, 52, (84, 68, 52, 38)),
    "yellow": (96, 70, (92, 85)),
    "leaf": (134, 48, (84, 68, 52, 36)),
    "sea green": (172, 38, (80, 62, 46, 32)),
    "teal": (210, 34, (78, 58, 40)),
    "sky": (248, 38, (82, 66, 48)),
    "blue": (278, 50, (72, 52, 34)),
    "violet": (306, 44, (74, 54, 36)),
    "plum": (340, 42, (70, 50, 34)),
    "earth": (58, 30, (72, 56, 42, 28)),
    "grey": (260, 3, (84, 66, 48, 24)),
}


SOLUBLE = {
    "rose": (8, 54, (84, 66, 48)),
    "orange": (64, 66, (82, 66)),
    "yellow": (96, 74, (90, 82)),
    "leaf": (134, 50, (82, 64, 46, 32)),
    "teal": (208, 38, (78, 56)),
    "blue": (278, 54, (76, 54, 36)),
    "plum": (338, 46, (72, 46)),
    "earth": (58, 32, (74, 54, 34)),
    "grey": (260, 3, (80, 58, 34)),
}
INKPADS = {
    "rose": (8, 40, (80, 62)),
    "sun": (84, 60, (86, 74)),
    "sky": (246, 36, (82, 64)),
    "night": (288, 34, (52, 32)),
    "moss": (130, 34, (72, 50)),
}


def _make(
    families: Mapping[str, tuple[int, int, tuple[int, ...]]], medium: str, paper: str, seed: int
) -> tuple[Swatch, ...]:
    chance = np.random.default_rng(seed)
    swatches, number = [], 10
    for family, (hue, fullest, lights) in families.items():
        for light in lights:
            # The solid of surface colours narrows towards white and black.
            room = min(1.0, (100 - light) / 34) * min(1.0, (light + 12) / 46)
            angle = np.radians(hue + chance.normal(0, 2.2))
            chroma = fullest * room * chance.normal(1, 0.03)
            number += 1
            name = "White" if family == "white" else f"{family.capitalize()} {number}"
            code = f"{family.replace(' ', '-')}-{number}"
            lab = (
                round(light + float(chance.normal(0, 0.7)), 1),
                round(float(chroma * np.cos(angle)), 1),
                round(float(chroma * np.sin(angle)), 1),
            )
            swatch = Swatch(code, name, medium, lab, family, PAPERS[paper])
            # A pen is what can be measured of it: no ink on white paper is as strong as some of these would be.
            laid = appearance(swatch, swatch.paper)
            if float(difference(laid, lab)) > POSSIBLE:
                swatch = replace(swatch, lab=(round(laid[0], 1), round(laid[1], 1), round(laid[2], 1)))
            swatches.append(swatch)
    return tuple(swatches)


@cache
def markers() -> tuple[Swatch, ...]:
    return _make(MARKERS, "marker", "smooth-white", 84)


@cache
def watercolours() -> tuple[Swatch, ...]:
    return _make(WATERCOLOURS, "watercolour", "cold-press", 36)


@cache
def pencils() -> tuple[Swatch, ...]:
    return _make(PENCILS, "pencil", "smooth-white", 48)


@cache
def soluble_pens() -> tuple[Swatch, ...]:
    return _make(SOLUBLE, "soluble", "cold-press", 24)


@cache
def ink_pads() -> tuple[Swatch, ...]:
    return _make(INKPADS, "inkpad", "smooth-white", 10)


DRAWERS: tuple[tuple[str, str, Callable[[], tuple[Swatch, ...]]], ...] = (
    ("Marker drawer", "marker", markers),
    ("Paint box", "watercolour", watercolours),
    ("Pencil roll", "pencil", pencils),
    ("Brush pen case", "soluble", soluble_pens),
    ("Ink pad tray", "inkpad", ink_pads),
)
