"""Which paper an impression seems to be on."""

from __future__ import annotations

import cv2
import numpy as np

from paleta.colour import Lab, difference, srgb_to_lab
from paleta.impression import Impression
from paleta.materials import PAPERS, REFERENCE_PAPER, Paper

WHITE_L = 84.0
WHITE_CHROMA = 7.0
"""A scanner's or camera's white is not trusted to tell one white paper from another; creams and tones are."""
LOOKED_AT_PX = 160


def paper_white(impression: Impression) -> Lab:
    """The paper's own colour as the picture shows it; a scan's white is as true as its scanner."""
    scale = LOOKED_AT_PX / max(impression.pixels.shape[:2])
    small = cv2.resize(impression.pixels, None, fx=scale, fy=scale, interpolation=cv2.INTER_AREA).reshape(-1, 3)
    # Paper is what most of a line drawing shows, so the median of every channel is paper.
    light, a, b = srgb_to_lab(np.median(small, axis=0).astype(float))
    return float(light), float(a), float(b)


def paper_like(impression: Impression) -> Paper:
    """The known paper nearest to what most of the picture shows; any white counts as plain white card."""
    lab = paper_white(impression)
    if lab[0] > WHITE_L and float(np.hypot(lab[1], lab[2])) < WHITE_CHROMA:
        return REFERENCE_PAPER
    papers = list(PAPERS.values())
    return papers[int(np.argmin(difference(np.array([paper.lab for paper in papers]), lab)))]
