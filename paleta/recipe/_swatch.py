"""A swatch as it stands in a recipe: whole, with the paper it was measured on."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, fields
from typing import Any

from paleta.errors import RecipeError
from paleta.fields import (
    LAB,
    Choice,
    Maybe,
    Number,
    Text,
    Written,
    check_fields,
    from_plain,
    holds,
    kinds_of,
    schema_of,
    to_plain,
)
from paleta.media import MEDIA, Swatch
from paleta.recipe._paper import PAPER, paper_from_plain, paper_to_plain


@dataclass(frozen=True, slots=True)
class _SwatchForm:
    code: str = holds(Text(60, 1))
    name: str = holds(Text(80))
    medium: str = holds(Choice(MEDIA))
    family: str = holds(Text(40))
    lab: tuple[float, float, float] = holds(LAB)
    two_coats: tuple[float, float, float] | None = holds(Maybe(LAB))


@dataclass(frozen=True, slots=True)
class _FurtherForm:
    """What files of format 2 may say of a swatch in addition; only what is known is written."""

    diluted: tuple[float, float, float] | None = holds(LAB, None)
    light_pressure: tuple[float, float, float] | None = holds(LAB, None)
    firm_pressure: tuple[float, float, float] | None = holds(LAB, None)
    opacity: float | None = holds(Number(0, 1), None)


_FURTHER = {one.name: kind for one, kind in kinds_of(_FurtherForm)}


def swatch_to_plain(swatch: Swatch) -> dict[str, Any]:
    """As it stands in a recipe file; `swatch_from_plain` leads back, with any paper of the user's own."""
    form = _SwatchForm(*(getattr(swatch, one.name) for one in fields(_SwatchForm)))
    plain = {**to_plain(form), "paper": paper_to_plain(swatch.paper)}
    known = {name: getattr(swatch, name) for name in _FURTHER if getattr(swatch, name) is not None}
    return (
        {**plain, "further": {name: _FURTHER[name].to_plain(value) for name, value in known.items()}}
        if known
        else plain
    )


def swatch_from_plain(item: Mapping[str, Any]) -> Swatch:
    """A swatch from what `swatch_to_plain` gave.

    Raises
    ------
    RecipeError, SwatchError
        If a value is impossible.
    """
    plain = {name: value for name, value in item.items() if name not in ("paper", "further")}
    form = from_plain(_SwatchForm, plain)
    check_fields(form, RecipeError, "A swatch")
    further = {name: _FURTHER[name].from_plain(value) for name, value in item.get("further", {}).items()}
    return Swatch(
        **{one.name: getattr(form, one.name) for one in fields(_SwatchForm)},
        **further,
        paper=paper_from_plain(item["paper"]),
    )


_SHAPE = schema_of(_SwatchForm)
SWATCH = Written(
    Swatch,
    swatch_to_plain,
    swatch_from_plain,
    {
        **_SHAPE,
        "properties": {
            **_SHAPE["properties"],
            "paper": PAPER.schema(),
            "further": {**schema_of(_FurtherForm), "required": []},
        },
        "required": sorted([*_SHAPE["required"], "paper"]),
    },
)
