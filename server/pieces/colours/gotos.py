"""Go-tos: ramps saved under a name."""

from __future__ import annotations

from collections.abc import Sequence

from django.contrib.auth.models import User
from rest_framework.exceptions import ValidationError

from paleta.palette import judge
from paleta.recipe import swatch_to_plain
from server.ownership import require_owner
from server.pieces.colours.ramps import laid, pens_of
from server.pieces.models import GoTo, Piece
from server.pieces.regions.services import settings_of
from server.pieces.steps import keep_step

MOST_GOTOS = 500


def keep_goto(*, actor: User, piece: Piece, label: int, name: str, tags: Sequence[str], medium: str = "") -> GoTo:
    """Save the ramp of a region's coat in a medium, or of its lowest one, under a name."""
    require_owner(actor, piece)
    sheet = piece.sheet()
    setting = sheet.regions.settings.get(label)
    coat = None
    if setting is not None and setting.coats:
        coat = setting.coat_of(medium) if medium else setting.coats[0]
    if coat is None:
        raise ValidationError({"label": "This region has no colours to save yet."})
    if GoTo.objects.owned_by(actor).count() >= MOST_GOTOS:
        raise ValidationError({"name": f"You can keep up to {MOST_GOTOS} go-tos."})
    swatches = [swatch_to_plain(sheet.colours.swatches[pen]) for pen in coat.pens]
    return GoTo.objects.create(owner=actor, name=name, medium=coat.medium, tags=list(tags), swatches=swatches)


def lay_goto(*, actor: User, piece: Piece, version: int, goto: GoTo, labels: Sequence[int]) -> Piece:
    """Give regions the ramp of a go-to; no labels mean every region that carries one of its tags."""
    require_owner(actor, goto)
    sheet = piece.sheet()
    tags = set(goto.tags)
    wanted = list(labels) or [label for label, one in sheet.regions.settings.items() if tags & set(one.tags)]
    if not wanted:
        raise ValidationError({"labels": f"No region carries a tag of {goto.name} ({', '.join(goto.tags) or 'none'})."})
    ramp = goto.as_core()
    judge(ramp)
    changed = {label: laid(setting, ramp) for label, setting in settings_of(sheet, wanted).items()}
    what = f"{goto.name} on {len(wanted)} region{'' if len(wanted) == 1 else 's'}"
    swatches = pens_of(ramp)
    return keep_step(actor=actor, piece=piece, version=version, what=what, sheet=sheet.with_regions(changed, swatches))


def drop_goto(*, actor: User, goto: GoTo) -> None:
    """Forget a go-to; regions that carry its ramp keep it."""
    require_owner(actor, goto)
    goto.delete()
