"""What will not show on a ground: a fade without depth. Common practice (docs/trade-notes.md, section Grounds); the
limits are from memory."""

from __future__ import annotations

from collections.abc import Mapping, Sequence

from paleta.colour import difference
from paleta.ground import shades_for
from paleta.media import MEDIUMS, WATER_TURN, Swatch, seen_on
from paleta.recipe import RegionSetting, Sheet

NO_DEPTH = 14.0
"""Between palest and deepest, in L*; less hardly shows as a fade."""
FAR = 15.0
"""CIEDE2000 between the wished colour and the nearest in a ground; at so much nobody would call it the same. From
memory."""


def ground_advice(sheet: Sheet, lengths_mm: Mapping[int, float]) -> list[str]:
    """One sentence for every ground that is far from its wish, or whose fade is too shallow or too long for its
    swatches. What was proposed is the most that the drawer has: only one's own choice is asked for more.

    Parameters
    ----------
    sheet
        What is planned.
    lengths_mm
        How long the fade of each ground is by label, as `paleta.ground.length_mm` gives.
    """
    lines = _beside_an_open_figure(sheet)
    for label, length in lengths_mm.items():
        setting = sheet.regions.settings[label]
        if not setting.coats:
            continue
        swatches = [sheet.colours.swatches[pen] for pen in setting.coats[0].pens]
        lines += _far_from_wish(sheet, setting, swatches)
        if length <= 0:
            continue
        lights = [swatch.lab[0] for swatch in swatches]
        apart = max(lights) - min(lights)
        if len(swatches) == 2 and apart < NO_DEPTH:
            lines.append(
                f"{setting.name}: {swatches[0].name} and {swatches[1].name} are only {apart:.0f} apart in lightness; a "
                "third, deeper one at the far end gives the fade its depth."
            )
        elif setting.by_hand and 1 < len(swatches) < shades_for(length):
            lines.append(
                f"{setting.name} fades over {length:.0f} mm in {len(swatches)} shades: {shades_for(length)} melt "
                "better over so long a way."
            )
    return lines


def _beside_an_open_figure(sheet: Sheet) -> list[str]:
    """What is to be known before the first pass of a ground whose figure lies under no mask."""
    grounds, settings = sheet.regions.fades(), sheet.regions.settings
    if sheet.order.masked or not any(one.coats for label, one in settings.items() if label not in grounds):
        return []
    lines = []
    for label in grounds:
        name, media = settings[label].name, {coat.medium for coat in settings[label].coats}
        if any(MEDIUMS[medium].soils_masks for medium in media):
            lines.append(
                f"{name} is laid with pads and nothing covers the figure: ink goes over its edges. Cover it with a "
                "mask, or keep the pad off it."
            )
        elif any(MEDIUMS[medium].turn == WATER_TURN for medium in media):
            lines.append(f"{name} is laid with water and nothing covers the figure: stop at its line, or cover it.")
    return lines


def _far_from_wish(sheet: Sheet, setting: RegionSetting, swatches: Sequence[Swatch]) -> list[str]:
    if setting.wish_lab is None or setting.by_hand:
        return []
    paper = sheet.stamp.paper_used
    apart, nearest = min((float(difference(seen_on(one, paper), setting.wish_lab)), one.name) for one in swatches)
    if apart <= FAR:
        return []
    return [
        f"{setting.name} will not look as wished: {nearest} comes nearest in this drawer and is {apart:.0f} off. "
        "Another medium or another colour may do better."
    ]
