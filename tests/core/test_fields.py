"""Declared fields: what a class checks, its JSON Schema says too, by the jsonschema library as a second opinion."""

from __future__ import annotations

import json
import math
from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any

from django.test import SimpleTestCase
from hypothesis import assume, given, settings
from hypothesis import strategies as st
from jsonschema import Draft202012Validator

from paleta.errors import RecipeError
from paleta.fields import (
    LAB,
    Choice,
    Flag,
    Kind,
    Many,
    Maybe,
    Number,
    Numbers,
    Record,
    Table,
    Text,
    Whole,
    check_fields,
    from_plain,
    holds,
    kind_of,
    said_of,
    schema_of,
    to_plain,
    unwanted_in,
    whole_numbers,
)

WORDS = {"warm": "warm as a candle", "cool": "cool as the moon"}


@dataclass(frozen=True)
class Leaf:
    name: str = holds(Text(8, shortest=1), said=lambda name: f"called {name}")
    tone: str = holds(Choice(WORDS, blank=True), "")

    def __post_init__(self) -> None:
        check_fields(self, RecipeError, "Leaf")


@dataclass(frozen=True)
class Branch:
    length_mm: float = holds(Number(0, 50), 3.5, said=lambda mm: f"{mm:g} mm long")
    knots: int = holds(Whole(0, 9), 0)
    bare: bool = holds(Flag(), False)
    tint: str = holds(Text(7, pattern="#[0-9a-f]{6}"), "")
    lab: tuple[float, float, float] | None = holds(Maybe(LAB), None)
    tags: tuple[str, ...] = holds(Many(Text(5), 3, once=True), ())
    tip: Leaf = holds(Record(Leaf), lambda: Leaf("tip"))
    leaves: Mapping[int, Leaf] = holds(Table(Record(Leaf), "place", 4, outside=Whole(1, 9)), dict)

    def __post_init__(self) -> None:
        check_fields(self, RecipeError)


KINDS: tuple[Kind, ...] = (
    *(kind_of(Branch, name) for name in ("length_mm", "knots", "bare", "tint", "lab", "tags")),
    Choice(WORDS),
    Choice(WORDS, blank=True),
    Text(4, shortest=2),
    Numbers(((0, 1), (-5, 5))),
)
plain_values = st.recursive(
    st.none()
    | st.booleans()
    | st.integers(-20, 60)
    | st.floats(-20, 60, allow_nan=False)
    | st.sampled_from(["", "warm", "cool", "#aa5544", "#AA5544", "aa5544"])
    | st.text(alphabet="ab c", max_size=6),
    lambda inner: st.lists(inner, max_size=4),
    max_leaves=5,
)


class KindTest(SimpleTestCase):
    @settings(max_examples=300)
    @given(st.sampled_from(KINDS), plain_values)
    def test_a_kind_allows_what_its_schema_does(self, kind, plain):
        # That a tag stands only once is a rule no schema says; it has a test of its own.
        assume(not isinstance(kind, Many) or not isinstance(plain, list) or len(set(map(repr, plain))) == len(plain))
        allowed = Draft202012Validator(kind.schema()).is_valid(plain)
        self.assertEqual(self.accepts(kind, plain), allowed, (kind, plain))

    def accepts(self, kind: Kind, plain: Any) -> bool:
        # A schema counts blanks as characters.
        if isinstance(kind, Text) and isinstance(plain, str):
            plain = plain.replace(" ", "_")
        # JSON Schema counts 2.0 as a whole number; the plain form writes it as 2.
        plain = whole_numbers(plain) if isinstance(kind, Whole) else plain
        try:
            kind.check(plain)
        except (ValueError, TypeError):
            return False
        return True

    def test_numbers_that_are_none_and_numbers_without_end_are_refused(self):
        for value in (math.nan, math.inf, -math.inf, 10**400, True, "3", None):
            with self.subTest(value=str(value)[:20]), self.assertRaises(ValueError):
                Number(0, 50).check(value)

    def test_texts_that_cannot_be_written_down_are_refused(self):
        for text in ("\x00", "a\ud800", "\x7f", "\ufffe"):
            with self.subTest(text=ascii(text)):
                self.assertTrue(unwanted_in(text))
                with self.assertRaisesMessage(ValueError, "cannot be written down"):
                    Text(8).check(text)
        for text in ("naïve", "line\nline", "tab\t", "🖍"):
            self.assertFalse(unwanted_in(text))

    def test_the_same_thing_twice_is_refused_where_it_may_stand_once(self):
        with self.assertRaisesMessage(ValueError, "only once"):
            Many(Text(5), 3, once=True).check(("a", "a"))
        Many(Text(5), 3).check(("a", "a"))


class ClassTest(SimpleTestCase):
    branch = Branch(lab=(50.0, 1.0, -2.0), tags=("a", "b"), leaves={2: Leaf("two", "warm"), 7: Leaf("seven")})

    def test_the_plain_form_is_json_and_leads_back(self):
        plain = json.loads(json.dumps(to_plain(self.branch)))
        self.assertEqual(from_plain(Branch, plain), self.branch)
        self.assertEqual(plain["leaves"][0], {"place": 2, "name": "two", "tone": "warm"})

    def test_the_schema_is_a_sound_one_and_allows_what_is_written_and_nothing_else(self):
        schema = schema_of(Branch)
        Draft202012Validator.check_schema(schema)
        plain = json.loads(json.dumps(to_plain(self.branch)))
        valid = Draft202012Validator(schema).is_valid
        self.assertTrue(valid(plain))
        for change in (
            {"colour": "red"}, {"knots": 10}, {"knots": 1.5}, {"tags": list("abcd")}, {"tip": {"name": "tip"}},
            {"leaves": [{"place": 0, "name": "x", "tone": ""}]}, {"lab": [1, 2]}, {"tint": "red"},
        ):  # fmt: skip
            with self.subTest(change=change):
                self.assertFalse(valid(plain | change))
        self.assertFalse(valid({key: one for key, one in plain.items() if key != "bare"}))

    def test_a_class_names_the_field_at_fault(self):
        for values, words in (
            ({"length_mm": 51}, "length_mm must lie in 0..50, got 51."),
            ({"knots": True}, "knots must be a whole number"),
            ({"bare": 1}, "bare must be true or false"),
            ({"tip": "leaf"}, "tip must be a Leaf"),
            ({"leaves": {0: Leaf("zero")}}, "leaves must be a whole number in 1..9"),
            ({"leaves": {n: Leaf("x") for n in range(1, 6)}}, "leaves holds up to 4, got 5"),
        ):
            with self.subTest(words=words), self.assertRaisesMessage(RecipeError, words):
                Branch(**values)
        with self.assertRaisesMessage(RecipeError, "Leaf: tone must be one of warm, cool"):
            Leaf("x", "hot")

    def test_a_key_that_is_named_twice_is_refused(self):
        twice = [{"place": 2, "name": "one", "tone": ""}] * 2
        with self.assertRaisesMessage(ValueError, "names the same place twice"):
            kind_of(Branch, "leaves").from_plain(twice)

    def test_words_for_what_was_set(self):
        self.assertEqual(said_of(self.branch, ["length_mm"]), "3.5 mm long")
        self.assertEqual(said_of(self.branch, ["knots"]), "Nothing")
        self.assertEqual(said_of(Leaf("ivy"), ["tone", "name"]), "called ivy")

    def test_equal_numbers_are_written_the_same(self):
        self.assertEqual(json.dumps(whole_numbers({"a": [2.0, 2, 2.5], "b": (1e300, -0.0)})),
                         json.dumps({"a": [2, 2, 2.5], "b": [int(1e300), 0]}))  # fmt: skip
