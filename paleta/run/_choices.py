"""What may be laid now. Nothing is offered that `paleta.order.check_plan` would reject given what is laid, save one
thing: a blend whose time is over must be finished all the same, and says so."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from functools import cached_property

from paleta.errors import PlanImpossible
from paleta.order import Handling, Mask, Pass, Pen, Work, earlier_turns, paler_first, ranks_of
from paleta.run._replay import CardProgress, RunState
from paleta.run._wet import DryNeed, needs_of, needs_of_handling

DRIED = "The pass before it has dried: soften the step with the paler swatch."


@dataclass(frozen=True, slots=True)
class NextStep:
    """Something that may be done now.

    kind      "pass", or "lay", "wipe" and "lift" for a mask.
    number    of the pass, or of the step of handling, from 1.
    swatch    to be taken, "" for a mask.
    against   sentences that speak against it.
    window_s  how long it may be put off, where a blend waits for it.
    """

    kind: str
    card: int
    number: int
    swatch: str = ""
    against: tuple[str, ...] = ()
    window_s: float | None = None


def choices(state: RunState, now: float) -> list[NextStep]:
    """What may be done at `now` (seconds since 1970), best first: late blends, then the order of the plan.

    Parameters
    ----------
    state
        Of all cards.
    now
        Seconds since 1970.

    Raises
    ------
    PlanImpossible
        If the plan does not know its work, so that nothing can be said beyond its own order.
    """
    if state.finished:
        return []
    moment = _Moment(state, now)
    places = {one: place for place, one in enumerate(state.course)}
    found: list[tuple[bool, int, NextStep]] = []
    for card in state.cards:
        for one in moment.offered(card):
            if one.kind == "pass":
                place = places[card.number, one.number]
            else:
                handling = state.plan.handling[one.number - 1]
                place = places.get((card.number, handling.before_pass), len(places))
            found.append((not one.against, place, one))
    return [one for _, _, one in sorted(found, key=lambda line: line[:2])]


@dataclass(frozen=True, slots=True)
class _Blend:
    """A region in which the next passes must be laid while the last is wet."""

    card: int
    region: int
    deadline: float
    rest: tuple[Pass, ...]


class _Moment:
    """All cards at one moment."""

    def __init__(self, state: RunState, now: float) -> None:
        if state.plan.work is None:
            raise PlanImpossible("A plan that was read from a file does not know its work: hand it in.")
        self.state, self.now = state, now
        self.work: Work = state.plan.work
        self.paces = state.ways.paces
        self.near = self.work.neighbours()
        self.needs = needs_of(state.plan)
        self.handling_needs = needs_of_handling(state.plan)
        self.ranks = ranks_of(self.work)
        self.passes = {one.number: one for one in state.plan.passes}
        self.chains: dict[int, list[Pass]] = {}
        for one in state.plan.passes:
            self.chains.setdefault(one.region, []).append(one)
        last = max(
            (one for card in state.cards for one in card.laid.values()),
            key=lambda one: (one.at_s, one.event),
            default=None,
        )
        self.pen: Pen | None = (self.passes[last.number].medium, last.swatch) if last is not None else None

    @cached_property
    def blends(self) -> list[_Blend]:
        """All that is open on any card, the most urgent first: there is only one hand."""
        found = []
        for card in self.state.cards:
            for region, chain in self.chains.items():
                rest = [one for one in chain if one.number not in card.laid]
                if rest and len(rest) < len(chain) and rest[0].join == "wet":
                    touched = card.touched[region]
                    deadline = touched.at_s + touched.pace.blend_s
                    found.append(_Blend(card.number, region, deadline, tuple(_wet_start(rest))))
        return sorted(found, key=lambda one: one.deadline)

    def offered(self, card: CardProgress) -> Iterator[NextStep]:
        for region in self.chains:
            chain = self.chains[region]
            one = next((one for one in chain if one.number not in card.laid), None)
            if one is None:
                continue
            open_here = next((b for b in self.blends if b.card == card.number and b.region == region), None)
            if not self._dry_around(card, one) or not self._unmasked(card, region) or self._soiled(card, one):
                continue
            swatch = self.state.pens.get(one.pen, one.swatch)
            if open_here is not None:
                left_s = open_here.deadline - self.now
                late = left_s < self._change_s((one.medium, swatch))
                if open_here is self.blends[0] or self._leaves_time(card, one, (one.medium, swatch)):
                    yield NextStep("pass", card.number, one.number, swatch, (DRIED,) if late else (), max(left_s, 0.0))
            elif self._in_its_turn(card, one) and self._leaves_time(card, one, (one.medium, swatch)):
                yield NextStep("pass", card.number, one.number, swatch)
        yield from self._masks(card)

    def _change_s(self, pen: Pen) -> float:
        if self.pen is None or self.pen == pen:
            return 0.0
        pace = self.paces[pen[0]]
        return pace.change_s + (pace.setup_s if self.pen[0] != pen[0] else 0.0)

    def _dry_around(self, card: CardProgress, one: Pass) -> bool:
        """What lies below is dry if it must be, and so is all that it touches."""
        return all(self._ready(card, need) for need in self.needs[one.number])

    def _ready(self, card: CardProgress, need: DryNeed) -> bool:
        touched = card.touched.get(need.region)
        return touched is None or self.now >= touched.ready_s(need)

    def _in_its_turn(self, card: CardProgress, one: Pass) -> bool:
        """What ranks before it is finished, and so are paler neighbours of a swatch that creeps, and what touches it in
        media of an earlier turn."""
        rank = self._rank(one)
        if any(self._rank(other) < rank and other.number not in card.laid for other in self.passes.values()):
            return False
        own = self.chains[one.region]
        beside = [self.chains[region] for region in self.near.get(one.region, ()) if region in self.chains]
        first = (each for chain in beside for each in earlier_turns(one, own, chain, self.ranks))
        if any(each.number not in card.laid for each in first):
            return False
        rest = [each for each in own if each.number not in card.laid]
        if not any(map(self.work.creeps, [rest[0], *_wet_start(rest[1:])])):
            return True
        waited = (each for chain in beside for each in paler_first(self.work, one, chain, self.ranks))
        return all(each.number in card.laid for each in waited)

    def _rank(self, one: Pass) -> int:
        return self.ranks[one.region, one.coat]

    def _finished(self, card: CardProgress, region: int) -> bool:
        return self.chains[region][-1].number in card.laid

    def _leaves_time(self, card: CardProgress, one: Pass, pen: Pen) -> bool:
        """Every open blend can still be gone on with in time, after this pass and with what it opens itself."""
        pace = self.paces[one.medium]
        if pace.touch_dry_s > 0 and any(
            blend.card == card.number and blend.region in self.near.get(one.region, ()) for blend in self.blends
        ):
            return False
        clock = self.now + self._change_s(pen) + pace.laying_s(one.area_mm2)
        rest = [each for each in self.chains[one.region] if each.number not in card.laid][1:]
        opened = tuple(_wet_start(rest))
        waiting = [
            (blend.deadline, blend.rest)
            for blend in self.blends
            if (blend.card, blend.region) != (card.number, one.region)
        ]
        if opened:
            waiting.append((clock + pace.blend_s, opened))
        # The most urgent is always gone on with first; a late one is lost already and holds up nobody.
        waiting = [one for one in waiting if one[0] >= self.now]
        medium = one.medium
        while waiting:
            waiting.sort(key=lambda line: line[0])
            deadline, passes = waiting.pop(0)
            pace = self.paces[passes[0].medium]
            change_s = pace.change_s + (pace.setup_s if passes[0].medium != medium else 0.0)
            if clock + change_s > deadline:
                return False
            clock, medium = clock + change_s + pace.laying_s(passes[0].area_mm2), passes[0].medium
            if passes[1:]:
                waiting.append((clock + pace.blend_s, passes[1:]))
        return True

    def _steps(self) -> Iterator[tuple[int, Handling, Mask]]:
        for number, step in enumerate(self.state.plan.handling, start=1):
            yield number, step, self.work.masks[step.mask]

    def _lies(self, card: CardProgress, mask: int) -> bool:
        done = [step.kind for number, step, _ in self._steps() if step.mask == mask and number in card.handled]
        return "lay" in done and "lift" not in done

    def _unmasked(self, card: CardProgress, region: int) -> bool:
        """Nothing covers the region, and a mask that must lie while it is coloured does."""
        masks = {step.mask: mask for _, step, mask in self._steps()}
        return all(
            not (region in mask.over and self._lies(card, number))
            and not (region in mask.during and not self._lies(card, number))
            for number, mask in masks.items()
        )

    def _masks(self, card: CardProgress) -> Iterator[NextStep]:
        """Masks that may be laid or lifted: nothing beneath or beside is wet, and no blend waits meanwhile."""
        if any(blend.deadline >= self.now for blend in self.blends):
            return
        for number, step, mask in self._steps():
            if number in card.handled:
                continue
            lies = self._lies(card, step.mask)
            if not all(self._ready(card, need) for need in self.handling_needs[number - 1]):
                continue
            if step.kind == "wipe":
                if lies and self._inked(card, mask, step):
                    yield NextStep("wipe", card.number, number)
                continue
            if step.kind == "lay" and not lies and self._ranked(card, mask):
                yield NextStep("lay", card.number, number)
            elif (
                step.kind == "lift"
                and lies
                and all(self._finished(card, region) for region in mask.during if region in self.chains)
            ):
                above = any(
                    self._lies(card, other) and self._laid_at(card, other) > self._laid_at(card, step.mask)
                    for other in range(len(self.work.masks))
                    if other != step.mask
                )
                if not above:
                    yield NextStep("lift", card.number, number)

    def _soiled(self, card: CardProgress, one: Pass) -> bool:
        """A mask is to be wiped before this pass and has not been."""
        return any(
            step.kind == "wipe" and step.before_pass == one.number and number not in card.handled
            for number, step, _ in self._steps()
        )

    def _inked(self, card: CardProgress, mask: Mask, step: Handling) -> bool:
        """All that is blended over the mask before it is wiped has been."""
        before = (one for one in self.passes.values() if one.number < step.before_pass and one.region in mask.during)
        return all(one.number in card.laid for one in before)

    def _ranked(self, card: CardProgress, mask: Mask) -> bool:
        """What ranks before all that is coloured over the mask is finished, and so is what it covers and is not to be
        coloured after it."""
        turns = [self._rank(one) for region in mask.during for one in self.chains.get(region, ())]
        return bool(turns) and all(
            one.number in card.laid
            for one in self.passes.values()
            if self._rank(one) < (max(turns) if one.region in mask.over else min(turns))
        )

    def _laid_at(self, card: CardProgress, mask: int) -> float:
        """When the mask was laid on the card."""
        lays = (number for number, step, _ in self._steps() if step.mask == mask and step.kind == "lay")
        return max((card.handled[number] for number in lays if number in card.handled), default=0.0)


def _wet_start(passes: list[Pass]) -> Iterator[Pass]:
    """The passes that must follow each other while wet."""
    for one in passes:
        if one.join != "wet":
            return
        yield one
