"""The value guard over the API's head: its warnings, and what one click does about one."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np
from django.contrib.auth.models import User
from django.db import transaction
from rest_framework.exceptions import ValidationError

from paleta import checks
from paleta.checks import ValueWarning
from paleta.materials import Paper
from paleta.media import Swatch, seen_on
from paleta.order import Pen
from paleta.palette import Ramp, find_ramps
from paleta.picture import looks_of
from paleta.recipe import RegionSetting, Sheet
from server.derived import pictures
from server.derived.maps import region_map
from server.ownership import locked, require_owner
from server.pieces.colours.ramps import drawer_of, laid, pens_of
from server.pieces.models import Piece
from server.pieces.steps import keep_step

LIGHTER, OTHER_HUE_DEG, DEEPER_STEP = 14.0, 28.0, 18.0
DARK_GREEN, DARK = 60.0, 62.0
"""Below these L* another hue turns the other way, and what is set off becomes paler rather than darker. From memory."""
LILAC = (2.0, -5.0)
MOST_SHADES, MOST_LEFT = 5, 300


def value_warnings(piece: Piece, sheet: Sheet) -> list[ValueWarning]:
    looks = looks_of(sheet)
    outline = pictures.outline_of(piece.stamping, sheet)
    return checks.value_warnings(sheet, looks, region_map(piece.stamping, sheet), outline)


def name_of(warning: ValueWarning) -> str:
    """What a line of the value guard is about: as long as that is the same, it is the same line."""
    return f"{warning.kind} {' '.join(map(str, warning.regions))}"


def leave_as_is(*, actor: User, piece: Piece, kind: str, regions: Sequence[int], left: bool) -> Piece:
    """Tell a line of the value guard no longer, since it is meant so; or tell it again. It is no step of the sheet: a
    recipe does not carry it.

    Raises
    ------
    ValidationError
        If the sheet has no such warning any more.
    """
    require_owner(actor, piece)
    found = _standing(piece, kind, regions)
    with transaction.atomic():
        current = locked(piece)
        names = [one for one in current.left_as_is if one != name_of(found)]
        current.left_as_is = [*names, name_of(found)][-MOST_LEFT:] if left else names
        Piece.objects.filter(pk=current.pk).update(left_as_is=current.left_as_is)
    return current


def _standing(piece: Piece, kind: str, regions: Sequence[int]) -> ValueWarning:
    asked = (kind, tuple(regions))
    found = next((one for one in value_warnings(piece, piece.sheet()) if (one.kind, one.regions) == asked), None)
    if found is None:
        raise ValidationError({"kind": "This warning no longer stands; the colours have changed since."})
    return found


def apply_remedy(*, actor: User, piece: Piece, version: int, kind: str, regions: Sequence[int]) -> Piece:
    """Do what a warning of the value guard proposes.

    Raises
    ------
    ValidationError
        If the sheet has no such warning any more, or the drawer has no better ramp.
    """
    sheet = piece.sheet()
    found = _standing(piece, kind, regions)
    drawers: dict[str, list[Swatch]] = {}
    changed: dict[int, RegionSetting] = {}
    swatches: dict[Pen, Swatch] = {}
    for label in found.changed:
        setting = sheet.regions.settings[label]
        # What lies lowest carries the value.
        coat = setting.coats[0]
        if coat.medium not in drawers:
            drawers[coat.medium] = drawer_of(sheet, actor, coat.medium).shades()
        old = [sheet.colours.swatches[pen] for pen in coat.pens]
        ramp = _better_ramp(found, old, drawers[coat.medium], sheet.stamp.paper_used)
        if ramp is not None:
            changed[label] = laid(setting, ramp.swatches)
            swatches.update(pens_of(ramp.swatches))
    if not changed:
        raise ValidationError({"kind": "The drawer has no swatches that would put this right. Change it by hand."})
    names = ", ".join(sheet.regions.settings[label].name for label in changed)
    what = f"{found.remedy_words}: {names}"
    return keep_step(actor=actor, piece=piece, version=version, what=what, sheet=sheet.with_regions(changed, swatches))


def _better_ramp(warning: ValueWarning, old: Sequence[Swatch], drawer: Sequence[Swatch], paper: Paper) -> Ramp | None:
    lab = np.mean([seen_on(one, paper) for one in old], axis=0)
    count, step, remedy = len(old), None, warning.remedy
    if remedy == "set_off":
        remedy = "paler" if lab[0] < DARK else "darker"
    if remedy == "deepen":
        count, step = max(count, 3), DEEPER_STEP
    elif remedy == "tint":
        count, lab = max(count, 2), np.array([lab[0] - 12, *LILAC])
    elif remedy == "other_hue":
        lab = _turned(lab, OTHER_HUE_DEG if lab[0] < DARK_GREEN else -OTHER_HUE_DEG)
    else:
        lab = lab + np.array((LIGHTER if remedy == "paler" else -LIGHTER, 0, 0))
    target = (float(np.clip(lab[0], 8, 97)), float(lab[1]), float(lab[2]))
    ramps = find_ramps(drawer, target, min(count, MOST_SHADES), alternatives=4, step=step, paper=paper)
    taken = tuple(one.code for one in old)
    return next((ramp for ramp in ramps if tuple(one.code for one in ramp.swatches) != taken), None)


def _turned(lab: np.ndarray, degrees: float) -> np.ndarray:
    angle = np.radians(degrees)
    cos, sin = np.cos(angle), np.sin(angle)
    return np.array([lab[0], cos * lab[1] - sin * lab[2], sin * lab[1] + cos * lab[2]])
