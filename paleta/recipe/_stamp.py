"""What was stamped, with which ink, on which paper."""

from __future__ import annotations

from dataclasses import dataclass

from paleta.fields import Choice, Text, holds
from paleta.media import INKS, PAPERS, Paper
from paleta.recipe._part import Part

PAPER_NAMES = {paper.code: paper.name for paper in PAPERS.values()}


@dataclass(frozen=True, slots=True, kw_only=True)
class Stamp(Part):
    title: str = holds(Text(120, 1), said=lambda title: f"Called it {title}")
    outline_ink: str = holds(Choice(INKS), "dye", said=lambda ink: f"Stamped with {INKS[ink].lower()}")
    paper: str = holds(Choice(PAPER_NAMES), "smooth-white", said=lambda code: f"On {PAPER_NAMES[code].lower()}")

    @property
    def paper_used(self) -> Paper:
        return PAPERS[self.paper]

    def changes_from(self, old: Stamp, *_settings: object) -> list[str]:
        lines = []
        if old.title != self.title:
            lines.append(f"Title: {old.title} became {self.title}.")
        if old.outline_ink != self.outline_ink:
            lines.append(f"Outline ink: {INKS[old.outline_ink]} became {INKS[self.outline_ink]}.")
        if old.paper != self.paper:
            lines.append(f"Paper: {PAPER_NAMES[old.paper]} became {PAPER_NAMES[self.paper]}.")
        return lines
