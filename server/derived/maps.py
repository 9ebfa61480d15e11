"""Which picture and map a sheet stands on, and the map after the sheet's edits."""

from __future__ import annotations

import hashlib
import json
from dataclasses import dataclass

from paleta.impression import RegionMap, apply_edits, labels_from_png
from paleta.recipe import Sheet, once_per_sheet
from server.derived.memory import memory
from server.files import store


@dataclass(frozen=True, slots=True)
class Stamping:
    """The kept picture of one stamping and the map that was found on it first, both by their SHA-256."""

    impression_sha256: str
    regions_sha256: str
    width_px: int
    height_px: int
    dpi: float


def map_sha256(stamping: Stamping, sheet: Sheet) -> str:
    """Which packed map the sheet stands on: one found again, or the one the piece came with."""
    return sheet.regions.map_sha256 or stamping.regions_sha256


def map_key(stamping: Stamping, sheet: Sheet) -> str:
    """Names the map after the sheet's edits."""
    return _map_key(sheet, stamping)


@once_per_sheet
def _map_key(sheet: Sheet, stamping: Stamping) -> str:
    edits = json.dumps([dict(edit) for edit in sheet.regions.edits], sort_keys=True)
    return hashlib.sha256(f"{map_sha256(stamping, sheet)} {stamping.dpi!r} {edits}".encode()).hexdigest()


def found_map(stamping: Stamping, sheet: Sheet) -> RegionMap:
    """The map as it was found, before any edit."""
    name = map_sha256(stamping, sheet)
    return memory.get(("found", name, stamping.dpi), lambda: labels_from_png(store.fetch(name), dpi=stamping.dpi))


def region_map(stamping: Stamping, sheet: Sheet) -> RegionMap:
    """The map after the sheet's edits.

    Raises
    ------
    EditError
        If an edit does not fit the map.
    """
    if not sheet.regions.edits:
        return found_map(stamping, sheet)
    return memory.get(
        ("map", map_key(stamping, sheet)), lambda: apply_edits(found_map(stamping, sheet), sheet.regions.edits)
    )
