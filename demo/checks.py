"""Photos of the demo's cards: one as planned, and one a tired hand made, with faults to find. All of it is invented."""

from __future__ import annotations

from typing import Any

from paleta.devices import HandFault
from server.photo_check.services import check_photo, simulated_photo
from server.pieces.models import Piece
from server.runs.models import Run

CARDS = (
    (1, "easy", ()),
    (4, "medium", (("pale", "Pot, left"), ("reversed", "Pot, middle"), ("missing", "Flower centre"))),
)
"""Which card, in what light, and what went wrong with what."""


def load_checks(user: Any, piece: Piece) -> None:
    """Cards of the piece's first run, held against its plan."""
    run = Run.objects.filter(owner=user, piece=piece, cards__gt=1).first()
    if run is None:
        return
    labels = {one.name: label for label, one in piece.sheet().regions.settings.items()}
    for card, light, wrong in CARDS:
        faults = [HandFault(kind, (labels[name],), size=9.0) for kind, name in wrong if name in labels]
        data = simulated_photo(piece, light=light, faults=faults, seed=card)
        check_photo(actor=user, piece=piece, version=piece.version, data=data, run=run.pk, card=card, simulated=True)
