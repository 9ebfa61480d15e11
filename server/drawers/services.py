"""What users do with drawers."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import replace
from typing import Any

import numpy as np
from django.contrib.auth.models import AbstractBaseUser
from django.db import transaction
from rest_framework.exceptions import NotFound, ValidationError

from paleta.colour import difference
from paleta.media import Row, Swatch, read_table, write_csv, write_gpl
from server.drawers.models import Drawer, SwatchRecord
from server.drawers.starter import DRAWERS
from server.ownership import require_owner

MOST_SWATCHES = 20_000


@transaction.atomic
def add_drawer(*, owner: AbstractBaseUser, name: str, medium: str, swatches: Sequence[Swatch]) -> Drawer:
    """A new drawer with these swatches."""
    drawer = Drawer.objects.create(owner=owner, name=name, medium=medium)
    SwatchRecord.objects.bulk_create(
        SwatchRecord(
            drawer=drawer,
            code=swatch.code,
            name=swatch.name,
            family=swatch.family,
            lightness=swatch.lab[0],
            a=swatch.lab[1],
            b=swatch.lab[2],
            paper=swatch.paper.code,
        )
        for swatch in swatches
    )
    return drawer


def give_starter_drawers(*, owner: AbstractBaseUser) -> list[Drawer]:
    """The project's own three drawers, so that a new bench has something to choose from."""
    return [add_drawer(owner=owner, name=name, medium=medium, swatches=make()) for name, medium, make in DRAWERS]


def change_drawer(*, actor: AbstractBaseUser, drawer: Drawer, name: str) -> Drawer:
    """Call it otherwise."""
    require_owner(actor, drawer)
    drawer.name = name
    drawer.save(update_fields=["name"])
    return drawer


def delete_drawer(*, actor: AbstractBaseUser, drawer: Drawer) -> None:
    """Take a drawer away. Pieces keep the swatches they use: those stand on their own sheets."""
    require_owner(actor, drawer)
    drawer.delete()


def keep_swatch(
    *, actor: AbstractBaseUser, drawer: Drawer, code: str | None, values: Mapping[str, Any]
) -> SwatchRecord:
    """A new swatch (`code` None) or changes to the one with this code.

    Raises
    ------
    ValidationError
        If the code is taken, or the drawer is full.
    NotFound
        If there is no such swatch.
    """
    require_owner(actor, drawer)
    record = SwatchRecord(drawer=drawer) if code is None else drawer.swatches.filter(code=code).first()
    if record is None:
        raise NotFound(f"There is no swatch {code!r} in this drawer.")
    new_code = values.get("code", code)
    if new_code != code and drawer.swatches.filter(code=new_code).exists():
        raise ValidationError({"code": f"The code {new_code} is taken in this drawer. Choose another."})
    if code is None and drawer.swatches.count() >= MOST_SWATCHES:
        raise ValidationError({"code": f"A drawer holds up to {MOST_SWATCHES:,} swatches."})
    _fill(record, values)
    record.save()
    return record


def remove_swatch(*, actor: AbstractBaseUser, drawer: Drawer, code: str) -> None:
    """Take a swatch out for good; old recipes keep it on their own sheets."""
    require_owner(actor, drawer)
    if not drawer.swatches.filter(code=code).delete()[0]:
        raise NotFound(f"There is no swatch {code!r} in this drawer.")


def preview_table(drawer: Drawer, table: bytes | str) -> list[tuple[Row, str]]:
    """Every row with what it would do: "new", "changes", "same" or "bad"."""
    known = {record.code: record for record in drawer.swatches.all()}
    result = []
    for row in read_table(table):
        old = known.get(row.code)
        if row.problem or row.lab is None:
            kind = "bad"
        elif old is None:
            kind = "new"
        else:
            kind = "same" if _row_of(old) == replace(row, line=0) else "changes"
        result.append((row, kind))
    return result


@transaction.atomic
def import_table(*, actor: AbstractBaseUser, drawer: Drawer, table: bytes | str) -> Drawer:
    """Store every good row; bad ones are left out. All of it or, if anything fails, nothing."""
    require_owner(actor, drawer)
    rows = [(row, kind) for row, kind in preview_table(drawer, table) if kind in ("new", "changes")]
    fresh = sum(1 for _, kind in rows if kind == "new")
    if drawer.swatches.count() + fresh > MOST_SWATCHES:
        raise ValidationError({"table": f"A drawer holds up to {MOST_SWATCHES:,} swatches."})
    known = {record.code: record for record in drawer.swatches.all()}
    changed, new = [], []
    for row, kind in rows:
        record = known[row.code] if kind == "changes" else SwatchRecord(drawer=drawer)
        values = {
            "code": row.code, "name": row.name, "family": row.family, "maker": row.maker, "measured": row.measured,
            "lab": row.lab, "two_coats": list(row.two_coats) if row.two_coats else record.two_coats,
        }  # fmt: skip
        _fill(record, values)
        (changed if kind == "changes" else new).append(record)
    SwatchRecord.objects.bulk_create(new, batch_size=500)
    written = ["code", "name", "family", "maker", "measured", "lightness", "a", "b", "two_coats"]
    SwatchRecord.objects.bulk_update(changed, written, batch_size=500)
    return drawer


def export_csv(drawer: Drawer) -> str:
    return write_csv([_row_of(record) for record in drawer.swatches.all()])


def export_gpl(drawer: Drawer) -> str:
    return write_gpl(drawer.name, [_row_of(record) for record in drawer.swatches.all()])


def most_like(drawer: Drawer, lab: tuple[float, float, float]) -> list[tuple[str, float]]:
    """Codes of all shades by CIEDE2000 from `lab`, nearest first."""
    shades = drawer.shades()
    if not shades:
        return []
    apart = difference(np.array([shade.lab for shade in shades]), lab)
    return [(shades[k].code, round(float(apart[k]), 2)) for k in np.argsort(apart, kind="stable")]


def _fill(record: SwatchRecord, values: Mapping[str, Any]) -> None:
    for field, value in values.items():
        if field == "lab":
            record.lightness, record.a, record.b = value
        else:
            setattr(record, field, value)


def _row_of(record: SwatchRecord) -> Row:
    two = (
        (float(record.two_coats[0]), float(record.two_coats[1]), float(record.two_coats[2]))
        if record.two_coats
        else None
    )
    lab = (record.lightness, record.a, record.b)
    return Row(0, record.code, record.name, lab, record.family, record.maker, record.measured, two)
