"""Whole sheets of the flat kind become one sheet in parts and patches there and back; swatches of go-tos name their
paper whole."""

import hashlib
import json

import jsonpatch
from django.db import migrations

from paleta.fields import whole_numbers
from paleta.materials import PAPERS
from paleta.recipe import sheet_1_to_2
from server.files.store import size_of


def _upgraded(flat):
    return whole_numbers(sheet_1_to_2(flat))


def _patches(old, new):
    return {name: jsonpatch.make_patch(old[name], new[name]).patch for name in new if old[name] != new[name]}


def forward(apps, schema_editor):
    piece_model, step_model = apps.get_model("pieces", "Piece"), apps.get_model("pieces", "Step")
    for piece in piece_model.objects.iterator():
        before = None
        for step in step_model.objects.filter(piece=piece).order_by("number"):
            sheet = _upgraded(step.sheet)
            if before is not None:
                step.forward, step.back = _patches(before, sheet), _patches(sheet, before)
                step.save(update_fields=["forward", "back"])
            if step.number == piece.position:
                piece.current_sheet = sheet
            before = sheet
        piece.stored_bytes = size_of(piece.impression_sha256) + size_of(piece.regions_sha256)
        newest = piece.recipes.order_by("-number").first()
        if newest is not None:
            piece.latest_recipe = newest.number
            frozen = json.loads(newest.body)["sheet"]
            text = json.dumps(_upgraded(frozen), sort_keys=True)
            piece.latest_sheet_sha256 = hashlib.sha256(text.encode()).hexdigest()
        piece.save()
    for goto in apps.get_model("pieces", "GoTo").objects.iterator():
        goto.swatches = [_with_paper(one) for one in goto.swatches]
        goto.save(update_fields=["swatches"])


def _with_paper(swatch):
    paper = PAPERS[swatch["paper"]]
    whole = {"code": paper.code, "name": paper.name, "lab": list(paper.lab), "gsm": paper.gsm, "kind": paper.kind}
    return {"two_coats": None, **swatch, "paper": whole}


class Migration(migrations.Migration):
    dependencies = [("pieces", "0003_current_sheet")]

    # There is no way back: the flat sheets of steps that were patched are no longer there.
    operations = [migrations.RunPython(forward)]
