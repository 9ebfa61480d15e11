"""What is melted on a wet line or greeting."""

from __future__ import annotations

from dataclasses import dataclass

from paleta.colour import Lab


@dataclass(frozen=True, slots=True)
class Powder:
    """An embossing powder.

    lab   of the melted line, None where one sees through it to the ink or the paper.
    rank  its place in lists.
    """

    code: str
    name: str
    lab: Lab | None
    rank: int
