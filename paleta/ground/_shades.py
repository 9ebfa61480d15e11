"""Ways of laying a ground, and how many shades a fade takes. All common practice (docs/trade-notes.md, section
Grounds); the lengths are from memory."""

from __future__ import annotations

from dataclasses import dataclass


@dataclass(frozen=True, slots=True)
class Way:
    """A way of laying a ground: its medium and the school its passes follow."""

    code: str
    name: str
    medium: str
    school: str
    caution: str = ""


SOLVENT = (
    "Alcohol ink and its vapour burn: no heat tool or flame near it, air the room, gloves if skin is sensitive; follow "
    "the maker's label and the local rules."
)
WAYS = {
    way.code: way
    for way in (
        Way("circles", "Ink pad in small circles", "inkpad", "B1"),
        Way("pounced", "Pounced with felt", "inkpad", "B3", SOLVENT),
        Way("wash", "Wash, water first", "watercolour", "W3"),
        Way("one way", "Marker, two coats one way", "marker", "M5"),
        Way("pencil", "Pencil in layers", "pencil", "P1"),
    )
}
LONG_MM = (30.0, 80.0, 150.0)
"""A fade longer than each of these takes one more shade than two."""


def shades_for(length_mm: float) -> int:
    """How many shades a fade of this length takes: one for an even ground, two for a short fade, up to five."""
    return 1 if length_mm <= 0 else 2 + sum(length_mm > limit for limit in LONG_MM)
