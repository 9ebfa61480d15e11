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
    schema_of,
    to_plain,
)
from paleta.media import MEDIA, Paper, Swatch


@dataclass(frozen=True, slots=True)
class _PaperForm:
    code: str = holds(Text(30, 1))
    name: str = holds(Text(80, 1))
    lab: tuple[float, float, float] = holds(LAB)
    gsm: float = holds(Number(0, 2000))
    kind: str = holds(Text(20))


@dataclass(frozen=True, slots=True)
class _SwatchForm:
    code: str = holds(Text(60, 1))
    name: str = holds(Text(80))
    medium: str = holds(Choice(MEDIA))
    family: str = holds(Text(40))
    lab: tuple[float, float, float] = holds(LAB)
    two_coats: tuple[float, float, float] | None = holds(Maybe(LAB))


def swatch_to_plain(swatch: Swatch) -> dict[str, Any]:
    """As it stands in a recipe file; `swatch_from_plain` leads back, with any paper of the user's own."""
    form = _SwatchForm(*(getattr(swatch, one.name) for one in fields(_SwatchForm)))
    paper = _PaperForm(*(getattr(swatch.paper, one.name) for one in fields(_PaperForm)))
    return {**to_plain(form), "paper": to_plain(paper)}


def swatch_from_plain(item: Mapping[str, Any]) -> Swatch:
    """A swatch from what `swatch_to_plain` gave.

    Raises
    ------
    RecipeError, SwatchError
        If a value is impossible.
    """
    plain = {name: value for name, value in item.items() if name != "paper"}
    form, paper = from_plain(_SwatchForm, plain), from_plain(_PaperForm, item["paper"])
    check_fields(form, RecipeError, "A swatch")
    check_fields(paper, RecipeError, form.name)
    return Swatch(
        **{one.name: getattr(form, one.name) for one in fields(_SwatchForm)},
        paper=Paper(**{one.name: getattr(paper, one.name) for one in fields(_PaperForm)}),
    )


_SHAPE = schema_of(_SwatchForm)
SWATCH = Written(
    Swatch,
    swatch_to_plain,
    swatch_from_plain,
    {
        **_SHAPE,
        "properties": {**_SHAPE["properties"], "paper": schema_of(_PaperForm)},
        "required": sorted([*_SHAPE["required"], "paper"]),
    },
)
