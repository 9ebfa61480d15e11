"""What each version changed is written beside it, and which files it needs; bodies become today's format."""

import json

from django.db import migrations

from paleta.recipe import build, dump, sheet_sha256, to_newest, what_changed


def forward(apps, schema_editor):
    before, piece_id = None, None
    for record in apps.get_model("recipes", "RecipeRecord").objects.order_by("piece_id", "number").iterator():
        if record.piece_id != piece_id:
            before, piece_id = None, record.piece_id
        recipe = build(to_newest(json.loads(record.body), trusted=True))
        record.body = dump(recipe).decode()
        record.sheet_sha256 = sheet_sha256(recipe.sheet)
        record.impression_sha256 = recipe.impression.sha256
        record.regions_sha256 = recipe.impression.regions_sha256
        record.previous = before.version if before else None
        record.changes = what_changed(before, recipe) if before else []
        record.save()
        before = recipe


class Migration(migrations.Migration):
    dependencies = [("recipes", "0002_lines_and_files")]

    operations = [migrations.RunPython(forward, migrations.RunPython.noop)]
