"""The lines of a run's log. Each is written once, by whoever worked, and never changed: others follow it."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, replace
from typing import Any, ClassVar, Self

from paleta.errors import EventError
from paleta.fields import SHA256, Choice, Many, Maybe, Number, Numbers, Text, Whole, check_fields, from_plain, holds
from paleta.fields import to_plain as fields_to_plain
from paleta.media import LONGEST_CODE, MEDIA
from paleta.order import MOST_COPIES
from paleta.run._rescues import RESCUE_KEYS, SLIPS

MOST_PASSES = 20_000
MOST_TOGETHER = 2_000
"""Passes that one line may speak of."""
LATEST_S = 4e9
"""Seconds since 1970 in the year 2096."""
PASS = Whole(1, MOST_PASSES)
PASSES = Many(PASS, MOST_TOGETHER, once=True)
EVENT_ID = Text(40, shortest=8, pattern="[0-9A-Za-z-]+")
PLAN_KEY = Text(16, shortest=16, pattern="[0-9a-f]+")
CODE = Text(LONGEST_CODE)


@dataclass(frozen=True, slots=True, kw_only=True)
class Event:
    """What every line says: its id, made by whoever wrote it; when, in seconds since 1970; which plan it speaks of
    (`plan_key`); and on which card of the batch, from 1.

    clock_s marks a line whose device was too far ahead to be believed: what its clock said, while at_s is when the line
    was received.
    """

    kind: ClassVar[str]

    id: str = holds(EVENT_ID)
    at_s: float = holds(Number(0, LATEST_S))
    plan: str = holds(PLAN_KEY)
    card: int = holds(Whole(1, MOST_COPIES), 1)
    clock_s: float | None = holds(Maybe(Number(0, LATEST_S)), None)

    def __post_init__(self) -> None:
        check_fields(self, EventError)

    def received(self, now_s: float, ahead_s: float) -> Self:
        """As it is kept: a time more than `ahead_s` after `now_s` (seconds since 1970) is no time of a hand's, so the
        line counts from when it came, and says what its device's clock said."""
        sent = replace(self, clock_s=None)
        return sent if sent.at_s <= now_s + ahead_s else replace(sent, at_s=now_s, clock_s=sent.at_s)

    def as_sent(self) -> Self:
        """As its device wrote it."""
        return self if self.clock_s is None else replace(self, at_s=self.clock_s, clock_s=None)


@dataclass(frozen=True, slots=True, kw_only=True)
class Started(Event):
    """The run has begun, on so many cards."""

    kind: ClassVar[str] = "started"
    cards: int = holds(Whole(1, MOST_COPIES), 1)


@dataclass(frozen=True, slots=True, kw_only=True)
class PassesLaid(Event):
    """These passes are done."""

    kind: ClassVar[str] = "laid"
    passes: tuple[int, ...] = holds(PASSES)


@dataclass(frozen=True, slots=True, kw_only=True)
class Handled(Event):
    """A mask was laid or lifted: the step of the plan's handling with this number, from 1."""

    kind: ClassVar[str] = "handled"
    step: int = holds(Whole(1, 200))


@dataclass(frozen=True, slots=True, kw_only=True)
class Undone(Event):
    """Another line does not count: it was a slip of the finger."""

    kind: ClassVar[str] = "undone"
    event: str = holds(EVENT_ID)


@dataclass(frozen=True, slots=True, kw_only=True)
class AnotherPen(Event):
    """The swatch `code` was taken instead of the planned one: on `passes` of this card only or, where there are none,
    for all that is laid with the planned one from now on, in its medium where that is said. `hex` is how it looks,
    where that is known."""

    kind: ClassVar[str] = "another pen"
    instead_of: str = holds(CODE)
    code: str = holds(CODE)
    name: str = holds(Text(80), "")
    hex: str = holds(Text(7, pattern="#[0-9a-f]{6}"), "")
    passes: tuple[int, ...] = holds(PASSES, ())
    medium: str = holds(Choice(MEDIA, blank=True), "")


@dataclass(frozen=True, slots=True, kw_only=True)
class ExtraCoat(Event):
    """These passes were laid once more, with the swatch they had."""

    kind: ClassVar[str] = "extra coat"
    passes: tuple[int, ...] = holds(PASSES)


@dataclass(frozen=True, slots=True, kw_only=True)
class Slip(Event):
    """Something went wrong, at these passes or anywhere."""

    kind: ClassVar[str] = "slip"
    slip: str = holds(Choice(SLIPS))
    passes: tuple[int, ...] = holds(PASSES, ())


@dataclass(frozen=True, slots=True, kw_only=True)
class Rescued(Event):
    """A slip was put right in one of the trade's ways."""

    kind: ClassVar[str] = "rescued"
    event: str = holds(EVENT_ID)
    rescue: str = holds(Choice(RESCUE_KEYS))


@dataclass(frozen=True, slots=True, kw_only=True)
class Noted(Event):
    kind: ClassVar[str] = "noted"
    text: str = holds(Text(500, shortest=1))
    passes: tuple[int, ...] = holds(PASSES, ())


@dataclass(frozen=True, slots=True, kw_only=True)
class Photographed(Event):
    """A photo, named by the SHA-256 of its file."""

    kind: ClassVar[str] = "photographed"
    sha256: str = holds(SHA256)
    text: str = holds(Text(200), "")


@dataclass(frozen=True, slots=True, kw_only=True)
class Moved(Event):
    """From here on the run follows another plan, `plan`. `pairs` are passes of `from_plan` and what they are there."""

    kind: ClassVar[str] = "moved"
    from_plan: str = holds(PLAN_KEY)
    pairs: tuple[tuple[int, int], ...] = holds(Many(Numbers(((1, MOST_PASSES), (1, MOST_PASSES))), MOST_PASSES))


@dataclass(frozen=True, slots=True, kw_only=True)
class Finished(Event):
    """Nothing more will be laid, whatever the plan says."""

    kind: ClassVar[str] = "finished"


EVENTS: dict[str, type[Event]] = {
    made.kind: made
    for made in (
        Started,
        PassesLaid,
        Handled,
        Undone,
        AnotherPen,
        ExtraCoat,
        Slip,
        Rescued,
        Noted,
        Photographed,
        Moved,
        Finished,
    )
}


def event_to_plain(event: Event) -> dict[str, Any]:
    """The event for JSON; `event_from_plain` leads back."""
    return {"kind": event.kind, **fields_to_plain(event)}


def event_from_plain(plain: Any) -> Event:
    """An event from what may be anything.

    Raises
    ------
    EventError
        If it is of no known kind, or a value is missing, unknown or impossible; the sentence says which.
    """
    if not isinstance(plain, Mapping):
        raise EventError("A line of the log is an object with a kind.")
    kind = plain.get("kind")
    made = EVENTS.get(kind) if isinstance(kind, str) else None
    if made is None:
        raise EventError(f"There is no kind of event {str(kind)[:40]!r}.")
    values = {name: one for name, one in plain.items() if name != "kind"}
    try:
        return from_plain(made, values)
    except EventError:
        raise
    except KeyError as error:
        raise EventError(f"A {kind} event has no {str(error.args[0])[:40]!r}.") from error
    except (TypeError, ValueError, OverflowError) as error:
        raise EventError(f"A {kind} event needs other values than these: {str(error)[:120]}") from error
