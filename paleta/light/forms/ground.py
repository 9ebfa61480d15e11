"""Lies back: seen from where one stands, it looks up the page rather than at the viewer (common practice)."""

import numpy as np

from paleta.light._form import Form, Normals, Stretch

TILT_DEG = 50.0
STEEPEST = 1.5
"""Of its bulge, so that it never lies edge on. Both from memory."""


def _lying_back(normals: Normals, stretch: Stretch | None, bulge: float) -> Normals:
    tilt = np.radians(TILT_DEG * min(bulge, STEEPEST))
    return np.broadcast_to(np.array((0.0, -np.sin(tilt), np.cos(tilt)), np.float32), normals.shape)


FORM = Form(
    code="ground",
    name="Ground",
    rank=8,
    icon="M3 21L12 10H28L37 21ZM7 16H33",
    noun="Grounds",
    right_side=0.0,
    sign=0.0,
    takes_base=False,
    bend=_lying_back,
)
