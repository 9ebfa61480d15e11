"""The usual medium, the drawers worked from, and every swatch the ramps name."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

from paleta.fields import Choice, Many, Table, Text, holds
from paleta.light import ACCENTS
from paleta.media import MEDIA, Swatch
from paleta.order import Pen
from paleta.recipe._part import Part
from paleta.recipe._region import RegionSetting, Settings
from paleta.recipe._swatch import SWATCH

KEY_NAMES = {"light": "light key", "middle": "middle key", "night": "night key"}
MOST_SWATCHES = 4000


@dataclass(frozen=True, slots=True, kw_only=True)
class Colours(Part):
    """medium  what is taken for colours chosen next.
    drawers   the user's drawers worked from, by their numbers; of a medium of which none is named any will do.
    key       how light the picture is meant to be.
    swatches  by medium and code, as measured when they were chosen.
    """

    medium: str = holds(Choice(MEDIA), "marker", form=False)
    drawers: tuple[str, ...] = holds(Many(Text(18, 1, pattern="[0-9]+"), 20, once=True), (), form=False, told=False)
    key: str = holds(Choice(KEY_NAMES, blank=True), "", said=lambda key: f"a picture in {key} key" if key else "no key")
    swatches: Mapping[Pen, Swatch] = holds(
        Table(SWATCH, ("medium", "code"), MOST_SWATCHES), dict, form=False, told=False
    )

    def changes_from(self, old: Colours, before: Settings, after: Settings) -> list[str]:
        lines = []
        if old.medium != self.medium:
            lines.append(f"Usual medium: {MEDIA[old.medium]} became {MEDIA[self.medium]}.")
        if old.key != self.key:
            lines.append(f"Key: {old.key or 'none'} became {self.key or 'none'}.")
        for label in sorted(before.keys() & after.keys()):
            was, now = before[label], after[label]
            if was.coats != now.coats:
                lines.append(f"{now.name}: {old.names_of(was)} became {self.names_of(now)}.")
            if was.accents != now.accents:
                kinds = ", ".join(ACCENTS[accent.kind].name.lower() for accent in now.accents) or "none"
                lines.append(f"{now.name}: accents are {kinds} now.")
        for pen in sorted(old.swatches.keys() & self.swatches.keys()):
            if old.swatches[pen].lab != self.swatches[pen].lab:
                lines.append(f"{self.swatches[pen].name} was measured anew.")
        return lines

    def names_of(self, setting: RegionSetting) -> str:
        """The coats of a region by the names of their swatches, lowest first."""
        coats = (" · ".join(self.swatches[pen].name for pen in coat.pens) for coat in setting.coats)
        return ", then ".join(coats) or "no colours"
