"""The compiled loops of planning, each against something plain that knows nothing of them."""

from __future__ import annotations

import math

import numpy as np
from django.test import SimpleTestCase

from paleta.order import PACES, Job, Ways, Work, batch, check_batch, expand, make_plan, school_named
from paleta.order._search import TICKS, loops, tables_of
from paleta.order.columns import GROUP, NEVER, PEN
from paleta.order.compiled import _anneal, _chance, _times
from tests.core.test_order_search import allowed, earliest, small_work

CODES = ("M1", "M3", "W1", "P1", "D1")


class TimesTest(SimpleTestCase):
    def test_any_sequence_has_the_times_that_relaxing_its_gaps_gives_or_none_where_there_are_none(self):
        """Bellman and Ford's relaxation, on orders put together by chance: many break a wet blend or a rule."""
        chance = np.random.default_rng(21)
        possible = 0
        for turn in range(400):
            school = school_named(CODES[turn % len(CODES)])
            pace, work = PACES[school.medium], small_work(chance, 4, 3)
            chains = [chain for chain in (expand(job, school) for job in work.jobs) if chain]
            tables = tables_of(work, chains, Ways.of(school, pace))
            left, order = [list(chain) for chain in chains], []
            while any(left):
                own = [chain for chain in left if chain]
                # Mostly the region goes on, or hardly any wet blend would hold.
                chain = next((one for one in own if order and one[0].region == order[-1].region), own[0])
                if chance.random() < 0.3:
                    chain = own[chance.integers(len(own))]
                order.append(chain.pop(0))
            number = {id(stroke): place for place, stroke in enumerate(tables.strokes)}
            sequence = np.array([number[id(stroke)] for stroke in order])
            start, end, pushed = (np.zeros(len(order), np.int64) for _ in range(3))
            found = loops().times(*tables.columns, sequence, len(order), start, end, pushed)
            wanted = earliest(order, work, pace) if allowed(order, work) else None
            with self.subTest(turn=turn):
                if wanted is None:
                    self.assertEqual(found, -1)
                else:
                    possible += 1
                    self.assertAlmostEqual(found / TICKS, wanted, delta=0.02)
        self.assertGreater(possible, 100)
        self.assertLess(possible, 390)

    def test_what_is_timed_from_a_place_on_is_as_if_timed_from_the_start(self):
        school, chance = school_named("M3"), np.random.default_rng(5)
        for _ in range(20):
            work = small_work(chance, 6, 3)
            chains = [chain for chain in (expand(job, school) for job in work.jobs) if chain]
            tables = tables_of(work, chains, Ways.of(school))
            sequence, missing = loops().built(*tables.columns, tables.blocks_at, tables.blocks, 0)
            self.assertEqual(missing, 0)
            count = len(sequence)
            start, end, pushed = (np.zeros(count, np.int64) for _ in range(3))
            whole = loops().times(*tables.columns, sequence, count, start, end, pushed)
            if pushed.max() > 0:
                continue
            rests = np.zeros(count, np.int64)
            for first in range(count):
                again, ends = start.copy(), end.copy()
                again[sequence[first:]], ends[sequence[first:]] = 0, 0
                now = _times.evaluate_suffix(
                    *tables.columns, sequence, first, count, again, ends, pushed, count, end, rests, 0
                )  # fmt: skip
                self.assertEqual(now, whole)
                np.testing.assert_array_equal(ends, end)

    def test_what_the_search_leaves_out_of_its_sums_changes_nothing(self):
        """Changes of a good order by chance: one that is out of turn breaks a rule, none is shorter than what is
        reckoned before it is timed, and timing that stops where all goes on as before gives the whole time."""
        chance, out_of_turn, stopped = np.random.default_rng(8), 0, 0
        for turn in range(60):
            school = school_named(CODES[turn % len(CODES)])
            work = small_work(chance, 9, 3)
            chains = [chain for chain in (expand(job, school) for job in work.jobs) if chain]
            tables = tables_of(work, chains, Ways.of(school))
            table, lists, _, pace = tables.columns
            now, missing = loops().built(*tables.columns, tables.blocks_at, tables.blocks, turn % 3)
            count = len(now)
            start, end, pushed, rests = (np.zeros(count, np.int64) for _ in range(4))
            whole = -1 if missing else loops().times(*tables.columns, now, count, start, end, pushed)
            if whole < 0:
                continue
            _times.rests_of(table, pace, now, start, end, rests)
            place_of, seen = np.empty(count, np.int64), np.full(count, -1, np.int64)
            place_of[now] = np.arange(count)
            plain = pushed.max() < 0
            for change in range(30):
                length = int(chance.integers(1, min(4, count)))
                i, target = chance.integers(0, count - length + 1, 2)
                trial = now.copy()
                _anneal.shift(trial, now, i, length, target)
                first, last = min(i, target), max(i, target) + length - 1
                again, ends, later = (np.zeros(count, np.int64) for _ in range(3))
                found = loops().times(*tables.columns, trial, count, again, ends, later)
                if not _anneal.in_turn(table, lists, trial, first, last, place_of, seen, change):
                    out_of_turn += 1
                    self.assertEqual(found, -1)
                elif found >= 0:
                    more, changes = _anneal.changing(table, pace, trial, first, last)
                    less, before = _anneal.changing(table, pace, now, first, last)
                    self.assertGreaterEqual(found, whole + more - less - rests[0])
                    self.assertEqual(
                        changes - before, loops().changes_of(table, trial) - loops().changes_of(table, now)
                    )
                    groups, told = (table[order, GROUP] for order in (trial, now))
                    self.assertEqual(
                        _anneal.groups_in(table, trial, first, last) - _anneal.groups_in(table, now, first, last),
                        (groups[1:] != groups[:-1]).sum() - (told[1:] != told[:-1]).sum(),
                    )
                    begun, ended, none = start.copy(), end.copy(), np.full(count, NEVER, np.int64)
                    quick = (
                        _times.evaluate_suffix(
                            *tables.columns, trial, first, count, begun, ended, none, last, end, rests, 10**9
                        )
                        if plain
                        else _times.LATER
                    )
                    if quick != _times.LATER:
                        stopped += 1
                        self.assertEqual(quick, found)
                        np.testing.assert_array_equal(ended, ends)
        self.assertGreater(out_of_turn, 300)
        self.assertGreater(stopped, 100)

    def test_waits_are_what_is_left_between_laying_and_changing(self):
        school, pace = school_named("M1"), PACES["marker"]
        work = Work((Job(1, "a", 40, ("p", "q")), Job(2, "b", 40, ("p", "r"))), Work.pairs([(1, 2)]))
        plan = make_plan(work, school, pace)
        tables = tables_of(work, [expand(job, school) for job in work.jobs], Ways.of(school, pace))
        sequence = np.arange(len(tables.strokes))
        start, end, pushed = (np.zeros(len(sequence), np.int64) for _ in range(3))
        total = loops().times(*tables.columns, sequence, len(sequence), start, end, pushed)
        rests = np.zeros(len(sequence), np.int64)
        _times.rests_of(tables.columns[0], tables.columns[3], sequence, start, end, rests)
        busy = sum(pace.laying_s(stroke.area_mm2) for stroke in tables.strokes)
        busy += pace.change_s * int(loops().changes_of(tables.columns[0], sequence))
        self.assertAlmostEqual((total - rests[0]) / TICKS, busy, delta=0.02)
        self.assertLessEqual(plan.duration_s, total / TICKS + 0.1)


class ChanceTest(SimpleTestCase):
    def test_the_series_stands_for_the_logarithm(self):
        state = np.uint64(88172645463325252)
        for _ in range(2000):
            state = np.uint64(_chance.next_chance(state))
            u = (float(state >> np.uint64(11)) + 1) / 9007199254740993
            allowed_ms = _chance.worst_allowed(1e6, state)
            self.assertAlmostEqual(allowed_ms / 1e6, -math.log(u), delta=2e-4 * max(1, -math.log(u)))

    def test_places_are_drawn_evenly_and_alike_every_time(self):
        state, drawn = np.uint64(7), []
        for _ in range(20_000):
            state = np.uint64(_chance.next_chance(state))
            drawn.append(int(_chance.below(state, 10)))
        counts = np.bincount(drawn, minlength=10)
        # 2,000 of each; four standard deviations of a binomial are 170.
        self.assertLess(np.abs(counts - 2000).max(), 170)
        # The first numbers of this generator from 7, worked out by hand in Python's whole numbers.
        plain, mask = 7, 2**64 - 1
        for one in drawn[:50]:
            plain ^= plain << 13 & mask
            plain ^= plain >> 7
            plain ^= plain << 17 & mask
            self.assertEqual((plain >> 11) % 10, one)


class MoveTest(SimpleTestCase):
    def test_a_shifted_stretch_is_what_taking_out_and_putting_in_gives(self):
        now = np.arange(12)
        for i in range(12):
            for length in range(1, 12 - i + 1):
                for target in range(12 - length + 1):
                    trial = now.copy()
                    _anneal.shift(trial, now, i, length, target)
                    rest = [*now[:i], *now[i + length :]]
                    self.assertEqual(trial.tolist(), [*rest[:target], *now[i : i + length], *rest[target:]])


class VisitsTest(SimpleTestCase):
    def test_the_visits_asked_for_are_made_and_what_is_left_over_is_laid_too(self):
        school = school_named("P1")
        work = Work(
            tuple(Job(k, f"R{k}", 50, ramp) for k, ramp in enumerate((("a", "b", "c"), ("b", "c"), ("a", "c"))))
        )
        tables = tables_of(work, [expand(job, school) for job in work.jobs], Ways.of(school))
        table = tables.columns[0]
        pens = {stroke.swatch: int(table[place, PEN]) for place, stroke in enumerate(tables.strokes)}
        by_pen = [np.flatnonzero(table[:, PEN] == pen) for pen in range(len(pens))]
        at = np.concatenate([[0], np.cumsum([len(one) for one in by_pen])])
        corrected: list[list[int]] = [[] for _ in tables.strokes]
        for place, stroke in enumerate(tables.strokes[1:], start=1):
            if tables.strokes[place - 1].region == stroke.region:
                corrected[place - 1].append(place)
        freed_at = np.concatenate([[0], np.cumsum([len(one) for one in corrected])])
        known = (at, np.concatenate(by_pen), freed_at, np.array([one for row in corrected for one in row]))
        sequence = np.zeros(len(tables.strokes), np.int64)
        for visits in ("abcab", "cba", "", "aabbcc"):
            asked = np.array([pens[pen] for pen in visits], np.int64)
            taken = loops().by_visits(table, asked, *known, sequence)
            hands = table[sequence, PEN]
            self.assertEqual(sorted(sequence.tolist()), list(range(len(tables.strokes))))
            self.assertEqual(taken, 1 + int((hands[1:] != hands[:-1]).sum()))
            for row in range(len(tables.strokes)):
                for later in corrected[row]:
                    self.assertLess(sequence.tolist().index(row), sequence.tolist().index(later))


class BatchOfSearchedPlansTest(SimpleTestCase):
    def test_whatever_the_search_finds_can_be_worked_on_several_cards(self):
        chance = np.random.default_rng(3)
        for code in ("M1", "M3", "W2", "P1"):
            school = school_named(code)
            work = small_work(chance, 6, 3)
            pace = PACES[school.medium]
            plan = make_plan(work, school, pace)
            several = batch(work, plan, pace, 4)
            with self.subTest(school=code):
                self.assertEqual(check_batch(work, plan, several), [])
                self.assertLessEqual(several.duration_s, several.one_by_one_s + 0.2)
