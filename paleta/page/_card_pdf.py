"""The card on paper: drawings with measures, cutting plan, order of making, and the lines to cut at full size."""

from __future__ import annotations

import io
from collections.abc import Sequence

from reportlab.lib.units import mm
from reportlab.pdfgen.canvas import Canvas

from paleta.card import CardPlan, CutPlan, MakingStep
from paleta.page._card_drawings import front, inside, sheet, side
from paleta.page._drawing import Drawing, lay
from paleta.page._fonts import BOLD, REGULAR, fitting, width_of
from paleta.page._recipe import CAUTION, said_card
from paleta.page._recipe_pdf import EDGE, PAPERS

SMALL, LEAD = 8.5, 11.5
RULER_MM = 100.0
SMALLEST = 0.7
"""A drawing that would come out smaller than this part of its size goes on a page of its own."""


def card_pdf(
    plan: CardPlan, cutting: CutPlan | str, steps: Sequence[MakingStep], to_cut: Drawing | None, *, title: str,
    unit: str = "in", paper: str = "letter", photo: bytes | None = None,
) -> bytes:  # fmt: skip
    """Pages of the given paper, and one of the picture's own size with what is cut out of it.

    Parameters
    ----------
    plan
        the card
    cutting
        the cutting plan, or why there is none
    steps
        what is done, in order
    to_cut
        what is cut out of the picture; None: nothing
    title
        what stands at the top
    unit
        in which lengths are written: in, cm or mm
    paper
        the printer's: letter or a4
    photo
        the coloured picture as the bytes of a JPEG

    Returns
    -------
    The PDF's bytes.
    """
    out = io.BytesIO()
    width, height = PAPERS[paper]
    page = Canvas(out, pagesize=(width, height), invariant=True)
    page.setTitle(f"{title}: the card")
    y = _titled(page, height, title, said_card(plan, unit), width)
    for drawing in (front(plan, unit, photo), side(plan, unit), inside(plan, unit)):
        scale = min(1.0, (width - 2 * EDGE) / (drawing.width * mm), (height - EDGE - y) / (drawing.height * mm))
        if scale < SMALLEST:
            page.showPage()
            y = EDGE
            scale = min(1.0, (width - 2 * EDGE) / (drawing.width * mm), (height - 2 * EDGE) / (drawing.height * mm))
        page.setFont(BOLD, SMALL)
        page.drawString(EDGE, height - y - 8, f"{drawing.title}, {'full size' if scale == 1.0 else f'at {scale:.0%}'}")
        lay(page, drawing, EDGE, height - y - 12, scale)
        y += drawing.height * mm * scale + 22
    page.showPage()
    y = _titled(page, height, "Order of making", "", width)
    for number, step in enumerate(steps, start=1):
        wait = f"wait {step.wait_s / 60:.0f} min. " if step.wait_s else ""
        y = _wrapped(page, height, y, f"{number}. {step.name}. {wait}{step.how}", width)
    y = _wrapped(page, height, y + LEAD, CAUTION, width)
    page.showPage()
    sheets = () if isinstance(cutting, str) else cutting.sheets
    if isinstance(cutting, str):
        _titled(page, height, "Cutting plan", cutting, width)
        page.showPage()
    for number, one in enumerate(sheets, start=1):
        words = f"{one.count} sheet{'s' if one.count > 1 else ''} of {one.stock.name}. Cut in the order of the numbers."
        y = _titled(page, height, f"Cutting plan, {number} of {len(sheets)}", words, width)
        drawing = sheet(one, unit)
        scale = min(1.0, (width - 2 * EDGE) / (drawing.width * mm), (height - EDGE - y) / (drawing.height * mm))
        lay(page, drawing, EDGE, height - y, scale)
        page.showPage()
    if to_cut is not None and to_cut.marks:
        size = max(to_cut.width, RULER_MM + 20) * mm, (to_cut.height + 16) * mm
        page.setPageSize(size)
        lay(page, to_cut, 0, size[1])
        # Printers like to shrink what they are given; a ruler tells.
        page.line(10 * mm, 7 * mm, (10 + RULER_MM) * mm, 7 * mm)
        page.setFont(REGULAR, SMALL)
        page.drawString(10 * mm, 9 * mm, f"Full size: this line is {RULER_MM:.0f} mm long.")
        page.showPage()
    page.save()
    return out.getvalue()


def _titled(page: Canvas, height: float, title: str, words: str, width: float) -> float:
    page.setFont(BOLD, 15)
    page.drawString(EDGE, height - EDGE - 12, fitting(title[:70]))
    y = EDGE + 18
    return _wrapped(page, height, y, words, width) + 6 if words else y + 6


def _wrapped(page: Canvas, height: float, y: float, text: str, width: float) -> float:
    line = ""
    page.setFont(REGULAR, SMALL)
    for word in [*fitting(text).split(), ""]:
        longer = f"{line} {word}".strip()
        if not word or width_of(longer, REGULAR, SMALL) > width - 2 * EDGE:
            y += LEAD
            page.drawString(EDGE, height - y, line)
            line = word
        else:
            line = longer
    return y
