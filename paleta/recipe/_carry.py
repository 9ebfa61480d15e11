"""Carrying decisions over from one found map to another, when the regions are looked for again."""

from __future__ import annotations

from collections import Counter
from collections.abc import Mapping
from dataclasses import dataclass, replace
from typing import Any

import numpy as np
from numpy.typing import NDArray

from paleta.errors import EditError
from paleta.impression import RegionMap, apply_edits
from paleta.light import Body, guess_bodies
from paleta.recipe._region import RegionSetting
from paleta.recipe._sheet import Sheet

GROUND_OPS = ("ground", "horizon", "bands")
INSIDE = 0.8
"""A new region with this much of it inside an old one belongs to it."""
SAME = 0.5
"""A new region takes over the settings of the old one that covers at least this much of it."""


@dataclass(frozen=True, slots=True)
class CarriedOver:
    """The edits that still make sense, settings for every region of the new map after them, and what was lost."""

    edits: tuple[Mapping[str, Any], ...]
    regions: dict[int, RegionSetting]
    lost: tuple[str, ...]
    fronts: tuple[tuple[int, int], ...] = ()


def carry_over(sheet: Sheet, old: RegionMap, found: RegionMap) -> CarriedOver:
    """Fit the sheet's edits and settings, made on `old` (after its edits), to a newly found map of the same picture.

    Parameters
    ----------
    sheet
        Made on `old`.
    old
        The map the sheet's edits led to.
    found
        A map of the same picture, before any edit.
    """
    lost: list[str] = []
    # A speck that was erased comes back with the new map; it is erased again wherever it now is a region of its own.
    edits = _joins(sheet, old, found) + _splits(sheet, old, found, lost) + _erased(sheet, found)
    new, kept = found, []
    for edit in edits:
        try:
            new = apply_edits(new, [edit])
            kept.append(edit)
        except EditError:
            lost.append({"split": "a barrier", "join": "a join"}.get(edit["op"], "an erased speck"))
    new, grounds = _grounds(sheet, new, lost)
    kept += grounds
    regions, unclaimed, now = _settings(sheet, old, new)
    fronts = []
    for nearer, farther in sheet.regions.fronts:
        if nearer in now and farther in now and now[nearer] != now[farther]:
            fronts.append((now[nearer], now[farther]))
        else:
            lost.append("what stands in front")
    regions, broken = _whole_things(sheet, regions)
    return CarriedOver(tuple(kept), regions, (*lost, *unclaimed, *broken), tuple(fronts))


def _whole_things(sheet: Sheet, regions: dict[int, RegionSetting]) -> tuple[dict[int, RegionSetting], list[str]]:
    """Without things of which one region is left, and their names."""
    before, after = (Counter(one.thing for one in some.values()) for some in (sheet.regions.settings, regions))
    broken = [name for name in sorted(before) if name and before[name] > 1 >= after[name]]
    return {label: replace(one, thing="") if one.thing in broken else one for label, one in regions.items()}, broken


def first_setting(name: str, guess: Body) -> RegionSetting:
    """A region as it is first guessed.

    Parameters
    ----------
    name
        Of the region.
    guess
        Its body.
    """
    return RegionSetting(name=name, form=guess.form, depth=guess.depth, base_mm=guess.base_mm, guessed=True)


def _overlaps(old: RegionMap, new: RegionMap) -> NDArray[np.int64]:
    """Pixels that old label i and new label j share, at [i, j]."""
    rows, cols = int(old.labels.max()) + 1, int(new.labels.max()) + 1
    return np.bincount((old.labels.astype(np.int64) * cols + new.labels).ravel(), minlength=rows * cols).reshape(
        rows, cols
    )


def _joins(sheet: Sheet, old: RegionMap, found: RegionMap) -> list[Mapping[str, Any]]:
    shared = _overlaps(old, found)
    areas = np.maximum(shared.sum(axis=0), 1)
    joins = {min(edit["regions"]) for edit in sheet.regions.edits if edit["op"] == "join"}
    joined = joins & set(sheet.regions.settings)
    edits: list[Mapping[str, Any]] = []
    for label in sorted(joined):
        inside = [int(new) for new in np.flatnonzero(shared[label] >= INSIDE * areas) if new > 0]
        if len(inside) > 1:
            edits.append({"op": "join", "regions": inside})
    return edits


def _splits(sheet: Sheet, old: RegionMap, found: RegionMap, lost: list[str]) -> list[Mapping[str, Any]]:
    """Barriers go to the region that now lies under their middle; one along a border already parts two regions."""
    edits: list[Mapping[str, Any]] = []
    for edit in sheet.regions.edits:
        if edit["op"] != "split":
            continue
        line = np.asarray(edit["line"], float)
        middle = (line[len(line) // 2] + line[(len(line) - 1) // 2]) / 2 * found.px_per_mm
        row = int(np.clip(middle[1], 0, found.labels.shape[0] - 1))
        col = int(np.clip(middle[0], 0, found.labels.shape[1] - 1))
        label = int(found.labels[row, col])
        if label:
            edits.append({**edit, "region": label})
        else:
            lost.append("a barrier")
    return edits


def _grounds(sheet: Sheet, new: RegionMap, lost: list[str]) -> tuple[RegionMap, list[Mapping[str, Any]]]:
    """Grounds are taken again on the new map, under labels that are free there, and parted as before."""
    named: dict[int, int] = {}
    edits: list[Mapping[str, Any]] = []
    for edit in sheet.regions.edits:
        if edit["op"] not in GROUND_OPS or ("region" in edit and edit["region"] not in named):
            continue
        made = [edit["label"]] if "label" in edit else edit["labels"]
        first = int(new.labels.max()) + 1
        names = list(range(first, first + len(made)))
        again = {**edit, **({"label": names[0]} if "label" in edit else {"labels": names})}
        if "region" in edit:
            again["region"] = named[edit["region"]]
        try:
            new = apply_edits(new, [again])
        except EditError:
            lost.append("a ground")
            continue
        named.update(zip(made, names, strict=True))
        edits.append(again)
    return new, edits


def taken_from_paper(sheet: Sheet) -> set[int]:
    """Labels of the regions that the sheet's edits make of the paper round the figure."""
    grounds = (edit for edit in sheet.regions.edits if edit["op"] in GROUND_OPS)
    return {label for edit in grounds for label in (edit.get("label"), *edit.get("labels", ())) if label}


def _erased(sheet: Sheet, found: RegionMap) -> list[Mapping[str, Any]]:
    """Specks are known by where they were; on the new map that place must still be a small region."""
    edits: list[Mapping[str, Any]] = []
    small = {region.label: region for region in found.regions}
    for edit in sheet.regions.edits:
        if edit["op"] != "erase" or "at" not in edit:
            continue
        col, row = (round(place * found.px_per_mm) for place in edit["at"])
        if 0 <= row < found.labels.shape[0] and 0 <= col < found.labels.shape[1]:
            label = int(found.labels[row, col])
            if label in small and small[label].area_mm2 <= 2 * edit["area_mm2"]:
                edits.append({**edit, "region": label})
    return edits


def _settings(
    sheet: Sheet, old: RegionMap, new: RegionMap
) -> tuple[dict[int, RegionSetting], list[str], dict[int, int]]:
    """Settings by new label, names that found no place, and the new label of each old one."""
    shared = _overlaps(old, new)
    shared[0] = 0
    areas = np.maximum(np.bincount(new.labels.ravel(), minlength=shared.shape[1]), 1)
    guesses = {label: body for body in guess_bodies(new) for label in body.regions}
    taken: dict[int, int] = {}
    now: dict[int, int] = {}
    regions: dict[int, RegionSetting] = {}
    for region in sorted(new.regions, key=lambda one: -one.area_mm2):
        source = int(shared[:, region.label].argmax())
        if shared[source, region.label] >= SAME * areas[region.label] and source in sheet.regions.settings:
            taken[source] = taken.get(source, 0) + 1
            setting = sheet.regions.settings[source]
            if taken[source] > 1:
                setting = replace(setting, name=f"{setting.name[:54]} ({taken[source]})")
            regions[region.label] = setting
            now.setdefault(source, region.label)
        else:
            guess = guesses[region.label]
            regions[region.label] = first_setting(f"New region {region.label}", guess)
    unclaimed = [setting.name for label, setting in sheet.regions.settings.items() if label not in taken]
    return dict(sorted(regions.items())), unclaimed, now
