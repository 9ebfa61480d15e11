"""In which order the passes are laid."""

from __future__ import annotations

from dataclasses import dataclass, replace

from paleta.errors import RecipeError
from paleta.fields import Choice, Flag, Many, Text, Written, holds
from paleta.media import MEDIA
from paleta.order import DEFAULT_SCHOOL, SCHOOL_SCHEMA, SCHOOLS, School, school_from_plain, school_to_plain
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
    """schools     by their codes, one for a medium; of a medium of which none is named the usual one.
    own_schools those of them that the user wrote, whole, so that a recipe needs nothing else.
    wish        what the order is to favour, one of ORDER_WISHES.
    masked      the figure lies under a mask while the background is coloured.
    taped       tape lies along the lines between grounds, such as a horizon or bands, while they are coloured.
    """

    schools: tuple[str, ...] = holds(Many(Text(40, 1), len(MEDIA), once=True), (), form=False, told=False)
    own_schools: tuple[School, ...] = holds(Many(SCHOOL, len(MEDIA)), (), form=False, told=False)
    wish: str = holds(Choice(ORDER_WISHES), "", said=lambda wish: f"order: {ORDER_WISHES[wish]}")
    masked: bool = holds(
        Flag(),
        False,
        said=lambda on: "a mask for the background" if on else "no mask",
        help="The figure lies under a mask while the background is coloured.",
    )
    taped: bool = holds(
        Flag(),
        False,
        said=lambda on: "tape between the grounds" if on else "no tape",
        help="Tape lies along the lines between grounds while they are coloured.",
    )

    def __post_init__(self) -> None:
        Part.__post_init__(self)
        own = {one.code: one for one in self.own_schools}
        for code in self.schools:
            if code not in SCHOOLS and code not in own:
                raise RecipeError(f"{code!r} is no school of shade order.")
        if own.keys() - set(self.schools):
            raise RecipeError("The sheet names other schools than those written on it.")
        media = [self._named(code).medium for code in self.schools]
        if len(set(media)) < len(media):
            raise RecipeError("A medium has one school of shade order.")

    def _named(self, code: str) -> School:
        return next((one for one in self.own_schools if one.code == code), None) or SCHOOLS[code]

    def school_of(self, medium: str) -> School:
        """The school of a medium: the one chosen, or else the usual one."""
        chosen = (one for one in map(self._named, self.schools) if one.medium == medium)
        return next(chosen, None) or SCHOOLS[DEFAULT_SCHOOL[medium]]

    def with_school(self, school: School) -> Order:
        """With this school for its medium."""
        others = [one for one in map(self._named, self.schools) if one.medium != school.medium]
        chosen = [*others, school]
        own = tuple(one for one in chosen if one.own)
        return replace(self, schools=tuple(one.code for one in chosen), own_schools=own)

    def changes_from(self, old: Order, *_settings: object) -> list[str]:
        lines = []
        for medium in MEDIA:
            was, now = old.school_of(medium), self.school_of(medium)
            if was != now:
                lines.append(f"School: {was.name} became {now.name}.")
        if old.wish != self.wish:
            lines.append(f"Order: {ORDER_WISHES[old.wish]} became {ORDER_WISHES[self.wish]}.")
        if old.masked != self.masked:
            lines.append(
                "The figure is masked for the background." if self.masked else "The figure is not masked any more."
            )
        if old.taped != self.taped:
            lines.append("The grounds are taped." if self.taped else "The grounds are not taped any more.")
        return lines
