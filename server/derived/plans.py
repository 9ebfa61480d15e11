"""Plans: worked out once for the same work, school and pace, and kept over a restart."""

from __future__ import annotations

import hashlib
import json

from paleta.order import Batch, Pace, Plan, School, Work, batch, check_batch
from paleta.recipe import Sheet, plan_from_plain, work_of
from server.derived import chores, disk, worker
from server.derived.light import shares_of
from server.derived.maps import Stamping, region_map
from server.derived.memory import memory

PLANS_KEY = "2"
"""To be raised when the order's rules or its search change."""


def plans_of(stamping: Stamping, sheet: Sheet, pace: Pace) -> tuple[Plan, Plan]:
    """The plan, and the same work done region by region."""
    work = work_on(stamping, sheet)
    asked = (work, sheet.order.school_used, pace, sheet.order.wish)
    key = _key(*asked)
    return memory.get(
        ("plans", key),
        lambda: _unpacked(disk.kept("plans", key, lambda: worker.run(chores.plan, *asked))),
    )


def plan_at_hand(stamping: Stamping, sheet: Sheet, pace: Pace) -> Plan | None:
    """The plan if it was worked out already; nothing slow is done."""
    key = _key(work_on(stamping, sheet), sheet.order.school_used, pace, sheet.order.wish)
    kept = disk.peek("plans", key)
    return _unpacked(kept)[0] if kept is not None else None


def batch_of(stamping: Stamping, sheet: Sheet, pace: Pace, copies: int) -> Batch:
    """The plan worked on several cards at once."""
    work, (plan, _) = work_on(stamping, sheet), plans_of(stamping, sheet, pace)
    made = batch(work, plan, pace, copies)
    faults = check_batch(work, plan, made, pace)
    if faults:  # A wrong order would spoil every card; better none at all.
        raise AssertionError(f"batch broke a rule: {faults[0].sentence}")
    return made


def work_on(stamping: Stamping, sheet: Sheet) -> Work:
    """All that is to be coloured on the sheet."""
    return work_of(sheet, region_map(stamping, sheet), shares_of(stamping, sheet))


def _key(work: Work, school: School, pace: Pace, wish: str) -> str:
    touching = sorted(sorted(pair) for pair in work.touching)
    masks = [(sorted(mask.over), sorted(mask.during)) for mask in work.masks]
    text = repr((PLANS_KEY, work.jobs, touching, sorted(work.creepers), masks, school, pace, wish))
    return hashlib.sha256(text.encode()).hexdigest()


def _unpacked(data: bytes) -> tuple[Plan, Plan]:
    made, by_region = (plan_from_plain(one) for one in json.loads(data))
    return made, by_region
