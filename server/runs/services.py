"""Logging runs, and the pace they teach."""

from __future__ import annotations

from dataclasses import asdict

from django.contrib.auth.models import User
from django.db import transaction
from django.db.models import Q
from django.utils import timezone

from paleta.order import LEAST_TIMED, Plan, Timed, TimedPasses, learn, own_pace
from paleta.recipe import sheet_from_plain
from server.derived import background, plans
from server.ownership import require_owner
from server.pieces.models import Piece
from server.pieces.pace import KnownPace, paces_of
from server.pieces.quota import recount
from server.problems import Refused
from server.runs.models import Run

RUNS_HEARD = 40
"""The last ones teach; a hand grows quicker."""
MOST_RUNS = 20_000


def log_run(*, actor: User, piece: Piece, minutes: float, note: str = "") -> Run:
    """Write down how long the card took. What the plan asked for is filled in at once if the plan is at hand, else as
    soon as it is worked out: nobody waits for it.

    Raises
    ------
    Refused
        If no region has its colours.
    """
    require_owner(actor, piece)
    sheet = piece.sheet()
    if not any(one.coats and not one.left_as_paper for one in sheet.regions.settings.values()):
        raise Refused("There is nothing to time yet: no region has its colours.", "nothing_to_time")
    if Run.objects.owned_by(actor).count() >= MOST_RUNS:
        raise Refused(f"An account keeps up to {MOST_RUNS:,} runs.", "full")
    run = Run.objects.create(
        owner=actor,
        piece=piece,
        title=piece.title,
        medium=sheet.main_medium,
        mixed=len(sheet.media) > 1,
        seconds=minutes * 60,
        finished_at=timezone.now(),
        note=note,
        sheet=piece.current_sheet,
    )
    plan = plans.plan_at_hand(piece.stamping, sheet, paces_of(piece.owner_id, sheet.media))
    if plan is not None:
        _compare(run, plan)
    else:
        background.do(work_out, run.pk)
    return run


def work_out(run_pk: int) -> None:
    """Fill in what the plan asked of a run."""
    run = Run.objects.select_related("piece").filter(pk=run_pk, passes=None).first()
    if run is None or run.piece is None or run.sheet is None:
        return
    sheet = sheet_from_plain(run.sheet)
    paces = paces_of(run.owner_id, sheet.media)
    _compare(run, plans.plans_of(run.piece.stamping, sheet, paces)[0])


def runs_of(piece: Piece) -> list[Run]:
    """The piece's finished runs, newest first. Those whose plan was never worked out, since the server stopped, are
    taken up."""
    runs = list(piece.runs.filter(seconds__gt=0))
    for run in runs:
        if run.passes is None:
            background.do(work_out, run.pk)
    return runs


def forget_run(*, actor: User, run: Run) -> None:
    """Throw a logged time away: the clock was forgotten."""
    require_owner(actor, run)
    with transaction.atomic():
        run.delete()
        recount(run.piece_id)


def pace_learnt(owner_id: int, medium: str) -> KnownPace:
    """The pace of whoever works: from passes ticked off one by one where there are enough, else from whole cards."""
    finished = Run.objects.filter(owner_id=owner_id, passes__gt=0, seconds__gt=0)
    runs = list(finished.filter(Q(medium=medium) | Q(mixed=True))[:RUNS_HEARD])
    runs = [run for run in runs if run.medium == medium or medium in run.times]
    timed = [TimedPasses(*one) for run in runs for one in run.times.get(medium, ())]
    if len(timed) >= LEAST_TIMED:
        learnt = learn(medium, timed)
        return KnownPace(learnt.pace, len(runs), learnt.counted, learnt.doubt)
    whole = [run for run in runs if not run.left_out and not run.mixed]
    return KnownPace(own_pace(medium, [run.as_core() for run in whole]), len(whole))


def _compare(run: Run, plan: Plan) -> None:
    if plan.passes and run.seconds is not None:
        timed = Timed.of(plan, run.seconds)
        Run.objects.filter(pk=run.pk).update(planned_s=plan.duration_s, sheet=None, **asdict(timed))
        run.refresh_from_db()
