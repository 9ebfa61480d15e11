"""Write the JSON Schema of recipe files to docs/. Run after a change to the recipe's fields."""

from __future__ import annotations

import json
from pathlib import Path

from paleta.recipe import SCHEMA

PUBLISHED = Path(__file__).parents[1] / "docs" / "recipe.schema.json"


def main() -> None:
    PUBLISHED.write_text(json.dumps(SCHEMA, indent=1) + "\n")


if __name__ == "__main__":
    main()
