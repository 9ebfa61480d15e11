"""Changes to the found regions, kept as a list and replayed over the map.

Each edit is a plain mapping, so a list of them can be stored as JSON:
    {"op": "join", "regions": [3, 7]}    3 and 7 become one region that keeps the lowest label
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from typing import Any

import numpy as np

from paleta.errors import EditError
from paleta.impression._region_map import RegionMap

Edit = Mapping[str, Any]


def check_edit(edit: Edit, labels: set[int]) -> None:
    """Raise EditError unless `edit` fits a map that has these region labels."""
    if edit.get("op") != "join":
        raise EditError(f"Unknown change to the regions: {edit.get('op')!r}.")
    wanted = edit.get("regions", [])
    if len(set(wanted)) < 2:
        raise EditError("Choose at least two regions to join.")
    missing = sorted(set(wanted) - labels)
    if missing:
        raise EditError(f"There is no region {missing[0]} to join.")


def apply_edits(region_map: RegionMap, edits: Sequence[Edit]) -> RegionMap:
    """Replay `edits` in order over a found map; labels that survive keep their number.

    Raises
    ------
    EditError
        If an edit names a region that is not there (any more).
    """
    if not edits:
        return region_map
    table = np.arange(int(region_map.labels.max()) + 1, dtype=np.int32)
    alive = {region.label for region in region_map.regions}
    for edit in edits:
        check_edit(edit, alive)
        joined = sorted(set(edit["regions"]))
        table[np.isin(table, joined[1:])] = joined[0]
        alive -= set(joined[1:])
    return RegionMap(labels=table[region_map.labels], ink=region_map.ink, dpi=region_map.dpi)
