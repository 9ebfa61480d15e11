"""Runs as the API tells them: a line of the logbook, and all that colouring along needs, server or no server."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import asdict
from typing import Any

from paleta.checks import reserves
from paleta.colour import lab_to_hex
from paleta.media import MEDIUMS
from paleta.order import Plan
from paleta.recipe import Sheet, Stint, stints_of
from paleta.run import (
    SLIPS,
    RunState,
    choices,
    media_of,
    needs_of,
    needs_of_handling,
    plan_key,
    rescues_for,
    seconds_by_pass,
    ways_of,
)
from server.derived.maps import region_map
from server.drawers.models import SwatchRecord
from server.drawers.serializers import SwatchSerializer
from server.pieces.order.presenters import making_after, schools_said, touches_after
from server.pieces.order.serializers import PassSerializer
from server.runs.along import piece_of, plan_followed, recipe_followed, state_of
from server.runs.models import Run

CHOICES_TOLD = 6


def line_of(run: Run) -> dict[str, Any]:
    """A run as a line of the logbook."""
    names = (
        "id", "piece_id", "recipe_number", "title", "medium", "cards", "made_at", "finished_at", "seconds", "planned_s",
        "note", "pens", "differed", "photo", "passes_laid",
    )  # fmt: skip
    return {
        **{name: getattr(run, name) for name in names},
        "passes": (run.passes or 0) * run.cards,
        "along": run.events_count > 0,
        "open": run.events_count > 0 and run.finished_at is None and run.recipe_id is not None,
    }


def present_run(run: Run) -> dict[str, Any]:
    """All of a run that is coloured along."""
    recipe, plan, state = recipe_followed(run), plan_followed(run), state_of(run)
    sheet, piece = recipe.sheet, piece_of(run)
    needs, paces = needs_of(plan), ways_of(plan).paces
    covers = {plan.work.masks[one.mask].kind for one in plan.handling} if plan.work is not None else set()
    told = PassSerializer().fields.keys() - {"swatch"}
    swatches = _swatches(run, sheet)
    stints = _cut(stints_of(sheet, plan), run.lines)
    return {
        **line_of(run),
        "recipe_id": run.recipe_id,
        "newest_recipe": piece.latest_recipe,
        "plan": plan_key(plan),
        "school": schools_said(sheet),
        "paper": sheet.stamp.paper_used.name,
        "width_px": piece.width_px,
        "height_px": piece.height_px,
        "steps": [
            {
                **{name: getattr(one, name) for name in told},
                "swatch": one.swatch,
                "needs": [asdict(need) for need in needs[one.number]],
                "within_s": paces[one.medium].blend_s if one.join == "wet" else None,
                "touch_dry_s": paces[one.medium].touch_dry_s,
                "coat_dry_s": paces[one.medium].coat_dry_s,
            }
            for one in plan.passes
        ],
        "stints": [asdict(stint) for stint in stints],
        "handling": [
            {**asdict(one), "needs": [asdict(need) for need in dry_first]}
            for one, dry_first in zip(plan.handling, needs_of_handling(plan), strict=True)
        ],
        "lines": [{"first_pass": first, "last_pass": last} for first, last in run.lines],
        "swatches": swatches,
        "masked": "mask" in covers,
        "taped": "tape" in covers,
        "media": list(sheet.media),
        "cautions": [{"code": code, "caution": MEDIUMS[code].caution} for code in sheet.media],
        "before": reserves(sheet, region_map(piece.stamping, sheet)),
        "after": [asdict(step) for step in touches_after(sheet)],
        "making": [asdict(step) for step in making_after(sheet)],
        "slips": [{"code": code, "name": name, "rescues": _rescues(code, sheet.media)} for code, name in SLIPS.items()],
        "stint_times": _stint_times(state, plan, stints, run.cards),
        "log": [event.body for event in run.events.all()],
        "last": run.events_count,
    }


def _cut(stints: Sequence[Stint], lines: Sequence[Sequence[int]]) -> list[Stint]:
    """Stints that end where the next card's turn begins."""
    ends = {last for _, last in lines}
    found = []
    for stint in stints:
        first = stint.first_pass
        for number in range(stint.first_pass, stint.last_pass + 1):
            if number in ends or number == stint.last_pass:
                whole = (first, number) == (stint.first_pass, stint.last_pass)
                count = stint.count if whole else number - first + 1
                found.append(Stint(first, number, stint.name, count, stint.hand))
                first = number + 1
    return found


def _swatches(run: Run, sheet: Sheet) -> list[dict[str, Any]]:
    """In the order of first use, each with whether it is running low."""
    rows = SwatchRecord.objects.filter(drawer__owner_id=run.owner_id, running_low=True)
    low = set(rows.values_list("drawer__medium", "code"))
    used = dict.fromkeys(one.pen for one in plan_followed(run).passes)
    return [
        {
            **SwatchSerializer.of(one.code, one.name, one.family, one.lab),
            "medium": one.medium,
            "running_low": pen in low,
        }
        for pen, one in ((pen, sheet.colours.swatches[pen]) for pen in used)
    ]


def _rescues(slip: str, media: Sequence[str]) -> list[dict[str, Any]]:
    """The ways out in each of the media; each is told with those it is for."""
    found = {one.key: one for medium in media for one in rescues_for(slip, medium)}
    return [
        {
            "code": one.key,
            "name": one.name,
            "how": one.how,
            "caution": one.caution,
            "media": list(media_of(one)),
            "wets": one.wets,
        }
        for one in found.values()
    ]


def _stint_times(state: RunState, plan: Plan, stints: Sequence[Stint], cards: int) -> list[dict[str, Any]]:
    """How long each stint took beside what was planned, all cards together; None where nobody timed it."""
    took = seconds_by_pass(state)
    found = []
    for stint in stints:
        passes = plan.passes[stint.first_pass - 1 : stint.last_pass]
        timed = [took[one.number] for one in passes if one.number in took]
        found.append(
            {
                "seconds": round(sum(timed), 1) if timed else None,
                "planned_s": round(sum(one.end_s - one.start_s for one in passes) * cards, 1),
            }
        )
    return found


def present_choices(run: Run, now: float) -> list[dict[str, Any]]:
    """What may be laid now, best first."""
    state, recipe = state_of(run), recipe_followed(run)
    passes = {one.number: one for one in state.plan.passes}
    found = []
    for one in choices(state, now)[:CHOICES_TOLD]:
        if one.kind == "pass":
            name = passes[one.number].name
            swatch = recipe.sheet.colours.swatches.get((passes[one.number].medium, one.swatch))
            shown = {
                "swatch_name": swatch.name if swatch else one.swatch,
                "hex": lab_to_hex(swatch.lab) if swatch else "",
            }
        else:
            step = state.plan.handling[one.number - 1]
            name, shown = step.name, {"swatch_name": "", "hex": ""}
        found.append({**asdict(one), "name": name, **shown})
    return found
