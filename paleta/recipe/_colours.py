"""The medium, the drawer worked from, and every swatch the ramps name."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

from paleta.fields import Choice, Table, Text, holds
from paleta.media import MEDIA, Swatch
from paleta.recipe._part import Part
from paleta.recipe._region import RegionSetting, Settings
from paleta.recipe._swatch import SWATCH

KEY_NAMES = {"light": "light key", "middle": "middle key", "night": "night key"}
MOST_SWATCHES = 4000


@dataclass(frozen=True, slots=True, kw_only=True)
class Colours(Part):
    """drawer  the user's drawer by its number, empty = any of the medium.
    key     how light the picture is meant to be.
    swatches  by code, as measured when they were chosen; under_swatches the markers beneath, since drawers may use
            the same codes as others.
    """

    medium: str = holds(Choice(MEDIA), "marker", form=False)
    drawer: str = holds(Text(18, pattern="[0-9]+"), "", form=False, told=False)
    key: str = holds(Choice(KEY_NAMES, blank=True), "", said=lambda key: f"a picture in {key} key" if key else "no key")
    swatches: Mapping[str, Swatch] = holds(Table(SWATCH, "code", MOST_SWATCHES), dict, form=False, told=False)
    under_swatches: Mapping[str, Swatch] = holds(Table(SWATCH, "code", MOST_SWATCHES), dict, form=False, told=False)

    def changes_from(self, old: Colours, before: Settings, after: Settings) -> list[str]:
        lines = []
        if old.medium != self.medium:
            lines.append(f"Medium: {MEDIA[old.medium]} became {MEDIA[self.medium]}.")
        if old.key != self.key:
            lines.append(f"Key: {old.key or 'none'} became {self.key or 'none'}.")
        if bool(old.under_swatches) != bool(self.under_swatches):
            lines.append(
                "Pencil goes over the marker now." if self.under_swatches else "There is no marker beneath any more."
            )
        for label in sorted(before.keys() & after.keys()):
            if before[label].ramp != after[label].ramp:
                lines.append(f"{after[label].name}: {old._names(before[label])} became {self._names(after[label])}.")
        for code in sorted(old.swatches.keys() & self.swatches.keys()):
            if old.swatches[code].lab != self.swatches[code].lab:
                lines.append(f"{self.swatches[code].name} was measured anew.")
        return lines

    def _names(self, setting: RegionSetting) -> str:
        return " · ".join(self.swatches[code].name for code in setting.ramp) or "no colours"
