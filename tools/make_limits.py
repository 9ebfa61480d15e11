"""Write the limits of the API's forms for the page, so that no field's length or range is typed there again.

Run after a change to the schema: python -m tools.make_limits
"""

from __future__ import annotations

import json
from pathlib import Path
from typing import Any

import yaml

from paleta.media import LONGEST_HOW, LONGEST_NAME, LONGEST_SUMMARY, MOST_STEPS
from paleta.order import MOST_COPIES
from paleta.recipe import MOST_GLOWS, TAGS_KIND

ROOT = Path(__file__).parents[1]
PLACE = ROOT / "web" / "src" / "shared" / "api" / "limits.ts"
KEPT = ("maxLength", "minimum", "maximum", "maxItems")
HEAD = "/** Made by tools/make_limits.py from the schema and the core; not to be edited. */\n"


def limits() -> str:
    """The file as it must be."""
    schemas = yaml.load((ROOT / "server" / "schema.yml").read_text(), Loader=yaml.CSafeLoader)["components"]["schemas"]
    found: dict[str, Any] = {}
    for name, schema in sorted(schemas.items()):
        fields = {
            field: {key: one[key] for key in KEPT if key in one} for field, one in schema.get("properties", {}).items()
        }
        fields = {field: kept for field, kept in fields.items() if kept}
        if name.endswith("Request") and fields:
            found[name] = fields
    found["glows"] = {"most": MOST_GLOWS}
    found["batch"] = {"copies": MOST_COPIES}
    found["tags"] = {"most": TAGS_KIND.most, "longest": TAGS_KIND.kind.longest}
    found["school"] = {
        "name": LONGEST_NAME, "summary": LONGEST_SUMMARY, "how": LONGEST_HOW, "steps": MOST_STEPS,
    }  # fmt: skip
    lines = "".join(f"  {name}: {json.dumps(one)},\n" for name, one in found.items())
    return f"{HEAD}export const LIMITS = {{\n{lines}}} as const;\n"


def main() -> None:
    PLACE.write_text(limits())


if __name__ == "__main__":
    main()
