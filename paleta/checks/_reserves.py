"""What must stay bare paper, said before the first pass."""

from __future__ import annotations

import numpy as np

from paleta.impression import RegionMap
from paleta.light import reserved_zones
from paleta.recipe import Sheet

NAMES_SHOWN = 3


def reserves(sheet: Sheet, region_map: RegionMap) -> list[str]:
    """One sentence for every glow and every ground that keeps paper bare, and one for all bare highlights.

    Parameters
    ----------
    sheet
        What is planned.
    region_map
        The sheet's own regions.
    """
    lines = []
    for number, glow in enumerate(sheet.light.glows, start=1):
        bare = reserved_zones(region_map.labels.shape, [glow], px_per_mm=region_map.px_per_mm)
        if bare is None:
            continue
        settings = sheet.regions.settings
        touched = [settings[int(label)].name for label in np.unique(region_map.labels[bare]) if label > 0]
        where = f" in {_listed(touched)}" if touched else ""
        lines.append(
            f"Mark {glow.reserve_mm:g} mm round glow {number}{where} with the palest shade, and colour no further: "
            "the paper within is the light."
        )
    regions = sheet.regions.settings.values()
    for one in regions:
        if one.fade is not None and one.fade.kind == "point" and one.fade.bare_mm and one.coats:
            lines.append(
                f"On {one.name} mark the ring round its light first, {one.fade.bare_mm:g} mm from the middle, with the "
                "palest shade, and never colour over it: everything gets darker away from it."
            )
    lit = [one.name for one in regions if one.bare_highlight and one.coats and not one.left_as_paper]
    if lit:
        lines.append(f"Leave the lightest spot bare on {_listed(lit)}.")
    return lines


def _listed(names: list[str]) -> str:
    more = len(names) - NAMES_SHOWN
    return ", ".join(names[:NAMES_SHOWN]) + (f" and {more} more" if more > 0 else "")
