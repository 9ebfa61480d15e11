"""Measures as lines of a table, shares of a hundred."""

from __future__ import annotations

from collections.abc import Iterable

from tools.stampings._measure import DEGREES, FINDERS, HELD_BACK, measure

NAME = 30
FROM_OUTSIDE = {
    "clean, before": (0.972, 3.1, 1.7, 0.88), "clean, plain": (0.994, 0.0), "clean, aim": (0.995, 0.2, 1, 0.98),
    "light, before": (0.968, 3.9, 1.6, 0.88), "light, plain": (0.994, 0.2), "light, aim": (0.990, 0.5, 1, 0.98),
    "medium, before": (0.892, 6.4, 4.4, 0.73), "medium, plain": (0.944, 3.2), "medium, aim": (0.970, 2.0, 2, 0.88),
    "hard, before": (0.742, 16.6, 20.9, 0.73), "hard, plain": (0.910, 6.3), "hard, aim": (0.930, 6.0, 3, 0.88),
}  # fmt: skip
"""Found, run together, spurious, tiny found, on 48 scans and photos of drawings by others: what Paleta once scored,
what the plain way scores, and what is aimed at."""


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


def show_from_outside() -> None:
    for name, (found, together, *rest) in FROM_OUTSIDE.items():
        more = f"{rest[0]:10.1f}{rest[1]:8.2f}" if rest else ""
        print(f"{name + ', elsewhere':{NAME}}{found:7.3f}{together:10.1f}{more}", flush=True)


def head() -> None:
    print(f"{'':{NAME}}{'found':>7}{'together':>10}{'spurious':>10}{'tiny':>8}{'gaps':>8}{'cut':>6}{'lost':>6}")
