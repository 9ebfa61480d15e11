"""Line art in SVG, drawn safely: only shapes and their lines, nothing fetched, nothing run."""

from __future__ import annotations

import io
import re
from math import comb
from xml.etree.ElementTree import Element, tostring

import cv2
import numpy as np
from defusedxml import ElementTree
from defusedxml.common import DefusedXmlException
from numpy.typing import NDArray
from svgelements import SVG, Arc, Color, Path, PathSegment, Shape

from paleta.errors import ImageTooLarge, NotAnImage, ResolutionMissing
from paleta.impression.reading._impression import MM_PER_INCH, Impression

DRAWN_DPI = 300.0
LARGEST_BYTES = 4_000_000
MOST_SHAPES = 8_000
MOST_NUMBERS = 400_000
"""In all paths and outlines together, each counted as often as it is used. A traced drawing has some ten thousand."""
MOST_POINTS = 2_000_000
LONGEST_STYLE = 4_000
"""Longer style sheets are left out: they are not what a drawing's lines are made of, and slow to read."""
LARGEST_NUMBER = 1e7
NUMBER = re.compile(r"[-+]?(?:\d+\.?\d*|\.\d+)(?:[eE][-+]?\d+)?")
MEASURES = (
    "d", "points", "x", "y", "width", "height", "cx", "cy", "r", "rx", "ry", "x1", "y1", "x2", "y2", "viewBox",
    "transform", "stroke-width",
)  # fmt: skip
LARGEST_SIDE_PX = 2600
UNMEASURED_PX = 1200
CURVE_STEP_PX = 3.0
MOST_STEPS = 400
SUBPIXEL_BITS = 4
FINER = 2
"""Drawn so many times larger and then made smaller, since OpenCV knows only few widths of line."""
DEEPEST = 60
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

    Parameters
    ----------
    data
        the file
    width_mm
        on paper; None: as the drawing says
    dpi
        of a drawing that says no size, where no width is given

    Raises
    ------
    NotAnImage, ImageTooLarge, ResolutionMissing
    """
    if len(data) > LARGEST_BYTES:
        raise ImageTooLarge(f"The drawing has {len(data) / 1e6:.1f} MB; {LARGEST_BYTES / 1e6:.0f} MB are the most.")
    plain, notes, sized = _inspect(data)
    try:
        # px as CSS defines them: 96 to the inch.
        drawing = SVG.parse(io.BytesIO(plain), reify=True, ppi=96)
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


def _inspect(data: bytes) -> tuple[bytes, list[str], bool]:
    """The drawing without what is never drawn, what is to be said of it, and whether it says how large it is.

    What it would unfold to is counted before anything is unfolded: a few nested uses make millions of shapes.
    """
    try:
        root = ElementTree.fromstring(data, forbid_dtd=False, forbid_entities=True, forbid_external=True)
    except DefusedXmlException as error:
        raise NotAnImage("The SVG drawing defines entities or points outside itself; it is not opened.") from error
    except (ElementTree.ParseError, ValueError, RecursionError) as error:
        raise NotAnImage("The SVG drawing is damaged or cut short.") from error
    if not root.tag.endswith("svg"):
        raise NotAnImage("This is an XML file, but no SVG drawing.")
    left_out = {_name(element) for element in root.iter()} & set(NEVER)
    links = any(
        key.endswith("href") and not value.startswith("#") for element in root.iter() for key, value in element.items()
    )
    texts = any(_name(element) == "text" for element in root.iter())
    if _strip(root):
        left_out.add("long style sheets")
    _check_size(root)
    notes = []
    if left_out or links:
        what = ", ".join(sorted(left_out) + (["links to other files"] if links else []))
        notes.append(f"Left out of the drawing: {what}.")
    if texts:
        notes.append("Text in the drawing was left out. Turn it into paths to keep it.")
    return tostring(root), notes, root.get("width", "%")[-1:] != "%"


def _name(element: Element) -> str:
    return element.tag.rsplit("}", 1)[-1] if isinstance(element.tag, str) else ""


def _strip(root: Element) -> bool:
    """Take out what is never drawn; whether a style sheet went with it."""
    style = sum(len(element.text or "") for element in root.iter() if _name(element) == "style")
    gone = (*NEVER, "text", *(["style"] if style > LONGEST_STYLE else []))
    for parent in list(root.iter()):
        for child in list(parent):
            if _name(child) in gone or not isinstance(child.tag, str):
                parent.remove(child)
        if len(parent.get("style", "")) > LONGEST_STYLE:
            del parent.attrib["style"]
    return style > LONGEST_STYLE


def _check_size(root: Element) -> None:
    """Raise unless shapes and numbers, as often as they are used, are as many and as large as a drawing needs."""
    named = {element.get("id"): element for element in root.iter() if element.get("id")}
    known: dict[Element, tuple[int, int]] = {}

    def unfolded(element: Element, above: tuple[Element, ...]) -> tuple[int, int]:
        if element in above or len(above) > DEEPEST:
            raise NotAnImage("The SVG drawing uses a part of itself within that part; it is not opened.")
        if element not in known:
            shapes, numbers = 1, _count_numbers(element)
            used = named.get(_target(element)) if _name(element) == "use" else None
            for inner in (*element, *([used] if used is not None else [])):
                more = unfolded(inner, (*above, element))
                shapes, numbers = shapes + more[0], numbers + more[1]
                if shapes > 2 * MOST_SHAPES or numbers > MOST_NUMBERS:
                    raise ImageTooLarge("The drawing has too many shapes or points. Simplify it, or export a picture.")
            known[element] = (shapes, numbers)
        return known[element]

    unfolded(root, ())


def _target(element: Element) -> str:
    return next((value.removeprefix("#") for key, value in element.items() if key.endswith("href")), "")


def _count_numbers(element: Element) -> int:
    """How many numbers the shape is written with; none may be beyond measure."""
    count = 0
    for key in MEASURES:
        text = element.get(key, "")
        if "inf" in text.lower() or "nan" in text.lower():
            raise NotAnImage("The SVG drawing holds numbers beyond measure.")
        for number in NUMBER.findall(text):
            count += 1
            if (len(number) > 7 or "e" in number.lower()) and abs(float(number)) > LARGEST_NUMBER:
                raise NotAnImage("The SVG drawing holds numbers beyond measure.")
    return count


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
    parts: list[NDArray[np.complex128]] = []
    run: list[list[complex]] = []
    for segment in path:
        for curve in segment.as_cubic_curves() if isinstance(segment, Arc) else [segment]:
            corners = _corners(curve)
            if len(corners) == 4:
                run.append(corners)
                continue
            parts += [_along(run, scale), np.array(corners[-1:], complex)]
            run = []
    parts.append(_along(run, scale))
    places = np.concatenate(parts)
    # SVG counts from the corner of the first pixel, OpenCV from its middle.
    placed = (np.stack([places.real, places.imag], axis=1) - origin) * scale - 0.5
    return np.round(np.clip(placed, -20_000, 20_000) * 2**SUBPIXEL_BITS).astype(np.int32)


def _corners(segment: PathSegment) -> list[complex]:
    """The control polygon of a curve, as a cubic one's four corners; of a straight segment only its end."""
    if segment.end is None:
        return []
    start, end = segment.start, complex(segment.end.x, segment.end.y)
    first, second = getattr(segment, "control1", None), getattr(segment, "control2", None)
    single = getattr(segment, "control", None)
    if start is None or (first is None and single is None):
        return [end]
    begin = complex(start.x, start.y)
    if single is not None:
        # A quadratic curve is the cubic one whose controls lie two thirds of the way to its own.
        pull = complex(single.x, single.y)
        return [begin, begin + (pull - begin) * 2 / 3, end + (pull - end) * 2 / 3, end]
    return [begin, *(complex(pull.x, pull.y) for pull in (first, second) if pull is not None), end]


def _along(run: list[list[complex]], scale: float) -> NDArray[np.complex128]:
    """Places along cubic curves that follow each other, close enough together to look like them (Bernstein's form)."""
    if not run:
        return np.zeros(0, complex)
    corners = np.array(run)
    # A control polygon is never shorter than its curve, so that nothing has to be measured along the way.
    longest = float(np.abs(np.diff(corners, axis=1)).sum(axis=1).max()) * scale
    t = np.linspace(0, 1, int(np.clip(longest / CURVE_STEP_PX, 4, MOST_STEPS)) + 1)[1:]
    weights = np.stack([comb(3, k) * t**k * (1 - t) ** (3 - k) for k in range(4)])
    return np.asarray(corners @ weights, np.complex128).ravel()


def _colour(paint: Color | None) -> tuple[int, int, int] | None:
    if paint is None or paint.value is None or (paint.alpha is not None and paint.alpha < 16):
        return None
    return int(paint.red), int(paint.green), int(paint.blue)
