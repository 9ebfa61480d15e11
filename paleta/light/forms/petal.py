"""Rises from its deep-set base into the light and turns away at the tip (common practice)."""

import numpy as np

from paleta.light._form import Form, Normals, Stretch, tilted

ARCH = 0.85
"""Slope at either end; from memory."""


def _arched(normals: Normals, stretch: Stretch | None, bulge: float) -> Normals:
    if stretch is None:
        return normals
    return tilted(normals, stretch.way, -ARCH * bulge * np.cos(np.pi * stretch.along))


FORM = Form(
    code="petal",
    name="Petal",
    rank=5,
    icon="M20 22C8 17 9 5 20 2C31 5 32 17 20 22M20 21V11",
    noun="Petals",
    right_side=4.0,
    rise=0.55,
    has_base=True,
    deep_set=True,
    sided=True,
    bend=_arched,
)
