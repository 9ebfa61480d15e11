"""What will not show on a ground: a fade without depth. Common practice (docs/trade-notes.md, section Grounds); the
limits are from memory."""

from __future__ import annotations

from collections.abc import Mapping

from paleta.ground import shades_for
from paleta.recipe import Sheet

NO_DEPTH = 14.0
"""Between palest and deepest, in L*; less hardly shows as a fade."""


def ground_advice(sheet: Sheet, lengths_mm: Mapping[int, float]) -> list[str]:
    """One sentence for every ground whose fade is too shallow or too long for its swatches; `lengths_mm` is how long
    the fade of each ground is, as paleta.ground.length_mm tells.

    Parameters
    ----------
    sheet
        What is planned.
    lengths_mm
        How long the fade of each ground is by label, as `paleta.ground.length_mm` gives.
    """
    lines = []
    for label, length in lengths_mm.items():
        setting = sheet.regions.settings[label]
        if not setting.coats or length <= 0:
            continue
        swatches = [sheet.colours.swatches[pen] for pen in setting.coats[0].pens]
        lights = [swatch.lab[0] for swatch in swatches]
        apart = max(lights) - min(lights)
        if len(swatches) == 2 and apart < NO_DEPTH:
            lines.append(
                f"{setting.name}: {swatches[0].name} and {swatches[1].name} are only {apart:.0f} apart in lightness; a "
                "third, deeper one at the far end gives the fade its depth."
            )
        elif len(swatches) < shades_for(length) and len(swatches) > 1:
            lines.append(
                f"{setting.name} fades over {length:.0f} mm in {len(swatches)} shades: {shades_for(length)} melt "
                "better over so long a way."
            )
    return lines
