"""Lengths that are exact: no binary float in a size that is shown or compared.

People write a length as a fraction of an inch or as a decimal of a centimetre; both are ratios of whole numbers, and an
inch is 25.4 mm by definition (the international yard, 1959), so one ratio holds either without loss.
"""

from __future__ import annotations

import re
import unicodedata
from dataclasses import dataclass
from fractions import Fraction
from typing import Any

from paleta.errors import CardError
from paleta.fields import Kind, Schema

MM_PER_INCH = Fraction(127, 5)
FINEST_SHOWN = 16
"""Fractions of an inch are shown in sixteenths: what rulers and trimmers carry (common practice)."""
FINEST_PLAIN = 64
"""Down to this fraction a length is written down in inches, whatever unit it was typed in."""
FINEST_KEPT = 10_000
UNITS = {"in": MM_PER_INCH, "mm": Fraction(1), "cm": Fraction(10)}
UNIT_WORDS = {
    "in": "in",
    "inch": "in",
    "inches": "in",
    '"': "in",
    "″": "in",
    "”": "in",
    "''": "in",
    "mm": "mm",
    "cm": "cm",
}
LONGEST_TEXT = 40
WRITTEN = re.compile(
    r"(?P<sign>-?)\s*(?:(?P<decimal>\d{1,6}[.,]\d{1,6})"
    r"|(?P<whole>\d{1,6})(?:(?:\s+|\s*-\s*)(?P<over>\d{1,6})\s*/\s*(?P<under>\d{1,6}))?)\s*(?P<unit>[a-z\"″”']*)\.?",
    re.ASCII,
)
LONE_FRACTION = re.compile(r"^(-?)\s*(?=[0-9]+\s*/)")
FRACTION_SIGN = re.compile("[¼-¾⅐-⅞]")


@dataclass(frozen=True, order=True, slots=True)
class Length:
    """A length as an exact number of millimetres; `str` writes it so that `parse_length` reads the same again."""

    mm: Fraction

    def __post_init__(self) -> None:
        if not isinstance(self.mm, Fraction):
            raise CardError(f"A length is an exact number of millimetres, not {self.mm!r}.")

    @property
    def inches(self) -> Fraction:
        return self.mm / MM_PER_INCH

    def __add__(self, other: Length) -> Length:
        return Length(self.mm + other.mm)

    def __sub__(self, other: Length) -> Length:
        return Length(self.mm - other.mm)

    def __mul__(self, times: int | Fraction) -> Length:
        return Length(self.mm * times)

    __rmul__ = __mul__

    def __truediv__(self, by: int | Fraction) -> Length:
        return Length(self.mm / by)

    def __neg__(self) -> Length:
        return Length(-self.mm)

    def __bool__(self) -> bool:
        return self.mm != 0

    def __str__(self) -> str:
        inches, hundredths = self.inches, self.mm * 100
        if FINEST_PLAIN % inches.denominator == 0 or hundredths.denominator != 1:
            return f"{_mixed(inches)} in"
        return f"{_decimal(self.mm)} mm"


ZERO = Length(Fraction(0))


def inches(value: int | str | Fraction) -> Length:
    """So many inches, given as a whole number, a Fraction, or text that Python's Fraction reads ("17/4")."""
    return Length(Fraction(value) * MM_PER_INCH)


def millimetres(value: int | str | Fraction) -> Length:
    return Length(Fraction(value))


def parse_length(text: str, unit: str = "") -> Length:
    """A length as people write it: "4 1/4", "4¼", '4-1/4"', "10,8 cm", "108 mm"; `unit` is meant where none is written.

    Parameters
    ----------
    text
        As a person writes it.
    unit
        "in", "mm" or "cm", meant where none is written.

    Raises
    ------
    CardError
        No length, a fraction over nought, no unit at all, or finer than can be kept: a ten-thousandth of an inch or a
        hundredth of a millimetre.
    """
    shown = text[:LONGEST_TEXT]
    # One sign such as ¼ stands for a fraction of its own, with or without a space before it.
    spelled = FRACTION_SIGN.sub(lambda sign: f" {unicodedata.normalize('NFKC', sign[0])}", text)
    spelled = " ".join(spelled.replace("\u2044", "/").replace("\u2212", "-").lower().split())
    tidy = LONE_FRACTION.sub(r"\g<1>0 ", spelled)
    found = WRITTEN.fullmatch(tidy) if len(text) <= LONGEST_TEXT else None
    if found is None:
        raise CardError(f"{shown!r} is no length. Write it like 4 1/4 in, 4.25 in, 10.8 cm or 108 mm.")
    written = UNIT_WORDS.get(found["unit"]) if found["unit"] else unit
    if written not in UNITS:
        raise CardError(f"{shown!r} needs a unit Paleta knows: in, mm or cm.")
    number = Fraction(found["decimal"].replace(",", ".")) if found["decimal"] else Fraction(int(found["whole"] or 0))
    if found["over"]:
        if int(found["under"]) == 0:
            raise CardError(f"{shown!r} has a fraction over nought.")
        number += Fraction(int(found["over"]), int(found["under"]))
    length = Length((-number if found["sign"] else number) * UNITS[written])
    if length.inches.denominator > FINEST_KEPT and (length.mm * 100).denominator != 1:
        raise CardError(f"{shown!r} is finer than can be kept: a hundredth of a millimetre is the least.")
    return length


@dataclass(frozen=True, slots=True)
class Shown:
    """What a length reads as: "4 1/4" or "108"; `about` where that is only the nearest."""

    text: str
    unit: str
    about: bool

    def __str__(self) -> str:
        return f"{'≈ ' if self.about else ''}{self.text} {self.unit}"


def show(length: Length, unit: str = "in") -> Shown:
    """The length in sixteenths of an inch, or in millimetres or centimetres to a hundredth of a millimetre.

    Parameters
    ----------
    length
        Exact, in either measure.
    unit
        "in", "mm" or "cm".
    """
    if unit not in UNITS:
        raise CardError(f"Lengths are shown in {', '.join(UNITS)}, not in {unit!r}.")
    if unit == "in":
        nearest = Fraction(round(length.inches * FINEST_SHOWN), FINEST_SHOWN)
        return Shown(_mixed(nearest), "in", nearest != length.inches)
    nearest = Fraction(round(length.mm * 100), 100)
    text = _decimal(nearest) if unit == "mm" else _decimal(nearest / 10, places=3)
    return Shown(text, unit, nearest != length.mm)


def _mixed(number: Fraction) -> str:
    whole, over = divmod(abs(number.numerator), number.denominator)
    sign = "-" if number < 0 else ""
    fraction = f"{over}/{number.denominator}" if over else ""
    return sign + (f"{whole} {fraction}".strip() if whole or not over else fraction)


def _decimal(number: Fraction, places: int = 2) -> str:
    whole, part = divmod(abs(int(number * 10**places)), 10**places)
    return ("-" if number < 0 else "") + f"{whole}.{part:0{places}d}".rstrip("0").rstrip(".")


@dataclass(frozen=True)
class Measure(Kind):
    """An exact length in least..most, written as `str` writes it and read as people write it."""

    least: Length
    most: Length

    def check(self, value: Any) -> None:
        if not isinstance(value, Length):
            raise ValueError(f"must be a length, got {value!r}")
        if not self.least <= value <= self.most:
            raise ValueError(f"must lie between {show(self.least)} and {show(self.most)}, got {show(value)}")

    def to_plain(self, value: Any) -> str:
        return str(value)

    def from_plain(self, plain: Any) -> Length:
        if not isinstance(plain, str):
            raise ValueError(f"is written as text with its unit, got {plain!r}")
        return parse_length(plain)

    def schema(self) -> Schema:
        pattern = r"^-?(\d+( \d+/\d+)?|\d+/\d+) in$|^-?\d+(\.\d{1,2})? mm$"
        return {"type": "string", "maxLength": LONGEST_TEXT, "pattern": pattern}
