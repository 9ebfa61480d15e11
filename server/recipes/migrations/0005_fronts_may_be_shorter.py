"""A card's base says how much shorter its front is. Sheets that have a card get the field, so that a sheet which its
newest version froze is still told to be the same."""

import hashlib
import json

from django.db import migrations

FIELD, NOTHING = "shorter", "0 in"


def add(apps, schema_editor):
    _rewrite(apps, lambda base: {**base, FIELD: NOTHING} if FIELD not in base else base)


def take_away(apps, schema_editor):
    _rewrite(apps, lambda base: {name: value for name, value in base.items() if name != FIELD})


def _rewrite(apps, change):
    for piece in apps.get_model("pieces", "Piece").objects.filter(has_card=True).iterator(chunk_size=50):
        old = piece.current_sheet
        spec = (old.get("card") or {}).get("spec") if old else None
        if not spec:
            continue
        new = {**old, "card": {**old["card"], "spec": {**spec, "base": change(spec["base"])}}}
        before, after = _sha256(old), _sha256(new)
        if piece.latest_sheet_sha256 == before:
            piece.latest_sheet_sha256 = after
            newest = apps.get_model("recipes", "RecipeRecord").objects.filter(piece_id=piece.pk).order_by("-number")
            newest.filter(number=piece.latest_recipe).update(sheet_sha256=after)
        piece.current_sheet = new
        piece.save(update_fields=["current_sheet", "latest_sheet_sha256"])


def _sha256(plain):
    return hashlib.sha256(json.dumps(plain, sort_keys=True).encode()).hexdigest()


class Migration(migrations.Migration):
    dependencies = [("recipes", "0004_files_are_named"), ("pieces", "0009_coats")]

    operations = [migrations.RunPython(add, take_away)]
