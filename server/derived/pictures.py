"""Pictures of the bench: the views, the small one for the shelf, and the labels the page points with."""

from __future__ import annotations

import hashlib
import json
import os
import threading

import cv2
import numpy as np
from django.conf import settings
from numpy.typing import NDArray

from paleta.checks import paper_white
from paleta.colour import Lab, srgb_to_lab
from paleta.impression import read
from paleta.light import NO_ZONE, SCALE, Lamp, glow_tint, levels, zones_at
from paleta.picture import UNLIT, Canvas, compose, look_of, make_canvas
from paleta.recipe import Sheet, sheet_to_plain, zoning_of
from server.derived import disk, jobs
from server.derived.light import (
    FORMS_KEY,
    LIVE_STEP,
    light_of,
    live_relief_of,
    relief_key,
    relief_of,
)
from server.derived.maps import Stamping, map_key, region_map
from server.derived.memory import memory
from server.files import store

QUALITY, LIVE_QUALITY, SMALL_QUALITY = 92, 85, 88
"""Of JPEG. While the lamp moves, a smaller file shows sooner."""
SHELF_PX = 420
"""Width of the pictures on the shelf, as the page asks for them."""


_room = threading.BoundedSemaphore(settings.HEAVY_AT_ONCE)
"""A whole picture takes some 200 MB while it is painted: few at once, however many ask."""
_turning = threading.BoundedSemaphore(os.cpu_count() or 2)
"""Pictures of moving lamps are painted as many at once as there are processors: more would take turns within each
other, and all of them come later (a fifth, measured with eight people on two processors)."""


def picture(stamping: Stamping, sheet: Sheet, view: str, *, lamp: Lamp | None = None, live: bool = False) -> bytes:
    """JPEG of one view; `live` gives every LIVE_STEP-th pixel, fast enough to follow the lamp."""
    if live:
        # A form that is modelled first takes seconds, and the lamps of others wait for none of that.
        _canvas(stamping, sheet, LIVE_STEP)
        if view not in UNLIT:
            live_relief_of(stamping, sheet)
    with _turning if live else _room:
        return _picture(stamping, sheet, view, lamp, live)


def _picture(stamping: Stamping, sheet: Sheet, view: str, lamp: Lamp | None, live: bool) -> bytes:
    step = LIVE_STEP if live else 1
    canvas, unlit = _canvas(stamping, sheet, step), view in UNLIT
    pixels = compose(
        sheet,
        canvas,
        view,
        # The line drawing waits for no form: nothing in it is lit.
        None if unlit else light_of(stamping, sheet, lamp=lamp, full_size=not live, live=live),
        px_per_mm=region_map(stamping, sheet).px_per_mm / step,
        lamp=lamp,
        tints=() if unlit else _tints(stamping, sheet, live),
        # Thin lines that follow the light are worked out once the lamp rests.
        with_accents=not (live and lamp is not None),
        quick=live,
    )
    return jobs.jpeg(pixels, LIVE_QUALITY if live else QUALITY)


def small_picture(stamping: Stamping, sheet: Sheet, width_px: int) -> bytes:
    """A small coloured picture for the shelf."""
    text = json.dumps(sheet_to_plain(sheet), sort_keys=True)
    key = hashlib.sha256(f"{FORMS_KEY} {stamping} {width_px} {text}".encode()).hexdigest()
    return disk.kept("small", key, lambda: _small(stamping, sheet, width_px))


def paper_of(stamping: Stamping) -> Lab:
    """The paper's own colour, as the scan shows it."""

    def measure() -> Lab:
        return paper_white(read(store.fetch(stamping.impression_sha256), dpi=stamping.dpi))

    return memory.get(("paper", stamping.impression_sha256), measure)


def outline_of(stamping: Stamping, sheet: Sheet) -> Lab:
    """The colour of the line on the card: as the sheet says, or as measured."""
    if sheet.stamp.line_lab is not None:
        return sheet.stamp.line_lab
    light, a, b = srgb_to_lab(_canvas(stamping, sheet, LIVE_STEP).ink_rgb / 255)
    return float(light), float(a), float(b)


def labels_picture(stamping: Stamping, sheet: Sheet) -> bytes:
    """The label map on every second pixel as a PNG: label = red + 256 * green."""
    labels = region_map(stamping, sheet).labels[::SCALE, ::SCALE].astype(np.uint16)
    bgr = np.stack([np.zeros_like(labels), labels >> 8, labels & 255], axis=-1).astype(np.uint8)
    return cv2.imencode(".png", bgr, [cv2.IMWRITE_PNG_COMPRESSION, 4])[1].tobytes()


def map_picture(stamping: Stamping, sheet: Sheet) -> bytes:
    """The label map on every second pixel with its zones, as a PNG: label = red + 256 * green, zone = blue - 1 with 0
    the deepest; blue is 0 where there is no zone."""
    labels, zones = labels_and_zones(stamping, sheet)
    wide = labels.astype(np.uint16)
    bgr = np.stack([np.where(zones == NO_ZONE, 0, zones + 1), wide >> 8, wide & 255], axis=-1).astype(np.uint8)
    return cv2.imencode(".png", bgr, [cv2.IMWRITE_PNG_COMPRESSION, 4])[1].tobytes()


def labels_and_zones(stamping: Stamping, sheet: Sheet) -> tuple[NDArray[np.int32], NDArray[np.uint8]]:
    """Labels and zones (0 = deepest, NO_ZONE where there is none) on every second pixel."""
    labels = np.ascontiguousarray(region_map(stamping, sheet).labels[::SCALE, ::SCALE])
    return labels, zones_at(levels(light_of(stamping, sheet)), labels, zoning_of(sheet))


def _canvas(stamping: Stamping, sheet: Sheet, step: int) -> Canvas:
    settings = sheet.regions.settings
    media = {label: look_of(one.coats[-1]) for label, one in settings.items() if one.coats}
    media = {label: medium for label, medium in media.items() if medium != "marker"}

    def make() -> Canvas:
        impression = read(store.fetch(stamping.impression_sha256), dpi=stamping.dpi)
        return make_canvas(impression, region_map(stamping, sheet), step, media)

    key = ("canvas", map_key(stamping, sheet), stamping.impression_sha256, step, tuple(media.items()))
    return memory.get(key, make)


def _tints(stamping: Stamping, sheet: Sheet, live: bool) -> tuple[tuple[str, NDArray[np.float32]], ...]:
    """What glows tint, which stays while the lamp turns."""
    glows = sheet.light.glows
    if not glows:
        return ()
    relief = live_relief_of if live else relief_of
    key = ("tints", relief_key(stamping, sheet), glows, live)
    return memory.get(key, lambda: tuple(glow_tint(relief(stamping, sheet), glows, full_size=not live)))


def _small(stamping: Stamping, sheet: Sheet, width_px: int) -> bytes:
    large = cv2.imdecode(np.frombuffer(picture(stamping, sheet, "coloured", live=True), np.uint8), cv2.IMREAD_COLOR)
    assert large is not None
    height = max(1, round(large.shape[0] * width_px / large.shape[1]))
    small = cv2.resize(large, (width_px, height), interpolation=cv2.INTER_AREA)
    return cv2.imencode(".jpg", small, [cv2.IMWRITE_JPEG_QUALITY, SMALL_QUALITY])[1].tobytes()
