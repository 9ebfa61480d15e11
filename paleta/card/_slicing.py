"""All ways to cut pieces from a rectangle with cuts from edge to edge.

Such a layout is a tree: every inner node is one cut, every leaf a piece. What a set of pieces needs is its shape
function, the corners of the smallest rectangles that hold it [Otten1983]; those of two sets set side by side or one
below the other are sums of theirs [Stockmeyer1983]. Built up from single pieces this gives every layout, none left out.
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from itertools import product

Counts = tuple[int, ...]


@dataclass(frozen=True, slots=True, eq=False)
class Tree:
    """A layout of pieces in whole units. how: "piece", "beside" or "below"; turned: the piece stands on its side.

    Thousands of small pieces make trees thousands deep, so nothing walks one by calling itself, equality included.
    """

    width: int
    height: int
    how: str
    kind: int = -1
    turned: bool = False
    first: Tree | None = None
    second: Tree | None = None

    @staticmethod
    def beside(first: Tree, second: Tree) -> Tree:
        return Tree(first.width + second.width, max(first.height, second.height), "beside", first=first, second=second)

    @staticmethod
    def below(first: Tree, second: Tree) -> Tree:
        return Tree(max(first.width, second.width), first.height + second.height, "below", first=first, second=second)

    def kinds(self) -> Iterator[int]:
        waiting = [self]
        while waiting:
            tree = waiting.pop()
            if tree.how == "piece":
                yield tree.kind
            waiting += [part for part in (tree.second, tree.first) if part is not None]

    def joined_again(self, first: Tree, second: Tree) -> Tree:
        """Two other parts, joined as this tree's are."""
        return Tree.beside(first, second) if self.how == "beside" else Tree.below(first, second)


@dataclass(frozen=True, slots=True)
class PieceKind:
    """A kind of piece in whole units; ways: the (width, height, turned) it may lie in; most: how many are wanted."""

    ways: tuple[tuple[int, int, bool], ...]
    most: int

    @property
    def area(self) -> int:
        """Of one piece; 0 where it does not go on the sheet at all."""
        return self.ways[0][0] * self.ways[0][1] if self.ways else 0


def leaf(kind: int, way: tuple[int, int, bool]) -> Tree:
    """A layout of a single piece.

    Parameters
    ----------
    kind
        its number
    way
        its width and height as it lies, and whether it is turned
    """
    return Tree(way[0], way[1], "piece", kind, way[2])


def layouts(
    kinds: Sequence[PieceKind], width: int, height: int, *, most_steps: int = 120_000
) -> dict[Counts, list[Tree]] | None:
    """For every count of the kinds that can be cut from width x height, its smallest rectangles with their trees.

    None if that would take more than `most_steps` joins: too many ways to look through them all.

    Parameters
    ----------
    kinds
        of pieces
    width, height
        of the sheet, in whole units
    most_steps
        how many rectangles may be put together before it is given up
    """
    found: dict[Counts, list[Tree]] = {}
    for number, kind in enumerate(kinds):
        fitting = [leaf(number, way) for way in kind.ways if way[0] <= width and way[1] <= height]
        if fitting and kind.most > 0:
            found[tuple(int(place == number) for place in range(len(kinds)))] = _smallest(fitting)
    singles = list(found)
    rising, steps = singles, 0
    while rising:
        wanted = {_sum(smaller, one) for smaller in rising for one in singles}
        rising = []
        for counts in sorted(wanted):
            area = sum(count * kind.area for count, kind in zip(counts, kinds, strict=True))
            if area > width * height or any(count > kind.most for count, kind in zip(counts, kinds, strict=True)):
                continue
            trees = [*_joined(found, counts, width, height)]
            steps += 1 + len(trees)
            if steps > most_steps:
                return None
            if trees:
                found[counts] = _smallest(trees)
                rising.append(counts)
    return found


def _sum(one: Counts, other: Counts) -> Counts:
    return tuple(a + b for a, b in zip(one, other, strict=True))


def _joined(found: dict[Counts, list[Tree]], counts: Counts, width: int, height: int) -> Iterator[Tree]:
    """Every pair of layouts that hold `counts` together, beside and below each other."""
    for part in product(*(range(count + 1) for count in counts)):
        rest = tuple(count - taken for count, taken in zip(counts, part, strict=True))
        if part > rest or part not in found or rest not in found:
            continue
        for one, other in product(found[part], found[rest]):
            if one.width + other.width <= width:
                yield Tree.beside(one, other)
            if one.height + other.height <= height:
                yield Tree.below(one, other)


def _smallest(trees: Sequence[Tree]) -> list[Tree]:
    """Those that no other one is inside of."""
    best: list[Tree] = []
    lowest: int | None = None
    for tree in sorted(trees, key=lambda one: (one.width, one.height)):
        if lowest is None or tree.height < lowest:
            best.append(tree)
            lowest = tree.height
    return best


def largest_only(found: dict[Counts, list[Tree]]) -> dict[Counts, Tree]:
    """Counts to which nothing can be added, each with its first layout. More of a piece than is wanted does no harm."""
    kinds = len(next(iter(found), ()))
    kept = {}
    for counts, trees in found.items():
        more = (tuple(count + (place == kind) for place, count in enumerate(counts)) for kind in range(kinds))
        if not any(one in found for one in more):
            kept[counts] = trees[0]
    return kept
