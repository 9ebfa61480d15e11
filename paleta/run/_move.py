"""Moving a run over to another plan: what was laid is looked up there."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterable

from paleta.order import Pass, Pen, Plan
from paleta.run._replay import RunState, plan_key
from paleta.run._words import listed


def pairs_between(old: Plan, new: Plan) -> tuple[tuple[int, int], ...]:
    """Passes of the old plan and what they are in the new one: the same region, swatch and zones, laid as the same time
    of several.

    Parameters
    ----------
    old, new
        Plans of two versions of one piece.

    Returns
    -------
    Pairs of pass numbers.
    """
    there = dict(_places(new))
    return tuple((number, there[place]) for place, number in _places(old) if place in there)


def what_moving_does(state: RunState, new: Plan) -> list[str]:
    """Sentences for what becomes of passes that are laid already, and of what is still to come.

    Parameters
    ----------
    state
        By the plan that is followed.
    new
        The newest version's plan.
    """
    if plan_key(state.plan) == plan_key(new):
        return ["The plan is the same: nothing changes."]
    there = dict(pairs_between(state.plan, new))
    passes = {one.number: one for one in state.plan.passes}
    said = []
    kept = sum(number in there for card in state.cards for number in card.laid)
    if kept:
        said.append(
            f"{_count(kept, 'pass', 'passes')} laid so far {'counts' if kept == 1 else 'count'} in the new plan too."
        )
    lost = sorted({passes[number].name for card in state.cards for number in card.laid if number not in there})
    if lost:
        said.append(
            f"What is laid on {listed(lost)} is not in the new plan: it stays on the card, beneath what follows."
        )
    chains: dict[int, list[Pass]] = defaultdict(list)
    for one in new.passes:
        chains[one.region].append(one)
    done = {there[number] for card in state.cards for number in card.laid if number in there}
    torn = sorted(
        chain[0].name
        for chain in chains.values()
        if any(
            one.number not in done and any(later.number in done for later in chain[place:])
            for place, one in enumerate(chain)
        )
    )
    if torn:
        said.append(f"On {listed(torn)} something is to be laid beneath what is there: look at it before going on.")
    todo = len(new.passes) * len(state.cards) - kept
    said.append(f"{_count(todo, 'pass is', 'passes are')} still to be laid.")
    return said


def _places(plan: Plan) -> Iterable[tuple[tuple[int, Pen, tuple[int, ...], int], int]]:
    seen: dict[tuple[int, Pen, tuple[int, ...]], int] = defaultdict(int)
    for one in plan.passes:
        place = (one.region, one.pen, one.zones)
        seen[place] += 1
        yield (*place, seen[place]), one.number


def _count(number: int, one: str, more: str) -> str:
    return f"{number:,} {one if number == 1 else more}"
