"""Colour judgement over the API's head: the value guard's remedies, go-tos, palettes, what a drawer lacks."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace

import numpy as np
from django.contrib.auth.models import AbstractBaseUser
from rest_framework.exceptions import ValidationError

from paleta.checks import Warning, guard_values
from paleta.colour import difference, hex_to_lab, lab_to_hex
from paleta.impression import read
from paleta.media import Swatch
from paleta.palette import (
    Missing,
    Ramp,
    find_ramps,
    judge,
    missing_pen,
    palette_of_photo,
    same_number,
    scheme,
    share_out,
    substitutes,
)
from paleta.picture import looks_of
from paleta.recipe import Sheet, swatch_to_plain
from server.drawers.models import Drawer
from server.ownership import require_owner
from server.pieces import bench
from server.pieces.models import GoTo, Piece
from server.pieces.services import UNMEASURED_DPI, drawer_of
from server.pieces.steps import keep_step

Lab = tuple[float, float, float]
MOST_GOTOS = 500
LIGHTER, OTHER_HUE_DEG, DEEPER_STEP, SAME_COLOUR = 14.0, 28.0, 18.0, 4.0
LILAC = (2.0, -5.0)


def warnings_of(piece: Piece, sheet: Sheet) -> list[Warning]:
    return guard_values(sheet, looks_of(sheet, sheet.school_used), bench.region_map_of(piece, sheet))


def apply_remedy(*, actor: AbstractBaseUser, piece: Piece, version: int, kind: str, regions: Sequence[int]) -> Piece:
    """Do what a warning of the value guard proposes.

    Raises
    ------
    ValidationError
        If the sheet has no such warning any more, or the drawer has no better ramp.
    """
    sheet = piece.sheet()
    found = next((one for one in warnings_of(piece, sheet) if one.kind == kind and one.regions == tuple(regions)), None)
    if found is None:
        raise ValidationError({"kind": "This warning no longer stands; the colours have changed since."})
    labels = found.regions[-1:] if kind in ("merging", "greens alike") else found.regions
    drawer = drawer_of(sheet, actor).shades()
    changed, swatches = {}, {}
    for label in labels:
        setting = sheet.regions[label]
        old = [sheet.swatches[code] for code in setting.ramp]
        ramp = _better_ramp(found, old, drawer)
        if ramp is None:
            continue
        changed[label] = replace(
            setting, ramp=tuple(one.code for one in ramp.swatches), shades=len(ramp.swatches), by_hand=False
        )
        swatches.update({one.code: one for one in ramp.swatches})
    if not changed:
        raise ValidationError({"kind": "The drawer has no swatches that would put this right. Change it by hand."})
    names = ", ".join(sheet.regions[label].name for label in changed)
    what = f"{found.remedy}: {names}"[:200]
    return keep_step(actor=actor, piece=piece, version=version, what=what, sheet=sheet.with_regions(changed, swatches))


def _better_ramp(warning: Warning, old: Sequence[Swatch], drawer: Sequence[Swatch]) -> Ramp | None:
    lab = np.mean([one.lab for one in old], axis=0)
    count, step = max(len(old), 2 if warning.kind in ("no depth", "white vanishes") else 1), None
    if warning.kind == "no depth":
        count, step = max(len(old), 3), DEEPER_STEP
    elif warning.kind == "white vanishes":
        lab = np.array([lab[0] - 12, *LILAC])
    elif warning.kind == "greens alike":
        lab = _turned(lab, OTHER_HUE_DEG if lab[0] < 60 else -OTHER_HUE_DEG)
    elif "paler" in warning.remedy or (warning.kind == "merging" and lab[0] < 62):
        lab = lab + np.array((LIGHTER, 0, 0))
    else:
        lab = lab - np.array((LIGHTER, 0, 0))
    target = (float(np.clip(lab[0], 8, 97)), float(lab[1]), float(lab[2]))
    ramps = find_ramps(drawer, target, min(count, 5), alternatives=4, step=step)
    taken = tuple(one.code for one in old)
    return next((ramp for ramp in ramps if tuple(one.code for one in ramp.swatches) != taken), None)


def _turned(lab: np.ndarray, degrees: float) -> np.ndarray:
    angle = np.radians(degrees)
    cos, sin = np.cos(angle), np.sin(angle)
    return np.array([lab[0], cos * lab[1] - sin * lab[2], sin * lab[1] + cos * lab[2]])


def missing_for(*, actor: AbstractBaseUser, piece: Piece, wish_lab: Lab, shades: int, shade_hue: str) -> Missing | None:
    """The one pen the piece's drawer lacks for a wish."""
    require_owner(actor, piece)
    return missing_pen(drawer_of(piece.sheet(), actor).shades(), wish_lab, shades, shade_hue=shade_hue)


def counterparts(*, actor: AbstractBaseUser, piece: Piece, codes: Sequence[str], drawer: Drawer) -> list[Swatch]:
    """As many swatches from another drawer as the ramp has."""
    require_owner(actor, drawer)
    known = piece.sheet().swatches
    missing = [code for code in codes if code not in known]
    if missing:
        raise ValidationError({"codes": f"There is no swatch {missing[0]!r} on this sheet."})
    return same_number([known[code] for code in codes], drawer.shades())


def stand_ins(*, actor: AbstractBaseUser, lab: Lab) -> list[tuple[Swatch, float, Drawer]]:
    """The nearest swatches of all drawers of the actor, itself left out."""
    owners: dict[int, Drawer] = {}
    everything: list[Swatch] = []
    for drawer in Drawer.objects.owned_by(actor).prefetch_related("swatches"):
        for shade in drawer.shades():
            owners[id(shade)] = drawer
            everything.append(shade)
    return [(swatch, apart, owners[id(swatch)]) for swatch, apart in substitutes(lab, everything, 7) if apart > 0]


def palette(
    *, actor: AbstractBaseUser, piece: Piece, colours: Sequence[Lab], locked: Sequence[Lab], shades: int
) -> list[tuple[Lab, Ramp | None]]:
    """Locked colours as they are, then `colours` that are unlike those, each with its best owned ramp."""
    require_owner(actor, piece)
    drawer = drawer_of(piece.sheet(), actor).shades()
    count = max(len(colours), len(locked))
    chosen = list(locked)
    for colour in colours:
        if len(chosen) < count and all(float(difference(colour, other)) > SAME_COLOUR for other in chosen):
            chosen.append(colour)
    # Colours travel as #rrggbb: rounded before the search, they find the same ramps when they are laid.
    rounded = [hex_to_lab(lab_to_hex(lab)) for lab in chosen]
    return [(lab, next(iter(find_ramps(drawer, lab, shades, alternatives=1)), None)) for lab in rounded]


def share_out_palette(
    *, actor: AbstractBaseUser, piece: Piece, version: int, colours: Sequence[Lab], labels: Sequence[int]
) -> Piece:
    """Lay a palette over regions, body by body; no labels mean every region that is still open.

    Raises
    ------
    ValidationError
        If there is no such region or none is open.
    """
    require_owner(actor, piece)
    sheet = piece.sheet()
    open_ones = [label for label, one in sheet.regions.items() if not one.ramp and not one.left_as_paper]
    wanted = set(labels or open_ones)
    if not wanted:
        raise ValidationError({"labels": "Every region has its colours already. Take some in hand to change them."})
    unknown = wanted - sheet.regions.keys()
    if unknown:
        raise ValidationError({"labels": f"There is no region {min(unknown)}."})
    bodies = sorted({sheet.body_mates(label)[0] for label in wanted})
    place = {label: bodies.index(sheet.body_mates(label)[0]) for label in wanted}
    region_map = bench.region_map_of(piece, sheet)
    areas = [0.0] * len(bodies)
    for region in region_map.regions:
        if region.label in wanted:
            areas[place[region.label]] += region.area_mm2
    touching: dict[tuple[int, int], float] = {}
    for border in region_map.borders:
        if border.a in wanted and border.b in wanted:
            first, second = sorted((place[border.a], place[border.b]))
            pair = (first, second)
            touching[pair] = touching.get(pair, 0.0) + border.length_mm
    chosen = share_out(areas, touching, colours)
    drawer = drawer_of(sheet, actor).shades()
    ramps: dict[tuple[int, int], Ramp | None] = {}
    changed, swatches = {}, {}
    for label in sorted(wanted):
        setting, colour = sheet.regions[label], chosen[place[label]]
        key = (colour, setting.shades)
        if key not in ramps:
            ramps[key] = next(iter(find_ramps(drawer, colours[colour], setting.shades, alternatives=1)), None)
        ramp = ramps[key]
        if ramp is None:
            continue
        codes = tuple(one.code for one in ramp.swatches)
        changed[label] = replace(setting, ramp=codes, wish_lab=colours[colour], left_as_paper=False, by_hand=False)
        swatches.update({one.code: one for one in ramp.swatches})
    if not changed:
        raise ValidationError({"colours": "The drawer holds too few swatches for these shades."})
    what = f"A palette over {len(changed)} region{'' if len(changed) == 1 else 's'}"
    return keep_step(actor=actor, piece=piece, version=version, what=what, sheet=sheet.with_regions(changed, swatches))


def colours_of_photo(data: bytes, count: int) -> list[Lab]:
    return palette_of_photo(read(data, dpi=UNMEASURED_DPI).pixels, count)


def colours_of_wheel(first: Lab, kind: str, count: int) -> list[Lab]:
    return scheme(first, kind, count)


def keep_goto(*, actor: AbstractBaseUser, piece: Piece, label: int, name: str, tags: Sequence[str]) -> GoTo:
    """Save the ramp of a region under a name."""
    require_owner(actor, piece)
    sheet = piece.sheet()
    setting = sheet.regions.get(label)
    if setting is None or not setting.ramp:
        raise ValidationError({"label": "This region has no colours to save yet."})
    if GoTo.objects.owned_by(actor).count() >= MOST_GOTOS:
        raise ValidationError({"name": f"You can keep up to {MOST_GOTOS} go-tos."})
    swatches = [swatch_to_plain(sheet.swatches[code]) for code in setting.ramp]
    return GoTo.objects.create(owner=actor, name=name, medium=sheet.medium, tags=list(tags), swatches=swatches)


def lay_goto(*, actor: AbstractBaseUser, piece: Piece, version: int, goto: GoTo, labels: Sequence[int]) -> Piece:
    """Give regions the ramp of a go-to; no labels mean every region that carries one of its tags."""
    require_owner(actor, goto)
    sheet = piece.sheet()
    if goto.medium != sheet.medium:
        raise ValidationError({"goto": f"{goto.name} is made of another medium than this piece."})
    tags = set(goto.tags)
    wanted = list(labels) or [label for label, one in sheet.regions.items() if tags & set(one.tags)]
    if not wanted:
        raise ValidationError({"labels": f"No region carries a tag of {goto.name} ({', '.join(goto.tags) or 'none'})."})
    missing = [label for label in wanted if label not in sheet.regions]
    if missing:
        raise ValidationError({"labels": f"There is no region {missing[0]}."})
    swatches = {one.code: one for one in goto.as_core()}
    judge(list(swatches.values()))
    changed = {
        label: replace(
            sheet.regions[label], ramp=tuple(swatches), shades=len(swatches), left_as_paper=False, by_hand=False
        )
        for label in wanted
    }
    what = f"{goto.name} on {len(wanted)} region{'' if len(wanted) == 1 else 's'}"
    return keep_step(
        actor=actor, piece=piece, version=version, what=what[:200], sheet=sheet.with_regions(changed, swatches)
    )
