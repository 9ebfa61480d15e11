"""Stints: neighbouring passes with one swatch, on one thing, laid in one way. What is shown and printed as one line."""

from __future__ import annotations

from dataclasses import dataclass

from paleta.order import Pass, Plan
from paleta.recipe._sheet import Sheet


@dataclass(frozen=True, slots=True)
class Stint:
    """Passes `first_pass` to `last_pass`, on `count` regions of what is called `name`."""

    first_pass: int
    last_pass: int
    name: str
    count: int


def stints_of(sheet: Sheet, plan: Plan) -> list[Stint]:
    """The plan's passes in their order, as stints: nothing is waited for and no mask handled within one.

    Parameters
    ----------
    sheet
        Which regions make one thing.
    plan
        Its passes.
    """
    leads = sheet.regions.thing_leads()
    handled = {one.before_pass for one in plan.handling}
    runs: list[list[Pass]] = []
    for one in plan.passes:
        before = runs[-1][-1] if runs else None
        if (
            before is not None
            and _way(one) == _way(before)
            and leads.get(one.region, one.region) == leads.get(before.region, before.region)
            and one.wait_s <= 0
            and one.number not in handled
        ):
            runs[-1].append(one)
        else:
            runs.append([one])
    return [_stint(sheet, run) for run in runs]


def _way(one: Pass) -> tuple[str, str, str, str, str]:
    return one.medium, one.swatch, one.zone, one.join, one.how


def _stint(sheet: Sheet, run: list[Pass]) -> Stint:
    regions = {one.region for one in run}
    setting = sheet.regions.settings.get(run[0].region)
    thing = setting.thing if setting is not None and len(regions) > 1 else ""
    return Stint(run[0].number, run[-1].number, thing or run[0].name, len(regions))
