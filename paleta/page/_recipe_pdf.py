"""The recipe set on one page, Letter or A4; on a second one where there are too many things for that."""

from __future__ import annotations

import io
import math
from collections.abc import Callable, Iterator, Sequence

from reportlab.lib.colors import HexColor
from reportlab.lib.pagesizes import A4, LETTER
from reportlab.lib.utils import ImageReader
from reportlab.pdfgen.canvas import Canvas

from paleta.page._fonts import BOLD, REGULAR, fitting, width_of
from paleta.page._recipe import CAUTION, ONE_PAGE_THINGS, Chip, RampLine, RecipePage, said_visit

PAPERS = {"letter": LETTER, "a4": A4}
EDGE = 34.0
SCALES = (1.0, 0.94, 0.88, 0.82, 0.76, 0.7)
"""Sizes of type that are tried, of 7.6 pt; below the last the page is no longer read without a glass."""
EASY = 0.88
"""Smaller type is taken only where the picture could give no more room, and never for more things than one page is
promised to hold."""
PICTURE_HEIGHTS = (270.0, 230.0, 190.0, 155.0)
BODY, LEAD = 7.6, 1.28
INK, SOFT, RULE = HexColor("#1a1a1a"), HexColor("#5c5c5c"), HexColor("#b5b5b5")
LAMP = HexColor("#f6c945")


def recipe_pdf(page: RecipePage, line_jpeg: bytes, coloured_jpeg: bytes, *, paper: str = "letter") -> bytes:
    """The page as PDF with text that can be selected.

    Parameters
    ----------
    page
        all that stands on it
    line_jpeg, coloured_jpeg
        the drawing, and the picture as planned
    paper
        the printer's: letter or a4

    Returns
    -------
    The PDF's bytes, with text that can be selected.
    """
    pictures = ImageReader(io.BytesIO(line_jpeg)), ImageReader(io.BytesIO(coloured_jpeg))
    size = PAPERS[paper]
    many = len(page.lettered) > ONE_PAGE_THINGS
    scales = [scale for scale in SCALES if scale >= (EASY if many else SCALES[-1])]
    for height in PICTURE_HEIGHTS:
        for scale in scales:
            setter = _Setter(page, pictures, size, scale, height)
            if setter.fits_one_page() and (scale >= EASY or height == PICTURE_HEIGHTS[-1]):
                return setter.written(pages=1)
    return _Setter(page, pictures, size, scales[-1], PICTURE_HEIGHTS[1]).written(pages=2)


class _Setter:
    """Sets the page at one size of type. `y` runs downwards from the page's top; without a canvas it only measures."""

    def __init__(
        self, page: RecipePage, pictures: tuple[ImageReader, ImageReader], size: tuple[float, float], scale: float,
        picture_height: float,
    ) -> None:  # fmt: skip
        self.page = page
        self.pictures = pictures
        self.width, self.height = size
        self.body = BODY * scale
        self.lead = self.body * LEAD
        self.picture_height = picture_height
        self.canvas: Canvas | None = None
        self.y = EDGE
        self.breaks: Callable[[float], None] = lambda needed: None

    def fits_one_page(self) -> bool:
        self.y = EDGE
        self._all("")
        return self.y <= self.height - EDGE

    def written(self, *, pages: int) -> bytes:
        out = io.BytesIO()
        self.canvas = Canvas(out, pagesize=(self.width, self.height), invariant=True)
        self.canvas.setTitle(self.page.title)
        self.y = EDGE
        number = 1

        def breaks(needed: float) -> None:
            nonlocal number
            if self.y + needed > self.height - EDGE and self.canvas is not None:
                self.canvas.showPage()
                number += 1
                self.y = EDGE
                self._line(EDGE, f"{self.page.title}, page {number}", BOLD)

        self.breaks = breaks
        self._all(" – page 1 of several" if pages > 1 else "")
        self.canvas.showPage()
        self.canvas.save()
        return out.getvalue()

    def _all(self, numbered: str) -> None:
        self._head(numbered)
        self._pictures()
        self._things()
        self._ramps()
        self._values()
        self._order()
        for name, value in self.page.notes:
            self._flow([(name + ": ", BOLD), (value, REGULAR)])
        self.y += self.lead * 0.4
        self._flow([(CAUTION, REGULAR)], colour=SOFT)

    # What is set.

    def _head(self, numbered: str) -> None:
        page, top = self.page, self.y
        words = f"Recipe, version {page.version}" if page.version else "Working copy, not kept as a version yet"
        self._text(EDGE, top + 15, page.title[:60], BOLD, 17)
        self._text(EDGE, top + 27, words + numbered, REGULAR, self.body)
        right = self.width - EDGE
        light = [page.light, *([", ".join(page.glows)] if page.glows else [])]
        for number, line in enumerate(light):
            shown = fitting(line[:90])
            self._text(
                right - 44 - width_of(shown, REGULAR, self.body),
                top + 12 + self.lead * number,
                shown,
                REGULAR,
                self.body,
            )
        self._rose(right - 18, top + 16)
        self.y = top + 36
        self._rule()

    def _rose(self, x: float, y: float) -> None:
        if self.canvas is None:
            return
        angle = math.radians(self.page.azimuth_deg)
        lamp = x + 14 * math.sin(angle), self.height - y + 14 * math.cos(angle)
        self.canvas.setStrokeColor(RULE)
        self.canvas.circle(x, self.height - y, 14)
        self.canvas.setStrokeColor(INK)
        self.canvas.rect(x - 5, self.height - y - 6.5, 10, 13)
        self.canvas.line(*lamp, x + 6 * math.sin(angle), self.height - y + 6 * math.cos(angle))
        self.canvas.setFillColor(LAMP)
        self.canvas.circle(*lamp, 3.6, fill=1)

    def _pictures(self) -> None:
        top, full = self.y + 4, self.width - 2 * EDGE
        drawing, coloured = self.pictures
        shape = drawing.getSize()
        height = min(self.picture_height, full * 0.56 * shape[1] / shape[0])
        width = height * shape[0] / shape[1]
        if self.canvas is not None:
            self.canvas.drawImage(drawing, EDGE, self.height - top - height, width, height)
            self.canvas.setStrokeColor(RULE)
            self.canvas.rect(EDGE, self.height - top - height, width, height)
        for one in self.page.lettered:
            self._letter(EDGE + one.x * width, top + one.y * height, one.letter)
        left = EDGE + width + 12
        # Beside the drawing stand the picture and the facts; what they leave free is the picture's.
        facts = self.lead * (len(self.page.facts) + 3)
        seen = coloured.getSize()
        small = min(height - facts, (self.width - EDGE - left) * seen[1] / seen[0])
        if self.canvas is not None:
            self.canvas.drawImage(coloured, left, self.height - top - small, small * seen[0] / seen[1], small)
        self.y = top + small + self.lead
        for name, value in self.page.facts:
            self._flow([(name + ": ", BOLD), (value, REGULAR)], left=left)
        self.y = max(self.y, top + height) + self.lead * 0.8

    def _letter(self, x: float, y: float, letter: str) -> None:
        if self.canvas is None:
            return
        size = min(self.body, 7.0)
        wide = width_of(letter, BOLD, size)
        self.canvas.setFillColor(HexColor("#ffffff"))
        self.canvas.setStrokeColor(RULE)
        self.canvas.roundRect(x - wide / 2 - 1.2, self.height - y - size * 0.5, wide + 2.4, size, 1.6, fill=1, stroke=0)
        self._text(x - wide / 2, y + size * 0.33, letter, BOLD, size)

    def _things(self) -> None:
        parts: list[tuple[str, str]] = []
        for one in self.page.lettered:
            count = f" ({len(one.regions)})" if len(one.regions) > 1 else ""
            parts += [(f"{one.letter} ", BOLD), (f"{one.name}{count}   ", REGULAR)]
        if self.page.bare:
            parts += [("Left as paper: ", BOLD), (", ".join(self.page.bare), REGULAR)]
        self._heading("Things")
        self._flow(parts)

    def _ramps(self) -> None:
        self._heading("Ramps, palest first")
        self._columns(2, [[*self._ramp(one)] for one in self.page.ramps])

    def _ramp(self, ramp: RampLine) -> Iterator[tuple[str, str, str]]:
        yield " ".join(ramp.letters) + ":", BOLD, ""
        for number, coat in enumerate(ramp.coats):
            for pen in coat:
                chip = self.page.chip(pen)
                start = "then " if number and pen == coat[0] else ""
                yield start + chip.name + (" ·" if pen != coat[-1] else ""), REGULAR, chip.hex

    def _values(self) -> None:
        self._heading("Swatches as measured: L* a* b*, D65")
        self._columns(4, [[*self._value(one)] for one in self.page.chips])

    def _value(self, chip: Chip) -> Iterator[tuple[str, str, str]]:
        yield chip.name, REGULAR, chip.hex
        yield " ".join(f"{value:.1f}" for value in chip.lab), BOLD, ""

    def _order(self) -> None:
        self._heading("Order (B2: second swatch of B; +: while the one before is wet)")
        parts: list[tuple[str, str]] = []
        for visit in self.page.visits:
            numbers, rest = said_visit(self.page, visit).split(" ", 1)
            name, stops = rest.split(": ", 1)
            parts += [(f"{numbers} ", REGULAR), (f"{name}: ", BOLD), (f"{stops}; ", REGULAR)]
        self._flow(parts)

    # How it is set.

    def _text(self, x: float, y: float, text: str, font: str, size: float) -> None:
        if self.canvas is None:
            return
        self.canvas.setFillColor(INK)
        self.canvas.setFont(font, size)
        self.canvas.drawString(x, self.height - y, fitting(text))

    def _line(self, x: float, text: str, font: str) -> None:
        self.y += self.lead
        self._text(x, self.y, text, font, self.body)

    def _heading(self, text: str) -> None:
        self.breaks(3 * self.lead)
        self.y += self.lead * 0.5
        self._rule()
        self._line(EDGE, text, BOLD)
        self.y += self.lead * 0.15

    def _rule(self) -> None:
        if self.canvas is not None:
            self.canvas.setStrokeColor(RULE)
            self.canvas.setLineWidth(0.5)
            self.canvas.line(EDGE, self.height - self.y, self.width - EDGE, self.height - self.y)

    def _flow(self, parts: Sequence[tuple[str, str]], *, left: float = EDGE, colour: HexColor = INK) -> None:
        """Words one after the other in their faces, broken into lines between them."""
        words = [(word, font) for text, font in parts for word in text.split(" ") if word]
        x, line = left, list[tuple[float, str, str]]()
        for word, font in words:
            shown = fitting(word)
            wide = width_of(shown, font, self.body)
            if x + wide > self.width - EDGE and line:
                self._set(line, colour)
                x, line = left, []
            line.append((x, shown, font))
            x += wide + width_of(" ", font, self.body)
        self._set(line, colour)

    def _set(self, line: Sequence[tuple[float, str, str]], colour: HexColor) -> None:
        self.breaks(self.lead)
        self.y += self.lead
        if self.canvas is None:
            return
        self.canvas.setFillColor(colour)
        # Words of one face go as one piece of text, so that they are copied as they are read.
        pieces: list[tuple[float, str, str]] = []
        for x, word, font in line:
            if pieces and pieces[-1][2] == font:
                pieces[-1] = (pieces[-1][0], f"{pieces[-1][1]} {word}", font)
            else:
                pieces.append((x, word, font))
        for x, text, font in pieces:
            self.canvas.setFont(font, self.body)
            self.canvas.drawString(x, self.height - self.y, text)

    def _columns(self, count: int, entries: Sequence[Sequence[tuple[str, str, str]]]) -> None:
        """Entries of words with chips before them, filling one column after the other evenly."""
        gap = 10.0
        width = (self.width - 2 * EDGE - gap * (count - 1)) / count
        lines = [self._broken(entry, width) for entry in entries]
        total = sum(len(one) for one in lines)
        per_column = math.ceil(total / count)
        self.breaks(per_column * self.lead)
        top, deepest, column, row = self.y, self.y, 0, 0
        for entry in lines:
            if row + len(entry) > max(per_column, len(entry)) and column < count - 1:
                column, row = column + 1, 0
            for line in entry:
                row += 1
                self._chips(EDGE + column * (width + gap), top + row * self.lead, line)
            deepest = max(deepest, top + row * self.lead)
        self.y = deepest

    def _broken(self, entry: Sequence[tuple[str, str, str]], width: float) -> list[list[tuple[float, str, str, str]]]:
        chip, space = self.body * 1.05, self.body * 0.35
        lines: list[list[tuple[float, str, str, str]]] = [[]]
        x = 0.0
        for text, font, colour in entry:
            shown = fitting(text)
            wide = width_of(shown, font, self.body) + (chip if colour else 0.0)
            if x + wide > width and lines[-1]:
                lines.append([])
                x = self.body
            lines[-1].append((x, shown, font, colour))
            x += wide + space
        return lines

    def _chips(self, left: float, y: float, line: Sequence[tuple[float, str, str, str]]) -> None:
        if self.canvas is None:
            return
        side = self.body * 0.85
        for x, text, font, colour in line:
            start = left + x
            if colour:
                self.canvas.setFillColor(HexColor(colour))
                self.canvas.setStrokeColor(RULE)
                self.canvas.setLineWidth(0.4)
                self.canvas.rect(start, self.height - y - side * 0.12, side, side, fill=1)
                start += self.body * 1.05
            self._text(start, y, text, font, self.body)
