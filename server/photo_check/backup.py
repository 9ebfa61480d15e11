"""Photo checks, as lines of a backup."""

from __future__ import annotations

from collections.abc import Iterator
from datetime import datetime

from django.contrib.auth.models import User
from django.db.models import Model

from paleta.order import MOST_COPIES
from paleta.photo_check import fault_from_plain, reading_from_plain
from server.backup_registry import JsonRow, Restoring, Section, check
from server.photo_check.models import PhotoCheck
from server.photo_check.services import MOST_CHECKS
from server.pieces.backup import pieces_of
from server.problems import Refused

PLAIN = (
    "card", "simulated", "photo_sha256", "flat_sha256", "verdict", "laid", "readings", "faults", "fine", "unseen",
    "notes", "light", "lights", "things",
)  # fmt: skip


def _dump(owner: User) -> Iterator[JsonRow]:
    pieces = pieces_of(owner)
    runs = {pk: number for number, pk in enumerate(owner.runs.order_by("pk").values_list("pk", flat=True), start=1)}
    rows = PhotoCheck.objects.owned_by(owner).select_related("recipe").order_by("pk")
    for number, row in enumerate((one for one in rows.iterator() if one.piece_id in pieces), start=1):
        yield {
            "number": number,
            "piece": pieces[row.piece_id],
            "recipe_number": row.recipe.number,
            "run": runs.get(row.run_id or 0),
            "made_at": row.made_at.isoformat(),
            **{name: getattr(row, name) for name in PLAIN},
            "files": sorted({row.photo_sha256, row.flat_sha256}),
        }


def _restore(restoring: Restoring, line: JsonRow) -> tuple[Model, bool]:
    piece = restoring.home("pieces", line["piece"])
    recipe = piece.recipes.filter(number=line["recipe_number"]).first()
    made_at = datetime.fromisoformat(line["made_at"])
    there = PhotoCheck.objects.owned_by(restoring.owner).filter(piece=piece, made_at=made_at).first()
    if there is not None:
        return there, False
    fits = (
        all(isinstance(line[name], str) for name in ("photo_sha256", "flat_sha256"))
        and {line["photo_sha256"], line["flat_sha256"]} <= set(line["files"])
        and isinstance(line["fine"], list)
        and all(type(place) is int and 0 <= place < len(line["faults"]) for place in line["fine"])
        and isinstance(line["card"], int)
        and 1 <= line["card"] <= MOST_COPIES
    )
    if not fits:
        raise Refused("A photo check in the backup is not a possible one.", "backup_unreadable")
    try:
        if recipe is None:
            raise KeyError("recipe")
        for plain in line["readings"]:
            reading_from_plain(plain)
        for plain in line["faults"]:
            fault_from_plain(plain)
    except (KeyError, TypeError, ValueError, IndexError) as error:
        raise Refused("A photo check in the backup cannot be read.", "backup_unreadable") from error
    run = restoring.home("runs", line["run"]) if line["run"] is not None else None
    row = PhotoCheck(
        owner=restoring.holder, piece=piece, recipe=recipe, run=run, **{name: line[name] for name in PLAIN}
    )
    check(row)
    row.save()
    PhotoCheck.objects.filter(pk=row.pk).update(made_at=made_at)
    return row, True


SECTION = Section("checks", (PhotoCheck,), _dump, _restore, after=("pieces", "recipes", "runs"), most=MOST_CHECKS)
