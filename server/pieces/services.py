"""What users do with a piece, one function per action."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import replace
from typing import Any

from django.contrib.auth.models import AbstractBaseUser
from django.db import transaction
from rest_framework.exceptions import ValidationError

from paleta.checks import narrowest_shaded_mm, paper_like
from paleta.errors import RecipeError, ResolutionMissing, SchoolError
from paleta.impression import (
    MM_PER_INCH,
    Corners,
    Impression,
    check_corners,
    find_regions,
    labels_to_png,
    likeness_doubts,
    read,
    rectify,
)
from paleta.light import Glow, Lamp, guess_bodies
from paleta.media import INKS, MEDIA, PAPERS
from paleta.palette import Ramp, find_ramps, judge, same_number
from paleta.recipe import ORDER_WORDS, RegionSetting, Sheet, first_setting, sheet_to_plain
from server.drawers.models import Drawer
from server.ownership import require_owner
from server.pieces import bench, files
from server.pieces.models import Piece, Step
from server.pieces.schools import school_for
from server.pieces.steps import fill_shelf_fields, keep_step

Lab = tuple[float, float, float]
MOST_GLOWS = 12
UNMEASURED_DPI = 300.0
SMALLEST_SHARE = 0.2
"""Line art of which less than this is used is not drawn any larger for it."""
"""What a photo counts as until the width of the part that is kept says better."""


def add_piece(
    *,
    actor: AbstractBaseUser,
    data: bytes,
    title: str,
    width_mm: float | None = None,
    dpi: float | None = None,
    gap_mm: float = 1.0,
    corners: Corners | None = None,
) -> Piece:
    """Read a scan, find its regions and put it on the shelf; nothing is stored if any of that fails.

    With `corners` the part of the picture between them is laid flat first, and `width_mm` is the width of that part.
    """
    if corners is None:
        impression = read(data, dpi=dpi, width_mm=width_mm)
    else:
        check_corners(corners)
        loose = read(data, dpi=dpi or (UNMEASURED_DPI if width_mm else None))
        if loose.drawn and width_mm:
            loose = read(data, width_mm=width_mm / max(corners[1][0] - corners[0][0], SMALLEST_SHARE))
        impression = rectify(loose, corners, width_mm=width_mm)
    kept = bench.kept_jpeg(impression)
    # Regions are found on what is kept, so that the same file always gives the same map.
    kept_impression = read(kept, dpi=impression.dpi)
    region_map = find_regions(kept_impression, gap_mm=gap_mm)
    narrow_mm = narrowest_shaded_mm("marker")
    small = {region.label for region in region_map.regions if 2 * region.inradius_mm < narrow_mm}
    regions = {}
    for number, body in enumerate(guess_bodies(region_map), start=1):
        for label in body.regions:
            guess = first_setting(f"Region {number}", body)
            regions[label] = replace(guess, shades=1) if label in small else guess
    drawer = Drawer.objects.owned_by(actor).filter(medium="marker").first()
    sheet = Sheet(
        title=title,
        regions=dict(sorted(regions.items())),
        drawer=str(drawer.pk) if drawer else "",
        gap_mm=gap_mm,
        paper=paper_like(impression).code,
    )
    return put_on_shelf(
        owner=actor,
        sheet=sheet,
        picture=kept,
        packed_map=labels_to_png(region_map),
        size=impression.pixels.shape[:2],
        dpi=impression.dpi,
        warnings=(*impression.warnings, *likeness_doubts(kept_impression, region_map)),
    )


def read_loose(data: bytes) -> tuple[Impression, float | None]:
    """A picture that is only looked at, and its width in mm if the file says one that can be believed."""
    try:
        impression = read(data)
    except ResolutionMissing:
        return read(data, dpi=UNMEASURED_DPI), None
    return impression, round(impression.pixels.shape[1] / impression.px_per_mm, 1)


@transaction.atomic
def put_on_shelf(
    *,
    owner: AbstractBaseUser,
    sheet: Sheet,
    picture: bytes,
    packed_map: bytes,
    size: tuple[int, ...],
    dpi: float,
    warnings: Sequence[str] = (),
) -> Piece:
    """Store a piece with its first step."""
    piece = Piece(
        owner=owner,
        impression_sha256=files.keep(picture),
        regions_sha256=files.keep(packed_map),
        height_px=size[0],
        width_px=size[1],
        dpi=dpi,
        warnings=list(warnings),
        position=1,
    )
    fill_shelf_fields(piece, sheet)
    piece.save()
    Step.objects.create(piece=piece, number=1, what="Stamped", sheet=sheet_to_plain(sheet))
    return piece


@transaction.atomic
def delete_piece(*, actor: AbstractBaseUser, piece: Piece) -> None:
    """Take a piece off the shelf with its recipes. Picture files stay: another piece may share them."""
    require_owner(actor, piece)
    piece.delete()


def describe_stamp(*, actor: AbstractBaseUser, piece: Piece, version: int, changes: Mapping[str, str]) -> Piece:
    """Title, outline ink, paper, finish or card notes."""
    sheet = replace(piece.sheet(), **changes)
    words = {
        "title": f"Called it {sheet.title}",
        "outline_ink": f"Stamped with {INKS[sheet.outline_ink].lower()}",
        "paper": f"On {PAPERS[sheet.paper].name.lower()}",
        "finish": "Noted the finish",
        "card": "Noted the card",
    }
    what = ", ".join(words[key] for key in changes) or "Nothing"
    return keep_step(actor=actor, piece=piece, version=version, what=what[:200], sheet=sheet)


def turn_lamp(*, actor: AbstractBaseUser, piece: Piece, version: int, lamp: Lamp) -> Piece:
    """Turn the lamp of `piece` and keep the new direction."""
    sheet = replace(piece.sheet(), lamp=lamp)
    what = f"Lamp to {lamp.clock}, {lamp.elevation_deg:.0f}° high"
    return keep_step(actor=actor, piece=piece, version=version, what=what, sheet=sheet)


def set_glows(*, actor: AbstractBaseUser, piece: Piece, version: int, glows: Sequence[Glow]) -> Piece:
    """The lights inside the picture, all of them."""
    if len(glows) > MOST_GLOWS:
        raise ValidationError({"glows": f"A picture has up to {MOST_GLOWS} glows."})
    width_mm, height_mm = (pixels / piece.dpi * MM_PER_INCH for pixels in (piece.width_px, piece.height_px))
    for glow in glows:
        if glow.x_mm > width_mm or glow.y_mm > height_mm:
            raise ValidationError({"glows": "A glow must stand on the picture."})
    sheet = replace(piece.sheet(), glows=tuple(glows))
    what = f"{len(glows)} glow{'' if len(glows) == 1 else 's'} in the picture"
    return keep_step(actor=actor, piece=piece, version=version, what=what, sheet=sheet)


def set_zoning(*, actor: AbstractBaseUser, piece: Piece, version: int, changes: Mapping[str, Any]) -> Piece:
    """How far the zones follow the whole picture's light or the printed shading, how much lies in shade, and whether
    nearer things cast shadows."""
    sheet = replace(piece.sheet(), **changes)
    words = {
        "true_to_scene": f"{sheet.true_to_scene:.0%} true to the scene",
        "shadows": f"cast shadows {'on' if sheet.shadows else 'off'}",
        "shade": f"{sheet.shade:+.0%} shade",
        "follow": f"{sheet.follow:.0%} after the printed shading",
    }
    what = f"Zones: {', '.join(words[key] for key in changes)}"
    return keep_step(actor=actor, piece=piece, version=version, what=what, sheet=sheet)


def choose_medium(*, actor: AbstractBaseUser, piece: Piece, version: int, medium: str, drawer: Drawer) -> Piece:
    """Work in another medium or from another drawer. Ramps are taken off; wished colours stay."""
    require_owner(actor, drawer)
    if drawer.medium != medium:
        raise ValidationError(
            {"drawer": f"{drawer.name} holds {MEDIA[drawer.medium].lower()}, not {MEDIA[medium].lower()}."}
        )
    sheet = piece.sheet().with_medium(medium, drawer=str(drawer.pk))
    what = f"{MEDIA[medium]} from {drawer.name}"
    return keep_step(actor=actor, piece=piece, version=version, what=what, sheet=sheet)


def go_over_in_pencil(*, actor: AbstractBaseUser, piece: Piece, version: int, drawer: Drawer) -> Piece:
    """Leave the marker as it is and lay pencil over it: as many pencils as markers, in the school for that."""
    require_owner(actor, drawer)
    sheet = piece.sheet()
    if drawer.medium != "pencil" or sheet.medium != "marker" or not sheet.swatches:
        raise ValidationError({"drawer": "Pencil goes over a picture that has its colours in marker."})
    pencils = drawer.shades()
    ramps = {
        label: sorted(
            same_number([sheet.swatches[code] for code in setting.ramp], pencils), key=lambda one: -one.lab[0]
        )
        for label, setting in sheet.regions.items()
        if setting.ramp
    }
    over = sheet.over_itself("pencil", "P2", str(drawer.pk), ramps)
    what = f"Pencil from {drawer.name} over the marker"
    return keep_step(actor=actor, piece=piece, version=version, what=what[:200], sheet=over)


def choose_school(*, actor: AbstractBaseUser, piece: Piece, version: int, school: str) -> Piece:
    """Lay the shades in another school's order."""
    try:
        chosen = school_for(actor, school)
    except SchoolError as error:
        raise ValidationError({"school": str(error)}) from error
    sheet = replace(piece.sheet(), school=chosen.code, own_school=chosen if chosen.own else None)
    return keep_step(actor=actor, piece=piece, version=version, what=f"In the school {chosen.name}", sheet=sheet)


def wish(*, actor: AbstractBaseUser, piece: Piece, version: int, changes: Mapping[str, Any]) -> Piece:
    """Which regions come first, how light the picture is meant to be, and what comes last."""
    if "touches" in changes:
        changes = {**changes, "touches": tuple(dict.fromkeys(changes["touches"]))}
    sheet = replace(piece.sheet(), **changes)
    words = {
        "order_wish": f"order: {ORDER_WORDS[sheet.order_wish]}",
        "masked": "a mask for the background" if sheet.masked else "no mask",
        "touches": "finishing touches: " + (", ".join(sheet.touches) or "none"),
        "key": f"a picture in {sheet.key} key" if sheet.key else "no key",
    }
    what = ", ".join(words[name] for name in changes)[:200]
    return keep_step(actor=actor, piece=piece, version=version, what=what, sheet=sheet)


def propose_ramps(
    *, actor: AbstractBaseUser, piece: Piece, wish_lab: Lab, shades: int, shade_hue: str = "keep"
) -> list[Ramp]:
    """Ramps from the piece's drawer for a wished colour, best first."""
    require_owner(actor, piece)
    return find_ramps(drawer_of(piece.sheet(), actor).shades(), wish_lab, shades, shade_hue=shade_hue)


def set_ramp(
    *,
    actor: AbstractBaseUser,
    piece: Piece,
    version: int,
    labels: Sequence[int],
    codes: Sequence[str],
    wish_lab: Lab | None,
    by_hand: bool,
) -> Piece:
    """Give regions a ramp of swatches from the drawer, palest first; no codes take the ramp off."""
    sheet = piece.sheet()
    settings = settings_of(sheet, labels)
    swatches = {}
    if codes:
        known = {swatch.code: swatch for swatch in drawer_of(sheet, actor).shades()}
        missing = [code for code in codes if code not in known and code not in sheet.swatches]
        if missing:
            raise RecipeError(f"There is no swatch {missing[0]!r} in the drawer.")
        chosen = [known.get(code) or sheet.swatches[code] for code in codes]
        judge(chosen)
        swatches = {swatch.code: swatch for swatch in sorted(chosen, key=lambda swatch: -swatch.lab[0])}
    changed = {
        label: replace(
            setting,
            ramp=tuple(swatches),
            shades=len(swatches) or setting.shades,
            wish_lab=wish_lab or setting.wish_lab,
            by_hand=by_hand,
            left_as_paper=False,
        )
        for label, setting in settings.items()
    }
    names = " · ".join(swatch.name for swatch in swatches.values()) or "no colours"
    return keep_step(
        actor=actor,
        piece=piece,
        version=version,
        what=f"{words_for(settings)}: {names}"[:200],
        sheet=sheet.with_regions(changed, swatches),
    )


def colour_all_wishes(*, actor: AbstractBaseUser, piece: Piece, version: int) -> Piece:
    """Give every region that has a wished colour but no ramp the best ramp of the drawer."""
    sheet = piece.sheet()
    drawer = drawer_of(sheet, actor).shades()
    changed, swatches = {}, {}
    for label, setting in sheet.regions.items():
        if setting.ramp or setting.left_as_paper or setting.wish_lab is None:
            continue
        found = find_ramps(drawer, setting.wish_lab, setting.shades, alternatives=1)
        if found:
            changed[label] = replace(setting, ramp=tuple(swatch.code for swatch in found[0].swatches))
            swatches.update({swatch.code: swatch for swatch in found[0].swatches})
    what = f"Colours for {len(changed)} regions"
    return keep_step(actor=actor, piece=piece, version=version, what=what, sheet=sheet.with_regions(changed, swatches))


def drawer_of(sheet: Sheet, actor: AbstractBaseUser) -> Drawer:
    """The drawer the sheet works from; any of the medium if that one is gone.

    Raises
    ------
    ValidationError
        If the actor has none for the medium.
    """
    drawers = Drawer.objects.owned_by(actor).filter(medium=sheet.medium)
    chosen = drawers.filter(pk=int(sheet.drawer)).first() if sheet.drawer.isdigit() else None
    drawer = chosen or drawers.first()
    if drawer is None:
        raise ValidationError({"drawer": f"You have no drawer of {MEDIA[sheet.medium].lower()} yet."})
    return drawer


def settings_of(sheet: Sheet, labels: Sequence[int]) -> dict[int, RegionSetting]:
    """The settings of these regions; ValidationError if one is not there or none is named."""
    missing = [label for label in labels if label not in sheet.regions]
    if missing or not labels:
        raise ValidationError({"labels": f"There is no region {missing[0]}." if missing else "Choose a region first."})
    return {label: sheet.regions[label] for label in labels}


def words_for(settings: Mapping[int, RegionSetting]) -> str:
    """A region's name, or how many there are."""
    names = [setting.name for setting in settings.values()]
    return names[0] if len(names) == 1 else f"{len(names)} regions"
