"""Exact lengths against Python's own fractions and the published sizes they are made from."""

from __future__ import annotations

from dataclasses import replace
from fractions import Fraction

from django.test import SimpleTestCase
from hypothesis import given
from hypothesis import strategies as st

from paleta.card import (
    CARDS,
    ENVELOPES,
    SHEETS,
    Base,
    CardSpec,
    Length,
    inches,
    millimetres,
    open_size,
    parse_length,
    parse_weight,
    said_weight,
    show,
)
from paleta.errors import CardError
from paleta.fields import from_plain, schema_of, to_plain
from paleta.materials import grams_per_m2

WHOLE = st.integers(0, 60)
SIXTEENTHS = st.integers(0, 15)


class ParseTest(SimpleTestCase):
    def test_what_people_write_is_read(self):
        quarter = inches("17/4")
        for text in ("4 1/4 in", "4¼ in", '4-1/4"', "4 1/4 inches", "4.25 in", "4,25 in", "  4  1/4  IN. ", "4 1⁄4″"):
            with self.subTest(text=text):
                self.assertEqual(parse_length(text), quarter)
        self.assertEqual(parse_length("4 1/4", "in"), quarter)
        self.assertEqual(parse_length("½", "in"), inches("1/2"))
        self.assertEqual(parse_length("1/3 in"), inches("1/3"))
        self.assertEqual(parse_length("10,8 cm"), millimetres(108))
        self.assertEqual(parse_length("108 mm", "in"), millimetres(108))
        self.assertEqual(parse_length("−2 mm"), millimetres(-2))

    def test_what_is_no_length_is_refused_in_a_sentence(self):
        for text, words in (
            ("4 1/0 in", "over nought"),
            ("4", "needs a unit"),
            ("4 furlongs", "needs a unit"),
            ("four in", "is no length"),
            ("", "is no length"),
            ("4 1/4 1/4 in", "is no length"),
            ("٤ in", "is no length"),
            ("² in", "is no length"),
            ("1e3 mm", "is no length"),
            ("9" * 60, "is no length"),
            ("3.1234 mm", "finer than can be kept"),
        ):
            with self.subTest(text=text), self.assertRaisesMessage(CardError, words):
                parse_length(text)

    @given(WHOLE, SIXTEENTHS)
    def test_inches_are_pythons_own_fractions(self, whole, sixteenths):
        expected = Fraction(whole) + Fraction(sixteenths, 16)
        length = parse_length(f"{whole} {sixteenths}/16", "in")
        self.assertEqual(length.inches, expected)
        # 1 in = 25.4 mm, by the definition of the inch of 1959.
        self.assertEqual(length.mm, expected * Fraction(254, 10))
        self.assertFalse(show(length).about)
        self.assertEqual(parse_length(show(length).text, "in"), length)

    @given(st.integers(-100_000, 100_000), st.sampled_from([1, 2, 3, 7, 16, 25, 64, 100, 127]))
    def test_what_is_written_down_is_read_the_same_again(self, over, under):
        for length in (inches(Fraction(over, under)), millimetres(Fraction(over, 100))):
            self.assertEqual(parse_length(str(length)), length)

    def test_finer_than_sixteenths_is_kept_exact_and_shown_as_nearest_with_a_sign(self):
        third = parse_length("1/3 in")
        self.assertEqual(third * 3, inches(1))
        self.assertEqual(str(show(third)), "≈ 5/16 in")
        self.assertEqual(str(show(inches("1/8"), "mm")), "≈ 3.18 mm")
        self.assertEqual(str(show(inches("17/4"), "mm")), "107.95 mm")
        self.assertEqual(str(show(millimetres(108))), "≈ 4 1/4 in")

    def test_sums_and_shares_lose_nothing(self):
        tenth = parse_length("0.1 in")
        self.assertEqual(sum((tenth for _ in range(9)), tenth), inches(1))
        self.assertNotEqual(sum([0.1] * 10), 1.0)  # what binary floats would have made of it
        self.assertEqual((inches("11/2") - inches("1/8") * 2) / 2, inches("21/8"))

    def test_a_float_is_no_length(self):
        with self.assertRaises(CardError):
            Length(4.25)


class SizeTest(SimpleTestCase):
    def test_iso_sheets_follow_the_standards_definition(self):
        """ISO 216: A0 is a square metre, sides 1 : root 2, each size half of the one before, to whole mm; trimmed to
        within 1.5 mm up to 150 mm, 2 mm up to 600 mm and 3 mm beyond."""
        a0 = 841 * 1189
        self.assertLess(abs(a0 - 1_000_000), 1_000)
        for code, number in (("iso-a3", 3), ("iso-a4", 4), ("iso-a5", 5)):
            size = SHEETS[code]
            width, height = float(size.width.mm), float(size.height.mm)
            with self.subTest(code=code):
                self.assertLess(abs(height - width * 2**0.5), 1.5)
                exact = (1_000_000 / 2**number / 2**0.5) ** 0.5
                self.assertLess(abs(width - exact), 1.5 if exact <= 150 else 2.0)
        self.assertEqual((SHEETS["iso-a4"].width, SHEETS["iso-a4"].height), (millimetres(210), millimetres(297)))
        # What the trade calls by an ISO sheet's name is a quarter of its size.
        self.assertNotIn("A2", {size.name for size in CARDS.values()})

    def test_envelopes_are_those_of_the_standard_and_hold_the_sheets_named_alike(self):
        """ISO 269: DL 110 x 220, C6 114 x 162, C5 162 x 229, B6 125 x 176 mm."""
        for code, sides in (
            ("iso-dl", (110, 220)),
            ("iso-c6", (114, 162)),
            ("iso-c5", (162, 229)),
            ("iso-b6", (125, 176)),
        ):
            with self.subTest(code=code):
                self.assertEqual(
                    (ENVELOPES[code].width, ENVELOPES[code].height), tuple(millimetres(side) for side in sides)
                )
        self.assertGreater(ENVELOPES["iso-c6"].width, CARDS["iso-a6"].width)
        self.assertGreater(ENVELOPES["iso-c5"].height, CARDS["iso-a5"].height)

    def test_a_card_that_is_folded_off_the_middle_has_a_shorter_front(self):
        note = Base(width=CARDS["note"].width, height=CARDS["note"].height, shorter=inches("1/2"))
        self.assertEqual(open_size(note), (inches(8), inches("11/2")))
        self.assertEqual(note.scores, (inches("15/4"),))
        top = replace(note, fold="top")
        self.assertEqual((open_size(top), top.scores), ((inches("17/4"), inches("21/2")), (inches(5),)))
        with self.assertRaisesMessage(CardError, "Only a card that is folded once"):
            replace(note, fold="gate")
        with self.assertRaisesMessage(CardError, "still has to have some"):
            replace(note, width=inches(2), shorter=inches(2))

    def test_a_length_is_shown_in_inches_millimetres_or_centimetres(self):
        for unit, text in (("in", "4 1/4"), ("mm", "107.95"), ("cm", "10.795")):
            self.assertEqual(show(inches("17/4"), unit).text, text)
        self.assertEqual(str(show(millimetres(100), "cm")), "10 cm")
        with self.assertRaisesMessage(CardError, "not in 'ft'"):
            show(inches(1), "ft")

    def test_trade_sizes_and_the_sheets_they_fold_from(self):
        """docs/trade-notes.md, Cards."""
        note = Base(width=CARDS["note"].width, height=CARDS["note"].height)
        self.assertEqual(open_size(note), (inches("17/2"), inches("11/2")))
        top = Base(width=CARDS["note"].width, height=CARDS["note"].height, fold="top")
        self.assertEqual(open_size(top), (inches("17/4"), inches(11)))
        five = CARDS["5x7"]
        self.assertEqual(open_size(Base(width=five.width, height=five.height)), (inches(10), inches(7)))
        # Other folds by their definition: a gate's flaps meet in the middle, Z and accordion fold page by page.
        for fold, sheet, scores in (
            ("gate", ("17/2", "11/2"), ("17/8", "51/8")),
            ("z", ("51/4", "11/2"), ("17/4", "17/2")),
            ("accordion", ("17", "11/2"), ("17/4", "17/2", "51/4")),
            ("flat", ("17/4", "11/2"), ()),
        ):
            base = Base(width=CARDS["note"].width, height=CARDS["note"].height, fold=fold)
            with self.subTest(fold=fold):
                self.assertEqual(open_size(base), tuple(map(inches, sheet)))
                self.assertEqual(base.scores, tuple(map(inches, scores)))

    def test_pounds_follow_the_definition_of_basis_weight(self):
        """500 sheets of the basis size; 1 lb = 453.59237 g exactly (international pound, 1959)."""
        area = Fraction(20) * 26 * Fraction(254, 10000) ** 2
        exact = float(110 * Fraction("453.59237") / (500 * area))
        self.assertAlmostEqual(grams_per_m2(110, "cover"), exact, places=6)
        for text in ("110 lb cover", "110lb", "110 lbs"):
            self.assertAlmostEqual(parse_weight(text), exact, delta=0.05)
        self.assertLess(parse_weight("24 lb bond"), parse_weight("80 lb text"))
        for text in ("300", "300 g", "300 g/m²", "300 GSM"):
            self.assertEqual(parse_weight(text), 300)
        self.assertEqual(said_weight(parse_weight("110 lb cover")), "297.5 g/m², 110 lb cover")
        for text in ("heavy", "110 lb vellum", "-3 g", "1e3", "9" * 50):
            with self.subTest(text=text), self.assertRaises(CardError):
                parse_weight(text)


class PlainTest(SimpleTestCase):
    def test_a_spec_is_written_exactly_and_read_the_same_again(self):
        spec = CardSpec(base=Base(width=inches("17/4"), height=millimetres("139.7")))
        plain = to_plain(spec)
        self.assertEqual(plain["base"]["width"], "4 1/4 in")
        self.assertEqual(
            plain["base"]["height"], "5 1/2 in"
        )  # the same length is written the same, however it was meant
        self.assertEqual(from_plain(CardSpec, plain), spec)

    def test_its_schema_takes_what_is_written(self):
        import jsonschema

        checked = jsonschema.Draft202012Validator(schema_of(CardSpec))
        spec = CardSpec(base=Base(width=inches("1/3"), height=millimetres("108.25")))
        self.assertEqual([*checked.iter_errors(to_plain(spec))], [])
        broken = to_plain(spec)
        broken["base"]["width"] = "wide"
        self.assertTrue([*checked.iter_errors(broken)])

    def test_impossible_sizes_are_refused(self):
        for width in (inches(0), inches(-1), inches(41), inches("1/32")):
            with self.subTest(width=str(width)), self.assertRaisesMessage(CardError, "must lie between"):
                Base(width=width, height=inches(5))
