"""Putting every pass of every region in an order that respects wet and dry and spares pen changes."""

from paleta.media import (
    OWN_PREFIX,
    SCHOOL_SCHEMA,
    Join,
    Pace,
    School,
    SchoolStep,
    Where,
    Which,
    school_from_plain,
    school_to_plain,
)
from paleta.order._check import Violation, check_batch, check_plan
from paleta.order._copies import MOST_COPIES, Batch, batch
from paleta.order._masks import dry_before
from paleta.order._own_pace import LEAST_TIMED, Timed, TimedPasses, learn, own_pace
from paleta.order._paces import PACES
from paleta.order._plan import Handling, Pass, Plan
from paleta.order._rules import earlier_turns, paler_first, ranks_of
from paleta.order._schedule import make_plan, plan_plainly, plan_region_by_region, warm_up
from paleta.order._schools import DEFAULT_SCHOOL, SCHOOLS, school_named
from paleta.order._touches import DRY_BEFORE, TOUCHES, WIPE, TouchStep, plan_touches
from paleta.order._ways import Paces, Ways
from paleta.order._work import Job, Mask, Pen, Work, expand

__all__ = [
    "DEFAULT_SCHOOL",
    "DRY_BEFORE",
    "LEAST_TIMED",
    "MOST_COPIES",
    "OWN_PREFIX",
    "PACES",
    "SCHOOLS",
    "SCHOOL_SCHEMA",
    "TOUCHES",
    "WIPE",
    "Batch",
    "Handling",
    "Job",
    "Join",
    "Mask",
    "Pace",
    "Paces",
    "Pass",
    "Pen",
    "Plan",
    "School",
    "SchoolStep",
    "Timed",
    "TimedPasses",
    "TouchStep",
    "Violation",
    "Ways",
    "Where",
    "Which",
    "Work",
    "batch",
    "check_batch",
    "check_plan",
    "dry_before",
    "earlier_turns",
    "expand",
    "learn",
    "make_plan",
    "own_pace",
    "paler_first",
    "plan_plainly",
    "plan_region_by_region",
    "plan_touches",
    "ranks_of",
    "school_from_plain",
    "school_named",
    "school_to_plain",
    "warm_up",
]
