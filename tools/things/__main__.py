"""How well things are found: `python -m tools.things [--number N] [--kinds]`.

Drawings of kinds the networks were fitted on (other drawings than those), and of kinds that nothing was fitted on,
beside a plain rule of like shapes and nothing grouped at all.
"""

from __future__ import annotations

import argparse
import sys
from collections import defaultdict
from concurrent.futures import ProcessPoolExecutor
from functools import partial

from tools.things import HELD_BACK, KINDS, panel
from tools.things._measure import WAYS, Agreement, measured, table

SETS = {"known kinds": (KINDS, 30_000), "held back": (HELD_BACK, 40_000)}


def one_drawing(which: str, seed: int) -> tuple[tuple[str, ...], dict[str, dict[str, Agreement]]]:
    drawn = panel(seed, SETS[which][0])
    return drawn.kinds, {way: measured(drawn, way) for way in WAYS}


def measure(number: int, *, kinds: bool = False) -> str:
    """The tables, over so many drawings of each set."""
    parts = []
    for which, (_, first) in SETS.items():
        with ProcessPoolExecutor(2) as pool:
            drawings = list(pool.map(partial(one_drawing, which), range(first, first + number)))
        rows = [
            (f"{grouping}, {which}, {way}", sum((one[way][grouping] for _, one in drawings), Agreement()))
            for grouping in ("parts", "alike")
            for way in WAYS
        ]
        parts.append(table(rows))
        if kinds:
            by_kind: dict[str, Agreement] = defaultdict(Agreement)
            for names, one in drawings:
                if len(names) == 1:
                    for grouping in ("parts", "alike"):
                        by_kind[f"{grouping}, {names[0]}"] += one["Paleta"][grouping]
            parts.append(table(sorted(by_kind.items())))
    return "\n\n".join(parts)


if __name__ == "__main__":
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("--number", type=int, default=40, help="drawings of each set")
    parser.add_argument("--kinds", action="store_true", help="also by kind, over the drawings of one kind only")
    options = parser.parse_args()
    sys.stdout.write(measure(options.number, kinds=options.kinds) + "\n")
