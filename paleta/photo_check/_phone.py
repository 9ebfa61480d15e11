"""What a phone's camera makes of the light that falls into it, forwards and backwards."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from paleta.errors import PhotoUnfit
from paleta.photo_check._cells import DARKEST

TONE, CURVE, MIXING, VIVID = 0.06, 0.02, 0.004, 0.05
"""Spreads of what phones do to contrast, to its curve, to single colours and to how vivid all is; held near nothing,
or a pen that is off would be explained away."""
LARGEST = np.array([4.0] * 3 + [1.0, 0.5] + [0.2] * 6 + [1.0])
"""Beyond these no phone goes."""
END = 12
"""So many numbers say what a phone did."""
MIDDLE = float(np.log(0.2))
"""Contrast turns about the light of a middle grey."""
NEWTON, STEP = 4, 1e-4
"""Rounds in which contrast is taken back, and how far a value is moved to see what it changes."""
GAMMA = 2.2
"""Near what sRGB writes light with."""
PAIRS = ((0, 1), (0, 2), (1, 0), (1, 2), (2, 0), (2, 1))
"""Of every channel with every other one, in the order of the mixing values."""


@dataclass(frozen=True, eq=False)
class Phone:
    """What a phone makes of light: gains of R, G and B, contrast, its curve, how much of each channel is mixed into
    each other one (white stays white), and how vivid all is made, which is done to light as it is written (to the
    power of 1 / GAMMA). The gains are logarithms; the others are 0 for nothing at all.

    Light N x 3 goes in and comes out as its logarithm, with DARKEST added, as `log_light` gives it.
    """

    values: NDArray[np.float64]

    @staticmethod
    def held() -> NDArray[np.float64]:
        """END x END: what it costs to be other than nothing."""
        return np.diag([1e-6] * 3 + [TONE**-2, CURVE**-2] + [MIXING**-2] * 6 + [VIVID**-2])

    def believed(self) -> Phone:
        """Itself.

        Raises
        ------
        PhotoUnfit
            If no phone does that to light: what was seen has another reason.
        """
        if not (np.abs(self.values) < LARGEST).all():
            raise PhotoUnfit(
                "The light of this photo cannot be told from the colours of the card. Take it again in even light, "
                "without a filter."
            )
        return self

    @classmethod
    def plain(cls) -> Phone:
        return cls(np.zeros(END))

    def seen_as(
        self, plan: NDArray[np.float64], lit: NDArray[np.float64]
    ) -> tuple[NDArray[np.float64], NDArray[np.float64], NDArray[np.float64]]:
        """What it makes of `plan` under light `lit` (N x 3 logarithms); 3N x END: how that changes with each of its
        values; N x 3: and with the light."""
        made, steep = self._made(plan, lit)
        columns = np.empty((3, len(plan), END))
        for place in range(END):
            moved = self.values.copy()
            moved[place] += STEP
            columns[:, :, place] = ((Phone(moved)._made(plan, lit)[0] - made) / STEP).T
        return made, columns.reshape(-1, END), steep

    def _made(
        self, plan: NDArray[np.float64], lit: NDArray[np.float64]
    ) -> tuple[NDArray[np.float64], NDArray[np.float64]]:
        light = np.maximum(np.exp(plan) - DARKEST, 0) * np.exp(self.values[:3] + lit)
        written = np.maximum(light @ self._mixing.T, 0) ** (1 / GAMMA)
        vivid = written + self._vivid * (written - written.mean(axis=1, keepdims=True))
        came = np.maximum(vivid, 0) ** GAMMA
        contrast, curve = self.values[3:5]
        grey = np.log(came + DARKEST) - MIDDLE
        steep = (1 + contrast + 2 * curve * grey) * came / (came + DARKEST)
        return MIDDLE + (1 + contrast) * grey + curve * grey**2, steep

    def undone(self, log: NDArray[np.float64], lit: NDArray[np.float64]) -> NDArray[np.float64]:
        """N x 3: the plan's light of which, under light `lit`, it makes `log`."""
        contrast, curve = self.values[3:5]
        grey = wanted = log - MIDDLE
        for _ in range(NEWTON):
            grey = grey - (grey + contrast * grey + curve * grey**2 - wanted) / (1 + contrast + 2 * curve * grey)
        vivid = np.maximum(np.exp(grey + MIDDLE) - DARKEST, 0) ** (1 / GAMMA)
        written = (vivid + self._vivid * vivid.mean(axis=1, keepdims=True)) / (1 + self._vivid)
        light = (np.maximum(written, 0) ** GAMMA @ np.linalg.inv(self._mixing).T) * np.exp(-self.values[:3] - lit)
        return np.log(np.maximum(light, 0) + DARKEST)

    @property
    def _vivid(self) -> float:
        return float(self.values[-1])

    @property
    def _mixing(self) -> NDArray[np.float64]:
        matrix = np.eye(3)
        for (one, other), share in zip(PAIRS, self.values[5:-1], strict=True):
            matrix[one, other] += share
            matrix[one, one] -= share
        return matrix
