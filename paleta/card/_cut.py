"""From sheets to pieces with a trimmer: cuts from edge to edge, as few sheets as can be, and in which order.

Few pieces: every way to cut a sheet is known (paleta.card._slicing), and the fewest sheets among them are found and
proven by HiGHS [Huangfu2018]. Many: ways are made one by one as the prices of the pieces ask for them [Gilmore1965],
which also bounds what any plan must take [Farley1990].
"""

from __future__ import annotations

import math
from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace
from fractions import Fraction

import numpy as np
from scipy.optimize import LinearConstraint, linprog, milp

from paleta.card._best_sheet import best_sheet, places
from paleta.card._layout import CardPlan, Piece
from paleta.card._length import ZERO, Length, show
from paleta.card._picture import Place
from paleta.card._slicing import Counts, Kind, Tree, largest_only, layouts, leaf
from paleta.card._spec import MOST_CARDS, Stock
from paleta.errors import CardError

MOST_PIECES = 20_000
MOST_ROUNDS = 40
"""Rounds of making new ways to cut. The bound is true after any number of them."""
NEVER_BETTER = 1e-9
MOST_FILLED = 400
"""So many pieces are put on sheets one by one as well, where that may save a sheet."""
TRIES = 3
"""How deep both ways to go on are tried when a sheet is filled piece by piece."""


@dataclass(frozen=True, slots=True)
class Cut:
    """One cut or score across a part of a sheet, from edge to edge of it.

    down   whether it runs from top to bottom; else from left to right.
    at     how far it lies from the part's left or top edge: what the trimmer is set to.
    x0 .. y1  its ends on the sheet.
    """

    number: int
    down: bool
    at: Length
    x0: Length
    y0: Length
    x1: Length
    y1: Length


@dataclass(frozen=True, slots=True)
class CutPiece:
    """A piece on a sheet; turned: it lies on its side. score: its line to fold, as a cut that does not go through."""

    name: str
    place: Place
    turned: bool
    score: Cut | None = None


@dataclass(frozen=True, slots=True)
class CutSheet:
    """`count` sheets of `stock` that are cut alike."""

    stock: Stock
    count: int
    pieces: tuple[CutPiece, ...]
    cuts: tuple[Cut, ...]


@dataclass(frozen=True, slots=True)
class Need:
    """Sheets of a stock: how many it takes, how many no plan can do without, and how many are to be bought."""

    stock: Stock
    used: int
    bound: int
    buy: int


@dataclass(frozen=True, slots=True)
class CutPlan:
    """sheets in the order of work; uncut: pieces for which no sheets are named; waste: share of the sheets' area."""

    sheets: tuple[CutSheet, ...]
    needs: tuple[Need, ...]
    uncut: tuple[str, ...]
    waste: float

    @property
    def proven(self) -> bool:
        """Whether no plan takes fewer sheets."""
        return all(need.used == need.bound for need in self.needs)


def cut(sheets: Sequence[Stock], pieces: Sequence[Piece], cards: int = 1) -> CutPlan:
    """How to cut `pieces` for so many cards from the sheets; a piece is cut from the sheets its `stock` names.

    Raises
    ------
    CardError
        No card or too many, or a piece that is larger than its sheets.
    """
    if not 1 <= cards <= MOST_CARDS:
        raise CardError(f"A cutting plan is for 1 to {MOST_CARDS:,} cards, not {cards:,}.")
    if sum(one.count for one in pieces) * cards > MOST_PIECES:
        raise CardError(f"A cutting plan holds up to {MOST_PIECES:,} pieces.")
    made: list[CutSheet] = []
    needs: list[Need] = []
    for stock in sheets:
        wanted = [replace(one, count=one.count * cards) for one in pieces if one.stock == stock.name]
        if wanted:
            used, bound = _cut_from(stock, wanted)
            made += used
            number = sum(one.count for one in used)
            needs.append(Need(stock, number, bound, max(0, number - stock.owned)))
    names = {stock.name for stock in sheets}
    area = sum(float(one.stock.width.mm * one.stock.height.mm) * one.count for one in made)
    kept = sum(float(it.place.width.mm * it.place.height.mm) * one.count for one in made for it in one.pieces)
    uncut = tuple(one.name for one in pieces if one.stock not in names)
    return CutPlan(tuple(made), tuple(needs), uncut, 1 - kept / area if area else 0.0)


def cut_card(plan: CardPlan, cards: int | None = None) -> CutPlan:
    """The cutting plan of a card's pieces from the sheets its spec names."""
    first = plan.spec.stock[0].name if plan.spec.stock else ""
    # The picture lies on what was stamped already, and foam is no paper: both are cut only where sheets are named.
    pieces = [one if one.stock or one.name == plan.panel.name else replace(one, stock=first) for one in plan.pieces]
    return cut(plan.spec.stock, pieces, plan.spec.cards if cards is None else cards)


def warm_up() -> None:
    """Compile and load the loop that sheets are cut with: a second or two the first time."""
    from paleta.card import compiled

    assert compiled.best_cuts is not None


def _units(lengths: Sequence[Length]) -> Fraction:
    """How many whole units go to a millimetre, so that every length is a whole number of them."""
    return Fraction(math.lcm(*(one.mm.denominator for one in lengths)))


def _cut_from(stock: Stock, wanted: Sequence[Piece]) -> tuple[list[CutSheet], int]:
    per_mm = _units([stock.width, stock.height, *(side for one in wanted for side in (one.width, one.height))])

    def units(length: Length) -> int:
        return int(length.mm * per_mm)

    size = units(stock.width), units(stock.height)
    grain = _grain_axis(stock)
    kinds = []
    for one in wanted:
        ways = tuple(
            way
            for way in _ways(units(one.width), units(one.height), one.along, grain)
            if way[0] <= size[0] and way[1] <= size[1]
        )
        if not ways:
            turned = " the way its grain must run" if one.along and grain else ""
            raise CardError(
                f"{one.name} of {show(one.width)} by {show(one.height)} does not go on a sheet of {stock.name}, "
                f"{show(stock.width)} by {show(stock.height)}{turned}."
            )
        kinds.append(Kind(ways, one.count))
    trees, bound = _fewest(kinds, size)
    left = [kind.most for kind in kinds]
    sheets: list[CutSheet] = []
    whole: tuple[Tree, int] | None = None
    for tree in trees:
        counts = _counted(tree, len(kinds))
        if all(one <= free for one, free in zip(counts, left, strict=True)):
            left = [free - one for one, free in zip(counts, left, strict=True)]
            if whole is not None and whole[0] is tree:
                sheets[whole[1]] = replace(sheets[whole[1]], count=sheets[whole[1]].count + 1)
                continue
            whole, kept = (tree, len(sheets)), tree
        else:
            # More of a kind than is still wanted: what is too much stays in the sheet.
            some = _only_wanted(tree, left)
            if some is None:
                continue
            kept = some
        realised = _Realised(wanted, per_mm)
        realised.lay(kept, 0, 0, *size)
        sheets.append(CutSheet(stock, 1, tuple(realised.pieces), tuple(realised.cuts)))
    return sheets, bound


def _grain_axis(stock: Stock) -> str:
    """The side of the sheet as it lies that its grain runs along."""
    if not stock.grain:
        return ""
    return "width" if (stock.width >= stock.height) == (stock.grain == "long") else "height"


def _ways(width: int, height: int, along: str, grain: str) -> Iterator[tuple[int, int, bool]]:
    if not (along and grain) or along == grain:
        yield width, height, False
    if (not (along and grain) and width != height) or (along and grain and along != grain):
        yield height, width, True


def _fewest(kinds: Sequence[Kind], size: tuple[int, int]) -> tuple[list[Tree], int]:
    """Layouts, one a sheet, that hold every piece; and how many sheets any plan takes at least."""
    least = math.ceil(Fraction(sum(kind.area * kind.most for kind in kinds), size[0] * size[1]))
    every = layouts(kinds, *size)
    if every is not None:
        ways = largest_only(every)
        chosen, bound = _choose(kinds, ways)
        return chosen, max(bound, least)
    ways, fractional = _priced(kinds, size)
    chosen, _ = _choose(kinds, ways)
    bound = max(least, math.ceil(fractional - 1e-6))
    if len(chosen) > bound and sum(kind.most for kind in kinds) <= MOST_FILLED:
        chosen = min(chosen, [*_filled(kinds, size)], key=len)
    return chosen, bound


def _filled(kinds: Sequence[Kind], size: tuple[int, int]) -> Iterator[Tree]:
    """Sheets filled one by one, the largest pieces first: good where there are too many ways to look through."""
    left = [kind.most for kind in kinds]
    while any(left):
        tree = _fill(kinds, left, *size)
        assert tree is not None
        for kind in tree.kinds():
            left[kind] -= 1
        yield tree


def _fill(kinds: Sequence[Kind], left: Sequence[int], width: int, height: int, tries: int = TRIES) -> Tree | None:
    """The largest piece that fits in the corner, and what goes beside and below it, cut one way or the other."""
    fitting = [
        (kind.area, number, way)
        for number, kind in enumerate(kinds)
        if left[number] > 0
        for way in kind.ways
        if way[0] <= width and way[1] <= height
    ]
    if not fitting:
        return None
    best: tuple[int, Tree] | None = None
    for _, number, way in sorted(fitting, reverse=True)[: 2 if tries > 0 else 1]:
        for down in (True, False) if tries > 0 else (width - way[0] >= height - way[1],):
            rest = [count - (place == number) for place, count in enumerate(left)]
            piece = leaf(number, way)
            # Cut down beside the piece, and what is below it comes from its own column; or the other way round.
            near = (way[0], height - way[1]) if down else (width - way[0], way[1])
            one = _fill(kinds, rest, *near, tries - 1)
            for kind in one.kinds() if one is not None else ():
                rest[kind] -= 1
            far = (width - way[0], height) if down else (width, height - way[1])
            other = _fill(kinds, rest, *far, tries - 1)
            inner, outer = (Tree.below, Tree.beside) if down else (Tree.beside, Tree.below)
            tree = piece if one is None else inner(piece, one)
            tree = tree if other is None else outer(tree, other)
            worth = sum(kinds[kind].area for kind in tree.kinds())
            if best is None or worth > best[0]:
                best = worth, tree
    return best[1] if best is not None else None


def _choose(kinds: Sequence[Kind], ways: dict[Counts, Tree]) -> tuple[list[Tree], int]:
    """The fewest of these ways that hold every piece, and a bound for how few that can be."""
    counts = sorted(ways, reverse=True)
    matrix = np.array(counts, float).T
    demand = np.array([kind.most for kind in kinds], float)
    # Few nodes and no clock: the same plan on every machine.
    found = milp(
        np.ones(len(counts)),
        constraints=LinearConstraint(matrix, lb=demand),
        integrality=np.ones(len(counts)),
        options={"node_limit": 5000, "mip_rel_gap": 0.0},
    )
    bound = found.mip_dual_bound if found.mip_dual_bound is not None else 0.0
    times = np.round(found.x).astype(int) if found.x is not None else _one_by_one(counts, demand)
    trees = [ways[one] for one, often in zip(counts, times, strict=True) for _ in range(often)]
    return trees, math.ceil(bound - 1e-6)


def _one_by_one(counts: Sequence[Counts], demand: np.ndarray) -> list[int]:
    """Where the solver found nothing in its limit: the way that takes most of what is left, again and again."""
    left, times = demand.copy(), [0] * len(counts)
    while left.any():
        gains = [float(np.minimum(left, one).sum()) for one in counts]
        best = int(np.argmax(gains))
        times[best] += 1
        left = np.maximum(0.0, left - counts[best])
    return times


def _priced(kinds: Sequence[Kind], size: tuple[int, int]) -> tuple[dict[Counts, Tree], float]:
    """Ways to cut a sheet that the prices of the pieces asked for, and how many sheets a plan takes at least."""
    ways = dict(_alone(kinds, size))
    sides = [[way[axis] for kind in kinds for way in kind.ways] for axis in (0, 1)]
    xs, ys = (places(one, side) for one, side in zip(sides, size, strict=True))
    area = size[0] * size[1]
    bound = sum(kind.area * kind.most for kind in kinds) / area
    if xs is None or ys is None:
        return ways, bound
    demand = np.array([kind.most for kind in kinds], float)
    for _ in range(MOST_ROUNDS):
        counts = list(ways)
        solved = linprog(np.ones(len(counts)), A_ub=-np.array(counts, float).T, b_ub=-demand, method="highs")
        prices = -solved.ineqlin.marginals
        worth, tree = best_sheet(kinds, prices, xs, ys, size)
        # No sheet is worth more than `worth`, so at these prices all pieces together take so many sheets [Farley1990].
        bound = max(bound, float(prices @ demand) / max(worth, 1.0))
        if tree is None or worth <= 1 + NEVER_BETTER:
            break
        fresh = _counted(tree, len(kinds))
        if fresh in ways:
            break
        ways[fresh] = tree
    return ways, bound


def _counted(tree: Tree, kinds: int) -> Counts:
    found = [0] * kinds
    for kind in tree.kinds():
        found[kind] += 1
    return tuple(found)


def _alone(kinds: Sequence[Kind], size: tuple[int, int]) -> Iterator[tuple[Counts, Tree]]:
    """As many of one kind as go on a sheet in rows, in its better way."""
    for number, kind in enumerate(kinds):
        best: Tree | None = None
        most = 0
        for way in kind.ways:
            across, down = min(size[0] // way[0], kind.most), size[1] // way[1]
            down = min(down, math.ceil(kind.most / across))
            if across * down > most:
                row = column = leaf(number, way)
                for _ in range(across - 1):
                    row = Tree.beside(row, leaf(number, way))
                column = row
                for _ in range(down - 1):
                    column = Tree.below(column, row)
                best, most = column, across * down
        if best is not None:
            yield _counted(best, len(kinds)), best


def _only_wanted(tree: Tree, left: list[int]) -> Tree | None:
    """The tree without pieces that are no longer wanted; `left` is counted down."""
    if tree.how == "piece":
        if left[tree.kind] <= 0:
            return None
        left[tree.kind] -= 1
        return tree
    parts = [
        kept
        for part in (tree.first, tree.second)
        if part is not None and (kept := _only_wanted(part, left)) is not None
    ]
    if len(parts) < 2:
        return parts[0] if parts else None
    return (Tree.beside if tree.how == "beside" else Tree.below)(*parts)


class _Realised:
    """A tree laid on a sheet: its pieces, and the cuts in the order a trimmer makes them."""

    def __init__(self, wanted: Sequence[Piece], per_mm: Fraction) -> None:
        self.wanted = wanted
        self.per_mm = per_mm
        self.pieces: list[CutPiece] = []
        self.cuts: list[Cut] = []

    def _length(self, units: int) -> Length:
        return Length(Fraction(units) / self.per_mm)

    def _cut(self, down: bool, at: int, x: int, y: int, width: int, height: int) -> None:
        ends = (x + at, y, x + at, y + height) if down else (x, y + at, x + width, y + at)
        self.cuts.append(Cut(len(self.cuts) + 1, down, self._length(at), *(self._length(one) for one in ends)))

    def lay(self, tree: Tree, x: int, y: int, width: int, height: int) -> None:
        """Cut `tree` out of the part of the sheet at x, y. What is left at its right or bottom is waste."""
        if tree.how == "piece":
            if tree.width < width:
                self._cut(True, tree.width, x, y, width, height)
            if tree.height < height:
                self._cut(False, tree.height, x, y, tree.width, height)
            self._keep(tree, x, y)
            return
        assert tree.first is not None and tree.second is not None
        if tree.how == "beside":
            at = tree.first.width
            self._cut(True, at, x, y, width, height)
            self.lay(tree.first, x, y, at, height)
            self.lay(tree.second, x + at, y, width - at, height)
        else:
            at = tree.first.height
            self._cut(False, at, x, y, width, height)
            self.lay(tree.first, x, y, width, at)
            self.lay(tree.second, x, y + at, width, height - at)

    def _keep(self, tree: Tree, x: int, y: int) -> None:
        piece = self.wanted[tree.kind]
        place = Place(*(self._length(one) for one in (x, y, tree.width, tree.height)))
        self.pieces.append(CutPiece(piece.name, place, tree.turned, _score(piece, place, tree.turned)))


def _score(piece: Piece, place: Place, turned: bool) -> Cut | None:
    if piece.score is None or piece.score <= ZERO:
        return None
    down = piece.score_down != turned
    if down:
        return Cut(0, True, piece.score, place.x + piece.score, place.y, place.x + piece.score, place.bottom)
    return Cut(0, False, piece.score, place.x, place.y + piece.score, place.right, place.y + piece.score)
