"""Things for tests, made in one place with only what matters written out."""

from __future__ import annotations

import io
from collections.abc import Iterable
from dataclasses import fields
from typing import Any

import cv2
import numpy as np
from PIL import Image

from paleta.impression import RegionMap
from paleta.media import Swatch
from paleta.order import Job, Pen, Work
from paleta.recipe import PARTS, Card, Coat, Colours, Finish, Light, Order, Regions, Sheet, Stamp

PART_CLASSES = dict(zip(PARTS, (Stamp, Regions, Light, Colours, Order, Finish, Card), strict=True))


def disc(size: int, radius: float, centre: tuple[float, float] | None = None) -> np.ndarray:
    """size x size bool, True inside a circle; `centre` is (row, col)."""
    row, col = centre or (size // 2, size // 2)
    y, x = np.mgrid[:size, :size]
    return np.hypot(y - row, x - col) < radius


def region_map(labels: np.ndarray, dpi: float = 300) -> RegionMap:
    labels = labels.astype(np.int32)
    return RegionMap(labels=labels, ink=np.zeros(labels.shape, bool), dpi=dpi)


def line_drawing(width: int = 360, height: int = 300, line: int = 4) -> np.ndarray:
    """A grey H x W picture: a ball, and a dome on a box, black on white; three closed cells."""
    picture = np.full((height, width), 255, np.uint8)
    cv2.circle(picture, (90, 110), 60, 0, line, cv2.LINE_AA)
    cv2.ellipse(picture, (260, 150), (70, 90), 0, 180, 360, 0, line, cv2.LINE_AA)
    cv2.rectangle(picture, (176, 150), (344, 240), 0, line, cv2.LINE_AA)
    return picture


def as_file(picture: np.ndarray | Image.Image, kind: str = "PNG", **more: Any) -> bytes:
    image = picture if isinstance(picture, Image.Image) else Image.fromarray(picture)
    out = io.BytesIO()
    image.save(out, kind, **more)
    return out.getvalue()


def coats(*codes: str, medium: str = "marker") -> tuple[Coat, ...]:
    """The coats of a region that has one, of these swatches."""
    return (Coat(medium=medium, ramp=codes),) if codes else ()


def by_pen(swatches: Iterable[Swatch]) -> dict[Pen, Swatch]:
    """Swatches as the sheet holds them."""
    return {(one.medium, one.code): one for one in swatches}


def grey_pens(*lights: float, medium: str = "marker") -> list[Swatch]:
    return [
        Swatch(code=f"grey-{light:g}", name=f"Grey {light:g}", medium=medium, lab=(light, 0, 0)) for light in lights
    ]


def make_work(*ramps: tuple[str, ...], area_mm2: float = 40, touching: tuple[tuple[int, int], ...] = ()) -> Work:
    """One job per ramp, regions numbered from 1."""
    jobs = tuple(Job(region=i, name=f"R{i}", area_mm2=area_mm2, ramp=ramp) for i, ramp in enumerate(ramps, start=1))
    return Work(jobs=jobs, touching=Work.pairs(touching))


def make_sheet(title: str = "x", **values: Any) -> Sheet:
    """A sheet with only what matters written out: a field by its name, or a whole part by its own, as a dict."""
    parts: dict[str, dict[str, Any]] = {name: {} for name in PARTS}
    parts["stamp"]["title"] = title
    home = {one.name: part.name for part in fields(Sheet) for one in fields(PART_CLASSES[part.name])}
    for name, value in values.items():
        if name in parts:
            parts[name].update(value)
        else:
            parts[home[name]][name] = value
    return Sheet(**{name: PART_CLASSES[name](**given) for name, given in parts.items()})


def absorption_over_scattering(measured: np.ndarray) -> np.ndarray:
    """[Kubelka1931] of what lies behind the surface of [Saunderson1942], written out: k1 = 0, k2 = 0.4."""
    inner = measured / (0.6 + 0.4 * measured)
    return (1 - inner) ** 2 / (2 * inner)
