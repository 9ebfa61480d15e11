"""What is known of a pen, paint or pencil."""

from __future__ import annotations

import re
from dataclasses import dataclass
from functools import lru_cache

from paleta.colour import Lab, check_lab
from paleta.errors import SwatchError
from paleta.fields import unwanted_in
from paleta.materials import REFERENCE_PAPER, Paper
from paleta.media._codes import CODES

LONGEST_CODE = 40
AT_STRENGTH = "~"
"""Stands in a code before the hundredths of a strength."""
DILUTED = 0.42
"""Concentration of the wash that is measured beside the full one. From memory, common practice."""
LIGHT_PRESSURE, FIRM_PRESSURE = 0.5, 1.4
"""What is measured of a pencil beside even pressure, which is 1. From memory, common practice."""


def code_fault(code: str) -> str:
    """What is wrong with a swatch's code, in a sentence; empty if nothing is. Codes stand in addresses and files."""
    if not code.strip() or len(code) > LONGEST_CODE:
        return f"A code has 1 to {LONGEST_CODE} characters."
    if code in (".", "..") or set(code) & set("/\\\n\r\t") or unwanted_in(code):
        return f"{code[:LONGEST_CODE]!r} cannot be a code: no slashes, no dots alone, no line breaks."
    strength = split_code(code)[1]
    if strength < 1:
        return f"{code!r} cannot be a code: so is one written that is laid at {100 * strength:.0f} % of its strength."
    return ""


def code_at(code: str, strength: float) -> str:
    """The code under which a swatch laid at a strength (0..1, in hundredths) stands on a sheet.

    Parameters
    ----------
    code
        Of the swatch itself.
    strength
        1 gives that code.
    """
    percent = round(100 * strength)
    return code if percent == 100 else f"{code}{AT_STRENGTH}{percent}"


@lru_cache(maxsize=20_000)
def split_code(code: str) -> tuple[str, float]:
    """The code of the swatch itself, and the strength it is laid at: what `code_at` was given."""
    found = re.fullmatch(rf"(.+){AT_STRENGTH}([1-9][0-9]?)", code)
    return (found[1], int(found[2]) / 100) if found else (code, 1.0)


FURTHER = ("two_coats", "diluted", "light_pressure", "firm_pressure")
"""What may be measured of a swatch beside its one coat."""


@dataclass(frozen=True, slots=True)
class Swatch:
    """One pen, paint or pencil as measured with one coat on `paper`.

    code     unique within the drawer; stays with the swatch for good.
    family   the run of neighbouring lightnesses it belongs to, a plain colour word.
    lab      one coat (marker, ink pad), the wash at full strength (watercolour), even pressure (pencil).
    two_coats, diluted, light_pressure, firm_pressure
             further measurements on the same paper, where there are any: a second coat on the first, dry; the wash at
             DILUTED; LIGHT_PRESSURE and FIRM_PRESSURE.
    opacity  share of what lies below that one coat covers for good, 0..1; None = as usual for its medium.
    """

    code: str
    name: str
    medium: str
    lab: Lab
    family: str = ""
    paper: Paper = REFERENCE_PAPER
    two_coats: Lab | None = None
    diluted: Lab | None = None
    light_pressure: Lab | None = None
    firm_pressure: Lab | None = None
    opacity: float | None = None

    def __post_init__(self) -> None:
        if not self.code:
            raise SwatchError("A swatch needs a code to be told from the others.")
        if self.medium not in CODES:
            raise SwatchError(f"{self.name}: the medium must be one of {', '.join(CODES)}, got {self.medium!r}.")
        whose = self.name or self.code
        check_lab(self.lab, whose)
        for field in FURTHER:
            further = getattr(self, field)
            if further is not None:
                check_lab(further, f"{whose}, {field.replace('_', ' ')}")
        if self.opacity is not None and not 0 <= self.opacity <= 1:
            raise SwatchError(f"{whose}: the opacity must lie in 0..1, got {self.opacity}.")

    def recoloured(self, code: str, name: str, lab: Lab) -> Swatch:
        """One of its kind in another colour, of which nothing further is known."""
        return Swatch(code, name, self.medium, lab, self.family, self.paper, opacity=self.opacity)
