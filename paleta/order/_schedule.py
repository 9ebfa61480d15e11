"""The order of passes: a scheduling problem with set-up times and time windows.

One hand lays every pass. Orders are built in several plain ways, where nothing must meet wet also by looking for the
fewest visits of pens, and bettered by annealing over single passes ([Kirkpatrick1983]; [Bagchi1999] surveys sequencing
with set-up times). Small works are searched through by branch and bound ([Land1960]), which proves the best.
"""

from __future__ import annotations

from collections import Counter
from collections.abc import Mapping, Sequence
from dataclasses import asdict, dataclass, field, replace
from itertools import groupby, pairwise

from paleta.media import MEDIA
from paleta.order._masks import HOW, SOILING, WIPE_S, handling_s, used_masks
from paleta.order._paces import PACES
from paleta.order._plan import Handling, Pass, Plan
from paleta.order._rules import chains_of
from paleta.order._schools import school_named
from paleta.order._search import Least, Tables, built, search, starts_and_ends, tables_of, waiting_in_a_circle
from paleta.order._ways import Paces, Schools, Ways
from paleta.order._work import Job, Mask, Pen, Stroke, Work
from paleta.order.columns import HABIT, LAY, PLAIN


def make_plan(work: Work, school: Schools, pace: Paces | None = None) -> Plan:
    """Order all passes of all jobs. Where jobs are of several media, a school and a pace are given for each of them;
    common practice stands in for what is not.

    Returns
    -------
    Plan
        One that `check_plan` accepts. No jobs give an empty plan of 0 s. The same work gives the same plan.

    Parameters
    ----------
    work
        Jobs with areas in mm2, what touches what, and masks.
    school
        By medium, or one for all.
    pace
        By medium, in seconds; common practice where nothing is said.

    Raises
    ------
    PlanImpossible
        If the pace leaves no time for a wet blend, or what must come first goes round in a circle, as where a mask
        covers what must be coloured while it lies.
    """
    ways = Ways.of(school, pace)
    chains = chains_of(work, ways)
    tables = tables_of(work, chains, ways)
    if not tables.strokes:
        return Plan((), 0, 0.0, 0.0, ways=ways, work=work)
    least = _least_of(chains, work, ways)
    sequence, proven = search(tables, least)
    plan = _timed(sequence, tables, work, ways, least.seconds)
    return replace(plan, bound_s=plan.duration_s) if proven else plan


def plan_region_by_region(work: Work, school: Schools, pace: Paces | None = None) -> Plan:
    """The habit to compare with: one region after the other, going on with another while one dries.

    It waits as cleverly as `make_plan`, but does not look at which pen is in the hand.

    Parameters
    ----------
    work
        As for `make_plan`.
    school
        By medium, or one for all.
    pace
        By medium; common practice where nothing is said.
    """
    return _plan_built(work, Ways.of(school, pace), HABIT)


def plan_plainly(work: Work, school: Schools, pace: Paces | None = None) -> Plan:
    """The plain way to compare with: stay with the pen, then take the one with the most work ready.

    Parameters
    ----------
    work
        As for `make_plan`.
    school
        By medium, or one for all.
    pace
        By medium; common practice where nothing is said.
    """
    return _plan_built(work, Ways.of(school, pace), PLAIN)


def warm_up() -> None:
    """Compile and load what plans are searched with: half a minute the first time, a second or two later."""
    for code, ramps in (("M1", ("abc", "cba", "bca")), ("P1", ("abc", "cba", "bca"))):
        school = school_named(code)
        make_plan(
            Work(tuple(Job(number, code, 1.0, tuple(ramp)) for number, ramp in enumerate(ramps))),
            school,
            PACES[school.medium],
        )


def _least_of(chains: Sequence[Sequence[Stroke]], work: Work, ways: Ways) -> Least:
    """What no order is under: every pass is laid, every pen taken up as often as the chain that parts its passes most
    needs it, and every medium set up likewise, masks are handled, and every chain has its own waits."""
    pens: Counter[Pen] = Counter()
    media: Counter[str] = Counter()
    for chain in chains:
        # Passes of one pen with another pen between them are different visits of it.
        pens |= Counter(pen for pen, _ in groupby(stroke.in_hand for stroke in chain))
        media |= Counter(medium for medium, _ in groupby(stroke.medium for stroke in chain))
    paces = ways.paces
    hand = sum(paces[stroke.medium].laying_s(stroke.area_mm2) for chain in chains for stroke in chain)
    hand += sum(count * paces[medium].change_s for (medium, _), count in pens.items())
    hand += sum(count * paces[medium].setup_s for medium, count in media.items())
    # The first pen is taken up, and its medium set up, before the clock runs.
    hand -= max(paces[medium].change_s + paces[medium].setup_s for medium in media)
    hand += handling_s(work, chains)
    return Least(max(hand, *(_alone_s(chain, ways) for chain in chains)), pens.total())


def _alone_s(chain: Sequence[Stroke], ways: Ways) -> float:
    """How long one region takes by itself."""
    total = ways.paces[chain[0].medium].laying_s(chain[0].area_mm2)
    for before, stroke in pairwise(chain):
        pace = ways.paces[stroke.medium]
        change = pace.change_s if before.in_hand != stroke.in_hand else 0.0
        setup = pace.setup_s if before.medium != stroke.medium else 0.0
        dry = ways.paces[before.medium].coat_dry_s if stroke.join == "dry" else 0.0
        total += max(change + setup, dry) + pace.laying_s(stroke.area_mm2)
    return total


def _plan_built(work: Work, ways: Ways, way: int) -> Plan:
    chains = chains_of(work, ways)
    tables = tables_of(work, chains, ways)
    if not tables.strokes:
        return Plan((), 0, 0.0, 0.0, ways=ways, work=work)
    sequence = built(tables, way)
    if sequence is None:
        raise waiting_in_a_circle(tables)
    return _timed(sequence.tolist(), tables, work, ways, _least_of(chains, work, ways).seconds)


@dataclass(slots=True)
class _Covers:
    """The masks that lie, each with the pen whose ink is on it."""

    masks: Mapping[int, Mask]
    lying: dict[int, Pen | None] = field(default_factory=dict)

    def soiled(self, stroke: Stroke) -> list[int]:
        """Masks that must be wiped before `stroke`; its ink is on them from now on."""
        if stroke.medium not in SOILING:
            return []
        beside = [number for number in self.lying if stroke.region in self.masks[number].during]
        found = [number for number in beside if self.lying[number] not in (None, stroke.in_hand)]
        self.lying.update(dict.fromkeys(beside, stroke.in_hand))
        return found


def _timed(sequence: Sequence[int], tables: Tables, work: Work, ways: Ways, bound_s: float) -> Plan:
    """The plan of a sequence of strokes and handling."""
    starts, ends = starts_and_ends(tables, sequence)
    names = {stroke.region: stroke.name for stroke in tables.strokes}
    masks = used_masks(work)
    covers = _Covers(dict(masks))
    near = work.neighbours()
    passes: list[Pass] = []
    handling: list[Handling] = []
    free_s, changes = 0.0, 0

    def handle(kind: str, number: int, start_s: float, end_s: float) -> None:
        how = HOW[kind, work.masks[number].kind]
        waited_s = round(start_s - free_s, 1)
        handling.append(
            Handling(kind, number, *how, len(passes) + 1, round(start_s, 1), round(end_s, 1), max(0.0, waited_s))
        )

    for one in sequence:
        start_s, end_s = starts[one], ends[one]
        if one >= len(tables.strokes):
            kind, place = tables.handling[one - len(tables.strokes)]
            number = masks[place][0]
            handle("lay" if kind == LAY else "lift", number, start_s, end_s)
            if kind == LAY:
                covers.lying[number] = None
            else:
                del covers.lying[number]
        else:
            stroke = tables.strokes[one]
            soiled = covers.soiled(stroke)
            if soiled:
                # All that lies is wiped with one cloth in one go.
                handle("wipe", soiled[0], free_s, free_s + WIPE_S)
                free_s += WIPE_S
            before = passes[-1] if passes else None
            change = before is not None and before.in_hand != stroke.in_hand
            changes += change
            pace = ways.paces[stroke.medium]
            change_s = pace.change_s if change else 0.0
            if before is not None and before.medium != stroke.medium:
                change_s += pace.setup_s
            wait_s = round(start_s - free_s - change_s, 1)
            passes.append(
                Pass(
                    **{**asdict(stroke), "area_mm2": round(stroke.area_mm2, 2)},
                    number=len(passes) + 1,
                    start_s=round(start_s, 1),
                    end_s=round(end_s, 1),
                    wait_s=max(0.0, wait_s),
                    wait_for=_reason(stroke, passes, near, ways, names) if wait_s > 0 else "",
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
        ways=ways,
        work=work,
    )


def _reason(
    stroke: Stroke, laid: Sequence[Pass], near: Mapping[int, Sequence[int]], ways: Ways, names: Mapping[int, str]
) -> str:
    """What is waited for before `stroke`: whatever is dry last."""
    waits = [(0.0, "what comes after it to be laid in time")]
    for one in laid:
        pace = ways.paces[one.medium]
        if stroke.join == "dry" and one.region == stroke.region:
            coat = "the first coat" if one.medium == stroke.medium else f"the {MEDIA[one.medium].lower()}"
            waits.append((one.end_s + pace.coat_dry_s, f"{coat} of {names[one.region]} to dry"))
        if one.region in near.get(stroke.region, ()):
            waits.append((one.end_s + pace.touch_dry_s, f"{names[one.region]} to be touch dry"))
    return max(waits)[1]
