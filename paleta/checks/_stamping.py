"""In which order things are stamped and masked: the front first, its mask, then what stands behind."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

from paleta.recipe import Sheet

NAMES_SHOWN = 4


@dataclass(frozen=True, slots=True)
class StampingStep:
    """One layer of the picture: which regions it holds, and what to do. Front first (common practice)."""

    regions: tuple[int, ...]
    what: str


def stamping_order(sheet: Sheet) -> list[StampingStep]:
    """Layers by depth, nearest first; one layer needs no mask and gives an empty list."""
    layers: dict[int, list[int]] = {}
    for label, setting in sheet.regions.items():
        layers.setdefault(setting.depth, []).append(label)
    if len(layers) < 2:
        return []
    steps = []
    ordered = sorted(layers.items(), reverse=True)
    for place, (_, labels) in enumerate(ordered):
        named = _named(labels, {label: sheet.regions[label].name for label in labels})
        if place == 0:
            what = f"Stamp first: {named}. Mask it, cut just inside the line."
        elif place < len(ordered) - 1:
            what = f"Then, over the masks: {named}. Mask it too."
        else:
            what = f"Last, over all masks: {named}."
        steps.append(StampingStep(tuple(labels), what))
    return steps


def _named(labels: list[int], names: Mapping[int, str]) -> str:
    shown = ", ".join(names[label] for label in labels[:NAMES_SHOWN])
    more = len(labels) - NAMES_SHOWN
    return f"{shown} and {more} more" if more > 0 else shown
