"""Heavy jobs with second stampings, as they run in a process of their own."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass

import numpy as np

from paleta.errors import PaletaError
from paleta.impression import Corners, apply_edits, check_corners, labels_from_png, labels_to_png, read
from paleta.photo_check import NotTheSameStamp
from paleta.recipe import Sheet, carry_over
from paleta.restamp import Restamped, restamp
from server.derived.jobs import UNMEASURED_DPI, kept_picture, read_within

MOST_UNLIKE = 8
"""Regions that are named as unlike the first stamping."""


@dataclass(frozen=True, slots=True)
class Carried:
    """A piece carried onto another stamping: its picture and map as files, the sheet, and what no longer fits."""

    picture: bytes
    packed_map: bytes
    sheet: Sheet
    warnings: tuple[str, ...]


def carry_onto(
    data: bytes, corners: Corners | None, picture: bytes, packed_map: bytes, dpi: float, sheet: Sheet
) -> Carried | NotTheSameStamp:
    """Find the stamp of a kept `picture` in another scan or photo and carry all of its sheet over."""
    found_map = labels_from_png(packed_map, dpi=dpi)
    done = restamp(
        read_within(data, dpi=UNMEASURED_DPI),
        read(picture, dpi=dpi),
        found_map,
        corners=None if corners is None else check_corners(corners),
    )
    if isinstance(done, NotTheSameStamp):
        return done
    old = apply_edits(found_map, sheet.regions.edits)
    lost: tuple[str, ...] = ()
    try:
        whole = set(np.unique(apply_edits(done.region_map, sheet.regions.edits).labels).tolist()) - {0}
    except PaletaError:
        whole = set()
    if whole != set(sheet.regions.settings):
        carried = carry_over(sheet, old, done.region_map)
        lost = carried.lost
        sheet = sheet.with_part("regions", edits=carried.edits, settings=carried.regions, fronts=carried.fronts)
    packed = labels_to_png(done.region_map)
    sheet = sheet.with_part("regions", map_sha256="")
    return Carried(kept_picture(done.pixels), packed, sheet, tuple(_unlike(sheet, done, lost)))


def _unlike(sheet: Sheet, done: Restamped, lost: Sequence[str]) -> Iterator[str]:
    """Sentences for what this stamping has less or more of than the first."""
    names = {label: one.name for label, one in sheet.regions.settings.items()}
    for label, mm in sorted(done.missing.items(), key=lambda one: -one[1])[:MOST_UNLIKE]:
        yield f"{names.get(label, 'Beside the figure')}: about {mm:.0f} mm of its line are missing in this stamping."
    for label, mm in sorted(done.new.items(), key=lambda one: -one[1])[:MOST_UNLIKE]:
        yield f"{names.get(label, 'Beside the figure')}: about {mm:.0f} mm of line that the first stamping has not."
    if done.cut:
        yield f"Cut off in this picture: {', '.join(names.get(label, f'region {label}') for label in done.cut[:6])}."
    for what in lost:
        yield f"Could not be carried over: {what}."
