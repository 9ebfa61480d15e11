"""The recipe sheet: what the colourist has decided so far, part by part in the order of work."""

from __future__ import annotations

import hashlib
import json
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, fields, replace
from typing import Any

from paleta.errors import RecipeError
from paleta.fields import Record, check_fields, from_plain, holds, to_plain, whole_numbers
from paleta.media import MEDIA, Swatch
from paleta.order import DEFAULT_SCHOOL
from paleta.recipe._card import Card
from paleta.recipe._colours import Colours
from paleta.recipe._finish import Finish
from paleta.recipe._light import Light
from paleta.recipe._order import Order
from paleta.recipe._part import Part
from paleta.recipe._region import RegionSetting
from paleta.recipe._regions import Regions
from paleta.recipe._stamp import Stamp


@dataclass(frozen=True, slots=True, kw_only=True)
class Sheet:
    """The whole sheet. Each part checks itself; what two of them must agree on is checked here."""

    stamp: Stamp = holds(Record(Stamp))
    regions: Regions = holds(Record(Regions), Regions)
    light: Light = holds(Record(Light), Light)
    colours: Colours = holds(Record(Colours), Colours)
    order: Order = holds(Record(Order), Order)
    finish: Finish = holds(Record(Finish), Finish)
    card: Card = holds(Record(Card), Card)

    def __post_init__(self) -> None:
        check_fields(self, RecipeError)
        if self.order.school_used.medium != self.colours.medium:
            medium = MEDIA[self.colours.medium].lower()
            raise RecipeError(f"{self.order.school!r} is no school of shade order for {medium}.")
        for setting in self.regions.settings.values():
            for code in setting.ramp:
                if code not in self.colours.swatches:
                    raise RecipeError(f"{setting.name} uses the swatch {code!r}, which is not on the sheet.")
            if any(code not in self.colours.under_swatches for code in setting.under):
                raise RecipeError(f"{setting.name} lies over a swatch that is not on the sheet.")

    @staticmethod
    def titled(title: str) -> Sheet:
        """An empty sheet."""
        return Sheet(stamp=Stamp(title=title))

    def with_part(self, name: str, **changes: Any) -> Sheet:
        """The sheet with some fields of one part set anew."""
        return replace(self, **{name: replace(getattr(self, name), **changes)})

    def with_regions(self, changed: Mapping[int, RegionSetting], swatches: Mapping[str, Swatch] | None = None) -> Sheet:
        """The sheet with some regions replaced; swatches that no ramp uses any more leave it."""
        settings = {**self.regions.settings, **changed}
        known = {**self.colours.swatches, **(swatches or {})}
        used = {code for setting in settings.values() for code in setting.ramp}
        missing = used - known.keys()
        if missing:
            raise RecipeError(f"There is no swatch {min(missing)!r} in the drawer.")
        return replace(
            self,
            regions=replace(self.regions, settings=dict(sorted(settings.items()))),
            colours=replace(self.colours, swatches={code: known[code] for code in sorted(used)}),
        )

    def with_medium(self, medium: str, *, school: str | None = None, drawer: str = "") -> Sheet:
        """The sheet for another medium: ramps of the old one are taken off, the wished colours stay."""
        bare = {label: replace(one, ramp=(), under=(), by_hand=False) for label, one in self.regions.settings.items()}
        return replace(
            self,
            regions=replace(self.regions, settings=bare),
            colours=replace(self.colours, medium=medium, drawer=drawer, swatches={}, under_swatches={}),
            order=replace(self.order, school=school or DEFAULT_SCHOOL[medium], own_school=None),
        )

    def with_pencil_over(self, school: str, drawer: str, ramps: Mapping[int, Sequence[Swatch]]) -> Sheet:
        """The sheet with its ramps laid beneath and `ramps` of pencils over them."""
        swatches = {one.code: one for ramp in ramps.values() for one in ramp}
        settings = {
            label: replace(
                setting,
                under=setting.ramp,
                ramp=tuple(one.code for one in ramps[label]) if label in ramps else (),
                shades=len(ramps[label]) if label in ramps else setting.shades,
                by_hand=False,
            )
            for label, setting in self.regions.settings.items()
        }
        return replace(
            self,
            regions=replace(self.regions, settings=settings),
            colours=replace(
                self.colours,
                medium="pencil",
                drawer=drawer,
                swatches={code: swatches[code] for code in sorted(swatches)},
                under_swatches=self.colours.swatches,
            ),
            order=replace(self.order, school=school, own_school=None),
        )


PARTS: tuple[str, ...] = tuple(one.name for one in fields(Sheet))
"""Names of the sheet's parts, in the order of work."""


def sheet_to_plain(sheet: Sheet) -> dict[str, Any]:
    """Only dicts, lists, text and numbers, ready for JSON; `sheet_from_plain` leads back."""
    return whole_numbers(to_plain(sheet))


def sheet_from_plain(plain: Mapping[str, Any]) -> Sheet:
    """A sheet from what `sheet_to_plain` gave.

    Raises
    ------
    RecipeError, LampError, SwatchError, SchoolError
        If a value is impossible. Missing keys and wrong types are the schema's business.
    """
    return from_plain(Sheet, plain)


def sheet_sha256(sheet: Sheet) -> str:
    """Tells whether two sheets are the same."""
    return hashlib.sha256(json.dumps(sheet_to_plain(sheet), sort_keys=True).encode()).hexdigest()


def changes_between(before: Sheet, after: Sheet) -> dict[str, list[str]]:
    """Sentences for what changed, by part in the order of work."""
    settings = before.regions.settings, after.regions.settings
    return {name: _part(after, name).changes_from(_part(before, name), *settings) for name in PARTS}


def _part(sheet: Sheet, name: str) -> Part:
    return getattr(sheet, name)
