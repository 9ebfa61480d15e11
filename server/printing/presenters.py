"""The recipe on one page as the API tells it."""

from __future__ import annotations

from typing import Any

from paleta.page import CAUTION, Chip, RecipePage, recipe_text, said_visit
from server.pieces.models import Piece


def present_page(page: RecipePage, piece: Piece, clock: str, *, has_card: bool) -> dict[str, Any]:
    chips = {one.pen: _chip(one) for one in page.chips}
    return {
        **{name: getattr(page, name) for name in ("title", "version", "light", "azimuth_deg", "glows", "bare")},
        "clock": clock,
        "lettered": [
            {"letter": one.letter, "name": one.name, "count": len(one.regions), "x": one.x, "y": one.y}
            for one in page.lettered
        ],
        "chips": [*chips.values()],
        "ramps": [
            {
                "letters": list(ramp.letters),
                "coats": [[chips[pen] for pen in coat] for coat in ramp.coats],
            }
            for ramp in page.ramps
        ],
        "visits": [
            {
                "numbers": said_visit(page, visit).split(" ", 1)[0],
                "name": page.chip(visit.swatch).name,
                "hex": page.chip(visit.swatch).hex,
                "stops": " ".join(visit.stops),
            }
            for visit in page.visits
        ],
        "facts": [{"name": name, "value": value} for name, value in page.facts],
        "notes": [{"name": name, "value": value} for name, value in page.notes],
        "caution": CAUTION,
        "text": recipe_text(page),
        "width_px": piece.width_px,
        "height_px": piece.height_px,
        "card": has_card,
    }


def _chip(one: Chip) -> dict[str, Any]:
    return {"code": one.pen[1], "name": one.name, "hex": one.hex, "lab": [round(value, 1) for value in one.lab]}
