"""What users do with the sheet as a whole: describe a part, turn the lamp, set glows, choose medium and school."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import replace
from typing import Any

from django.contrib.auth.models import User
from rest_framework.exceptions import ValidationError

from paleta.errors import SchoolError
from paleta.fields import said_of
from paleta.impression import MM_PER_INCH
from paleta.light import Glow, Lamp
from paleta.materials import PAPERS, Paper
from paleta.media import MEDIA
from paleta.order import SCHOOLS
from paleta.palette import counterparts
from server.drawers.models import Drawer
from server.drawers.papers import paper_for
from server.ownership import require_owner
from server.pieces.models import Piece
from server.pieces.schools import school_for
from server.pieces.steps import keep_step


def describe(*, actor: User, piece: Piece, version: int, part: str, changes: Mapping[str, Any]) -> Piece:
    """Set fields of one part of the sheet. A paper is one that ships or the actor's own, which the sheet then holds."""
    if "paper" in changes:
        changes = {**changes, "own_paper": _own_paper(actor, piece, changes["paper"])}
    sheet = piece.sheet().with_part(part, **changes)
    said = said_of(getattr(sheet, part), [*changes])
    what = f"On {sheet.stamp.paper_used.name.lower()}" if "paper" in changes else said
    return keep_step(actor=actor, piece=piece, version=version, what=what, sheet=sheet)


def _own_paper(actor: User, piece: Piece, code: str) -> Paper | None:
    stamp = piece.sheet().stamp
    if stamp.own_paper is not None and stamp.paper == code:
        return stamp.own_paper
    paper = paper_for(actor, code)
    if paper is None:
        raise ValidationError({"paper": f"There is no paper {code!r}."})
    return None if code in PAPERS else paper


def turn_lamp(*, actor: User, piece: Piece, version: int, lamp: Lamp) -> Piece:
    """Turn the lamp of `piece` and keep the new direction."""
    sheet = piece.sheet().with_part("light", lamp=lamp)
    what = f"Lamp to {lamp.clock}, {lamp.elevation_deg:.0f}° high"
    return keep_step(actor=actor, piece=piece, version=version, what=what, sheet=sheet)


def set_glows(*, actor: User, piece: Piece, version: int, glows: Sequence[Glow]) -> Piece:
    """The lights inside the picture, all of them."""
    width_mm, height_mm = (pixels / piece.dpi * MM_PER_INCH for pixels in (piece.width_px, piece.height_px))
    for glow in glows:
        if glow.x_mm > width_mm or glow.y_mm > height_mm:
            raise ValidationError({"glows": "A glow must stand on the picture."})
    sheet = piece.sheet().with_part("light", glows=tuple(glows))
    what = f"{len(glows)} glow{'' if len(glows) == 1 else 's'} in the picture"
    return keep_step(actor=actor, piece=piece, version=version, what=what, sheet=sheet)


def choose_medium(*, actor: User, piece: Piece, version: int, medium: str, drawer: Drawer) -> Piece:
    """Take what is coloured next from this drawer. What has its colours keeps them."""
    require_owner(actor, drawer)
    if drawer.medium != medium:
        raise ValidationError(
            {"drawer": f"{drawer.name} holds {MEDIA[drawer.medium].lower()}, not {MEDIA[medium].lower()}."}
        )
    sheet = piece.sheet()
    others = Drawer.objects.owned_by(actor).filter(pk__in=map(int, sheet.colours.drawers)).exclude(medium=medium)
    drawers = (*(str(one.pk) for one in others), str(drawer.pk))
    sheet = sheet.with_part("colours", medium=medium, drawers=drawers)
    what = f"{MEDIA[medium]} from {drawer.name}"
    return keep_step(actor=actor, piece=piece, version=version, what=what, sheet=sheet)


def lay_over(*, actor: User, piece: Piece, version: int, drawer: Drawer) -> Piece:
    """One coat more over everything that is coloured, with as many swatches of the drawer as each ramp has, matched by
    eye: pencil over marker."""
    require_owner(actor, drawer)
    sheet, medium = piece.sheet(), drawer.medium
    shades, swatches = drawer.shades(), sheet.colours.swatches
    ramps = {
        label: sorted(
            counterparts([swatches[pen] for pen in setting.coats[-1].pens], shades), key=lambda one: -one.lab[0]
        )
        for label, setting in sheet.regions.settings.items()
        if setting.coats and setting.coat_of(medium) is None and setting.fade is None
    }
    if not ramps:
        raise ValidationError({"drawer": "Nothing has its colours yet that this could go over."})
    markers = all(sheet.regions.settings[label].coats[-1].medium == "marker" for label in ramps)
    school = SCHOOLS["P2"] if medium == "pencil" and markers else sheet.order.school_of(medium)
    over = sheet.with_coat_over(ramps, school)
    what = f"{MEDIA[medium]} from {drawer.name} over what is there"
    return keep_step(actor=actor, piece=piece, version=version, what=what, sheet=over)


def choose_school(*, actor: User, piece: Piece, version: int, school: str) -> Piece:
    """Lay the shades of its medium in another school's order."""
    try:
        chosen = school_for(actor, school)
    except SchoolError as error:
        raise ValidationError({"school": str(error)}) from error
    sheet = piece.sheet()
    sheet = replace(sheet, order=sheet.order.with_school(chosen))
    return keep_step(actor=actor, piece=piece, version=version, what=f"In the school {chosen.name}", sheet=sheet)
