"""The loops over every pixel and every three regions that finding needs, compiled by Numba the first time they are
imported and kept beside this file. They say their types, so that importing them is all there is to do. Numba takes a
second to load: import this only when something is found."""

from pathlib import Path

from paleta.compiling import keep_beside

keep_beside(Path(__file__).parent)

from paleta.impression.compiled._balls import roll  # noqa: E402
from paleta.impression.compiled._labels import areas_and_firsts, handed, kept_at_home, renamed  # noqa: E402
from paleta.impression.compiled._squares import likeliest_way  # noqa: E402

__all__ = ["areas_and_firsts", "handed", "kept_at_home", "likeliest_way", "renamed", "roll"]
