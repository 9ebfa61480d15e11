"""Schools of shade order, written as data. All are common practice (docs/trade-notes.md, section Schools)."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from paleta.errors import SchoolError
from paleta.media import MEDIA

Which = Literal["palest", "middles from dark", "middles from pale", "darkest", "second darkest"]
Where = Literal["all over", "own zone"]
Join = Literal["start", "wet", "dry", "any"]


@dataclass(frozen=True, slots=True)
class Step:
    """One line of a school.

    which  the shades of the ramp it lays, one pass each.
    where  the whole region, or only the zone that belongs to the shade.
    join   how it follows the pass before: while that is still wet, once it is dry, or at any time.
    how    what the hand does, a sentence without its end.
    """

    which: Which
    where: Where
    join: Join
    how: str


@dataclass(frozen=True, slots=True)
class School:
    code: str
    name: str
    medium: str
    summary: str
    steps: tuple[Step, ...]

    def __post_init__(self) -> None:
        if self.medium not in MEDIA:
            raise SchoolError(f"{self.name}: the medium must be one of {', '.join(MEDIA)}.")
        if not self.steps or self.steps[0].join != "start":
            raise SchoolError(f"{self.name}: the first step must start the region.")
        if any(step.join == "start" for step in self.steps[1:]):
            raise SchoolError(f"{self.name}: only the first step can start the region.")


SCHOOLS = {
    school.code: school
    for school in (
        School(
            "M1",
            "Pale first, melt last",
            "marker",
            "The palest all over, the darkest in the shade, the middles between, the palest again to melt the steps.",
            (
                Step("palest", "all over", "start", "lay an even coat over the whole region"),
                Step("darkest", "own zone", "wet", "lay the shade, with a ragged edge"),
                Step("middles from dark", "own zone", "wet", "overlap the edge of the darker shade and pull outwards"),
                Step("palest", "all over", "wet", "go over everything again until the steps melt"),
            ),
        ),
        School(
            "M2",
            "Pale first, no last coat",
            "marker",
            "The palest all over, the darkest on the shade side, the middles soften the step. No last coat.",
            (
                Step("palest", "all over", "start", "lay an even coat over the whole region"),
                Step("darkest", "own zone", "wet", "lay the shade, with a ragged edge"),
                Step("middles from dark", "own zone", "wet", "soften the step with small strokes over the edge"),
            ),
        ),
        School(
            "M3",
            "Dark first, two coats",
            "marker",
            "Dark to pale with the highlight left bare, let it dry, then the whole again with the palest over all.",
            (
                Step("darkest", "own zone", "start", "lay the shade, with a ragged edge"),
                Step("middles from dark", "own zone", "wet", "pull the edge out towards the light"),
                Step("palest", "own zone", "wet", "soften the edge and leave the lightest spot bare"),
                Step("darkest", "own zone", "dry", "second coat in the shade, strokes all one way"),
                Step("middles from dark", "own zone", "wet", "second coat, pull the edge out again"),
                Step("palest", "all over", "wet", "go over everything, the bare spot too"),
            ),
        ),
        School(
            "M4",
            "Second darkest first",
            "marker",
            "The second darkest down to the palest, blended back, and only then the darkest in the deepest creases.",
            (
                Step("second darkest", "own zone", "start", "lay the shaded side"),
                Step("middles from dark", "own zone", "wet", "pull towards the light"),
                Step("palest", "all over", "wet", "bring it down to the highlight and blend back"),
                Step("darkest", "own zone", "dry", "touch only the deepest creases, then accents"),
            ),
        ),
        School(
            "W1",
            "Dark ends, light middle",
            "watercolour",
            "Pigment at the dark ends, joined through the middle with a damp brush; raw colour on the deepest points.",
            (
                Step("darkest", "own zone", "start", "touch colour to the deep ends"),
                Step("middles from dark", "own zone", "wet", "set it against the wet edge and let the two meet"),
                Step("palest", "own zone", "wet", "join the ends with a damp brush, lift a light line if it closes up"),
                Step("darkest", "own zone", "dry", "touch raw colour to the deepest points"),
            ),
        ),
        School(
            "W2",
            "Pale wash, drop the dark in",
            "watercolour",
            "A pale wash all over, then darker colour dropped in at the base while it is wet.",
            (
                Step("palest", "all over", "start", "lay an even wash up to the line"),
                Step("middles from pale", "own zone", "wet", "drop it into the wet wash and let it move"),
                Step("darkest", "own zone", "wet", "drop it in at the base and leave it alone"),
            ),
        ),
        School(
            "W3",
            "Water first",
            "watercolour",
            "Clean water up to the line, strong colour on the shade edge, let it travel inwards.",
            (
                Step(
                    "darkest",
                    "own zone",
                    "start",
                    "wet the region with clean water, then drop colour on the shade edge",
                ),
                Step("middles from dark", "own zone", "wet", "drop it beside the dark and let them travel"),
                Step("palest", "own zone", "wet", "ease the last edge with a damp brush"),
            ),
        ),
        School(
            "P1",
            "Light first, deepen in layers",
            "pencil",
            "The palest first to protect the highlights, middle tones around, the darkest in the deepest shade.",
            (
                Step("palest", "own zone", "start", "cover the highlights first to protect them"),
                Step("middles from pale", "own zone", "any", "layer lightly, working round the highlight"),
                Step("darkest", "own zone", "any", "deepen the shade in small circles"),
                Step("palest", "all over", "any", "go over everything with a light hand to smooth the grain"),
            ),
        ),
    )
}
DEFAULT_SCHOOL = {"marker": "M1", "watercolour": "W2", "pencil": "P1"}


def school_named(code: str) -> School:
    """The school with this code.

    Raises
    ------
    SchoolError
        If there is none.
    """
    if code not in SCHOOLS:
        raise SchoolError(f"There is no school {code!r}. Known are {', '.join(SCHOOLS)}.")
    return SCHOOLS[code]
