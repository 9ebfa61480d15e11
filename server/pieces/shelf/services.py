"""What users do with whole pieces: look at a picture, add it, take it off the shelf."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from typing import Any

from django.contrib.auth.models import User
from django.db import transaction

from paleta.impression import Corners
from paleta.recipe import Sheet, sheet_to_plain
from server.derived import jobs, worker
from server.derived.maps import Stamping
from server.drawers.models import Drawer
from server.files import store
from server.ownership import require_owner
from server.pieces.models import Piece, Step
from server.pieces.presenters import present_sheet
from server.pieces.quota import recount, require_room
from server.pieces.steps import fill

READ_LIMIT_S = 60.0
READ_LIMIT_MB = 640


def look(data: bytes) -> Mapping[str, Any]:
    """Read a picture without keeping it, and say where its sheet lies."""
    return worker.run(jobs.look, data, limit_s=READ_LIMIT_S, memory_mb=READ_LIMIT_MB)


def add_piece(
    *,
    actor: User,
    data: bytes,
    title: str,
    width_mm: float | None = None,
    dpi: float | None = None,
    gap_mm: float = 1.0,
    sensitivity: float = 0.0,
    corners: Corners | None = None,
) -> Piece:
    """Read a scan, find its regions and put it on the shelf; nothing is stored if any of that fails.

    With `corners` the part of the picture between them is laid flat first, and `width_mm` is the width of that part.
    """
    require_room(actor)
    found = worker.run(
        jobs.read_and_find,
        data,
        width_mm,
        dpi,
        gap_mm,
        sensitivity,
        corners,
        limit_s=READ_LIMIT_S,
        memory_mb=READ_LIMIT_MB,
    )
    return shelve(actor=actor, title=title, found=found, gap_mm=gap_mm, sensitivity=sensitivity)


def shelve(*, actor: User, title: str, found: jobs.NewPiece, gap_mm: float = 1.0, sensitivity: float = 0.0) -> Piece:
    """Put on the shelf what was found in a scan with these settings of the finder."""
    drawer = Drawer.objects.owned_by(actor).filter(medium="marker").first()
    sheet = Sheet.titled(title).with_part("stamp", paper=found.paper)
    sheet = sheet.with_part(
        "regions", settings=found.settings, unsure=found.unsure, gap_mm=gap_mm, sensitivity=sensitivity
    )
    sheet = sheet.with_part("colours", drawers=(str(drawer.pk),) if drawer else ())
    return put_on_shelf(
        owner=actor,
        sheet=sheet,
        picture=found.picture,
        packed_map=found.packed_map,
        size=(found.height_px, found.width_px),
        dpi=found.dpi,
        warnings=found.warnings,
    )


def put_on_shelf(
    *,
    owner: User,
    sheet: Sheet,
    picture: bytes,
    packed_map: bytes,
    size: tuple[int, int],
    dpi: float,
    warnings: Sequence[str] = (),
) -> Piece:
    """Store a piece with its first step; nothing is stored if it could not be shown afterwards."""
    require_room(owner, more_bytes=len(picture) + len(packed_map))
    stamping = Stamping(store.keep(picture), store.keep(packed_map), size[1], size[0], dpi)
    piece = Piece(
        owner=owner,
        impression_sha256=stamping.impression_sha256,
        regions_sha256=stamping.regions_sha256,
        height_px=stamping.height_px,
        width_px=stamping.width_px,
        dpi=dpi,
        warnings=list(warnings),
        position=1,
    )
    fill(piece, sheet, sheet_to_plain(sheet))
    present_sheet(piece, sheet)
    with transaction.atomic():
        piece.save()
        Step.objects.create(piece=piece, number=1, what="Stamped")
        recount(piece.pk)
    return piece


@transaction.atomic
def delete_piece(*, actor: User, piece: Piece) -> None:
    """Take a piece off the shelf with its recipes. Its files are swept later, if nobody else refers to them."""
    require_owner(actor, piece)
    piece.delete()
