"""The decisions for one region."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

from paleta.colour import plain_name
from paleta.errors import RecipeError
from paleta.fields import LAB, POINT_MM, Choice, Flag, Many, Maybe, Number, Text, Whole, check_fields, holds
from paleta.light import FORMS

ROLES = {"focal": "Focal image", "background": "Background"}
TAGS = (
    "skin", "hair", "fur", "feather", "leaf", "stem", "petal", "berry", "wood", "stone", "metal", "glass", "fabric",
    "paper", "water", "sky", "snow", "sand", "fire",
)  # fmt: skip
"""Words offered for tagging, in the trade's usual order of use (common practice)."""
FORM_NAMES = {form: form for form in FORMS}
TAGS_KIND = Many(Text(24, 1), 6)
CODE = Text(60, 1)


@dataclass(frozen=True, slots=True)
class RegionSetting:
    """left_as_paper  nothing is laid here.
    bulge, axis_deg, depth, base_mm, turn_deg  as in paleta.light.Body.
    body           regions with the same number above 0 form one body; 0 = a body of its own.
    thing          regions with the same word form one thing, which is its name; empty = a thing of its own.
    ramp           swatch codes, palest first; empty until chosen.
    wish_lab       the colour the user asked for, if any.
    by_hand        whether the ramp was changed by hand after Paleta proposed it.
    under          codes of the marker ramp beneath, palest first, when pencil goes over marker.
    bare_highlight the lightest spot stays paper: one zone more than the ramp has swatches.
    role           "" or one of ROLES; tags: words that go-tos and the user find regions by.
    guessed        form and depth are still Paleta's first guess.
    """

    name: str = holds(Text(60, 1), said=lambda name: f"called {name}")
    left_as_paper: bool = holds(Flag(), False, said=lambda left: "left as paper" if left else "to be coloured")
    form: str = holds(Choice(FORM_NAMES), "dome", said=str)
    bulge: float = holds(Number(0.05, 2), 1.0, said=lambda bulge: f"bulge {bulge:g}")
    axis_deg: float | None = holds(Maybe(Number(0, 359.999)), None, said=lambda _: "axis turned")
    depth: int = holds(Whole(-99, 99), 0, said=lambda depth: f"depth {depth}")
    body: int = holds(Whole(0, 1_000_000), 0, form=False, help="Regions with the same number above 0 form one body.")
    thing: str = holds(Text(60), "", form=False, help="The name of its thing; empty = a thing of its own.")
    shades: int = holds(Whole(1, 5), 3, said=lambda shades: f"{shades} shades")
    ramp: tuple[str, ...] = holds(Many(CODE, 5, once=True), (), form=False, told=False)
    wish_lab: tuple[float, float, float] | None = holds(
        Maybe(LAB), None, said=lambda lab: f"wished {plain_name(lab)}" if lab else "no wish", told=False
    )
    by_hand: bool = holds(Flag(), False, form=False)
    base_mm: tuple[float, float] | None = holds(
        Maybe(POINT_MM), None, said=lambda base: "base moved" if base else "base left to Paleta"
    )
    turn_deg: float = holds(Number(-180, 180), 0.0, said=lambda turn: f"light turned by {turn:.0f}°")
    bare_highlight: bool = holds(Flag(), False, said=lambda bare: f"highlight {'left bare' if bare else 'coloured'}")
    role: str = holds(Choice(ROLES, blank=True), "", said=lambda role: f"marked as {role or 'nothing more'}")
    tags: tuple[str, ...] = holds(TAGS_KIND, (), said=lambda tags: f"tagged {', '.join(tags)}" if tags else "no tags")
    guessed: bool = holds(Flag(), False, form=False, help="Form and depth are still a first guess.")
    under: tuple[str, ...] = holds(Many(CODE, 5), (), form=False, told=False)

    def __post_init__(self) -> None:
        check_fields(self, RecipeError, self.name if isinstance(self.name, str) else "A region")


def changes_of_region(one: RegionSetting, other: RegionSetting) -> list[str]:
    """What became of a region, its colours aside."""
    lines = []
    if one.name != other.name:
        lines.append(f"{one.name} is now called {other.name}.")
    if one.left_as_paper != other.left_as_paper:
        lines.append(f"{other.name} is {'left as paper' if other.left_as_paper else 'coloured'} now.")
    if one.role != other.role or one.tags != other.tags:
        words = ", ".join(filter(None, (other.role, *other.tags))) or "nothing"
        lines.append(f"{other.name} is marked as {words} now.")
    if one.bare_highlight != other.bare_highlight:
        lines.append(f"{other.name}: the highlight is {'left bare' if other.bare_highlight else 'coloured'} now.")
    if one.base_mm != other.base_mm or one.turn_deg != other.turn_deg:
        lines.append(f"{other.name}: its base or its own light was moved.")
    if (one.form, one.bulge, one.axis_deg) != (other.form, other.bulge, other.axis_deg):
        lines.append(f"{other.name}: {one.form} became {other.form}, bulge {other.bulge:g}.")
    if one.body != other.body:
        lines.append(f"{other.name} {'joined' if other.body else 'left'} a body.")
    if one.thing != other.thing:
        lines.append(f"{other.name} {f'belongs to {other.thing}' if other.thing else 'stands for itself'} now.")
    if one.depth != other.depth:
        lines.append(f"{other.name} stands {'nearer' if other.depth > one.depth else 'farther back'} now.")
    return lines


Settings = Mapping[int, RegionSetting]
"""Of regions by their label."""
