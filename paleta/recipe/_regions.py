"""How the regions were found and edited, and what was decided for each."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any

from paleta.fields import LABEL, SHA256, Many, Number, Numbers, Record, Table, Written, holds
from paleta.impression import EDIT_SCHEMA
from paleta.recipe._part import Part
from paleta.recipe._region import RegionSetting, changes_of_region

MOST_REGIONS = 4000
EDIT = Written(Mapping, dict, dict, EDIT_SCHEMA)
PAIR = Numbers(((1, 1_000_000), (1, 1_000_000)))


@dataclass(frozen=True, slots=True, kw_only=True)
class Regions(Part):
    """sensitivity  how readily grey is taken for ink, gap_mm how wide a gap in a line is closed, when the regions were
                 looked for (paleta.impression.find_regions).
    map_sha256   the packed map they were found on; empty = the one the piece came with.
    edits        changes to the found regions, replayed in order (paleta.impression.apply_edits).
    fronts       (nearer, farther) pairs of regions that the user decided.
    settings     by region label after the edits.
    """

    sensitivity: float = holds(Number(-1, 1), 0.0, form=False, help="More or less than usual was taken for ink.")
    gap_mm: float = holds(Number(0.1, 5), 1.0, form=False)
    map_sha256: str = holds(SHA256, "", form=False, told=False)
    edits: tuple[Mapping[str, Any], ...] = holds(Many(EDIT, 4000), (), form=False, told=False)
    fronts: tuple[tuple[int, int], ...] = holds(Many(PAIR, 4000), (), form=False, told=False)
    settings: Mapping[int, RegionSetting] = holds(
        Table(Record(RegionSetting), "label", MOST_REGIONS, LABEL), dict, form=False, told=False
    )

    def body_mates(self, label: int) -> tuple[int, ...]:
        """All regions of the body that `label` belongs to, itself among them, rising."""
        body = self.settings[label].body
        if not body:
            return (label,)
        return tuple(other for other, one in self.settings.items() if one.body == body)

    def leads(self) -> dict[int, int]:
        """For every region the lowest label of its body, which stands for it."""
        first: dict[int, int] = {}
        return {
            label: first.setdefault(one.body, label) if one.body else label
            for label, one in sorted(self.settings.items())
        }

    def changes_from(self, old: Regions, *_settings: object) -> list[str]:
        lines = []
        if old.edits != self.edits:
            lines.append(f"Regions: {len(old.settings)} became {len(self.settings)}.")
        for label in sorted(old.settings.keys() & self.settings.keys()):
            lines += changes_of_region(old.settings[label], self.settings[label])
        return lines
