"""What users do with grounds: take the paper round the figure as one, part it, say how it is laid."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import replace
from typing import Any

from django.contrib.auth.models import User
from rest_framework.exceptions import ValidationError

from paleta.ground import WAYS, Fade, shades_for
from paleta.impression import apply_edits
from paleta.media import Swatch, seen_on
from paleta.palette import find_ramps
from paleta.recipe import Coat, RegionSetting, Sheet, taken_from_paper
from server.derived.light import fade_lengths
from server.derived.maps import region_map
from server.pieces.colours.ramps import drawer_of, pens_of
from server.pieces.models import Piece
from server.pieces.regions.services import edited, settings_of
from server.pieces.steps import keep_step

GROUND_NAME = "Background"
BEHIND_ALL = -20
MOST_STEPS = 5


def take_ground(*, actor: User, piece: Piece, version: int, margin_mm: float = 0.0) -> Piece:
    """The paper round the figure becomes a region of its own, behind everything, and fades from the top."""
    sheet = piece.sheet()
    if any(edit["op"] == "ground" for edit in sheet.regions.edits):
        raise ValidationError("The paper round the figure is a ground already.")
    label = _free_label(piece, sheet)
    edit = {"op": "ground", "label": label, "margin_mm": round(margin_mm, 2)}
    setting = RegionSetting(name=GROUND_NAME, form="ground", depth=BEHIND_ALL, role="background", fade=Fade(), shades=3)
    changed = _with(piece, sheet, edit, {label: setting})
    return keep_step(actor=actor, piece=piece, version=version, what="The paper as a ground", sheet=changed)


def leave_ground(*, actor: User, piece: Piece, version: int) -> Piece:
    """The paper round the figure is paper again."""
    sheet = piece.sheet()
    made = taken_from_paper(sheet)
    if not made:
        raise ValidationError("There is no ground to leave.")
    settings = {label: one for label, one in sheet.regions.settings.items() if label not in made}

    def speaks_of_it(edit: Mapping[str, Any]) -> bool:
        named = {edit.get("region"), edit.get("label"), *edit.get("regions", ()), *edit.get("labels", ())}
        return bool(made & named)

    edits = tuple(edit for edit in sheet.regions.edits if not speaks_of_it(edit))
    fronts = tuple(pair for pair in sheet.regions.fronts if not made & set(pair))
    kept = sheet.with_part("regions", edits=edits, settings=settings, fronts=fronts).with_regions({})
    _check(piece, kept)
    return keep_step(actor=actor, piece=piece, version=version, what="The ground is paper again", sheet=kept)


def draw_horizon(*, actor: User, piece: Piece, version: int, label: int, handles: Sequence[Sequence[float]]) -> Piece:
    """Part a ground along a smooth line through the handles; below it is a ground of its own. Drawn again on the same
    ground, the line is moved."""
    sheet = piece.sheet()
    ground = _ground_of(sheet, label)
    points = sorted([round(x, 2), round(y, 2)] for x, y in handles)
    there = next((one for one in sheet.regions.edits if one["op"] == "horizon" and one["region"] == label), None)
    if there is not None:
        edits = tuple({**one, "handles": points} if one is there else one for one in sheet.regions.edits)
        moved = sheet.with_part("regions", edits=edits)
        _check(piece, moved)
        return keep_step(actor=actor, piece=piece, version=version, what="Moved the horizon", sheet=moved)
    below = _free_label(piece, sheet)
    edit = {"op": "horizon", "region": label, "label": below, "handles": points}
    setting = replace(ground, name=_part_name(sheet, "below the line"))
    changed = _with(piece, sheet, edit, {below: setting})
    return keep_step(actor=actor, piece=piece, version=version, what="Drew a horizon", sheet=changed)


def cut_bands(
    *,
    actor: User,
    piece: Piece,
    version: int,
    label: int,
    widths_mm: Sequence[float],
    gap_mm: float = 0.0,
    from_deg: float = 0.0,
) -> Piece:
    """Cut a ground into bands of these widths, each an even ground; what lies between and beyond stays paper. They are
    taped."""
    sheet = piece.sheet()
    ground = _ground_of(sheet, label)
    first = _free_label(piece, sheet)
    labels = list(range(first, first + len(widths_mm) - 1))
    edit = {
        "op": "bands",
        "region": label,
        "labels": labels,
        "widths_mm": [round(one, 2) for one in widths_mm],
        "gap_mm": round(gap_mm, 2),
        "from_deg": from_deg,
    }
    even = replace(ground, fade=Fade(kind="even"), coats=(), accents=(), shades=1)
    parts = {one: replace(even, name=f"Band {number}") for number, one in enumerate([label, *labels], start=1)}
    changed = _with(piece, sheet, edit, parts).with_part("order", taped=True)
    what = f"{len(widths_mm)} bands"
    return keep_step(actor=actor, piece=piece, version=version, what=what, sheet=changed)


def lay_ground(*, actor: User, piece: Piece, version: int, labels: Sequence[int], way: str, wish_lab: Any) -> Piece:
    """Lay grounds in a way of the trade, with a ramp near a wished colour that has as many shades as the fade is long
    for. Several even ones, as bands are, go down one ramp from the deepest at the top: in one ink they would be one."""
    sheet = piece.sheet()
    chosen = WAYS[way]
    drawer = drawer_of(sheet, actor, chosen.medium).shades()
    lengths = fade_lengths(piece.stamping, sheet)
    changed, swatches = {}, {}
    settings = {label: _ground_of(sheet, label) for label in labels}
    even = [label for label, one in settings.items() if one.fade is not None and one.fade.kind == "even"]
    steps = _steps_for(_from_the_top(piece, sheet, even), drawer, wish_lab, sheet) if len(even) > 1 else {}
    for label, setting in settings.items():
        laid = steps.get(label) or _longest(drawer, wish_lab, shades_for(lengths[label]), sheet)
        coat = Coat(medium=chosen.medium, ramp=tuple(one.code for one in laid), school=chosen.school)
        # What a band is to look like is its own step of the ramp, not the wish for all of them.
        wish = seen_on(laid[0], sheet.stamp.paper_used) if label in steps else wish_lab
        changed[label] = replace(setting.with_coat(coat), wish_lab=wish, by_hand=False)
        swatches.update(pens_of(laid))
    what = f"{chosen.name} on {_names(changed)}"
    return keep_step(actor=actor, piece=piece, version=version, what=what, sheet=sheet.with_regions(changed, swatches))


def _longest(drawer: Sequence[Swatch], wish_lab: Any, shades: int, sheet: Sheet) -> tuple[Swatch, ...]:
    """The best ramp near a wish, of as many shades as were asked for or as the drawer has."""
    for count in range(shades, 0, -1):
        for ramp in find_ramps(drawer, wish_lab, count, alternatives=1, paper=sheet.stamp.paper_used):
            return ramp.swatches
    raise ValidationError({"way": "The drawer holds nothing that this ground could be laid with."})


def _steps_for(
    labels: Sequence[int], drawer: Sequence[Swatch], wish_lab: Any, sheet: Sheet
) -> dict[int, tuple[Swatch, ...]]:
    """One shade of a ramp for each ground, the deepest first; shades are shared where the drawer has fewer."""
    ramp = sorted(_longest(drawer, wish_lab, min(len(labels), MOST_STEPS), sheet), key=lambda one: one.lab[0])
    return {label: (ramp[place * len(ramp) // len(labels)],) for place, label in enumerate(labels)}


def _from_the_top(piece: Piece, sheet: Sheet, labels: Sequence[int]) -> list[int]:
    rows = {one.label: one.centroid[0] for one in region_map(piece.stamping, sheet).regions}
    return sorted(labels, key=lambda label: (rows.get(label, 0.0), label))


def _names(settings: Mapping[int, RegionSetting]) -> str:
    return ", ".join(one.name for one in settings.values())


def _ground_of(sheet: Sheet, label: int) -> RegionSetting:
    setting = settings_of(sheet, [label])[label]
    if setting.fade is None:
        raise ValidationError({"label": f"{setting.name} is no ground: give it a fade first."})
    return setting


def _part_name(sheet: Sheet, words: str) -> str:
    taken = {one.name for one in sheet.regions.settings.values()}
    names = (f"{GROUND_NAME}, {words}{f' {number}' if number > 1 else ''}" for number in range(1, len(taken) + 2))
    return next(name for name in names if name not in taken)


def _free_label(piece: Piece, sheet: Sheet) -> int:
    return int(region_map(piece.stamping, sheet).labels.max()) + 1


def _with(piece: Piece, sheet: Sheet, edit: Mapping[str, Any], parts: Mapping[int, RegionSetting]) -> Sheet:
    """The sheet with one more edit of its map, tried before it is kept, and the settings of what it makes."""
    apply_edits(region_map(piece.stamping, sheet), [edit])
    return edited(sheet, edit, {**sheet.regions.settings, **parts})


def _check(piece: Piece, sheet: Sheet) -> None:
    """Raise EditError if the sheet's edits do not fit its map."""
    region_map(piece.stamping, sheet)
