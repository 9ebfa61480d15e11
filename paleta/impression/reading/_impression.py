"""One stamped image as pixels of known size."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

MM_PER_INCH = 25.4


@dataclass(frozen=True, slots=True, eq=False)
class Impression:
    """One stamped image.

    pixels    H x W x 3 float32, sRGB in 0..1, upright.
    dpi       dots per inch of `pixels`.
    warnings  sentences about what was changed or doubted while reading.
    drawn     made from line art, so there is no sheet that was photographed.
    """

    pixels: NDArray[np.float32]
    dpi: float
    warnings: tuple[str, ...] = ()
    drawn: bool = False

    @property
    def px_per_mm(self) -> float:
        return self.dpi / MM_PER_INCH
