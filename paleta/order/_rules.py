"""What must be done before what, beside the chains of a region: dark creepers last, wished parts first."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from paleta.order._clock import Near, Unit
from paleta.order._work import Stroke, Work

Key = tuple[int, int]
"""(region, number of its block)."""


def blocks_of(chain: Sequence[Stroke]) -> list[list[Stroke]]:
    """A region's strokes cut where a wait may come: a block is laid without one."""
    blocks: list[list[Stroke]] = []
    for stroke in chain:
        if stroke.join == "wet":
            blocks[-1].append(stroke)
        else:
            blocks.append([stroke])
    return blocks


@dataclass(frozen=True, slots=True)
class Rules:
    """near: touching regions; blocks: how many each region has; needs: regions to be finished before a block;
    rank: wished order of regions, lower first."""

    near: Near
    blocks: Mapping[int, int]
    needs: Mapping[Key, frozenset[int]]
    rank: Mapping[int, int]

    def may(self, unit: Unit, done: Mapping[int, int]) -> bool:
        """Whether `unit` may come when `done` blocks of each region are laid."""
        if any(done.get(region, 0) != number for region, number in unit.keys):
            return False
        return all(
            done.get(other, 0) >= self.blocks[other] for key in unit.keys for other in self.needs.get(key, frozenset())
        )

    def in_sequence(self, order: Sequence[Unit]) -> bool:
        done: dict[int, int] = {}
        for unit in order:
            if not self.may(unit, done):
                return False
            done.update({region: number + 1 for region, number in unit.keys})
        return True


def rules_of(work: Work, chains: Sequence[Sequence[Stroke]]) -> Rules:
    """Very dark colours creep past the line: their block waits until touching paler regions are finished (common
    practice). Regions of a lower rank are finished before those of a higher one begin."""
    near = work.neighbours()
    rank = {job.region: job.rank for job in work.jobs}
    cut = {chain[0].region: blocks_of(chain) for chain in chains if chain}
    first_dark = {
        region: next((number for number, block in enumerate(blocks) if _creeps(block, work)), None)
        for region, blocks in cut.items()
    }
    needs: dict[Key, frozenset[int]] = {}
    for region in cut:
        earlier = {other for other in cut if rank[other] < rank[region]}
        if earlier:
            needs[region, 0] = frozenset(earlier)
        dark = first_dark[region]
        if dark is not None:
            # Where a wish says otherwise the wish wins: a background laid first cannot wait for what stands on it.
            paler = {
                other
                for other in near.get(region, ())
                if other in cut and first_dark[other] is None and rank[other] <= rank[region]
            }
            needs[region, dark] = needs.get((region, dark), frozenset()) | paler
    return Rules(near, {region: len(blocks) for region, blocks in cut.items()}, needs, rank)


def _creeps(block: Sequence[Stroke], work: Work) -> bool:
    return any(stroke.swatch in work.creepers for stroke in block)
