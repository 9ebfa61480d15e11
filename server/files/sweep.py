"""Files that nobody refers to any more are swept away."""

from __future__ import annotations

import time
from pathlib import Path

from server.files import store
from server.files.uses import Scope, uses

YOUNG_S = 3600.0
"""A file this young may belong to a row that is just being written."""


def sweep(*, now_s: float | None = None, young_s: float = YOUNG_S) -> int:
    """Remove what no row refers to and is older than `young_s`; how many files went."""
    gone = unreferenced(now_s=now_s, young_s=young_s)
    for place in gone:
        place.unlink(missing_ok=True)
    return len(gone)


def unreferenced(*, now_s: float | None = None, young_s: float = YOUNG_S) -> list[Path]:
    """What a sweep would remove."""
    now_s = time.time() if now_s is None else now_s
    # Files are listed before the rows are read: what is written in between is not on the list.
    old = [place for place in store.all_files() if place.stat().st_mtime < now_s - young_s]
    wanted = {use.name for use in uses(Scope())}
    return [place for place in old if place.name not in wanted]
