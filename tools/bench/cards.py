"""Cutting plans: how long they take, how often they are proven, and how far the others may be from the best."""

from __future__ import annotations

from fractions import Fraction

import numpy as np

from paleta.card import CardPart, Stock, cut, inches
from tools.bench.show import once, show, timed

PIECES = (("Base", "11/2", "17/2"), ("Mat", "4", "21/4"), ("Picture", "15/4", "5"), ("Inside", "4", "21/4"),
          ("Strip", "3", "5/8"))  # fmt: skip
SHEETS = ((Fraction(17, 2), 11), (12, 12), (Fraction(11, 2), Fraction(17, 2)))
JOBS, SEED, HELD_BACK = 60, 11, 1011


def _sheet(width: Fraction | int, height: Fraction | int) -> Stock:
    return Stock(name="White", width=inches(width), height=inches(height), grain="long", owned=1)


def measure() -> None:
    letter = _sheet(*SHEETS[0])
    wanted = [CardPart(name, inches(width), inches(height), "White") for name, width, height in PIECES]
    show("cutting plan, 24 cards of 5 pieces", timed(lambda: cut([letter], wanted, 24)), 2000)
    for words, seed in (("seen while it was made", SEED), ("held back", HELD_BACK)):
        _random_jobs(words, seed)


def _random_jobs(words: str, seed: int) -> None:
    """Jobs of 2 to 7 kinds of pieces in sixteenths, for 1 to 40 cards, on sheets of three sizes."""
    chance = np.random.default_rng(seed)
    proven, extra, needed, seconds = 0, 0, 0, []
    for _ in range(JOBS):
        sheet = _sheet(*SHEETS[chance.integers(len(SHEETS))])
        kinds = [
            CardPart(f"P{number}", *(inches(Fraction(int(side), 16)) for side in chance.integers(8, 84, 2)), "White")
            for number in range(chance.integers(2, 8))
        ]
        cards, plans = int(chance.integers(1, 41)), []
        seconds.append(once(lambda: plans.append(cut([sheet], kinds, cards))))  # noqa: B023
        (need,) = plans[0].needs
        proven += plans[0].proven
        extra += need.used - need.bound
        needed += need.bound
    print(
        f"cutting, {JOBS} jobs {words}: {proven} proven with the fewest sheets, the others at most {extra} of {needed} "
        f"sheets over; median {np.median(seconds):.2f} s, longest {max(seconds):.2f} s"
    )
