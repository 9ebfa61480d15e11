"""What users do with the regions of a piece: name, shape, edit, group, and say what stands in front."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import replace
from itertools import pairwise
from typing import Any

from django.contrib.auth.models import User
from rest_framework.exceptions import ValidationError

from paleta import light
from paleta.errors import DepthCycle
from paleta.fields import said_of
from paleta.impression import MM_PER_INCH, Front, check_edit, parts_of_split
from paleta.recipe import BODY_FIELDS, RegionSetting, Sheet
from server.derived import jobs, worker
from server.derived.maps import map_sha256, region_map
from server.files import store
from server.pieces.models import Piece
from server.pieces.quota import recount
from server.pieces.steps import keep_step

FIND_LIMIT_S = 60.0


def change_regions(
    *, actor: User, piece: Piece, version: int, labels: Sequence[int], changes: Mapping[str, Any]
) -> Piece:
    """Rename, reshape, move nearer or farther, leave as paper: the same change to every region in `labels`."""
    sheet = piece.sheet()
    settings = settings_of(sheet, labels)
    if "name" in changes and len(labels) > 1:
        raise ValidationError({"name": "Only one region can be renamed at a time."})
    shape = {key: value for key, value in changes.items() if key in BODY_FIELDS}
    if shape:
        shape["guessed"] = False
    changed = {
        mate: replace(sheet.regions.settings[mate], **shape)
        for label in labels
        for mate in sheet.regions.body_mates(label)
        if shape
    }
    for label, setting in settings.items():
        new = replace(changed.get(label, setting), **changes)
        if "shades" in changes and setting.zones != new.shades:
            new = replace(new, coats=(), accents=(), by_hand=False)
        changed[label] = new
    what = f"{words_for(settings)}: {said_of(changed[labels[0]], [*changes])}"
    return keep_step(actor=actor, piece=piece, version=version, what=what, sheet=sheet.with_regions(changed))


def find_again(*, actor: User, piece: Piece, version: int, gap_mm: float, sensitivity: float) -> Piece:
    """Look for the regions once more, with other sliders; edits and settings are carried over where they still fit."""
    sheet = piece.sheet()
    picture, packed = store.fetch(piece.impression_sha256), store.fetch(map_sha256(piece.stamping, sheet))
    asked = (picture, piece.dpi, packed, sheet, gap_mm, sensitivity)
    found, carried = worker.run(jobs.find_again, *asked, limit_s=FIND_LIMIT_S)
    again = sheet.with_part(
        "regions",
        sensitivity=sensitivity,
        gap_mm=gap_mm,
        map_sha256=store.keep(found),
        edits=carried.edits,
        fronts=carried.fronts,
        unsure=(),
        settings=carried.regions,
    ).with_regions({})
    lost = f"; no longer there: {', '.join(carried.lost)}" if carried.lost else ""
    what = f"Found {len(carried.regions)} regions with gaps up to {gap_mm:.1f} mm{lost}"
    piece = keep_step(actor=actor, piece=piece, version=version, what=what, sheet=again)
    recount(piece.pk)
    return piece


def join_regions(*, actor: User, piece: Piece, version: int, labels: Sequence[int]) -> Piece:
    """Make one region of several; the first one named keeps its settings and ramp."""
    sheet = piece.sheet()
    edit = {"op": "join", "regions": sorted(set(labels))}
    old = sheet.regions.settings
    check_edit(edit, set(old))
    settings = {label: setting for label, setting in old.items() if label not in set(labels)}
    settings[min(labels)] = old[labels[0]]
    names = [old[label].name for label in labels]
    joined = edited(sheet, edit, settings)
    what = f"Joined {' and '.join(names[:3])}{' and more' if len(names) > 3 else ''}"
    return keep_step(actor=actor, piece=piece, version=version, what=what, sheet=joined)


def erase_region(*, actor: User, piece: Piece, version: int, label: int) -> Piece:
    """A speck that was taken for a region goes to what lies around it."""
    sheet = piece.sheet()
    region = next((one for one in region_map(piece.stamping, sheet).regions if one.label == label), None)
    if region is None:
        raise ValidationError({"label": f"There is no region {label}."})
    row, col = region.anchor
    at = [round(place / piece.dpi * MM_PER_INCH, 2) for place in (col, row)]
    edit = {"op": "erase", "region": label, "at": at, "area_mm2": round(region.area_mm2, 2)}
    old = sheet.regions.settings
    check_edit(edit, set(old))
    fronts = tuple(pair for pair in sheet.regions.fronts if label not in pair)
    settings = {other: setting for other, setting in old.items() if other != label}
    erased = edited(sheet.with_part("regions", fronts=fronts), edit, settings)
    what = f"Erased {old[label].name}"
    return keep_step(actor=actor, piece=piece, version=version, what=what, sheet=erased)


def put_before(*, actor: User, piece: Piece, version: int, nearer: int, farther: int) -> Piece:
    """Say which of two regions stands in front; what was decided to stand before it moves along."""
    sheet = piece.sheet()
    settings = settings_of(sheet, [nearer, farther])
    body = sheet.regions.leads()
    if body[nearer] == body[farther]:
        raise ValidationError({"nearer": "These two are one body; neither stands before the other."})
    # A new word on the same two bodies replaces the old one.
    pair = {body[nearer], body[farther]}
    decided = [(one, other) for one, other in sheet.regions.fronts if {body.get(one), body.get(other)} != pair]
    depths = {label: sheet.regions.settings[label].depth for label in set(body.values())}
    fronts = [Front(body[one], body[other]) for one, other in decided if one in body and other in body]
    try:
        depths = light.put_before(depths, body[nearer], body[farther], fronts)
    except DepthCycle as circle:
        names = [sheet.regions.settings[label].name for label in circle.labels]
        chain = ", ".join(f"{one} before {other}" for one, other in pairwise(names))
        raise ValidationError(
            {"nearer": f"That closes a circle: you put {chain}. Turn one of these borders round first."}
        ) from circle
    changed = {
        label: replace(setting, depth=depths[body[label]], guessed=False if body[label] in pair else setting.guessed)
        for label, setting in sheet.regions.settings.items()
        if setting.depth != depths[body[label]] or body[label] in pair
    }
    what = f"{settings[nearer].name} stands before {settings[farther].name}"
    kept = sheet.with_part("regions", fronts=(*decided, (nearer, farther)))
    return keep_step(actor=actor, piece=piece, version=version, what=what, sheet=kept.with_regions(changed))


def make_body(*, actor: User, piece: Piece, version: int, labels: Sequence[int], together: bool) -> Piece:
    """Let regions form one body with the first one's form, or take each of them out of its body again."""
    sheet = piece.sheet()
    settings = settings_of(sheet, labels)
    if together and len(settings) < 2:
        raise ValidationError({"labels": "Choose at least two regions to make one body."})
    # Whoever shared a body with one of them comes along.
    mates = (
        sorted({mate for label in labels for mate in sheet.regions.body_mates(label)}) if together else list(settings)
    )
    first = settings[labels[0]]
    shape = {field: getattr(first, field) for field in BODY_FIELDS}
    body = {"body": mates[0], "guessed": False, **shape} if together else {"body": 0}
    changed = {label: replace(sheet.regions.settings[label], **body) for label in mates}
    what = f"{len(mates)} regions {'are one body' if together else 'stand alone'}"
    return keep_step(actor=actor, piece=piece, version=version, what=what, sheet=sheet.with_regions(changed))


def split_region(*, actor: User, piece: Piece, version: int, label: int, line: Sequence[Sequence[float]]) -> Piece:
    """Part one region along a barrier; the new parts start with its settings and ramp."""
    sheet = piece.sheet()
    barrier = [[round(x, 2), round(y, 2)] for x, y in line]
    edit = {"op": "split", "region": label, "line": barrier}
    check_edit(edit, set(sheet.regions.settings))
    old = sheet.regions.settings[label]
    new = parts_of_split(region_map(piece.stamping, sheet), label, barrier)
    parts = {part: replace(old, name=f"{old.name[:54]} ({number})") for number, part in enumerate(new, start=2)}
    split = edited(sheet, edit, {**sheet.regions.settings, **parts})
    what = f"Split {old.name} in {len(new) + 1}"
    return keep_step(actor=actor, piece=piece, version=version, what=what, sheet=split)


def settings_of(sheet: Sheet, labels: Sequence[int]) -> dict[int, RegionSetting]:
    """The settings of these regions; ValidationError if one is not there or none is named."""
    missing = [label for label in labels if label not in sheet.regions.settings]
    if missing or not labels:
        raise ValidationError({"labels": f"There is no region {missing[0]}." if missing else "Choose a region first."})
    return {label: sheet.regions.settings[label] for label in labels}


def words_for(settings: Mapping[int, RegionSetting]) -> str:
    """A region's name, or how many there are."""
    names = [setting.name for setting in settings.values()]
    return names[0] if len(names) == 1 else f"{len(names)} regions"


def edited(sheet: Sheet, edit: Mapping[str, Any], settings: Mapping[int, RegionSetting]) -> Sheet:
    """The sheet with one more edit of its map, and the settings of the regions after it."""
    edits = (*sheet.regions.edits, edit)
    return sheet.with_part("regions", edits=edits, settings=dict(sorted(settings.items()))).with_regions({})
