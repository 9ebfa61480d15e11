"""The heavy works themselves, as they run in a process of their own: only the core, no Django, no database."""

from __future__ import annotations

import base64
import contextlib
import io
import json
import os
import pickle
import resource
import signal
from collections.abc import Callable, Iterator, Mapping, Sequence
from dataclasses import dataclass, replace
from typing import Any

import cv2
import numpy as np
from numpy.typing import NDArray
from PIL import Image

from paleta.chart import Chart, Reading, read_chart
from paleta.checks import narrowest_shaded_mm, paper_like
from paleta.errors import PaletaError, ResolutionMissing, ShapeError
from paleta.impression import (
    Corners,
    Impression,
    PairScores,
    apply_edits,
    check_corners,
    find_regions,
    find_sheet,
    is_svg,
    labels_from_png,
    labels_in,
    labels_to_png,
    likeness_doubts,
    read,
    rectify,
    weigh,
)
from paleta.light import Body, guess_bodies, model_forms, relief_to_bytes
from paleta.order import Ways, Work, check_plan, make_plan, plan_region_by_region
from paleta.recipe import CarriedOver, RegionSetting, Sheet, carry_over, first_setting, plan_to_plain, proposed


class TookTooLong(PaletaError, RuntimeError):
    """The work was stopped at its limit of time."""

    code = "took_too_long"


class TookTooMuch(PaletaError, RuntimeError):
    """The work was stopped at its limit of memory, or died."""

    code = "took_too_much"


NICE = 10
"""Heavy work lets the lamp of others pass."""
ALWAYS_MB = 480
"""What a process holds before it does anything: the libraries and the compiled loops. Measured."""
SVG_LIMIT_S = 5.0
UNMEASURED_DPI, CHART_DPI = 300.0, 200.0
"""What a photo counts as until the width of the part that is kept says better."""
SMALLEST_SHARE = 0.2
"""Line art of which less than this is used is not drawn any larger for it."""
KEPT_QUALITY = 92
BAND_ROWS = 256
PREVIEW_PX = 900
PREVIEW_QUALITY = 85
RUN_PHOTO_PX = 2048
RUN_PHOTO_QUALITY = 88


def do(most_bytes: int, most_s: int, work: Callable[..., Any], values: tuple[Any, ...]) -> Any:
    """What one process does: `work`, within its memory and the processor's time."""
    os.nice(NICE)
    resource.setrlimit(resource.RLIMIT_DATA, (most_bytes, most_bytes))
    resource.setrlimit(resource.RLIMIT_CPU, (most_s, most_s + 1))  # the second is a kill that does not say why
    try:
        return work(*values)
    except MemoryError:
        os._exit(1)  # nothing more can be said: even saying it takes memory
    except Exception as error:
        raise _that_travels(error) from None


def _that_travels(error: Exception) -> Exception:
    """The error itself, or its words if it cannot be taken apart and put together again."""
    try:
        pickle.loads(pickle.dumps(error))
    except Exception:  # of any kind: what comes out of it is up to the error
        return RuntimeError(f"{type(error).__name__}: {error}")
    return error


@contextlib.contextmanager
def within(limit_s: float) -> Iterator[None]:
    """Raise TookTooLong if what is done inside takes more of the processor's time."""

    def stop(*_: object) -> None:
        raise TookTooLong("Reading this drawing takes too long. Simplify it, or export it as a picture.")

    signal.signal(signal.SIGPROF, stop)
    signal.setitimer(signal.ITIMER_PROF, limit_s)
    try:
        yield
    finally:
        signal.setitimer(signal.ITIMER_PROF, 0)


def nothing() -> None:
    """Shows that a process can be had."""


@dataclass(frozen=True, slots=True)
class NewPiece:
    """A picture that was read, and the regions found in it, guessed at. `picture` and `packed_map` are files."""

    picture: bytes
    packed_map: bytes
    height_px: int
    width_px: int
    dpi: float
    paper: str
    settings: Mapping[int, RegionSetting]
    unsure: tuple[tuple[int, ...], ...]
    warnings: tuple[str, ...]


def read_and_find(
    data: bytes,
    width_mm: float | None = None,
    dpi: float | None = None,
    gap_mm: float = 1.0,
    sensitivity: float = 0.0,
    corners: Corners | None = None,
) -> NewPiece:
    """Read a scan, lay the part between `corners` flat, find its regions and guess their forms.

    With `corners`, `width_mm` is the width of the part between them.
    """
    if corners is None:
        impression = read_within(data, dpi=dpi, width_mm=width_mm)
    else:
        check_corners(corners)
        loose = read_within(data, dpi=dpi or (UNMEASURED_DPI if width_mm else None))
        if loose.drawn and width_mm:
            loose = read_within(data, width_mm=width_mm / max(corners[1][0] - corners[0][0], SMALLEST_SHARE))
        impression = rectify(loose, corners, width_mm=width_mm)
    picture, paper, said = kept_picture(impression.pixels), paper_like(impression).code, impression.warnings
    # Regions are found on what is kept, so that the same file always gives the same map.
    kept = read(picture, dpi=impression.dpi)
    del impression  # a large scan need not be held twice
    region_map = find_regions(kept, gap_mm=gap_mm, sensitivity=sensitivity)
    narrow_mm = narrowest_shaded_mm("marker")
    small = {region.label for region in region_map.regions if 2 * region.inradius_mm < narrow_mm}
    weighed = weigh(region_map)
    settings = {}
    for number, body in enumerate(guess_bodies(region_map, weighed), start=1):
        for label in body.regions:
            guess = first_setting(f"Region {number}", body)
            settings[label] = replace(guess, shades=1) if label in small else guess
    settings, unsure = proposed(weighed, settings)
    height_px, width_px = kept.pixels.shape[:2]
    return NewPiece(
        picture=picture,
        packed_map=labels_to_png(region_map),
        height_px=height_px,
        width_px=width_px,
        dpi=kept.dpi,
        paper=paper,
        settings=settings,
        unsure=unsure,
        warnings=(*said, *likeness_doubts(kept, region_map)),
    )


def look(data: bytes) -> dict[str, Any]:
    """What a picture is like before it is kept: size, corners of a sheet in it, a small copy to drag them on."""
    try:
        impression = read_within(data)
        width_mm = round(impression.pixels.shape[1] / impression.px_per_mm, 1)
    except ResolutionMissing:
        impression, width_mm = read_within(data, dpi=UNMEASURED_DPI), None
    height, width = impression.pixels.shape[:2]
    scale = min(1.0, PREVIEW_PX / max(height, width))
    small = cv2.resize(impression.pixels, None, fx=scale, fy=scale, interpolation=cv2.INTER_AREA)
    pixels = cv2.cvtColor((np.clip(small, 0, 1) * 255 + 0.5).astype(np.uint8), cv2.COLOR_RGB2BGR)
    jpeg = cv2.imencode(".jpg", pixels, [cv2.IMWRITE_JPEG_QUALITY, PREVIEW_QUALITY])[1].tobytes()
    return {
        "width_px": width,
        "height_px": height,
        "corners": find_sheet(impression),
        "width_mm": width_mm,
        "preview": f"data:image/jpeg;base64,{base64.b64encode(jpeg).decode()}",
    }


def find_again(
    picture: bytes, dpi: float, packed_map: bytes, sheet: Sheet, gap_mm: float, sensitivity: float
) -> tuple[bytes, CarriedOver]:
    """Regions looked for once more on a kept picture, and what of the sheet still fits them."""
    found = find_regions(read(picture, dpi=dpi), gap_mm=gap_mm, sensitivity=sensitivity)
    old = apply_edits(labels_from_png(packed_map, dpi=dpi), sheet.regions.edits)
    return labels_to_png(found), carry_over(sheet, old, found)


def weigh_pairs(packed_map: bytes, dpi: float, edits: Sequence[Mapping[str, Any]]) -> PairScores:
    """How likely the regions after `edits` belong together."""
    return weigh(apply_edits(labels_from_png(packed_map, dpi=dpi), edits))


def model(packed_map: bytes, dpi: float, edits: Sequence[Mapping[str, Any]], bodies: Sequence[Body]) -> bytes:
    """The packed relief of all bodies."""
    region_map = apply_edits(labels_from_png(packed_map, dpi=dpi), edits)
    return relief_to_bytes(model_forms(region_map, bodies))


def plan(work: Work, ways: Ways, wish: str) -> bytes:
    """The plan, and the same work done region by region, as JSON of two plans."""
    by_region = plan_region_by_region(work, ways.schools, ways.paces)
    made = by_region if wish == "regions" else make_plan(work, ways.schools, ways.paces)
    faults = check_plan(work, made)
    if faults:  # A wrong order would spoil a card; better none at all.
        raise AssertionError(f"make_plan broke a rule: {faults[0].sentence}")
    return json.dumps([plan_to_plain(made), plan_to_plain(by_region)]).encode()


def check_pictures(
    picture: bytes, packed_map: bytes, size: tuple[int, int], dpi: float, edits: Sequence[Mapping[str, Any]]
) -> set[int] | None:
    """The regions of a packed map after `edits`; None if it or the picture is not of `size`.

    Sizes are read from the headers before a pixel is unpacked.
    """
    for data in (picture, packed_map):
        try:
            with Image.open(io.BytesIO(data), formats=("PNG", "JPEG")) as header:
                if header.size != (size[1], size[0]):
                    return None
        except Exception as error:  # a damaged file fails in many ways; all mean the same
            raise ShapeError("This is not a picture.") from error
    impression = read(picture, dpi=dpi)
    region_map = apply_edits(labels_from_png(packed_map, dpi=dpi), edits)
    if impression.pixels.shape[:2] != size or region_map.labels.shape != size:
        return None
    return labels_in(region_map.labels)


def check_pieces(
    pieces: Sequence[tuple[bytes, bytes, tuple[int, int], float, Sequence[Mapping[str, Any]], Sequence[int]]],
) -> int | None:
    """The place of the first piece whose picture or map does not fit; None if all do."""
    for place, (picture, packed_map, size, dpi, edits, labels) in enumerate(pieces):
        try:
            found = check_pictures(picture, packed_map, size, dpi, edits)
        except PaletaError:
            return place
        if found != set(labels):
            return place
    return None


def colours_of(data: bytes, count: int) -> list[tuple[float, float, float]]:
    """The colours that make up a photo."""
    from paleta.palette import palette_of_photo

    return palette_of_photo(read_within(data, dpi=UNMEASURED_DPI).pixels, count)


def read_chart_photo(data: bytes, chart: Chart, paper_lab: tuple[float, float, float]) -> list[Reading]:
    """What a photo of a filled swatch chart says."""
    return read_chart(read(data, dpi=CHART_DPI), chart, paper_lab=paper_lab)


def read_within(data: bytes, **size: float | None) -> Impression:
    """A drawing is text that can ask for any amount of work; a scan asks for no more than it is large."""
    with within(SVG_LIMIT_S) if is_svg(data) else contextlib.nullcontext():
        return read(data, **size)


def kept_picture(pixels: NDArray[np.float32]) -> bytes:
    """A picture as it is stored: re-encoded, so nothing of the uploaded file survives but its picture."""
    whole = np.empty(pixels.shape, np.uint8)
    for start in range(0, len(pixels), BAND_ROWS):
        whole[start : start + BAND_ROWS] = np.clip(pixels[start : start + BAND_ROWS] * 255 + 0.5, 0, 255)
    out = io.BytesIO()
    Image.fromarray(whole).save(out, "JPEG", quality=KEPT_QUALITY, subsampling=0)
    return out.getvalue()


def small_photo(data: bytes) -> bytes:
    """A photo of a card as a JPEG of its own: upright, its longer side up to RUN_PHOTO_PX, without anything but its
    pixels.

    Raises
    ------
    NotAnImage, ImageTooLarge
        If it cannot be read whole.
    """
    pixels = read(data, dpi=UNMEASURED_DPI).pixels
    height, width = pixels.shape[:2]
    scale = min(1.0, RUN_PHOTO_PX / max(height, width))
    size = (max(1, round(width * scale)), max(1, round(height * scale)))
    small = np.clip(cv2.resize(pixels, size, interpolation=cv2.INTER_AREA), 0, 1)
    return jpeg((small * 255 + 0.5).astype(np.uint8), RUN_PHOTO_QUALITY)


def jpeg(pixels: NDArray[np.uint8], quality: int) -> bytes:
    bgr = cv2.cvtColor(pixels, cv2.COLOR_RGB2BGR)
    return cv2.imencode(".jpg", bgr, [cv2.IMWRITE_JPEG_QUALITY, quality])[1].tobytes()
