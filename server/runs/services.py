"""Logging runs, and the pace they teach."""

from __future__ import annotations

from dataclasses import asdict

from django.contrib.auth.models import AbstractBaseUser

from paleta.order import Pace, Plan, Timed, own_pace
from paleta.recipe import sheet_from_plain
from server.derived import later, plans
from server.ownership import require_owner
from server.pieces.models import Piece
from server.pieces.pace import pace_of
from server.problems import Refused
from server.runs.models import Run

RUNS_HEARD = 40
"""The last ones teach; a hand grows quicker."""
MOST_RUNS = 20_000


def log_run(*, actor: AbstractBaseUser, piece: Piece, minutes: float, note: str = "") -> Run:
    """Write down how long the card took. What the plan asked for is filled in at once if the plan is at hand, else as
    soon as it is worked out: nobody waits for it.

    Raises
    ------
    Refused
        If no region has its colours.
    """
    require_owner(actor, piece)
    sheet = piece.sheet()
    if not any(one.ramp and not one.left_as_paper for one in sheet.regions.settings.values()):
        raise Refused("There is nothing to time yet: no region has its colours.", "nothing_to_time")
    if Run.objects.owned_by(actor).count() >= MOST_RUNS:
        raise Refused(f"An account keeps up to {MOST_RUNS:,} runs.", "full")
    run = Run.objects.create(
        owner=actor,
        piece=piece,
        medium=sheet.colours.medium,
        seconds=minutes * 60,
        note=note,
        sheet=piece.current_sheet,
    )
    plan = plans.plan_at_hand(piece.stamping, sheet, pace_of(piece.owner_id, sheet.colours.medium)[0])
    if plan is not None:
        _compare(run, plan)
    else:
        later.do(work_out, run.pk)
    return run


def work_out(run_pk: int) -> None:
    """Fill in what the plan asked of a run."""
    run = Run.objects.select_related("piece").filter(pk=run_pk, passes=None).first()
    if run is None or run.piece is None:
        return
    sheet = sheet_from_plain(run.sheet)
    pace, _ = pace_of(run.owner_id, run.medium)
    _compare(run, plans.plans_of(run.piece.stamping, sheet, pace)[0])


def runs_of(piece: Piece) -> list[Run]:
    """The piece's runs, newest first. Those whose plan was never worked out, since the server stopped, are taken up."""
    runs = list(piece.runs.all())
    for run in runs:
        if run.passes is None:
            later.do(work_out, run.pk)
    return runs


def forget_run(*, actor: AbstractBaseUser, run: Run) -> None:
    """Throw a logged time away: the clock was forgotten."""
    require_owner(actor, run)
    run.delete()


def pace_learnt(owner_id: int, medium: str) -> tuple[Pace, int]:
    """The pace of whoever works, and how many runs it was learnt from."""
    runs = Run.objects.filter(owner_id=owner_id, medium=medium, passes__isnull=False)[:RUNS_HEARD]
    return own_pace(medium, [run.as_core() for run in runs]), len(runs)


def _compare(run: Run, plan: Plan) -> None:
    if plan.passes:
        timed = Timed.of(plan, run.seconds)
        Run.objects.filter(pk=run.pk).update(planned_s=plan.duration_s, sheet=None, **asdict(timed))
        run.refresh_from_db()
