"""From work to the columns the compiled loops run on, and the search for a good sequence."""

from __future__ import annotations

from collections.abc import Hashable, Sequence
from dataclasses import dataclass
from functools import cache
from itertools import pairwise
from typing import Any

import numpy as np
from numpy.typing import NDArray

from paleta.errors import PlanImpossible
from paleta.order._masks import LAY_S, LIFT_S, SOILING, WIPE_S, used_masks
from paleta.order._rules import blocks_of, needs_of, ranks_of
from paleta.order._ways import Ways
from paleta.order._work import Stroke, Work
from paleta.order.columns import (
    ANY,
    COAT,
    DRY,
    HABIT,
    JOIN,
    LAY,
    LIFT,
    NEEDS_AT,
    NEEDS_END,
    PEN,
    PLAIN,
    SOONEST,
    START,
    STROKE,
    TOUCH,
    WET,
)  # fmt: skip

Ints = NDArray[np.int64]
TICKS = 1000
"""Times are searched in whole milliseconds."""
UNIT = 1000
"""Cost of a millisecond against one change of pen: of equally short orders the one with fewer changes."""
IMPOSSIBLE = 10**18
JOINS = {"start": START, "wet": WET, "dry": DRY, "any": ANY}
PROVED_STROKES, PROVING_STEPS = 24, 600_000
"""Works of so few strokes are searched through, as far as so many steps reach."""
MOST_ROUNDS, EFFORT = 500_000, 400_000_000
"""Rounds of annealing in all, and strokes gone through: whichever is less. Numbers, not times."""
MOST_EACH, MOST_EACH_PROVED = 3_000, 500
"""Rounds for each stroke: more made 80 works of 10 to 230 strokes shorter by less than two thousandths (measured with
2,000 and 4,000), and what is searched through afterwards needs a good beginning only."""
LONG_RUN, MOST_RUNS = 200_000, 3
"""One long run is worth more than two short ones; beyond so many rounds two from different starts are worth more."""
HEATS_S = (12.0, 5.0, 8.0)
VISIT_ROUNDS, VISIT_EFFORT, VISIT_HEAT = 40_000, 2_000_000, 0.6
SPARE = 0.02
"""Of the time, for an order that is told in fewer lines."""
MOST_GATHERED, GATHERED_EACH, FINE = 60_000, 1_500, 1_000_000
"""Rounds of gathering in all and for each stroke, and what a millisecond costs there."""
SETTLED = 5
"""Where pens come to dry work in the best order of visits already, so many times less is annealed."""


@cache
def loops() -> Any:
    """The compiled loops; they take a second to load, which nothing but planning needs."""
    from paleta.order import compiled

    return compiled


@dataclass(frozen=True, slots=True)
class Tables:
    """Strokes and the handling of masks, numbered from 0, as columns.

    strokes  the strokes; beyond them, handling: the laying (LAY) and lifting (LIFT) of masks, with the mask's place.
    columns  what the compiled loops take: table, lists, covers, pace (`columns.py`).
    block_of, blocks_at, blocks  what must meet wet, together.
    """

    strokes: Sequence[Stroke]
    handling: Sequence[tuple[int, int]]
    columns: tuple[Ints, Ints, NDArray[np.bool_], Ints]
    block_of: Ints
    blocks_at: Ints
    blocks: Ints

    @property
    def windows(self) -> bool:
        """Whether anything must meet wet."""
        return bool((self.columns[0][:, JOIN] == WET).any())

    @property
    def dries(self) -> bool:
        return bool(self.columns[3][:, [TOUCH, COAT]].any())


def tables_of(work: Work, chains: Sequence[Sequence[Stroke]], ways: Ways) -> Tables:
    """The work in numbers, as the compiled loops read it.

    Parameters
    ----------
    work
        its jobs, masks and wishes
    chains
        the strokes of every region in their order
    ways
        schools and paces
    """
    strokes = [stroke for chain in chains for stroke in chain]
    number = {id(stroke): place for place, stroke in enumerate(strokes)}
    regions = {chain[0].region: place for place, chain in enumerate(chains)}
    ranks = ranks_of(work)
    levels = {rank: level for level, rank in enumerate(sorted(set(ranks.values())))}
    pens = {pen: place for place, pen in enumerate(dict.fromkeys(stroke.in_hand for stroke in strokes))}
    media = {medium: place for place, medium in enumerate(dict.fromkeys(stroke.medium for stroke in strokes))}
    masks = used_masks(work)
    handling = [(kind, mask) for mask in range(len(masks)) for kind in (LAY, LIFT)]
    count = len(strokes) + len(handling)
    needs: list[set[int]] = [set() for _ in range(count)]
    before = np.full(count, -1, np.int64)
    for chain in chains:
        for one, other in pairwise(chain):
            before[number[id(other)]] = number[id(one)]
            needs[number[id(other)]].add(number[id(one)])
    for stroke, others in needs_of(work, chains):
        needs[number[id(stroke)]] |= {number[id(other)] for other in others}
    covers = np.zeros((2, len(masks), max(1, len(chains))), bool)
    turn = {id(stroke): ranks[stroke.region, stroke.coat] for stroke in strokes}
    for place, (kind, mask) in enumerate(handling, start=len(strokes)):
        own = masks[mask][1]
        turns = [turn[id(stroke)] for stroke in strokes if stroke.region in own.during]
        for row, chain in enumerate(chains):
            region = chain[0].region
            covers[:, mask, row] = region in own.over, region in own.during
            # Laid before what is coloured while it lies, lifted after; what it covers comes before or after by rank.
            first: list[int] = []
            last: list[int] = []
            if region in own.during:
                first, last = ([number[id(chain[0])]], []) if kind == LAY else ([], [number[id(chain[-1])]])
            elif region in own.over and kind == LAY:
                last = [number[id(stroke)] for stroke in chain if turn[id(stroke)] < max(turns)][-1:]
            elif region in own.over:
                first = [number[id(stroke)] for stroke in chain if turn[id(stroke)] > min(turns)][:1]
            needs[place].update(last)
            for stroke_at in first:
                needs[stroke_at].add(place)
        if kind == LIFT:
            needs[place].add(place - 1)
    near = work.neighbours()
    touching = [sorted(regions[other] for other in near.get(chain[0].region, ())) for chain in chains]
    blocks = [[number[id(stroke)] for stroke in block] for chain in chains for block in blocks_of(chain)]
    blocks += [[place] for place in range(len(strokes), count)]
    seconds = [ways.paces[stroke.medium].laying_s(stroke.area_mm2) for stroke in strokes]
    seconds += [LAY_S if kind == LAY else LIFT_S for kind, _ in handling]
    rank = [levels[turn[id(stroke)]] for stroke in strokes] + [0] * len(handling)
    none = [-1] * len(handling)
    near_at, touched = _ragged([touching[regions[stroke.region]] for stroke in strokes] + [[]] * len(handling))
    needs_at, needed = _ragged([sorted(each) for each in needs])
    table = np.stack(
        [
            _ints([round(each * TICKS) for each in seconds]),
            _ints([pens[stroke.in_hand] for stroke in strokes] + none),
            _ints([regions[stroke.region] for stroke in strokes] + [0] * len(handling)),
            _ints([JOINS[stroke.join] for stroke in strokes] + [ANY] * len(handling)),
            before,
            _ints(rank),
            _ints([STROKE] * len(strokes) + [kind for kind, _ in handling]),
            _ints([-1] * len(strokes) + [mask for _, mask in handling]),
            near_at[:-1],
            near_at[1:],
            needs_at[:-1] + len(touched),
            needs_at[1:] + len(touched),
            _ints([media[stroke.medium] for stroke in strokes] + none),
            _groups(work, strokes, len(handling)),
        ],
        axis=1,
    )
    given = (
        np.ascontiguousarray(table),
        np.concatenate([touched, needed]),
        covers,
        np.array([_paced(medium, ways) for medium in media], np.int64).reshape(-1, 6),
    )
    block_of = np.empty(count, np.int64)
    for place, block in enumerate(blocks):
        block_of[block] = place
    return Tables(strokes, handling, given, block_of, *_ragged(blocks))


def _groups(work: Work, strokes: Sequence[Stroke], handling: int) -> Ints:
    """What is told as one line where it stands together: one way of laying one swatch on one thing. Handling is told by
    itself."""
    things = {job.region: job.thing or job.region for job in work.jobs}
    known: dict[Hashable, int] = {}
    told = [(one.pen, one.zone, one.join, one.how, things[one.region]) for one in strokes]
    return _ints([*(known.setdefault(one, len(known)) for one in told), *range(-1, -1 - handling, -1)])


def _paced(medium: str, ways: Ways) -> list[int]:
    """A row of the compiled loops' `pace`."""
    pace = ways.paces[medium]
    seconds = (pace.change_s, pace.touch_dry_s, pace.coat_dry_s, pace.blend_s, pace.setup_s)
    return [round(each * TICKS) for each in (*seconds, WIPE_S if medium in SOILING else 0.0)]


@dataclass(frozen=True, slots=True)
class Least:
    """What no order can be under: seconds, and visits of pens."""

    seconds: float
    visits: int

    @property
    def cost(self) -> int:
        return round(self.seconds * TICKS) * UNIT + self.visits - 1


def search(tables: Tables, least: Least) -> tuple[list[int], bool]:
    """A good sequence of strokes and handling, and whether it is proven that none is shorter.

    Several ways of building one are tried, the best ones annealed; small works are searched through. What reaches
    `least` needs no more of that.

    Parameters
    ----------
    tables
        the work in numbers
    least
        what no order can be under

    Raises
    ------
    PlanImpossible
        If what must come first goes round in a circle.
    """
    found = [start for start in _starts(tables, least) if start is not None and _cost_of(tables, start) < IMPOSSIBLE]
    if not found:
        raise waiting_in_a_circle(tables)
    count = len(tables.block_of)
    if count < 2:
        return found[0].tolist(), True
    found.sort(key=lambda start: _cost_of(tables, start))
    each = MOST_EACH_PROVED if count <= PROVED_STROKES else MOST_EACH
    rounds = min(MOST_ROUNDS, EFFORT // count, each * count) // (1 if tables.windows or tables.dries else SETTLED)
    runs = max(1, min(MOST_RUNS, rounds // LONG_RUN))
    best, best_cost = found[0], _cost_of(tables, found[0])
    built_ms = best_cost // UNIT
    for run in range(runs):
        if best_cost <= least.cost:
            break
        heat = HEATS_S[run] * TICKS * UNIT
        bettered, cost = _annealed(tables, found[run % len(found)], rounds // runs, run + 1, heat, (UNIT, 1, 0))
        if cost < best_cost:
            best, best_cost = bettered, cost
    proven = best_cost <= least.cost
    if not proven and count <= PROVED_STROKES:
        best, best_cost, proven = loops().proved(*tables.columns, best, best_cost, PROVING_STEPS, UNIT)
    best_ms = best_cost // UNIT
    # No longer than the best of those that were built plainly, whatever it is told in.
    spare_ms = 0 if proven else min(SPARE * best_ms, built_ms - best_ms)
    return _gathered(tables, best, spare_ms).tolist(), bool(proven)


def _gathered(tables: Tables, best: Ints, spare_ms: float) -> Ints:
    """The order in which what is told as one line stands together: as many groups fewer as cost nothing, or no more
    than `spare_ms` altogether."""
    count = len(best)
    groups = int(loops().groups_in(tables.columns[0], best, 0, count - 1))
    worth = max(1.0, spare_ms * FINE / max(1, groups))
    rounds = min(MOST_GATHERED, EFFORT // count, GATHERED_EACH * count)
    return _annealed(tables, best, rounds, 7, 3 * worth, (FINE, FINE // 1000, round(worth)))[0]


def waiting_in_a_circle(tables: Tables) -> PlanImpossible:
    if tables.handling:
        return PlanImpossible(
            "What lies under a mask cannot be coloured while the mask is on, and what is wished first leaves no other "
            "time for it."
        )
    return PlanImpossible("The passes wait for each other in a circle.")


def _cost_of(tables: Tables, sequence: Ints) -> int:
    scratch = [np.empty(len(sequence), np.int64) for _ in range(3)]
    total = loops().times(*tables.columns, sequence, len(sequence), *scratch)
    return int(total) * UNIT + int(loops().changes_of(tables.columns[0], sequence)) if total >= 0 else IMPOSSIBLE


def starts_and_ends(tables: Tables, sequence: Sequence[int]) -> tuple[list[float], list[float]]:
    """When each stroke of `sequence` begins and ends, in seconds.

    Parameters
    ----------
    tables
        the work in numbers
    sequence
        rows of the tables in the order they are laid
    """
    start, end, scratch = (np.zeros(len(sequence), np.int64) for _ in range(3))
    loops().times(*tables.columns, _ints(sequence), len(sequence), start, end, scratch)
    return (start / TICKS).tolist(), (end / TICKS).tolist()


def built(tables: Tables, way: int) -> Ints | None:
    """A sequence built block by block, or None if that gets stuck; the ways are told in `compiled/_build.py`.

    Parameters
    ----------
    tables
        the work in numbers
    way
        SOONEST, PLAIN or HABIT
    """
    sequence, missing = loops().built(*tables.columns, tables.blocks_at, tables.blocks, way)
    return None if missing else sequence


def _starts(tables: Tables, least: Least) -> list[Ints | None]:
    starts = [built(tables, way) for way in (SOONEST, PLAIN, HABIT)]
    if not tables.windows and not tables.handling:
        starts.append(_by_visits(tables, least))
    return starts


def _by_visits(tables: Tables, least: Least) -> Ints | None:
    """Where nothing must meet wet, the fewest visits of pens are looked for directly."""
    table, lists, _, _ = tables.columns
    pen = table[:, PEN]
    by_pen = _ragged([np.flatnonzero(pen == one).tolist() for one in range(int(pen.max()) + 1)])
    freed: list[list[int]] = [[] for _ in range(len(pen))]
    for one in range(len(pen)):
        for other in lists[table[one, NEEDS_AT] : table[one, NEEDS_END]]:
            freed[other].append(one)
    known = (*by_pen, *_ragged(freed))
    sequence = np.empty(len(pen), np.int64)
    start = built(tables, PLAIN)
    if start is None:
        return None
    hands = pen[start]
    visits = hands[np.concatenate([[True], hands[1:] != hands[:-1]])]
    rounds = min(VISIT_ROUNDS, VISIT_EFFORT // len(pen))
    visits = loops().better_visits(table, visits, *known, least.visits, rounds, VISIT_HEAT, 5)
    return sequence if loops().by_visits(table, visits, *known, sequence) >= 0 else None


def _annealed(
    tables: Tables, start: Ints, rounds: int, seed: int, heat: float, prices: tuple[int, int, int]
) -> tuple[Ints, int]:
    found, cost = loops().annealed(
        *tables.columns, start, tables.block_of, tables.blocks_at, tables.blocks, rounds, heat, seed, *prices
    )
    return found, int(cost)


def _ints(values: Sequence[int]) -> Ints:
    return np.array(values, np.int64)


def _ragged(rows: Sequence[Sequence[int]]) -> tuple[Ints, Ints]:
    """Rows of unequal length as (where each starts, all members one after the other)."""
    starts = np.concatenate([[0], np.cumsum([len(row) for row in rows])]).astype(np.int64)
    return starts, _ints([member for row in rows for member in row])
