"""The scan or photo of one stamped image: reading it and finding its regions."""

from paleta.impression._loops import warm_up
from paleta.impression.depth._junctions import t_junctions
from paleta.impression.depth._order import Front, Level, guess_order
from paleta.impression.grouping._things import SURE, Group, PairScores, Things, find_things, weigh
from paleta.impression.reading._corners import Corners, check_corners, find_sheet, rectify
from paleta.impression.reading._impression import MM_PER_INCH, Impression
from paleta.impression.reading._read import WIDTH_RANGE_MM, read
from paleta.impression.reading._svg import is_svg
from paleta.impression.regions._doubts import likeness_doubts
from paleta.impression.regions._edge_distance import to_edge
from paleta.impression.regions._edits import (
    EDIT_SCHEMA,
    MOST_BANDS,
    MOST_HANDLES,
    apply_edits,
    check_edit,
    parts_of_split,
)
from paleta.impression.regions._find import find_regions
from paleta.impression.regions._region_map import (
    PAPER,
    Region,
    RegionMap,
    labels_from_png,
    labels_in,
    labels_to_png,
)
from paleta.impression.regions._ring import is_ring

__all__ = [
    "EDIT_SCHEMA",
    "MM_PER_INCH",
    "MOST_BANDS",
    "MOST_HANDLES",
    "PAPER",
    "SURE",
    "WIDTH_RANGE_MM",
    "Corners",
    "Front",
    "Group",
    "Impression",
    "Level",
    "PairScores",
    "Region",
    "RegionMap",
    "Things",
    "apply_edits",
    "check_corners",
    "check_edit",
    "find_regions",
    "find_sheet",
    "find_things",
    "guess_order",
    "is_ring",
    "is_svg",
    "labels_from_png",
    "labels_in",
    "labels_to_png",
    "likeness_doubts",
    "parts_of_split",
    "read",
    "rectify",
    "t_junctions",
    "to_edge",
    "warm_up",
    "weigh",
]
