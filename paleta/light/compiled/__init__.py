"""The loops over every pixel that modelling forms and casting shadows need, compiled by Numba the first time they are
imported and kept beside this file. Numba takes a second to load: import this only when something is lit."""

from pathlib import Path

from paleta.compiling import keep_beside

keep_beside(Path(__file__).parent)

from paleta.light.compiled._equations import equations  # noqa: E402
from paleta.light.compiled._shadow import shaded  # noqa: E402
from paleta.light.compiled._smooth import smoothed  # noqa: E402

__all__ = ["equations", "shaded", "smoothed"]
