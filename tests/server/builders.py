"""Things of the server for tests: users, pieces, coloured ones."""

from __future__ import annotations

from functools import cache
from typing import Any

import numpy as np
from django.contrib.auth import get_user_model

from paleta.colour import hex_to_lab
from server.derived import jobs, worker
from server.drawers.services import give_starter_drawers
from server.pieces.colours.ramps import colour_all_wishes
from server.pieces.models import Piece
from server.pieces.regions.services import change_regions
from server.pieces.shelf.services import shelve
from tests.builders import as_file, line_drawing


def make_user(name: str = "ana") -> Any:
    user = get_user_model().objects.create_user(username=name, password=f"{name}-has-a-long-word")
    give_starter_drawers(owner=user)
    return user


def make_piece(owner: Any, title: str = "Ball and box", picture: np.ndarray | None = None) -> Piece:
    data = as_file(line_drawing() if picture is None else picture, dpi=(150, 150))
    return shelve(actor=owner, title=title, found=found_in(data))


@cache
def found_in(data: bytes) -> jobs.NewPiece:
    """What is found in a scan; many tests begin with the same one."""
    return worker.run(jobs.read_and_find, data)


def coloured(piece: Piece, *, hexes: tuple[str, ...] = ("#b8506f", "#3f9d8a", "#d9b45c")) -> Piece:
    """The piece with a ramp for every region."""

    for label, code in zip(sorted(piece.sheet().regions.settings), hexes * 20, strict=False):
        piece = change_regions(
            actor=piece.owner,
            piece=piece,
            version=piece.version,
            labels=[label],
            changes={"wish_lab": hex_to_lab(code)},
        )
    return colour_all_wishes(actor=piece.owner, piece=piece, version=piece.version)
