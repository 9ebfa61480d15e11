"""A plan as the API tells it."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import asdict
from typing import Any

from paleta.card import MakingStep, making
from paleta.checks import reserves
from paleta.impression import RegionMap
from paleta.order import Plan, TouchStep, plan_touches
from paleta.recipe import Sheet, stints_of, touches_of
from server.drawers.serializers import SwatchSerializer
from server.pieces.order.serializers import PassSerializer
from server.pieces.pace import KnownPace


def touches_after(sheet: Sheet) -> list[TouchStep]:
    """The finishing touches in their order."""
    return plan_touches(touches_of(sheet), sheet.media)


def making_after(sheet: Sheet) -> list[MakingStep]:
    """How the card is made once its picture is coloured; nothing while it has no sizes."""
    spec = sheet.card.spec
    return making(spec, touches_of(sheet), sheet.media) if spec is not None else []


def schools_said(sheet: Sheet) -> str:
    """The schools of all media that are laid."""
    return "; ".join(dict.fromkeys(sheet.order.school_of(medium).name for medium in sheet.media))


def present_plan(
    sheet: Sheet, region_map: RegionMap, plan: Plan, by_region: Plan, *, known: Mapping[str, KnownPace]
) -> dict[str, Any]:
    """`known` are the paces by medium, of which the least sure is told."""
    swatches = {
        pen: SwatchSerializer.of(one.code, one.name, one.family, one.lab) for pen, one in sheet.colours.swatches.items()
    }
    told = PassSerializer().fields.keys() - {"swatch"}
    settings = sheet.regions.settings.values()
    return {
        "school": schools_said(sheet),
        "passes": [{**{name: getattr(one, name) for name in told}, "swatch": swatches[one.pen]} for one in plan.passes],
        "stints": [asdict(stint) for stint in stints_of(sheet, plan)],
        "handling": [asdict(one) for one in plan.handling],
        "timed_runs": min(one.runs for one in known.values()),
        "timed_passes": min(one.passes for one in known.values()),
        "pace_doubt": max(one.doubt for one in known.values()),
        "after": [asdict(step) for step in touches_after(sheet)],
        "making": [asdict(step) for step in making_after(sheet)],
        "before": reserves(sheet, region_map),
        "pen_changes": plan.pen_changes,
        "duration_s": plan.duration_s,
        "bound_s": plan.bound_s,
        "by_region_pen_changes": by_region.pen_changes,
        "by_region_duration_s": by_region.duration_s,
        "uncoloured": sum(1 for setting in settings if not setting.coats and not setting.left_as_paper),
    }
