"""Colouring along: the log of a run, what it adds up to, what may be laid next, and what came of it."""

from paleta.run._choices import choices
from paleta.run._events import (
    EVENTS,
    AnotherPen,
    Event,
    ExtraCoat,
    Finished,
    Handled,
    Moved,
    Noted,
    PassesLaid,
    Photographed,
    Rescued,
    Slip,
    Started,
    Undone,
    event_from_plain,
    event_to_plain,
)
from paleta.run._move import pairs_between, what_moving_does
from paleta.run._outcome import as_done, differed, pens_taken
from paleta.run._replay import RunState, course_of, plan_key, replay
from paleta.run._rescues import RESCUES, SLIPS, Rescue, media_of, rescues_for
from paleta.run._times import seconds_by_pass, seconds_of, times_of
from paleta.run._wet import Touched, needs_of, needs_of_handling, ways_of, wetness_after

__all__ = [
    "EVENTS",
    "RESCUES",
    "SLIPS",
    "AnotherPen",
    "Event",
    "ExtraCoat",
    "Finished",
    "Handled",
    "Moved",
    "Noted",
    "PassesLaid",
    "Photographed",
    "Rescue",
    "Rescued",
    "RunState",
    "Slip",
    "Started",
    "Touched",
    "Undone",
    "as_done",
    "choices",
    "course_of",
    "differed",
    "event_from_plain",
    "event_to_plain",
    "media_of",
    "needs_of",
    "needs_of_handling",
    "pairs_between",
    "pens_taken",
    "plan_key",
    "replay",
    "rescues_for",
    "seconds_by_pass",
    "seconds_of",
    "times_of",
    "ways_of",
    "wetness_after",
    "what_moving_does",
]
