"""Bodies and the forms they can take."""

from __future__ import annotations

from dataclasses import dataclass

from paleta.errors import FormError
from paleta.impression import RegionMap

SLIM_SHARE = 0.2
"""A region whose widest place is less than this part of its length is guessed as a tube."""


@dataclass(frozen=True, slots=True)
class Form:
    """For the solver: `right_side` of Poisson's equation (see _poisson.py); `sign` -1 sinks the body in."""

    right_side: float
    sign: float
    has_axis: bool = False


FORMS = {
    "flat": Form(0.0, 0.0),
    "dome": Form(4.0, 1.0),
    "tube": Form(2.0, 1.0, has_axis=True),
    "hollow": Form(4.0, -1.0),
}


@dataclass(frozen=True, slots=True)
class Body:
    """Regions that share one form.

    bulge     height over that of the full round form, 0.05 to 2.
    depth     higher is nearer the viewer.
    axis_deg  tubes only: the long direction, clockwise from the top edge; None lets Paleta read it off the shape.
    """

    regions: tuple[int, ...]
    form: str = "dome"
    bulge: float = 1.0
    depth: int = 0
    axis_deg: float | None = None

    def __post_init__(self) -> None:
        if self.form not in FORMS:
            raise FormError(f"The form must be one of {', '.join(FORMS)}, got {self.form!r}.")
        if not 0.05 <= self.bulge <= 2:
            raise FormError(f"bulge must lie in 0.05..2, got {self.bulge}.")
        if not self.regions:
            raise FormError("A body needs at least one region.")


def guess_bodies(region_map: RegionMap) -> list[Body]:
    """A first guess: one dome per region; a region that lies wholly inside another stands before it.

    Long, slim regions are guessed as tubes.
    """
    neighbours, on_paper = region_map.neighbours(), _touching_paper(region_map)
    depths: dict[int, int] = {}

    def depth(label: int) -> int:
        if label not in depths:
            depths[label] = 0
            around = neighbours[label]
            if label not in on_paper and len(around) == 1:
                (host,) = around
                if host in on_paper or len(neighbours[host]) > 1:
                    depths[label] = depth(host) + 1
        return depths[label]

    bodies = []
    for region in region_map.regions:
        top, left, bottom, right = region.bbox
        slim = region.inradius_mm * region_map.px_per_mm * 2 / max(bottom - top, right - left, 1)
        form = "tube" if slim < SLIM_SHARE else "dome"
        bodies.append(Body(regions=(region.label,), form=form, depth=depth(region.label)))
    return bodies


def _touching_paper(region_map: RegionMap) -> set[int]:
    return {border.b for border in region_map.borders if border.a == 0}
