"""What the bench shows of a sheet: map, relief, plan, picture. Nothing is stored; slow parts are remembered."""

from __future__ import annotations

import hashlib
import io
import json
import threading
from collections import OrderedDict
from collections.abc import Callable, Hashable
from dataclasses import asdict
from typing import Any, TypeVar

import cv2
import numpy as np
from numpy.typing import NDArray

from paleta.checks import LightDoubt, check_light
from paleta.impression import Impression, RegionMap, apply_edits, labels_from_png, read
from paleta.light import (
    SCALE,
    Lamp,
    Relief,
    glow_light,
    glow_tint,
    illuminate,
    levels,
    model_forms,
    printed_shading,
    relief_from_bytes,
    relief_to_bytes,
    reserved_zones,
    thresholds,
    zone_shares,
)
from paleta.order import Batch, Pace, Plan, School, Work, batch, check_plan, make_plan, plan_region_by_region
from paleta.picture import Canvas, looks_of, make_canvas, paint
from paleta.recipe import Sheet, bodies_of, work_of, zoning_of
from server.pieces import files
from server.pieces.cache import DiskCache
from server.pieces.models import Piece
from server.pieces.sheets import sheet_sha256
from server.runs.services import pace_of

Value = TypeVar("Value")
JPEG_QUALITY = 92
LIVE_QUALITY = 85
"""While the lamp moves, a smaller file shows sooner."""


class Memory:
    """The last few results by key. Two requests for the same key do the work once."""

    def __init__(self, size: int) -> None:
        self._size, self._kept, self._guard = size, OrderedDict[Hashable, object](), threading.Lock()
        self._busy: dict[Hashable, threading.Lock] = {}

    def get(self, key: Hashable, make: Callable[[], Value]) -> Value:
        with self._guard:
            if key in self._kept:
                self._kept.move_to_end(key)
                return self._kept[key]  # type: ignore[return-value]
            busy = self._busy.setdefault(key, threading.Lock())
        with busy:
            with self._guard:
                if key in self._kept:
                    return self._kept[key]  # type: ignore[return-value]
            value = make()
            with self._guard:
                self._kept[key] = value
                self._busy.pop(key, None)
                while len(self._kept) > self._size:
                    self._kept.popitem(last=False)
            return value


_impressions, _maps, _reliefs, _canvases = Memory(4), Memory(12), Memory(12), Memory(12)
_shares, _plans, _printed, _glowing, _doubts = Memory(64), Memory(64), Memory(8), Memory(8), Memory(64)

_relief_files, _small_files = DiskCache("reliefs", 200), DiskCache("shelf", 2000)
RELIEF_KEY = "4"
"""To be raised when the modelling of forms or the painting changes, so that no old result is shown."""


def impression_of(piece: Piece) -> Impression:
    return _impressions.get(piece.impression_sha256, lambda: read(files.fetch(piece.impression_sha256), dpi=piece.dpi))


def found_map(piece: Piece, sheet: Sheet) -> RegionMap:
    """The map as it was found, before any edit."""
    name = map_sha256(piece, sheet)
    return _maps.get(name, lambda: labels_from_png(files.fetch(name), dpi=piece.dpi))


def map_sha256(piece: Piece, sheet: Sheet) -> str:
    """Which packed map the sheet stands on: one found again, or the one the piece came with."""
    return sheet.regions_sha256 or piece.regions_sha256


def region_map_of(piece: Piece, sheet: Sheet) -> RegionMap:
    """The map after the sheet's edits."""
    if not sheet.edits:
        return found_map(piece, sheet)
    return _maps.get(_map_key(piece, sheet), lambda: apply_edits(found_map(piece, sheet), sheet.edits))


def relief_of(piece: Piece, sheet: Sheet) -> Relief:
    bodies = tuple(bodies_of(sheet))
    key = f"{RELIEF_KEY} {_map_key(piece, sheet)} {bodies}"

    def make() -> bytes:
        return relief_to_bytes(model_forms(region_map_of(piece, sheet), bodies))

    return _reliefs.get(key, lambda: relief_from_bytes(_relief_files.get(key, make)))


def printed_of(piece: Piece, sheet: Sheet) -> NDArray[np.float32] | None:
    """The shading printed on the stamp, if the sheet follows it."""
    if not sheet.follow:
        return None
    return _printed.get(_map_key(piece, sheet), lambda: printed_shading(region_map_of(piece, sheet)))


def light_of(piece: Piece, sheet: Sheet, *, lamp: Lamp | None = None, full_size: bool = False) -> NDArray[np.float32]:
    """The sheet's light, or that of another lamp."""
    return illuminate(
        relief_of(piece, sheet),
        lamp or sheet.lamp,
        sheet.glows,
        px_per_mm=region_map_of(piece, sheet).px_per_mm,
        full_size=full_size,
        shadows=sheet.shadows,
        printed=printed_of(piece, sheet),
        follow=sheet.follow,
        glowing=_glowing_of(piece, sheet),
    )


def _glowing_of(piece: Piece, sheet: Sheet) -> NDArray[np.float32] | None:
    """The glows' light, which stays while the lamp turns."""
    if not sheet.glows:
        return None
    key = (_map_key(piece, sheet), tuple(bodies_of(sheet)), sheet.glows)
    px_per_mm = region_map_of(piece, sheet).px_per_mm
    return _glowing.get(key, lambda: glow_light(relief_of(piece, sheet), sheet.glows, px_per_mm=px_per_mm))


def light_doubts(piece: Piece, sheet: Sheet) -> list[LightDoubt]:
    """Bodies that are lit against the lamp."""
    bodies = bodies_of(sheet)
    region_map = region_map_of(piece, sheet)

    def look() -> list[LightDoubt]:
        light = illuminate(
            relief_of(piece, sheet),
            sheet.lamp,
            full_size=False,
            shadows=False,
            printed=printed_of(piece, sheet),
            follow=sheet.follow,
        )
        labels = np.ascontiguousarray(region_map.labels[::SCALE, ::SCALE])
        return check_light(
            light,
            labels,
            bodies,
            sheet.lamp,
            px_per_mm=region_map.px_per_mm / SCALE,
            follows_print=sheet.follow > 0,
        )

    return _doubts.get((_map_key(piece, sheet), tuple(bodies), sheet.lamp, sheet.follow), look)


def shares_of(piece: Piece, sheet: Sheet) -> dict[int, tuple[float, ...]]:
    """How much of each region lies in each of its zones under the sheet's light."""
    zoning = zoning_of(sheet)

    def measure() -> dict[int, tuple[float, ...]]:
        region_map = region_map_of(piece, sheet)
        light = light_of(piece, sheet)
        labels = np.ascontiguousarray(region_map.labels[::SCALE, ::SCALE])
        return zone_shares(levels(light), labels, thresholds(levels(light), labels, zoning))

    bodies = tuple(bodies_of(sheet))
    lit = (sheet.lamp, sheet.glows, sheet.shadows, sheet.follow)
    return _shares.get((_map_key(piece, sheet), bodies, lit, repr(zoning)), measure)


def plans_of(piece: Piece, sheet: Sheet) -> tuple[Plan, Plan]:
    """The plan, and the same work done region by region."""
    work, school = work_of(sheet, region_map_of(piece, sheet), shares_of(piece, sheet)), sheet.school_used
    pace, _ = pace_of(piece.owner_id, school.medium)
    return _plans.get((work, school, pace, sheet.order_wish), lambda: _make_plans(work, school, pace, sheet.order_wish))


def batch_of(piece: Piece, sheet: Sheet, copies: int) -> Batch:
    """The plan worked on several cards at once."""
    work = work_of(sheet, region_map_of(piece, sheet), shares_of(piece, sheet))
    return batch(work, plans_of(piece, sheet)[0], pace_of(piece.owner_id, sheet.school_used.medium)[0], copies)


def _make_plans(work: Work, school: School, pace: Pace, wish: str) -> tuple[Plan, Plan]:
    by_region = plan_region_by_region(work, school, pace)
    plan = by_region if wish == "regions" else make_plan(work, school, pace)
    faults = check_plan(work, plan)
    if faults:  # A wrong order would spoil a card; better none at all.
        raise AssertionError(f"make_plan broke a rule: {faults[0].sentence}")
    return plan, by_region


def picture(piece: Piece, sheet: Sheet, view: str, *, lamp: Lamp | None = None, live: bool = False) -> bytes:
    """JPEG of one view; `live` gives every second pixel, fast enough to follow the lamp."""
    step = SCALE if live else 1
    region_map = region_map_of(piece, sheet)
    canvas: Canvas = _canvases.get(
        (_map_key(piece, sheet), piece.impression_sha256, step, sheet.medium),
        lambda: make_canvas(impression_of(piece), region_map, step, sheet.medium),
    )
    if view in ("line", "ink", "regions"):
        light_levels, starts = np.zeros(canvas.labels.shape, np.int32), {}
    else:
        light_levels = levels(light_of(piece, sheet, lamp=lamp, full_size=not live))
        starts = thresholds(light_levels, canvas.labels, zoning_of(sheet))
    pixels = paint(
        canvas,
        view,
        light_levels=light_levels,
        looks=looks_of(sheet, sheet.school_used),
        thresholds=starts,
        paper_lab=sheet.paper_used.lab,
        medium=sheet.medium,
        **_glow_parts(piece, sheet, canvas, step),
    )
    quality = LIVE_QUALITY if live else JPEG_QUALITY
    return cv2.imencode(".jpg", cv2.cvtColor(pixels, cv2.COLOR_RGB2BGR), [cv2.IMWRITE_JPEG_QUALITY, quality])[
        1
    ].tobytes()


def _glow_parts(piece: Piece, sheet: Sheet, canvas: Canvas, step: int) -> dict[str, Any]:
    px_per_mm = region_map_of(piece, sheet).px_per_mm
    tints = ()
    if any(glow.tint for glow in sheet.glows):
        tints = tuple(glow_tint(relief_of(piece, sheet), sheet.glows, px_per_mm=px_per_mm, full_size=step == 1))
    return {"tints": tints, "bare": reserved_zones(canvas.labels.shape, sheet.glows, px_per_mm=px_per_mm / step)}


SHELF_PX = 420
"""Width of the pictures on the shelf, as the page asks for them."""


def small_picture(piece: Piece, sheet: Sheet, width_px: int) -> bytes:
    """A small coloured picture for the shelf."""
    key = f"{RELIEF_KEY} {piece.regions_sha256} {sheet_sha256(sheet)} {width_px}"
    return _small_files.get(key, lambda: _make_small(piece, sheet, width_px))


def _make_small(piece: Piece, sheet: Sheet, width_px: int) -> bytes:
    large = cv2.imdecode(np.frombuffer(picture(piece, sheet, "coloured", live=True), np.uint8), cv2.IMREAD_COLOR)
    height = max(1, round(large.shape[0] * width_px / large.shape[1]))
    small = cv2.resize(large, (width_px, height), interpolation=cv2.INTER_AREA)
    return cv2.imencode(".jpg", small, [cv2.IMWRITE_JPEG_QUALITY, 88])[1].tobytes()


def labels_picture(piece: Piece, sheet: Sheet) -> bytes:
    """The label map on every second pixel as a PNG: label = red + 256 * green."""
    labels = region_map_of(piece, sheet).labels[::SCALE, ::SCALE].astype(np.uint16)
    bgr = np.stack([np.zeros_like(labels), labels >> 8, labels & 255], axis=-1).astype(np.uint8)
    return cv2.imencode(".png", bgr, [cv2.IMWRITE_PNG_COMPRESSION, 4])[1].tobytes()


def kept_jpeg(impression: Impression) -> bytes:
    """The impression as it is stored: re-encoded, so nothing of the uploaded file survives but its picture."""
    from PIL import Image

    out = io.BytesIO()
    pixels = np.clip(impression.pixels * 255 + 0.5, 0, 255).astype(np.uint8)
    Image.fromarray(pixels).save(out, "JPEG", quality=JPEG_QUALITY, subsampling=0)
    return out.getvalue()


def _map_key(piece: Piece, sheet: Sheet) -> str:
    edits = json.dumps([dict(edit) for edit in sheet.edits], sort_keys=True)
    return hashlib.sha256(f"{map_sha256(piece, sheet)}{edits}".encode()).hexdigest()


def lamp_as_plain(lamp: Lamp) -> dict[str, float | str]:
    return {**asdict(lamp), "clock": lamp.clock}
