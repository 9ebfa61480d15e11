"""Schools of shade order, written as data. All are common practice (docs/trade-notes.md, section Schools)."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import asdict, dataclass
from typing import Any, Literal, get_args

from paleta.errors import SchoolError
from paleta.fields import unwanted_in
from paleta.media import MEDIA

Which = Literal["palest", "middle", "middles from dark", "middles from pale", "darkest", "second darkest"]
Where = Literal["all over", "own zone"]
Join = Literal["start", "wet", "dry", "any"]
LONGEST_NAME, LONGEST_SUMMARY, LONGEST_HOW, MOST_STEPS = 60, 300, 120, 12


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

    def __post_init__(self) -> None:
        for value, kind, word in (
            (self.which, Which, "which"),
            (self.where, Where, "where"),
            (self.join, Join, "join"),
        ):
            if value not in get_args(kind):
                raise SchoolError(f"{word} must be one of {', '.join(get_args(kind))}, got {value!r}.")
        if not self.how.strip() or len(self.how) > LONGEST_HOW:
            raise SchoolError(f"Every step says how in 1 to {LONGEST_HOW} characters.")


@dataclass(frozen=True, slots=True)
class School:
    code: str
    name: str
    medium: str
    summary: str
    steps: tuple[Step, ...]

    def __post_init__(self) -> None:
        if not self.name.strip() or len(self.name) > LONGEST_NAME or len(self.summary) > LONGEST_SUMMARY:
            raise SchoolError(
                f"A school has a name of 1 to {LONGEST_NAME} characters and a summary of up to {LONGEST_SUMMARY}."
            )
        if any(unwanted_in(text) for text in (self.name, self.summary, *(step.how for step in self.steps))):
            raise SchoolError("The school holds characters that cannot be written down.")
        if len(self.steps) > MOST_STEPS:
            raise SchoolError(f"{self.name}: a school has up to {MOST_STEPS} steps.")
        if self.medium not in MEDIA:
            raise SchoolError(f"{self.name}: the medium must be one of {', '.join(MEDIA)}.")
        if not self.steps or self.steps[0].join != "start":
            raise SchoolError(f"{self.name}: the first step must start the region.")
        if any(step.join == "start" for step in self.steps[1:]):
            raise SchoolError(f"{self.name}: only the first step can start the region.")

    @property
    def own(self) -> bool:
        """Whether a user wrote it."""
        return self.code.startswith(OWN_PREFIX)


def school_to_plain(school: School) -> dict[str, Any]:
    """The school as the JSON that is shared: name, medium, summary and steps."""
    plain = {key: getattr(school, key) for key in ("code", "name", "medium", "summary")}
    return {**plain, "steps": [asdict(step) for step in school.steps]}


def school_from_plain(plain: Mapping[str, Any], *, code: str | None = None) -> School:
    """A school from shared JSON. Steps are laid one after the other as they are listed, so none can wait for itself.

    Raises
    ------
    SchoolError
        With what is wrong: an unknown field or word, a missing step, steps that point at each other.
    """
    if not isinstance(plain, Mapping):
        raise SchoolError("A school is written as an object with name, medium, summary and steps.")
    unknown = sorted(plain.keys() - {"code", "name", "medium", "summary", "steps"})
    if unknown:
        raise SchoolError(f"A school has no field {unknown[0]!r}.")
    if not isinstance(plain.get("steps"), list):
        raise SchoolError("A school lists its steps one after the other.")
    steps = []
    for number, step in enumerate(plain["steps"][: MOST_STEPS + 1], start=1):
        if not isinstance(step, Mapping):
            raise SchoolError(f"Step {number} is not written as which, where, join and how.")
        if {"after", "before"} & step.keys():
            raise SchoolError(
                f"Step {number} points at another step. Steps follow each other as they are listed; one that waits for "
                "a later one would go round in a circle."
            )
        missing = [key for key in ("which", "where", "join", "how") if not isinstance(step.get(key), str)]
        if missing or len(step) != 4:
            raise SchoolError(f"Step {number} needs which, where, join and how, and nothing else.")
        steps.append(Step(step["which"], step["where"], step["join"], step["how"]))
    texts = {key: plain.get(key, "") for key in ("name", "medium", "summary")}
    if not all(isinstance(text, str) for text in texts.values()):
        raise SchoolError("Name, medium and summary of a school are text.")
    return School(code=code or str(plain.get("code", "")), steps=tuple(steps), **texts)


OWN_PREFIX = "own-"


def _text(longest: int) -> dict[str, Any]:
    return {"type": "string", "maxLength": longest}


SCHOOL_SCHEMA: dict[str, Any] = {
    "type": "object",
    "properties": {
        "code": _text(40),
        "name": _text(LONGEST_NAME),
        "medium": {"enum": [*MEDIA]},
        "summary": _text(LONGEST_SUMMARY),
        "steps": {
            "type": "array",
            "maxItems": MOST_STEPS,
            "items": {
                "type": "object",
                "properties": {
                    "which": {"enum": [*get_args(Which)]},
                    "where": {"enum": [*get_args(Where)]},
                    "join": {"enum": [*get_args(Join)]},
                    "how": _text(LONGEST_HOW),
                },
                "required": ["how", "join", "where", "which"],
                "additionalProperties": False,
            },
        },
    },
    "required": ["code", "medium", "name", "steps", "summary"],
    "additionalProperties": False,
}
"""JSON Schema of a school's plain form."""
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
            "M5",
            "Two coats, one way",
            "marker",
            "For grounds: the palest marked first, then flooded in strokes of one direction, dried until the streaks "
            "even out, and coated again the same way.",
            (
                Step("palest", "own zone", "start", "mark the palest part first, so that it is never coloured over"),
                Step("middles from pale", "own zone", "wet", "work away from it, each shade into the last"),
                Step("darkest", "own zone", "wet", "flood the rest in strokes of one direction"),
                Step("darkest", "own zone", "dry", "second coat in the same direction, once bone dry"),
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
        School(
            "P2",
            "Over markers",
            "pencil",
            "Over a coloured marker base: second darkest for lines and creases, paler ones to blend, palest all over.",
            (
                Step("second darkest", "own zone", "start", "draw lines and creases over the dry marker"),
                Step("middles from dark", "own zone", "any", "blend outwards from the creases"),
                Step("palest", "all over", "any", "go over all with a light hand to soften the texture"),
                Step("darkest", "own zone", "any", "press into the creases, last accents"),
            ),
        ),
        School(
            "D1",
            "Dark first, edge to edge",
            "soluble",
            "Used dry: the darkest, at once the next touching only its edge in small circles, and so on to the palest.",
            (
                Step("darkest", "own zone", "start", "work a patch of a few square centimetres, leave the edge ragged"),
                Step("middles from dark", "own zone", "wet", "touch only the damp edge, in small circles"),
                Step("palest", "own zone", "wet", "ease the last edge out, never scrub back over the dark"),
            ),
        ),
        School(
            "D2",
            "Pulled with a wet brush",
            "soluble",
            "Colour at the shaded edge, pulled inwards with a damp brush; raw colour again when dry.",
            (
                Step("darkest", "own zone", "start", "draw along the shaded edge"),
                Step("middles from dark", "own zone", "wet", "draw beside it and pull both inwards with a damp brush"),
                Step("palest", "own zone", "wet", "pull the last of it over the light, wet within a minute"),
                Step("darkest", "own zone", "dry", "touch raw colour to the deepest points"),
            ),
        ),
        School(
            "B1",
            "Palest first from the edge",
            "inkpad",
            "Two or three inks in small circles, palest first from the edge, darker over it, back and forth.",
            (
                Step("palest", "all over", "start", "blend in small circles from the edge, off the mask and on"),
                Step("middles from pale", "own zone", "any", "blend over the first, back and forth where they meet"),
                Step("darkest", "own zone", "any", "deepen the corner away from the light; wipe the mask between inks"),
                Step("palest", "all over", "any", "go back over the joins"),
            ),
        ),
        School(
            "B2",
            "Layered stamping",
            "inkpad",
            "Solid layers of ink: the palest for the whole layout, then the darker ones over it when dry.",
            (
                Step("palest", "all over", "start", "stamp or lay the palest solid layer"),
                Step("middles from pale", "own zone", "dry", "lay the next darker layer in register"),
                Step("darkest", "own zone", "dry", "lay the darkest layer in register"),
            ),
        ),
        School(
            "B3",
            "Pounced",
            "inkpad",
            "Light inks on felt first, the strong ones at opposite ends: pounce, turn, pounce.",
            (
                Step("palest", "all over", "start", "pounce the lightest ink with felt, turning it every time"),
                Step("middles from pale", "own zone", "any", "pounce into the first while it is fresh"),
                Step("darkest", "own zone", "any", "a drop at the far end of the felt; pounce, turn, pounce"),
            ),
        ),
        *(
            School(
                f"{letter}0",
                "Flat, one coat",
                medium,
                "One even coat of the middle shade and nothing else: for tiny things and for distance.",
                (Step("middle", "all over", "start", "one even coat, strokes all one way"),),
            )
            for letter, medium in (("M", "marker"), ("W", "watercolour"), ("P", "pencil"), ("D", "soluble"))
        ),
    )
}
DEFAULT_SCHOOL = {"marker": "M1", "watercolour": "W2", "pencil": "P1", "soluble": "D1", "inkpad": "B1"}


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
