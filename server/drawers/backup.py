"""Drawers with their swatches and charts, as lines of a backup."""

from __future__ import annotations

import zlib
from collections.abc import Iterator, Sequence
from typing import Any

from django.contrib.auth.models import User
from django.db.models import Model

from paleta.materials import PAPERS
from paleta.media import code_fault
from paleta.recipe import paper_5_to_6, paper_from_plain
from server.backup_registry import JsonRow, Restoring, Section, check
from server.drawers.models import ChartRecord, Drawer, OwnPaper, SwatchRecord
from server.drawers.papers import FIELDS as PAPER_FIELDS
from server.drawers.papers import MOST_PAPERS
from server.drawers.serializers import RECORD_FIELDS, SwatchFormSerializer
from server.drawers.services import MOST_DRAWERS, MOST_SWATCHES
from server.problems import Refused


def drawers_of(owner: User) -> dict[int, int]:
    """The line's number of every drawer of the owner."""
    keys = Drawer.objects.owned_by(owner).order_by("pk").values_list("pk", flat=True)
    return {pk: number for number, pk in enumerate(keys, start=1)}


def _dump(owner: User) -> Iterator[JsonRow]:
    for number, drawer in enumerate(Drawer.objects.owned_by(owner).order_by("pk"), start=1):
        yield {
            "number": number,
            "name": drawer.name,
            "medium": drawer.medium,
            "swatches": [_plain(record) for record in drawer.swatches.order_by("pk")],
            "charts": [
                {"number": chart.number, "codes": chart.codes, "paper": chart.paper} for chart in drawer.charts.all()
            ],
        }


def _plain(record: SwatchRecord) -> dict[str, Any]:
    lab = [record.lightness, record.a, record.b]
    return {**{name: getattr(record, name) for name in RECORD_FIELDS}, "lab": lab}


def _restore(restoring: Restoring, line: JsonRow) -> tuple[Model, bool]:
    if len(line["swatches"]) > MOST_SWATCHES:
        raise Refused("A drawer in the backup holds more than any that Paleta makes.", "backup_unreadable")
    swatches = _checked(line["swatches"])
    content = (line["name"], line["medium"], swatches, line["charts"])
    for drawer in Drawer.objects.owned_by(restoring.owner).filter(name=line["name"], medium=line["medium"]):
        charts = [{"number": one.number, "codes": one.codes, "paper": one.paper} for one in drawer.charts.all()]
        if (drawer.name, drawer.medium, [_plain(one) for one in drawer.swatches.order_by("pk")], charts) == content:
            return drawer, False
    drawer = Drawer(owner=restoring.holder, name=line["name"], medium=line["medium"])
    check(drawer)
    drawer.save()
    SwatchRecord.objects.bulk_create(
        SwatchRecord(
            drawer=drawer,
            lightness=one["lab"][0],
            a=one["lab"][1],
            b=one["lab"][2],
            **{name: one[name] for name in RECORD_FIELDS},
        )
        for one in swatches
    )
    for chart in line["charts"]:
        named = all(isinstance(code, str) for code in chart["codes"])
        if not named or not chart["codes"] or chart["paper"] not in PAPERS:
            raise Refused("A chart in the backup is not a possible one.", "backup_unreadable")
        record = ChartRecord(drawer=drawer, **{name: chart[name] for name in ("number", "codes", "paper")})
        check(record)
        record.save()
    return drawer, True


def _checked(swatches: Sequence[JsonRow]) -> list[dict[str, Any]]:
    """Swatches by the same form that adds one by hand, made once for all; codes of old drawers are made fit."""
    fixed = []
    for swatch in swatches:
        code = str(swatch.get("code", ""))
        fit = f"swatch-{zlib.crc32(code.encode()):x}" if code_fault(code) else code
        fixed.append({key: value for key, value in {**swatch, "code": fit}.items() if value is not None})
    form = SwatchFormSerializer(data=fixed, many=True)
    if not form.is_valid():
        bad = swatches[next(iter(form.errors))]
        raise Refused(f"The swatch {bad.get('name', '')!r} in the backup is not a possible one.", "backup_unreadable")
    return [{**dict.fromkeys(RECORD_FIELDS), **one} for one in form.validated_data]


def _dump_papers(owner: User) -> Iterator[JsonRow]:
    for number, record in enumerate(OwnPaper.objects.owned_by(owner), start=1):
        yield {"number": number, **{name: getattr(record, name) for name in ("code", "lab", *PAPER_FIELDS)}}


def _restore_paper(restoring: Restoring, line: JsonRow) -> tuple[Model, bool]:
    try:
        known = line if "water" in line else paper_5_to_6(line)
        paper = paper_from_plain({name: known[name] for name in ("code", "lab", *PAPER_FIELDS)})
    except (KeyError, TypeError, ValueError) as error:
        raise Refused("A paper in the backup is not a possible one.", "backup_unreadable") from error
    there = OwnPaper.objects.owned_by(restoring.owner).filter(code=paper.code).first()
    if there is not None:
        return there, False
    named = {name: known[name] for name in ("code", *PAPER_FIELDS)}
    record = OwnPaper(owner=restoring.holder, lab=list(paper.lab), **named)
    check(record)
    record.save()
    return record, True


SECTIONS = (
    Section("drawers", (Drawer, SwatchRecord, ChartRecord), _dump, _restore, most=MOST_DRAWERS),
    Section("papers", (OwnPaper,), _dump_papers, _restore_paper, most=MOST_PAPERS),
)
