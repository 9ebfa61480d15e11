"""How much one account may keep."""

from __future__ import annotations

from django.conf import settings
from django.contrib.auth.models import User
from django.db.models import Sum

from server.pieces.models import Piece
from server.problems import Refused


def require_room(owner: User, *, more_pieces: int = 1, more_bytes: int = 0) -> None:
    """Raise Refused if the account has no room for so much more."""
    pieces = Piece.objects.owned_by(owner)
    if pieces.count() + more_pieces > settings.MOST_PIECES:
        raise Refused(f"An account holds up to {settings.MOST_PIECES:,} pieces. Take some off the shelf.", "full")
    kept = pieces.aggregate(all=Sum("stored_bytes"))["all"] or 0
    if kept + more_bytes > settings.MOST_ACCOUNT_BYTES:
        most = settings.MOST_ACCOUNT_BYTES / 1e9
        raise Refused(f"An account holds up to {most:.0f} GB of pictures. Take some pieces off the shelf.", "full")
