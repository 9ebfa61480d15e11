"""Small drawings that ask for a great deal: each is refused in a sentence, quickly, or drawn without what is too much."""

from __future__ import annotations

import time

import numpy as np
from django.test import SimpleTestCase

from paleta.errors import ImageTooLarge, NotAnImage, PaletaError
from paleta.impression import read

HEAD = '<svg xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink" width="50mm" height="50mm" \
viewBox="0 0 50 50" fill="none" stroke="#000">'
PATIENCE_S = 8.0
"""Generous: these machines stall. What is tested for took from 11 seconds to minutes, or any amount of memory."""


def svg(body: str) -> bytes:
    return f"{HEAD}{body}</svg>".encode()


def nested_uses(levels: int) -> bytes:
    """Each level shows the one before ten times."""
    parts = ['<g id="a0"><rect x="1" y="1" width="3" height="3"/></g>']
    for level in range(1, levels):
        parts.append(f'<g id="a{level}">' + f'<use xlink:href="#a{level - 1}"/>' * 10 + "</g>")
    return svg(f"<defs>{''.join(parts)}</defs><use href='#a{levels - 1}'/>")


def curves(letter: str, numbers: str, count: int) -> bytes:
    return svg(f'<path d="M0 0 {letter} {(numbers + " ") * count}"/>')


class HostileDrawingTest(SimpleTestCase):
    def refused(self, data: bytes, error: type[PaletaError], words: str) -> None:
        begun = time.monotonic()
        with self.assertRaisesMessage(error, words):
            read(data)
        self.assertLess(time.monotonic() - begun, PATIENCE_S)

    def test_nested_uses_are_counted_before_they_are_unfolded(self):
        self.refused(nested_uses(9), ImageTooLarge, "too many shapes")

    def test_a_part_that_uses_itself_is_refused(self):
        self.refused(svg('<g id="a"><use href="#a"/></g>'), NotAnImage, "within that part")
        self.refused(
            svg('<g id="a"><use href="#b"/></g><g id="b"><use href="#a"/></g>'), NotAnImage, "within that part"
        )

    def test_endless_paths_are_refused_by_their_numbers(self):
        for letter, numbers in (("A", "5 5 0 1 0 9 9"), ("C", "1 2 3 4 5 6"), ("L", "1 2"), ("Q", "1 2 3 4")):
            with self.subTest(letter=letter):
                self.refused(curves(letter, numbers, 500_000 // len(numbers.split())), ImageTooLarge, "too many")

    def test_endless_outlines_and_rectangles_are_refused(self):
        self.refused(svg(f'<polyline points="{"1,2 " * 250_000}"/>'), ImageTooLarge, "too many")
        self.refused(svg('<rect x="1" y="1" width="2" height="2"/>' * 30_000), ImageTooLarge, "too many")

    def test_numbers_beyond_measure_are_refused(self):
        for number in ("1e300", "-4e38", "99999999999", "inf", "nan"):
            with self.subTest(number=number):
                self.refused(svg(f'<path d="M0 0 L{number} 5"/>'), NotAnImage, "beyond measure")
                self.refused(svg(f'<rect x="1" y="1" width="{number}" height="5"/>'), NotAnImage, "beyond measure")

    def test_a_long_style_sheet_is_left_out_and_said_so(self):
        style = "".join(f".a{k}{{stroke:#00{k % 10}}}" for k in range(4000))
        begun = time.monotonic()
        drawing = read(svg(f"<style>{style}</style><circle cx='25' cy='25' r='20'/>"))
        self.assertLess(time.monotonic() - begun, PATIENCE_S)
        self.assertIn("long style sheets", " ".join(drawing.warnings))

    def test_deep_nesting_is_refused(self):
        self.refused(svg("<g>" * 500 + "</g>" * 500), NotAnImage, "")


class OrdinaryDrawingTest(SimpleTestCase):
    def test_a_traced_drawing_of_many_curves_is_drawn(self):
        """About what tracing a detailed stamp gives: 400 closed curves of 16 segments."""
        chance = np.random.default_rng(5)
        paths = []
        for place in range(400):
            x, y = place % 20 * 2.4 + 1, place // 20 * 2.4 + 1
            points = " ".join(f"{one:.2f}" for one in chance.uniform(-0.5, 0.5, 96))
            paths.append(f'<path d="M{x} {y} c {points} z"/>')
        drawing = read(svg("".join(paths)))
        self.assertGreater(float((drawing.pixels < 0.5).mean()), 0.02)

    def test_short_styles_and_single_uses_are_kept(self):
        styled = read(svg("<style>.line{fill:none;stroke:#000}</style><g class='line'><path d='M5 5H45V45H5Z'/></g>"))
        used = read(svg("<defs><path id='p' d='M5 5H45V45H5Z'/></defs><use href='#p'/>"))
        np.testing.assert_allclose(styled.pixels, used.pixels, atol=0.02)
        self.assertGreater(float((used.pixels < 0.5).mean()), 0.003)
