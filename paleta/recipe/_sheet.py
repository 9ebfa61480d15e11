"""The recipe sheet: what the colourist has decided so far, part by part in the order of work."""

from __future__ import annotations

import hashlib
import json
from collections import Counter
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, fields, replace
from typing import Any

from paleta.errors import RecipeError
from paleta.fields import Record, check_fields, from_plain, holds, to_plain, whole_numbers
from paleta.media import MEDIA, Swatch
from paleta.order import SCHOOLS, Pen, School
from paleta.recipe._card import Card
from paleta.recipe._coat import Coat
from paleta.recipe._colours import Colours
from paleta.recipe._finish import Finish
from paleta.recipe._light import Light
from paleta.recipe._order import Order
from paleta.recipe._part import Part
from paleta.recipe._region import RegionSetting
from paleta.recipe._regions import Regions
from paleta.recipe._stamp import Stamp


@dataclass(frozen=True, slots=True, kw_only=True, weakref_slot=True)
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
        for setting in self.regions.settings.values():
            for medium, code in setting.pens:
                if (medium, code) not in self.colours.swatches:
                    raise RecipeError(f"{setting.name} uses the swatch {code!r}, which is not on the sheet.")

    @property
    def media(self) -> tuple[str, ...]:
        """The media that are laid somewhere; the usual one while there are none."""
        laid = {medium for setting in self.regions.settings.values() for medium, _ in setting.pens}
        return tuple(medium for medium in MEDIA if medium in laid) or (self.colours.medium,)

    @property
    def main_medium(self) -> str:
        """The medium of most regions: what the piece is called by."""
        lowest = Counter(one.coats[0].medium for one in self.regions.settings.values() if one.coats)
        return max(MEDIA, key=lambda medium: (lowest[medium], medium == self.colours.medium))

    def school_for(self, coat: Coat) -> School:
        """How a coat is laid: by its own school, or that of its medium."""
        return SCHOOLS[coat.school] if coat.school else self.order.school_of(coat.medium)

    @staticmethod
    def titled(title: str) -> Sheet:
        """An empty sheet."""
        return Sheet(stamp=Stamp(title=title))

    def with_part(self, name: str, **changes: Any) -> Sheet:
        """The sheet with some fields of one part set anew."""
        return replace(self, **{name: replace(getattr(self, name), **changes)})

    def with_regions(self, changed: Mapping[int, RegionSetting], swatches: Mapping[Pen, Swatch] | None = None) -> Sheet:
        """The sheet with some regions replaced; swatches that are laid nowhere any more leave it."""
        settings = {**self.regions.settings, **changed}
        known = {**self.colours.swatches, **(swatches or {})}
        used = {pen for setting in settings.values() for pen in setting.pens}
        missing = used - known.keys()
        if missing:
            raise RecipeError(f"There is no swatch {min(missing)[1]!r} in the drawer.")
        return replace(
            self,
            regions=replace(self.regions, settings=dict(sorted(settings.items()))),
            colours=replace(self.colours, swatches={pen: known[pen] for pen in sorted(used)}),
        )

    def with_coat_over(self, ramps: Mapping[int, Sequence[Swatch]], school: School) -> Sheet:
        """The sheet with one coat more on some regions, of the school's medium and laid by it."""
        settings, medium = self.regions.settings, school.medium
        changed = {
            label: settings[label].with_coat(Coat(medium=medium, ramp=tuple(one.code for one in ramp)), over=True)
            for label, ramp in ramps.items()
        }
        swatches = {(medium, one.code): one for ramp in ramps.values() for one in ramp}
        sheet = self.with_regions(changed, swatches)
        return replace(sheet, order=sheet.order.with_school(school))


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
    return plain_sheet_sha256(sheet_to_plain(sheet))


def plain_sheet_sha256(plain: Mapping[str, Any]) -> str:
    """`sheet_sha256` of what `sheet_to_plain` gave."""
    return hashlib.sha256(json.dumps(plain, sort_keys=True).encode()).hexdigest()


def changes_between(before: Sheet, after: Sheet) -> dict[str, list[str]]:
    """Sentences for what changed, by part in the order of work.

    Parameters
    ----------
    before, after
        two sheets of one piece
    """
    settings = before.regions.settings, after.regions.settings
    return {name: _part(after, name).changes_from(_part(before, name), *settings) for name in PARTS}


def _part(sheet: Sheet, name: str) -> Part:
    return getattr(sheet, name)
