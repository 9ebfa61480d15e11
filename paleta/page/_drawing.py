"""A drawing in millimetres, y downwards, that is written as SVG or laid on a page of a PDF."""

from __future__ import annotations

import io
from collections.abc import Iterator, Sequence
from dataclasses import dataclass, field
from xml.sax.saxutils import escape, quoteattr

from reportlab.lib.colors import HexColor
from reportlab.lib.units import mm
from reportlab.lib.utils import ImageReader
from reportlab.pdfgen.canvas import Canvas

from paleta.page._fonts import BOLD, REGULAR, fitting

Point = tuple[float, float]
INK = "#1a1a1a"
SOFT = "#6a6a6a"
DEPTHS = {"through": "#d0021b", "film": "#0057d0", "score": "#12833a"}
"""Colours of lines by how deep they go: through the card, through masking film alone, a groove. One a depth, so that a
cutting machine can tell them apart; the letters beside them say the same."""


@dataclass(frozen=True, slots=True)
class Polyline:
    """A path through points; closed: back to the first one. depth: a key of DEPTHS, "" for a line only looked at."""

    points: tuple[Point, ...]
    closed: bool = False
    stroke: str = INK
    thick: float = 0.2
    fill: str = ""
    dashed: bool = False
    depth: str = ""


@dataclass(frozen=True, slots=True)
class Words:
    """Words of `size` mm; anchor: start, middle or end; turned: read from below upwards."""

    x: float
    y: float
    text: str
    size: float = 2.6
    anchor: str = "start"
    bold: bool = False
    colour: str = INK
    turned: bool = False


@dataclass(frozen=True, slots=True)
class Photo:
    """A JPEG that fills a place. SVG leaves it out: what is cut or measured needs no picture."""

    x: float
    y: float
    width: float
    height: float
    jpeg: bytes


Mark = Polyline | Words | Photo


@dataclass(frozen=True, slots=True)
class Drawing:
    title: str
    width: float
    height: float
    marks: tuple[Mark, ...] = field(default=())


def rectangle(x: float, y: float, width: float, height: float, **look: object) -> Polyline:
    """A rectangle as a mark.

    Parameters
    ----------
    x, y
        of its top left corner, in mm
    width, height
        in mm
    look
        how the mark is drawn
    """
    corners = ((x, y), (x + width, y), (x + width, y + height), (x, y + height))
    return Polyline(corners, closed=True, **look)  # type: ignore[arg-type]


def to_svg(drawing: Drawing) -> bytes:
    """At full size: one unit of the drawing is a millimetre."""
    size = f'width="{drawing.width:.2f}mm" height="{drawing.height:.2f}mm"'
    box = f'viewBox="0 0 {drawing.width:.2f} {drawing.height:.2f}"'
    head = f'<svg xmlns="http://www.w3.org/2000/svg" {size} {box}>\n<title>{escape(drawing.title)}</title>\n'
    return (head + "".join(_svg_marks(drawing.marks)) + "</svg>\n").encode()


def _svg_marks(marks: Sequence[Mark]) -> Iterator[str]:
    for mark in marks:
        if isinstance(mark, Polyline):
            path = " L".join(f"{x:.3f} {y:.3f}" for x, y in mark.points)
            name = f' class="{mark.depth}"' if mark.depth else ""
            dashes = ' stroke-dasharray="1.2 0.8"' if mark.dashed else ""
            yield (
                f'<path{name} d="M{path}{" Z" if mark.closed else ""}" fill="{mark.fill or "none"}" '
                f'stroke="{DEPTHS.get(mark.depth, mark.stroke)}" stroke-width="{mark.thick:g}"{dashes}/>\n'
            )
        elif isinstance(mark, Words):
            turn = f' transform="rotate(-90 {mark.x:.2f} {mark.y:.2f})"' if mark.turned else ""
            weight = ' font-weight="bold"' if mark.bold else ""
            yield (
                f'<text x="{mark.x:.2f}" y="{mark.y:.2f}" font-family="sans-serif" font-size="{mark.size:g}"{weight} '
                f"text-anchor={quoteattr(mark.anchor)} fill={quoteattr(mark.colour)}{turn}>{escape(mark.text)}</text>\n"
            )


def lay(page: Canvas, drawing: Drawing, left_pt: float, top_pt: float, scale: float = 1.0) -> None:
    """Lay the drawing on a page, its top left corner there; at scale 1 it has its full size.

    Parameters
    ----------
    page
        of the PDF
    drawing
        in mm
    left_pt, top_pt
        where its top left corner comes, in points from the page's lower left
    scale
        1 is full size
    """
    page.saveState()
    page.translate(left_pt, top_pt)
    page.scale(scale * mm, scale * mm)
    for mark in drawing.marks:
        if isinstance(mark, Polyline):
            _line(page, mark)
        elif isinstance(mark, Words):
            _words(page, mark)
        else:
            page.drawImage(ImageReader(io.BytesIO(mark.jpeg)), mark.x, -mark.y - mark.height, mark.width, mark.height)
    page.restoreState()


def _line(page: Canvas, line: Polyline) -> None:
    page.setStrokeColor(HexColor(DEPTHS.get(line.depth, line.stroke)))
    page.setLineWidth(line.thick)
    page.setDash([1.2, 0.8] if line.dashed else [])
    if line.fill:
        page.setFillColor(HexColor(line.fill))
    path = page.beginPath()
    (x, y), *more = line.points
    path.moveTo(x, -y)
    for x, y in more:
        path.lineTo(x, -y)
    if line.closed:
        path.close()
    page.drawPath(path, stroke=1, fill=1 if line.fill else 0)
    page.setDash([])


def _words(page: Canvas, words: Words) -> None:
    page.saveState()
    page.setFillColor(HexColor(words.colour))
    page.setFont(BOLD if words.bold else REGULAR, words.size)
    page.translate(words.x, -words.y)
    if words.turned:
        page.rotate(90)
    draw = {"start": page.drawString, "middle": page.drawCentredString, "end": page.drawRightString}[words.anchor]
    draw(0, 0, fitting(words.text))
    page.restoreState()
