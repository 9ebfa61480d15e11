"""In which order things are stamped and masked: the front first, its mask, then what stands behind."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass

from paleta.recipe import Sheet

NAMES_SHOWN = 6


@dataclass(frozen=True, slots=True)
class StampingStep:
    """One round of stamping: which regions it holds, and what to do. Front first (common practice)."""

    regions: tuple[int, ...]
    what: str


def stamping_order(sheet: Sheet, touching: Iterable[tuple[int, int]]) -> list[StampingStep]:
    """As few rounds as the picture allows, nearest first; `touching` are pairs of labels that share a border.

    A body waits only for what stands before it and touches it; one that touches nothing nearer or farther goes last.
    Paper that shows through behind everything is not stamped. An empty list where nothing stands before anything.

    Parameters
    ----------
    sheet
        What is planned.
    touching
        Pairs of labels that share a border.
    """
    settings, body = sheet.regions.settings, sheet.regions.leads()
    before: dict[int, set[int]] = {lead: set() for lead in body.values()}
    for one, other in touching:
        if one in body and other in body and settings[one].depth != settings[other].depth:
            front, back = sorted((one, other), key=lambda label: -settings[label].depth)
            before[body[back]].add(body[front])
    rounds: dict[int, int] = {}
    for lead in sorted(before, key=lambda lead: -settings[lead].depth):
        rounds[lead] = max((rounds[front] + 1 for front in before[lead]), default=0)
    last = max(rounds.values(), default=0)
    if last == 0:
        return []
    covering = set().union(*before.values())
    for lead in rounds:
        if lead not in covering and not before[lead]:
            rounds[lead] = last
    see_through = {lead for lead in rounds if lead not in covering and settings[lead].left_as_paper}
    steps: list[StampingStep] = []
    for number in range(last + 1):
        labels = [label for label, lead in body.items() if rounds[lead] == number and lead not in see_through]
        if labels:
            masked = any(body[label] in covering for label in labels)
            steps.append(StampingStep(tuple(labels), _what(sheet, labels, first=not steps, masked=masked)))
    return steps


def _what(sheet: Sheet, labels: list[int], *, first: bool, masked: bool) -> str:
    shown = ", ".join(sheet.regions.settings[label].name for label in labels[:NAMES_SHOWN])
    more = len(labels) - NAMES_SHOWN
    start = "Stamp first" if first else "Then, over the masks" if masked else "Last, over all masks"
    mask = "" if not masked else " Mask what stands before others, cut just inside the line." if first else " Mask too."
    return f"{start}: {shown}{f' and {more} more' if more > 0 else ''}.{mask}"
