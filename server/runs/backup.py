"""Logged runs, as lines of a backup."""

from __future__ import annotations

from collections.abc import Iterator
from datetime import datetime

from django.contrib.auth.models import AbstractBaseUser
from django.db.models import Model

from server.pieces.backup import pieces_of
from server.runs.models import Run
from server.runs.services import MOST_RUNS
from server.sections import Line, Restoring, Section, check

PLAIN = (
    "medium", "seconds", "planned_s", "passes", "area_mm2", "changes", "waits_s", "handling_s", "note", "sheet",
)  # fmt: skip


def _dump(owner: AbstractBaseUser) -> Iterator[Line]:
    pieces = pieces_of(owner)
    for number, run in enumerate(Run.objects.owned_by(owner).order_by("pk").iterator(), start=1):
        yield {
            "number": number,
            "piece": pieces.get(run.piece_id or 0),
            "made_at": run.made_at.isoformat(),
            **{name: getattr(run, name) for name in PLAIN},
        }


def _restore(restoring: Restoring, line: Line) -> tuple[Model, bool]:
    piece = restoring.home("pieces", line["piece"]) if line["piece"] is not None else None
    made_at = datetime.fromisoformat(line["made_at"])
    values = {name: line[name] for name in PLAIN}
    runs = Run.objects.owned_by(restoring.owner)
    there = runs.filter(made_at=made_at, piece=piece, seconds=values["seconds"], note=values["note"]).first()
    if there is not None:
        return there, False
    run = Run(owner=restoring.owner, piece=piece, **values)
    check(run)
    run.save()
    Run.objects.filter(pk=run.pk).update(made_at=made_at)
    return run, True


SECTION = Section("runs", (Run,), _dump, _restore, after=("pieces",), most=MOST_RUNS)
