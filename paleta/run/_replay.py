"""What a run's log adds up to.

The log is a set of lines that only grows, each with an id of its own (a grow-only set, [Shapiro2011]): the state
depends on which lines are known, not on the order they came in or how often. Two devices therefore agree as soon as
each has heard what the other has written.
"""

from __future__ import annotations

import hashlib
import json
from collections.abc import Callable, Iterable, Mapping, Sequence
from dataclasses import dataclass, field
from functools import cached_property
from typing import Any, ClassVar

from paleta.fields import whole_numbers
from paleta.order import Pass, Pen, Plan, Ways, batch
from paleta.recipe import plan_to_plain
from paleta.run._events import (
    AnotherPen,
    Event,
    ExtraCoat,
    Finished,
    Handled,
    Moved,
    PassesLaid,
    Rescued,
    Slip,
    Started,
    Undone,
)
from paleta.run._rescues import WETTING
from paleta.run._wet import Touched, ways_of


def plan_key(plan: Plan) -> str:
    """Names a plan by its content: 16 characters, the same before a plan is written to a file and after."""
    content = whole_numbers(plan_to_plain(plan))
    if not any(one.coat for one in plan.passes) and len({one.medium for one in plan.passes}) <= 1:
        # Logs that were begun before there were coats speak of such plans without them.
        left_out = ("medium", "coat")
        content["passes"] = [{k: v for k, v in one.items() if k not in left_out} for one in content["passes"]]
    plain = json.dumps(content, sort_keys=True)
    return hashlib.sha256(plain.encode()).hexdigest()[:16]


@dataclass(frozen=True, slots=True)
class LaidPass:
    """A pass as it was laid: with which swatch, when it was done (seconds since 1970), by which event."""

    number: int
    swatch: str
    at_s: float
    event: str


@dataclass(frozen=True, slots=True)
class CardProgress:
    """One card of a run.

    laid     passes by their number.
    again    passes laid once more, and rescues that lay colour.
    touched  when each region was last wetted, by whatever.
    handled  steps of the plan's handling by their number, and when.
    beside   passes laid for an earlier plan that this one does not have: how many.
    """

    number: int
    laid: Mapping[int, LaidPass] = field(default_factory=dict)
    again: tuple[LaidPass, ...] = ()
    touched: Mapping[int, Touched] = field(default_factory=dict)
    handled: Mapping[int, float] = field(default_factory=dict)
    beside: int = 0


@dataclass(frozen=True, eq=True)
class RunState:
    """What is laid, and what was done instead of what was planned.

    cards      from 1, in their order.
    pens       swatches taken from now on instead of planned ones.
    here       swatches taken for single passes, by card and pass.
    log        the lines that count, by time.
    set_aside  lines that do not count, with why: they speak of another plan, of a pass it does not have.
    """

    plan: Plan
    cards: tuple[CardProgress, ...]
    pens: Mapping[Pen, str]
    here: Mapping[tuple[int, int], str]
    log: tuple[Event, ...]
    set_aside: tuple[tuple[str, str], ...]
    finished: bool

    @property
    def ways(self) -> Ways:
        return ways_of(self.plan)

    @cached_property
    def course(self) -> tuple[tuple[int, int], ...]:
        """(card, pass) in the order they are to be laid: several cards as the batch says."""
        return course_of(self.plan, len(self.cards))

    @property
    def next_up(self) -> tuple[int, int] | None:
        """The first (card, pass) of the course that is not laid; None when all are."""
        return next((one for one in self.course if one[1] not in self.cards[one[0] - 1].laid), None)

    @property
    def done(self) -> bool:
        """All is laid and every mask handled, or somebody said so."""
        steps = len(self.plan.handling)
        return self.finished or (self.next_up is None and all(len(card.handled) == steps for card in self.cards))


def course_of(plan: Plan, cards: int) -> tuple[tuple[int, int], ...]:
    """(card, pass) in the order of work: stretch by stretch over all cards where the plan knows its work, else card
    after card.

    Parameters
    ----------
    plan
        Of one card.
    cards
        How many are made side by side.
    """
    lines: Sequence[tuple[int, int]] = [(1, len(plan.passes))] if plan.passes else []
    if cards > 1 and plan.work is not None:
        lines = [(one.first_pass, one.last_pass) for one in batch(plan.work, plan, ways_of(plan).paces, cards).lines]
    return tuple(
        (card, number) for first, last in lines for card in range(1, cards + 1) for number in range(first, last + 1)
    )


def one_log(events: Iterable[Event]) -> list[Event]:
    """The lines by time, each once. Of two that share an id without being the same, one is chosen by its content."""
    known: dict[str, Event] = {}
    for event in events:
        other = known.setdefault(event.id, event)
        if other is not event and other != event:
            known[event.id] = min(other, event, key=repr)
    return sorted(known.values(), key=lambda event: (event.at_s, event.id))


def replay(plan: Plan, events: Iterable[Event]) -> RunState:
    """The state of a run that follows `plan`; the same events give the same state in any order, however often.

    A run that was moved over from another plan is replayed on the plan it follows now.

    Parameters
    ----------
    plan
        That the run follows now.
    events
        In any order; one that is there twice counts once.
    """
    log = one_log(events)
    taken_back = {event.event for event in log if isinstance(event, Undone)}
    # How many cards there are and which plan is followed is no slip of the finger.
    counting = [event for event in log if event.id not in taken_back or isinstance(event, Started | Moved)]
    return _Replay(plan, counting).state()


class _Replay:
    """One reading of a log; kept apart from the state it ends in, which is frozen."""

    def __init__(self, plan: Plan, log: Sequence[Event]) -> None:
        self.plan, self.log = plan, log
        self.key = plan_key(plan)
        self.passes: dict[int, Pass] = {one.number: one for one in plan.passes}
        self.numbers = self._numbers_by_plan()
        self.pens: dict[Pen, str] = {}
        self.ways = ways_of(plan)
        self.here: dict[tuple[int, int], str] = {}
        self.counting: list[Event] = []
        self.set_aside: list[tuple[str, str]] = []
        self.slips = {event.id: event for event in log if isinstance(event, Slip)}
        count = max((event.cards for event in log if isinstance(event, Started)), default=1)
        self.laid: list[dict[int, LaidPass]] = [{} for _ in range(count)]
        self.again: list[list[LaidPass]] = [[] for _ in range(count)]
        self.touched: list[dict[int, Touched]] = [{} for _ in range(count)]
        self.handled: list[dict[int, float]] = [{} for _ in range(count)]
        self.beside = [0] * count
        self.finished = False

    def state(self) -> RunState:
        # Swatches first: a line that says which pen was taken may be written after the pass it was taken for.
        for event in self.log:
            if isinstance(event, AnotherPen) and self._speaks(event):
                for number in self._known(event, event.passes):
                    self.here[event.card, number] = event.code
        for event in self.log:
            fault = self._read(event)
            if fault:
                self.set_aside.append((event.id, fault))
            else:
                self.counting.append(event)
        cards = tuple(
            CardProgress(number, laid, tuple(again), touched, handled, beside)
            for number, laid, again, touched, handled, beside in zip(
                range(1, len(self.laid) + 1),
                self.laid,
                self.again,
                self.touched,
                self.handled,
                self.beside,
                strict=True,
            )
        )
        return RunState(
            self.plan, cards, self.pens, self.here, tuple(self.counting), tuple(self.set_aside), self.finished
        )

    def _numbers_by_plan(self) -> dict[str, dict[int, int] | None]:
        """For every plan the run ever followed, its pass numbers in this plan; None: they are the same."""
        moves = [event for event in self.log if isinstance(event, Moved)]
        numbers: dict[str, dict[int, int] | None] = {self.key: None}
        for event in reversed(moves):
            onwards = numbers.get(event.plan)
            if event.plan in numbers and event.from_plan not in numbers:
                pairs = {int(old): int(new) for old, new in event.pairs}
                numbers[event.from_plan] = (
                    pairs if onwards is None else {old: onwards[new] for old, new in pairs.items() if new in onwards}
                )
        return numbers

    def _speaks(self, event: Event) -> bool:
        return event.plan in self.numbers and event.card <= len(self.laid)

    def _known(self, event: Event, passes: Sequence[int]) -> list[int]:
        numbers = self.numbers[event.plan]
        mine = passes if numbers is None else [numbers[one] for one in passes if one in numbers]
        return [one for one in mine if one in self.passes]

    def _read(self, event: Event) -> str:
        """Take one line in; the sentence that says why it cannot be, or ""."""
        if event.plan not in self.numbers:
            return "It speaks of another plan than the one this run follows."
        if event.card > len(self.laid):
            return f"The run has {len(self.laid)} cards, it speaks of card {event.card}."
        reader = self.READERS.get(type(event))
        return reader(self, event, event.card - 1) if reader else ""

    def _read_laid(self, event: PassesLaid | ExtraCoat, card: int) -> str:
        known = self._known(event, event.passes)
        lost = len(event.passes) - len(known)
        if lost and event.plan == self.key:
            return "It speaks of passes that the plan does not have."
        for number in known:
            self._lay(event, card, number)
        self.beside[card] += lost if isinstance(event, PassesLaid) else 0
        return ""

    def _read_handled(self, event: Handled, card: int) -> str:
        if event.step > len(self.plan.handling) and event.plan == self.key:
            return "It speaks of a mask that the plan does not have."
        if event.plan == self.key:
            self.handled[card].setdefault(event.step, event.at_s)
        return ""

    def _read_pen(self, event: AnotherPen, card: int) -> str:
        if not event.passes:
            planned = {one.pen for one in self.plan.passes if one.swatch == event.instead_of}
            self.pens.update({pen: event.code for pen in planned if event.medium in ("", pen[0])})
        return ""

    def _read_rescue(self, event: Rescued, card: int) -> str:
        slip = self.slips.get(event.event)
        if slip is None:
            return "It rescues a slip that is not in the log."
        if event.rescue in WETTING and slip.plan in self.numbers:
            for number in self._known(slip, slip.passes):
                self._touch(card, self.passes[number], event.at_s)
        return ""

    def _read_finish(self, event: Finished, card: int) -> str:
        self.finished = True
        return ""

    READERS: ClassVar[dict[type[Event], Callable[[Any, Any, int], str]]] = {
        PassesLaid: _read_laid,
        ExtraCoat: _read_laid,
        Handled: _read_handled,
        AnotherPen: _read_pen,
        Rescued: _read_rescue,
        Finished: _read_finish,
    }

    def _touch(self, card: int, planned: Pass, at_s: float) -> None:
        before = self.touched[card].get(planned.region)
        if before is None or at_s >= before.at_s:
            self.touched[card][planned.region] = Touched(at_s, self.ways.paces[planned.medium])

    def _lay(self, event: PassesLaid | ExtraCoat, card: int, number: int) -> None:
        planned = self.passes[number]
        swatch = self.here.get((event.card, number)) or self.pens.get(planned.pen, planned.swatch)
        done = LaidPass(number, swatch, event.at_s, event.id)
        if isinstance(event, ExtraCoat):
            self.again[card].append(done)
        elif number in self.laid[card]:
            return  # Ticked on two devices: laid once, when it was first said.
        else:
            self.laid[card][number] = done
        self._touch(card, planned, event.at_s)
