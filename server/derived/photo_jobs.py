"""Heavy jobs with photos of finished cards, as they run in a process of their own."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from typing import Any

import numpy as np

from paleta import photo_check
from paleta.colour import Lab
from paleta.devices import HOME_LIGHTS, HandFault, colour_card, photograph_card
from paleta.impression import Corners, apply_edits, check_corners, labels_from_png
from paleta.light import relief_from_bytes
from paleta.picture import planned
from paleta.recipe import Sheet
from server.derived.jobs import RUN_PHOTO_QUALITY, UNMEASURED_DPI, jpeg, read_within, small_photo

SIMULATED_PX = (1650, 2200)
"""Of the simulated camera's photos: enough to measure, and quickly made."""


@dataclass(frozen=True, slots=True)
class CheckedCard:
    """What a photo of a card says, as it is kept: `report` is JSON, `photo` and `flat` are JPEG."""

    report: dict[str, Any]
    photo: bytes
    flat: bytes


def check_card(
    data: bytes, sheet: Sheet, packed_map: bytes, dpi: float, relief: bytes, corners: Corners | None, paler: bool
) -> CheckedCard:
    """Hold a photo of a finished card against the sheet it was made along.

    Raises
    ------
    PhotoUnfit, NotThisCard
        If it says nothing, or nothing of this card.
    """
    photo = read_within(data, dpi=UNMEASURED_DPI)
    region_map = apply_edits(labels_from_png(packed_map, dpi=dpi), sheet.regions.edits)
    found = photo_check.compare(
        photo,
        sheet,
        region_map,
        relief=relief_from_bytes(relief),
        corners=None if corners is None else check_corners(corners),
        paler=paler,
    )
    flat = np.clip(np.nan_to_num(found.flat, nan=0.5) * 255 + 0.5, 0, 255).astype(np.uint8)
    report = {
        "verdict": photo_check.verdict(sheet, found.readings, found.faults, "the plan"),
        "laid": round(min(max(found.laid, 0.0), 1.0), 3),
        "readings": [photo_check.reading_to_plain(one) for one in found.readings.values()],
        "faults": [photo_check.fault_to_plain(one) for one in found.faults],
        "unseen": list(found.unseen),
        "notes": list(found.notes),
        "light": _laid_light(found.light),
        "lights": {str(label): _laid_light(one) for label, one in found.lights.items()},
    }
    return CheckedCard(report, small_photo(data), jpeg(flat, RUN_PHOTO_QUALITY))


def _laid_light(light: photo_check.LaidLight | None) -> list[float] | None:
    return None if light is None else [round(light.azimuth_deg, 1), round(light.doubt_deg, 1)]


def make_card_photo(
    sheet: Sheet, packed_map: bytes, dpi: float, relief: bytes, faults: Sequence[HandFault], outline: Lab, light: str,
    seed: int,
) -> bytes:  # fmt: skip
    """A photo of a card that a simulated hand coloured along the sheet and a simulated camera took."""
    region_map = apply_edits(labels_from_png(packed_map, dpi=dpi), sheet.regions.edits)
    plan = planned(sheet, region_map, relief_from_bytes(relief))
    card = colour_card(plan, region_map, faults, seed=seed, outline=outline)
    home = replace(HOME_LIGHTS[light], size_px=SIMULATED_PX)
    return photograph_card(card, home, px_per_mm=region_map.px_per_mm, seed=seed)[0]
