"""Stints: neighbouring passes with one swatch, on one thing, laid in one way. What is shown and printed as one line."""

from __future__ import annotations

from dataclasses import dataclass

from paleta.order import Pass, Plan
from paleta.recipe._sheet import Sheet


@dataclass(frozen=True, slots=True)
class Stint:
    """Passes `first_pass` to `last_pass`, on `count` regions of what is called `name`. Stints of one `hand`, from 1,
    follow each other with one pen, at whatever strength: it is taken up once, and nothing is waited for."""

    first_pass: int
    last_pass: int
    name: str
    count: int
    hand: int


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
    found: list[Stint] = []
    hand = 0
    last: Pass | None = None
    for run in runs:
        first = run[0]
        if last is None or last.in_hand != first.in_hand or first.wait_s > 0 or first.number in handled:
            hand += 1
        found.append(_stint(sheet, run, hand))
        last = run[-1]
    return found


def _way(one: Pass) -> tuple[str, str, str, str, str]:
    return one.medium, one.swatch, one.zone, one.join, one.how


def _stint(sheet: Sheet, run: list[Pass], hand: int) -> Stint:
    regions = {one.region for one in run}
    setting = sheet.regions.settings.get(run[0].region)
    thing = setting.thing if setting is not None and len(regions) > 1 else ""
    return Stint(run[0].number, run[-1].number, thing or run[0].name, len(regions), hand)
