"""Bodies and the forms they can take."""

from __future__ import annotations

from dataclasses import dataclass

from paleta.descriptions import described_in
from paleta.errors import FormError
from paleta.light._form import Form

PAPER_DEPTH = -32768
"""The depth of the paper around the image: behind everything, and nothing falls on it."""


FORMS = described_in("paleta.light.forms", Form)


@dataclass(frozen=True, slots=True)
class Body:
    """Regions that share one form.

    bulge     height over that of the full round form, 0.05 to 2.
    depth     higher is nearer the viewer.
    axis_deg  tubes only: the long direction, clockwise from the top edge; None lets Paleta read it off the shape.
    base_mm   (x, y) of the tucked end, for any form; None lets Paleta choose for forms that have one.
    turn_deg  the light of this body is turned clockwise by hand against the lamp's; 180 swaps light and shade.
    """

    regions: tuple[int, ...]
    form: str = "dome"
    bulge: float = 1.0
    depth: int = 0
    axis_deg: float | None = None
    base_mm: tuple[float, float] | None = None
    turn_deg: float = 0.0

    def __post_init__(self) -> None:
        if self.form not in FORMS:
            raise FormError(f"The form must be one of {', '.join(FORMS)}, got {self.form!r}.")
        if not 0.05 <= self.bulge <= 2:
            raise FormError(f"bulge must lie in 0.05..2, got {self.bulge}.")
        if not -180 <= self.turn_deg <= 180:
            raise FormError(f"turn_deg must lie in -180..180, got {self.turn_deg}.")
        if not self.regions:
            raise FormError("A body needs at least one region.")
