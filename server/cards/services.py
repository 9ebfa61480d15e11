"""What users do with cards beside filling in the spec."""

from __future__ import annotations

from dataclasses import replace

from django.contrib.auth.models import User

from server.cards.layouts import needed, picture_of
from server.ownership import require_owner
from server.pieces.models import Piece
from server.pieces.steps import keep_step


def match_card(*, actor: User, piece: Piece, version: int, other: Piece) -> Piece:
    """A card like another piece's, with this figure's middle in the very place of the other one's.

    For pictures that change places, and for sets: both sit in the same spot to a hundredth of a millimetre.
    """
    require_owner(actor, piece)
    require_owner(actor, other)
    theirs = needed(other.stamping, other.sheet())
    assert theirs.plan.crop is not None
    crop, middle = theirs.plan.crop, theirs.picture.middle()
    sheet = piece.sheet()
    own = picture_of(piece.stamping, sheet).middle()
    spec = theirs.plan.spec
    panel = replace(spec.panel, crop_x=own[0] - (middle[0] - crop.x), crop_y=own[1] - (middle[1] - crop.y))
    # What is cut out of one picture is not in the other.
    matched = sheet.with_part("card", spec=replace(spec, panel=panel, cutouts=()))
    return keep_step(
        actor=actor, piece=piece, version=version, what=f"A card like that of {other.title}", sheet=matched
    )
