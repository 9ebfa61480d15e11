"""Sheets know the colour of the line, and how papers take water and dry; so do the papers in steps and go-tos. A sheet
that its newest version froze is still told to be the same; versions are lifted when they are read."""

import hashlib
import json

from django.db import migrations

from paleta.recipe import paper_5_to_6, sheet_5_to_6

OF_A_PAPER = {"lab", "gsm", "kind"}
"""No other record in a sheet has all of these. Papers of go-tos may be so old that they know no surface."""


def lift(apps, schema_editor):
    records = apps.get_model("recipes", "RecipeRecord").objects
    for piece in apps.get_model("pieces", "Piece").objects.iterator(chunk_size=50):
        old = piece.current_sheet
        if not old or "powder" in old["stamp"]:
            continue
        new = sheet_5_to_6(old)
        before, after = _sha256(old), _sha256(new)
        if piece.latest_sheet_sha256 == before:
            piece.latest_sheet_sha256 = after
            records.filter(piece_id=piece.pk, number=piece.latest_recipe).update(sheet_sha256=after)
        piece.current_sheet = new
        piece.save(update_fields=["current_sheet", "latest_sheet_sha256"])
    for step in apps.get_model("pieces", "Step").objects.iterator(chunk_size=50):
        forward, back = _papers_lifted(step.forward), _papers_lifted(step.back)
        if (forward, back) != (step.forward, step.back):
            step.forward, step.back = forward, back
            step.save(update_fields=["forward", "back"])
    for goto in apps.get_model("pieces", "GoTo").objects.iterator(chunk_size=50):
        goto.swatches = _papers_lifted(goto.swatches)
        goto.save(update_fields=["swatches"])
    for run in apps.get_model("runs", "Run").objects.exclude(sheet=None).iterator(chunk_size=50):
        if "powder" not in run.sheet["stamp"]:
            run.sheet = sheet_5_to_6(run.sheet)
            run.save(update_fields=["sheet"])


def _papers_lifted(plain):
    """The same with every paper in it lifted, wherever it stands."""
    if isinstance(plain, list):
        return [_papers_lifted(one) for one in plain]
    if not isinstance(plain, dict):
        return plain
    if plain.keys() >= OF_A_PAPER and "water" not in plain:
        return paper_5_to_6(plain)
    return {name: _papers_lifted(value) for name, value in plain.items()}


def _sha256(plain):
    return hashlib.sha256(json.dumps(plain, sort_keys=True).encode()).hexdigest()


class Migration(migrations.Migration):
    dependencies = [
        ("recipes", "0005_fronts_may_be_shorter"),
        ("pieces", "0010_left_as_is"),
        ("runs", "0004_media"),
    ]

    operations = [migrations.RunPython(lift, migrations.RunPython.noop)]
