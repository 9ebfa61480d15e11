"""Kept versions, as lines of a backup."""

from __future__ import annotations

import json
from collections.abc import Iterator
from datetime import datetime
from functools import partial
from typing import Any

from django.contrib.auth.models import User
from django.db.models import Model

from paleta.recipe import build, plain_sheet_sha256, recipe_to_plain, to_newest, written
from server.backup_registry import JsonRow, Restoring, Section, check
from server.pieces.backup import Rename, from_lines, pieces_of, renamed_sheet, to_lines
from server.problems import Refused
from server.recipes.models import RecipeRecord


def _dump(owner: User) -> Iterator[JsonRow]:
    pieces, rename = pieces_of(owner), to_lines(owner)
    records = RecipeRecord.objects.owned_by(owner).order_by("pk").iterator(chunk_size=20)
    for number, record in enumerate((one for one in records if one.piece_id in pieces), start=1):
        yield {
            "number": number,
            "piece": pieces[record.piece_id],
            "previous": record.previous,
            "changes": record.changes,
            "saved_at": record.saved_at.isoformat(),
            "recipe": _renamed(json.loads(record.body), rename),
            "files": sorted({record.impression_sha256, record.regions_sha256}),
        }


def _renamed(body: dict[str, Any], rename: Rename) -> dict[str, Any]:
    newest = to_newest(body, trusted=True)
    return {**newest, "sheet": renamed_sheet(newest["sheet"], rename)}


def _restore(restoring: Restoring, line: JsonRow) -> tuple[Model, bool]:
    checked = to_newest(line["recipe"])
    recipe = build({**checked, "sheet": renamed_sheet(checked["sheet"], from_lines(restoring))})
    piece = restoring.home("pieces", line["piece"])
    plain = recipe_to_plain(recipe)
    there = piece.recipes.filter(number=recipe.version).first()
    if there is not None:
        return there, False
    if not all(isinstance(words, str) for words in line["changes"]):
        raise Refused("A version in the backup is not a possible one.", "backup_unreadable")
    if not {recipe.impression.sha256, recipe.impression.regions_sha256} <= set(line["files"]):
        raise Refused("A version in the backup speaks of a picture that is not in it.", "backup_unreadable")
    sha256 = plain_sheet_sha256(plain["sheet"])
    record = RecipeRecord(
        piece=piece,
        number=recipe.version,
        body=written(plain, to_read=False).decode(),
        sheet_sha256=sha256,
        impression_sha256=recipe.impression.sha256,
        regions_sha256=recipe.impression.regions_sha256,
        previous=line["previous"],
        changes=line["changes"],
    )
    check(record)
    record.save()
    RecipeRecord.objects.filter(pk=record.pk).update(saved_at=datetime.fromisoformat(line["saved_at"]))
    if recipe.version >= (piece.latest_recipe or 0):
        piece.latest_recipe, piece.latest_sheet_sha256 = recipe.version, sha256
        type(piece).objects.filter(pk=piece.pk).update(latest_recipe=recipe.version, latest_sheet_sha256=sha256)
    if piece.owner_id == restoring.owner.pk:
        restoring.undo.append(partial(_take_back, record))
    return record, True


def _take_back(record: RecipeRecord) -> None:
    """Remove a version that was added to a piece the owner has already."""
    piece = record.piece
    record.delete()
    newest = piece.recipes.last()
    number, sha256 = (newest.number, newest.sheet_sha256) if newest else (None, "")
    type(piece).objects.filter(pk=piece.pk).update(latest_recipe=number, latest_sheet_sha256=sha256)


SECTION = Section("recipes", (RecipeRecord,), _dump, _restore, after=("pieces",))
