"""Runs with their logs and photos, as lines of a backup."""

from __future__ import annotations

from collections.abc import Iterator
from datetime import datetime

import jsonschema_rs
from django.contrib.auth.models import User
from django.db.models import Model

from paleta.errors import EventError, PlanImpossible
from paleta.media import MEDIA
from paleta.order import Pace
from paleta.recipe import sheet_schema_fault
from paleta.run import Photographed, event_from_plain, event_to_plain
from server.backup_registry import JsonRow, Restoring, Section, check
from server.pieces.backup import pieces_of
from server.problems import Refused
from server.runs.models import Run, RunEvent
from server.runs.serializers import DIFFERED_KINDS
from server.runs.services import MOST_RUNS
from server.runs.upgrades import upgraded_run

PLAIN = (
    "recipe_number", "title", "medium", "mixed", "cards", "seconds", "planned_s", "passes", "area_mm2", "changes",
    "waits_s", "handling_s", "note", "sheet", "pace", "lines", "passes_laid", "pens", "pens_text", "differed", "times",
    "photo",
)  # fmt: skip


COPIED = jsonschema_rs.Draft202012Validator(
    {
        "properties": {
            "lines": {
                "type": "array",
                "items": {
                    "type": "array",
                    "items": {"type": "integer", "minimum": 1, "maximum": 10**6},
                    "minItems": 2,
                    "maxItems": 2,
                },
            },
            "pens": {"type": "array", "items": {"type": "string"}},
            "differed": {
                "type": "array",
                "items": {
                    "properties": {
                        "kind": {"enum": [kind for kind, _ in DIFFERED_KINDS]},
                        "sentence": {"type": "string"},
                        "lays": {"type": "boolean"},
                    },
                    "required": ["kind", "sentence", "lays"],
                    "additionalProperties": False,
                },
            },
            "times": {
                "type": "object",
                "propertyNames": {"enum": [*MEDIA]},
                "additionalProperties": {
                    "type": "array",
                    "items": {
                        "type": "array",
                        "prefixItems": [
                            {"type": "number", "minimum": 0},
                            {"type": "integer", "minimum": 1},
                            {"type": "number", "minimum": 0},
                            {"type": "boolean"},
                        ],
                        "minItems": 4,
                        "maxItems": 4,
                    },
                },
            },
        }
    }
)
"""What the logbook copies from a log, and the order of the passes: nothing else looks at them before they are used."""


def _dump(owner: User) -> Iterator[JsonRow]:
    pieces = pieces_of(owner)
    for number, run in enumerate(Run.objects.owned_by(owner).order_by("pk").iterator(), start=1):
        log = [event.body for event in run.events.all()]
        yield {
            "number": number,
            "piece": pieces.get(run.piece_id or 0),
            "follows": run.recipe_id is not None,
            "made_at": run.made_at.isoformat(),
            "finished_at": run.finished_at.isoformat() if run.finished_at else None,
            **{name: getattr(run, name) for name in PLAIN},
            "log": log,
            "files": sorted({body["sha256"] for body in log if body["kind"] == Photographed.kind}),
        }


def _restore(restoring: Restoring, line: JsonRow) -> tuple[Model, bool]:
    piece = restoring.home("pieces", line["piece"]) if line["piece"] is not None else None
    made_at = datetime.fromisoformat(line["made_at"])
    finished_at = datetime.fromisoformat(line["finished_at"]) if line["finished_at"] else None
    try:
        values = upgraded_run({name: line[name] if name != "mixed" else line.get(name, False) for name in PLAIN})
    except (KeyError, TypeError) as error:
        raise Refused("A run in the backup cannot be read.", "backup_unreadable") from error
    # What the plan asked for is known whole or not yet.
    asked = {values[name] is None for name in ("passes", "area_mm2", "changes", "waits_s")}
    sheet = values["sheet"]
    if not COPIED.is_valid(values) or len(asked) > 1 or (sheet is not None and sheet_schema_fault(sheet)):
        raise Refused("A run in the backup is not a possible one.", "backup_unreadable")
    runs = Run.objects.owned_by(restoring.owner)
    same = {"made_at": made_at, "piece": piece, "seconds": values["seconds"], "note": values["note"]}
    there = runs.filter(**same, cards=values["cards"], events_count=len(line["log"])).first()
    if there is not None:
        return there, False
    try:
        events = [event_from_plain(body) for body in line["log"]]
        for pace in (values["pace"] or {}).values():
            Pace(**pace)
    except (EventError, PlanImpossible, TypeError, AttributeError) as error:
        raise Refused("A run in the backup is not a possible one.", "backup_unreadable") from error
    if {event.sha256 for event in events if isinstance(event, Photographed)} - set(line["files"]):
        raise Refused("A run in the backup speaks of a photo that is not in it.", "backup_unreadable")
    recipe = piece.recipes.filter(number=values["recipe_number"]).first() if piece and line["follows"] else None
    run = Run(
        owner=restoring.holder,
        piece=piece,
        recipe=recipe,
        finished_at=finished_at,
        events_count=len(events),
        **values,
    )
    check(run)
    run.save()
    Run.objects.filter(pk=run.pk).update(made_at=made_at)
    RunEvent.objects.bulk_create(
        RunEvent(run=run, number=number, client_id=event.id, body=event_to_plain(event))
        for number, event in enumerate(events, start=1)
    )
    return run, True


SECTION = Section(
    "runs", (Run, RunEvent), _dump, _restore, after=("pieces", "recipes"), needs_files=False, most=MOST_RUNS
)
