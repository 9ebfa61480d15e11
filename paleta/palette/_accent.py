"""Which swatch an accent is laid with where nobody has chosen one."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np

from paleta.colour import Lab, difference
from paleta.media import Swatch

DEEPER = 10.0
"""How much darker than what it lies on a crease or a shadow is wished, in L*. From memory."""


def usual_accent(drawer: Sequence[Swatch], beneath: Sequence[Lab], *, dark: bool) -> Swatch:
    """A dark accent is a shade of what it lies on, deeper where the drawer has one; a pale one the palest there is.

    Parameters
    ----------
    drawer
        One or more swatches of the accent's medium, at full strength.
    beneath
        Lab of the zones that it lies on, as they are seen.
    dark
        Whether it deepens rather than lights.
    """
    if not dark or not beneath:
        return max(drawer, key=lambda one: one.lab[0])
    light, a, b = min(beneath, key=lambda lab: lab[0])
    apart = difference(np.array([one.lab for one in drawer], float), (max(light - DEEPER, 8.0), a, b))
    deeper = [k for k, one in enumerate(drawer) if one.lab[0] < light] or range(len(drawer))
    return drawer[min(deeper, key=lambda k: (float(apart[k]), drawer[k].code))]
