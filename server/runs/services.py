"""Logging runs, and the pace they teach."""

from __future__ import annotations

from dataclasses import asdict

from django.contrib.auth.models import AbstractBaseUser
from django.db import models

from paleta.order import Pace, Plan, Timed, own_pace
from server.ownership import require_owner
from server.problems import Refused
from server.runs.models import Run

RUNS_HEARD = 40
"""The last ones teach; a hand grows quicker."""


def log_run(
    *, actor: AbstractBaseUser, piece: models.Model, medium: str, plan: Plan, minutes: float, note: str = ""
) -> Run:
    """Write down how long the plan took.

    Raises
    ------
    Refused
        If the plan has no passes.
    """
    require_owner(actor, piece)
    if not plan.passes:
        raise Refused("There is nothing to time yet: no region has its colours.", "nothing_to_time")
    timed = Timed.of(plan, minutes * 60)
    return Run.objects.create(
        owner=actor, piece=piece, medium=medium, planned_s=plan.duration_s, note=note, **asdict(timed)
    )


def forget_run(*, actor: AbstractBaseUser, run: Run) -> None:
    """Throw a logged time away: the clock was forgotten."""
    require_owner(actor, run)
    run.delete()


def pace_of(owner_id: int | None, medium: str) -> tuple[Pace, int]:
    """The pace of whoever works, and how many runs it was learnt from."""
    runs = Run.objects.filter(owner_id=owner_id, medium=medium)[:RUNS_HEARD]
    return own_pace(medium, [run.as_core() for run in runs]), len(runs)
