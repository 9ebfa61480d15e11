"""What is known of a paper."""

from __future__ import annotations

from dataclasses import dataclass, field

from paleta.colour import Lab, check_lab
from paleta.errors import SwatchError
from paleta.materials._weight import pounds_of

SURFACES = {
    "very smooth": "Very smooth",
    "smooth": "Smooth",
    "tooth": "A little tooth",
    "rough": "Rough",
    "glossy": "Glossy",
}


WATER = {"none": "Keep water away", "little": "Takes a little water", "much": "Made for water"}
BEHAVIOURS = {
    "curls": "Curls when it gets wet",
    "leaks": "Lets water carry colour past the line",
    "streaks": "Shows streaks",
    "slides": "Inks slide on it and wipe off",
}
"""What the trade says of papers, beside their surface. Media say with these words what does not go together (`Fit`)."""
LEAST_DRIES, MOST_DRIES = 0.2, 10.0


@dataclass(frozen=True, slots=True)
class Paper:
    """A paper by its own colour.

    gsm       its weight in g/m2, 0 where unknown; kind says how pounds count.
    surface   one of SURFACES; water one of WATER; behaves some of BEHAVIOURS.
    dries     how many times as long as on usual card what is wet stays workable and takes to dry.
    rank      its place in lists of those that ship.
    """

    code: str
    name: str
    lab: Lab
    gsm: float = 0.0
    kind: str = "cover"
    surface: str = "smooth"
    water: str = "none"
    behaves: tuple[str, ...] = ()
    dries: float = 1.0
    rank: int = field(default=0, compare=False)

    def __post_init__(self) -> None:
        check_lab(self.lab, self.name)
        for one, known, what in (
            (self.surface, SURFACES, "the surface"), (self.water, WATER, "how it takes water"),
            *((word, BEHAVIOURS, "how it behaves") for word in self.behaves),
        ):  # fmt: skip
            if one not in known:
                raise SwatchError(f"{self.name}: {what} must be one of {', '.join(known)}, got {one!r}.")
        if not LEAST_DRIES <= self.dries <= MOST_DRIES:
            raise SwatchError(
                f"{self.name}: what is wet dries in {LEAST_DRIES:g} to {MOST_DRIES:g} times as long as usual, "
                f"got {self.dries!r}."
            )

    @property
    def weighed_name(self) -> str:
        """The name with its weight in pounds, as it is sold in places that count so."""
        if not self.gsm:
            return self.name
        kind = "watercolour" if self.kind == "watercolour" else f"{self.kind} stock"
        return f"{self.name} ({pounds_of(self.gsm, self.kind):.0f} lb {kind})"
