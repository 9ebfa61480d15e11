"""From sheets to pieces with a trimmer: cuts from edge to edge, as few sheets as can be, and in which order.

Few pieces: every way to cut a sheet is known (paleta.card._slicing), and the fewest sheets among them are found and
proven by HiGHS [Huangfu2018]. Many: ways are made one by one as the prices of the pieces ask for them [Gilmore1965],
which also bounds what any plan must take [Farley1990] (paleta.card._fewest).
"""

from __future__ import annotations

import math
from collections import Counter
from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace
from fractions import Fraction

from paleta.card._fewest import SheetSize, fewest
from paleta.card._length import ZERO, Length, show
from paleta.card._picture import Place
from paleta.card._plan import CardPart, CardPlan
from paleta.card._slicing import PieceKind, Tree
from paleta.card._spec import MOST_CARDS, Stock
from paleta.errors import CardError

MOST_PIECES = 20_000


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
    """A piece on a sheet; turned: it lies on its side. scores: its lines to fold, as cuts that do not go through."""

    name: str
    place: Place
    turned: bool
    scores: tuple[Cut, ...] = ()


@dataclass(frozen=True, slots=True)
class CutSheet:
    """`count` sheets of `stock` that are cut alike."""

    stock: Stock
    count: int
    pieces: tuple[CutPiece, ...]
    cuts: tuple[Cut, ...]


@dataclass(frozen=True, slots=True)
class StockNeed:
    """Sheets of a stock: how many it takes, how many no plan can do without, and how many are to be bought.

    Of a paper at hand in several sizes, the bound is what is used if no plan takes less paper, else 0.
    """

    stock: Stock
    used: int
    bound: int
    buy: int


@dataclass(frozen=True, slots=True)
class CutPlan:
    """sheets in the order of work; uncut: pieces for which no sheets are named; waste: share of the sheets' area."""

    sheets: tuple[CutSheet, ...]
    needs: tuple[StockNeed, ...]
    uncut: tuple[str, ...]
    waste: float

    @property
    def proven(self) -> bool:
        """Whether no plan takes fewer sheets."""
        return all(need.used == need.bound for need in self.needs)


def cut(sheets: Sequence[Stock], pieces: Sequence[CardPart], cards: int = 1) -> CutPlan:
    """How to cut `pieces` for so many cards from the sheets; a piece is cut from the sheets its `stock` names.

    Sheets of one name may have several sizes: then as little paper is used as can be.

    Parameters
    ----------
    sheets
        What there is, by name and size.
    pieces
        Of one card.
    cards
        How many are made.

    Returns
    -------
    Sheets with their pieces and cuts, each cut from edge to edge.

    Raises
    ------
    CardError
        No card or too many, a piece of no size or no number, or one that is larger than its sheets.
    """
    for one in pieces:
        if min(one.width, one.height) <= ZERO or one.count < 1:
            raise CardError(f"{one.name} is cut {one.count} times at {show(one.width)} by {show(one.height)}: nothing.")
    if not 1 <= cards <= MOST_CARDS:
        raise CardError(f"A cutting plan is for 1 to {MOST_CARDS:,} cards, not {cards:,}.")
    if sum(one.count for one in pieces) * cards > MOST_PIECES:
        raise CardError(f"A cutting plan holds up to {MOST_PIECES:,} pieces.")
    made: list[CutSheet] = []
    needs: list[StockNeed] = []
    names = list(dict.fromkeys(stock.name for stock in sheets))
    for name in names:
        wanted = [replace(one, count=one.count * cards) for one in pieces if one.stock == name]
        if wanted:
            used, needed = _cut_from([stock for stock in sheets if stock.name == name], wanted)
            made += used
            needs += needed
    area = sum(float(one.stock.width.mm * one.stock.height.mm) * one.count for one in made)
    kept = sum(float(it.place.width.mm * it.place.height.mm) * one.count for one in made for it in one.pieces)
    uncut = tuple(one.name for one in pieces if one.stock not in names)
    return CutPlan(tuple(made), tuple(needs), uncut, 1 - kept / area if area else 0.0)


def cut_card(plan: CardPlan, cards: int | None = None) -> CutPlan:
    """The cutting plan of a card's pieces from the sheets its spec names.

    Parameters
    ----------
    plan
        As `lay_out` gives.
    cards
        How many are made; as the spec says where nothing is said.
    """
    first = plan.spec.stock[0].name if plan.spec.stock else ""
    # The picture lies on what was stamped already, and foam is no paper: both are cut only where sheets are named.
    pieces = [one if one.stock or one.name == plan.panel.name else replace(one, stock=first) for one in plan.pieces]
    return cut(plan.spec.stock, pieces, plan.spec.cards if cards is None else cards)


def warm_up() -> None:
    """Compile and load the loop that sheets are cut with: a second or two the first time."""
    from paleta.card import compiled

    assert compiled.best_cuts is not None


def _cut_from(stocks: Sequence[Stock], wanted: Sequence[CardPart]) -> tuple[list[CutSheet], list[StockNeed]]:
    """From sheets of one paper, of one size or of several, with as little of it as can be."""
    sides = [side for stock in stocks for side in (stock.width, stock.height)]
    sides += [side for one in wanted for side in (one.width, one.height)]
    per_mm = Fraction(math.lcm(*(side.mm.denominator for side in sides)))
    sizes = [(int(one.width.mm * per_mm), int(one.height.mm * per_mm)) for one in stocks]
    largest = max(width * height for width, height in sizes)
    sheets = [
        SheetSize(
            size, tuple(_kind(one, per_mm, size, _grain_axis(stock)) for one in wanted), size[0] * size[1] / largest
        )
        for stock, size in zip(stocks, sizes, strict=True)
    ]
    for number, one in enumerate(wanted):
        if not any(sheet.kinds[number].ways for sheet in sheets):
            turned = " the way its grain must run" if one.along and any(stock.grain for stock in stocks) else ""
            shown = " or ".join(f"{show(stock.width)} by {show(stock.height)}" for stock in stocks)
            raise CardError(
                f"{one.name} of {show(one.width)} by {show(one.height)} does not go on a sheet of {stocks[0].name}, "
                f"{shown}{turned}."
            )
    chosen, bound = fewest(sheets, [one.count for one in wanted])
    made = _laid_out(stocks, sizes, wanted, per_mm, chosen)
    cost = sum(sheets[stocks.index(one.stock)].cost * one.count for one in made)
    if len(stocks) == 1:
        least = [math.ceil(bound - 1e-6)]
    else:
        # Of several sizes only all together can be bounded: by the paper they take.
        least = [_used(made, stock) if cost <= bound + 1e-6 else 0 for stock in stocks]
    needs = [
        StockNeed(stock, _used(made, stock), one, max(0, _used(made, stock) - stock.owned))
        for stock, one in zip(stocks, least, strict=True)
    ]
    return made, needs


def _used(made: Sequence[CutSheet], stock: Stock) -> int:
    return sum(one.count for one in made if one.stock == stock)


def _kind(one: CardPart, per_mm: Fraction, size: tuple[int, int], grain: str) -> PieceKind:
    width, height = int(one.width.mm * per_mm), int(one.height.mm * per_mm)
    ways = (way for way in _ways(width, height, one.along, grain) if way[0] <= size[0] and way[1] <= size[1])
    return PieceKind(tuple(ways), one.count)


def _laid_out(
    stocks: Sequence[Stock], sizes: Sequence[tuple[int, int]], wanted: Sequence[CardPart], per_mm: Fraction,
    chosen: Sequence[tuple[int, Tree]],
) -> list[CutSheet]:  # fmt: skip
    """The chosen layouts as sheets; of a kind no more than is wanted. Sheets that are cut alike come together."""
    left = [one.count for one in wanted]
    made: list[CutSheet] = []
    before: tuple[int, Tree] | None = None
    for number, tree in chosen:
        whole = all(left[kind] >= count for kind, count in Counter(tree.kinds()).items())
        kept = _only_wanted(tree, left)
        if kept is None:
            continue
        if whole and before is not None and before[0] == number and before[1] is tree:
            made[-1] = replace(made[-1], count=made[-1].count + 1)
            continue
        realised = _Realised(wanted, per_mm)
        realised.lay(kept, *sizes[number])
        made.append(CutSheet(stocks[number], 1, tuple(realised.pieces), tuple(realised.cuts)))
        before = (number, tree) if whole else None
    return made


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


def _only_wanted(whole: Tree, left: list[int]) -> Tree | None:
    """The tree without pieces that are no longer wanted; `left` is counted down."""
    kept: list[Tree | None] = []
    waiting = [(whole, False)]
    while waiting:
        tree, parts_done = waiting.pop()
        if tree.how == "piece":
            wanted = left[tree.kind] > 0
            left[tree.kind] -= wanted
            kept.append(tree if wanted else None)
        elif parts_done:
            second, first = kept.pop(), kept.pop()
            kept.append(tree.joined_again(first, second) if first and second else first or second)
        else:
            waiting += [(tree, True)]
            waiting += [(part, False) for part in (tree.second, tree.first) if part is not None]
    return kept[0]


class _Realised:
    """A tree laid on a sheet: its pieces, and the cuts in the order a trimmer makes them."""

    def __init__(self, wanted: Sequence[CardPart], per_mm: Fraction) -> None:
        self.wanted = wanted
        self.per_mm = per_mm
        self.pieces: list[CutPiece] = []
        self.cuts: list[Cut] = []

    def _length(self, units: int) -> Length:
        return Length(Fraction(units) / self.per_mm)

    def _cut(self, down: bool, at: int, x: int, y: int, width: int, height: int) -> None:
        ends = (x + at, y, x + at, y + height) if down else (x, y + at, x + width, y + at)
        self.cuts.append(Cut(len(self.cuts) + 1, down, self._length(at), *(self._length(one) for one in ends)))

    def lay(self, whole: Tree, width: int, height: int) -> None:
        """Cut `whole` out of a sheet. What is left at the right or bottom of a part is waste."""
        waiting = [(whole, 0, 0, width, height)]
        while waiting:
            tree, x, y, width, height = waiting.pop()
            if tree.first is None or tree.second is None:
                if tree.width < width:
                    self._cut(True, tree.width, x, y, width, height)
                if tree.height < height:
                    self._cut(False, tree.height, x, y, tree.width, height)
                self._keep(tree, x, y)
            elif tree.how == "beside":
                at = tree.first.width
                self._cut(True, at, x, y, width, height)
                waiting += [(tree.second, x + at, y, width - at, height), (tree.first, x, y, at, height)]
            else:
                at = tree.first.height
                self._cut(False, at, x, y, width, height)
                waiting += [(tree.second, x, y + at, width, height - at), (tree.first, x, y, width, at)]

    def _keep(self, tree: Tree, x: int, y: int) -> None:
        piece = self.wanted[tree.kind]
        place = Place(*(self._length(one) for one in (x, y, tree.width, tree.height)))
        self.pieces.append(CutPiece(piece.name, place, tree.turned, tuple(_scores(piece, place, tree.turned))))


def _scores(piece: CardPart, place: Place, turned: bool) -> Iterator[Cut]:
    down = piece.score_down != turned
    for at in piece.scores:
        if down:
            yield Cut(0, True, at, place.x + at, place.y, place.x + at, place.bottom)
        else:
            yield Cut(0, False, at, place.x, place.y + at, place.right, place.y + at)
