"""`python -m tools.stampings [--held-back] [--drawing closing] [--number N] [--finder Paleta]`: how well stampings are
read, as a table."""

from __future__ import annotations

import argparse

from tools.stampings import DEGREES, DRAWINGS, FINDERS, head, show


def main() -> None:
    wish = argparse.ArgumentParser(description=__doc__)
    wish.add_argument("--held-back", action="store_true")
    wish.add_argument("--number", type=int, default=16)
    wish.add_argument("--finder", choices=[*FINDERS], action="append")
    wish.add_argument("--drawing", choices=[*DRAWINGS], default="own")
    wish.add_argument("--degree", choices=[*DEGREES], action="append")
    given = wish.parse_args()
    head()
    show(
        given.number, held_back=given.held_back, drawing=given.drawing, degrees=given.degree or DEGREES,
        finders=given.finder or FINDERS,
    )  # fmt: skip


if __name__ == "__main__":
    main()
