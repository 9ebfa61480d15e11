"""What came of a run: what differed from the plan, and the sheet that would plan it as it was done."""

from __future__ import annotations

from collections import Counter
from collections.abc import Mapping
from dataclasses import dataclass, replace

from paleta.media import Swatch
from paleta.order import Pen
from paleta.recipe import Sheet
from paleta.run._events import ExtraCoat, Noted, Rescued, Slip
from paleta.run._replay import RunState
from paleta.run._rescues import LAYING, RESCUE_KEYS, SLIPS
from paleta.run._words import listed

MOST_NOTES = 2000
"""Characters that the sheet's notes hold."""


@dataclass(frozen=True, slots=True)
class Differed:
    """One thing that was not done as planned. kind: pen, extra coat, slip, left out or note; a sentence; and whether
    it laid colour beside the plan."""

    kind: str
    sentence: str
    lays: bool = False


def pens_taken(state: RunState) -> dict[tuple[int, Pen], str]:
    """For every (region, planned pen) that was mostly laid with another one of its medium, over all cards, that one."""
    passes = {one.number: one for one in state.plan.passes}
    taken: dict[tuple[int, Pen], Counter[str]] = {}
    for card in state.cards:
        for number, laid in sorted(card.laid.items()):
            planned = passes[number]
            taken.setdefault((planned.region, planned.pen), Counter())[laid.swatch] += 1
    most = {place: counts.most_common(1)[0][0] for place, counts in taken.items()}
    return {place: code for place, code in most.items() if code != place[1][1]}


def differed(state: RunState, names: Mapping[str, str]) -> list[Differed]:
    """What was done otherwise, by the log; `names` are those of swatches by code.

    Parameters
    ----------
    state
        What was done.
    names
        Of swatches, by code.
    """
    found = []
    instead: dict[tuple[str, str], list[str]] = {}
    regions = {one.region: one.name for one in state.plan.passes}
    for (region, (_, planned)), code in sorted(pens_taken(state).items()):
        instead.setdefault((planned, code), []).append(regions[region])
    for (planned, code), where in instead.items():
        pen, other = _named(names, code), _named(names, planned)
        found.append(Differed("pen", f"{pen} instead of {other} on {listed(where)}."))
    passes = {one.number: one for one in state.plan.passes}
    rescued = {event.event: event.rescue for event in state.log if isinstance(event, Rescued)}
    for event in state.log:
        at = listed(passes[one].name for one in getattr(event, "passes", ()) if one in passes)
        card = f"Card {event.card}: " if len(state.cards) > 1 else ""
        if isinstance(event, ExtraCoat):
            swatch = passes[event.passes[0]].swatch if event.passes and event.passes[0] in passes else ""
            found.append(Differed("extra coat", f"{card}{_named(names, swatch)} once more on {at}.", lays=True))
        elif isinstance(event, Slip):
            rescue = rescued.get(event.id)
            way = f"; rescue: {RESCUE_KEYS[rescue].lower()}" if rescue else ""
            at = f" on {at}" if at else ""
            found.append(Differed("slip", f"{card}{SLIPS[event.slip]}{at}{way}.", lays=rescue in LAYING))
        elif isinstance(event, Noted):
            found.append(Differed("note", f"{card}{event.text}"))
    left = sum(len(state.plan.passes) - len(card.laid) for card in state.cards)
    if left and state.finished:
        found.append(Differed("left out", f"{left} passes were left out." if left > 1 else "One pass was left out."))
    return found


def as_done(sheet: Sheet, state: RunState, swatches: Mapping[Pen, Swatch], names: Mapping[str, str]) -> Sheet:
    """The sheet with the run carried into it: pens that were taken stand in the ramps; extra coats, and rescues that
    lay colour, are noted with the finish. `swatches` holds the pens that were taken.

    Parameters
    ----------
    sheet
        That the run follows.
    state
        What was done.
    swatches
        The pens that were taken.
    names
        Of swatches, by code.

    Raises
    ------
    RecipeError
        If a pen that was taken is not among `swatches`.
    """
    taken = pens_taken(state)
    changed = {}
    for label, setting in sheet.regions.settings.items():
        # A pen that was taken for two shades leaves the ramp one shade shorter.
        coats = tuple(
            replace(coat, ramp=tuple(dict.fromkeys(taken.get((label, pen), pen[1]) for pen in coat.pens)))
            for coat in setting.coats
        )
        if coats != setting.coats:
            changed[label] = replace(setting, coats=coats, shades=max(len(coat.ramp) for coat in coats), by_hand=True)
    kept = sheet.with_regions(changed, swatches) if changed else sheet
    lines = [one.sentence for one in differed(state, names) if one.lays]
    if not lines:
        return kept
    notes = "\n".join(filter(None, [kept.finish.notes, *dict.fromkeys(lines)]))
    return kept.with_part("finish", notes=notes[:MOST_NOTES])


def _named(names: Mapping[str, str], code: str) -> str:
    return names.get(code, code)
