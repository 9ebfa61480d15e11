"""From what stands before what to a depth for everything."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterable, Mapping, Sequence
from graphlib import TopologicalSorter

from paleta.errors import DepthCycle
from paleta.impression import Front, Level

LONGEST_PATH = 98


def settle_depths(
    labels: Sequence[int], guessed: Iterable[Front | Level], decided: Iterable[Front] = ()
) -> tuple[dict[int, int], list[Front | Level]]:
    """A depth for every label that puts every nearer one above its farther one; 0 is the farthest. What is level gets
    one depth.

    Guesses that contradict surer ones are dropped and returned, and of what is level all that contradicts a front; what
    the user `decided` never is.

    Parameters
    ----------
    labels
        What gets a depth.
    guessed
        Fronts and levels with how sure they are.
    decided
        Fronts that the user decided.

    Returns
    -------
    Depth by label, and the guesses that were dropped.

    Raises
    ------
    DepthCycle
        If the decided ones contradict each other; `labels` of the error names the circle.
    """
    behind: dict[int, set[int]] = {label: set() for label in labels}
    plane = {label: label for label in labels}
    dropped: list[Front | Level] = []
    for front in decided:
        if front.nearer not in plane or front.farther not in plane:
            continue
        path = _path(behind, front.farther, front.nearer)
        if path:
            raise DepthCycle(path)
        behind[front.nearer].add(front.farther)
    for guess in sorted(guessed, key=lambda one: (isinstance(one, Level), -one.weight, _pair(one))):
        first, second = (plane.get(label) for label in _pair(guess))
        if first is None or second is None:
            continue
        if isinstance(guess, Level):
            if first != second and (_path(behind, first, second) or _path(behind, second, first)):
                dropped.append(guess)
            else:
                _make_one(plane, behind, first, second)
        elif _path(behind, second, first):
            dropped.append(guess)
        else:
            behind[first].add(second)
    depths: dict[int, int] = {}
    # What stands behind comes first, so that it is known by the time it is asked for.
    for label in TopologicalSorter(behind).static_order():
        depths[label] = min(LONGEST_PATH, max((depths[other] + 1 for other in behind[label]), default=0))
    return {label: depths[plane[label]] for label in labels}, dropped


def _pair(guess: Front | Level) -> tuple[int, int]:
    return (guess.one, guess.other) if isinstance(guess, Level) else (guess.nearer, guess.farther)


def _make_one(plane: dict[int, int], behind: dict[int, set[int]], kept: int, gone: int) -> None:
    """Two planes become one, in place."""
    if kept == gone:
        return
    for label, own in plane.items():
        if own == gone:
            plane[label] = kept
    behind[kept] |= behind.pop(gone)
    for others in behind.values():
        if gone in others:
            others.discard(gone)
            others.add(kept)


def put_before(depths: Mapping[int, int], nearer: int, farther: int, decided: Iterable[Front] = ()) -> dict[int, int]:
    """`depths` (by body) with `nearer` just in front of `farther`, and whatever was decided to stand before it
    pushed on.

    Parameters
    ----------
    depths
        Depth by body, higher is nearer.
    nearer, farther
        Two of the bodies.
    decided
        Fronts that were decided by hand.

    Returns
    -------
    Depth by body.

    Raises
    ------
    DepthCycle
        If something decided says that `farther` stands before `nearer`.
    """
    before: dict[int, list[int]] = defaultdict(list)
    behind: dict[int, set[int]] = {label: set() for label in depths}
    for front in decided:
        if front.nearer in depths and front.farther in depths:
            before[front.farther].append(front.nearer)
            behind[front.nearer].add(front.farther)
    path = _path(behind, farther, nearer)
    if path:
        raise DepthCycle(path)
    result = dict(depths)
    todo = [(nearer, result[farther] + 1)]
    while todo:
        label, least = todo.pop()
        if result[label] < least:
            result[label] = least
            todo += [(other, least + 1) for other in before[label]]
    return result


def _path(behind: Mapping[int, set[int]], start: int, goal: int) -> list[int]:
    """Labels from `start` through things behind it to `goal`; empty if there is no such way."""
    came: dict[int, int | None] = {start: None}
    todo = [start]
    while todo:
        label = todo.pop()
        if label == goal:
            way: list[int] = []
            here: int | None = label
            while here is not None:
                way.append(here)
                here = came[here]
            return way[::-1]
        for other in sorted(behind.get(label, ())):
            if other not in came:
                came[other] = label
                todo.append(other)
    return []
