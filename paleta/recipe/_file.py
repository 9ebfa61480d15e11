"""Recipes as JSON files: same recipe, same bytes."""

from __future__ import annotations

import base64
import json
import math
import re
from collections.abc import Mapping
from dataclasses import asdict, fields
from typing import Any, NoReturn

from paleta.errors import RecipeError
from paleta.fields import unwanted_in, whole_numbers
from paleta.order import Handling, Pass, Plan
from paleta.recipe._formats import FORMAT, FORMAT_VERSION, to_newest
from paleta.recipe._recipe import ImpressionRecord, Recipe
from paleta.recipe._sheet import sheet_from_plain, sheet_to_plain

LARGEST_BYTES = 24_000_000
MOST_DIGITS = 40
DEEPEST = 30
PASS_FIELDS = tuple(one.name for one in fields(Pass))
HALVES = re.compile(rb"\\u[dD][89a-fA-F]")
"""Half of a surrogate pair may be written like this; only then is the whole file looked through."""


def dump(recipe: Recipe, *, to_read: bool = True) -> bytes:
    """The recipe as UTF-8 JSON with sorted keys; `load` gives an equal recipe back.

    Parameters
    ----------
    recipe
        With or without its pictures.
    to_read
        Whether it stands line by line for people to read, which takes three times as long to write.
    """
    return written(recipe_to_plain(recipe), to_read=to_read)


def recipe_to_plain(recipe: Recipe) -> dict[str, Any]:
    """Only dicts, lists, text and numbers, ready for `written`; `build` leads back."""
    return {
        "format": FORMAT,
        "format_version": FORMAT_VERSION,
        "version": recipe.version,
        "impression": whole_numbers(asdict(recipe.impression)),
        "sheet": sheet_to_plain(recipe.sheet),
        "plan": whole_numbers(plan_to_plain(recipe.plan)),
        "files": {name: base64.b64encode(data).decode() for name, data in recipe.files.items()},
    }


def written(plain: Mapping[str, Any], *, to_read: bool) -> bytes:
    """A plain recipe as UTF-8 JSON.

    Parameters
    ----------
    plain
        what `recipe_to_plain` gave
    to_read
        as for `dump`
    """
    look: dict[str, Any] = {"indent": 1} if to_read else {"separators": (",", ":")}
    return f"{json.dumps(plain, sort_keys=True, ensure_ascii=False, allow_nan=False, **look)}\n".encode()


def load(data: bytes) -> Recipe:
    """Read a recipe file of this format or an older one.

    Raises
    ------
    RecipeError
        Not JSON, another format or version, missing or wrong fields, an unknown swatch, damaged pictures.
    """
    if len(data) > LARGEST_BYTES:
        raise RecipeError(f"The recipe has {len(data) / 1e6:.0f} MB; {LARGEST_BYTES / 1e6:.0f} MB are the most.")
    try:
        plain = json.loads(data.decode("utf-8"), parse_constant=_refuse_constant, parse_float=_finite, parse_int=_whole)
    except (UnicodeDecodeError, json.JSONDecodeError, RecursionError) as error:
        raise RecipeError("This is not a recipe: the file is not JSON.") from error
    if HALVES.search(data) and unwanted_in(json.dumps(plain, ensure_ascii=False)):
        raise RecipeError("The recipe holds characters that cannot be written down.")
    if _too_deep(plain):
        raise RecipeError("This is not a Paleta recipe: its lists are nested too deeply.")
    return build(to_newest(plain))


def build(plain: dict[str, Any]) -> Recipe:
    """A recipe from checked JSON of today's format."""
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
        plan=plan_from_plain(plain["plan"]),
        files=contents,
    )


def plan_to_plain(plan: Plan) -> dict[str, Any]:
    """The plan as it stands in a recipe file; `plan_from_plain` leads back."""
    # Passes are flat and many: to copy them as deep ones would take most of the time.
    return {
        "passes": [
            {**{name: getattr(one, name) for name in PASS_FIELDS}, "zones": list(one.zones)} for one in plan.passes
        ],
        "handling": [asdict(one) for one in plan.handling],
        **{name: getattr(plan, name) for name in ("pen_changes", "duration_s", "bound_s")},
    }


def plan_from_plain(plain: Mapping[str, Any]) -> Plan:
    passes = tuple(Pass(**{**one, "zones": tuple(one["zones"])}) for one in plain["passes"])
    handling = tuple(Handling(**one) for one in plain["handling"])
    return Plan(**{**plain, "passes": passes, "handling": handling})


def _too_deep(plain: Any) -> bool:
    level = [plain]
    for _ in range(DEEPEST):
        level = [
            inner
            for one in level
            if isinstance(one, dict | list)
            for inner in (one.values() if isinstance(one, dict) else one)
            if isinstance(inner, dict | list)
        ]
        if not level:
            return False
    return True


def _finite(text: str) -> float:
    number = float(text)
    return number if math.isfinite(number) else _refuse_constant(text)


def _whole(text: str) -> int:
    return int(text) if len(text) <= MOST_DIGITS else _refuse_constant(f"a number of {len(text)} digits")


def _refuse_constant(name: str) -> NoReturn:
    raise RecipeError(f"The recipe holds {name[:60]}, which is not a number it can hold.")
