"""What is known of a paper."""

from __future__ import annotations

from dataclasses import dataclass, field

from paleta.colour import Lab, check_lab
from paleta.errors import SwatchError
from paleta.materials._weight import pounds_of

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
    of SURFACES; rank is the place in lists of those that ship."""

    code: str
    name: str
    lab: Lab
    gsm: float = 0.0
    kind: str = "cover"
    surface: str = "smooth"
    rank: int = field(default=0, compare=False)

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
