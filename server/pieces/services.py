"""What users do with a piece, one function per action."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import replace
from itertools import pairwise
from typing import Any

from django.contrib.auth.models import AbstractBaseUser
from django.db import transaction
from rest_framework.exceptions import ValidationError

from paleta.checks import narrowest_shaded_mm, paper_like
from paleta.colour import plain_name
from paleta.errors import DepthCycle, RecipeError, ResolutionMissing, SchoolError
from paleta.impression import (
    MM_PER_INCH,
    Corners,
    Impression,
    check_corners,
    check_edit,
    find_regions,
    labels_to_png,
    parts_of_split,
    read,
    rectify,
)
from paleta.light import Front, Glow, Lamp, bring_before, guess_bodies
from paleta.media import INKS, MEDIA, PAPERS
from paleta.palette import Ramp, find_ramps, judge
from paleta.recipe import ORDER_WORDS, RegionSetting, Sheet, carry_over, first_setting, sheet_to_plain
from server.drawers.models import Drawer
from server.ownership import require_owner
from server.pieces import bench, files
from server.pieces.models import Piece, Step
from server.pieces.schools import school_for
from server.pieces.steps import fill_shelf_fields, keep_step

Lab = tuple[float, float, float]
MOST_GLOWS = 12
UNMEASURED_DPI = 300.0
"""What a photo counts as until the width of the part that is kept says better."""
BODY_FIELDS = ("form", "bulge", "axis_deg", "depth", "base_mm", "turn_deg")
"""What belongs to a whole body; changed on one of its regions it changes on all."""


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
        impression = rectify(loose, corners, width_mm=width_mm)
    kept = bench.kept_jpeg(impression)
    # Regions are found on what is kept, so that the same file always gives the same map.
    region_map = find_regions(read(kept, dpi=impression.dpi), gap_mm=gap_mm)
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
        warnings=impression.warnings,
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


def change_regions(
    *, actor: AbstractBaseUser, piece: Piece, version: int, labels: Sequence[int], changes: Mapping[str, Any]
) -> Piece:
    """Rename, reshape, move nearer or farther, leave as paper: the same change to every region in `labels`."""
    sheet = piece.sheet()
    settings = _settings(sheet, labels)
    if "name" in changes and len(labels) > 1:
        raise ValidationError({"name": "Only one region can be renamed at a time."})
    shape = {key: value for key, value in changes.items() if key in BODY_FIELDS}
    if shape:
        shape["guessed"] = False
    changed = {
        mate: replace(sheet.regions[mate], **shape) for label in labels for mate in sheet.body_mates(label) if shape
    }
    for label, setting in settings.items():
        new = replace(changed.get(label, setting), **changes)
        if "shades" in changes and len(setting.ramp) != new.shades:
            new = replace(new, ramp=(), by_hand=False)
        changed[label] = new
    what = f"{_which(settings)}: {_in_words(changes)}"
    return keep_step(actor=actor, piece=piece, version=version, what=what[:200], sheet=sheet.with_regions(changed))


def find_again(*, actor: AbstractBaseUser, piece: Piece, version: int, gap_mm: float, ink: float) -> Piece:
    """Look for the regions once more, with other sliders; edits and settings are carried over where they still fit."""
    sheet = piece.sheet()
    found = find_regions(bench.impression_of(piece), gap_mm=gap_mm, ink=ink)
    carried = carry_over(sheet, bench.region_map_of(piece, sheet), found)
    again = replace(
        sheet,
        ink=ink,
        gap_mm=gap_mm,
        regions_sha256=files.keep(labels_to_png(found)),
        edits=carried.edits,
        fronts=carried.fronts,
        regions=carried.regions,
    ).with_regions({})
    lost = f"; no longer there: {', '.join(carried.lost)}" if carried.lost else ""
    what = f"Found {len(carried.regions)} regions with gaps up to {gap_mm:.1f} mm{lost}"
    return keep_step(actor=actor, piece=piece, version=version, what=what[:200], sheet=again)


def join_regions(*, actor: AbstractBaseUser, piece: Piece, version: int, labels: Sequence[int]) -> Piece:
    """Make one region of several; the first one named keeps its settings and ramp."""
    sheet = piece.sheet()
    edit = {"op": "join", "regions": sorted(set(labels))}
    check_edit(edit, set(sheet.regions))
    keeper, kept_label = sheet.regions[labels[0]], min(labels)
    regions = {label: setting for label, setting in sheet.regions.items() if label not in set(labels)}
    regions[kept_label] = keeper
    joined = replace(sheet, edits=(*sheet.edits, edit), regions=dict(sorted(regions.items()))).with_regions({})
    names = [sheet.regions[label].name for label in labels]
    what = f"Joined {' and '.join(names[:3])}{' and more' if len(names) > 3 else ''}"
    return keep_step(actor=actor, piece=piece, version=version, what=what[:200], sheet=joined)


def erase_region(*, actor: AbstractBaseUser, piece: Piece, version: int, label: int) -> Piece:
    """A speck that was taken for a region goes to what lies around it."""
    sheet = piece.sheet()
    region = next((one for one in bench.region_map_of(piece, sheet).regions if one.label == label), None)
    if region is None:
        raise ValidationError({"label": f"There is no region {label}."})
    row, col = region.anchor
    at = [round(place / piece.dpi * MM_PER_INCH, 2) for place in (col, row)]
    edit = {"op": "erase", "region": label, "at": at, "area_mm2": round(region.area_mm2, 2)}
    check_edit(edit, set(sheet.regions))
    regions = {other: setting for other, setting in sheet.regions.items() if other != label}
    fronts = tuple(pair for pair in sheet.fronts if label not in pair)
    erased = replace(sheet, edits=(*sheet.edits, edit), regions=regions, fronts=fronts).with_regions({})
    what = f"Erased {sheet.regions[label].name}"
    return keep_step(actor=actor, piece=piece, version=version, what=what[:200], sheet=erased)


def put_before(*, actor: AbstractBaseUser, piece: Piece, version: int, nearer: int, farther: int) -> Piece:
    """Say which of two regions stands in front; what was decided to stand before it moves along."""
    sheet = piece.sheet()
    settings = _settings(sheet, [nearer, farther])
    body = {label: sheet.body_mates(label)[0] for label in sheet.regions}
    if body[nearer] == body[farther]:
        raise ValidationError({"nearer": "These two are one body; neither stands before the other."})
    # A new word on the same two bodies replaces the old one.
    pair = {body[nearer], body[farther]}
    decided = [(one, other) for one, other in sheet.fronts if {body.get(one), body.get(other)} != pair]
    depths = {label: sheet.regions[label].depth for label in set(body.values())}
    fronts = [Front(body[one], body[other]) for one, other in decided if one in body and other in body]
    try:
        depths = bring_before(depths, body[nearer], body[farther], fronts)
    except DepthCycle as circle:
        names = [sheet.regions[label].name for label in circle.labels]
        chain = ", ".join(f"{one} before {other}" for one, other in pairwise(names))
        raise ValidationError(
            {"nearer": f"That closes a circle: you put {chain}. Turn one of these borders round first."}
        ) from circle
    changed = {
        label: replace(setting, depth=depths[body[label]], guessed=False if body[label] in pair else setting.guessed)
        for label, setting in sheet.regions.items()
        if setting.depth != depths[body[label]] or body[label] in pair
    }
    what = f"{settings[nearer].name} stands before {settings[farther].name}"
    kept = replace(sheet, fronts=(*decided, (nearer, farther)))
    return keep_step(actor=actor, piece=piece, version=version, what=what[:200], sheet=kept.with_regions(changed))


def make_body(*, actor: AbstractBaseUser, piece: Piece, version: int, labels: Sequence[int], together: bool) -> Piece:
    """Let regions form one body with the first one's form, or take each of them out of its body again."""
    sheet = piece.sheet()
    settings = _settings(sheet, labels)
    if together and len(settings) < 2:
        raise ValidationError({"labels": "Choose at least two regions to make one body."})
    # Whoever shared a body with one of them comes along.
    mates = sorted({mate for label in labels for mate in sheet.body_mates(label)}) if together else list(settings)
    first = settings[labels[0]]
    shape = {field: getattr(first, field) for field in BODY_FIELDS}
    body = {"body": mates[0], "guessed": False, **shape} if together else {"body": 0}
    changed = {label: replace(sheet.regions[label], **body) for label in mates}
    what = f"{len(mates)} regions {'are one body' if together else 'stand alone'}"
    return keep_step(actor=actor, piece=piece, version=version, what=what, sheet=sheet.with_regions(changed))


def split_region(
    *, actor: AbstractBaseUser, piece: Piece, version: int, label: int, line: Sequence[Sequence[float]]
) -> Piece:
    """Part one region along a barrier; the new parts start with its settings and ramp."""
    sheet = piece.sheet()
    edit = {"op": "split", "region": label, "line": [[round(x, 2), round(y, 2)] for x, y in line]}
    check_edit(edit, set(sheet.regions))
    old = sheet.regions[label]
    new = parts_of_split(bench.region_map_of(piece, sheet), label, edit["line"])
    parts = {part: replace(old, name=f"{old.name[:54]} ({number})") for number, part in enumerate(new, start=2)}
    split = replace(sheet, edits=(*sheet.edits, edit)).with_regions(parts)
    what = f"Split {old.name} in {len(new) + 1}"
    return keep_step(actor=actor, piece=piece, version=version, what=what[:200], sheet=split)


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
    settings = _settings(sheet, labels)
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
        what=f"{_which(settings)}: {names}"[:200],
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


def _settings(sheet: Sheet, labels: Sequence[int]) -> dict[int, RegionSetting]:
    missing = [label for label in labels if label not in sheet.regions]
    if missing or not labels:
        raise ValidationError({"labels": f"There is no region {missing[0]}." if missing else "Choose a region first."})
    return {label: sheet.regions[label] for label in labels}


def _which(settings: Mapping[int, RegionSetting]) -> str:
    names = [setting.name for setting in settings.values()]
    return names[0] if len(names) == 1 else f"{len(names)} regions"


def _in_words(changes: Mapping[str, Any]) -> str:
    words = {
        "name": "called {}",
        "form": "{}",
        "bulge": "bulge {:g}",
        "depth": "depth {}",
        "shades": "{} shades",
        "left_as_paper": "left as paper",
        "axis_deg": "axis turned",
        "wish_lab": "wished",
        "turn_deg": "light turned by {:.0f}°",
    }
    parts = []
    for key, value in changes.items():
        if key == "left_as_paper" and not value:
            parts.append("to be coloured")
        elif key == "wish_lab":
            parts.append(f"wished {plain_name(value)}" if value else "no wish")
        elif key == "base_mm":
            parts.append("base moved" if value else "base left to Paleta")
        elif key == "role":
            parts.append(f"marked as {value}" if value else "no longer marked")
        elif key == "tags":
            parts.append(f"tagged {', '.join(value)}" if value else "no tags")
        elif key == "bare_highlight":
            parts.append(f"highlight {'left bare' if value else 'coloured'}")
        else:
            parts.append(words[key].format(value))
    return ", ".join(parts)
