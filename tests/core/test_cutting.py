"""Cutting plans against exhaustive search, against a published instance, and against a trimmer that really cuts."""

from __future__ import annotations

from fractions import Fraction
from functools import cache
from itertools import combinations

import numpy as np
from django.test import SimpleTestCase
from hypothesis import assume, given, settings
from hypothesis import strategies as st

from paleta.card import CardPart, CutSheet, Stock, cut, inches, millimetres
from paleta.card._best_sheet import best_sheet, places
from paleta.card._fewest import SheetSize, _alone, _priced
from paleta.card._slicing import PieceKind, layouts
from paleta.errors import CardError

LETTER = Stock(name="White", width=inches("17/2"), height=inches(11), grain="long", owned=2)


def piece(width, height, count=1, name="Piece", **more) -> CardPart:
    return CardPart(name, inches(Fraction(width)), inches(Fraction(height)), "White", count=count, **more)


def stock(width, height, **more) -> Stock:
    return Stock(name="White", width=inches(width), height=inches(height), **more)


def fits(width: int, height: int, pieces: tuple[tuple[int, int], ...]) -> bool:
    """Whether whole-inch pieces can be cut out of a rectangle: every cut at every whole inch is tried."""

    @cache
    def can(wide: int, high: int, wanted: tuple[tuple[int, int], ...]) -> bool:
        if not wanted:
            return True
        if len(wanted) == 1:
            a, b = wanted[0]
            return (a <= wide and b <= high) or (b <= wide and a <= high)
        if sum(a * b for a, b in wanted) > wide * high:
            return False
        for size in range(len(wanted) + 1):
            for part in combinations(range(len(wanted)), size):
                one = tuple(sorted(wanted[k] for k in part))
                other = tuple(sorted(wanted[k] for k in range(len(wanted)) if k not in part))
                if len(one) > len(other):
                    continue
                if any(can(at, high, one) and can(wide - at, high, other) for at in range(1, wide) if one):
                    return True
                if any(can(wide, at, one) and can(wide, high - at, other) for at in range(1, high) if one):
                    return True
        return False

    return can(width, height, tuple(sorted(pieces)))


def fewest_sheets(width: int, height: int, pieces: tuple[tuple[int, int], ...]) -> int:
    """By trying every way to share the pieces out."""

    @cache
    def fewest(wanted: tuple[tuple[int, int], ...]) -> int:
        if not wanted:
            return 0
        best = len(wanted)
        first, rest = wanted[0], wanted[1:]
        for size in range(len(rest) + 1):
            for part in combinations(range(len(rest)), size):
                together = (first, *(rest[k] for k in part))
                if fits(width, height, together):
                    left = tuple(rest[k] for k in range(len(rest)) if k not in part)
                    best = min(best, 1 + fewest(left))
        return best

    return fewest(tuple(sorted(pieces)))


def least_area(large: tuple[int, int], small: tuple[int, int], pieces: tuple[tuple[int, int], ...]) -> int:
    """By trying every way to share the pieces out between sheets of two sizes."""
    areas = {size: size[0] * size[1] for size in (large, small)}

    @cache
    def least(wanted: tuple[tuple[int, int], ...]) -> int:
        if not wanted:
            return 0
        best = 10**6
        first, rest = wanted[0], wanted[1:]
        for count in range(len(rest) + 1):
            for part in combinations(range(len(rest)), count):
                together = (first, *(rest[k] for k in part))
                left = tuple(rest[k] for k in range(len(rest)) if k not in part)
                for size, area in areas.items():
                    if fits(*size, together):
                        best = min(best, area + least(left))
        return best

    return least(tuple(sorted(pieces)))


def cut_by_hand(sheet: CutSheet) -> list[tuple[Fraction, ...]]:
    """Cuts as a trimmer does: each goes right across one of the parts there are by then. Gives the parts."""
    parts = [(Fraction(0), Fraction(0), sheet.stock.width.inches, sheet.stock.height.inches)]
    for one in sheet.cuts:
        ends = tuple(getattr(one, name).inches for name in ("x0", "y0", "x1", "y1"))
        for number, (x0, y0, x1, y1) in enumerate(parts):
            if one.down and ends[1] == y0 and ends[3] == y1 and x0 < ends[0] < x1:
                assert one.at.inches == ends[0] - x0
                parts[number : number + 1] = [(x0, y0, ends[0], y1), (ends[0], y0, x1, y1)]
                break
            if not one.down and ends[0] == x0 and ends[2] == x1 and y0 < ends[1] < y1:
                assert one.at.inches == ends[1] - y0
                parts[number : number + 1] = [(x0, y0, x1, ends[1]), (x0, ends[1], x1, y1)]
                break
        else:
            raise AssertionError(f"cut {one.number} runs across no part from edge to edge")
    return parts


class CuttingTest(SimpleTestCase):
    def check(self, plan, wanted):
        """Every piece is there, of its size, and comes off the trimmer as a part of its own."""
        made: dict[str, int] = {}
        for sheet in plan.sheets:
            parts = cut_by_hand(sheet)
            for one in sheet.pieces:
                place = tuple(edge.inches for edge in (one.place.x, one.place.y, one.place.right, one.place.bottom))
                self.assertIn(place, parts)
                made[one.name] = made.get(one.name, 0) + sheet.count
                asked = next(it for it in wanted if it.name == one.name)
                sides = (one.place.width, one.place.height)
                self.assertEqual(sides if not one.turned else sides[::-1], (asked.width, asked.height))
        self.assertEqual(made, {one.name: one.count for one in wanted})

    @settings(max_examples=60, deadline=None)
    @given(
        st.tuples(st.integers(3, 7), st.integers(3, 7)),
        st.lists(st.tuples(st.integers(1, 4), st.integers(1, 4)), min_size=1, max_size=5),
    )
    def test_small_jobs_take_as_few_sheets_as_exhaustive_search_finds(self, size, sides):
        sides = [one for one in sides if fits(*size, (one,))]
        assume(sides)
        wanted = [piece(a, b, name=f"P{number}") for number, (a, b) in enumerate(sides)]
        plan = cut([stock(*size)], wanted)
        self.check(plan, wanted)
        self.assertEqual(plan.needs[0].used, fewest_sheets(*size, tuple(sides)))
        self.assertTrue(plan.proven)

    def test_a_published_instance_gives_its_published_optimum(self):
        """[Christofides1977], first instance (cgcut1 of the OR-Library): sheet 15 x 10, seven kinds that must not be
        turned, each with a value and a most; optimum 244. The data are from memory."""
        data = [(8, 4, 2, 66), (3, 7, 1, 35), (8, 2, 3, 24), (3, 4, 5, 17), (3, 3, 2, 11), (3, 2, 2, 8), (2, 1, 1, 2)]
        kinds = [PieceKind(((width, height, False),), most) for width, height, most, _ in data]
        found = layouts(kinds, 15, 10, most_steps=3_000_000)
        best = max(sum(count * one[3] for count, one in zip(counts, data, strict=True)) for counts in found)
        self.assertEqual(best, 244)

    def test_prices_find_the_best_sheet_that_looking_through_all_finds(self):
        chance = np.random.default_rng(5)
        for _ in range(12):
            width, height = (int(side) for side in chance.integers(5, 10, 2))
            sides = [(int(a), int(b)) for a, b in chance.integers(2, 5, (3, 2))]
            kinds = [PieceKind(((a, b, False), (b, a, True)), width * height) for a, b in sides]
            values = [float(value) for value in chance.integers(1, 20, 3)]
            every = layouts(kinds, width, height)
            best = max((sum(c * v for c, v in zip(counts, values, strict=True)) for counts in every), default=0.0)
            ways = [[way[axis] for kind in kinds for way in kind.ways] for axis in (0, 1)]
            xs, ys = places(ways[0], width), places(ways[1], height)
            value, tree = best_sheet(kinds, values, xs, ys, (width, height))
            self.assertAlmostEqual(value, best)
            if tree is not None:
                self.assertAlmostEqual(sum(values[kind] for kind in tree.kinds()), value)
                self.assertLessEqual((tree.width, tree.height), (width, height))

    def test_bounds_by_prices_are_never_above_what_is_possible(self):
        chance = np.random.default_rng(7)
        for _ in range(8):
            sides = [(int(a), int(b)) for a, b in chance.integers(2, 6, (4, 2))]
            wanted = [piece(a, b, count=int(chance.integers(1, 5)), name=f"P{k}") for k, (a, b) in enumerate(sides)]
            proven = cut([stock(8, 7)], wanted)
            self.assertTrue(proven.proven)
            kinds = [
                PieceKind(((a, b, False), (b, a, True)), one.count) for (a, b), one in zip(sides, wanted, strict=True)
            ]
            sheet = SheetSize((8, 7), tuple(kinds))
            known = {(0, counts): tree for counts, tree in _alone(sheet)}
            bound = _priced([sheet], [one.count for one in wanted], known)
            self.assertLessEqual(bound, proven.needs[0].used + 1e-9)

    def test_many_cards_hold_together_too(self):
        wanted = [
            piece("11/2", "17/2", name="Base"),
            piece(4, "21/4", name="Mat"),
            piece("15/4", 5, name="Picture"),
            piece(4, "21/4", name="Inside"),
            piece(3, "5/8", name="Strip"),
        ]
        for cards in (1, 3, 24):
            plan = cut([LETTER], wanted, cards)
            self.check(plan, [CardPart(**{**_fields(one), "count": cards}) for one in wanted])
            self.assertGreaterEqual(plan.needs[0].used, plan.needs[0].bound)
            self.assertEqual(plan.needs[0].buy, max(0, plan.needs[0].used - 2))
        self.assertEqual(cut([LETTER], wanted, 24), cut([LETTER], wanted, 24))

    def test_two_bases_come_from_a_letter_sheet(self):
        """docs/trade-notes.md, Cards: two bases per letter sheet, scored in their middle."""
        base = piece("17/2", "11/2", count=2, name="Base", along="height", scores=(inches("17/4"),))
        plan = cut([LETTER], [base])
        self.assertEqual(plan.needs[0].used, 1)
        self.check(plan, [base])
        # The fold runs along the grain: down the long side of the sheet.
        self.assertTrue(all([score.down for score in one.scores] == [True] for one in plan.sheets[0].pieces))

    def test_of_sheets_in_several_sizes_the_least_paper_is_taken(self):
        """Against trying every number of either sheet."""
        chance = np.random.default_rng(3)
        large, small = stock(7, 6), stock(4, 3)
        for _ in range(10):
            sides = [(int(a), int(b)) for a, b in chance.integers(1, 5, (5, 2)) if min(a, b) <= 3 or max(a, b) <= 6]
            wanted = [piece(a, b, name=f"P{number}") for number, (a, b) in enumerate(sides)]
            plan = cut([large, small], wanted)
            self.check(plan, wanted)
            used = {need.stock.width.inches: need.used for need in plan.needs}
            area = used[7] * 42 + used[4] * 12
            self.assertEqual(area, least_area((7, 6), (4, 3), tuple(sides)))
            self.assertTrue(plan.proven)

    def test_grain_is_kept_where_it_is_asked_for(self):
        along = piece(8, 3, name="P", along="width")
        free = piece(8, 3, name="P")
        narrow = stock(4, 9, grain="short")
        self.assertEqual(cut([narrow], [free]).needs[0].used, 1)
        with self.assertRaisesMessage(CardError, "the way its grain must run"):
            cut([narrow], [along])
        self.assertEqual(cut([stock(4, 9)], [along]).needs[0].used, 1)  # of unknown grain nothing can be kept

    def test_what_cannot_be_is_said(self):
        with self.assertRaisesMessage(CardError, "does not go on a sheet of White"):
            cut([LETTER], [piece(9, 12)])
        for cards in (0, 10_000):
            with self.assertRaisesMessage(CardError, "1 to 1,000 cards"):
                cut([LETTER], [piece(1, 1)], cards)
        plan = cut([LETTER], [CardPart("Loose", inches(1), inches(1), "Gold")])
        self.assertEqual((plan.sheets, plan.uncut), ((), ("Loose",)))

    def test_inches_and_millimetres_on_one_sheet_stay_exact(self):
        wanted = [
            CardPart("Third", inches("1/3"), millimetres("50.01"), "White", count=3),
            CardPart("Rest", inches("15/2"), millimetres("50.01"), "White"),
        ]
        plan = cut([LETTER], wanted)
        self.check(plan, wanted)


def _fields(one: CardPart) -> dict:
    return {name: getattr(one, name) for name in CardPart.__dataclass_fields__}


class ManySmallPiecesTest(SimpleTestCase):
    """Sheets of thousands of pieces are trees thousands of joins deep."""

    def test_pieces_of_a_sixteenth_by_the_thousand_are_cut(self):
        plan = cut([stock("17/2", "11")], [piece("1/16", "1/16", count=20)], 1000)
        self.assertEqual(sum(len(one.pieces) * one.count for one in plan.sheets), 20_000)

    def test_strips_of_a_sixteenth_by_the_thousand_are_cut_and_fit_their_sheets(self):
        sheet = stock("17/2", "11")
        plan = cut([sheet], [piece("1/16", "11", count=2), piece("3", "2", name="Panel")], 1000)
        self.assertEqual(sum(len(one.pieces) * one.count for one in plan.sheets), 3_000)
        for one in plan.sheets:
            area = sum(it.place.width.mm * it.place.height.mm for it in one.pieces)
            self.assertLessEqual(area, sheet.width.mm * sheet.height.mm)

    def test_a_piece_of_no_size_or_number_is_refused(self):
        for nothing in (piece("0", "2"), piece("-1", "2"), piece("1", "2", count=0), piece("1", "2", count=-3)):
            with self.subTest(nothing=nothing), self.assertRaisesMessage(CardError, "nothing"):
                cut([stock("17/2", "11")], [nothing])

    def test_every_score_of_a_fold_is_on_the_sheet(self):
        base = piece("17/2", "11/2", name="Base", along="height", scores=(inches("17/8"), inches("51/8")))
        lines = cut([stock("17/2", "11")], [base]).sheets[0].pieces[0].scores
        self.assertEqual([one.at for one in lines], [inches("17/8"), inches("51/8")])
