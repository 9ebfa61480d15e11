"""Shapes, the curves they are made of, and how a drawing of them becomes pixels or SVG.

Shapes are painted in order, each filled and outlined over what lies behind it, so every outline is closed and a
front thing hides what it covers. Lengths are mm, x right, y down.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, field, replace

import cv2
import numpy as np
from numpy.typing import ArrayLike, NDArray

Points = NDArray[np.float64]
SUBPIXEL_BITS = 4
FINE_MM = 0.1
"""Step along an outline that has gaps."""


@dataclass(frozen=True)
class Shape:
    """One outline. `colour` is what the demo's colourist wants there (#rrggbb, "" = left as paper).

    closed False draws a mere line; solid fills with ink (an eye, a seed); beside: as deep as the shape before it;
    body: shapes with the same word form one body; gaps: where the stamp leaves its outline open, as (share of the way
    round, mm); base: its tucked end.
    """

    name: str
    points: Points
    form: str = "dome"
    colour: str = ""
    shades: int = 3
    closed: bool = True
    solid: bool = False
    axis_deg: float | None = None
    beside: bool = False
    body: str = ""
    gaps: tuple[tuple[float, float], ...] = ()
    base: tuple[float, float] | None = None

    def strokes(self) -> list[Points]:
        """The lines the stamp prints of this outline: all of it, less its gaps."""
        if not self.gaps:
            return [np.concatenate([self.points, self.points[:1]]) if self.closed else self.points]
        ring = np.concatenate([self.points, self.points[:1]])
        along = np.concatenate([[0.0], np.cumsum(np.linalg.norm(np.diff(ring, axis=0), axis=1))])
        length = along[-1]
        at = np.arange(0, length, FINE_MM)
        fine = np.stack([np.interp(at, along, ring[:, axis]) for axis in (0, 1)], axis=1)
        printed = np.ones(len(at), bool)
        for where, width in self.gaps:
            off = np.abs((at - where * length + length / 2) % length - length / 2)
            printed &= off > width / 2
        if printed.all():
            return [ring]
        first = int(np.argmin(printed))  # start in a gap, so that no stroke is cut at the seam
        fine, printed = np.roll(fine, -first, axis=0), np.roll(printed, -first)
        cuts = np.flatnonzero(np.diff(printed.astype(int))) + 1
        parts = zip(np.split(fine, cuts), np.split(printed, cuts), strict=True)
        return [part for part, shown in parts if shown[0] and len(part) > 1]


@dataclass
class Drawing:
    """A whole stamp of `width_mm` x `height_mm`."""

    title: str
    width_mm: float
    height_mm: float
    line_mm: float = 0.45
    shapes: list[Shape] = field(default_factory=list)

    def add(
        self, name: str, points: ArrayLike, form: str = "dome", colour: str = "", shades: int = 3, **more: object
    ) -> None:
        self.shapes.append(Shape(name, np.asarray(points, float), form, colour, shades, **more))  # type: ignore[arg-type]

    def line(self, points: ArrayLike) -> None:
        self.shapes.append(Shape("line", np.asarray(points, float), closed=False))

    def dot(self, x: float, y: float, r: float) -> None:
        self.shapes.append(Shape("dot", ellipse(x, y, r, r), solid=True))

    def rasterise(self, dpi: float, *, whole: bool = False) -> tuple[NDArray[np.uint8], NDArray[np.int32]]:
        """Ink 0..255 (255 = full ink) H x W, and the number (from 1) of the shape seen at each pixel, 0 = paper.

        whole True prints every outline without its gaps.
        """
        scale = dpi / 25.4
        size = (round(self.height_mm * scale), round(self.width_mm * scale))
        ink, seen = np.zeros(size, np.uint8), np.zeros(size, np.int32)
        thickness = max(1, round(self.line_mm * scale))
        for number, shape in enumerate(self.shapes, start=1):
            points = np.round(shape.points * scale * 2**SUBPIXEL_BITS).astype(np.int32)
            if shape.solid:
                cv2.fillPoly(ink, [points], 255, cv2.LINE_AA, SUBPIXEL_BITS)
                continue
            if shape.closed:
                cv2.fillPoly(ink, [points], 0, cv2.LINE_AA, SUBPIXEL_BITS)
                cv2.fillPoly(seen, [points], number, cv2.LINE_8, SUBPIXEL_BITS)
            lines = replace(shape, gaps=()).strokes() if whole else shape.strokes()
            strokes = [np.round(stroke * scale * 2**SUBPIXEL_BITS).astype(np.int32) for stroke in lines]
            cv2.polylines(ink, strokes, False, 255, thickness, cv2.LINE_AA, SUBPIXEL_BITS)
        return ink, seen

    def white(self, dpi: float, turn_deg: float) -> NDArray[np.bool_]:
        """Where the drawing, turned clockwise and with its gaps closed, shows paper between its lines."""
        ink, _ = self.rasterise(dpi, whole=True)
        matrix = cv2.getRotationMatrix2D((ink.shape[1] / 2, ink.shape[0] / 2), -turn_deg, 1.0)
        turned_ink: NDArray[np.uint8] = cv2.warpAffine(ink, matrix, ink.shape[::-1])
        return turned_ink < 100

    def to_svg(self) -> str:
        """The same drawing as an SVG document."""
        rows = []
        for shape in self.shapes:
            path = "M" + "L".join(f"{x:.2f} {y:.2f}" for x, y in shape.points) + ("Z" if shape.closed else "")
            fill = "#000" if shape.solid else "#fff" if shape.closed else "none"
            line = ' stroke="none"' if shape.gaps else ""
            rows.append(f'<path d="{path}" fill="{fill}"{line}><title>{shape.name}</title></path>')
            for stroke in shape.strokes() if shape.gaps else ():
                path = "M" + "L".join(f"{x:.2f} {y:.2f}" for x, y in stroke)
                rows.append(f'<path d="{path}" fill="none"/>')
        return (
            f'<svg xmlns="http://www.w3.org/2000/svg" width="{self.width_mm}mm" height="{self.height_mm}mm" '
            f'viewBox="0 0 {self.width_mm} {self.height_mm}" stroke="#000" stroke-width="{self.line_mm}" '
            f'stroke-linejoin="round" stroke-linecap="round"><title>{self.title}</title>\n'
            + "\n".join(rows)
            + "\n</svg>\n"
        )


def ellipse(
    x: float, y: float, rx: float, ry: float, turn_deg: float = 0, start: float = 0, end: float = 360
) -> Points:
    angle = np.radians(np.linspace(start, end, 96, endpoint=end - start < 360))
    return turned(np.stack([x + rx * np.cos(angle), y + ry * np.sin(angle)], axis=1), turn_deg, (x, y))


def smooth(points: ArrayLike, closed: bool = True, steps: int = 14) -> Points:
    """A centripetal-like Catmull-Rom curve through the points."""
    p = np.asarray(points, float)
    p = np.concatenate([p[-1:], p, p[:2]]) if closed else np.concatenate([p[:1], p, p[-1:]])
    t = np.linspace(0, 1, steps, endpoint=False)[:, None]
    parts = [
        0.5 * (2 * b + (c - a) * t + (2 * a - 5 * b + 4 * c - d) * t**2 + (3 * b - a - 3 * c + d) * t**3)
        for a, b, c, d in zip(p, p[1:], p[2:], p[3:], strict=False)
    ]
    curve = np.concatenate(parts)
    return curve if closed else np.concatenate([curve, p[-1:]])


def turned(points: ArrayLike, deg: float, about: Sequence[float]) -> Points:
    """Turned clockwise on the page by `deg`."""
    c, s = np.cos(np.radians(deg)), np.sin(np.radians(deg))
    return (np.asarray(points, float) - about) @ np.array([[c, s], [-s, c]]) + about


def box(
    x: float,
    y: float,
    width: float,
    height: float,
    turn_deg: float = 0,
    about: Sequence[float] | None = None,
    taper: float = 0.0,
) -> Points:
    """A rectangle from its top left corner; `taper` draws each bottom corner in by so many mm."""
    corners = [(x, y), (x + width, y), (x + width - taper, y + height), (x + taper, y + height)]
    return turned(corners, turn_deg, about if about is not None else (x + width / 2, y + height / 2))


def leaf(x: float, y: float, length: float, width: float, deg: float, belly: float = 0.45, tip: float = 1.0) -> Points:
    """A pointed petal growing from (x, y) towards `deg` (0 up, clockwise)."""
    up = np.array(
        [
            (0, 0),
            (width * 0.36, -length * 0.18),
            (width / 2, -length * belly),
            (width * 0.3, -length * 0.8),
            (0, -length * tip),
            (-width * 0.3, -length * 0.8),
            (-width / 2, -length * belly),
            (-width * 0.36, -length * 0.18),
        ]
    )
    return turned(smooth(up) + np.array((x, y)), deg, (x, y))


def star(x: float, y: float, r: float, points: int = 5, turn_deg: float = 0) -> Points:
    angle = np.radians(np.arange(2 * points) * 180 / points - 90 + turn_deg)
    radius = np.where(np.arange(2 * points) % 2 == 0, r, r * 0.45)
    return np.stack([x + radius * np.cos(angle), y + radius * np.sin(angle)], axis=1)
