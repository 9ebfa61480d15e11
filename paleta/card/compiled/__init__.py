"""The loop that looks for the best way to cut a sheet, compiled by Numba the first time it is imported and kept beside
this file. It says its types, so that importing it is all there is to do. Numba takes a second to load: import this
only when something is cut."""

from pathlib import Path

from paleta.compiling import keep_beside

keep_beside(Path(__file__).parent)

from paleta.card.compiled._guillotine import best_cuts  # noqa: E402

__all__ = ["best_cuts"]
