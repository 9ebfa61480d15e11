"""Whether a picture is a line drawing at all: between its lines lies bare paper."""

from __future__ import annotations

import cv2
import numpy as np

from paleta.impression.reading._impression import Impression
from paleta.impression.regions._ink import smooth_darkness
from paleta.impression.regions._region_map import RegionMap

SOFT_EDGE_MM, STROKE_MM = 0.3, 2.0
"""Beside a line its soft edge is not looked at; ink wider than a stroke is a surface."""
TINTED = 0.2
"""Paper darker than this share of the lines' own darkness is not bare."""
MOST_TINTED, MOST_UNEVEN = 0.015, 0.018
"""Share of the paper that is not bare, and spread of its darkness, above which it is no paper."""
MOST_SURFACE, TINTED_BESIDE_SURFACES = 0.12, 0.01
"""All limits from memory of simulated scans (below 0.001 and 0.011) and of photos of things (above 0.016 and 0.016)."""
NO_DRAWING = (
    "Much of this picture is neither bare paper nor line, as in a photo of something else or a card that is coloured "
    "already. What was found may not be the regions you mean."
)


def likeness_doubts(impression: Impression, region_map: RegionMap) -> tuple[str, ...]:
    """A sentence if the picture does not look like a stamped line drawing, else nothing.

    Parameters
    ----------
    impression
        The scan.
    region_map
        What was found in it.
    """
    ink, px_per_mm = region_map.ink, impression.px_per_mm
    darkness = smooth_darkness(impression)
    away = cv2.distanceTransform((~ink).astype(np.uint8), cv2.DIST_L2, 3) > SOFT_EDGE_MM * px_per_mm
    if not away.any() or not ink.any():
        return ()
    paper = darkness[away]
    tinted = float((paper > TINTED * np.median(darkness[ink])).mean())
    depth = cv2.distanceTransform(ink.astype(np.uint8), cv2.DIST_L2, 3)
    surface = float(np.count_nonzero(depth > STROKE_MM / 2 * px_per_mm) / np.count_nonzero(ink))
    uneven = tinted > MOST_TINTED and float(paper.std()) > MOST_UNEVEN
    solid = surface > MOST_SURFACE and tinted > TINTED_BESIDE_SURFACES
    return (NO_DRAWING,) if uneven or solid else ()
