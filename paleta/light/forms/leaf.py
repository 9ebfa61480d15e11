"""Two halves that fall away from the vein between them (common practice)."""

import numpy as np

from paleta.light._form import Form, Normals, Stretch, tilted

FOLD = 0.45
"""Slope of either half, away from the vein; from memory."""


def _folded(normals: Normals, stretch: Stretch | None, bulge: float) -> Normals:
    if stretch is None:
        return normals
    side = np.array([-stretch.way[1], stretch.way[0]])
    return tilted(normals, side, FOLD * bulge * np.tanh(8 * stretch.across))


FORM = Form(
    code="leaf",
    name="Leaf",
    rank=6,
    icon="M4 19C9 5 25 3 36 5C33 17 17 21 4 19L30 8",
    noun="Leaves",
    tags=("leaf",),
    right_side=4.0,
    rise=0.4,
    has_base=True,
    deep_set=True,
    bend=_folded,
)
