"""Sheets know coats. Every step is gone through, lifted, and written as what it changes of the lifted sheets."""

import hashlib
import json

import jsonpatch
from django.db import migrations

from paleta.recipe import sheet_4_to_5


def lift(apps, schema_editor):
    for piece in apps.get_model("pieces", "Piece").objects.iterator(chunk_size=50):
        if not piece.current_sheet:
            continue
        old = piece.current_sheet
        steps = {step.number: step for step in piece.steps.all()}
        sheets = _sheets(old, piece.position, steps)
        new = {number: sheet_4_to_5(sheet) for number, sheet in sheets.items()}
        for number, step in steps.items():
            if number not in new:
                step.delete()
                continue
            before = new.get(number - 1)
            step.forward = _patches(before, new[number]) if before else {}
            step.back = _patches(new[number], before) if before else {}
            step.save(update_fields=["forward", "back"])
        if piece.latest_sheet_sha256 == _sha256(old):
            piece.latest_sheet_sha256 = _sha256(new[piece.position])
        piece.current_sheet = new[piece.position]
        piece.save(update_fields=["current_sheet", "latest_sheet_sha256"])


def _sheets(current, position, steps):
    """The sheet after each step, as far as the steps lead from the current one."""
    sheets = {position: current}
    number = position
    while number in steps and number - 1 in steps:
        sheet = _patched(sheets[number], steps[number].back)
        if sheet is None:
            break
        number -= 1
        sheets[number] = sheet
    number = position
    while number + 1 in steps:
        sheet = _patched(sheets[number], steps[number + 1].forward)
        if sheet is None:
            break
        number += 1
        sheets[number] = sheet
    return sheets


def _patched(sheet, patches):
    try:
        return {**sheet, **{name: jsonpatch.apply_patch(sheet[name], patch) for name, patch in patches.items()}}
    except (jsonpatch.JsonPatchException, jsonpatch.JsonPointerException, KeyError):
        return None  # A step that no longer fits could not be taken before either.


def _patches(old, new):
    return {name: jsonpatch.make_patch(old[name], new[name]).patch for name in new if old[name] != new[name]}


def _sha256(sheet):
    return hashlib.sha256(json.dumps(sheet, sort_keys=True).encode()).hexdigest()


class Migration(migrations.Migration):
    dependencies = [("pieces", "0008_card_sizes")]
    operations = [migrations.RunPython(lift, migrations.RunPython.noop)]
