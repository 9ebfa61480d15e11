"""How much one account may keep."""

from __future__ import annotations

from collections.abc import Callable

from django.conf import settings
from django.contrib.auth.models import User
from django.db.models import F, Sum
from django.db.models.functions import Greatest

from server.pieces.models import Piece
from server.problems import Refused

_more: list[Callable[[int], int]] = []


def register_kept_bytes(kept: Callable[[int], int]) -> None:
    """`kept` gives, by the owner's id, how many bytes an app keeps that count for no piece."""
    _more.append(kept)


def count_bytes(piece_id: int | None, change: int) -> None:
    """Pictures that came to a piece, or went from it, count for it from now on."""
    if piece_id is not None and change:
        counted = Greatest(F("stored_bytes") + change, 0)
        Piece.objects.filter(pk=piece_id).update(stored_bytes=counted)


def require_room(owner: User, *, more_pieces: int = 1, more_bytes: int = 0) -> None:
    """Raise Refused if the account has no room for so much more."""
    pieces = Piece.objects.owned_by(owner)
    if pieces.count() + more_pieces > settings.MOST_PIECES:
        raise Refused(f"An account holds up to {settings.MOST_PIECES:,} pieces. Take some off the shelf.", "full")
    kept = (pieces.aggregate(all=Sum("stored_bytes"))["all"] or 0) + sum(more(owner.pk) for more in _more)
    if kept + more_bytes > settings.MOST_ACCOUNT_BYTES:
        most = settings.MOST_ACCOUNT_BYTES / 1e9
        raise Refused(f"An account holds up to {most:.0f} GB of pictures. Take some pieces off the shelf.", "full")
