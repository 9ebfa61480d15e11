"""Line art in SVG, drawn safely: only shapes and their lines, nothing fetched, nothing run."""

from __future__ import annotations

import io

import cv2
import numpy as np
from defusedxml import ElementTree
from defusedxml.common import DefusedXmlException
from numpy.typing import NDArray
from svgelements import SVG, Color, Path, Shape

from paleta.errors import ImageTooLarge, NotAnImage, ResolutionMissing
from paleta.impression._impression import MM_PER_INCH, Impression

DRAWN_DPI = 300.0
LARGEST_BYTES = 4_000_000
MOST_SHAPES = 20_000
MOST_POINTS = 2_000_000
LARGEST_SIDE_PX = 2600
UNMEASURED_PX = 1200
CURVE_STEP_PX = 1.5
SUBPIXEL_BITS = 4
FINER = 2
"""Drawn so many times larger and then made smaller, since OpenCV knows only few widths of line."""
LINES_ONLY_MM = 0.35
"""Shapes without a stroke or a fill are drawn with a line this wide, so that nothing is lost."""
NEVER = ("script", "foreignObject", "image", "iframe", "video", "audio", "set", "animate", "animateTransform")


def is_svg(data: bytes) -> bool:
    head = data[:2000].lstrip(b"\xef\xbb\xbf \t\r\n").lower()
    return head.startswith((b"<?xml", b"<svg", b"<!--")) and b"<svg" in data[:20_000].lower()


def read_svg(data: bytes, *, width_mm: float | None = None, dpi: float | None = None) -> Impression:
    """Draw SVG line art at 300 dpi (less if it would be larger than 2,600 px).

    A drawing that says no size of its own is drawn to `width_mm`, or UNMEASURED_PX wide as if that had `dpi`.

    Shapes are painted in order: filled ones cover what lies behind, as an outline stamp's drawing does. Scripts,
    pictures and references to other files are left out and said so.

    Raises
    ------
    NotAnImage, ImageTooLarge, ResolutionMissing
    """
    if len(data) > LARGEST_BYTES:
        raise ImageTooLarge(f"The drawing has {len(data) / 1e6:.1f} MB; {LARGEST_BYTES / 1e6:.0f} MB are the most.")
    notes, sized = _inspect(data)
    try:
        # px as CSS defines them: 96 to the inch.
        drawing = SVG.parse(io.BytesIO(data), reify=True, ppi=96)
        shapes = [element for element in drawing.elements() if isinstance(element, Shape)]
    except Exception as error:  # the parser's failures are of many kinds; all mean the same to the user
        raise NotAnImage("The SVG drawing could not be read. Save it again as plain SVG with paths.") from error
    if not shapes:
        raise NotAnImage("The SVG drawing holds no lines or shapes.")
    if len(shapes) > MOST_SHAPES:
        raise ImageTooLarge(f"The drawing has {len(shapes):,} shapes; {MOST_SHAPES:,} are the most.")
    if not sized and width_mm is None:
        if dpi is None:
            raise ResolutionMissing(
                "The drawing does not say how large it is. Give the width it has on paper in inches or centimetres."
            )
        width_mm = UNMEASURED_PX / dpi * MM_PER_INCH
    width, height, left, top = _page(drawing, shapes)
    wide_mm = width_mm or width / 96 * MM_PER_INCH
    scale = min(wide_mm / MM_PER_INCH * DRAWN_DPI / width, LARGEST_SIDE_PX / max(width, height))
    size = (max(40, round(height * scale)), max(40, round(width * scale)))
    large = np.full((FINER * size[0], FINER * size[1], 3), 255, np.uint8)
    points = 0
    for shape in shapes:
        points += _draw(large, shape, FINER * scale, (left, top), FINER * scale * width / wide_mm)
        if points > MOST_POINTS:
            raise ImageTooLarge("The drawing has too many points. Simplify it, or export it as a picture.")
    picture = cv2.resize(large, size[::-1], interpolation=cv2.INTER_AREA)
    return Impression(
        pixels=picture.astype(np.float32) / 255.0,
        dpi=size[1] / wide_mm * MM_PER_INCH,
        warnings=tuple(notes),
        drawn=True,
    )


def _inspect(data: bytes) -> tuple[list[str], bool]:
    """What is to be said of the drawing, and whether it says how large it is."""
    try:
        root = ElementTree.fromstring(data, forbid_dtd=False, forbid_entities=True, forbid_external=True)
    except DefusedXmlException as error:
        raise NotAnImage("The SVG drawing defines entities or points outside itself; it is not opened.") from error
    except ElementTree.ParseError as error:
        raise NotAnImage("The SVG drawing is damaged or cut short.") from error
    if not root.tag.endswith("svg"):
        raise NotAnImage("This is an XML file, but no SVG drawing.")
    names = [element.tag.rsplit("}", 1)[-1] for element in root.iter() if isinstance(element.tag, str)]
    left_out = sorted({name for name in names if name in NEVER})
    links = any(
        key.endswith("href") and not value.startswith("#") for element in root.iter() for key, value in element.items()
    )
    notes = []
    if left_out or links:
        what = ", ".join(left_out + (["links to other files"] if links else []))
        notes.append(f"Left out of the drawing: {what}.")
    if "text" in names:
        notes.append("Text in the drawing was left out. Turn it into paths to keep it.")
    return notes, root.get("width", "%")[-1:] != "%"


def _page(drawing: SVG, shapes: list[Shape]) -> tuple[float, float, float, float]:
    width, height = float(drawing.width or 0), float(drawing.height or 0)
    if width > 1 and height > 1 and np.isfinite([width, height]).all():
        return width, height, 0.0, 0.0
    boxes = np.array([box for box in (shape.bbox() for shape in shapes) if box is not None], float)
    if not len(boxes):
        raise NotAnImage("The SVG drawing holds no lines or shapes.")
    left, top = (float(edge) for edge in boxes[:, :2].min(axis=0))
    right, bottom = (float(edge) for edge in boxes[:, 2:].max(axis=0))
    room = 0.04 * max(right - left, bottom - top, 1)
    return right - left + 2 * room, bottom - top + 2 * room, left - room, top - room


def _draw(picture: NDArray[np.uint8], shape: Shape, scale: float, origin: tuple[float, float], px_per_mm: float) -> int:
    # Turned rectangles and ellipses carry their transformation with them until they are made plain paths.
    outline = abs(Path(shape))
    parts = [part for part in (_flatten(Path(sub), scale, origin) for sub in outline.as_subpaths()) if len(part) > 1]
    if not parts:
        return 0
    fill, stroke = _colour(shape.fill), _colour(shape.stroke)
    width = float(outline.stroke_width or 0) * scale if stroke else 0.0
    if fill:
        cv2.fillPoly(picture, parts, fill, cv2.LINE_AA, SUBPIXEL_BITS)
    if stroke or not fill:
        thick = _thickness(width or LINES_ONLY_MM * px_per_mm)
        cv2.polylines(picture, parts, False, stroke or (0, 0, 0), thick, cv2.LINE_AA, SUBPIXEL_BITS)
    return sum(len(part) for part in parts)


def _thickness(width_px: float) -> int:
    """The thickness to ask OpenCV for: between pixels it draws even ones 1.4 px wider, odd ones as the next even (seen
    with OpenCV 5, and tested)."""
    return max(1, 2 * round((width_px - 1.4) / 2))


def _flatten(path: Path, scale: float, origin: tuple[float, float]) -> NDArray[np.int32]:
    points: list[tuple[float, float]] = []
    for segment in path:
        start, end = segment.start, segment.end
        if end is None:
            continue
        name = type(segment).__name__
        if name == "Move" or start is None or name in ("Line", "Close"):
            points.append((end.x, end.y))
        else:
            reach = float(np.hypot(end.x - start.x, end.y - start.y)) * scale
            steps = int(np.clip(segment.length(error=1e-2) * scale / CURVE_STEP_PX, max(4, reach / 8), 400))
            points += [(p.x, p.y) for p in (segment.point(t) for t in np.linspace(0, 1, steps + 1)[1:])]
    # SVG counts from the corner of the first pixel, OpenCV from its middle.
    placed = (np.array(points, float).reshape(-1, 2) - origin) * scale - 0.5
    return np.round(np.clip(placed, -20_000, 20_000) * 2**SUBPIXEL_BITS).astype(np.int32)


def _colour(paint: Color | None) -> tuple[int, int, int] | None:
    if paint is None or paint.value is None or (paint.alpha is not None and paint.alpha < 16):
        return None
    return int(paint.red), int(paint.green), int(paint.blue)
