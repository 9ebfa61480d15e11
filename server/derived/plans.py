"""Plans: worked out once for the same work, schools and paces, and kept over a restart."""

from __future__ import annotations

import hashlib
import json
from dataclasses import replace

from paleta.order import Batch, Paces, Plan, Ways, Work, batch, check_batch
from paleta.recipe import Sheet, plan_from_plain, work_of
from server.derived import disk, jobs, worker
from server.derived.fingerprint import code_of
from server.derived.light import accent_areas_of, shares_of
from server.derived.maps import Stamping, region_map
from server.derived.memory import memory

PLANS_KEY = code_of("media", "order")
"""Another with every change of the order's rules or its search."""


def plans_of(stamping: Stamping, sheet: Sheet, paces: Paces) -> tuple[Plan, Plan]:
    """The plan, and the same work done region by region."""
    work, ways = work_on(stamping, sheet), ways_on(sheet, paces)
    key = _key(work, ways, sheet.order.wish)
    return memory.get(
        ("plans", key),
        lambda: _unpacked(disk.kept("plans", key, lambda: worker.run(jobs.plan, work, ways, sheet.order.wish))),
    )


def plan_at_hand(stamping: Stamping, sheet: Sheet, paces: Paces) -> Plan | None:
    """The plan if it was worked out already; nothing slow is done."""
    kept = disk.peek("plans", _key(work_on(stamping, sheet), ways_on(sheet, paces), sheet.order.wish))
    return _unpacked(kept)[0] if kept is not None else None


def batch_of(stamping: Stamping, sheet: Sheet, paces: Paces, plan: Plan, copies: int) -> Batch:
    """The plan worked on several cards at once; where it was kept at another pace and does not suit this one, the plan
    that does."""
    work, ways = work_on(stamping, sheet), ways_on(sheet, paces)
    whole = replace(plan, ways=ways, work=work)
    made = batch(work, whole, None, copies)
    faults = check_batch(work, whole, made)
    if not faults:
        return made
    worked_out = plans_of(stamping, sheet, paces)[0]
    if worked_out != plan:
        return batch_of(stamping, sheet, paces, worked_out, copies)
    # A wrong order would spoil every card; better none at all.
    raise AssertionError(f"batch broke a rule: {faults[0].sentence}")


def ways_on(sheet: Sheet, paces: Paces) -> Ways:
    """How the sheet's media are laid on its paper, at these paces."""
    dries = sheet.stamp.paper_used.dries
    whole = Ways.of({medium: sheet.order.school_of(medium) for medium in sheet.media}, paces)
    return replace(whole, paces={medium: pace.on(dries) for medium, pace in whole.paces.items()})


def work_on(stamping: Stamping, sheet: Sheet) -> Work:
    """All that is to be coloured on the sheet."""
    found = region_map(stamping, sheet)
    return work_of(sheet, found, shares_of(stamping, sheet), accent_areas_of(stamping, sheet))


def _key(work: Work, ways: Ways, wish: str) -> str:
    touching = sorted(sorted(pair) for pair in work.touching)
    masks = [(sorted(mask.over), sorted(mask.during), mask.kind) for mask in work.masks]
    media = sorted({job.medium for job in work.jobs})
    laid = [(medium, ways.schools[medium], ways.paces[medium]) for medium in media]
    text = repr((PLANS_KEY, work.jobs, touching, sorted(map(str, work.creepers)), masks, laid, wish))
    return hashlib.sha256(text.encode()).hexdigest()


def _unpacked(data: bytes) -> tuple[Plan, Plan]:
    made, by_region = (plan_from_plain(one) for one in json.loads(data))
    return made, by_region
