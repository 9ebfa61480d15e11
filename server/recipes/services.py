"""Freezing recipes, and recipes as files."""

from __future__ import annotations

import json
from dataclasses import dataclass, replace

from django.contrib.auth.models import User
from django.db import transaction
from rest_framework.exceptions import NotFound

from paleta.errors import EditError, RecipeError, ShapeError
from paleta.recipe import ImpressionRecord, Recipe, Sheet, build, dump, load, sheet_sha256, to_newest, what_changed
from server.derived import jobs, plans, worker
from server.derived.maps import map_sha256
from server.derived.memory import memory
from server.files import store
from server.ownership import require_owner
from server.pieces.models import Piece
from server.pieces.pace import paces_of
from server.pieces.shelf.services import put_on_shelf
from server.pieces.steps import keep_step, lock
from server.problems import Refused
from server.recipes.models import RecipeRecord

MOST_RECIPES = 2000
CHECK_LIMIT_S, CHECK_LIMIT_MB = 30.0, 512


@dataclass(frozen=True, slots=True)
class FrozenSheet:
    """A sheet with its plan, ready to be written as the next version of its piece."""

    recipe: Recipe
    sha256: str
    previous: int | None
    changes: list[str]


def freeze(piece: Piece, sheet: Sheet) -> FrozenSheet:
    """Work out all that a version of `sheet` holds. Slow: to be done before the database is locked."""
    plan, _ = plans.plans_of(piece.stamping, sheet, paces_of(piece.owner_id, sheet.media))
    last = piece.recipes.last()
    before = recipe_of(last) if last else None
    impression = ImpressionRecord(
        sha256=piece.impression_sha256,
        regions_sha256=map_sha256(piece.stamping, sheet),
        width_px=piece.width_px,
        height_px=piece.height_px,
        dpi=piece.dpi,
    )
    recipe = Recipe(version=last.number + 1 if last else 1, impression=impression, sheet=sheet, plan=plan)
    changes = what_changed(before, recipe) if before else []
    return FrozenSheet(recipe, sheet_sha256(sheet), last.number if last else None, changes)


def write_version(
    *, actor: User, piece: Piece, version: int, frozen: FrozenSheet, newer_order: bool = False
) -> RecipeRecord:
    """Write a frozen sheet as the next version, inside the running transaction. A sheet that is the newest version
    already makes no other one, unless its order was worked out anew and that is what is wished."""
    current = lock(actor, piece, version)
    newest = current.recipes.last()
    same = newest is not None and newest.sheet_sha256 == frozen.sha256
    if newest is not None and same and not (newer_order and recipe_of(newest).plan != frozen.recipe.plan):
        return newest
    if current.recipes.count() >= MOST_RECIPES:
        raise Refused(f"A piece keeps up to {MOST_RECIPES:,} versions.", "full")
    return _store(current, frozen.recipe, frozen.sha256, previous=frozen.previous, changes=frozen.changes)


def keep_recipe(*, actor: User, piece: Piece, version: int, newer_order: bool = False) -> RecipeRecord:
    """Freeze the sheet as the next version. A sheet that is the newest version already makes no other one, unless
    `newer_order` asks for the order as it is worked out now."""
    require_owner(actor, piece)
    frozen = freeze(piece, piece.sheet())
    with transaction.atomic():
        return write_version(actor=actor, piece=piece, version=version, frozen=frozen, newer_order=newer_order)


def _store(
    piece: Piece, recipe: Recipe, sha256: str, *, previous: int | None = None, changes: list[str] | None = None
) -> RecipeRecord:
    record = RecipeRecord.objects.create(
        piece=piece,
        number=recipe.version,
        body=dump(replace(recipe, files={}), to_read=False).decode(),
        sheet_sha256=sha256,
        impression_sha256=recipe.impression.sha256,
        regions_sha256=recipe.impression.regions_sha256,
        previous=previous,
        changes=changes or [],
    )
    piece.latest_recipe, piece.latest_sheet_sha256 = recipe.version, sha256
    piece.save(update_fields=["latest_recipe", "latest_sheet_sha256"])
    return record


def recipe_of(record: RecipeRecord) -> Recipe:
    """The frozen recipe, without its pictures. It was checked when it was kept; only its format is made today's."""
    key = ("recipe", record.pk, record.saved_at)
    return memory.get(key, lambda: build(to_newest(json.loads(record.body), trusted=True)))


def recipe_named(piece: Piece, number: str) -> RecipeRecord:
    """The kept version with this number."""
    record = piece.recipes.filter(number=int(number)).first()
    if record is None:
        raise NotFound(f"There is no version {number} of this piece.")
    return record


def restore_recipe(*, actor: User, piece: Piece, version: int, number: str) -> Piece:
    """Make the sheet of a kept recipe the current one again."""
    require_owner(actor, piece)
    sheet = recipe_of(recipe_named(piece, number)).sheet
    return keep_step(actor=actor, piece=piece, version=version, what=f"Back to version {number}", sheet=sheet)


def export_recipe(*, actor: User, record: RecipeRecord) -> bytes:
    """The recipe as a file that needs nothing but itself."""
    require_owner(actor, record.piece)
    names = sorted({record.impression_sha256, record.regions_sha256})
    return dump(replace(recipe_of(record), files={name: store.fetch(name) for name in names}))


def import_recipe(*, actor: User, data: bytes) -> Piece:
    """A piece from a recipe file, at the version the file has. Nothing is stored if anything in it is wrong."""
    recipe = load(data)
    record = recipe.impression
    if recipe.sheet.regions.map_sha256 not in ("", record.regions_sha256):
        raise RecipeError("The recipe's sheet stands on another region map than the one it comes with.")
    if {record.sha256, record.regions_sha256} - recipe.files.keys():
        raise RecipeError("The recipe comes without its picture. Export it from Paleta again.")
    check_pictures(recipe)
    with transaction.atomic():
        piece = put_on_shelf(
            owner=actor,
            sheet=recipe.sheet,
            picture=recipe.files[record.sha256],
            packed_map=recipe.files[record.regions_sha256],
            size=(record.height_px, record.width_px),
            dpi=record.dpi,
        )
        _store(piece, recipe, sheet_sha256(recipe.sheet))
    return piece


def check_pictures(recipe: Recipe) -> None:
    """Raise RecipeError unless the picture and the map that a recipe comes with are what its sheet speaks of.

    Both are looked at in a process of their own: a small file can unpack to a picture that fills any memory.
    """
    record = recipe.impression
    picture, packed = recipe.files[record.sha256], recipe.files[record.regions_sha256]
    size = (record.height_px, record.width_px)
    try:
        labels = worker.run(
            jobs.check_pictures,
            picture,
            packed,
            size,
            record.dpi,
            recipe.sheet.regions.edits,
            limit_s=CHECK_LIMIT_S,
            memory_mb=CHECK_LIMIT_MB,
        )
    except (ShapeError, EditError) as error:
        raise RecipeError("The region map inside the recipe cannot be read.") from error
    if labels is None:
        raise RecipeError("The pictures inside the recipe are not of the size it names.")
    if labels != set(recipe.sheet.regions.settings):
        raise RecipeError("The regions on the recipe's sheet are not those of its region map.")
