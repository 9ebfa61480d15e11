"""Colouring along: the log of a run, what it adds up to, what may be laid next, and what came of it."""

from paleta.run._choices import Choice, choices
from paleta.run._events import (
    EVENTS,
    AnotherPen,
    Event,
    ExtraCoat,
    Finished,
    Handled,
    Laid,
    Moved,
    Noted,
    Photographed,
    Rescued,
    Slip,
    Started,
    Undone,
    event_from_plain,
    event_to_plain,
)
from paleta.run._move import pairs_between, what_moving_does
from paleta.run._outcome import Differed, as_done, differed, pens_taken
from paleta.run._replay import Card, LaidPass, RunState, course_of, plan_key, replay, wetness
from paleta.run._rescues import RESCUES, SLIPS, Rescue, rescues_for
from paleta.run._times import seconds_by_pass, seconds_of, times_of
from paleta.run._wet import Need, Wetness, needs_of, slowness, wetness_after

__all__ = [
    "EVENTS",
    "RESCUES",
    "SLIPS",
    "AnotherPen",
    "Card",
    "Choice",
    "Differed",
    "Event",
    "ExtraCoat",
    "Finished",
    "Handled",
    "Laid",
    "LaidPass",
    "Moved",
    "Need",
    "Noted",
    "Photographed",
    "Rescue",
    "Rescued",
    "RunState",
    "Slip",
    "Started",
    "Undone",
    "Wetness",
    "as_done",
    "choices",
    "course_of",
    "differed",
    "event_from_plain",
    "event_to_plain",
    "needs_of",
    "pairs_between",
    "pens_taken",
    "plan_key",
    "replay",
    "rescues_for",
    "seconds_by_pass",
    "seconds_of",
    "slowness",
    "times_of",
    "wetness",
    "wetness_after",
    "what_moving_does",
]
