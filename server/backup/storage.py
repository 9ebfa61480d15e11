"""What of an account lies on disk, and what is missing there."""

from __future__ import annotations

import json
from dataclasses import asdict, dataclass
from pathlib import Path
from typing import Any

from django.conf import settings
from django.contrib.auth.models import User
from django.utils import timezone

from server.files import store
from server.files.uses import Scope, uses
from server.pieces.models import Piece
from server.pieces.quota import kept_bytes


@dataclass(frozen=True, slots=True)
class Storage:
    """How much an account keeps of what it may, and the titles of pieces whose pictures are gone from the disk; "" for
    a photo of a run whose piece was taken off the shelf."""

    pieces: int
    most_pieces: int
    bytes: int
    most_bytes: int
    missing: list[str]
    tidied: dict[str, Any] | None


def storage_of(owner: User) -> Storage:
    gone = missing_files(Scope(owner_id=owner.pk))
    titles = dict(Piece.objects.filter(pk__in=[one for one in gone if one is not None]).values_list("pk", "title"))
    return Storage(
        pieces=Piece.objects.owned_by(owner).count(),
        most_pieces=settings.MOST_PIECES,
        bytes=kept_bytes(owner),
        most_bytes=settings.MOST_ACCOUNT_BYTES,
        missing=sorted(titles.get(piece, "") if piece is not None else "" for piece in gone),
        tidied=last_tidied(),
    )


def missing_files(scope: Scope) -> dict[int | None, set[str]]:
    """By piece, the files that its rows name and that are not there."""
    gone: dict[int | None, set[str]] = {}
    for use in uses(scope):
        if not store.place_of(use.name).exists():
            gone.setdefault(use.piece_id, set()).add(use.name)
    return gone


def note_tidied(tidied: Any) -> None:
    """Keep what housekeeping did last."""
    _note().write_text(json.dumps({"at": timezone.now().isoformat(), **asdict(tidied)}))


def last_tidied() -> dict[str, Any] | None:
    """What housekeeping did last, and when (`at`); None before the first time."""
    try:
        found: dict[str, Any] = json.loads(_note().read_text())
    except (OSError, ValueError):
        return None
    return found


def _note() -> Path:
    return Path(settings.VAR_DIR) / "tidied.json"
