"""A chart as PDF to print, and as a picture of the printed sheet with its boxes filled."""

from __future__ import annotations

import io
from collections.abc import Mapping

import cv2
import numpy as np
from numpy.typing import NDArray
from reportlab.lib.colors import Color, black
from reportlab.lib.units import mm
from reportlab.pdfgen.canvas import Canvas

from paleta.chart._layout import BOX_MM, GREY_MM, MARK_MM, PAGE_MM, Chart, grey_places, mark_places
from paleta.colour import Lab, lab_to_srgb

DICTIONARY = cv2.aruco.getPredefinedDictionary(cv2.aruco.DICT_4X4_250)
MARK_CELLS = 6
"""Cells along a mark's side: four of code and a black rim."""


def chart_to_pdf(chart: Chart, *, title: str, paper: str) -> bytes:
    """One letter page: marks, greys, and two boxes for every swatch with its name and code.

    Parameters
    ----------
    chart
        As `lay_out_chart` gives.
    title
        Stands at its head.
    paper
        The paper's name.
    """
    out = io.BytesIO()
    page = Canvas(out, pagesize=(PAGE_MM[0] * mm, PAGE_MM[1] * mm), invariant=True)
    page.setTitle(title)
    for number, (x, y) in zip(chart.mark_ids, mark_places(), strict=True):
        cell = MARK_MM / MARK_CELLS
        for row, col in zip(*np.nonzero(_mark_cells(number) == 0), strict=True):
            _rectangle(page, x + col * cell, y + row * cell, cell + 0.02, cell + 0.02, black)
    for x, y, light in grey_places():
        red, green, blue = (float(value) for value in lab_to_srgb((light, 0.0, 0.0)))
        _rectangle(page, x, y, *GREY_MM, Color(red, green, blue))
    page.setFont("Helvetica-Bold", 12)
    page.drawString(26 * mm, (PAGE_MM[1] - 29) * mm, title[:60])
    page.setFont("Helvetica", 7.5)
    lines = (
        f"On {paper}. Left box: {chart.words[0]}; right box: {chart.words[1]}. Fill each box evenly and let it dry.",
        "Photograph it straight from above in even daylight, with all four corner marks in the picture.",
    )
    for place, line in enumerate(lines):
        page.drawString(26 * mm, (PAGE_MM[1] - 33 - 3.5 * place) * mm, line)
    names = dict(chart.entries)
    for box in chart.boxes:
        page.setStrokeGray(0.55)
        page.setLineWidth(0.4)
        page.rect(box.x_mm * mm, (PAGE_MM[1] - box.y_mm - box.height_mm) * mm, box.width_mm * mm, box.height_mm * mm)
        if box.which == 0:
            page.setFont("Helvetica", 7)
            label = f"{names[box.code][:24]}  {box.code[:14]}"
            page.drawString(box.x_mm * mm, (PAGE_MM[1] - box.y_mm + 1.2) * mm, label)
    page.showPage()
    page.save()
    return out.getvalue()


def chart_picture(
    chart: Chart, filled: Mapping[tuple[str, int], Lab], *, paper_lab: Lab, px_per_mm: float = 8.0
) -> NDArray[np.uint8]:
    """The printed sheet as H x W x 3 uint8 sRGB, each box in the Lab of `filled` (paper where there is none).

    Parameters
    ----------
    chart
        As `lay_out_chart` gives.
    filled
        By (code, box), the colour that was laid.
    paper_lab
        Lab of the paper.
    px_per_mm
        Of the picture.
    """
    size = (round(PAGE_MM[1] * px_per_mm), round(PAGE_MM[0] * px_per_mm))
    picture = np.empty((*size, 3), np.uint8)
    picture[:] = _rgb(paper_lab)

    def fill(x: float, y: float, width: float, height: float, colour: tuple[int, int, int]) -> None:
        left, top = round(x * px_per_mm), round(y * px_per_mm)
        right, bottom = round((x + width) * px_per_mm), round((y + height) * px_per_mm)
        picture[top:bottom, left:right] = colour

    side = MARK_MM / MARK_CELLS
    for number, (x, y) in zip(chart.mark_ids, mark_places(), strict=True):
        for row, col in zip(*np.nonzero(_mark_cells(number) == 0), strict=True):
            fill(x + col * side, y + row * side, side, side, (20, 20, 20))
    for x, y, light in grey_places():
        fill(x, y, *GREY_MM, _rgb((light, 0.0, 0.0)))
    for box in chart.boxes:
        fill(box.x_mm - 0.2, box.y_mm - 0.2, BOX_MM[0] + 0.4, BOX_MM[1] + 0.4, (150, 150, 150))
        fill(box.x_mm, box.y_mm, *BOX_MM, _rgb(filled.get((box.code, box.which), paper_lab)))
    return picture


def _mark_cells(number: int) -> NDArray[np.uint8]:
    return np.asarray(cv2.aruco.generateImageMarker(DICTIONARY, number, MARK_CELLS), np.uint8)


def _rectangle(page: Canvas, x: float, y: float, width: float, height: float, colour: Color) -> None:
    page.setFillColor(colour)
    page.rect(x * mm, (PAGE_MM[1] - y - height) * mm, width * mm, height * mm, stroke=0, fill=1)
    page.setFillColor(black)


def _rgb(lab: Lab) -> tuple[int, int, int]:
    red, green, blue = (round(float(value) * 255) for value in lab_to_srgb(lab))
    return red, green, blue
