"""Stamping again as the API tells it."""

from __future__ import annotations

from typing import Any

from paleta.colour import lab_to_hex
from paleta.restamp import PaperChange


def present_change(one: PaperChange) -> dict[str, Any]:
    """A thing that looks otherwise on another paper."""
    return {
        "name": one.name,
        "regions": list(one.regions),
        "size": one.size,
        "sentence": one.sentence,
        "before_hex": lab_to_hex(one.before),
        "after_hex": lab_to_hex(one.after),
        "medium": one.instead[0].medium if one.instead else "",
        "instead": [swatch.code for swatch in one.instead],
        "instead_names": [swatch.name for swatch in one.instead],
        "left": one.left,
    }
