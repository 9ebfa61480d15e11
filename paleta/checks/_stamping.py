"""In which order things are stamped and masked: the front first, its mask, then what stands behind."""

from __future__ import annotations

from collections.abc import Collection, Iterable
from dataclasses import dataclass

import numpy as np
from scipy.sparse import coo_array
from scipy.sparse.csgraph import connected_components

from paleta.recipe import Sheet

NAMES_SHOWN = 6
MOST_ROUNDS = 5
"""Nobody cuts more masks than that for one card. Common practice."""


@dataclass(frozen=True, slots=True)
class StampingStep:
    """One round of stamping: which regions it holds, and what to do. Front first (common practice)."""

    regions: tuple[int, ...]
    what: str


def stamping_order(sheet: Sheet, touching: Iterable[tuple[int, int]]) -> list[StampingStep]:
    """As few rounds as the picture allows, nearest first, and no more than MOST_ROUNDS; `touching` are pairs of labels
    that share a border.

    What is stamped and masked are figures: the things of the sheet; those that stand before and behind each other in
    turn overlap as one. A figure waits only for what stands before it and touches it; one that touches nothing nearer
    or farther goes last. Paper that shows through behind everything is not stamped. An empty list where nothing stands
    before anything.

    Parameters
    ----------
    sheet
        What is planned.
    touching
        Pairs of labels that share a border.
    """
    settings, things = sheet.regions.settings, sheet.regions.thing_leads()
    pairs = {
        tuple(things[label] for label in sorted((one, other), key=lambda label: -settings[label].depth))
        for one, other in touching
        if one in things and other in things and settings[one].depth != settings[other].depth
    }
    figure = _overlapping_as_one(sorted(set(things.values())), pairs)
    before: dict[int, set[int]] = {one: set() for one in figure.values()}
    for front, back in pairs:
        if figure[front] != figure[back]:
            before[figure[back]].add(figure[front])
    rounds = _rounds(before)
    last = max(rounds.values(), default=0)
    if last == 0:
        return []
    covering = set().union(*before.values())
    members: dict[int, list[int]] = {}
    for label, thing in things.items():
        members.setdefault(figure[thing], []).append(label)
    for one in rounds:
        if one not in covering and not before[one]:
            rounds[one] = last
    # Bare paper that nothing stands behind is what one looks through.
    see_through = {
        one
        for one, labels in members.items()
        if one not in covering and all(settings[label].left_as_paper for label in labels)
    }
    steps: list[StampingStep] = []
    for number in range(last + 1):
        figures = [one for one in members if rounds[one] == number and one not in see_through]
        if figures:
            labels = sorted(label for one in figures for label in members[one])
            # Nothing comes after the last round that a mask could keep off.
            masked = [label for one in figures if one in covering and number < last for label in members[one]]
            steps.append(StampingStep(tuple(labels), _what(sheet, labels, first=not steps, masked=masked)))
    return steps


def _overlapping_as_one(things: list[int], pairs: Collection[tuple[int, ...]]) -> dict[int, int]:
    """For every thing the first of those that it cannot be parted from: each stands before the other somewhere."""
    place = {thing: number for number, thing in enumerate(things)}
    rows, cols = ([place[pair[end]] for pair in pairs] for end in (0, 1))
    graph = coo_array((np.ones(len(rows)), (rows, cols)), shape=(len(things), len(things)))
    _, parts = connected_components(graph, directed=True, connection="strong")
    first: dict[int, int] = {}
    return {thing: first.setdefault(int(part), thing) for thing, part in zip(things, parts, strict=True)}


def _rounds(before: dict[int, set[int]]) -> dict[int, int]:
    """In which round each figure is stamped; what would come in a later one than the last is stamped in that."""
    rounds: dict[int, int] = {}
    waiting = dict(before)
    while waiting:
        ready = [one for one, fronts in waiting.items() if not fronts & waiting.keys()]
        for one in ready:
            rounds[one] = min(max((rounds[front] + 1 for front in before[one]), default=0), MOST_ROUNDS - 1)
        for one in ready:
            del waiting[one]
    return rounds


def _what(sheet: Sheet, labels: list[int], *, first: bool, masked: list[int]) -> str:
    start = "Stamp first" if first else "Then, over the masks" if masked else "Last, over all masks"
    words = f"{start}: {_names(sheet, labels)}."
    if not masked:
        return words
    clean = "it" if len(_things(sheet, labels)) == 1 else _names(sheet, masked)
    return f"{words} Mask {clean}{', cut just inside the line' if first else ' too'}."


def _things(sheet: Sheet, labels: Iterable[int]) -> list[str]:
    settings = sheet.regions.settings
    return list(dict.fromkeys(settings[label].thing or settings[label].name for label in labels))


def _names(sheet: Sheet, labels: Iterable[int]) -> str:
    names = _things(sheet, labels)
    more = len(names) - NAMES_SHOWN
    return f"{', '.join(names[:NAMES_SHOWN])}{f' and {more} more' if more > 0 else ''}"
