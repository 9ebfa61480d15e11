"""Recipes as JSON files: same recipe, same bytes."""

from __future__ import annotations

import base64
import json
import math
from dataclasses import asdict
from functools import cache
from importlib.resources import files
from typing import Any, NoReturn

import jsonschema

from paleta.errors import RecipeError
from paleta.order import Handling, Pass, Plan
from paleta.recipe._recipe import ImpressionRecord, Recipe
from paleta.recipe._sheet import sheet_from_plain, sheet_to_plain, whole_numbers

FORMAT = "paleta-recipe"
FORMAT_VERSION = 1
LARGEST_BYTES = 24_000_000
SCHEMA: dict[str, Any] = json.loads((files("paleta.recipe") / "recipe.schema.json").read_text())
"""JSON Schema 2020-12 of the file, published in docs/."""


def dump(recipe: Recipe) -> bytes:
    """The recipe as UTF-8 JSON with sorted keys; `load` gives an equal recipe back."""
    plan = {
        "passes": [{**asdict(one), "zones": list(one.zones)} for one in recipe.plan.passes],
        "handling": [asdict(one) for one in recipe.plan.handling],
        **{name: getattr(recipe.plan, name) for name in ("pen_changes", "duration_s", "bound_s")},
    }
    plain = {
        "format": FORMAT,
        "format_version": FORMAT_VERSION,
        "version": recipe.version,
        "impression": asdict(recipe.impression),
        "sheet": sheet_to_plain(recipe.sheet),
        "plan": plan,
        "files": {name: base64.b64encode(data).decode() for name, data in recipe.files.items()},
    }
    return (
        json.dumps(whole_numbers(plain), sort_keys=True, indent=1, ensure_ascii=False, allow_nan=False) + "\n"
    ).encode()


def load(data: bytes) -> Recipe:
    """Read a recipe file.

    Raises
    ------
    RecipeError
        Not JSON, another format or version, missing or wrong fields, an unknown swatch, damaged pictures.
    """
    if len(data) > LARGEST_BYTES:
        raise RecipeError(f"The recipe has {len(data) / 1e6:.0f} MB; {LARGEST_BYTES / 1e6:.0f} MB are the most.")
    try:
        plain = json.loads(data.decode("utf-8"), parse_constant=_refuse_constant, parse_float=_finite)
    except (UnicodeDecodeError, json.JSONDecodeError, RecursionError) as error:
        raise RecipeError("This is not a recipe: the file is not JSON.") from error
    _check_format(plain)
    fault = jsonschema.exceptions.best_match(_validator().iter_errors(plain))
    if fault is not None:
        raise RecipeError(f"The recipe does not hold together at {_place(fault)}: {_short(fault.message)}.")
    return _build(plain)


def _build(plain: dict[str, Any]) -> Recipe:
    passes = tuple(Pass(**{**one, "zones": tuple(one["zones"])}) for one in plain["plan"]["passes"])
    handling = tuple(Handling(**one) for one in plain["plan"].get("handling", ()))
    try:
        contents = {name: base64.b64decode(text, validate=True) for name, text in plain["files"].items()}
    except ValueError as error:
        raise RecipeError("A picture inside the recipe is damaged: it is not base64.") from error
    try:
        sheet = sheet_from_plain(plain["sheet"])
    except ValueError as error:
        raise RecipeError(str(error)) from error
    return Recipe(
        version=plain["version"],
        impression=ImpressionRecord(**plain["impression"]),
        sheet=sheet,
        plan=Plan(**{**plain["plan"], "passes": passes, "handling": handling}),
        files=contents,
    )


def _check_format(plain: Any) -> None:
    if not isinstance(plain, dict) or plain.get("format") != FORMAT:
        raise RecipeError("This is not a Paleta recipe.")
    if plain.get("format_version") != FORMAT_VERSION:
        raise RecipeError(
            f"The recipe has format version {plain.get('format_version')!r}; this Paleta reads "
            f"version {FORMAT_VERSION}."
        )


@cache
def _validator() -> jsonschema.Draft202012Validator:
    return jsonschema.Draft202012Validator(SCHEMA)


def _place(fault: jsonschema.exceptions.ValidationError) -> str:
    return " / ".join(str(step) for step in fault.absolute_path) or "the top"


def _short(message: str) -> str:
    return message if len(message) <= 160 else message[:157] + "..."


def _finite(text: str) -> float:
    number = float(text)
    return number if math.isfinite(number) else _refuse_constant(text)


def _refuse_constant(name: str) -> NoReturn:
    raise RecipeError(f"The recipe holds {name}, which is not a number.")
