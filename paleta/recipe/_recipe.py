"""The frozen record."""

from __future__ import annotations

import hashlib
from collections.abc import Mapping
from dataclasses import dataclass, field

from paleta.errors import RecipeError
from paleta.order import Plan
from paleta.recipe._sheet import Sheet

MOST_VERSIONS = 999_999


@dataclass(frozen=True, slots=True)
class ImpressionRecord:
    """Which picture the recipe is for. The hashes are SHA-256 of the kept picture and of its packed region map."""

    sha256: str
    regions_sha256: str
    width_px: int
    height_px: int
    dpi: float


@dataclass(frozen=True, slots=True, kw_only=True)
class Recipe:
    """One version. `files` holds the bytes that the hashes name, so that a recipe needs nothing but itself."""

    version: int
    impression: ImpressionRecord
    sheet: Sheet
    plan: Plan
    files: Mapping[str, bytes] = field(default_factory=dict)

    def __post_init__(self) -> None:
        if not 1 <= self.version <= MOST_VERSIONS:
            raise RecipeError(f"Versions count from 1 to {MOST_VERSIONS:,}.")
        for name, data in self.files.items():
            if hashlib.sha256(data).hexdigest() != name:
                raise RecipeError("A picture inside the recipe is damaged: its content does not fit its checksum.")
        for one in self.plan.passes:
            if one.pen not in self.sheet.colours.swatches:
                raise RecipeError(f"Pass {one.number} uses the swatch {one.swatch!r}, which is not in the recipe.")
            if one.region not in self.sheet.regions.settings:
                raise RecipeError(f"Pass {one.number} is on region {one.region}, which is not in the recipe.")
