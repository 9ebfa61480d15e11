"""Keeping the steps of a piece: every change is a step, undo and redo move between them."""

from __future__ import annotations

from django.db import transaction

from paleta.recipe import Sheet, sheet_to_plain
from server.ownership import Actor, require_owner
from server.pieces.models import Piece, Step
from server.pieces.sheets import sheet_sha256
from server.problems import ChangedElsewhere, Refused

STEPS_KEPT = 200


def lock(actor: Actor, piece: Piece, version: int) -> Piece:
    """The piece as it is now, for changing it inside the running transaction.

    Raises
    ------
    ChangedElsewhere
        If it is no longer at `version`.
    """
    require_owner(actor, piece)
    current = Piece.objects.select_for_update().get(pk=piece.pk)
    if current.version != version:
        raise ChangedElsewhere
    return current


@transaction.atomic
def keep_step(*, actor: Actor, piece: Piece, version: int, what: str, sheet: Sheet) -> Piece:
    """Make `sheet` the current one; steps that had been undone are dropped. An unchanged sheet is no step."""
    current = lock(actor, piece, version)
    if sheet_sha256(sheet) == sheet_sha256(current.sheet()):
        return current
    current.steps.filter(number__gt=current.position).delete()
    current.position += 1
    Step.objects.create(piece=current, number=current.position, what=what, sheet=sheet_to_plain(sheet))
    current.steps.filter(number__lte=current.position - STEPS_KEPT).delete()
    return _show(current, sheet)


@transaction.atomic
def undo(*, actor: Actor, piece: Piece, version: int) -> Piece:
    """Go back one step."""
    current = lock(actor, piece, version)
    return _move(current, current.position - 1, "There is nothing to undo.")


@transaction.atomic
def redo(*, actor: Actor, piece: Piece, version: int) -> Piece:
    """Take the step again that was undone last."""
    current = lock(actor, piece, version)
    return _move(current, current.position + 1, "There is nothing to redo.")


def _move(piece: Piece, number: int, sentence: str) -> Piece:
    if not piece.steps.filter(number=number).exists():
        raise Refused(sentence, "no_such_step")
    piece.position = number
    return _show(piece, piece.sheet())


def _show(piece: Piece, sheet: Sheet) -> Piece:
    """Copy what the shelf shows, and count the change."""
    fill_shelf_fields(piece, sheet)
    piece.version += 1
    piece.save()
    return piece


def fill_shelf_fields(piece: Piece, sheet: Sheet) -> None:
    piece.title, piece.medium = sheet.title, sheet.medium
    piece.lamp_azimuth_deg, piece.lamp_elevation_deg = sheet.lamp.azimuth_deg, sheet.lamp.elevation_deg
    piece.pen_count, piece.region_count = len(sheet.swatches), len(sheet.regions)
    piece.coloured_count = sum(1 for setting in sheet.regions.values() if setting.ramp or setting.left_as_paper)
