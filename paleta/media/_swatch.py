"""What is known of a pen, paint or pencil, and of a paper."""

from __future__ import annotations

import math
from dataclasses import dataclass

from paleta.colour import Lab
from paleta.errors import SwatchError
from paleta.fields import unwanted_in
from paleta.media._weight import pounds_of

LONGEST_CODE = 40
MEDIA = {
    "marker": "Alcohol marker",
    "watercolour": "Watercolour",
    "pencil": "Coloured pencil",
    "soluble": "Water-soluble pen",
    "inkpad": "Blended ink pad",
}


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


@dataclass(frozen=True, slots=True)
class Paper:
    """A paper by its own colour. gsm is its weight in g/m2, 0 where unknown; kind says how pounds count."""

    code: str
    name: str
    lab: Lab
    gsm: float = 0.0
    kind: str = "cover"

    def __post_init__(self) -> None:
        check_lab(self.lab, self.name)

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
        Paper("smooth-white", "Smooth white card, 250 g/m2", (95.6, 0.3, -1.8), 250),
        Paper("cream", "Cream card, 250 g/m2", (92.8, 0.6, 8.2), 250),
        Paper("cold-press", "Watercolour paper, 300 g/m2", (94.6, -0.2, 3.0), 300, "watercolour"),
        Paper("toned-grey", "Toned grey, 220 g/m2", (71.0, 0.1, 1.4), 220, "text"),
        Paper("kraft", "Kraft card, 280 g/m2", (64.5, 8.3, 21.5), 280),
    )
}
REFERENCE_PAPER = PAPERS["smooth-white"]


@dataclass(frozen=True, slots=True)
class Swatch:
    """One pen, paint or pencil as measured with one coat on `paper`.

    code    unique within the drawer; stays with the swatch for good.
    family  the run of neighbouring lightnesses it belongs to, a plain colour word.
    two_coats  markers: a second coat on the first, dry, if it was measured.
    lab     one coat (marker), the wash at full strength (watercolour), even pressure (pencil).
    """

    code: str
    name: str
    medium: str
    lab: Lab
    family: str = ""
    paper: Paper = REFERENCE_PAPER
    two_coats: Lab | None = None

    def __post_init__(self) -> None:
        if not self.code:
            raise SwatchError("A swatch needs a code to be told from the others.")
        if self.medium not in MEDIA:
            raise SwatchError(f"{self.name}: the medium must be one of {', '.join(MEDIA)}, got {self.medium!r}.")
        check_lab(self.lab, self.name or self.code)
        if self.two_coats is not None:
            check_lab(self.two_coats, f"{self.name or self.code}, two coats")
