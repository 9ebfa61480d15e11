"""What must be done before what, beside the chains of a region: dark creepers after their paler neighbours."""

from __future__ import annotations

from collections.abc import Iterable, Sequence

from paleta.order._work import Stroke, Work


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

    Very dark colours creep past the line: the first of them waits until touching paler regions are finished (common
    practice). Where a wish says otherwise the wish wins: a background laid first cannot wait for what stands on it.
    """
    near = work.neighbours()
    rank = {job.region: job.rank for job in work.jobs}
    last = {chain[0].region: chain[-1] for chain in chains}
    creeping = {
        chain[0].region: next((stroke for stroke in chain if stroke.swatch in work.creepers), None) for chain in chains
    }
    for region, dark in creeping.items():
        if dark is not None:
            paler = [other for other in near.get(region, ()) if creeping[other] is None and rank[other] <= rank[region]]
            yield dark, [last[other] for other in paler]
