"""The lights of a picture: one distant lamp, and glows inside it."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from paleta.errors import LampError
from paleta.fields import Number, Text, check_fields, holds


@dataclass(frozen=True, slots=True, kw_only=True)
class Lamp:
    """A distant lamp over the stamped image.

    azimuth_deg    where it stands: 0 at the top edge (12 o'clock), turning clockwise; 360 is 0 again.
    elevation_deg  0 grazes the paper, 90 is straight overhead.
    ambient        share of light that comes from everywhere, 0..0.9.
    """

    azimuth_deg: float = holds(Number(0, 360))
    elevation_deg: float = holds(Number(0, 90))
    ambient: float = holds(Number(0, 0.9), 0.2)

    def __post_init__(self) -> None:
        check_fields(self, LampError)

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

    x_mm: float = holds(Number(0, 1000))
    y_mm: float = holds(Number(0, 1000))
    height_mm: float = holds(Number(0, 100), 8.0)
    reach_mm: float = holds(Number(1, 200), 20.0)
    strength: float = holds(Number(0, 5), 1.0)
    tint: str = holds(Text(7, pattern="#[0-9a-f]{6}"), "")
    reserve_mm: float = holds(Number(0, 100), 0.0)

    def __post_init__(self) -> None:
        check_fields(self, LampError, "A glow")
