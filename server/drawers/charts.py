"""Measuring swatches: charts that are printed and photographed, and what the colour reader finds."""

from __future__ import annotations

import io
import zlib
from collections.abc import Sequence
from typing import Any

from django.contrib.auth.models import User
from django.db import transaction
from django.db.models import Max
from PIL import Image
from rest_framework.exceptions import NotFound, ValidationError

from paleta.chart import Chart, Reading, chart_picture, chart_to_pdf, lay_out_chart
from paleta.colour import Lab, difference
from paleta.devices import photograph
from paleta.materials import PAPERS, Paper
from paleta.media import MEDIUMS, Swatch, appearance
from server.derived import jobs, worker
from server.drawers.models import ChartRecord, Drawer
from server.drawers.services import changing, swatch_with
from server.ownership import require_owner
from server.problems import Refused

PHOTO_LIMIT_S = 30.0
MOST_CHARTS = 2000
WARM_CAST = (1.05, 1.0, 0.88)


@transaction.atomic
def add_chart(*, actor: User, drawer: Drawer, codes: Sequence[str], paper: str) -> ChartRecord:
    """A numbered chart for these swatches of the drawer."""
    require_owner(actor, drawer)
    known = set(drawer.swatches.values_list("code", flat=True))
    missing = [code for code in codes if code not in known]
    if missing:
        raise ValidationError({"codes": f"There is no swatch {missing[0]!r} in this drawer."})
    # Counted inside the transaction: of two at the same moment the second one waits and counts the first.
    highest = drawer.charts.aggregate(highest=Max("number"))["highest"] or 0
    if highest >= MOST_CHARTS:
        raise Refused(f"A drawer has up to {MOST_CHARTS:,} charts.", "full")
    record = ChartRecord(drawer=drawer, number=highest + 1, codes=list(codes), paper=paper)
    chart_of(record)
    record.save()
    return record


def chart_named(drawer: Drawer, number: int) -> ChartRecord:
    record = drawer.charts.filter(number=number).first()
    if record is None:
        raise NotFound(f"There is no chart {number} of this drawer.")
    return record


def chart_of(record: ChartRecord) -> Chart:
    """Its layout; swatches that have left the drawer keep their box."""
    names = dict(record.drawer.swatches.filter(code__in=record.codes).values_list("code", "name"))
    return lay_out_chart(record.number, record.drawer.medium, [(code, names.get(code, code)) for code in record.codes])


def pdf_of(record: ChartRecord) -> bytes:
    return chart_to_pdf(
        chart_of(record), title=f"{record.drawer.name}, chart {record.number}", paper=PAPERS[record.paper].name.lower()
    )


def simulated_photo(record: ChartRecord) -> bytes:
    """What the simulated camera takes of the filled chart: pens a little off their caps, a warm lamp, a slanting
    phone."""
    paper = PAPERS[record.paper]
    filled: dict[tuple[str, int], Lab] = {}
    for one in record.drawer.swatches.filter(code__in=record.codes):
        swatch = one.as_core(record.drawer.medium)
        filled[one.code, 0], filled[one.code, 1] = _as_laid(swatch, paper)
    picture = chart_picture(chart_of(record), filled, paper_lab=paper.lab)
    out = io.BytesIO()
    Image.fromarray(picture).save(out, "PNG")
    return photograph(out.getvalue(), seed=record.number, slant=0.05, cast=WARM_CAST)[0]


def _as_laid(swatch: Swatch, paper: Paper) -> tuple[Lab, Lab]:
    """One pen is never quite what its cap says: a fixed small deviation by its code."""
    first = appearance(swatch, paper)
    second = appearance(swatch, paper, **MEDIUMS[swatch.medium].second_box.laid)
    return off_the_cap(first, swatch.code), off_the_cap(second, swatch.code)


def off_the_cap(lab: Lab, code: str) -> Lab:
    """The simulated truth of a swatch."""
    mark = zlib.crc32(code.encode())
    shift = [((mark >> (8 * k)) % 101 / 100 - 0.5) * width for k, width in enumerate((5.0, 4.0, 4.0))]
    return min(100.0, max(0.0, lab[0] + shift[0])), lab[1] + shift[1], lab[2] + shift[2]


def read_photo(record: ChartRecord, data: bytes) -> list[dict[str, Any]]:
    """One line per swatch: what was read in both boxes beside what was known, with the difference. Nothing is kept."""
    found = worker.run(jobs.read_chart_photo, data, chart_of(record), PAPERS[record.paper].lab, limit_s=PHOTO_LIMIT_S)
    by_code: dict[str, list[Reading]] = {}
    for reading in found:
        by_code.setdefault(reading.code, []).append(reading)
    records = {one.code: one for one in record.drawer.swatches.filter(code__in=record.codes)}
    lines = []
    for code, (first, second) in by_code.items():
        old = records.get(code)
        if old is None:
            continue
        known = (old.lightness, old.a, old.b)
        lines.append(
            {
                "code": code,
                "name": old.name,
                "old": known,
                "read": first.lab,
                "second": second.lab,
                "difference": round(float(difference(first.lab, known)), 1) if first.lab else None,
                "uneven": max(first.spread, second.spread) > 4,
            }
        )
    return lines


def store_measures(
    *,
    actor: User,
    drawer: Drawer,
    version: int,
    measured: str,
    paper: str,
    values: Sequence[dict[str, Any]],
) -> Drawer:
    """Keep confirmed readings."""
    with changing(actor, drawer, version) as current:
        _store(current, measured, paper, values)
    return current


def _store(drawer: Drawer, measured: str, paper: str, values: Sequence[dict[str, Any]]) -> None:
    records = {one.code: one for one in drawer.swatches.filter(code__in=[value["code"] for value in values])}
    for value in values:
        one = records.get(value["code"])
        if one is None:
            raise ValidationError({"values": f"There is no swatch {value['code']!r} in this drawer."})
        one.lightness, one.a, one.b = value["lab"]
        if value.get("second"):
            setattr(one, MEDIUMS[drawer.medium].second_box.field, list(value["second"]))
        one.measured, one.paper = measured, paper
        one.save()


def colours_of(drawer: Drawer, swatch: int) -> tuple[Lab, Lab]:
    """What a swatch truly is under the simulated reader, and what is known of it."""
    one = swatch_with(drawer, swatch)
    known = (one.lightness, one.a, one.b)
    # A cap is an estimate; what was measured once is what the reader finds again.
    return off_the_cap(known, one.code) if one.measured == "cap" else known, known
