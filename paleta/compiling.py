"""Where Numba keeps the loops it has compiled."""

from __future__ import annotations

import zlib
from pathlib import Path

import numba


def keep_beside(folder: Path, *more_sources: Path) -> None:
    """Name the cache for the loops in `folder`; to be called before the first of them is met.

    Numba looks only at the file a loop stands in and not at what that calls, so each state of the sources (those of
    the folder, and `more_sources` they read) has a folder of its own.

    Parameters
    ----------
    folder
        where the compiled loops are written
    more_sources
        further files that they are made from
    """
    sources = [Path(__file__), *more_sources, *sorted(folder.glob("*.py"))]
    state = zlib.crc32(b"".join(source.read_bytes() for source in sources))
    numba.config.CACHE_DIR = str(folder / "__pycache__" / f"{state:08x}")  # type: ignore[attr-defined]
