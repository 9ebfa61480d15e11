"""Sheets, cards and envelopes by name: published definitions, and trade sizes (docs/trade-notes.md, Cards)."""

from __future__ import annotations

from dataclasses import dataclass
from fractions import Fraction
from math import isqrt

from paleta.card._length import Length, inches, millimetres

LARGEST_A_MM = (841, 1189)
"""A0 [ISO216]: one square metre at 1 : root 2, to the millimetre."""
LARGEST_B_MM = (1000, 1414)


@dataclass(frozen=True, slots=True)
class Size:
    """A size by name, upright: its width is the shorter side. `source` says where it comes from."""

    code: str
    name: str
    width: Length
    height: Length
    source: str


def _iso_series(largest_mm: tuple[int, ...], steps: int) -> list[tuple[int, int]]:
    """Each size is the one before halved across its longer side, rounded down to whole mm [ISO216]."""
    width, height = largest_mm
    found = [(width, height)]
    for _ in range(steps):
        width, height = height // 2, width
        found.append((width, height))
    return found


def _nearest_root(square: int) -> int:
    root = isqrt(square)
    return root if square - root * root <= root else root + 1


LARGEST_C_MM = tuple(_nearest_root(a * b) for a, b in zip(LARGEST_A_MM, LARGEST_B_MM, strict=True))
"""C0 [ISO269]: its sides are the geometric means of those of A0 and B0."""


def _trade(code: str, name: str, width: str, height: str) -> Size:
    return Size(code, name, inches(Fraction(width)), inches(Fraction(height)), "common practice")


def _iso(code: str, sides: tuple[int, int], source: str, name: str = "") -> Size:
    return Size(code, name or code, millimetres(sides[0]), millimetres(sides[1]), source)


_A, _B, _C = (_iso_series(largest, 7) for largest in (LARGEST_A_MM, LARGEST_B_MM, LARGEST_C_MM))
# Folded cards. The trade's name for the note card is also that of an ISO sheet four times as large: another name here.
CARDS = {
    one.code: one
    for one in (
        _trade("note", "Note card", "17/4", "11/2"),
        _trade("5x7", "5 by 7", "5", "7"),
        _trade("square", "Square", "21/4", "21/4"),
        _trade("slimline", "Slimline", "7/2", "17/2"),
        _trade("long", "Long blank", "4", "9"),
        _iso("iso-a6", _A[6], "ISO 216", "A6"),
        _iso("iso-a5", _A[5], "ISO 216", "A5"),
        _iso("11x15", (110, 150), "common practice", "11 by 15 cm"),
    )
}
SHEETS = {
    one.code: one
    for one in (
        _trade("letter", "Letter", "17/2", "11"),
        _trade("12x12", "12 by 12", "12", "12"),
        _trade("half-letter", "Half letter", "11/2", "17/2"),
        _iso("iso-a4", _A[4], "ISO 216", "A4"),
        _iso("iso-a3", _A[3], "ISO 216", "A3"),
        _iso("iso-a5", _A[5], "ISO 216", "A5"),
        _iso("22x15", (150, 220), "common practice", "22 by 15 cm"),
    )
}
# Inner measures are a little less than these; ISO 269 gives the outer ones.
ENVELOPES = {
    one.code: one
    for one in (
        _trade("note", "For a note card, 4 3/8 by 5 3/4", "35/8", "23/4"),
        _trade("5x7", "For 5 by 7, 5 1/4 by 7 1/4", "21/4", "29/4"),
        _trade("square", "Square, 5 1/2", "11/2", "11/2"),
        _trade("slimline", "Slimline, 3 3/4 by 8 3/4", "15/4", "35/4"),
        _iso("iso-c6", _C[6], "ISO 269", "C6"),
        _iso("iso-c5", _C[5], "ISO 269", "C5"),
        _iso("iso-dl", (110, 220), "ISO 269", "DL"),
        _iso("iso-b6", _B[6], "ISO 269", "B6"),
    )
}
