"""The inner loops of planning, compiled by Numba the first time they are used and kept beside this file.

All times are whole milliseconds and all chance comes from a generator of their own, so that the same work gives the
same plan on every machine. The interpreter's lock is let go while they run. Numba takes a second to load: import this
only when something is planned.
"""

from pathlib import Path

from paleta.compiling import keep_beside
from paleta.order import columns

keep_beside(Path(__file__).parent, Path(columns.__file__))

from paleta.order.compiled._anneal import annealed, groups_in  # noqa: E402
from paleta.order.compiled._build import built  # noqa: E402
from paleta.order.compiled._prove import proved  # noqa: E402
from paleta.order.compiled._times import changes_of, times  # noqa: E402
from paleta.order.compiled._visits import better_visits, by_visits  # noqa: E402

__all__ = ["annealed", "better_visits", "built", "by_visits", "changes_of", "groups_in", "proved", "times"]
