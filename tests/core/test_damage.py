"""Files as they come out of accidents: bytes changed, cut or repeated. They are read, or refused in a sentence."""

from __future__ import annotations

import json
import re
import warnings
from collections.abc import Callable
from typing import Any

import numpy as np
from django.test import SimpleTestCase
from hypothesis import given, settings
from hypothesis import strategies as st

from demo.lineart import DRAWINGS
from paleta.errors import PaletaError, RecipeError
from paleta.impression import find_regions, labels_from_png, labels_to_png, read
from paleta.media import read_table
from paleta.recipe import Recipe, dump, load
from tests.builders import as_file, line_drawing
from tests.core.test_recipe import make_recipe

PLAIN = line_drawing()
PICTURES = {
    "PNG": as_file(PLAIN),
    "JPEG": as_file(PLAIN, "JPEG"),
    "WEBP": as_file(PLAIN, "WEBP"),
    "TIFF": as_file(PLAIN, "TIFF", compression="tiff_lzw"),
    "SVG": (
        b'<svg xmlns="http://www.w3.org/2000/svg" width="60mm" height="40mm" viewBox="0 0 60 40" fill="none">'
        b'<g transform="rotate(5)"><circle cx="15" cy="20" r="10" stroke="#000" stroke-width="0.5"/></g>'
        b'<path d="M30 8H55V32H30Z" stroke="#111" stroke-width="0.5"/></svg>'
    ),
}
RECIPE = dump(make_recipe())
TABLE = b"code,name,L,a,b,family\nr1,Rose,62.5,31,-12,rose\nr2,Dark rose,42.5,33,-9,rose\n"


@st.composite
def accidents(draw: st.DrawFn, whole: bytes) -> bytes:
    """`whole` after up to four accidents."""
    data = bytearray(whole)
    for _ in range(draw(st.integers(1, 4))):
        place = draw(st.integers(0, max(0, len(data) - 1)))
        kind = draw(st.sampled_from(("flip", "cut", "repeat", "insert", "blank")))
        if kind == "flip" and data:
            data[place] ^= draw(st.integers(1, 255))
        elif kind == "cut":
            del data[place : place + draw(st.integers(1, max(1, len(data))))]
        elif kind == "repeat":
            data[place:place] = data[place : place + 40]
        elif kind == "insert":
            data[place:place] = draw(st.binary(max_size=6))
        else:
            data[place : place + 8] = bytes(len(data[place : place + 8]))
    return bytes(data)


def told(work: Callable[[], Any]) -> bool:
    """Whether it worked; if not, it was refused in a sentence."""
    try:
        with warnings.catch_warnings():
            warnings.simplefilter("ignore")  # what Pillow thinks of damaged files is its own business
            work()
    except PaletaError as refusal:
        words = str(refusal)
        assert words.rstrip().endswith((".", "?")), words
        return False
    return True


class DamageTest(SimpleTestCase):
    @settings(max_examples=150)
    @given(st.data())
    def test_a_damaged_picture_is_read_or_refused(self, data):
        kind = data.draw(st.sampled_from(sorted(PICTURES)))
        damaged = data.draw(accidents(PICTURES[kind]))
        told(lambda: find_regions(read(damaged, dpi=150)))

    @settings(max_examples=200)
    @given(st.data())
    def test_a_damaged_recipe_is_refused_or_still_a_recipe(self, data):
        damaged = data.draw(accidents(RECIPE))
        try:
            recipe = load(damaged)
        except RecipeError:
            return
        self.assertIsInstance(recipe, Recipe)
        self.assertEqual(load(dump(recipe)), recipe)

    @settings(max_examples=150)
    @given(st.data())
    def test_a_recipe_with_any_value_in_any_place_is_refused_or_still_a_recipe(self, data):
        plain = json.loads(RECIPE)
        place: Any = plain
        while True:
            keys = list(place) if isinstance(place, dict) else list(range(len(place)))
            key = data.draw(st.sampled_from(keys))
            inner = place[key]
            if not isinstance(inner, dict | list) or not inner or data.draw(st.booleans()):
                break
            place = inner
        place[key] = data.draw(
            st.none() | st.booleans() | st.integers() | st.floats() | st.text(max_size=8) | st.just([]) | st.just({})
        )
        told(lambda: load(json.dumps(plain).encode()))

    def test_a_number_without_bound_is_no_number(self):
        before = re.search(rb'"ambient": ?[^,}]+', RECIPE)
        assert before
        for text in (b"1e999", b"-1e999", b"NaN", b"Infinity"):
            with self.subTest(text=text), self.assertRaisesMessage(RecipeError, "not a number"):
                load(RECIPE.replace(before[0], b'"ambient":' + text))

    @settings(max_examples=300)
    @given(st.data())
    def test_a_damaged_table_keeps_its_rows_marked_or_is_refused(self, data):
        damaged = data.draw(accidents(TABLE) | st.binary(max_size=80) | st.text(max_size=80).map(str.encode))
        rows: list[Any] = []
        if told(lambda: rows.extend(read_table(damaged))):
            for row in rows:
                self.assertTrue(row.problem or (row.lab and 0 <= row.lab[0] <= 100), row)

    @settings(max_examples=25)
    @given(st.data())
    def test_a_damaged_region_map_is_noticed_or_has_its_shape(self, data):
        found = find_regions(read(PICTURES["PNG"], dpi=150))
        damaged = data.draw(accidents(labels_to_png(found)))
        told(lambda: self.assertEqual(labels_from_png(damaged, dpi=150).labels.ndim, 2))

    def test_every_way_to_cut_a_drawing_short_is_told(self):
        whole = DRAWINGS["balloon"]().to_svg().encode()
        for share in np.linspace(0.02, 0.98, 13):
            with self.subTest(share=round(float(share), 2)):
                self.assertFalse(told(lambda share=share: read(whole[: int(share * len(whole))])))
