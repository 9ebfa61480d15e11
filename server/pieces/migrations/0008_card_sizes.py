"""Sheets know the card's sizes; what was written about it stays as a note."""

import hashlib
import json

from django.db import migrations, models

from paleta.recipe import sheet_3_to_4


def lift(apps, schema_editor):
    for piece in apps.get_model("pieces", "Piece").objects.iterator(chunk_size=50):
        if piece.current_sheet:
            old, new = piece.current_sheet, sheet_3_to_4(piece.current_sheet)
            if piece.latest_sheet_sha256 == _sha256(old):
                piece.latest_sheet_sha256 = _sha256(new)
            piece.current_sheet = new
            piece.save(update_fields=["current_sheet", "latest_sheet_sha256"])


def _sha256(sheet):
    return hashlib.sha256(json.dumps(sheet, sort_keys=True).encode()).hexdigest()


class Migration(migrations.Migration):
    dependencies = [("pieces", "0007_things")]
    operations = [
        migrations.AddField("piece", "has_card", models.BooleanField(default=False)),
        migrations.RunPython(lift, migrations.RunPython.noop),
    ]
