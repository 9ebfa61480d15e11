"""Where everything on a swatch chart lies, in mm from the top left of a letter sheet."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from paleta.errors import ChartError
from paleta.media import MEDIUMS

PAGE_MM = (215.9, 279.4)
MARK_MM = 13.0
MARK_MARGIN_MM = 9.0
GREYS = (96.0, 84.0, 70.0, 56.0, 42.0, 28.0, 16.0)
"""L* of the reference greys."""
GREY_MM = (18.0, 8.0)
COLUMNS, ROWS = 4, 13
MOST_ON_CHART = COLUMNS * ROWS
BOX_MM = (17.0, 9.0)
CELL_MM = (47.0, 16.0)
FIRST_CELL_MM = (14.0, 42.0)
CHART_NUMBERS = 60
"""Marks tell this many charts apart; then the numbers begin again."""


@dataclass(frozen=True, slots=True)
class Box:
    """A box to be filled with one swatch: its left, top, width and height in mm."""

    code: str
    which: int
    x_mm: float
    y_mm: float
    width_mm: float
    height_mm: float


@dataclass(frozen=True, slots=True)
class Chart:
    """number tells it from other charts; entries are (code, name); words say what goes into the two boxes."""

    number: int
    medium: str
    entries: tuple[tuple[str, str], ...]
    boxes: tuple[Box, ...]

    @property
    def words(self) -> tuple[str, str]:
        box = MEDIUMS[self.medium].second_box
        return box.first_words, box.words

    @property
    def mark_ids(self) -> tuple[int, int, int, int]:
        """Of the marks at the top left, top right, bottom right and bottom left."""
        first = 4 * (self.number % CHART_NUMBERS)
        return first, first + 1, first + 2, first + 3


def mark_places() -> tuple[tuple[float, float], ...]:
    """Top left corners of the four marks, in the order of Chart.mark_ids."""
    left = top = MARK_MARGIN_MM
    right, bottom = PAGE_MM[0] - MARK_MARGIN_MM - MARK_MM, PAGE_MM[1] - MARK_MARGIN_MM - MARK_MM
    return (left, top), (right, top), (right, bottom), (left, bottom)


def grey_places() -> tuple[tuple[float, float, float], ...]:
    """(x, y, L*) of every reference grey: a row at the top and, the other way round, one at the bottom."""
    start = (PAGE_MM[0] - len(GREYS) * (GREY_MM[0] + 2)) / 2
    top = [(start + k * (GREY_MM[0] + 2), 12.0, light) for k, light in enumerate(GREYS)]
    bottom = [(x, PAGE_MM[1] - 20.0, light) for (x, _, _), light in zip(top, reversed(GREYS), strict=True)]
    return (*top, *bottom)


def lay_out_chart(number: int, medium: str, entries: Sequence[tuple[str, str]]) -> Chart:
    """A chart for up to MOST_ON_CHART swatches, column by column.

    Parameters
    ----------
    number
        Of the chart, which its marks tell.
    medium
        A key of MEDIA.
    entries
        Code and name of each swatch.

    Raises
    ------
    ChartError
        If there are none, or too many for one sheet.
    """
    if not entries:
        raise ChartError("Choose at least one swatch for the chart.")
    if len(entries) > MOST_ON_CHART:
        raise ChartError(f"A chart holds up to {MOST_ON_CHART} swatches; {len(entries)} were chosen.")
    boxes = []
    for place, (code, _) in enumerate(entries):
        column, row = divmod(place, ROWS)
        x, y = FIRST_CELL_MM[0] + column * CELL_MM[0], FIRST_CELL_MM[1] + row * CELL_MM[1]
        for which in (0, 1):
            boxes.append(Box(code, which, x + which * (BOX_MM[0] + 3.5), y + 4.2, *BOX_MM))
    return Chart(number, medium, tuple(entries), tuple(boxes))
