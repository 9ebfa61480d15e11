"""In which order the passes are laid."""

from __future__ import annotations

from dataclasses import dataclass

from paleta.errors import RecipeError
from paleta.fields import Choice, Flag, Maybe, Text, Written, holds
from paleta.order import SCHOOL_SCHEMA, SCHOOLS, School, school_from_plain, school_to_plain
from paleta.recipe._part import Part

ORDER_WISHES = {
    "": "fewest pen changes",
    "regions": "region by region",
    "focal": "focal image first",
    "background": "background first",
}
SCHOOL = Written(School, school_to_plain, school_from_plain, SCHOOL_SCHEMA)


@dataclass(frozen=True, slots=True, kw_only=True)
class Order(Part):
    """school      by its code; own_school one the user wrote, whole, so that a recipe needs nothing else; else None.
    wish        what the order is to favour, one of ORDER_WISHES.
    masked      the figure lies under a mask while the background is coloured.
    """

    school: str = holds(Text(40, 1), "M1", form=False)
    own_school: School | None = holds(Maybe(SCHOOL), None, form=False, told=False)
    wish: str = holds(Choice(ORDER_WISHES), "", said=lambda wish: f"order: {ORDER_WISHES[wish]}")
    masked: bool = holds(
        Flag(),
        False,
        said=lambda on: "a mask for the background" if on else "no mask",
        help="The figure lies under a mask while the background is coloured.",
    )

    def __post_init__(self) -> None:
        Part.__post_init__(self)
        if self.own_school is not None and self.own_school.code != self.school:
            raise RecipeError("The sheet names another school than the one written on it.")
        if self.own_school is None and self.school not in SCHOOLS:
            raise RecipeError(f"{self.school!r} is no school of shade order.")

    @property
    def school_used(self) -> School:
        """The school by its code: one of the trade's, or the user's own that stands on the sheet."""
        return self.own_school or SCHOOLS[self.school]

    def changes_from(self, old: Order, *_settings: object) -> list[str]:
        lines = []
        if old.school_used != self.school_used:
            lines.append(f"School: {old.school_used.name} became {self.school_used.name}.")
        if old.wish != self.wish:
            lines.append(f"Order: {ORDER_WISHES[old.wish]} became {ORDER_WISHES[self.wish]}.")
        if old.masked != self.masked:
            lines.append(
                "The figure is masked for the background." if self.masked else "The figure is not masked any more."
            )
        return lines
