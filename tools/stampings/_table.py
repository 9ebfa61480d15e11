"""Measures as lines of a table, shares of a hundred."""

from __future__ import annotations

from collections.abc import Iterable

from tools.stampings._measure import DEGREES, FINDERS, HELD_BACK, measure

NAME = 30


def show(
    number: int, *, held_back: bool, drawing: str = "own", degrees: Iterable[str] = DEGREES,
    finders: Iterable[str] = FINDERS,
) -> None:  # fmt: skip
    """Print how `number` stampings of each degree are read by each finder."""
    first = HELD_BACK if held_back else 0
    finders = tuple(finders)
    for degree in degrees:
        for finder in finders:
            tally = measure(finder, degree, range(first, first + number), drawing=drawing)
            of, which = tally.score, [degree, finder]
            which += [drawing] * (drawing != "own") + ["held back"] * held_back
            cells = max(of.cells, 1)
            print(
                f"{', '.join(which):{NAME}}{of.found / cells:7.3f}"
                f"{100 * of.together / cells:10.1f}{100 * of.spurious / cells:10.1f}"
                f"{of.tiny_found / max(of.tiny, 1):8.2f}{of.gaps_closed / max(of.gaps, 1):8.2f}{tally.cut:6}"
                f"{tally.lost:6}   {of.cells:,} cells, {of.tiny} tiny, {of.gaps} gaps",
                flush=True,
            )


def head() -> None:
    print(f"{'':{NAME}}{'found':>7}{'together':>10}{'spurious':>10}{'tiny':>8}{'gaps':>8}{'cut':>6}{'lost':>6}")
