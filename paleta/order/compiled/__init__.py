"""The inner loops of planning, compiled by Numba the first time they are used and kept beside this file.

All times are whole milliseconds and all chance comes from a generator of their own, so that the same work gives the
same plan on every machine. The interpreter's lock is let go while they run. Numba takes a second to load: import this
only when something is planned.
"""

import zlib
from pathlib import Path

import numba

from paleta.order import columns

_HERE = Path(__file__).parent
_SOURCES = [Path(columns.__file__), *sorted(_HERE.glob("*.py"))]
# Numba keeps what it compiled, but looks only at the file a loop stands in and not at what that calls. So each state of
# the sources has a folder of its own, which must be named before the first loop is met.
_STATE = zlib.crc32(b"".join(source.read_bytes() for source in _SOURCES))
numba.config.CACHE_DIR = str(_HERE / "__pycache__" / f"{_STATE:08x}")  # type: ignore[attr-defined]

from paleta.order.compiled._anneal import annealed  # noqa: E402
from paleta.order.compiled._build import built  # noqa: E402
from paleta.order.compiled._prove import proved  # noqa: E402
from paleta.order.compiled._times import changes_of, times  # noqa: E402
from paleta.order.compiled._visits import better_visits, by_visits  # noqa: E402

__all__ = ["annealed", "better_visits", "built", "by_visits", "changes_of", "proved", "times"]
