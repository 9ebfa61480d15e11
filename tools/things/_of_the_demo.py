"""The demo's drawings as drawings of things: made for another purpose. No network of things or fronts was fitted on
any of them."""

from __future__ import annotations

import re

import numpy as np

from demo.lineart import DRAWINGS, Drawing, scenes, sprays
from paleta.impression import MM_PER_INCH
from tools.things._canvas import DPI, Canvas, Drawn

FAMILIES = (scenes, sprays)


def of_the_demo(number: int) -> Drawn:
    """The first numbers are the demo's own drawings, the further ones its scenes and sprays in turn.

    What has one body is one part. Alike is what bears one name but for its number; two flowers of a spray are alike too
    therefore, though a hand may colour them apart.
    """
    own = [*DRAWINGS.values()]
    return drawn_anew(own[number]() if number < len(own) else FAMILIES[number % 2](number)).finished()


def drawn_anew(drawing: Drawing) -> Canvas:
    """The same shapes in their order on a canvas that remembers them."""
    px = DPI / MM_PER_INCH
    canvas = Canvas(
        round(drawing.height_mm * px), round(drawing.width_mm * px), round(drawing.line_mm * px),
        np.random.default_rng(0),
    )  # fmt: skip
    bodies: dict[str, int] = {}
    names: dict[str, int] = {}
    for shape in drawing.shapes:
        points = shape.points * px
        if shape.solid or not shape.closed:
            canvas.line(points, solid=shape.solid)
            continue
        part = bodies.setdefault(shape.body, canvas.group()) if shape.body else None
        name = re.sub(r"[\d.]+", "", shape.name).strip()
        canvas.shape(points, part=part, alike=names.setdefault(name, canvas.group()), wobble=0.0)
    canvas.kinds.append(drawing.title)
    return canvas
