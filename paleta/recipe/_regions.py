"""How the regions were found and edited, and what was decided for each."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any

from paleta.fields import LABEL, SHA256, Many, Number, Numbers, Record, Table, Written, holds
from paleta.ground import Fade
from paleta.impression import EDIT_SCHEMA
from paleta.light import FORMS
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
    unsure       groups of regions that may be alike, to be asked about.
    settings     by region label after the edits.
    """

    sensitivity: float = holds(Number(-1, 1), 0.0, form=False, help="More or less than usual was taken for ink.")
    gap_mm: float = holds(Number(0.1, 5), 1.0, form=False)
    map_sha256: str = holds(SHA256, "", form=False, told=False)
    edits: tuple[Mapping[str, Any], ...] = holds(Many(EDIT, 4000), (), form=False, told=False)
    fronts: tuple[tuple[int, int], ...] = holds(Many(PAIR, 4000), (), form=False, told=False)
    unsure: tuple[tuple[int, ...], ...] = holds(Many(Many(LABEL, MOST_REGIONS), 400), (), form=False, told=False)
    settings: Mapping[int, RegionSetting] = holds(
        Table(Record(RegionSetting), "label", MOST_REGIONS, LABEL), dict, form=False, told=False
    )

    def fades(self) -> dict[int, Fade]:
        """How each ground fades."""
        return {label: one.fade for label, one in self.settings.items() if one.fade is not None}

    def body_mates(self, label: int) -> tuple[int, ...]:
        """All regions of the body that `label` belongs to, itself among them, rising."""
        body = self.settings[label].body
        if not body:
            return (label,)
        return tuple(other for other, one in self.settings.items() if one.body == body)

    def thing_mates(self, label: int) -> tuple[int, ...]:
        """All regions of the thing that `label` belongs to, itself among them, rising."""
        thing = self.settings[label].thing
        if not thing:
            return (label,)
        return tuple(other for other, one in self.settings.items() if one.thing == thing)

    def questions(self) -> list[tuple[int, ...]]:
        """Of what may be alike, all regions of the things concerned; what is one thing by now, or has gone, is no
        question any more."""
        asked = []
        for group in self.unsure:
            there = [label for label in group if label in self.settings]
            whole = sorted({mate for label in there for mate in self.thing_mates(label)})
            things = {self.settings[label].thing or label for label in there}
            if len(things) > 1:
                asked.append(tuple(whole))
        return asked

    def leads(self) -> dict[int, int]:
        """For every region the lowest label of its body, which stands for it."""
        first: dict[int, int] = {}
        return {
            label: first.setdefault(one.body, label) if one.body else label
            for label, one in sorted(self.settings.items())
        }

    def thing_leads(self) -> dict[int, int]:
        """For every region the lowest label of what gets its colours with it: its thing, or else its body."""
        bodies, first = self.leads(), dict[str, int]()
        return {
            label: first.setdefault(one.thing, label) if one.thing else bodies[label]
            for label, one in sorted(self.settings.items())
        }

    def tags_of(self, label: int) -> tuple[str, ...]:
        """What a region is said to be, or what its form tells."""
        one = self.settings[label]
        return one.tags or FORMS[one.form].tags

    def changes_from(self, old: Regions, *_settings: object) -> list[str]:
        lines = []
        if old.edits != self.edits:
            lines.append(f"Regions: {len(old.settings)} became {len(self.settings)}.")
        for label in sorted(old.settings.keys() & self.settings.keys()):
            lines += changes_of_region(old.settings[label], self.settings[label])
        return lines
