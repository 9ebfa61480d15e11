"""What was stamped, with which ink, on which paper."""

from __future__ import annotations

from dataclasses import dataclass

from paleta.colour import Lab
from paleta.errors import RecipeError
from paleta.fields import LAB, Choice, Maybe, OneLine, Text, holds
from paleta.materials import LINES, PAPERS, POWDERS, Line, Paper
from paleta.recipe._paper import PAPER
from paleta.recipe._part import Part

LINE_NAMES = {line.code: line.name for line in LINES.values()}
POWDER_NAMES = {powder.code: powder.name for powder in POWDERS.values()}
PAPER_NAMES = {paper.code: paper.name for paper in PAPERS.values()}


@dataclass(frozen=True, slots=True, kw_only=True)
class Stamp(Part):
    """outline_ink is what the ink is made of, ink_name what the user calls it. ink_lab is its colour, None where it is
    as in the scan; powder is what a raised line is embossed with, empty where that is as in the scan. paper by its
    code; own_paper one of the user's, whole, so that a recipe needs nothing else; else None."""

    title: str = holds(Text(120, 1), said=lambda title: f"Called it {title}")
    outline_ink: str = holds(Choice(LINE_NAMES), "dye", said=lambda ink: f"Stamped with {LINE_NAMES[ink].lower()}")
    ink_name: str = holds(OneLine(60), "", said=lambda name: f"With {name}" if name else "With an ink of no name")
    ink_lab: Lab | None = holds(
        Maybe(LAB),
        None,
        said=lambda lab: "The line in another colour" if lab else "The line as in the scan",
        form=False,
        told=False,
    )
    powder: str = holds(
        Choice(POWDER_NAMES, blank=True), "",
        said=lambda code: f"Embossed with {POWDER_NAMES[code].lower()}" if code else "Embossed as in the scan",
    )  # fmt: skip
    paper: str = holds(Text(40, 1), "smooth-white", said=lambda code: f"On {PAPER_NAMES.get(code, code).lower()}")
    own_paper: Paper | None = holds(Maybe(PAPER), None, form=False, told=False)

    def __post_init__(self) -> None:
        Part.__post_init__(self)
        if self.own_paper is not None and self.own_paper.code != self.paper:
            raise RecipeError("The sheet names another paper than the one written on it.")
        if self.own_paper is None and self.paper not in PAPERS:
            raise RecipeError(f"There is no paper {self.paper!r}.")

    @property
    def paper_used(self) -> Paper:
        return self.own_paper or PAPERS[self.paper]

    @property
    def line(self) -> Line:
        return LINES[self.outline_ink]

    @property
    def line_lab(self) -> Lab | None:
        """The colour of the line on the card; None where it is as in the scan.

        A raised line has the colour of its powder. Through clear powder one sees the ink, or the paper if the ink has
        no colour.
        """
        powder = POWDERS.get(self.powder) if self.line.raised else None
        if powder is None:
            return self.ink_lab
        return powder.lab or self.ink_lab or self.paper_used.lab

    @property
    def line_said(self) -> str:
        """What the line is made of, in words."""
        powder = POWDERS.get(self.powder) if self.line.raised else None
        return f"{self.line.name}, {powder.name.lower()}" if powder else self.line.name

    def changes_from(self, old: Stamp, *_settings: object) -> list[str]:
        lines = []
        if old.title != self.title:
            lines.append(f"Title: {old.title} became {self.title}.")
        if old.outline_ink != self.outline_ink:
            lines.append(f"Outline ink: {LINE_NAMES[old.outline_ink]} became {LINE_NAMES[self.outline_ink]}.")
        if old.ink_name != self.ink_name:
            lines.append(f"Outline ink: {old.ink_name or 'no name'} became {self.ink_name or 'no name'}.")
        if (old.ink_lab, old.powder) != (self.ink_lab, self.powder):
            lines.append(f"The line has another colour now: {self.line_said.lower()}.")
        if old.paper != self.paper:
            lines.append(f"Paper: {old.paper_used.name} became {self.paper_used.name}.")
        return lines
