"""Masks and tape: what covers some regions while others are coloured, laid, wiped and lifted between the passes.

Times are common practice and from memory: a mask is stamped a second time on masking paper and cut slightly inside
the line, which is done before colouring begins; here it is only laid and lifted. Ink that was blended over a mask soils
the next ink, so it is wiped between two of them.
"""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from itertools import pairwise

from paleta.media import MEDIUMS
from paleta.order._plan import Handling, Pass, Plan
from paleta.order._ways import Ways
from paleta.order._work import Mask, Stroke, Work

LAY_S, LIFT_S, WIPE_S = 45.0, 30.0, 20.0
SOILING = tuple(code for code, medium in MEDIUMS.items() if medium.soils_masks)
"""Media that stay on a mask and come off on the next pad."""
HOW = {
    ("lay", "mask"): ("Lay the mask", "over the figure, pressed down along its line; the paper beneath must be dry"),
    ("wipe", "mask"): ("Wipe the mask", "clean and dry, or its ink soils the next one"),
    ("lift", "mask"): ("Lift the mask", "slowly, away from the figure, once the colour round it is dry"),
    ("lay", "tape"): ("Lay the tape", "along the line that shows, pressed down; the paper beneath must be dry"),
    ("wipe", "tape"): ("Wipe the tape", "clean and dry, or its ink soils the next one"),
    ("lift", "tape"): ("Lift the tape", "slowly and flat, away from the colour, once that is dry"),
}


def handling_s(work: Work, chains: Sequence[Sequence[Stroke]]) -> float:
    """What masks add to any order at the least: between each two inks that are blended over one it is wiped.

    Parameters
    ----------
    work
        with its masks
    chains
        the strokes of every region in their order

    Returns
    -------
    Seconds.
    """
    masks = used_masks(work)
    wipes = 0
    for _, mask in masks:
        inks = {one.in_hand for chain in chains for one in chain if one.region in mask.during and one.medium in SOILING}
        # One cloth wipes all that lie at once.
        wipes = max(wipes, len(inks) - 1)
    return (LAY_S + LIFT_S) * len(masks) + WIPE_S * wipes


def dry_before(step: Handling, work: Work) -> frozenset[int]:
    """The regions that must be touch dry before a mask is handled: beneath one that is laid, beside one that is
    lifted.

    Parameters
    ----------
    step
        A mask being laid or lifted.
    work
        With the masks and which regions touch.
    """
    mask = work.masks[step.mask]
    return {"lay": mask.over, "lift": mask.during}.get(step.kind, frozenset())


def used_masks(work: Work) -> list[tuple[int, Mask]]:
    """The masks beneath which something is coloured, with their numbers."""
    return [(number, mask) for number, mask in enumerate(work.masks) if _used(mask, work)]


def _used(mask: Mask, work: Work) -> bool:
    return any(job.ramp and job.region in mask.during for job in work.jobs)


def mask_faults(work: Work, plan: Plan, ways: Ways, rounding_s: float) -> Iterable[tuple[str, tuple[int, ...], str]]:
    """Broken rules of masks as (kind, passes, sentence).

    Parameters
    ----------
    work
        with its masks
    plan
        its passes and handling
    ways
        schools and paces
    rounding_s
        by which two times may differ
    """
    for number, mask in used_masks(work):
        about = [one for one in plan.handling if one.mask == number and one.kind != "wipe"]
        if [one.kind for one in about] != ["lay", "lift"]:
            yield "mask", (), f"A {mask.kind} is not laid once and lifted once."
            continue
        lay, lift = about
        for one in plan.passes:
            yield from _beside(one, mask, lay, lift, ways.paces[one.medium].touch_dry_s, rounding_s)
        yield from _soiled(plan, mask, rounding_s)
    yield from _stacked(work, plan)
    # Passes among themselves are looked at by the check of the one hand.
    steps: list[Pass | Handling] = sorted([*plan.passes, *plan.handling], key=lambda one: one.start_s)
    for before, after in pairwise(steps):
        if isinstance(before, Handling) != isinstance(after, Handling) and after.start_s < before.end_s - rounding_s:
            number = after.before_pass if isinstance(after, Handling) else after.number
            yield "hand", (number,), "A mask is handled while a pass is laid."


def _soiled(plan: Plan, mask: Mask, rounding_s: float) -> Iterable[tuple[str, tuple[int, ...], str]]:
    """Two inks are blended over a mask without wiping it between them."""
    wipes = [one for one in plan.handling if one.kind == "wipe" and one.end_s - one.start_s >= WIPE_S - rounding_s]
    inked = [one for one in plan.passes if one.region in mask.during and one.medium in SOILING]
    for before, after in pairwise(inked):
        wiped = any(
            before.end_s - rounding_s <= one.start_s and one.end_s <= after.start_s + rounding_s for one in wipes
        )
        if before.in_hand != after.in_hand and not wiped:
            yield "soiled", (before.number, after.number), f"The {mask.kind} is not wiped before pass {after.number}."


def _stacked(work: Work, plan: Plan) -> Iterable[tuple[str, tuple[int, ...], str]]:
    """A mask that another was laid over, wholly or in part, is lifted after that one."""
    times: dict[int, dict[str, float]] = {}
    for one in plan.handling:
        times.setdefault(one.mask, {})[one.kind] = one.start_s
    whole = {number: when for number, when in times.items() if when.keys() == {"lay", "lift"}}
    for number, when in whole.items():
        for other, later in whole.items():
            over = when["lay"] < later["lay"] < when["lift"] < later["lift"]
            if over and work.masks[number].over & work.masks[other].over:
                yield "mask", (), "A mask is lifted from beneath another."


def _beside(
    one: Pass, mask: Mask, lay: Handling, lift: Handling, dry_s: float, rounding_s: float
) -> Iterable[tuple[str, tuple[int, ...], str]]:
    if one.region in mask.during and one.start_s < lay.end_s - rounding_s:
        yield "mask", (one.number,), f"{one.name} is coloured before the mask lies."
    if one.region in mask.during and lift.start_s < one.end_s + dry_s - rounding_s:
        yield "mask", (one.number,), f"The mask is lifted while {one.name} is wet."
    covered = one.start_s < lift.end_s - rounding_s and one.end_s + dry_s - rounding_s > lay.start_s
    if one.region in mask.over and covered:
        yield "mask", (one.number,), f"{one.name} lies under the mask or is wet when it is laid."
