"""What users do with drawers."""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from contextlib import contextmanager
from dataclasses import replace
from typing import Any

import numpy as np
from django.contrib.auth.models import User
from django.db import transaction
from rest_framework.exceptions import NotFound, ValidationError

from paleta.colour import difference
from paleta.media import FURTHER, Row, Swatch, read_table, write_csv, write_gpl
from paleta.starter import DRAWERS
from server.drawers.models import Drawer, SwatchRecord
from server.ownership import locked, require_owner
from server.problems import ChangedElsewhere, Refused

MOST_DRAWERS, MOST_SWATCHES = 200, 20_000


@transaction.atomic
def add_drawer(*, owner: User, name: str, medium: str, swatches: Sequence[Swatch]) -> Drawer:
    """A new drawer with these swatches."""
    if Drawer.objects.owned_by(owner).count() >= MOST_DRAWERS:
        raise Refused(f"An account holds up to {MOST_DRAWERS} drawers.", "full")
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


def give_starter_drawers(*, owner: User) -> list[Drawer]:
    """The project's own drawers, so that a new bench has something to choose from."""
    return [add_drawer(owner=owner, name=name, medium=medium, swatches=make()) for name, medium, make in DRAWERS]


def change_drawer(*, actor: User, drawer: Drawer, version: int, name: str) -> Drawer:
    """Call it otherwise."""
    with changing(actor, drawer, version) as current:
        current.name = name
    return current


@transaction.atomic
def delete_drawer(*, actor: User, drawer: Drawer) -> None:
    """Take a drawer away. Pieces keep the swatches they use: those stand on their own sheets."""
    require_owner(actor, drawer)
    drawer.delete()


@contextmanager
def changing(actor: User, drawer: Drawer, version: int) -> Iterator[Drawer]:
    """The drawer as it is now, locked while it is changed and counted as changed at the end.

    Raises
    ------
    ChangedElsewhere
        If it is no longer at `version`.
    """
    require_owner(actor, drawer)
    with transaction.atomic():
        current = locked(drawer)
        if current.version != version:
            raise ChangedElsewhere
        yield current
        current.version += 1
        current.save()


def add_swatch(*, actor: User, drawer: Drawer, version: int, values: Mapping[str, Any]) -> Drawer:
    """A new swatch.

    Raises
    ------
    ValidationError
        If the code is taken, or the drawer is full.
    """
    with changing(actor, drawer, version) as current:
        if current.swatches.count() >= MOST_SWATCHES:
            raise ValidationError({"code": f"A drawer holds up to {MOST_SWATCHES:,} swatches."})
        _keep(SwatchRecord(drawer=current), values)
    return current


def change_swatch(*, actor: User, drawer: Drawer, version: int, swatch: int, values: Mapping[str, Any]) -> Drawer:
    """Changes to the swatch with this id."""
    with changing(actor, drawer, version) as current:
        _keep(swatch_with(current, swatch), values)
    return current


def remove_swatch(*, actor: User, drawer: Drawer, version: int, swatch: int) -> Drawer:
    """Take a swatch out for good; old recipes keep it on their own sheets."""
    with changing(actor, drawer, version) as current:
        swatch_with(current, swatch).delete()
    return current


def swatch_with(drawer: Drawer, pk: int) -> SwatchRecord:
    """The drawer's swatch with this id; NotFound if there is none."""
    record = drawer.swatches.filter(pk=pk).first()
    if record is None:
        raise NotFound("There is no such swatch in this drawer any more.")
    return record


def _keep(record: SwatchRecord, values: Mapping[str, Any]) -> None:
    code = values.get("code", record.code)
    if record.drawer.swatches.filter(code=code).exclude(pk=record.pk).exists():
        raise ValidationError({"code": f"The code {code} is taken in this drawer. Choose another."})
    _fill(record, values)
    record.save()


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


def import_table(*, actor: User, drawer: Drawer, version: int, table: bytes | str) -> Drawer:
    """Store every good row; bad ones are left out. All of it or, if anything fails, nothing."""
    require_owner(actor, drawer)
    # Read before the drawer is locked; its version says whether that still holds.
    rows = [(row, kind) for row, kind in preview_table(drawer, table) if kind in ("new", "changes")]
    with changing(actor, drawer, version) as current:
        _store_rows(current, rows)
    return current


def _store_rows(drawer: Drawer, rows: Sequence[tuple[Row, str]]) -> None:
    fresh = sum(1 for _, kind in rows if kind == "new")
    if drawer.swatches.count() + fresh > MOST_SWATCHES:
        raise ValidationError({"table": f"A drawer holds up to {MOST_SWATCHES:,} swatches."})
    known = {record.code: record for record in drawer.swatches.all()}
    changed: list[SwatchRecord] = []
    new: list[SwatchRecord] = []
    for row, kind in rows:
        record = known[row.code] if kind == "changes" else SwatchRecord(drawer=drawer)
        values: dict[str, Any] = {
            "code": row.code, "name": row.name, "family": row.family, "maker": row.maker, "measured": row.measured,
            "lab": row.lab, **{name: list(getattr(row, name)) for name in FURTHER if getattr(row, name)},
        }  # fmt: skip
        if row.opacity is not None:
            values["opacity"] = row.opacity
        _fill(record, values)
        (changed if kind == "changes" else new).append(record)
    SwatchRecord.objects.bulk_create(new, batch_size=500)
    written = ["code", "name", "family", "maker", "measured", "lightness", "a", "b", "opacity", *FURTHER]
    SwatchRecord.objects.bulk_update(changed, written, batch_size=500)


def export_csv(drawer: Drawer) -> str:
    return write_csv([_row_of(record) for record in drawer.swatches.all()])


def export_gpl(drawer: Drawer) -> str:
    return write_gpl(drawer.name, [_row_of(record) for record in drawer.swatches.all()])


def most_like(drawer: Drawer, lab: tuple[float, float, float]) -> list[tuple[str, float]]:
    """Codes of all shades by CIEDE2000 from `lab`, nearest first."""
    shades = drawer.own()
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
    lab = (record.lightness, record.a, record.b)
    further: dict[str, Any] = {name: tuple(map(float, value)) for name, value in record.further().items()}
    return Row(
        0,
        record.code,
        record.name,
        lab,
        record.family,
        record.maker,
        record.measured,
        opacity=record.opacity,
        **further,
    )
