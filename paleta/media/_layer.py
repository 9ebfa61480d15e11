"""A swatch as it is laid once or more."""

from __future__ import annotations

from dataclasses import dataclass

from paleta.errors import SwatchError
from paleta.media._swatch import FIRM_PRESSURE, Swatch


@dataclass(frozen=True, slots=True)
class Layer:
    """One laying of a swatch.

    coats     how often, >= 0; fractions are partly melted coats.
    dilution  watercolour: concentration, 1 = full strength, 0 = clean water.
    pressure  pencil: 1 = even, up to 1.4 = firm, 0 = not touching.
    """

    swatch: Swatch
    coats: float = 1
    dilution: float = 1.0
    pressure: float = 1.0

    def __post_init__(self) -> None:
        if not 0 <= self.coats <= 20:
            raise SwatchError(f"coats must lie in 0..20, got {self.coats}.")
        if not 0 <= self.dilution <= 1:
            raise SwatchError(f"dilution must lie in 0..1, got {self.dilution}.")
        if not 0 <= self.pressure <= FIRM_PRESSURE:
            raise SwatchError(f"pressure must lie in 0..{FIRM_PRESSURE}, got {self.pressure}.")
