"""The tables of how well things are found."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Callable
from concurrent.futures import ProcessPoolExecutor
from functools import partial

from tools.things._canvas import Drawn
from tools.things._fifth_hand import FIFTH_HAND
from tools.things._fourth_hand import FOURTH_HAND
from tools.things._further_kinds import ONCE_HELD_BACK
from tools.things._held_back import HELD_BACK
from tools.things._measure import WAYS, Agreement, Fronts, exact, fronts, measured, table
from tools.things._of_the_demo import of_the_demo
from tools.things._other_hand import OTHER_HAND
from tools.things._panels import KINDS, panel
from tools.things._scenes import SCENES
from tools.things._third_hand import THIRD_HAND

TRUTH = "the truth"
SETS: dict[str, tuple[Callable[[int], Drawn], int]] = {
    "known kinds": (partial(panel, kinds=KINDS), 30_000),
    "another hand": (partial(panel, kinds=OTHER_HAND), 60_000),
    "a third hand": (partial(panel, kinds=THIRD_HAND), 90_000),
    "scenes": (partial(panel, kinds=SCENES), 80_000),
    "a fourth hand": (partial(panel, kinds=FOURTH_HAND), 100_000),
    "once held back": (partial(panel, kinds=ONCE_HELD_BACK), 40_000),
    "a fifth hand": (partial(panel, kinds=FIFTH_HAND), 120_000),
    "held back": (partial(panel, kinds=HELD_BACK), 110_000),
    "the demo's": (of_the_demo, 0),
}
"""How each is drawn, and from which number on."""


def one_drawing(which: str, seed: int) -> tuple[tuple[str, ...], dict[str, dict[str, Agreement]], Fronts]:
    drawn = SETS[which][0](seed)
    return drawn.kinds, {way: measured(drawn, way) for way in WAYS} | {TRUTH: exact(drawn)}, fronts(drawn)


def measure(number: int, *, kinds: bool = False) -> str:
    """The tables, over so many drawings of each set."""
    parts = []
    for which, (_, first) in SETS.items():
        with ProcessPoolExecutor(2) as pool:
            drawings = list(pool.map(partial(one_drawing, which), range(first, first + number)))
        rows = [
            (f"{grouping}, {which}, {way}", sum((one[way][grouping] for _, one, _ in drawings), Agreement()))
            for grouping in ("parts", "alike")
            for way in (*WAYS, TRUTH)
        ]
        told = sum((one for _, _, one in drawings), Fronts())
        parts.append(
            f"{table(rows)}\nwhat stands in front, {which}: {told.right} right, {told.wrong} wrong, "
            f"{told.level} level; side by side: {told.one_plane} in one plane, {told.two_planes} not"
        )
        if kinds:
            by_kind: dict[str, Agreement] = defaultdict(Agreement)
            for names, one, _ in drawings:
                if len(names) == 1:
                    for grouping in ("parts", "alike"):
                        by_kind[f"{grouping}, {names[0]}"] += one["Paleta"][grouping]
            parts.append(table(sorted(by_kind.items())))
    return "\n\n".join(parts)
