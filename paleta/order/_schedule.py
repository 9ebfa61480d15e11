"""The order of passes: a scheduling problem with set-up times and time windows.

One hand lays every pass. Orders are built in several plain ways, where nothing must meet wet also by looking for the
fewest visits of pens, and bettered by annealing over single passes ([Kirkpatrick1983]; [Bagchi1999] surveys sequencing
with set-up times). Small works are searched through by branch and bound ([Land1960]), which proves the best.
"""

from __future__ import annotations

from collections import Counter
from collections.abc import Mapping, Sequence
from dataclasses import asdict, replace
from itertools import groupby

from paleta.order._masks import HOW, handling_s, used_masks
from paleta.order._pace import PACES, Pace
from paleta.order._plan import Handling, Pass, Plan
from paleta.order._schools import School, school_named
from paleta.order._search import Least, Tables, built, search, starts_and_ends, tables_of, waiting_in_a_circle
from paleta.order._work import Job, Stroke, Work, expand
from paleta.order.columns import HABIT, LAY, PLAIN


def make_plan(work: Work, school: School, pace: Pace) -> Plan:
    """Order all passes of all jobs.

    Returns
    -------
    Plan
        One that `check_plan` accepts. No jobs give an empty plan of 0 s. The same work gives the same plan.

    Raises
    ------
    PlanImpossible
        If the pace leaves no time for a wet blend, or what must come first goes round in a circle, as where a mask
        covers what must be coloured while it lies.
    """
    chains = _chains(work, school)
    tables = tables_of(work, chains, pace)
    if not tables.strokes:
        return Plan((), 0, 0.0, 0.0, school=school, pace=pace, work=work)
    least = least_of(chains, work, pace)
    sequence, proven = search(tables, least)
    plan = _timed(sequence, tables, work, school, pace, least.seconds)
    return replace(plan, bound_s=plan.duration_s) if proven else plan


def plan_region_by_region(work: Work, school: School, pace: Pace) -> Plan:
    """The habit to compare with: one region after the other, going on with another while one dries.

    It waits as cleverly as `make_plan`, but does not look at which pen is in the hand.
    """
    return _plan_built(work, school, pace, HABIT)


def plan_plainly(work: Work, school: School, pace: Pace) -> Plan:
    """The plain way to compare with: stay with the pen, then take the one with the most work ready."""
    return _plan_built(work, school, pace, PLAIN)


def warm_up() -> None:
    """Compile and load what plans are searched with: half a minute the first time, a second or two later."""
    for code, ramps in (("M1", ("abc", "cba", "bca")), ("P1", ("abc", "cba", "bca"))):
        school = school_named(code)
        make_plan(
            Work(tuple(Job(number, code, 1.0, tuple(ramp)) for number, ramp in enumerate(ramps))),
            school,
            PACES[school.medium],
        )


def least_of(chains: Sequence[Sequence[Stroke]], work: Work, pace: Pace) -> Least:
    """What no order is under: every pass is laid, every pen taken up as often as the chain that parts its passes most
    needs it, masks are handled, and every chain has its own waits."""
    visits: Counter[str] = Counter()
    for chain in chains:
        # Passes of one pen with another pen between them are different visits of it.
        visits |= Counter(pen for pen, _ in groupby(stroke.swatch for stroke in chain))
    laying = sum(pace.laying_s(stroke.area_mm2) for chain in chains for stroke in chain)
    hand = laying + (visits.total() - 1) * pace.change_s + handling_s(work)
    return Least(max(hand, *(_alone_s(chain, pace) for chain in chains)), visits.total())


def _alone_s(chain: Sequence[Stroke], pace: Pace) -> float:
    """How long one region takes by itself."""
    total = 0.0
    for number, stroke in enumerate(chain):
        change = pace.change_s if number and chain[number - 1].swatch != stroke.swatch else 0.0
        total += max(change, pace.coat_dry_s if stroke.join == "dry" else 0.0) + pace.laying_s(stroke.area_mm2)
    return total


def _chains(work: Work, school: School) -> list[list[Stroke]]:
    return [chain for chain in (expand(job, school) for job in work.jobs) if chain]


def _plan_built(work: Work, school: School, pace: Pace, way: int) -> Plan:
    chains = _chains(work, school)
    tables = tables_of(work, chains, pace)
    if not tables.strokes:
        return Plan((), 0, 0.0, 0.0, school=school, pace=pace, work=work)
    sequence = built(tables, way)
    if sequence is None:
        raise waiting_in_a_circle(tables)
    return _timed(sequence.tolist(), tables, work, school, pace, least_of(chains, work, pace).seconds)


def _timed(sequence: Sequence[int], tables: Tables, work: Work, school: School, pace: Pace, bound_s: float) -> Plan:
    """The plan of a sequence of strokes and handling."""
    starts, ends = starts_and_ends(tables, sequence)
    names = {stroke.region: stroke.name for stroke in tables.strokes}
    masks = used_masks(work)
    near = work.neighbours()
    passes: list[Pass] = []
    handling: list[Handling] = []
    free_s, changes, pen = 0.0, 0, None
    for one in sequence:
        start_s, end_s = starts[one], ends[one]
        if one >= len(tables.strokes):
            kind = "lay" if tables.handling[one - len(tables.strokes)][0] == LAY else "lift"
            number, _ = masks[tables.handling[one - len(tables.strokes)][1]]
            waited = round(start_s - free_s, 1)
            handling.append(
                Handling(kind, number, *HOW[kind], len(passes) + 1, round(start_s, 1), round(end_s, 1), waited)
            )
        else:
            stroke = tables.strokes[one]
            change = pen not in (None, stroke.swatch)
            changes, pen = changes + change, stroke.swatch
            wait_s = round(start_s - free_s - (pace.change_s if change else 0.0), 1)
            passes.append(
                Pass(
                    **{**asdict(stroke), "area_mm2": round(stroke.area_mm2, 2)},
                    number=len(passes) + 1,
                    start_s=round(start_s, 1),
                    end_s=round(end_s, 1),
                    wait_s=max(0.0, wait_s),
                    wait_for=_reason(stroke, passes, near, pace, names) if wait_s > 0 else "",
                    change=change,
                )
            )
        free_s = end_s
    return Plan(
        passes=tuple(passes),
        pen_changes=changes,
        duration_s=round(free_s, 1),
        bound_s=round(min(bound_s, free_s), 1),
        handling=tuple(handling),
        school=school,
        pace=pace,
        work=work,
    )


def _reason(
    stroke: Stroke, laid: Sequence[Pass], near: Mapping[int, Sequence[int]], pace: Pace, names: Mapping[int, str]
) -> str:
    """What is waited for before `stroke`: whatever is dry last."""
    waits = [(0.0, "what comes after it to be laid in time")]
    for one in laid:
        if stroke.join == "dry" and one.region == stroke.region:
            waits.append((one.end_s + pace.coat_dry_s, f"the first coat of {names[one.region]} to dry"))
        if one.region in near.get(stroke.region, ()):
            waits.append((one.end_s + pace.touch_dry_s, f"{names[one.region]} to be touch dry"))
    return max(waits)[1]
