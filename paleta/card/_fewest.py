"""Which ways to cut sheets hold every piece with the least paper, and how little that can be at all."""

from __future__ import annotations

import math
from collections.abc import Iterator, Sequence
from dataclasses import dataclass

import numpy as np
from scipy.optimize import LinearConstraint, linprog, milp

from paleta.card._best_sheet import best_sheet, places
from paleta.card._slicing import Counts, PieceKind, Tree, largest_only, layouts, leaf

MOST_ROUNDS = 40
"""Rounds of making new ways to cut. The bound is true after any number of them."""
NEVER_BETTER = 1e-9
MOST_FILLED = 400
"""So many pieces are put on sheets one by one as well, where that may save paper."""
TRIES = 3
"""How deep both ways to go on are tried when a sheet is filled piece by piece."""
Way = tuple[int, Counts]
"""Which sheet, and how many of each kind come out of it."""


@dataclass(frozen=True, slots=True)
class SheetSize:
    """A size of sheet in whole units, and in which ways each kind may lie on it; cost: its share of the paper used."""

    size: tuple[int, int]
    kinds: tuple[PieceKind, ...]
    cost: float = 1.0


def fewest(sheets: Sequence[SheetSize], wanted: Sequence[int]) -> tuple[list[tuple[int, Tree]], float]:
    """Layouts, each with the number of its sheet, that hold `wanted` of every kind; what any plan costs at least.

    Parameters
    ----------
    sheets
        sizes to choose from, each with the ways in which every kind fits it
    wanted
        how many of every kind
    """
    area = max(sheet.size[0] * sheet.size[1] / sheet.cost for sheet in sheets)
    whole = [max(sheet.kinds[number].area for sheet in sheets) for number in range(len(wanted))]
    least = sum(one * count for one, count in zip(whole, wanted, strict=True)) / area
    every = [layouts(sheet.kinds, *sheet.size) for sheet in sheets]
    known = {
        (number, counts): tree
        for number, found in enumerate(every)
        if found
        for counts, tree in largest_only(found).items()
    }
    if all(found is not None for found in every):
        chosen, bound = _choose(sheets, wanted, known)
        return chosen, max(bound, least)
    for number, sheet in enumerate(sheets):
        known |= {(number, counts): tree for counts, tree in _alone(sheet)}
    bound = max(least, _priced(sheets, wanted, known))
    chosen, _ = _choose(sheets, wanted, known)
    if _cost(sheets, chosen) > bound + NEVER_BETTER and sum(wanted) <= MOST_FILLED:
        filled = [*_filled(sheets, wanted)]
        chosen = min(chosen, filled, key=lambda plan: _cost(sheets, plan))
    return chosen, bound


def _cost(sheets: Sequence[SheetSize], chosen: Sequence[tuple[int, Tree]]) -> float:
    return sum(sheets[number].cost for number, _ in chosen)


def _filled(sheets: Sequence[SheetSize], wanted: Sequence[int]) -> Iterator[tuple[int, Tree]]:
    """Sheets filled one by one, the largest pieces first: good where there are too many ways to look through."""
    left = list(wanted)
    while any(left):
        tried = [(number, _fill(sheet.kinds, left, *sheet.size)) for number, sheet in enumerate(sheets)]
        number, tree = max(
            ((number, tree) for number, tree in tried if tree is not None),
            key=lambda one: sum(sheets[one[0]].kinds[kind].area for kind in one[1].kinds()) / sheets[one[0]].cost,
        )
        for kind in tree.kinds():
            left[kind] -= 1
        yield number, tree


def _fill(kinds: Sequence[PieceKind], left: Sequence[int], width: int, height: int, tries: int = TRIES) -> Tree | None:
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


def _choose(
    sheets: Sequence[SheetSize], wanted: Sequence[int], known: dict[Way, Tree]
) -> tuple[list[tuple[int, Tree]], float]:
    """The cheapest of these ways that hold every piece, and a bound for how cheap that can be."""
    ways = sorted(known, reverse=True)
    costs = np.array([sheets[number].cost for number, _ in ways])
    matrix, demand = np.array([counts for _, counts in ways], float), np.array(wanted, float)
    # Few nodes and no clock: the same plan on every machine.
    found = milp(
        costs,
        constraints=LinearConstraint(matrix.T, lb=demand),
        integrality=np.ones(len(ways)),
        options={"node_limit": 5000, "mip_rel_gap": 0.0},
    )
    bound = found.mip_dual_bound if found.mip_dual_bound is not None else 0.0
    times = np.round(found.x).astype(int) if found.x is not None else _one_by_one(matrix, costs, demand)
    trees = [(way[0], known[way]) for way, often in zip(ways, times, strict=True) for _ in range(often)]
    return trees, float(bound)


def _one_by_one(matrix: np.ndarray, costs: np.ndarray, demand: np.ndarray) -> list[int]:
    """Where the solver found nothing in its limit: the way that takes most of what is left, again and again."""
    left, times = demand.copy(), [0] * len(matrix)
    while left.any():
        best = int(np.argmax(np.minimum(left, matrix).sum(axis=1) / costs))
        times[best] += 1
        left = np.maximum(0.0, left - matrix[best])
    return times


def _priced(sheets: Sequence[SheetSize], wanted: Sequence[int], known: dict[Way, Tree]) -> float:
    """Adds ways to cut that the prices of the pieces ask for; gives what any plan costs at least."""
    cuts = []
    for sheet in sheets:
        sides = [[way[axis] for kind in sheet.kinds for way in kind.ways] for axis in (0, 1)]
        xs, ys = (places(one, side) for one, side in zip(sides, sheet.size, strict=True))
        if xs is None or ys is None:
            return 0.0
        cuts.append((xs, ys))
    demand, bound = np.array(wanted, float), 0.0
    for _ in range(MOST_ROUNDS):
        ways = list(known)
        costs = [sheets[number].cost for number, _ in ways]
        solved = linprog(costs, A_ub=-np.array([counts for _, counts in ways], float).T, b_ub=-demand, method="highs")
        prices = -solved.ineqlin.marginals
        best = [
            best_sheet(sheet.kinds, prices, xs, ys, sheet.size) for sheet, (xs, ys) in zip(sheets, cuts, strict=True)
        ]
        # No sheet is worth more than this for its cost, so at these prices the pieces cost so much [Farley1990].
        dearest = max(worth / sheet.cost for sheet, (worth, _) in zip(sheets, best, strict=True))
        bound = max(bound, float(prices @ demand) / max(dearest, 1.0))
        fresh = {
            (number, _counted(tree, len(wanted))): tree
            for number, (worth, tree) in enumerate(best)
            if tree is not None and worth > sheets[number].cost + NEVER_BETTER
        }
        if not fresh.keys() - known.keys():
            break
        known |= fresh
    return bound


def _counted(tree: Tree, kinds: int) -> Counts:
    found = [0] * kinds
    for kind in tree.kinds():
        found[kind] += 1
    return tuple(found)


def _alone(sheet: SheetSize) -> Iterator[tuple[Counts, Tree]]:
    """As many of one kind as go on a sheet in rows, in its better way."""
    for number, kind in enumerate(sheet.kinds):
        best: Tree | None = None
        most = 0
        for way in kind.ways:
            across, down = min(sheet.size[0] // way[0], kind.most), sheet.size[1] // way[1]
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
            yield _counted(best, len(sheet.kinds)), best
