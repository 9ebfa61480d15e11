"""Ways of laying a ground, and how many shades a fade takes. All common practice (docs/trade-notes.md, section
Grounds); the lengths are from memory."""

from __future__ import annotations

from dataclasses import dataclass

from paleta.media import MEDIUMS


@dataclass(frozen=True, slots=True)
class MediumWay:
    """A way of laying a background: its medium and the school its passes follow."""

    code: str
    name: str
    medium: str
    school: str
    caution: str


WAYS = {
    way.code: MediumWay(way.code, way.name, medium.code, way.school, way.caution)
    for medium in sorted(MEDIUMS.values(), key=lambda one: -one.rank)
    for way in medium.ways
}
LONG_MM = (30.0, 80.0, 150.0)
"""A fade longer than each of these takes one more shade than two."""


def shades_for(length_mm: float) -> int:
    """How many shades a fade of this length takes: one for an even ground, two for a short fade, up to five."""
    return 1 if length_mm <= 0 else 2 + sum(length_mm > limit for limit in LONG_MM)
