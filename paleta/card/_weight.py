"""Weights of paper as it is sold: in grams per square metre, or in pounds of a kind of paper."""

from __future__ import annotations

import re
from dataclasses import dataclass
from typing import Any

from paleta.errors import CardError
from paleta.fields import Number
from paleta.materials import BASIS_IN, grams_per_m2, pounds_of

WRITTEN = re.compile(
    r"(?P<number>\d{1,4}(?:[.,]\d{1,2})?)\s*(?:(?P<grams>g|gsm|g/m2|g/m²)|(?P<pounds>lbs?|#)\s*(?P<kind>[a-z]*))?",
    re.ASCII,
)
USUAL_KIND = "cover"


def parse_weight(text: str) -> float:
    """ "300 g/m2", "300" or "110 lb cover" in g/m2. Pounds are of cover stock unless another kind is named.

    Raises
    ------
    CardError
        No weight, or pounds of a kind whose basis size is not known.
    """
    found = WRITTEN.fullmatch(text.strip().lower()) if len(text) <= 40 else None
    if found is None:
        raise CardError(f"{text[:40]!r} is no weight of paper. Write it like 300 g/m2 or 110 lb cover.")
    number = float(found["number"].replace(",", "."))
    if not found["pounds"]:
        return number
    kind = found["kind"] or USUAL_KIND
    if kind not in BASIS_IN:
        raise CardError(f"Pounds of {kind!r} are not known; of {', '.join(BASIS_IN)} they are.")
    return round(grams_per_m2(number, kind), 1) if number else 0.0


def said_weight(gsm: float) -> str:
    """In both ways it is sold."""
    return f"{gsm:g} g/m², {pounds_of(gsm, USUAL_KIND):.0f} lb {USUAL_KIND}" if gsm else "not known"


@dataclass(frozen=True)
class Weight(Number):
    """A number of g/m2 that may also be given as people write a weight."""

    def from_plain(self, plain: Any) -> Any:
        return parse_weight(plain) if isinstance(plain, str) else plain
