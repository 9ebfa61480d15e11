"""Whether two cells that meet are one: a small network looks at the ink round the place where they do.

Beside the measures of `evidence` it sees two square views of the ink, one of the place itself and one of what lies
about it, turned so that the nearest ink lies to the right. Its weights are fitted to simulated scans of drawings made
by chance (tools/fit_necks.py); no published source.
"""

from __future__ import annotations

import cv2
import numpy as np
from numpy.typing import NDArray

from paleta.impression._networks import forward, weights_of
from paleta.impression.regions._necks import FEATURES, Necks, banks_of, evidence, line_width, pick

VIEW = 21
"""Samples along each side of a view."""
VIEWS = ((2.5, 0.15), (8.0, 0.45))
"""How many widths of a line each view reaches beyond the neck, and how much it is blurred in widths of a line."""
SURE = 1.5
"""Log odds above which cells are joined: running two together costs more than leaving one in two."""

Floats = NDArray[np.float32]


def one_cell(
    necks: Necks,
    cells: NDArray[np.int32],
    distance: NDArray[np.float32],
    ink: NDArray[np.bool_],
    *,
    px_per_mm: float,
    gap_mm: float,
) -> Floats:
    """N log odds that the two cells of a neck are one, above 0 if that is likelier than a broken line.

    Parameters
    ----------
    necks
        N of them
    cells
        H x W, from 1
    distance
        H x W, of paper from ink in pixels
    ink
        H x W
    px_per_mm
        pixels to a millimetre
    gap_mm
        widest gap in a line
    """
    line = line_width(ink)
    seen = evidence(necks, cells, distance, ink, line=line, px_per_mm=px_per_mm, gap_mm=gap_mm)
    return judge(seen.astype(np.float32), views(necks, ink, line))


def views(necks: Necks, ink: NDArray[np.bool_], line: float) -> Floats:
    """N x 2 x VIEW x VIEW: the ink round each neck, 0..1; `line` is the usual width of the lines in px.

    Parameters
    ----------
    necks
        N of them
    ink
        H x W
    line
        usual width of the lines in pixels
    """
    half = necks.half_px.astype(float)
    rows, cols = (where.astype(float) for where in np.unravel_index(necks.places, ink.shape))
    near, _ = banks_of(ink, rows, cols, half, line)
    sine, cosine = np.sin(near.angle)[:, None, None], np.cos(near.angle)[:, None, None]
    side = np.linspace(-1, 1, VIEW)
    pictures = []
    for reach, blur in VIEWS:
        soft = cv2.GaussianBlur(ink.astype(np.uint8) * 255, (0, 0), max(0.5, blur * line))
        extent = (half + reach * line)[:, None, None]
        u, v = extent * side[None, None, :], extent * side[None, :, None]
        y, x = rows[:, None, None] + u * sine + v * cosine, cols[:, None, None] + u * cosine - v * sine
        pictures.append(pick(soft, y, x).astype(np.float32) / 255)
    return np.stack(pictures, axis=1)


def judge(seen: Floats, looked: Floats) -> Floats:
    """Log odds from measures and views. What is mirrored is the same neck, so all four mirrored views are asked.

    Parameters
    ----------
    seen
        N x measures
    looked
        N x 2 x VIEW x VIEW

    Returns
    -------
    N.
    """
    net = weights_of("gap_classifier.npz", FEATURES, "tools/fit_necks.py")
    odds = np.zeros(len(seen), np.float32)
    for rows in (slice(None), slice(None, None, -1)):
        for cols in (slice(None), slice(None, None, -1)):
            odds += forward(net, "cell", inputs(seen, looked[:, :, rows, cols]))[:, 0]
    return (odds / 4).astype(np.float32)


def inputs(seen: Floats, looked: Floats) -> Floats:
    """What the network is shown of each neck, as rows.

    Parameters
    ----------
    seen
        N x measures
    looked
        N x 2 x VIEW x VIEW
    """
    return np.concatenate([seen, looked.reshape(len(looked), len(VIEWS) * VIEW**2)], axis=1)
