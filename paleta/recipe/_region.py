"""The decisions for one region."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, replace

from paleta.colour import plain_name
from paleta.errors import RecipeError
from paleta.fields import LAB, POINT_MM, Choice, Flag, Many, Maybe, Number, Record, Text, Whole, check_fields, holds
from paleta.ground import Fade
from paleta.light import FORMS
from paleta.media import split_code, stack_fault
from paleta.order import Pen
from paleta.recipe._coat import MOST_COATS, Accent, Coat, accents_in_laying_order

ROLES = {"focal": "Focal image", "background": "Background"}
TAGS = (
    "skin", "hair", "fur", "feather", "leaf", "stem", "petal", "berry", "wood", "stone", "metal", "glass", "fabric",
    "paper", "water", "sky", "snow", "sand", "fire",
)  # fmt: skip
"""Words offered for tagging, in the trade's usual order of use (common practice)."""
FORM_NAMES = {form.code: form.name for form in FORMS.values()}
TAGS_KIND = Many(Text(24, 1), 6)
MOST_ACCENTS = 6


@dataclass(frozen=True, slots=True)
class RegionSetting:
    """left_as_paper  nothing is laid here.
    bulge, axis_deg, depth, base_mm, turn_deg  as in paleta.light.Body.
    body           regions with the same number above 0 form one body; 0 = a body of its own.
    thing          regions with the same word form one thing, which is its name; empty = a thing of its own.
    coats          media with their ramps, lowest first, each medium once; none until chosen.
    accents        passes that follow the light over all coats, or touches of a background.
    fade           of a ground: how it fades, which takes the place of its form's light.
    wish_lab       the colour the user asked for, if any.
    by_hand        whether a ramp was changed by hand after Paleta proposed it.
    bare_highlight the lightest spot stays paper: one zone more than the longest ramp has swatches.
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
    coats: tuple[Coat, ...] = holds(Many(Record(Coat), MOST_COATS), (), form=False, told=False)
    accents: tuple[Accent, ...] = holds(Many(Record(Accent), MOST_ACCENTS), (), form=False, told=False)
    fade: Fade | None = holds(
        Maybe(Record(Fade)), None, said=lambda fade: f"fades {fade.words}" if fade else "no ground any more"
    )
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

    def __post_init__(self) -> None:
        check_fields(self, RecipeError, self.name if isinstance(self.name, str) else "A region")
        media = tuple(coat.medium for coat in self.coats)
        if len(set(media)) < len(media):
            raise RecipeError(f"{self.name}: a medium is one coat; its second coat is a matter of its school.")
        kinds = [accent.kind for accent in self.accents]
        if len(set(kinds)) < len(kinds):
            raise RecipeError(f"{self.name}: the same accent is there twice.")
        fault = stack_fault(media)
        if fault:
            raise RecipeError(f"{self.name}: {fault}")
        try:
            accents_in_laying_order(media, self.accents)
        except RecipeError as error:
            raise RecipeError(f"{self.name}: {error}") from error

    @property
    def pens(self) -> tuple[Pen, ...]:
        """All swatches laid here, lowest coat first."""
        return (*(pen for coat in self.coats for pen in coat.pens), *(accent.pen for accent in self.accents))

    @property
    def zones(self) -> int:
        """How many zones are coloured: as many as the longest ramp has swatches, or as are planned while there is
        none."""
        return max((len(coat.ramp) for coat in self.coats), default=self.shades)

    @property
    def drawn_out(self) -> bool:
        """Whether its uppermost coat is one pen at several strengths, or down to bare paper."""
        coat = self.coats[-1] if self.coats else None
        weaker = coat is not None and any(split_code(code)[1] < 1 for code in coat.ramp)
        return coat is not None and weaker and len({split_code(code)[0] for code in coat.ramp}) == 1

    def coat_of(self, medium: str) -> Coat | None:
        return next((coat for coat in self.coats if coat.medium == medium), None)

    def with_coat(self, coat: Coat, *, over: bool = False) -> RegionSetting:
        """The region with this coat: in the place of the one of its medium, else `over` those that are there, or
        instead of them."""
        if self.coat_of(coat.medium) is not None:
            coats = tuple(coat if one.medium == coat.medium else one for one in self.coats)
        else:
            coats = (*self.coats, coat) if over else (coat,)
        return self._coloured(coats, self.accents)

    def without_coat(self, medium: str = "") -> RegionSetting:
        """Without the coat of a medium, or without any."""
        coats = tuple(one for one in self.coats if medium and one.medium != medium)
        return self._coloured(coats, self.accents if coats else ())

    def _coloured(self, coats: tuple[Coat, ...], accents: tuple[Accent, ...]) -> RegionSetting:
        shades = max((len(coat.ramp) for coat in coats), default=self.shades)
        return replace(self, coats=coats, accents=accents, shades=shades, left_as_paper=False)


def changes_of_region(one: RegionSetting, other: RegionSetting) -> list[str]:
    """What became of a region, its colours aside.

    Parameters
    ----------
    one, other
        before and after

    Returns
    -------
    Sentences.
    """
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
    if one.fade != other.fade:
        lines.append(f"{other.name} {f'fades {other.fade.words}' if other.fade else 'has no fade'} now.")
    if one.body != other.body:
        lines.append(f"{other.name} {'joined' if other.body else 'left'} a body.")
    if one.thing != other.thing:
        lines.append(f"{other.name} {f'belongs to {other.thing}' if other.thing else 'stands for itself'} now.")
    if one.depth != other.depth:
        lines.append(f"{other.name} stands {'nearer' if other.depth > one.depth else 'farther back'} now.")
    return lines


Settings = Mapping[int, RegionSetting]
"""Of regions by their label."""
