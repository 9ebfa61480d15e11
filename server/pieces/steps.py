"""Keeping the steps of a piece: every change is a step, undo and redo move between them."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any

import jsonpatch
from django.db import transaction

from paleta.errors import RecipeError
from paleta.recipe import PARTS, Sheet, sheet_from_plain, sheet_to_plain
from server.ownership import Actor, locked, require_owner
from server.pieces.models import Piece, Step
from server.pieces.presenters import present_sheet
from server.problems import ChangedElsewhere, Refused

STEPS_KEPT = 200
LONGEST_WHAT = 200

Plain = Mapping[str, Any]
Patches = dict[str, list[dict[str, Any]]]


def lock(actor: Actor, piece: Piece, version: int) -> Piece:
    """The piece as it is now, for changing it inside the running transaction.

    Raises
    ------
    ChangedElsewhere
        If it is no longer at `version`.
    """
    require_owner(actor, piece)
    current = locked(piece)
    if current.version != version:
        raise ChangedElsewhere
    return current


@dataclass(frozen=True, slots=True)
class PreparedStep:
    """A sheet that can become the current one of its piece, and what changes with it."""

    sheet: Sheet
    plain: Plain
    forward: Patches
    back: Patches


def prepare_step(piece: Piece, version: int, sheet: Sheet) -> PreparedStep:
    """Do whatever is slow or could fail about the new sheet: to be done before the database is locked.

    Raises
    ------
    ChangedElsewhere
        If the piece is no longer at `version`.
    """
    plain = sheet_to_plain(sheet)
    present_sheet(piece, sheet)
    if piece.version != version:
        raise ChangedElsewhere
    return PreparedStep(sheet, plain, _patches(piece.current_sheet, plain), _patches(plain, piece.current_sheet))


def write_step(*, actor: Actor, piece: Piece, version: int, what: str, prepared: PreparedStep) -> Piece:
    """Make the prepared sheet the current one, inside the running transaction; steps that had been undone are dropped.
    An unchanged sheet is no step."""
    current = lock(actor, piece, version)
    if not prepared.forward:
        return current
    current.steps.filter(number__gt=current.position).delete()
    current.position += 1
    Step.objects.create(
        piece=current,
        number=current.position,
        what=what[:LONGEST_WHAT],
        forward=prepared.forward,
        back=prepared.back,
    )
    current.steps.filter(number__lte=current.position - STEPS_KEPT).delete()
    return _show(current, prepared.sheet, prepared.plain)


def keep_step(*, actor: Actor, piece: Piece, version: int, what: str, sheet: Sheet) -> Piece:
    """Make `sheet` the current one as a step that can be undone."""
    require_owner(actor, piece)
    prepared = prepare_step(piece, version, sheet)
    with transaction.atomic():
        return write_step(actor=actor, piece=piece, version=version, what=what, prepared=prepared)


def undo(*, actor: Actor, piece: Piece, version: int) -> Piece:
    """Go back one step."""
    return _move(actor, piece, version, by=-1)


def redo(*, actor: Actor, piece: Piece, version: int) -> Piece:
    """Take the step again that was undone last."""
    return _move(actor, piece, version, by=1)


@transaction.atomic
def _move(actor: Actor, piece: Piece, version: int, *, by: int) -> Piece:
    current = lock(actor, piece, version)
    steps = {step.number: step for step in current.steps.filter(number__in=(current.position, current.position + 1))}
    taken = steps.get(current.position + max(by, 0))
    # The first step has nothing before it to go back to.
    if taken is None or (by < 0 and not current.steps.filter(number=current.position - 1).exists()):
        raise Refused(f"There is nothing to {'undo' if by < 0 else 'redo'}.", "no_such_step")
    try:
        plain = _patched(current.current_sheet, taken.back if by < 0 else taken.forward)
        sheet = sheet_from_plain(plain)
    except (jsonpatch.JsonPatchException, jsonpatch.JsonPointerException, RecipeError) as error:
        raise Refused("This step does not fit the sheet as it is; it cannot be taken.", "no_such_step") from error
    current.position += by
    return _show(current, sheet, plain)


def _show(piece: Piece, sheet: Sheet, plain: Plain) -> Piece:
    """Make the sheet the piece's own, copy what the shelf shows, and count the change."""
    fill(piece, sheet, plain)
    piece.version += 1
    piece.save()
    piece.remember(sheet)
    return piece


def fill(piece: Piece, sheet: Sheet, plain: Plain) -> None:
    """The sheet, and the copies of what it says."""
    piece.current_sheet = plain
    piece.title, piece.medium = sheet.stamp.title, sheet.main_medium
    piece.lamp_azimuth_deg, piece.lamp_elevation_deg = sheet.light.lamp.azimuth_deg, sheet.light.lamp.elevation_deg
    settings = sheet.regions.settings.values()
    piece.pen_count, piece.region_count = len(sheet.colours.swatches), len(sheet.regions.settings)
    piece.has_card = sheet.card.spec is not None
    piece.coloured_count = sum(1 for setting in settings if setting.coats or setting.left_as_paper)


def _patches(old: Plain, new: Plain) -> Patches:
    """What changed, by part: JSON patches that make the new part out of the old one."""
    changed = {name: _unlike(old[name], new[name]) for name in PARTS if old[name] != new[name]}
    return {name: jsonpatch.make_patch(before, after).patch for name, (before, after) in changed.items()}


def _unlike(old: Any, new: Any) -> tuple[Any, Any]:
    """Both without what they share, so that only a change is looked at and not every region. Lists of one length become
    dictionaries by place, whose paths in a patch are the lists' own."""
    if isinstance(old, list) and isinstance(new, list) and len(old) == len(new):
        old, new = ({str(place): one for place, one in enumerate(side)} for side in (old, new))
    if not (isinstance(old, dict) and isinstance(new, dict)):
        return old, new
    sides: tuple[dict[str, Any], dict[str, Any]] = ({}, {})
    for key in old.keys() & new.keys():
        if old[key] != new[key]:
            sides[0][key], sides[1][key] = _unlike(old[key], new[key])
    return (
        sides[0] | {key: old[key] for key in old.keys() - new.keys()},
        sides[1] | {key: new[key] for key in new.keys() - old.keys()},
    )


def _patched(plain: Plain, patches: Patches) -> dict[str, Any]:
    return {**plain, **{name: jsonpatch.apply_patch(plain[name], patch) for name, patch in patches.items()}}
