"""How much one account may keep."""

from __future__ import annotations

from django.conf import settings
from django.contrib.auth.models import User
from django.db.models import Sum

from server.files.uses import Scope, bytes_of
from server.pieces.models import Piece
from server.problems import Refused


def recount(piece_id: int | None) -> None:
    """Count what the files of a piece take, after some came to it or went from it. What belongs to no piece is counted
    whenever it is asked for."""
    if piece_id is not None:
        Piece.objects.filter(pk=piece_id).update(stored_bytes=bytes_of(Scope(piece_id=piece_id)))


def recount_all() -> int:
    """Count every piece anew; how many were counted wrong, as by an older Paleta."""
    wrong = 0
    for pk, counted in Piece.objects.values_list("pk", "stored_bytes").iterator():
        lies_there = bytes_of(Scope(piece_id=pk))
        wrong += (
            Piece.objects.filter(pk=pk, stored_bytes=counted)
            .exclude(stored_bytes=lies_there)
            .update(stored_bytes=lies_there)
        )
    return wrong


def kept_bytes(owner: User) -> int:
    """How much the files of an account take."""
    pieces = Piece.objects.owned_by(owner).aggregate(all=Sum("stored_bytes"))["all"] or 0
    return int(pieces) + bytes_of(Scope(owner_id=owner.pk, loose=True))


def require_room(owner: User, *, more_pieces: int = 1, more_bytes: int = 0) -> None:
    """Raise Refused if the account has no room for so much more."""
    if Piece.objects.owned_by(owner).count() + more_pieces > settings.MOST_PIECES:
        raise Refused(f"An account holds up to {settings.MOST_PIECES:,} pieces. Take some off the shelf.", "full")
    if kept_bytes(owner) + more_bytes > settings.MOST_ACCOUNT_BYTES:
        most = settings.MOST_ACCOUNT_BYTES / 1e9
        raise Refused(f"An account holds up to {most:.0f} GB of pictures. Take some pieces off the shelf.", "full")
