"""What users do with the regions of a piece: name, shape, edit, group, and say what stands in front."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import replace
from itertools import pairwise
from typing import Any

from django.contrib.auth.models import AbstractBaseUser
from rest_framework.exceptions import ValidationError

from paleta.colour import plain_name
from paleta.errors import DepthCycle
from paleta.impression import MM_PER_INCH, check_edit, find_regions, labels_to_png, parts_of_split
from paleta.light import Front, bring_before
from paleta.recipe import carry_over
from server.pieces import bench, files
from server.pieces.models import Piece
from server.pieces.services import settings_of, words_for
from server.pieces.steps import keep_step

BODY_FIELDS = ("form", "bulge", "axis_deg", "depth", "base_mm", "turn_deg")
"""What belongs to a whole body; changed on one of its regions it changes on all."""


def change_regions(
    *, actor: AbstractBaseUser, piece: Piece, version: int, labels: Sequence[int], changes: Mapping[str, Any]
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
        mate: replace(sheet.regions[mate], **shape) for label in labels for mate in sheet.body_mates(label) if shape
    }
    for label, setting in settings.items():
        new = replace(changed.get(label, setting), **changes)
        if "shades" in changes and len(setting.ramp) != new.shades:
            new = replace(new, ramp=(), by_hand=False)
        changed[label] = new
    what = f"{words_for(settings)}: {_in_words(changes)}"
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
    settings = settings_of(sheet, [nearer, farther])
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
    settings = settings_of(sheet, labels)
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
