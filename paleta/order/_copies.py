"""The same plan for several cards at once: one pen over all cards before the next is taken up."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, field, replace

from paleta.errors import PlanImpossible
from paleta.order._clock import CardPaper, Hand
from paleta.order._masks import dry_before
from paleta.order._plan import Handling, Pass, Plan
from paleta.order._ways import Paces, Ways
from paleta.order._work import Work

MOST_COPIES = 200


@dataclass(frozen=True, slots=True)
class BatchLine:
    """A stretch of the plan done on every card before going on: its passes, when it starts, ends, and idles."""

    first_pass: int
    last_pass: int
    start_s: float
    end_s: float
    wait_s: float


@dataclass(frozen=True, slots=True)
class Batch:
    """n cards worked together. one_by_one_s is the time of n cards after each other.

    starts_s   for every card when each pass of the plan begins on it.
    handled_s  for every card when each step of the plan's handling of masks begins on it.
    """

    copies: int
    lines: tuple[BatchLine, ...]
    duration_s: float
    one_by_one_s: float
    pen_changes: int
    one_by_one_changes: int
    starts_s: tuple[tuple[float, ...], ...] = ()
    handled_s: tuple[tuple[float, ...], ...] = ()


def batch(work: Work, plan: Plan, pace: Paces | None, copies: int) -> Batch:
    """Work `copies` cards along `plan`: every wet stretch is done on card after card, one dries while the next is laid.
    Masks are laid, wiped and lifted on each card before the pass they come before; what comes after the last pass is
    done once all cards are coloured. Where the plan is woven so closely that this would take longer, card after card is
    worked whole.

    Parameters
    ----------
    work
        Of one card.
    plan
        Of one card.
    pace
        By medium; the plan's own where nothing is said.
    copies
        Cards, 1 to 200.

    Returns
    -------
    What is done when on which card, in seconds, and how long it takes.

    Raises
    ------
    PlanImpossible
        If `copies` is not 1 to 200.
    SchoolError
        If the plan was read from a file and does not know how it is laid.
    """
    if not 1 <= copies <= MOST_COPIES:
        raise PlanImpossible(f"A batch has 1 to {MOST_COPIES} cards, got {copies}.")
    ways = plan.laid_by(pace=pace)
    hand, near = Hand(ways), work.neighbours()
    cards = [_Card(CardPaper(ways, near)) for _ in range(copies)]
    lines = []
    for stretch in _stretches(plan.passes):
        begun, waited = hand.now_s, 0.0
        # Alternate cards run the stretch's single pen on; a stretch of several pens starts over on every card.
        for card in cards:
            for place, one in enumerate(stretch):
                waited += card.handle(hand, work, [step for step in plan.handling if step.before_pass == one.number])
                ready_s = card.paper.ready([one])[0] if place == 0 or one.join != "wet" else 0.0
                laid = hand.lay(one, card.paper, ready_s)
                waited += laid.waited_s
                card.starts_s.append(round(laid.start_s, 1))
        lines.append(
            BatchLine(stretch[0].number, stretch[-1].number, round(begun, 1), round(hand.now_s, 1), round(waited, 1))
        )
    for card in cards:
        card.handle(hand, work, [step for step in plan.handling if step.before_pass > len(plan.passes)])
    whole = _card_after_card(plan, ways, copies)
    if hand.now_s > whole.one_by_one_s:
        return whole
    return replace(
        whole,
        lines=tuple(lines),
        duration_s=round(hand.now_s, 1),
        pen_changes=hand.changes,
        starts_s=tuple(tuple(card.starts_s) for card in cards),
        handled_s=tuple(tuple(card.handled_s) for card in cards),
    )


@dataclass(slots=True)
class _Card:
    """One card of a batch being worked: its paper, and when passes and handling began on it."""

    paper: CardPaper
    starts_s: list[float] = field(default_factory=list)
    handled_s: list[float] = field(default_factory=list)

    def handle(self, hand: Hand, work: Work, steps: Sequence[Handling]) -> float:
        """Lay, wipe and lift masks; seconds that were waited for dry paper."""
        waited_s = 0.0
        for step in steps:
            waited_s += hand.wait_until(self.paper.touch_dry(dry_before(step, work)))
            self.handled_s.append(round(hand.now_s, 1))
            hand.now_s += step.end_s - step.start_s
        return waited_s


def _card_after_card(plan: Plan, ways: Ways, copies: int) -> Batch:
    another, again_s = False, 0.0
    if plan.passes:
        first, last = plan.passes[0], plan.passes[-1]
        pace, another = ways.paces[first.medium], first.in_hand != last.in_hand
        again_s = (pace.change_s if another else 0.0) + (pace.setup_s if first.medium != last.medium else 0.0)
    each_s = plan.duration_s + again_s
    total_s = round(copies * each_s - (each_s - plan.duration_s), 1)
    changes = copies * plan.pen_changes + (copies - 1 if another else 0)
    waits_s = copies * (sum(one.wait_s for one in plan.passes) + sum(one.wait_s for one in plan.handling))
    return Batch(
        copies=copies,
        lines=(BatchLine(1, len(plan.passes), 0.0, total_s, round(waits_s, 1)),) if plan.passes else (),
        duration_s=total_s,
        one_by_one_s=total_s,
        pen_changes=changes,
        one_by_one_changes=changes,
        starts_s=tuple(tuple(round(one.start_s + card * each_s, 1) for one in plan.passes) for card in range(copies)),
        handled_s=tuple(
            tuple(round(one.start_s + card * each_s, 1) for one in plan.handling) for card in range(copies)
        ),
    )


def _stretches(passes: tuple[Pass, ...]) -> list[list[Pass]]:
    """Passes that belong together: one pen, or a wet blend that nothing may interrupt.

    A pass joined wet ties all passes between it and the one it blends with into one stretch.
    """
    last_on: dict[int, int] = {}
    tie = list(range(len(passes)))
    for place, one in enumerate(passes):
        if one.join == "wet" and one.region in last_on:
            first = tie[last_on[one.region]]
            for k in range(first, place + 1):
                tie[k] = min(tie[k], first)
        last_on[one.region] = place
    stretches: list[list[Pass]] = []
    for place, one in enumerate(passes):
        joined = stretches and (
            tie[place] < place or ({each.in_hand for each in stretches[-1]} == {one.in_hand} and tie[place] == place)
        )
        if joined:
            stretches[-1].append(one)
        else:
            stretches.append([one])
    return stretches
