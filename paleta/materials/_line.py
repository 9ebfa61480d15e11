"""What the stamped line is made of."""

from __future__ import annotations

from dataclasses import dataclass


@dataclass(frozen=True, slots=True)
class Line:
    """An outline by what it is made of.

    rank    its place in lists.
    words   what matters of it to media: "runs in water", "may run in water", "dragged by alcohol". Media say with
            these words what does not go together (`Fit`).
    unseen  it is to vanish in the colour, as in no-line work.
    raised  it stands above the paper: powder gives it its colour, nothing sinks into it, and what touches it wipes off.
    """

    code: str
    name: str
    rank: int
    words: frozenset[str] = frozenset()
    unseen: bool = False
    raised: bool = False
