"""What is known of a pen, paint or pencil, and of a paper."""

from __future__ import annotations

import math
from dataclasses import dataclass

from paleta.colour import Lab
from paleta.errors import SwatchError
from paleta.fields import unwanted_in
from paleta.media._codes import CODES
from paleta.media._weight import pounds_of

LONGEST_CODE = 40
DILUTED = 0.42
"""Concentration of the wash that is measured beside the full one. From memory, common practice."""
LIGHT_PRESSURE, FIRM_PRESSURE = 0.5, 1.4
"""What is measured of a pencil beside even pressure, which is 1. From memory, common practice."""
# Outline inks by what they are made of; which fits which medium is common practice (docs/trade-notes.md, section Fit).
INKS = {
    "dye": "Dye ink for alcohol markers, dry",
    "waterproof": "Waterproof pigment ink, bone dry",
    "embossed": "Heat-embossed line",
    "pale": "Pale ink for no-line work",
}


def check_lab(lab: Lab, whose: str) -> None:
    """Raise SwatchError unless `lab` can be a measured surface colour."""
    if len(lab) != 3 or not all(isinstance(value, int | float) and math.isfinite(value) for value in lab):
        raise SwatchError(f"{whose}: a colour is three numbers L*, a*, b*, got {lab!r}.")
    if not (0 <= lab[0] <= 100 and abs(lab[1]) <= 128 and abs(lab[2]) <= 128):
        raise SwatchError(f"{whose}: L* must lie in 0..100 and a*, b* in -128..128, got {tuple(lab)}.")


def code_fault(code: str) -> str:
    """What is wrong with a swatch's code, in a sentence; empty if nothing is. Codes stand in addresses and files."""
    if not code.strip() or len(code) > LONGEST_CODE:
        return f"A code has 1 to {LONGEST_CODE} characters."
    if code in (".", "..") or set(code) & set("/\\\n\r\t") or unwanted_in(code):
        return f"{code[:LONGEST_CODE]!r} cannot be a code: no slashes, no dots alone, no line breaks."
    return ""


SURFACES = {
    "very smooth": "Very smooth",
    "smooth": "Smooth",
    "tooth": "A little tooth",
    "rough": "Rough",
    "glossy": "Glossy",
}


@dataclass(frozen=True, slots=True)
class Paper:
    """A paper by its own colour. gsm is its weight in g/m2, 0 where unknown; kind says how pounds count; surface is one
    of SURFACES."""

    code: str
    name: str
    lab: Lab
    gsm: float = 0.0
    kind: str = "cover"
    surface: str = "smooth"

    def __post_init__(self) -> None:
        check_lab(self.lab, self.name)
        if self.surface not in SURFACES:
            raise SwatchError(f"{self.name}: the surface must be one of {', '.join(SURFACES)}, got {self.surface!r}.")

    @property
    def weighed_name(self) -> str:
        """The name with its weight in pounds, as it is sold in places that count so."""
        if not self.gsm:
            return self.name
        kind = "watercolour" if self.kind == "watercolour" else f"{self.kind} stock"
        return f"{self.name} ({pounds_of(self.gsm, self.kind):.0f} lb {kind})"


# Invented papers with believable whites.
PAPERS = {
    paper.code: paper
    for paper in (
        Paper("smooth-white", "Smooth white card, 250 g/m2", (95.6, 0.3, -1.8), 250, surface="very smooth"),
        Paper("cream", "Cream card, 250 g/m2", (92.8, 0.6, 8.2), 250),
        Paper("cold-press", "Watercolour paper, 300 g/m2", (94.6, -0.2, 3.0), 300, "watercolour", "tooth"),
        Paper("toned-grey", "Toned grey, 220 g/m2", (71.0, 0.1, 1.4), 220, "text"),
        Paper("kraft", "Kraft card, 280 g/m2", (64.5, 8.3, 21.5), 280),
    )
}
REFERENCE_PAPER = PAPERS["smooth-white"]


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
