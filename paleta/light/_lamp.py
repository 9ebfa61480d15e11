"""The lights of a picture: one distant lamp, and glows inside it."""

from __future__ import annotations

import re
from dataclasses import dataclass

import numpy as np

from paleta.errors import LampError

TINT = re.compile(r"#[0-9a-f]{6}")


@dataclass(frozen=True, slots=True, kw_only=True)
class Lamp:
    """A distant lamp over the stamped image.

    azimuth_deg    where it stands: 0 at the top edge (12 o'clock), turning clockwise; 360 is 0 again.
    elevation_deg  0 grazes the paper, 90 is straight overhead.
    ambient        share of light that comes from everywhere, 0..0.9.
    """

    azimuth_deg: float
    elevation_deg: float
    ambient: float = 0.2

    def __post_init__(self) -> None:
        if not 0 <= self.azimuth_deg <= 360:
            raise LampError(f"azimuth_deg must lie in 0..360, got {self.azimuth_deg}.")
        if not 0 <= self.elevation_deg <= 90:
            raise LampError(f"elevation_deg must lie in 0..90, got {self.elevation_deg}.")
        if not 0 <= self.ambient <= 0.9:
            raise LampError(f"ambient must lie in 0..0.9, got {self.ambient}.")

    @property
    def direction(self) -> tuple[float, float, float]:
        """Unit vector from the paper to the lamp, (x right, y down, z to the viewer)."""
        azimuth, elevation = np.radians(self.azimuth_deg), np.radians(self.elevation_deg)
        return (
            float(np.sin(azimuth) * np.cos(elevation)),
            float(-np.cos(azimuth) * np.cos(elevation)),
            float(np.sin(elevation)),
        )

    @property
    def clock(self) -> str:
        """The place as a clock position to the nearest half hour, for example "10:30"."""
        halves = round(self.azimuth_deg / 15) % 24
        hour = halves // 2 or 12
        return f"{hour}:{'30' if halves % 2 else '00'}"


@dataclass(frozen=True, slots=True, kw_only=True)
class Glow:
    """A light inside the picture at (x_mm, y_mm) from the top left corner, `height_mm` above the paper.

    reach_mm    where its light has fallen to a quarter; strength 1 is as bright as the lamp.
    tint        "#rrggbb", the colour that sides facing it catch; empty = white light.
    reserve_mm  within this distance paper is left bare; 0 = nothing is reserved.
    """

    x_mm: float
    y_mm: float
    height_mm: float = 8.0
    reach_mm: float = 20.0
    strength: float = 1.0
    tint: str = ""
    reserve_mm: float = 0.0

    def __post_init__(self) -> None:
        if self.reach_mm <= 0 or self.height_mm < 0 or not 0 <= self.strength <= 5:
            raise LampError("A glow needs a reach above 0, a height of 0 or more and a strength in 0..5.")
        if not 0 <= self.reserve_mm <= 100:
            raise LampError("A glow can reserve up to 100 mm round it.")
        if self.tint and not TINT.fullmatch(self.tint):
            raise LampError(f"A glow's tint is written like #ffd27a, got {self.tint!r}.")
