"""The recipe file's format, its JSON Schema, and the lifts that bring older formats up to it, step by step."""

from __future__ import annotations

import json
from collections.abc import Callable
from functools import cache
from importlib.resources import files
from typing import Any

import jsonschema
import jsonschema_rs

from paleta.errors import RecipeError
from paleta.fields import LABEL, Schema, schema_of
from paleta.materials import PAPERS
from paleta.media import MEDIA
from paleta.recipe._paper import KINDS
from paleta.recipe._recipe import MOST_VERSIONS
from paleta.recipe._regions import MOST_REGIONS
from paleta.recipe._sheet import Sheet

FORMAT = "paleta-recipe"
FORMAT_VERSION = 6
MOST_PASSES = 40_000
NUMBER: Schema = {"type": "number", "minimum": -1e9, "maximum": 1e9}
TEXT: Schema = {"type": "string", "maxLength": 400}


def _whole(least: int = 0, most: int = 1_000_000) -> Schema:
    return {"type": "integer", "minimum": least, "maximum": most}


def _record(**properties: Schema) -> Schema:
    return {"type": "object", "properties": properties, "required": sorted(properties), "additionalProperties": False}


def _many(items: Schema, most: int) -> Schema:
    return {"type": "array", "items": items, "maxItems": most}


PASS = _record(
    number=_whole(1), region=LABEL.schema(), name=TEXT, medium={"enum": [*MEDIA]}, coat=_whole(0, 99),
    swatch=TEXT, shade=_whole(1, 5), zones=_many(_whole(0, 4), 5),
    zone=TEXT, join={"enum": ["start", "wet", "dry", "any"]}, how=TEXT, area_mm2=NUMBER, start_s=NUMBER, end_s=NUMBER,
    wait_s=NUMBER, wait_for=TEXT, change={"type": "boolean"},
)  # fmt: skip
HANDLING = _record(
    kind={"enum": ["lay", "wipe", "lift"]}, mask=_whole(), name=TEXT, how=TEXT, before_pass=_whole(1), start_s=NUMBER,
    end_s=NUMBER, wait_s=NUMBER,
)  # fmt: skip
SCHEMA: Schema = {
    "$schema": "https://json-schema.org/draft/2020-12/schema",
    "title": f"Paleta recipe, format version {FORMAT_VERSION}",
    "description": "Everything needed to make the same card again. Lab is CIE L*a*b* under D65; times are seconds from "
    "the first pass; region labels are those of the packed region map after the sheet's edits; a ramp "
    "lists swatch codes palest first; zone 0 is the deepest.",
    **_record(
        format={"const": FORMAT},
        format_version={"const": FORMAT_VERSION},
        version=_whole(1, MOST_VERSIONS),
        impression=_record(
            sha256={"type": "string", "pattern": "^[0-9a-f]{64}$"},
            regions_sha256={"type": "string", "pattern": "^[0-9a-f]{64}$"},
            width_px=_whole(1, 100_000),
            height_px=_whole(1, 100_000),
            dpi={"type": "number", "exclusiveMinimum": 0, "maximum": 10_000},
        ),
        sheet=schema_of(Sheet),
        plan=_record(
            passes=_many(PASS, MOST_PASSES),
            handling=_many(HANDLING, 100),
            pen_changes=_whole(),
            duration_s=NUMBER,
            bound_s=NUMBER,
        ),
        files={
            "type": "object",
            "propertyNames": {"pattern": "^[0-9a-f]{64}$"},
            "additionalProperties": {"type": "string"},
            "description": "Base64 of the picture and of the region map, by their SHA-256.",
        },
    ),
}
"""JSON Schema 2020-12 of the file, published in docs/."""


def to_newest(plain: Any, *, trusted: bool = False) -> dict[str, Any]:
    """A recipe file's JSON in today's format, checked whole unless it is `trusted`: kept by Paleta itself.

    Parameters
    ----------
    plain
        A recipe file's JSON, of any format.
    trusted
        Whether Paleta kept it itself, so that it is not checked again.

    Raises
    ------
    RecipeError
        No recipe, a format this version does not know, or a fault, named with its place.
    """
    if not isinstance(plain, dict) or plain.get("format") != FORMAT:
        raise RecipeError("This is not a Paleta recipe.")
    found = plain.get("format_version")
    if not isinstance(found, int) or isinstance(found, bool) or not 1 <= found <= FORMAT_VERSION:
        raise RecipeError(
            f"The recipe has format version {_short(repr(found), 40)}; "
            f"this Paleta reads versions 1 to {FORMAT_VERSION}."
        )
    if trusted:
        for version in range(found, FORMAT_VERSION):
            plain = _upgraded(plain, version)
        return plain
    # Lengths first: a list of a million bad lines must not be looked through line by line.
    _check_lengths(plain)
    for version in range(found, FORMAT_VERSION):
        _check(plain, version)
        plain = _upgraded(plain, version)
    _check(plain, FORMAT_VERSION)
    return plain


def _check_lengths(plain: dict[str, Any]) -> None:
    plan, sheet = plain.get("plan"), plain.get("sheet")
    passes = plan.get("passes") if isinstance(plan, dict) else None
    if isinstance(passes, list) and len(passes) > MOST_PASSES:
        raise RecipeError(f"The recipe has {len(passes):,} passes; {MOST_PASSES:,} are the most.")
    lists = [*sheet.values()] if isinstance(sheet, dict) else []
    lists += [one for part in lists if isinstance(part, dict) for one in part.values()]
    if any(isinstance(one, list) and len(one) > MOST_REGIONS for one in lists):
        raise RecipeError(f"A list on the recipe's sheet is longer than {MOST_REGIONS:,}.")


def _check(plain: dict[str, Any], version: int) -> None:
    if _quick(version).is_valid(plain):
        return
    fault = next(_validator(version).iter_errors(plain), None)
    if fault is not None:
        place = " / ".join(str(step) for step in fault.absolute_path) or "the top"
        raise RecipeError(f"The recipe does not hold together at {place}: {_short(fault.message, 160)}.")


def _short(message: str, most: int) -> str:
    return message if len(message) <= most else message[: most - 3] + "..."


def _schema(version: int) -> Any:
    if version == FORMAT_VERSION:
        return SCHEMA
    return json.loads((files("paleta.recipe") / "formats" / f"{version}.schema.json").read_text())


@cache
def _validator(version: int) -> jsonschema.Draft202012Validator:
    """Says what is wrong, in words that are the same for every version of its library; slow."""
    return jsonschema.Draft202012Validator(_schema(version))


@cache
def _quick(version: int) -> jsonschema_rs.Draft202012Validator:
    """Says only whether something is, thirty times as fast."""
    return jsonschema_rs.Draft202012Validator(_schema(version))


def sheet_schema_fault(plain: Any) -> str:
    """What is wrong with a plain sheet of today's format, in a sentence; empty if nothing is."""
    if _quick_for_sheets().is_valid(plain):
        return ""
    fault = next(_sheet_validator().iter_errors(plain), None)
    if fault is None:
        return ""
    place = " / ".join(str(step) for step in fault.absolute_path) or "the top"
    return f"At {place}: {_short(fault.message, 160)}."


@cache
def _quick_for_sheets() -> jsonschema_rs.Draft202012Validator:
    return jsonschema_rs.Draft202012Validator(schema_of(Sheet))


@cache
def _sheet_validator() -> jsonschema.Draft202012Validator:
    return jsonschema.Draft202012Validator(schema_of(Sheet))


def sheet_1_to_2(old: dict[str, Any]) -> dict[str, Any]:
    """A sheet of format 1, which was one flat record, as the parts of format 2."""
    regions = [{**_REGION_1, **one} for one in old["regions"]]
    return {
        "stamp": {key: old[key] for key in ("title", "outline_ink", "paper")},
        "regions": {
            "sensitivity": old["ink"],
            "gap_mm": old["gap_mm"],
            "map_sha256": old["regions_sha256"],
            "edits": old["edits"],
            "fronts": old.get("fronts", []),
            "settings": regions,
        },
        "light": {
            "lamp": old["lamp"],
            "glows": [{"tint": "", "reserve_mm": 0, **glow} for glow in old["glows"]],
            "shadows": old["shadows"],
            "true_to_scene": old["true_to_scene"],
            "shade": old.get("shade", 0),
            "follow": old.get("follow", 0),
        },
        "colours": {
            "medium": old["medium"],
            "drawer": old["drawer"],
            "key": old.get("key", ""),
            "swatches": [_swatch_1_to_2(one) for one in old["swatches"]],
            "under_swatches": [_swatch_1_to_2(one) for one in old.get("under_swatches", [])],
        },
        "order": {
            "school": old["school"],
            "own_school": old.get("own_school"),
            "wish": old.get("order_wish", ""),
            "masked": old.get("masked", False),
        },
        "finish": {"touches": list(dict.fromkeys(old.get("touches", []))), "notes": old["finish"]},
        "card": {"notes": old["card"]},
    }


_REGION_1: dict[str, Any] = {
    "base_mm": None, "turn_deg": 0, "bare_highlight": False, "role": "", "tags": [], "guessed": False, "under": [],
}  # fmt: skip
"""What the first files of format 1 did not name yet."""


def _swatch_1_to_2(old: dict[str, Any]) -> dict[str, Any]:
    """Format 1 named a paper that ships by its code; format 2 holds the paper whole."""
    paper = PAPERS.get(old["paper"])
    if paper is None:
        raise RecipeError(f"{old['name']}: unknown paper {old['paper']!r}.")
    whole = {"code": paper.code, "name": paper.name, "lab": list(paper.lab), "gsm": paper.gsm, "kind": paper.kind}
    return {"two_coats": None, **old, "paper": whole}


def sheet_2_to_3(old: dict[str, Any]) -> dict[str, Any]:
    """Format 3 knows things; the bodies of format 2 become things."""
    regions = old["regions"]
    settings = [{"thing": f"Body {one['body']}" if one["body"] else "", **one} for one in regions["settings"]]
    return {**old, "regions": {"unsure": [], **regions, "settings": settings}}


def sheet_3_to_4(old: dict[str, Any]) -> dict[str, Any]:
    """Format 4 knows the card's sizes; what was written about it in format 3 stays as a note."""
    return {**old, "card": {"spec": None, **old["card"]}}


def sheet_4_to_5(old: dict[str, Any]) -> dict[str, Any]:
    """Format 5 knows coats: the one ramp of a region in the one medium of the sheet becomes its coat, with the marker
    that lay beneath it below."""
    colours, order = old["colours"], old["order"]
    medium = colours["medium"]
    # A marker ramp beneath marker was never laid.
    beneath = [] if medium == "marker" else colours["under_swatches"]
    regions = {**old["regions"], "settings": [_region_4_to_5(one, medium) for one in old["regions"]["settings"]]}
    return {
        **old,
        "stamp": {**old["stamp"], "own_paper": None, "ink_name": ""},
        "regions": regions,
        "colours": {
            "medium": medium,
            "drawers": [colours["drawer"]] if colours["drawer"] else [],
            "key": colours["key"],
            "swatches": [
                *(_swatch_4_to_5(one, medium) for one in colours["swatches"]),
                *(_swatch_4_to_5(one, "marker") for one in beneath),
            ],
        },
        "order": {
            "schools": [order["school"]],
            "own_schools": [order["own_school"]] if order["own_school"] else [],
            "wish": order["wish"],
            "masked": order["masked"],
            "taped": False,
        },
    }


def _swatch_4_to_5(old: dict[str, Any], medium: str) -> dict[str, Any]:
    """Format 5 knows a paper's surface, and how pounds count by a few words only."""
    known, paper = PAPERS.get(old["paper"]["code"]), old["paper"]
    kind = paper["kind"] if paper["kind"] in KINDS else "cover"
    return {**old, "medium": medium, "paper": {**paper, "kind": kind, "surface": known.surface if known else "smooth"}}


def _region_4_to_5(old: dict[str, Any], medium: str) -> dict[str, Any]:
    ramps = [("marker", [] if medium == "marker" else old["under"]), (medium, old["ramp"])]
    coats = [{"medium": medium, "ramp": list(dict.fromkeys(ramp)), "school": ""} for medium, ramp in ramps if ramp]
    kept = {name: one for name, one in old.items() if name not in ("ramp", "under")}
    return {**kept, "coats": coats, "accents": [], "fade": None}


def sheet_5_to_6(old: dict[str, Any]) -> dict[str, Any]:
    """Format 6 knows the colour of the line, and how papers take water, behave and dry."""
    stamp, colours = old["stamp"], old["colours"]
    own = stamp["own_paper"]
    return {
        **old,
        "stamp": {**stamp, "ink_lab": None, "powder": "", "own_paper": paper_5_to_6(own) if own else None},
        "colours": {
            **colours,
            "swatches": [{**one, "paper": paper_5_to_6(one["paper"])} for one in colours["swatches"]],
        },
    }


def paper_5_to_6(old: dict[str, Any]) -> dict[str, Any]:
    """A paper of format 5 was made for water where its pounds count so, and dried a little later then."""
    much = old["kind"] == "watercolour"
    return {**old, "water": "much" if much else "none", "behaves": [], "dries": 1.25 if much else 1}


SHEET_LIFTS: dict[int, Callable[[dict[str, Any]], dict[str, Any]]] = {
    1: sheet_1_to_2,
    2: sheet_2_to_3,
    3: sheet_3_to_4,
    4: sheet_4_to_5,
    5: sheet_5_to_6,
}
"""How the sheet of a format becomes one of the next."""


def sheet_to_newest(plain: dict[str, Any], found: int) -> dict[str, Any]:
    """A plain sheet of format `found` in today's format.

    Parameters
    ----------
    plain
        A sheet as JSON.
    found
        Its format, 1 to today's.
    """
    for version in range(found, FORMAT_VERSION):
        plain = SHEET_LIFTS[version](plain)
    return plain


def _upgraded(plain: dict[str, Any], version: int) -> dict[str, Any]:
    """A file of format `version` as one of the next."""
    sheet = SHEET_LIFTS[version](plain["sheet"])
    plan = plain["plan"]
    if version == 1:
        plan = {"handling": [], **plan}
    if version == 4:
        stacks = {one["label"]: one["coats"] for one in sheet["regions"]["settings"]}
        medium = sheet["colours"]["medium"]
        passes = [
            {**one, "medium": medium, "coat": max(len(stacks.get(one["region"], [])) - 1, 0)} for one in plan["passes"]
        ]
        plan = {**plan, "passes": passes}
    return {**plain, "format_version": version + 1, "sheet": sheet, "plan": plan}
