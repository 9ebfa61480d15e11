"""Freezing recipes, and recipes as files."""

from __future__ import annotations

from dataclasses import replace

from django.contrib.auth.models import AbstractBaseUser
from django.db import transaction
from django.shortcuts import get_object_or_404

from paleta.errors import RecipeError, ShapeError
from paleta.impression import apply_edits, labels_from_png, read
from paleta.recipe import ImpressionRecord, Recipe, dump, load, what_changed
from server.ownership import require_owner
from server.pieces import bench, files
from server.pieces.models import Piece, RecipeRecord
from server.pieces.services import put_on_shelf
from server.pieces.sheets import sheet_sha256
from server.pieces.steps import keep_step, lock


@transaction.atomic
def save_recipe(*, actor: AbstractBaseUser, piece: Piece, version: int) -> RecipeRecord:
    """Freeze the sheet as the next version."""
    current = lock(actor, piece, version)
    sheet = current.sheet()
    last = current.recipes.last()
    recipe = Recipe(
        version=last.number + 1 if last else 1,
        impression=ImpressionRecord(
            sha256=current.impression_sha256,
            regions_sha256=bench.map_sha256(current, sheet),
            width_px=current.width_px,
            height_px=current.height_px,
            dpi=current.dpi,
        ),
        sheet=sheet,
        plan=bench.plans_of(current, sheet)[0],
    )
    return RecipeRecord.objects.create(
        piece=current, number=recipe.version, body=dump(recipe).decode(), sheet_sha256=sheet_sha256(sheet)
    )


def recipe_of(record: RecipeRecord) -> Recipe:
    """The frozen recipe, without its pictures."""
    return load(record.body.encode())


def restore_recipe(*, actor: AbstractBaseUser, piece: Piece, version: int, number: int) -> Piece:
    """Make the sheet of a kept recipe the current one again."""
    require_owner(actor, piece)
    sheet = recipe_of(get_object_or_404(piece.recipes, number=number)).sheet
    return keep_step(actor=actor, piece=piece, version=version, what=f"Back to version {number}", sheet=sheet)


def export_recipe(*, actor: AbstractBaseUser, record: RecipeRecord) -> bytes:
    """The recipe as a file that needs nothing but itself."""
    require_owner(actor, record.piece)
    recipe = recipe_of(record)
    names = (recipe.impression.sha256, recipe.impression.regions_sha256)
    return dump(replace(recipe, files={name: files.fetch(name) for name in sorted(names)}))


def import_recipe(*, actor: AbstractBaseUser, data: bytes) -> Piece:
    """A piece from a recipe file, at the version the file has. Nothing is stored if anything in it is wrong."""
    recipe = load(data)
    record = recipe.impression
    if recipe.sheet.regions_sha256 not in ("", record.regions_sha256):
        raise RecipeError("The recipe's sheet stands on another region map than the one it comes with.")
    if {record.sha256, record.regions_sha256} - recipe.files.keys():
        raise RecipeError("The recipe comes without its picture. Export it from Paleta again.")
    picture, packed = recipe.files[record.sha256], recipe.files[record.regions_sha256]
    _check_pictures(recipe, picture, packed)
    with transaction.atomic():
        piece = put_on_shelf(
            owner=actor,
            sheet=recipe.sheet,
            picture=picture,
            packed_map=packed,
            size=(record.height_px, record.width_px),
            dpi=record.dpi,
        )
        RecipeRecord.objects.create(
            piece=piece,
            number=recipe.version,
            body=dump(replace(recipe, files={})).decode(),
            sheet_sha256=sheet_sha256(recipe.sheet),
        )
    return piece


def _check_pictures(recipe: Recipe, picture: bytes, packed: bytes) -> None:
    record = recipe.impression
    impression = read(picture, dpi=record.dpi)
    try:
        region_map = apply_edits(labels_from_png(packed, dpi=record.dpi), recipe.sheet.edits)
    except (ShapeError, ValueError) as error:
        raise RecipeError("The region map inside the recipe cannot be read.") from error
    size = (record.height_px, record.width_px)
    if impression.pixels.shape[:2] != size or region_map.labels.shape != size:
        raise RecipeError("The pictures inside the recipe are not of the size it names.")
    if {region.label for region in region_map.regions} != set(recipe.sheet.regions):
        raise RecipeError("The regions on the recipe's sheet are not those of its region map.")


def changes_to(record: RecipeRecord) -> tuple[int | None, list[str]]:
    """What a version changed, and the version before it (None for the first)."""
    before = record.piece.recipes.filter(number__lt=record.number).last()
    if before is None:
        return None, []
    return before.number, what_changed(recipe_of(before), recipe_of(record))
