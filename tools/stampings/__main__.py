"""`python -m tools.stampings [--held-back] [--number N] [--finder Paleta]`: how well stampings are read, as a table."""

from __future__ import annotations

import argparse

from tools.stampings._measure import DEGREES, FINDERS, HELD_BACK, Tally, measure


def line(name: str, tally: Tally) -> str:
    of = tally.score
    share = 100 / max(of.cells, 1)
    return (
        f"{name:18}{of.found / max(of.cells, 1):7.3f}{of.together * share:10.1f}{of.spurious * share:10.1f}"
        f"{of.tiny_found / max(of.tiny, 1):8.2f}{of.gaps_closed / max(of.gaps, 1):8.2f}{tally.cut:6}{tally.lost:6}"
        f"   {of.cells:,} cells, {of.tiny} tiny, {of.gaps} gaps"
    )


def main() -> None:
    wish = argparse.ArgumentParser(description=__doc__)
    wish.add_argument("--held-back", action="store_true")
    wish.add_argument("--number", type=int, default=16)
    wish.add_argument("--finder", choices=[*FINDERS], action="append")
    wish.add_argument("--degree", choices=[*DEGREES], action="append")
    given = wish.parse_args()
    first = HELD_BACK if given.held_back else 0
    print(f"{'':18}{'found':>7}{'together':>10}{'spurious':>10}{'tiny':>8}{'gaps':>8}{'cut':>6}{'lost':>6}")
    for degree in given.degree or DEGREES:
        for finder in given.finder or FINDERS:
            tally = measure(finder, degree, range(first, first + given.number))
            print(line(f"{degree}, {finder}", tally), flush=True)


if __name__ == "__main__":
    main()
