"""Changes to the found regions, kept as a list and replayed over the map.

Each edit is a plain mapping, so a list of them can be stored as JSON:
    {"op": "join", "regions": [3, 7]}                      3 and 7 become one region that keeps the lowest label
    {"op": "erase", "region": 5}                           5 was a speck: it goes to the neighbour it lies in
    {"op": "split", "region": 3, "line": [[10, 4], [12, 9]]}   a barrier drawn across region 3, points (x, y) in mm
    {"op": "ground", "label": 58, "margin_mm": 0}          the paper round the figure becomes region 58
    {"op": "horizon", "region": 58, "label": 59, "handles": [[0, 40], [90, 44]]}   what lies below (or right of) the
                                                           smooth line becomes region 59, in however many pieces
    {"op": "bands", "region": 58, "labels": [59, 60], "widths_mm": [8, 8, 12], "gap_mm": 3, "from_deg": 0}
                                                           bands from one side on; what lies between and beyond is paper
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from typing import Any

import cv2
import numpy as np
from numpy.typing import NDArray

from paleta.errors import EditError
from paleta.ground import smooth
from paleta.impression.regions._find import give_leftovers_to_nearest
from paleta.impression.regions._region_map import RegionMap, labels_in

Edit = Mapping[str, Any]
_POINT = {
    "type": "array",
    "items": {"type": "number", "minimum": -1000, "maximum": 2000},
    "minItems": 2,
    "maxItems": 2,
}
_LABEL = {"type": "integer", "minimum": 1, "maximum": 1_000_000}


def _shape(**fields: dict[str, Any]) -> dict[str, Any]:
    return {"type": "object", "properties": fields, "required": sorted(fields), "additionalProperties": False}


MOST_BANDS, MOST_HANDLES = 12, 12
SMALLEST_GROUND_MM2 = 4.0
BAND_ROUNDING_MM = 0.5
EDIT_SCHEMA = {
    "oneOf": [
        _shape(op={"const": "join"}, regions={"type": "array", "items": _LABEL, "minItems": 2, "maxItems": 4000}),
        _shape(
            op={"const": "split"},
            region=_LABEL,
            line={"type": "array", "items": _POINT, "minItems": 2, "maxItems": 200},
        ),
        _shape(
            op={"const": "erase"},
            region=_LABEL,
            at=_POINT,
            area_mm2={"type": "number", "minimum": 0, "maximum": 1_000_000},
        ),
        _shape(op={"const": "ground"}, label=_LABEL, margin_mm={"type": "number", "minimum": 0, "maximum": 100}),
        _shape(
            op={"const": "horizon"},
            region=_LABEL,
            label=_LABEL,
            handles={"type": "array", "items": _POINT, "minItems": 2, "maxItems": MOST_HANDLES},
        ),
        _shape(
            op={"const": "bands"},
            region=_LABEL,
            labels={"type": "array", "items": _LABEL, "minItems": 1, "maxItems": MOST_BANDS - 1},
            widths_mm={
                "type": "array",
                "items": {"type": "number", "minimum": 0.5, "maximum": 1000},
                "minItems": 2,
                "maxItems": MOST_BANDS,
            },
            gap_mm={"type": "number", "minimum": 0, "maximum": 50},
            from_deg={"type": "number", "minimum": 0, "maximum": 360},
        ),
    ]
}
"""JSON Schema of one edit as it is stored."""
SNAP_MM = 2.0
"""A barrier's ends are drawn on by this much, so that they reach the outline they were meant to reach."""
BARRIER_MM = 0.25
SMALLEST_PART_MM2 = 0.5
SPECK_ROOM_MM = 1.5
"""An erased region's ink is cleared if it reaches no farther than this from it."""


def check_edit(edit: Edit, labels: set[int]) -> None:
    """Raise EditError unless `edit` is well formed and its regions are among `labels`.

    Parameters
    ----------
    edit
        A plain edit; places in mm.
    labels
        Of the regions there are.
    """
    if edit.get("op") == "join":
        wanted = edit.get("regions", [])
        if len(set(wanted)) < 2:
            raise EditError("Choose at least two regions to join.")
    elif edit.get("op") == "split":
        wanted = [edit.get("region")]
        if len(edit.get("line", [])) < 2:
            raise EditError("A barrier needs at least two points.")
    elif edit.get("op") in ("erase", "horizon", "bands"):
        wanted = [edit.get("region")]
    elif edit.get("op") == "ground":
        wanted = []
    else:
        raise EditError(f"Unknown change to the regions: {edit.get('op')!r}.")
    missing = sorted(set(wanted) - labels)
    if missing:
        raise EditError(f"There is no region {missing[0]} to {edit['op']}.")
    taken = sorted(labels & {edit.get("label"), *edit.get("labels", ())})
    if taken:
        raise EditError(f"There is a region {taken[0]} already.")


def apply_edits(region_map: RegionMap, edits: Sequence[Edit]) -> RegionMap:
    """Replay `edits` in order over a found map; labels that survive keep their number, split parts get new ones.

    Parameters
    ----------
    region_map
        As found.
    edits
        Plain edits as a sheet keeps them.

    Raises
    ------
    EditError
        If an edit names a region that is not there (any more), or a barrier does not part its region.
    """
    labels, ink = region_map.labels, region_map.ink
    alive = labels_in(labels) if edits else set()
    joins: list[list[int]] = []
    for edit in edits:
        check_edit(edit, alive)
        if edit["op"] == "join":
            joins.append(sorted(set(edit["regions"])))
            alive -= set(joins[-1][1:])
            continue
        # Joins that follow each other are one look through the map.
        labels, joins = _joined(labels, joins), []
        if edit["op"] == "erase":
            labels, ink = _erase(labels, ink, edit["region"], region_map.px_per_mm)
            alive.discard(edit["region"])
        elif edit["op"] in GROUNDS:
            labels, made = GROUNDS[edit["op"]](labels, edit, region_map.px_per_mm)
            alive |= set(made)
        else:
            labels, parts = _split(labels, edit["region"], edit["line"], region_map.px_per_mm)
            alive |= set(parts)
    labels = _joined(labels, joins)
    return RegionMap(labels=labels, ink=ink, dpi=region_map.dpi) if edits else region_map


def parts_of_split(region_map: RegionMap, region: int, line: Sequence[Sequence[float]]) -> list[int]:
    """The labels of the new parts that a barrier would give, the part that keeps `region` not among them.

    Parameters
    ----------
    region_map
        H x W labels.
    region
        The label to part.
    line
        The barrier, places (x, y) in mm.
    """
    return _split(region_map.labels, region, line, region_map.px_per_mm)[1]


def _joined(labels: NDArray[np.int32], joins: Sequence[Sequence[int]]) -> NDArray[np.int32]:
    """The labels after one join after the other, each into the first region it names."""
    if not joins:
        return labels
    table = np.arange(int(labels.max()) + 1, dtype=np.int32)
    for regions in joins:
        table[np.isin(table, regions)] = regions[0]
    return table[labels]


def _erase(
    labels: NDArray[np.int32], ink: NDArray[np.bool_], region: int, px_per_mm: float
) -> tuple[NDArray[np.int32], NDArray[np.bool_]]:
    """Hand `region` to the neighbour it shares most of its outline with, and clear the ink that only it needed."""
    rows, cols = np.nonzero(labels == region)
    room = round(SPECK_ROOM_MM * px_per_mm) + 2
    box = (
        slice(max(0, int(rows.min()) - room), int(rows.max()) + 1 + room),
        slice(max(0, int(cols.min()) - room), int(cols.max()) + 1 + room),
    )
    inside = (labels[box] == region).astype(np.uint8)
    around = labels[box][(cv2.dilate(inside, np.ones((3, 3), np.uint8)) > 0) & (inside == 0)]
    if not around.size:
        raise EditError("This region fills the whole picture and cannot be erased.")
    host = int(np.bincount(around).argmax())
    result, cleared = labels.copy(), ink.copy()
    result[box][inside > 0] = host
    # Marks that end within a line's width of the region were its own outline; longer ones belong to others too.
    near = cv2.dilate(inside, cv2.getStructuringElement(cv2.MORPH_ELLIPSE, (2 * room - 3, 2 * room - 3))) > 0
    count, marks = cv2.connectedComponents(ink[box].astype(np.uint8), connectivity=8)
    touches = np.bincount(marks[inside > 0], minlength=count) > 0
    reaches_out = np.bincount(marks[~near], minlength=count) > 0
    gone = touches & ~reaches_out
    gone[0] = False
    cleared[box] &= ~gone[marks]
    return result, cleared


def _split(
    labels: NDArray[np.int32], region: int, line: Sequence[Sequence[float]], px_per_mm: float
) -> tuple[NDArray[np.int32], list[int]]:
    """Cut `region` along `line`; the largest part keeps its label, the others follow the highest one in use."""
    rows, cols = np.nonzero(labels == region)
    top, left = int(rows.min()), int(cols.min())
    box = (slice(top, int(rows.max()) + 1), slice(left, int(cols.max()) + 1))
    inside = labels[box] == region
    points = (_drawn_on(np.asarray(line, float)) * px_per_mm - (left, top)) * 16
    barrier = np.zeros(inside.shape, np.uint8)
    width = max(2, round(BARRIER_MM * px_per_mm))
    cv2.polylines(barrier, [np.round(points).astype(np.int32)], False, 1, width, cv2.LINE_8, 4)
    count, parts, stats, _ = cv2.connectedComponentsWithStats(
        (inside & (barrier == 0)).astype(np.uint8), connectivity=4
    )
    areas = stats[1:, cv2.CC_STAT_AREA]
    large = [int(k) + 1 for k in np.argsort(-areas, kind="stable") if areas[k] >= SMALLEST_PART_MM2 * px_per_mm**2]
    if count < 3 or len(large) < 2:
        raise EditError("The barrier does not part the region. Draw it from outline to outline.")
    names = [region, *range(int(labels.max()) + 1, int(labels.max()) + len(large))]
    table = np.zeros(count, np.int32)
    table[large] = names
    filled = give_leftovers_to_nearest(table[parts])
    result = labels.copy()
    result[box] = np.where(inside, filled, labels[box])
    return result, names[1:]


def _ground(labels: NDArray[np.int32], edit: Edit, px_per_mm: float) -> tuple[NDArray[np.int32], list[int]]:
    """The paper round the figure, less a margin along the picture's border."""
    inside = labels == 0
    margin = round(edit["margin_mm"] * px_per_mm)
    if margin:
        kept = np.zeros(labels.shape, bool)
        kept[margin:-margin, margin:-margin] = True
        inside &= kept
    if inside.sum() < SMALLEST_GROUND_MM2 * px_per_mm**2:
        raise EditError("There is no paper round the figure that could be a ground.")
    return np.where(inside, np.int32(edit["label"]), labels), [edit["label"]]


def _horizon(labels: NDArray[np.int32], edit: Edit, px_per_mm: float) -> tuple[NDArray[np.int32], list[int]]:
    """Part a ground by the side of the line its pixels lie on, whatever stands before it."""
    points = np.asarray(smooth(edit["handles"]), float) * px_per_mm
    across = 0 if np.ptp(points[:, 0]) >= np.ptp(points[:, 1]) else 1
    points = points[np.argsort(points[:, across], kind="stable")]
    steps = np.arange(labels.shape[1 - across]) + 0.5
    border = np.interp(steps, points[:, across], points[:, 1 - across])
    rows, cols = (np.arange(size) + 0.5 for size in labels.shape)
    beyond = rows[:, None] > border[None, :] if across == 0 else cols[None, :] > border[:, None]
    inside = labels == edit["region"]
    least = SMALLEST_PART_MM2 * px_per_mm**2
    if (inside & beyond).sum() < least or (inside & ~beyond).sum() < least:
        raise EditError("The line crosses nothing of this ground. Draw it from one side to the other.")
    return np.where(inside & beyond, np.int32(edit["label"]), labels), [edit["label"]]


def _bands(labels: NDArray[np.int32], edit: Edit, px_per_mm: float) -> tuple[NDArray[np.int32], list[int]]:
    """Cut a ground into bands of the given widths; the first keeps its label."""
    widths, gap = edit["widths_mm"], edit["gap_mm"]
    if len(edit["labels"]) != len(widths) - 1:
        raise EditError("Every band after the first needs a label.")
    inside = labels == edit["region"]
    angle = np.radians(edit["from_deg"])
    rows, cols = (np.arange(size) + 0.5 for size in labels.shape)
    along = (-np.sin(angle) * cols[None, :] + np.cos(angle) * rows[:, None]) / px_per_mm
    along = along - along[inside].min() + 0.5 / px_per_mm
    room, wanted = float(along[inside].max()) + 0.5 / px_per_mm, sum(widths) + gap * (len(widths) - 1)
    if wanted > room + BAND_ROUNDING_MM:
        raise EditError(f"The bands are {wanted:.1f} mm wide together; the ground has only {room:.1f} mm.")
    result = np.where(inside, np.int32(0), labels)
    start = 0.0
    for label, width in zip([edit["region"], *edit["labels"]], widths, strict=True):
        band = inside & (along >= start) & (along < start + width)
        if not band.any():
            raise EditError("A band lies wholly behind the figure.")
        result[band] = label
        start += width + gap
    return result, list(edit["labels"])


GROUNDS = {"ground": _ground, "horizon": _horizon, "bands": _bands}


def _drawn_on(points: NDArray[np.float64]) -> NDArray[np.float64]:
    """The line with both its ends carried on straight by SNAP_MM."""

    def beyond(end: NDArray[np.float64], before: NDArray[np.float64]) -> NDArray[np.float64]:
        way = end - before
        return end + way / max(float(np.hypot(*way)), 1e-6) * SNAP_MM

    return np.concatenate([[beyond(points[0], points[1])], points, [beyond(points[-1], points[-2])]])
