"""The loop over every pixel that modelling forms needs, compiled by Numba the first time it is imported and kept beside
this file. Numba takes a second to load: import this only when something is modelled."""

from pathlib import Path

from paleta.compiling import keep_beside

keep_beside(Path(__file__).parent)

from paleta.light.compiled._equations import equations  # noqa: E402

__all__ = ["equations"]
