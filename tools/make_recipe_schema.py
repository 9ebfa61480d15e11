"""Write the JSON Schema of recipe files to paleta/recipe/ and docs/. Run after a change to the recipe's fields."""

from __future__ import annotations

import json
from pathlib import Path
from typing import Any

ROOT = Path(__file__).parents[1]
NUMBER, TEXT, FLAG = {"type": "number"}, {"type": "string"}, {"type": "boolean"}
LAB = {"type": "array", "items": NUMBER, "minItems": 3, "maxItems": 3}
SHA256 = {"type": "string", "pattern": "^[0-9a-f]{64}$"}


def whole(least: int = 0, most: int | None = None) -> dict[str, Any]:
    return {"type": "integer", "minimum": least, **({"maximum": most} if most is not None else {})}


def or_nothing(kind: dict[str, Any]) -> dict[str, Any]:
    return {"anyOf": [kind, {"type": "null"}]}


def record(later: tuple[str, ...] = (), **fields: dict[str, Any]) -> dict[str, Any]:
    """`later` names fields that came after the first files were written; those may miss them."""
    required = sorted(fields.keys() - set(later))
    return {"type": "object", "properties": fields, "required": required, "additionalProperties": False}


def many(kind: dict[str, Any], most: int) -> dict[str, Any]:
    return {"type": "array", "items": kind, "maxItems": most}


REGION = record(
    later=("base_mm", "turn_deg", "bare_highlight", "role", "tags", "guessed", "under"),
    label=whole(1),
    name=TEXT,
    left_as_paper=FLAG,
    form=TEXT,
    bulge=NUMBER,
    axis_deg=or_nothing(NUMBER),
    depth={"type": "integer"},
    body=whole(),
    shades=whole(1, 5),
    ramp=many(TEXT, 5),
    wish_lab=or_nothing(LAB),
    by_hand=FLAG,
    base_mm=or_nothing({"type": "array", "items": NUMBER, "minItems": 2, "maxItems": 2}),
    turn_deg=NUMBER,
    bare_highlight=FLAG,
    role=TEXT,
    tags=many(TEXT, 6),
    guessed=FLAG,
    under=many(TEXT, 5),
)
SWATCH = record(
    later=("two_coats",), code=TEXT, name=TEXT, medium=TEXT, family=TEXT, lab=LAB, paper=TEXT, two_coats=or_nothing(LAB)
)
JOIN = record(op={"const": "join"}, regions={**many(whole(1), 4000), "minItems": 2})
POINT = {"type": "array", "items": NUMBER, "minItems": 2, "maxItems": 2}
SPLIT = record(op={"const": "split"}, region=whole(1), line={**many(POINT, 200), "minItems": 2})
ERASE = record(op={"const": "erase"}, region=whole(1), at=POINT, area_mm2=NUMBER)
EDIT = {"oneOf": [JOIN, SPLIT, ERASE]}
GLOW = record(
    later=("tint", "reserve_mm"),
    x_mm=NUMBER,
    y_mm=NUMBER,
    height_mm=NUMBER,
    reach_mm=NUMBER,
    strength=NUMBER,
    tint=TEXT,
    reserve_mm=NUMBER,
)
STEP = record(which=TEXT, where=TEXT, join=TEXT, how=TEXT)
SCHOOL = record(code=TEXT, name=TEXT, medium=TEXT, summary=TEXT, steps=many(STEP, 12))
SHEET = record(
    later=("fronts", "shade", "follow", "own_school", "order_wish", "key", "touches", "under_swatches", "masked"),
    title=TEXT,
    outline_ink=TEXT,
    paper=TEXT,
    medium=TEXT,
    school=TEXT,
    drawer=TEXT,
    lamp=record(azimuth_deg=NUMBER, elevation_deg=NUMBER, ambient=NUMBER),
    glows=many(GLOW, 12),
    shadows=FLAG,
    true_to_scene=NUMBER,
    ink=NUMBER,
    gap_mm=NUMBER,
    regions_sha256={"type": "string", "pattern": "^([0-9a-f]{64})?$"},
    edits=many(EDIT, 4000),
    fronts=many({"type": "array", "items": whole(1), "minItems": 2, "maxItems": 2}, 4000),
    shade=NUMBER,
    follow=NUMBER,
    order_wish=TEXT,
    masked=FLAG,
    touches=many(TEXT, 12),
    key=TEXT,
    own_school=or_nothing(SCHOOL),
    regions=many(REGION, 4000),
    swatches=many(SWATCH, 4000),
    under_swatches=many(SWATCH, 4000),
    finish=TEXT,
    card=TEXT,
)
PASS = record(
    number=whole(1),
    region=whole(1),
    name=TEXT,
    swatch=TEXT,
    shade=whole(1, 5),
    zones=many(whole(0, 4), 5),
    zone=TEXT,
    join={"enum": ["start", "wet", "dry", "any"]},
    how=TEXT,
    area_mm2=NUMBER,
    start_s=NUMBER,
    end_s=NUMBER,
    wait_s=NUMBER,
    wait_for=TEXT,
    change=FLAG,
)
HANDLING = record(
    kind={"enum": ["lay", "lift"]},
    mask=whole(),
    name=TEXT,
    how=TEXT,
    before_pass=whole(1),
    start_s=NUMBER,
    end_s=NUMBER,
    wait_s=NUMBER,
)
PLAN = record(
    later=("handling",),
    passes=many(PASS, 40000),
    handling=many(HANDLING, 100),
    pen_changes=whole(),
    duration_s=NUMBER,
    bound_s=NUMBER,
)
SCHEMA = {
    "$schema": "https://json-schema.org/draft/2020-12/schema",
    "title": "Paleta recipe, format version 1",
    "description": "Everything needed to make the same card again. Lab is CIE L*a*b* under D65; times are seconds from "
    "the first pass; region labels are those of the packed region map after the sheet's edits; a ramp "
    "lists swatch codes palest first; zone 0 is the deepest.",
    **record(
        format={"const": "paleta-recipe"},
        format_version={"const": 1},
        version=whole(1),
        impression=record(
            sha256=SHA256,
            regions_sha256=SHA256,
            width_px=whole(1),
            height_px=whole(1),
            dpi={"type": "number", "exclusiveMinimum": 0},
        ),
        sheet=SHEET,
        plan=PLAN,
        files={
            "type": "object",
            "propertyNames": SHA256,
            "additionalProperties": TEXT,
            "description": "Base64 of the picture and of the region map, by their SHA-256.",
        },
    ),
}


def main() -> None:
    text = json.dumps(SCHEMA, indent=1) + "\n"
    for place in ("paleta/recipe/recipe.schema.json", "docs/recipe.schema.json"):
        (ROOT / place).write_text(text)


if __name__ == "__main__":
    main()
