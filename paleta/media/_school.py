"""Schools of shade order: how the shades of a ramp are laid one after the other."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import asdict, dataclass
from typing import Any, Literal, get_args

from paleta.errors import SchoolError
from paleta.fields import unwanted_in
from paleta.media._codes import CODES

Which = Literal["palest", "middle", "middles from dark", "middles from pale", "darkest", "second darkest"]
Where = Literal["all over", "own zone"]
Join = Literal["start", "wet", "dry", "any"]
LONGEST_NAME, LONGEST_SUMMARY, LONGEST_HOW, MOST_STEPS = 60, 300, 120, 12


@dataclass(frozen=True, slots=True)
class SchoolStep:
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
    steps: tuple[SchoolStep, ...]

    def __post_init__(self) -> None:
        if not self.name.strip() or len(self.name) > LONGEST_NAME or len(self.summary) > LONGEST_SUMMARY:
            raise SchoolError(
                f"A school has a name of 1 to {LONGEST_NAME} characters and a summary of up to {LONGEST_SUMMARY}."
            )
        if any(unwanted_in(text) for text in (self.name, self.summary, *(step.how for step in self.steps))):
            raise SchoolError("The school holds characters that cannot be written down.")
        if len(self.steps) > MOST_STEPS:
            raise SchoolError(f"{self.name}: a school has up to {MOST_STEPS} steps.")
        if self.medium not in CODES:
            raise SchoolError(f"{self.name}: the medium must be one of {', '.join(CODES)}.")
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

    Parameters
    ----------
    plain
        As SCHOOL_SCHEMA describes.
    code
        What the school is called here; a new one where nothing is said.

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
        steps.append(SchoolStep(step["which"], step["where"], step["join"], step["how"]))
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
        "medium": {"enum": [*CODES]},
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


def flat(code: str, medium: str) -> School:
    """The school of one flat coat, which most media have.

    Parameters
    ----------
    code
        of the school
    medium
        its code
    """
    return School(
        code,
        "Flat, one coat",
        medium,
        "One even coat of the middle shade and nothing else: for tiny things and for distance.",
        (SchoolStep("middle", "all over", "start", "one even coat, strokes all one way"),),
    )
