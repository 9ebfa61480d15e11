"""Checking photos of cards, and carrying a piece onto another stamping."""

from __future__ import annotations

from collections.abc import Sequence

from django.contrib.auth.models import User
from django.db import transaction
from rest_framework.exceptions import NotFound

from paleta.devices import HandFault
from paleta.impression import Corners
from paleta.photo_check import (
    Fault,
    Measured,
    RegionReading,
    against,
    fault_from_plain,
    find_faults,
    reading_from_plain,
    swatches_measured,
    verdict,
)
from paleta.recipe import Sheet
from server.derived import photo_jobs, worker
from server.derived.light import relief_bytes
from server.derived.maps import Stamping, map_sha256
from server.derived.pictures import outline_of, paper_of
from server.drawers.models import Drawer, SwatchRecord
from server.drawers.services import change_swatch
from server.files import store
from server.ownership import locked, require_owner
from server.photo_check.models import PhotoCheck
from server.photo_check.things import things_told
from server.pieces.models import Piece
from server.pieces.quota import recount, require_room
from server.problems import ChangedElsewhere, Refused
from server.recipes.models import RecipeRecord
from server.recipes.services import FrozenSheet, freeze, recipe_of, write_version
from server.runs.models import Run

MOST_CHECKS, MOST_BESIDE = 5_000, 40
CHECK_LIMIT_S, CHECK_LIMIT_MB = 120.0, 900
LEAST_RISE = 12.0
"""L* by which an outline is paler than its paper before the photo's lines are looked for as pale ones."""


def check_photo(
    *, actor: User, piece: Piece, version: int, data: bytes, run: int | None = None, card: int = 1,
    corners: Corners | None = None, simulated: bool = False,
) -> PhotoCheck:  # fmt: skip
    """Hold a photo of a finished card against its recipe: the one that the run with this id follows, or the sheet as it
    is now, which is kept as a version with it.

    Raises
    ------
    PhotoUnfit, NotThisCard
        If it says nothing, or nothing of this card; nothing is kept then.
    """
    require_owner(actor, piece)
    if PhotoCheck.objects.owned_by(actor).count() >= MOST_CHECKS:
        raise Refused(f"An account keeps up to {MOST_CHECKS:,} photo checks.", "full")
    whose = None if run is None else _run_of(piece, run)
    followed = whose.recipe if whose is not None else None
    if followed is None and piece.version != version:
        raise ChangedElsewhere
    sheet = _nothing_missing(recipe_of(followed).sheet if followed else piece.sheet())
    stamping = piece.stamping
    # Worked out before anything is written, so that a refused check keeps no version.
    frozen = followed or freeze(piece, sheet)
    found = worker.run(
        photo_jobs.check_card,
        data,
        sheet,
        store.fetch(map_sha256(stamping, sheet)),
        stamping.dpi,
        relief_bytes(stamping, sheet),
        corners,
        _paler(stamping, sheet),
        limit_s=CHECK_LIMIT_S,
        memory_mb=CHECK_LIMIT_MB,
    )
    readings = {one["label"]: reading_from_plain(one) for one in found.report["readings"]}
    more = len(found.photo) + len(found.flat)
    require_room(actor, more_pieces=0, more_bytes=more)
    photo, flat = store.keep(found.photo), store.keep(found.flat)
    with transaction.atomic():
        record = (
            write_version(actor=actor, piece=piece, version=version, frozen=frozen)
            if isinstance(frozen, FrozenSheet)
            else frozen
        )
        check = PhotoCheck.objects.create(
            owner=actor,
            piece=piece,
            recipe=record,
            run=whose,
            card=card,
            simulated=simulated,
            photo_sha256=photo,
            flat_sha256=flat,
            things=things_told(sheet, readings, found.report["lights"]),
            **found.report,
        )
        recount(piece.pk)
        return check


def _run_of(piece: Piece, pk: int) -> Run:
    run = Run.objects.select_related("recipe").filter(pk=pk, piece=piece).first()
    if run is None:
        raise NotFound("There is no such run of this piece.")
    return run


def _nothing_missing(sheet: Sheet) -> Sheet:
    if not sheet.colours.swatches:
        raise Refused("There is nothing to compare yet: no region has its colours.", "nothing_to_compare")
    return sheet


def _paler(stamping: Stamping, sheet: Sheet) -> bool:
    """Whether the line is paler than the paper round it, on the card if that has another line than the scan."""
    paper = paper_of(stamping) if sheet.stamp.line_lab is None else sheet.stamp.paper_used.lab
    return outline_of(stamping, sheet)[0] > paper[0] + LEAST_RISE


def try_without_a_card(
    *, actor: User, piece: Piece, version: int, light: str, faults: Sequence[HandFault], seed: int
) -> PhotoCheck:
    """A photo check of a card that a simulated hand coloured, photographed by the simulated camera."""
    require_owner(actor, piece)
    data = simulated_photo(piece, light=light, faults=faults, seed=seed)
    return check_photo(actor=actor, piece=piece, version=version, data=data, simulated=True)


def simulated_photo(piece: Piece, *, light: str, faults: Sequence[HandFault], seed: int) -> bytes:
    """A photo of a card that a simulated hand coloured along the sheet as it stands, by the simulated camera."""
    sheet, stamping = _nothing_missing(piece.sheet()), piece.stamping
    return worker.run(
        photo_jobs.make_card_photo,
        sheet,
        store.fetch(map_sha256(stamping, sheet)),
        stamping.dpi,
        relief_bytes(stamping, sheet),
        tuple(faults),
        outline_of(stamping, sheet),
        light,
        seed,
        limit_s=CHECK_LIMIT_S,
        memory_mb=CHECK_LIMIT_MB,
    )


def sheet_of(check: PhotoCheck) -> Sheet:
    """The sheet that the card was made along."""
    return recipe_of(check.recipe).sheet


def faults_of(check: PhotoCheck, other: PhotoCheck | None = None) -> tuple[list[Fault], str]:
    """The faults of a card beside its plan or beside another card, and the line that sums it up."""
    if other is None:
        return [fault_from_plain(one) for one in check.faults], check.verdict
    sheet, readings = sheet_of(check), readings_beside(check, other)
    faults = find_faults(sheet, readings, than="on the other card")
    return faults, verdict(sheet, readings, faults, f"card {other.card}" if other.run_id else "the other card")


def readings_beside(check: PhotoCheck, other: PhotoCheck | None) -> dict[int, RegionReading]:
    """The readings of a card against its plan, or against another card."""
    return check.as_core() if other is None else against(check.as_core(), other.as_core())


def dismiss_fault(*, actor: User, check: PhotoCheck, place: int, fine: bool) -> PhotoCheck:
    """Say of a finding that it was seen and is fine, or take that back."""
    require_owner(actor, check)
    with transaction.atomic():
        check = locked(check)
        if not 0 <= place < len(check.faults):
            raise NotFound("There is no such finding.")
        check.fine = sorted({*check.fine, place} if fine else {*check.fine} - {place})
        check.save(update_fields=["fine"])
    return check


@transaction.atomic
def forget_check(*, actor: User, check: PhotoCheck) -> None:
    """Take a photo check away. Its files are swept later, if nobody else refers to them."""
    require_owner(actor, check)
    check.delete()
    recount(check.piece_id)


def checks_beside(check: PhotoCheck) -> list[PhotoCheck]:
    """Other photos of cards of the same piece, newest first."""
    return list(check.piece.photo_checks.exclude(pk=check.pk).as_lines()[:MOST_BESIDE])


def measured_for(actor: User, piece: Piece) -> list[tuple[Measured, SwatchRecord, Drawer]]:
    """Swatches of the drawers at hand that come out otherwise than their values say, by cards that agree; cards of one
    version, the newest photo of each."""
    record = RecipeRecord.objects.filter(piece=piece, photo_checks__simulated=False).order_by("-number").first()
    if record is None:
        return []
    newest: dict[tuple[int | None, int], PhotoCheck] = {}
    for check in record.photo_checks.filter(simulated=False):
        newest.setdefault((check.run_id or -check.pk, check.card), check)
    sheet = recipe_of(record).sheet
    found = []
    for one in swatches_measured(sheet, [check.as_core() for check in newest.values()]):
        medium, code = one.pen
        row = SwatchRecord.objects.filter(drawer__owner_id=actor.pk, drawer__medium=medium, code=code).first()
        if row is not None and (row.lightness, row.a, row.b) == tuple(one.old):
            found.append((one, row, row.drawer))
    return found


def take_measured(
    *, actor: User, piece: Piece, version: int, swatch: int, lab: Sequence[float], measured: str
) -> Drawer:
    """Write a swatch's value as it was measured on one's own cards, or the old one back: `version` is the drawer's."""
    require_owner(actor, piece)
    row = SwatchRecord.objects.filter(drawer__owner_id=actor.pk, pk=swatch).select_related("drawer").first()
    if row is None:
        raise NotFound("There is no such swatch in your drawers any more.")
    values = {"lab": tuple(lab), "measured": measured}
    return change_swatch(actor=actor, drawer=row.drawer, version=version, swatch=row.pk, values=values)
