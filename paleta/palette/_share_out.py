"""Which colour of a palette goes where: touching things unlike, and the areas in proportion."""

from __future__ import annotations

from collections.abc import Collection, Mapping, Sequence

import numpy as np
from numpy.typing import NDArray

from paleta.colour import Lab
from paleta.errors import WishError
from paleta.palette._suits import suits

SHARES = {
    1: (1.0,),
    2: (0.65, 0.35),
    3: (0.6, 0.3, 0.1),
    4: (0.5, 0.27, 0.15, 0.08),
    5: (0.45, 0.25, 0.15, 0.1, 0.05),
    6: (0.4, 0.24, 0.15, 0.1, 0.07, 0.04),
}
"""Parts of the coloured area: one colour leads, one follows, the others are accents. Common practice (60-30-10); the
longer rows from memory."""
UNLIKE = 3.0
"""What it costs if all borders lay between equal colours, beside a cost of 2 for areas that are all wrong."""
UNFIT = 100.0
"""More than all borders and areas can cost."""


def share_out(
    areas_mm2: Sequence[float],
    touching: Mapping[tuple[int, int], float],
    palette: Sequence[Lab],
    tags: Sequence[Collection[str]] = (),
) -> list[int]:
    """For each thing the place in `palette` of its colour.

    The quietest colour (least chroma) leads and the strongest is the accent, which is common practice. Found by
    giving the largest thing its colour first and then changing single things and swapping pairs for as long as that
    helps; the same input gives the same answer.

    Parameters
    ----------
    areas_mm2 : area of each thing
    touching : length of the border of pairs of things (by place in `areas_mm2`), any unit
    palette : 1 to 6 colours
    tags : what each thing is said to be; a colour that does not suit is only given where none does

    Raises
    ------
    WishError
        If the palette is empty or has more than six colours.
    """
    if not 1 <= len(palette) <= len(SHARES):
        raise WishError(f"A palette has 1 to {len(SHARES)} colours, got {len(palette)}.")
    count, kinds = len(areas_mm2), len(palette)
    if count == 0:
        return []
    areas = np.asarray(areas_mm2, float) / max(sum(areas_mm2), 1e-9)
    quiet_first = np.argsort([np.hypot(lab[1], lab[2]) for lab in palette], kind="stable")
    shares = np.zeros(kinds)
    shares[quiet_first] = SHARES[kinds]
    borders = np.zeros((count, count))
    for (one, other), length in touching.items():
        if one != other:
            borders[one, other] = borders[other, one] = length
    borders *= UNLIKE / max(borders.sum() / 2, 1e-9)
    unfit = np.zeros((count, kinds))
    for thing, words in enumerate(tags):
        unfit[thing] = [0.0 if suits(words, lab) else UNFIT for lab in palette]
    chosen = np.full(count, -1)
    for thing in np.argsort(-areas, kind="stable"):
        chosen[thing] = _best_for(int(thing), chosen, areas, borders, shares, unfit)
    return _settle(chosen, areas, borders, shares, unfit)


def _settle(
    chosen: NDArray[np.intp],
    areas: NDArray[np.float64],
    borders: NDArray[np.float64],
    shares: NDArray[np.float64],
    unfit: NDArray[np.float64],
) -> list[int]:
    """Change single things and swap pairs until nothing helps any more."""
    kinds, things = np.arange(len(shares)), np.arange(len(chosen))
    # How long each thing's borders with things of each colour are, and how far each colour is off its share.
    like = borders @ (chosen[:, None] == kinds)
    off = np.bincount(chosen, weights=areas, minlength=len(shares)) - shares

    def give(thing: int, colour: int) -> None:
        old, chosen[thing] = chosen[thing], colour
        like[:, old] -= borders[:, thing]
        like[:, colour] += borders[:, thing]
        off[old] -= areas[thing]
        off[colour] += areas[thing]

    better = True
    while better:
        better = False
        for one in range(len(chosen)):
            own = chosen[one]
            moved = like[one] - like[one, own] + _shifted(off, own, kinds, areas[one])
            moved += unfit[one] - unfit[one, own]
            moved[own] = 0.0
            theirs = like[things, chosen]
            swapped = like[one, chosen] - like[one, own] + like[:, own] - theirs - 2 * borders[one]
            swapped += _shifted(off, own, chosen, areas[one] - areas)
            swapped += unfit[one, chosen] - unfit[one, own] + unfit[:, own] - unfit[things, chosen]
            swapped[chosen == own] = 0.0
            if min(moved.min(), swapped.min()) > -1e-9:
                continue
            better = True
            if moved.min() <= swapped.min():
                give(one, int(moved.argmin()))
            else:
                other = int(swapped.argmin())
                give(one, chosen[other])
                give(other, own)
    return [int(kind) for kind in chosen]


def _shifted(
    off: NDArray[np.float64], own: int, to: NDArray[np.intp], area: NDArray[np.float64] | float
) -> NDArray[np.float64]:
    """What it changes in the distance from the shares if `area` goes from colour `own` to each of `to`."""
    before = np.abs(off[own]) + np.abs(off[to])
    return np.abs(off[own] - area) + np.abs(off[to] + area) - before


def _best_for(
    thing: int,
    chosen: NDArray[np.intp],
    areas: NDArray[np.float64],
    borders: NDArray[np.float64],
    shares: NDArray[np.float64],
    unfit: NDArray[np.float64],
) -> int:
    given = np.bincount(chosen[chosen >= 0], weights=areas[chosen >= 0], minlength=len(shares))
    like = np.array([borders[thing][chosen == kind].sum() for kind in range(len(shares))])
    return int(np.argmin(like + np.maximum(given + areas[thing] - shares, 0) + unfit[thing]))


def price(
    chosen: NDArray[np.intp], areas: NDArray[np.float64], borders: NDArray[np.float64], shares: NDArray[np.float64]
) -> float:
    """Borders between equal colours, and how far the areas lie from their shares.

    Parameters
    ----------
    chosen
        N, which colour each thing has
    areas
        N, of the things
    borders
        N x N, lengths of their common borders
    shares
        wished part of the whole for each colour
    """
    same = chosen[:, None] == chosen[None, :]
    given = np.bincount(chosen, weights=areas, minlength=len(shares))
    return float((borders * same).sum() / 2 + np.abs(given - shares).sum())
