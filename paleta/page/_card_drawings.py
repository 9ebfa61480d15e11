"""Drawings of a card: its front and inside with their measures, its side, its sheets with cuts, its lines to cut."""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence

import numpy as np

from paleta.card import (
    FOLDS,
    MASK_INSIDE_MM,
    CardPlan,
    CutSheet,
    Length,
    Picture,
    Place,
    PlacedLayer,
    cut_lines,
    show,
    stack,
)
from paleta.page._drawing import SOFT, Drawing, Mark, Photo, Polyline, Words, rectangle

ROOM = 16.0
"""Round a drawing, for its measures."""
THICKER = 10
"""The side view shows thickness ten times as large: card is too thin to be seen otherwise."""


def _mm(length: Length) -> float:
    return float(length.mm)


def _said_size(width: Length, height: Length, unit: str) -> str:
    return f"{show(width, unit)} by {show(height, unit)}"


def _box(place: Place, left: float, top: float, **look: object) -> Polyline:
    return rectangle(left + _mm(place.x), top + _mm(place.y), _mm(place.width), _mm(place.height), **look)


def _across(left: float, right: float, y: float, text: str) -> Iterator[Mark]:
    """A measure from left to right at a height."""
    yield Polyline(((left, y), (right, y)), stroke=SOFT)
    for x in (left, right):
        yield Polyline(((x, y - 1.4), (x, y + 1.4)), stroke=SOFT)
    yield Words((left + right) / 2, y - 1.0, text, anchor="middle")


def _downwards(top: float, bottom: float, x: float, text: str) -> Iterator[Mark]:
    yield Polyline(((x, top), (x, bottom)), stroke=SOFT)
    for y in (top, bottom):
        yield Polyline(((x - 1.4, y), (x + 1.4, y)), stroke=SOFT)
    yield Words(x - 1.0, (top + bottom) / 2, text, anchor="middle", turned=True)


def _colour_of(plan: CardPlan, laid: PlacedLayer) -> str:
    stock = plan.spec.stock_named(laid.stock)
    return stock.colour if stock is not None else "#ffffff"


def front(plan: CardPlan, unit: str, photo: bytes | None = None) -> Drawing:
    """The front at full size: layers, greeting, measures; `photo`: the picture as it lies on the panel.

    Parameters
    ----------
    plan
        As `paleta.card.lay_out` gives.
    unit
        "in", "mm" or "cm", of the measures.
    photo
        JPEG or PNG of the picture as it lies on the panel.
    """
    base = plan.front
    left = top = ROOM
    width, height = _mm(base.width), _mm(base.height)
    marks: list[Mark] = []
    for laid in plan.layers:
        marks.append(_box(laid.place, left, top, fill=_colour_of(plan, laid)))
        if laid.kind == "panel" and photo is not None:
            place = laid.place
            marks.append(Photo(left + _mm(place.x), top + _mm(place.y), _mm(place.width), _mm(place.height), photo))
    marks += [_box(foam.place, left, top, stroke=SOFT, dashed=True) for foam in plan.foams]
    if plan.greeting is not None and plan.spec.greeting is not None:
        place, strip = plan.greeting.place, plan.spec.greeting.strip
        fill = _colour_of(plan, plan.greeting) if strip else ""
        marks.append(_box(place, left, top, fill=fill, dashed=not strip))
        marks.append(
            Words(
                left + _mm(place.x) + _mm(place.width) / 2,
                top + _mm(place.y) + _mm(place.height) * 0.62,
                plan.spec.greeting.text,
                size=min(_mm(place.height) * 0.5, 1.7 * _mm(place.width) / max(len(plan.spec.greeting.text), 1)),
                anchor="middle",
                colour=plan.spec.greeting.colour,
            )
        )
    marks += _across(left, left + width, top - 5, str(show(base.width, unit)))
    marks += _downwards(top, top + height, left - 5, str(show(base.height, unit)))
    for number, laid in enumerate(plan.layers[1:]):
        edge, place = top + height + 6 + 5 * number, laid.place
        text = f"{laid.name} {_said_size(place.width, place.height, unit)}"
        marks += _across(left + _mm(place.x), left + _mm(place.right), edge, text)
    return Drawing("Front", width + 2 * ROOM, height + 2 * ROOM + 5 * len(plan.layers), tuple(marks))


def inside(plan: CardPlan, unit: str) -> Drawing:
    """The card laid open, from inside: the fold, and the panel to write on.

    Parameters
    ----------
    plan
        the laid-out card
    unit
        in which lengths are written: in, cm or mm
    """
    width, height = (_mm(side) for side in plan.open_sheet)
    left = top = ROOM
    marks: list[Mark] = [rectangle(left, top, width, height, fill=_colour_of(plan, plan.layers[0]))]
    x = y = 0.0
    down = FOLDS[plan.spec.base.fold].down
    for number, score in enumerate(plan.scores):
        at, words = _mm(score), f"score at {show(score, unit)}"
        if down:
            marks.append(Polyline(((left + at, top), (left + at, top + height)), dashed=True))
            marks += _across(left, left + at, top + height + 6 + 6 * number, words)
        else:
            marks.append(Polyline(((left, top + at), (left + width, top + at)), dashed=True))
            marks += _downwards(top, top + at, left + width + 8 + 8 * number, words)
    if plan.scores:
        # One writes on the page behind the front.
        x, y = (_mm(plan.scores[0]), 0.0) if down else (0.0, _mm(plan.scores[0]))
    if plan.inside is not None:
        place = plan.inside.place
        marks.append(_box(place, left + x, top + y, fill=_colour_of(plan, plan.inside)))
        marks.append(
            Words(left + x + _mm(place.x) + 3, top + y + _mm(place.y) + 6, _said_size(place.width, place.height, unit))
        )
    if plan.spec.inside is not None and plan.spec.inside.text:
        text = plan.spec.inside.text.split("\n")[0][:60]
        marks.append(
            Words(left + x + width / 4, top + y + height / 2 if not y else top + y * 1.5, text, anchor="middle")
        )
    marks += _across(left, left + width, top - 5, str(show(plan.open_sheet[0], unit)))
    marks += _downwards(top, top + height, left - 5, str(show(plan.open_sheet[1], unit)))
    room = 2 * ROOM + 8 * max(0, len(plan.scores) - 1)
    return Drawing("Inside", width + room, height + room, tuple(marks))


def side(plan: CardPlan, unit: str) -> Drawing:
    """The card seen from its lower edge: widths to scale, thickness ten times as large.

    Parameters
    ----------
    plan
        the laid-out card
    unit
        in which lengths are written: in, cm or mm
    """
    slabs = stack(plan)
    left, bottom = ROOM, ROOM / 2 + THICKER * _mm(max(slab.lift + slab.thick for slab in slabs))
    marks: list[Mark] = []
    for slab in slabs:
        high, stock = THICKER * _mm(slab.thick), plan.spec.stock_named(slab.stock)
        fill = "#e6e6e6" if slab.foam else stock.colour if stock is not None else "#ffffff"
        x, width = left + _mm(slab.place.x), _mm(slab.place.width)
        y = bottom - THICKER * _mm(slab.lift) - high
        marks.append(rectangle(x, y, width, high, fill=fill, dashed=slab.foam))
    width = _mm(plan.front.width)
    words = f"{show(plan.thickness, 'mm')} at its thickest; drawn {THICKER} times as thick"
    marks.append(Words(left + width + 2, bottom - 1, words))
    return Drawing("Side", width + 2 * ROOM + 60, bottom + ROOM / 2, tuple(marks))


def sheet(cut: CutSheet, unit: str) -> Drawing:
    """A sheet with its pieces, and its cuts numbered in the order they are made.

    Parameters
    ----------
    cut
        a sheet of the cutting plan
    unit
        in which lengths are written: in, cm or mm
    """
    left = top = ROOM / 2
    width, height = _mm(cut.stock.width), _mm(cut.stock.height)
    marks: list[Mark] = [rectangle(left, top, width, height, fill="#e9e9e9", thick=0.5)]
    for piece in cut.pieces:
        place = piece.place
        marks.append(_box(place, left, top, fill="#ffffff", stroke=SOFT))
        x, y = left + _mm(place.x) + _mm(place.width) / 2, top + _mm(place.y) + _mm(place.height) / 2
        # Written along the longer side, in two lines that fit across the shorter one.
        upright = place.height > place.width * 2
        size = min(4.5, _mm(min(place.width, place.height)) / 3)
        for line, words in ((-0.3, piece.name), (0.9, _said_size(place.width, place.height, unit))):
            off = line * size
            spot = (x + off, y) if upright else (x, y + off)
            marks.append(Words(*spot, words, size=size * 0.9, anchor="middle", bold=line < 0, turned=upright))
        for score in piece.scores:
            marks.append(_cut_line(score, left, top, depth="score", dashed=True, thick=0.35))
    for one in cut.cuts:
        marks.append(_cut_line(one, left, top, depth="through", thick=0.45))
    for one in cut.cuts:
        x, y = (left + _mm(one.x0), top + _mm(one.y0) + 5) if one.down else (left + _mm(one.x0) + 5, top + _mm(one.y0))
        marks.append(Polyline(_ring(x, y, 3.0), closed=True, fill="#ffffff", thick=0.3))
        marks.append(Words(x, y + 1.3, str(one.number), size=3.6, anchor="middle", bold=True))
    return Drawing(cut.stock.name, width + ROOM, height + ROOM, tuple(marks))


def _ring(x: float, y: float, radius: float) -> tuple[tuple[float, float], ...]:
    turn = np.linspace(0, 2 * np.pi, 24, endpoint=False)
    return tuple((float(x + radius * np.cos(one)), float(y + radius * np.sin(one))) for one in turn)


def _cut_line(one: object, left: float, top: float, **look: object) -> Polyline:
    x0, y0, x1, y1 = (_mm(getattr(one, name)) for name in ("x0", "y0", "x1", "y1"))
    return Polyline(((left + x0, top + y0), (left + x1, top + y1)), **look)  # type: ignore[arg-type]


def lines_to_cut(plan: CardPlan, picture: Picture, masks: Mapping[str, Sequence[int]] | None = None) -> Drawing:
    """At full size, on the picture's own paper: the panel and what is cut out, through; masks, through film alone.

    Parameters
    ----------
    plan
        the card
    picture
        what it is made for, with its regions
    masks
        regions by the mask's name; they are cut slightly inside the line

    Returns
    -------
    A drawing in mm at full size.
    """
    marks: list[Mark] = []
    if plan.crop is not None:
        marks.append(_box(plan.crop, 0, 0, depth="through", thick=0.2))
    for one in plan.spec.cutouts:
        marks += _outlines(picture, one.regions, _mm(one.margin), "through")
    for regions in (masks or {}).values():
        marks += _outlines(picture, regions, -MASK_INSIDE_MM, "film")
    whole = picture.whole
    return Drawing("Lines to cut", _mm(whole.width), _mm(whole.height), tuple(marks))


def mask_to_cut(picture: Picture, regions: Sequence[int]) -> Drawing:
    """A mask of these regions at full size on the picture's own paper, cut slightly inside the line.

    Parameters
    ----------
    picture
        With the picture's own size and map.
    regions
        Labels.
    """
    whole = picture.whole
    marks = tuple(_outlines(picture, regions, -MASK_INSIDE_MM, "film"))
    return Drawing("Mask to cut", _mm(whole.width), _mm(whole.height), marks)


def _outlines(picture: Picture, regions: Sequence[int], margin: float, depth: str) -> Iterator[Mark]:
    for path in cut_lines(picture.labels, regions, margin, picture.px_per_mm):
        yield Polyline(tuple((float(x), float(y)) for x, y in path[:-1]), closed=True, depth=depth, thick=0.2)
