"""The chain of a region through its coats, and what must be done before what beside that: dark creepers after their
paler neighbours, and where regions touch, water before marker and pad, and pencil last."""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import replace
from itertools import pairwise
from typing import TypeVar

from paleta.media import MEDIUMS, Join, over
from paleta.order._ways import Ways
from paleta.order._work import Job, Stroke, Work, expand

One = TypeVar("One", bound=Stroke)


def chains_of(work: Work, ways: Ways) -> list[list[Stroke]]:
    """The strokes of every region, coat after coat, lowest first; regions of which all is left as paper have none.

    Parameters
    ----------
    work
        its jobs
    ways
        schools and paces
    """
    by_region: dict[int, list[Job]] = {}
    for job in work.jobs:
        by_region.setdefault(job.region, []).append(job)
    chains = []
    for jobs in by_region.values():
        chain: list[Stroke] = []
        for job in sorted(jobs, key=lambda job: job.coat):
            strokes = expand(job, ways.school_of(job))
            if chain and strokes:
                strokes[0] = replace(strokes[0], join=_joined(chain[-1].medium, strokes[0].medium))
            chain += strokes
        if chain:
            chains.append(chain)
    return chains


def _joined(below: str, above: str) -> Join:
    return "any" if over(below, above).wet else "dry"


def ranks_of(work: Work) -> dict[tuple[int, int], int]:
    """Rank by region and coat."""
    return {(job.region, job.coat): job.rank for job in work.jobs}


def blocks_of(chain: Sequence[Stroke]) -> list[list[Stroke]]:
    """A region's strokes cut where a wait may come: a block is best laid without one."""
    blocks: list[list[Stroke]] = []
    for stroke in chain:
        if stroke.join == "wet":
            blocks[-1].append(stroke)
        else:
            blocks.append([stroke])
    return blocks


def needs_of(work: Work, chains: Sequence[Sequence[Stroke]]) -> Iterable[tuple[Stroke, list[Stroke]]]:
    """Strokes that must wait, and the strokes that must be laid before each.

    Very dark colours creep past the line: the first of them waits until touching paler regions are finished in all
    media that have their turn with it. Where two regions touch, what is laid with water comes before marker and pad,
    and pencil after both: water would carry them away, and wax keeps off what is wet (common practice). Where a wish
    says otherwise the wish wins: a background laid first cannot wait for what stands on it.

    Parameters
    ----------
    work
        its jobs, wishes and neighbours
    chains
        the strokes of every region in their order
    """
    near = work.neighbours()
    ranks = ranks_of(work)
    by_region = {chain[0].region: chain for chain in chains}
    for region, chain in by_region.items():
        beside = [by_region[other] for other in near.get(region, ()) if other in by_region]
        dark = next((stroke for stroke in chain if work.creeps(stroke)), None)
        if dark is not None:
            yield dark, [stroke for other in beside for stroke in paler_first(work, dark, other, ranks)[-1:]]
        for stroke in _first_of_turns(chain):
            yield stroke, [one for other in beside for one in earlier_turns(stroke, chain, other, ranks)[-1:]]


def _first_of_turns(chain: Sequence[Stroke]) -> list[Stroke]:
    """Where a region goes on in media of a later turn, and where it begins."""
    first = [chain[0]]
    first += [one for before, one in pairwise(chain) if turn_of(one) != turn_of(before)]
    return first


def turn_of(stroke: Stroke) -> int:
    """The turn of the medium that a stroke is laid in."""
    return MEDIUMS[stroke.medium].turn


def earlier_turns(
    one: Stroke, own: Sequence[Stroke], beside: Sequence[One], ranks: Mapping[tuple[int, int], int]
) -> list[One]:
    """Those of the strokes on a touching region that must be laid before `one`, since their media have an earlier turn.

    None where one of the two regions goes back to an earlier turn in its own coats, as with a wash over marker: each
    would wait for the other.

    Parameters
    ----------
    one
        A stroke.
    own, beside
        All strokes of its region and of the touching one, in their order.
    ranks
        By (region, coat), the place in which it has its turn.
    """
    for chain in (own, beside):
        if any(turn_of(after) < turn_of(before) for before, after in pairwise(chain)):
            return []
    rank = ranks.get((one.region, one.coat), 0)
    return [
        stroke
        for stroke in beside
        if turn_of(stroke) < turn_of(one) and ranks.get((stroke.region, stroke.coat), 0) <= rank
    ]


def paler_first(work: Work, dark: Stroke, beside: Sequence[One], ranks: Mapping[tuple[int, int], int]) -> list[One]:
    """Those of the strokes on a touching region that must be laid before the creeping `dark`: all in its medium, or in
    another that has its turn with it, unless that region creeps itself or has a later rank.

    Parameters
    ----------
    work
        With what touches what.
    dark
        A stroke of a swatch that creeps.
    beside
        Strokes of touching regions.
    ranks
        By (region, coat), the place in which it has its turn.
    """
    alike = [stroke for stroke in beside if turn_of(stroke) == turn_of(dark)]
    if any(map(work.creeps, alike)):
        return []
    rank = ranks.get((dark.region, dark.coat), 0)
    return [stroke for stroke in alike if ranks.get((stroke.region, stroke.coat), 0) <= rank]
