"""A colour reader: held on its white tile first, then on a swatch. This one is simulated."""

from __future__ import annotations

from typing import Protocol

import numpy as np

from paleta.colour import Lab
from paleta.errors import ReaderNotReady

READS_AVERAGED = 3
NOISE = (0.35, 0.3, 0.3)
"""Standard deviation of one read in L*, a*, b*. From memory: usual for hand-held readers."""


class ColourReader(Protocol):
    """What Paleta asks of any reader."""

    def white_tile(self) -> None: ...

    def read(self, swatch_lab: Lab) -> Lab: ...


class SimulatedReader:
    """Reads the colour it is shown with a little noise. Without its white tile first it refuses.

    `seed` makes its noise repeatable; `calibrated` says whether the tile was seen in this sitting.
    """

    def __init__(self, seed: int, *, calibrated: bool = False) -> None:
        self._chance = np.random.default_rng(seed)
        self._calibrated = calibrated

    def white_tile(self) -> None:
        self._calibrated = True

    def read(self, swatch_lab: Lab) -> Lab:
        """One read of a surface that truly has `swatch_lab`.

        Raises
        ------
        ReaderNotReady
            If the white tile was not shown first.
        """
        if not self._calibrated:
            raise ReaderNotReady("Put the reader on its white tile first; without it every colour would be off.")
        lab = np.array(swatch_lab) + self._chance.normal(0, NOISE)
        return float(np.clip(lab[0], 0, 100)), float(lab[1]), float(lab[2])


def averaged(reader: ColourReader, swatch_lab: Lab) -> Lab:
    """The mean of READS_AVERAGED reads, to a tenth.

    Parameters
    ----------
    reader
        The simulated colour reader.
    swatch_lab
        What it is held on.
    """
    mean = np.mean([reader.read(swatch_lab) for _ in range(READS_AVERAGED)], axis=0)
    return round(float(mean[0]), 1), round(float(mean[1]), 1), round(float(mean[2]), 1)
