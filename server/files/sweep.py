"""Files that nobody refers to any more are swept away.

An app whose rows name files says so once, when it is made ready: `refers(lambda: names)`.
"""

from __future__ import annotations

import time
from collections.abc import Callable, Iterable

from server.files import store

YOUNG_S = 3600.0
"""A file this young may belong to a row that is just being written."""
_holders: list[Callable[[], Iterable[str]]] = []


def refers(names: Callable[[], Iterable[str]]) -> None:
    """`names` gives every file that an app's rows refer to."""
    _holders.append(names)


def sweep(*, now_s: float | None = None, young_s: float = YOUNG_S) -> int:
    """Remove what no row refers to and is older than `young_s`; how many files went."""
    now_s = time.time() if now_s is None else now_s
    # Files are listed before the rows are read: what is written in between is not on the list.
    old = [place for place in store.all_files() if place.stat().st_mtime < now_s - young_s]
    wanted = {name for holder in _holders for name in holder()}
    gone = [place for place in old if place.name not in wanted]
    for place in gone:
        place.unlink(missing_ok=True)
    return len(gone)
