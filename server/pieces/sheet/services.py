"""What users do with the sheet as a whole: describe a part, turn the lamp, set glows, choose medium and school."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from typing import Any

from django.contrib.auth.models import AbstractBaseUser
from rest_framework.exceptions import ValidationError

from paleta.errors import SchoolError
from paleta.fields import said_of
from paleta.impression import MM_PER_INCH
from paleta.light import Glow, Lamp
from paleta.media import MEDIA
from paleta.palette import counterparts
from server.drawers.models import Drawer
from server.ownership import require_owner
from server.pieces.models import Piece
from server.pieces.schools import school_for
from server.pieces.steps import keep_step


def describe(*, actor: AbstractBaseUser, piece: Piece, version: int, part: str, changes: Mapping[str, Any]) -> Piece:
    """Set fields of one part of the sheet."""
    sheet = piece.sheet().with_part(part, **changes)
    what = said_of(getattr(sheet, part), [*changes])
    return keep_step(actor=actor, piece=piece, version=version, what=what, sheet=sheet)


def turn_lamp(*, actor: AbstractBaseUser, piece: Piece, version: int, lamp: Lamp) -> Piece:
    """Turn the lamp of `piece` and keep the new direction."""
    sheet = piece.sheet().with_part("light", lamp=lamp)
    what = f"Lamp to {lamp.clock}, {lamp.elevation_deg:.0f}° high"
    return keep_step(actor=actor, piece=piece, version=version, what=what, sheet=sheet)


def set_glows(*, actor: AbstractBaseUser, piece: Piece, version: int, glows: Sequence[Glow]) -> Piece:
    """The lights inside the picture, all of them."""
    width_mm, height_mm = (pixels / piece.dpi * MM_PER_INCH for pixels in (piece.width_px, piece.height_px))
    for glow in glows:
        if glow.x_mm > width_mm or glow.y_mm > height_mm:
            raise ValidationError({"glows": "A glow must stand on the picture."})
    sheet = piece.sheet().with_part("light", glows=tuple(glows))
    what = f"{len(glows)} glow{'' if len(glows) == 1 else 's'} in the picture"
    return keep_step(actor=actor, piece=piece, version=version, what=what, sheet=sheet)


def choose_medium(*, actor: AbstractBaseUser, piece: Piece, version: int, medium: str, drawer: Drawer) -> Piece:
    """Work in another medium or from another drawer. Ramps are taken off; wished colours stay."""
    require_owner(actor, drawer)
    if drawer.medium != medium:
        raise ValidationError(
            {"drawer": f"{drawer.name} holds {MEDIA[drawer.medium].lower()}, not {MEDIA[medium].lower()}."}
        )
    sheet = piece.sheet().with_medium(medium, drawer=str(drawer.pk))
    what = f"{MEDIA[medium]} from {drawer.name}"
    return keep_step(actor=actor, piece=piece, version=version, what=what, sheet=sheet)


def lay_pencil_over(*, actor: AbstractBaseUser, piece: Piece, version: int, drawer: Drawer) -> Piece:
    """Leave the marker as it is and lay pencil over it: as many pencils as markers, in the school for that."""
    require_owner(actor, drawer)
    sheet = piece.sheet()
    if drawer.medium != "pencil" or sheet.colours.medium != "marker" or not sheet.colours.swatches:
        raise ValidationError({"drawer": "Pencil goes over a picture that has its colours in marker."})
    pencils, markers = drawer.shades(), sheet.colours.swatches
    ramps = {
        label: sorted(counterparts([markers[code] for code in setting.ramp], pencils), key=lambda one: -one.lab[0])
        for label, setting in sheet.regions.settings.items()
        if setting.ramp
    }
    over = sheet.with_pencil_over("P2", str(drawer.pk), ramps)
    what = f"Pencil from {drawer.name} over the marker"
    return keep_step(actor=actor, piece=piece, version=version, what=what, sheet=over)


def choose_school(*, actor: AbstractBaseUser, piece: Piece, version: int, school: str) -> Piece:
    """Lay the shades in another school's order."""
    try:
        chosen = school_for(actor, school)
    except SchoolError as error:
        raise ValidationError({"school": str(error)}) from error
    sheet = piece.sheet().with_part("order", school=chosen.code, own_school=chosen if chosen.own else None)
    return keep_step(actor=actor, piece=piece, version=version, what=f"In the school {chosen.name}", sheet=sheet)
