"""Carrying a piece onto another stamping of its stamp."""

from __future__ import annotations

from dataclasses import replace

from django.contrib.auth.models import User
from rest_framework.exceptions import NotFound

from paleta.impression import Corners
from paleta.materials import PAPERS, Paper
from paleta.media import Swatch
from paleta.photo_check import NotTheSameStamp
from paleta.recipe import Sheet
from paleta.restamp import PaperChange, on_other_paper
from server.derived import restamp_jobs, worker
from server.derived.maps import map_sha256
from server.drawers.models import Drawer
from server.drawers.papers import paper_for
from server.files import store
from server.ownership import require_owner
from server.pieces.colours.ramps import drawer_of
from server.pieces.models import Piece
from server.pieces.quota import require_room
from server.pieces.shelf.services import put_on_shelf
from server.problems import Refused

LIMIT_S, LIMIT_MB = 120.0, 900


def stamp_again(
    *, actor: User, piece: Piece, data: bytes, title: str = "", paper: str = "",
    corners: Corners | None = None,
) -> tuple[Piece, list[PaperChange]]:  # fmt: skip
    """Another stamping of a piece's stamp as a piece of its own, with everything carried over.

    It stands beside the first one, whose steps, versions and runs stay true to the picture they were made on.

    Raises
    ------
    Refused
        If the picture shows another stamp, or too little of this one.
    """
    require_owner(actor, piece)
    require_room(actor)
    sheet, stamping = piece.sheet(), piece.stamping
    done = worker.run(
        restamp_jobs.carry_onto,
        data,
        corners,
        store.fetch(stamping.impression_sha256),
        store.fetch(map_sha256(stamping, sheet)),
        stamping.dpi,
        sheet,
        limit_s=LIMIT_S,
        memory_mb=LIMIT_MB,
    )
    if isinstance(done, NotTheSameStamp):
        raise Refused(done.reason, f"not_the_same_stamp_{done.code}", 422)
    new_paper = _paper(actor, paper) if paper else sheet.stamp.paper_used
    changes = on_other_paper(sheet, new_paper, _at_hand(actor, sheet)) if new_paper != sheet.stamp.paper_used else []
    own = new_paper if paper and not _ships(new_paper) else (None if paper else sheet.stamp.own_paper)
    stamp = replace(
        done.sheet.stamp, title=title or f"{sheet.stamp.title[:100]}, again", paper=new_paper.code, own_paper=own
    )
    warnings = (*done.warnings, *(one.sentence for one in changes[:8]))
    carried = put_on_shelf(
        owner=actor,
        sheet=replace(done.sheet, stamp=stamp),
        picture=done.picture,
        packed_map=done.packed_map,
        size=(stamping.height_px, stamping.width_px),
        dpi=stamping.dpi,
        warnings=warnings,
    )
    return carried, changes


def _at_hand(actor: User, sheet: Sheet) -> dict[str, list[Swatch]]:
    """The swatches that the sheet works from, by medium."""
    media = set(Drawer.objects.owned_by(actor).values_list("medium", flat=True)) & set(sheet.media)
    return {medium: drawer_of(sheet, actor, medium).shades() for medium in media}


def _paper(actor: User, code: str) -> Paper:
    paper = paper_for(actor, code)
    if paper is None:
        raise NotFound(f"There is no paper {code!r}.")
    return paper


def _ships(paper: Paper) -> bool:
    return PAPERS.get(paper.code) == paper
