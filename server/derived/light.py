"""Reliefs and the light that falls on them."""

from __future__ import annotations

import hashlib

import cv2
import numpy as np
from numpy.typing import NDArray

from paleta.checks import LightDoubt, check_light
from paleta.ground import faded, length_mm
from paleta.light import (
    SCALE,
    Cover,
    Lamp,
    Relief,
    glow_light,
    illuminate,
    levels,
    printed_shading,
    relief_from_bytes,
    smaller,
    thresholds,
    zone_shares,
)
from paleta.order import Pen
from paleta.picture import accents_under, sheet_light
from paleta.recipe import Sheet, bodies_of, once_per_sheet, zoning_of
from server.derived import disk, jobs, worker
from server.derived.fingerprint import code_of
from server.derived.maps import Stamping, map_key, map_sha256, region_map
from server.derived.memory import memory
from server.files import store

LIVE_STEP = 3
"""While the lamp moves every third pixel is worked out: about as many as the screen shows of a card."""
FORMS_KEY = code_of("colour", "ground", "impression", "light", "media", "picture", "recipe")
"""Another with every change of the code that models forms and paints them, so that no old result is shown."""


def relief_key(stamping: Stamping, sheet: Sheet) -> str:
    """Names the relief of the sheet's bodies."""
    return _relief_key(sheet, stamping)


@once_per_sheet
def _relief_key(sheet: Sheet, stamping: Stamping) -> str:
    text = f"{FORMS_KEY} {map_key(stamping, sheet)} {bodies_of(sheet)}"
    return hashlib.sha256(text.encode()).hexdigest()


def relief_bytes(stamping: Stamping, sheet: Sheet) -> bytes:
    """The packed relief of the sheet's bodies."""

    def make() -> bytes:
        packed = store.fetch(map_sha256(stamping, sheet))
        return worker.run(jobs.model, packed, stamping.dpi, sheet.regions.edits, tuple(bodies_of(sheet)))

    return disk.kept("relief", relief_key(stamping, sheet), make)


def relief_of(stamping: Stamping, sheet: Sheet) -> Relief:
    key = ("relief", relief_key(stamping, sheet))
    return memory.get(key, lambda: relief_from_bytes(relief_bytes(stamping, sheet)))


def live_relief_of(stamping: Stamping, sheet: Sheet) -> Relief:
    """The relief for pictures while the lamp moves."""
    key = ("live relief", relief_key(stamping, sheet))
    return memory.get(key, lambda: smaller(relief_of(stamping, sheet), LIVE_STEP))


def light_of(
    stamping: Stamping, sheet: Sheet, *, lamp: Lamp | None = None, full_size: bool = False, live: bool = False
) -> NDArray[np.float32]:
    """The sheet's light, or that of another lamp: on every pixel, on the relief's own, or on every LIVE_STEP-th. On
    grounds their fade."""
    return sheet_light(
        sheet,
        (live_relief_of if live else relief_of)(stamping, sheet),
        lamp=lamp,
        full_size=full_size,
        printed=_printed(stamping, sheet, live),
        glowing=_glowing(stamping, sheet, live),
        grounds=_grounds_light(stamping, sheet, 1 if full_size else LIVE_STEP if live else SCALE),
    )


def _grounds_light(stamping: Stamping, sheet: Sheet, step: int) -> tuple[NDArray[np.bool_], NDArray[np.float32]] | None:
    """Where grounds lie on every `step`-th pixel, and their light there."""
    fades = sheet.regions.fades()
    if not fades:
        return None

    def make() -> tuple[NDArray[np.bool_], NDArray[np.float32]]:
        found = region_map(stamping, sheet)
        labels = found.labels[::step, ::step]
        return faded(labels, fades, px_per_mm=found.px_per_mm / step)

    return memory.get(("fades", map_key(stamping, sheet), tuple(fades.items()), step), make)


def fade_lengths(stamping: Stamping, sheet: Sheet) -> dict[int, float]:
    """How long the fade of each ground is, in mm."""
    fades = sheet.regions.fades()
    if not fades:
        return {}

    def measure() -> dict[int, float]:
        found = region_map(stamping, sheet)
        labels, px_per_mm = found.labels[::SCALE, ::SCALE], found.px_per_mm / SCALE
        return {label: length_mm(labels == label, spec, px_per_mm=px_per_mm) for label, spec in fades.items()}

    return memory.get(("fade lengths", map_key(stamping, sheet), tuple(fades.items())), measure)


def accents_of(
    stamping: Stamping, sheet: Sheet, light_levels: NDArray[np.int32], labels: NDArray[np.int32], step: int,
    lamp: Lamp | None = None,
) -> list[tuple[str, Pen, Cover]]:  # fmt: skip
    """Every accent of the sheet with its swatch and where it lies on every `step`-th pixel, in the order of laying."""
    px_per_mm = region_map(stamping, sheet).px_per_mm / step
    return accents_under(sheet, lamp or sheet.light.lamp, light_levels, labels, px_per_mm=px_per_mm)


def accent_areas_of(stamping: Stamping, sheet: Sheet) -> dict[tuple[int, str], float]:
    """How much each accent of each region covers, in mm2, under the sheet's light."""
    if not any(one.accents for one in sheet.regions.settings.values()):
        return {}
    found = region_map(stamping, sheet)
    labels = np.ascontiguousarray(found.labels[::SCALE, ::SCALE])
    steps = levels(light_of(stamping, sheet))
    mm2 = (SCALE / found.px_per_mm) ** 2
    return {
        (label, kind): round(area * mm2, 1)
        for kind, _, cover in accents_of(stamping, sheet, steps, labels, SCALE)
        for label, area in cover.areas.items()
    }


def light_doubts(stamping: Stamping, sheet: Sheet) -> list[LightDoubt]:
    """Bodies that are lit against the lamp."""
    key = ("doubts", relief_key(stamping, sheet), sheet.light.lamp, sheet.light.follow)

    def look() -> list[LightDoubt]:
        found = region_map(stamping, sheet)
        light = illuminate(
            relief_of(stamping, sheet),
            sheet.light.lamp,
            full_size=False,
            shadows=False,
            printed=_printed(stamping, sheet),
            follow=sheet.light.follow,
        )
        return check_light(
            light,
            np.ascontiguousarray(found.labels[::SCALE, ::SCALE]),
            [body for body in bodies_of(sheet) if sheet.regions.settings[body.regions[0]].fade is None],
            sheet.light.lamp,
            px_per_mm=found.px_per_mm / SCALE,
            follows_print=sheet.light.follow > 0,
        )

    return memory.get(key, look)


def shares_of(stamping: Stamping, sheet: Sheet) -> dict[int, tuple[float, ...]]:
    """How much of each region lies in each of its zones under the sheet's light."""
    zoning = zoning_of(sheet)

    def measure() -> dict[int, tuple[float, ...]]:
        labels = np.ascontiguousarray(region_map(stamping, sheet).labels[::SCALE, ::SCALE])
        steps = levels(light_of(stamping, sheet))
        return zone_shares(steps, labels, thresholds(steps, labels, zoning))

    fades = tuple(sheet.regions.fades().items())
    lit = (sheet.light.lamp, sheet.light.glows, sheet.light.shadows, sheet.light.follow, fades)
    return memory.get(("shares", relief_key(stamping, sheet), lit, repr(zoning)), measure)


def _printed(stamping: Stamping, sheet: Sheet, live: bool = False) -> NDArray[np.float32] | None:
    """The shading printed on the stamp, if the sheet follows it."""
    if not sheet.light.follow:
        return None

    def make() -> NDArray[np.float32]:
        printed = printed_shading(region_map(stamping, sheet))
        if not live:
            return printed
        rows, cols = live_relief_of(stamping, sheet).height.shape
        return cv2.resize(printed, (cols, rows), interpolation=cv2.INTER_AREA)

    return memory.get(("printed", map_key(stamping, sheet), live), make)


def _glowing(stamping: Stamping, sheet: Sheet, live: bool = False) -> NDArray[np.float32] | None:
    """The glows' light, which stays while the lamp turns."""
    glows = sheet.light.glows
    if not glows:
        return None
    relief = live_relief_of if live else relief_of
    return memory.get(
        ("glowing", relief_key(stamping, sheet), glows, live), lambda: glow_light(relief(stamping, sheet), glows)
    )
