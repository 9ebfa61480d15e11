"""A piece as the API tells it."""

from __future__ import annotations

from dataclasses import asdict
from functools import cache
from typing import Any

from paleta.checks import fit, ground_advice, line_advice, narrowest_shaded_mm, stamping_order
from paleta.colour import lab_to_hex
from paleta.impression import MM_PER_INCH, PAPER
from paleta.light import Lamp
from paleta.palette import judge
from paleta.recipe import Accent, Coat, RegionSetting, Sheet, bodies_of, sheet_sha256, taken_from_paper
from server.dataclass_serializers import values_told
from server.derived import light
from server.derived.maps import region_map
from server.drawers.models import Drawer
from server.drawers.serializers import SwatchSerializer
from server.pieces.models import Piece
from server.pieces.serializers import RampSerializer, ShelfPieceSerializer


def present_shelf(piece: Piece) -> dict[str, Any]:
    lamp = Lamp(azimuth_deg=piece.lamp_azimuth_deg, elevation_deg=piece.lamp_elevation_deg)
    names = ShelfPieceSerializer().fields.keys() - {"clock"}
    return {**{name: getattr(piece, name) for name in names}, "clock": lamp.clock}


def present_piece(piece: Piece, kept: Sheet | None = None) -> dict[str, Any]:
    """The piece on its working sheet, or on the sheet of a kept version."""
    sheet = kept or piece.sheet()
    near = piece.steps.filter(number__range=(piece.position - 1, piece.position + 1))
    around = dict(near.values_list("number", "what"))
    return {
        "id": piece.pk,
        "version": piece.version,
        **present_sheet(piece, sheet),
        "width_px": piece.width_px,
        "height_px": piece.height_px,
        "width_mm": round(piece.width_px / piece.dpi * MM_PER_INCH, 2),
        "height_mm": round(piece.height_px / piece.dpi * MM_PER_INCH, 2),
        "dpi": piece.dpi,
        "warnings": piece.warnings,
        "undo": around.get(piece.position) if piece.position - 1 in around else None,
        "redo": around.get(piece.position + 1),
        "latest_recipe": piece.latest_recipe,
        "changed_since_recipe": piece.latest_sheet_sha256 != sheet_sha256(sheet),
    }


def present_sheet(piece: Piece, sheet: Sheet) -> dict[str, Any]:
    """Every part of a sheet of the piece."""
    borders = _borders(piece, sheet)
    stamp, media = sheet.stamp, sheet.media
    return {
        "stamp": {
            **values_told(stamp),
            "paper_name": stamp.paper_used.weighed_name,
            "line_said": stamp.line_said,
            "ink_hex": lab_to_hex(stamp.ink_lab) if stamp.ink_lab else "",
            "line_hex": lab_to_hex(stamp.line_lab) if stamp.line_lab else "",
            "line_advice": [asdict(advice) for advice in line_advice(stamp)],
            "fit": [asdict(advice) for medium in media for advice in fit(medium, stamp.outline_ink, stamp.paper_used)],
        },
        "regions": {
            **values_told(sheet.regions),
            "list": _regions(piece, sheet),
            "ground_advice": ground_advice(sheet, light.fade_lengths(piece.stamping, sheet)),
            "taken": sorted(taken_from_paper(sheet)),
            "horizons": [
                {"label": one["region"], "below": one["label"], "handles": one["handles"]}
                for one in sheet.regions.edits
                if one["op"] == "horizon"
            ],
            "questions": [list(group) for group in sheet.regions.questions()],
            "borders": borders,
            "stamping": [asdict(step) for step in stamping_order(sheet, [(one["a"], one["b"]) for one in borders])],
        },
        "light": {
            **values_told(sheet.light),
            "lamp": {**values_told(sheet.light.lamp), "clock": sheet.light.lamp.clock},
        },
        "colours": {
            **values_told(sheet.colours),
            "drawer": _drawer_id(piece, sheet),
            "media": list(media),
            "pen_count": len(sheet.colours.swatches),
        },
        "order": {
            **values_told(sheet.order),
            "schools": [
                {"medium": medium, "code": school.code, "name": school.name}
                for medium in dict.fromkeys((*media, sheet.colours.medium))
                for school in [sheet.order.school_of(medium)]
            ],
        },
        "finish": values_told(sheet.finish),
        "card": values_told(sheet.card),
    }


def light_check(piece: Piece, sheet: Sheet) -> dict[str, Any]:
    """Doubts about the light, one for every thing and cause."""
    settings, leads = sheet.regions.settings, sheet.regions.thing_leads()
    told: dict[tuple[int, str], dict[str, Any]] = {}
    for doubt in light.light_doubts(piece.stamping, sheet):
        thing = leads.get(doubt.region, doubt.region)
        known = told.setdefault((thing, doubt.remedy), {"regions": [], "why": doubt.why, "remedy": doubt.remedy})
        known["regions"].append(doubt.region)
    for one in told.values():
        first = settings[one["regions"][0]]
        one["name"] = first.thing if len(one["regions"]) > 1 and first.thing else first.name
    bodies = (body.regions[0] for body in bodies_of(sheet))
    return {"doubts": list(told.values()), "looked_at": len({leads.get(label, label) for label in bodies})}


def _drawer_id(piece: Piece, sheet: Sheet) -> int | None:
    """The drawer worked from; after an import from elsewhere the owner's own one of the same medium."""
    own = Drawer.objects.owned_by(piece.owner).filter(medium=sheet.colours.medium)
    known = list(own.values_list("pk", flat=True))
    return next((pk for pk in known if str(pk) in sheet.colours.drawers), next(iter(known), None))


def _regions(piece: Piece, sheet: Sheet) -> list[dict[str, Any]]:
    measured = {region.label: region for region in region_map(piece.stamping, sheet).regions}
    coat = cache(lambda coat, to_paper: _coat(coat, sheet, to_paper))
    lines = []
    for label, setting in sheet.regions.settings.items():
        region = measured[label]
        lines.append(
            {
                "label": label,
                **values_told(setting),
                "too_small": _too_small(setting, region.inradius_mm, sheet),
                "area_mm2": round(region.area_mm2, 1),
                "anchor_x": round((region.anchor[1] + 0.5) / piece.width_px, 4),
                "anchor_y": round((region.anchor[0] + 0.5) / piece.height_px, 4),
                "wish_hex": lab_to_hex(setting.wish_lab) if setting.wish_lab else None,
                "coats": [
                    coat(one, setting.bare_highlight and len(one.ramp) == setting.zones) for one in setting.coats
                ],
                "accents": [_accent(accent, sheet) for accent in setting.accents],
            }
        )
    return lines


def _too_small(setting: RegionSetting, inradius_mm: float, sheet: Sheet) -> bool:
    """Whether a region cannot hold two strokes side by side in its own media; one without colours may get any of those
    in use. A background fades across all of its width, however it is laid."""
    media = {coat.medium for coat in setting.coats} or {*sheet.media, sheet.colours.medium}
    return setting.fade is None and 2 * inradius_mm < min(map(narrowest_shaded_mm, media))


def _borders(piece: Piece, sheet: Sheet) -> list[dict[str, Any]]:
    """Pairs of regions of different bodies, for saying which of them stands in front."""
    body = sheet.regions.leads()
    return [
        {"a": border.a, "b": border.b, "length_mm": round(border.length_mm, 1)}
        for border in region_map(piece.stamping, sheet).borders
        if border.a != PAPER and body.get(border.a) != body.get(border.b)
    ]


def _coat(coat: Coat, sheet: Sheet, to_paper: bool) -> dict[str, Any]:
    ramp = RampSerializer.of(
        judge([sheet.colours.swatches[pen] for pen in coat.pens], to_paper=to_paper, paper=sheet.stamp.paper_used)
    )
    return {"medium": coat.medium, "school": sheet.school_for(coat).name, "ramp": ramp}


def _accent(accent: Accent, sheet: Sheet) -> dict[str, Any]:
    swatch = sheet.colours.swatches[accent.pen]
    shown = SwatchSerializer.of(swatch.code, swatch.name, swatch.family, swatch.lab)
    return {"kind": accent.kind, "medium": accent.medium, "swatch": shown}
