"""The order of passes of a sheet: as its version holds it, or as it is worked out now."""

from __future__ import annotations

from dataclasses import dataclass

from paleta.order import Batch, Plan
from paleta.recipe import Sheet, sheet_sha256
from server.derived import plans
from server.pieces.models import Piece
from server.pieces.pace import paces_of
from server.recipes.services import recipe_of


@dataclass(frozen=True, slots=True)
class ShownOrder:
    """The order of a sheet.

    plan       the order: a version's own as long as the sheet is that version's.
    version    the version that holds it; None if none does.
    worked_out the order as it is worked out now, at the pace that was learnt since. The same plan where none is held.
    by_region  the same work done region by region.
    """

    plan: Plan
    version: int | None
    worked_out: Plan
    by_region: Plan


def kept_plan(piece: Piece, sheet: Sheet) -> tuple[Plan, int] | None:
    """The order that the newest version holds, and its number, if `sheet` is what that version froze."""
    if not piece.latest_sheet_sha256 or piece.latest_sheet_sha256 != sheet_sha256(sheet):
        return None
    newest = piece.recipes.last()
    return (recipe_of(newest).plan, newest.number) if newest is not None else None


def plan_of(piece: Piece, sheet: Sheet) -> Plan:
    """The order of `sheet`, whether a version holds it or not."""
    kept = kept_plan(piece, sheet)
    return kept[0] if kept else plans.plans_of(piece.stamping, sheet, paces_of(piece.owner_id, sheet.media))[0]


def order_of(piece: Piece, sheet: Sheet) -> ShownOrder:
    """The order of `sheet` beside the one that would be worked out now."""
    worked_out, by_region = plans.plans_of(piece.stamping, sheet, paces_of(piece.owner_id, sheet.media))
    plan, version = kept_plan(piece, sheet) or (worked_out, None)
    return ShownOrder(plan, version, worked_out, by_region)


def batch_of(piece: Piece, sheet: Sheet, copies: int) -> Batch:
    """The order of `sheet` worked on several cards at once."""
    paces = paces_of(piece.owner_id, sheet.media)
    return plans.batch_of(piece.stamping, sheet, paces, plan_of(piece, sheet), copies)
