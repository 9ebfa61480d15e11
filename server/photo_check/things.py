"""The strip of a card: how far each of its things came out otherwise, and where its shades say the light stood."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from paleta.colour import lab_to_hex
from paleta.light import Lamp
from paleta.photo_check import RegionReading, things_off
from paleta.recipe import Sheet

Light = list[float] | None
"""Direction and doubt in degrees; None where the shades do not tell."""


def things_told(
    sheet: Sheet, readings: Mapping[int, RegionReading], lights: Mapping[str, Light]
) -> list[dict[str, Any]]:
    """Every thing as it is kept and told, the one farthest off first; `lights` by label."""
    return [
        {
            "name": one.name,
            "size": one.size,
            "plan_hex": lab_to_hex(one.plan),
            "seen_hex": lab_to_hex(one.seen),
            **clock_told(next((lights[str(label)] for label in one.regions if str(label) in lights), None)),
        }
        for one in things_off(sheet, readings)
    ]


def clock_told(light: Light) -> dict[str, Any]:
    """Where the light stood, as a clock position with its doubt."""
    if light is None:
        return {"clock": "", "doubt_deg": None}
    azimuth, doubt = light
    return {"clock": Lamp(azimuth_deg=azimuth % 360, elevation_deg=40).clock, "doubt_deg": doubt}
