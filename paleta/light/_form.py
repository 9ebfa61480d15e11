"""What is known of a form."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray


@dataclass(frozen=True, slots=True, eq=False)
class Stretch:
    """How the n pixels of a body lie to its base.

    way     unit vector (x, y) from the base through the body's middle.
    along   n, 0 at the base to 1 at the far end.
    across  n, -1..1 to either side of the way.
    """

    way: NDArray[np.float64]
    along: NDArray[np.float64]
    across: NDArray[np.float64]


Normals = NDArray[np.float32]
Bend = Callable[[Normals, Stretch | None, float], Normals]
"""n x 3 unit normals of a rounded body, how it lies to its base (None without one) and its bulge, to new normals."""


@dataclass(frozen=True, slots=True, kw_only=True)
class Form:
    """All that is known of a form: what differs from one to the other is written in its own module.

    rank          its place in lists.
    icon          its outline, an SVG path in a box of 40 x 24.
    noun          what several regions of it are called, "Petals"; "" where shape alone says nothing.
    tags          what a region of it is said to be as long as nothing else is said.
    right_side    of Poisson's equation (see _poisson.py), 0 = no height of its own; sign -1 sinks the body in.
    rise          height over that of the full round form.
    bulges        whether the bulge changes it.
    axis          "" not round across one direction only; "set" it is, along a direction that is read off the shape or
                  set by hand; "base" along the way from its base.
    has_base      grows from a tucked end, and darkens towards it; takes_base: it may be given one.
    deep_set      its base is dark because it lies deep, wherever the lamp stands.
    sided         where its light comes from can be read off it.
    bend          what it adds to the rounded surface.
    """

    code: str
    name: str
    rank: int
    icon: str
    noun: str = ""
    tags: tuple[str, ...] = ()
    right_side: float
    sign: float = 1.0
    rise: float = 1.0
    bulges: bool = True
    axis: str = ""
    has_base: bool = False
    takes_base: bool = True
    deep_set: bool = False
    sided: bool = False
    bend: Bend | None = None

    @property
    def rounded(self) -> bool:
        """Whether it has a height of its own, so that its shades show where the light comes from."""
        return self.right_side > 0


def tilted(normals: Normals, way: NDArray[np.float64], slope: NDArray[np.float64]) -> Normals:
    """Normals of the surface with a fall of `slope` (n) along the unit vector `way` added: towards it they lean by
    it.

    Parameters
    ----------
    normals
        n x 3, of unit length
    way
        n x 2 or 2, the direction of the fall as a unit vector
    slope
        n, how steep it is
    """
    steep = np.maximum(normals[:, 2:], 0.05)
    flat = normals[:, :2] / steep + slope[:, None] * way
    bent = np.concatenate([flat, np.ones((len(flat), 1))], axis=1)
    return (bent / np.linalg.norm(bent, axis=1, keepdims=True)).astype(np.float32)
