"""What the compiled loops run on: strokes and the handling of masks, numbered from 0, one row of a table each.

Times are ms. Plain arrays and not a tuple of columns, as taking an array out of a tuple costs Numba more than the sums
that are done with it.
"""

from __future__ import annotations

DURATION, PEN, REGION, JOIN, BEFORE, RANK, KIND, MASK, NEAR_AT, NEAR_END, NEEDS_AT, NEEDS_END, MEDIUM, GROUP = range(14)
"""Columns of `table`, N x 14. PEN, MASK and BEFORE (the stroke before on that region) are -1 where there is none; what
has the lower RANK is finished first; MEDIUM is a row of `pace`; neighbours of one GROUP are told as one line.
lists[NEAR_AT:NEAR_END] are the regions that touch, lists[NEEDS_AT:NEEDS_END] the rows that must be laid before."""
OVER, DURING = range(2)
"""Of `covers`, 2 x masks x regions: what a mask covers, and what is coloured while it lies."""
CHANGE, TOUCH, COAT, BLEND, SETUP, WIPE = range(6)
"""Columns of `pace`, a row for each medium, as in Pace. WIPE is how long wiping a mask takes between two inks of it, 0
where a medium does not soil a mask."""
NEVER = -(10**12)
START, WET, DRY, ANY = range(4)
STROKE, LAY, LIFT = range(3)
SOONEST, PLAIN, HABIT = range(3)
"""Ways of building a sequence (`_build.built`)."""
