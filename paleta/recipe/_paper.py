"""A paper of the user's own as it stands in a recipe: whole."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, fields
from typing import Any

from paleta.errors import RecipeError
from paleta.fields import (
    LAB,
    Choice,
    Many,
    Number,
    Text,
    Written,
    check_fields,
    from_plain,
    holds,
    schema_of,
    to_plain,
)
from paleta.materials import BEHAVIOURS, LEAST_DRIES, MOST_DRIES, SURFACES, WATER, Paper

KINDS = {"cover": "Cover", "text": "Text", "bond": "Bond", "watercolour": "Watercolour"}
"""How the pounds of a paper count."""


@dataclass(frozen=True, slots=True, kw_only=True)
class PaperForm:
    """The fields of a paper, each declared once; gsm 0 where unknown."""

    code: str = holds(Text(40, 1))
    name: str = holds(Text(80, 1))
    lab: tuple[float, float, float] = holds(LAB)
    gsm: float = holds(Number(0, 2000), 0.0)
    kind: str = holds(Choice(KINDS), "cover")
    surface: str = holds(Choice(SURFACES), "smooth")
    water: str = holds(Choice(WATER), "none")
    behaves: tuple[str, ...] = holds(Many(Choice(BEHAVIOURS), len(BEHAVIOURS), once=True), ())
    dries: float = holds(Number(LEAST_DRIES, MOST_DRIES), 1.0)


def paper_to_plain(paper: Paper) -> dict[str, Any]:
    return to_plain(PaperForm(**{one.name: getattr(paper, one.name) for one in fields(PaperForm)}))


def paper_from_plain(plain: Mapping[str, Any]) -> Paper:
    """A paper from what `paper_to_plain` gave.

    Raises
    ------
    RecipeError, SwatchError
        If a value is impossible.
    """
    form = from_plain(PaperForm, plain)
    check_fields(form, RecipeError, "A paper")
    return Paper(**{one.name: getattr(form, one.name) for one in fields(PaperForm)})


PAPER = Written(Paper, paper_to_plain, paper_from_plain, schema_of(PaperForm))
