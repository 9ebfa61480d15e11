"""A piece as the API tells it."""

from __future__ import annotations

from dataclasses import asdict
from typing import Any

from paleta.checks import fit, narrowest_shaded_mm, stamping_order
from paleta.colour import lab_to_hex
from paleta.impression import MM_PER_INCH, PAPER
from paleta.light import Lamp
from paleta.palette import judge
from paleta.recipe import RegionSetting, Sheet, bodies_of, sheet_sha256
from server.declared import values_told
from server.derived import light
from server.derived.maps import region_map
from server.drawers.models import Drawer
from server.pieces.models import Piece
from server.pieces.serializers import RampSerializer, ShelfPieceSerializer


def shelf_readout(piece: Piece) -> dict[str, Any]:
    lamp = Lamp(azimuth_deg=piece.lamp_azimuth_deg, elevation_deg=piece.lamp_elevation_deg)
    names = ShelfPieceSerializer().fields.keys() - {"clock"}
    return {**{name: getattr(piece, name) for name in names}, "clock": lamp.clock}


def piece_readout(piece: Piece, kept: Sheet | None = None) -> dict[str, Any]:
    """The piece on its working sheet, or on the sheet of a kept version."""
    sheet = kept or piece.sheet()
    near = piece.steps.filter(number__range=(piece.position - 1, piece.position + 1))
    around = dict(near.values_list("number", "what"))
    return {
        "id": piece.pk,
        "version": piece.version,
        **sheet_readout(piece, sheet),
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


def sheet_readout(piece: Piece, sheet: Sheet) -> dict[str, Any]:
    """Every part of a sheet of the piece."""
    borders = _borders(piece, sheet)
    stamp, medium = sheet.stamp, sheet.colours.medium
    return {
        "stamp": {
            **values_told(stamp),
            "fit": [asdict(advice) for advice in fit(medium, stamp.outline_ink, stamp.paper)],
        },
        "regions": {
            **values_told(sheet.regions),
            "list": _regions(piece, sheet),
            "questions": [list(group) for group in sheet.regions.questions()],
            "borders": borders,
            "stamping": [asdict(step) for step in stamping_order(sheet, [(one["a"], one["b"]) for one in borders])],
            "narrowest_shaded_mm": narrowest_shaded_mm(medium),
        },
        "light": {
            **values_told(sheet.light),
            "lamp": {**values_told(sheet.light.lamp), "clock": sheet.light.lamp.clock},
        },
        "colours": {
            **values_told(sheet.colours),
            "drawer": _drawer_id(piece, sheet),
            "pen_count": len(sheet.colours.swatches),
        },
        "order": values_told(sheet.order),
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
    chosen = int(sheet.colours.drawer or 0)
    return chosen if chosen in known else next(iter(known), None)


def _regions(piece: Piece, sheet: Sheet) -> list[dict[str, Any]]:
    measured = {region.label: region for region in region_map(piece.stamping, sheet).regions}
    narrow_mm = narrowest_shaded_mm(sheet.colours.medium)
    lines = []
    for label, setting in sheet.regions.settings.items():
        region = measured[label]
        lines.append(
            {
                "label": label,
                **values_told(setting),
                "under": [sheet.colours.under_swatches[code].name for code in setting.under],
                "too_small": 2 * region.inradius_mm < narrow_mm,
                "area_mm2": round(region.area_mm2, 1),
                "anchor_x": round((region.anchor[1] + 0.5) / piece.width_px, 4),
                "anchor_y": round((region.anchor[0] + 0.5) / piece.height_px, 4),
                "wish_hex": lab_to_hex(setting.wish_lab) if setting.wish_lab else None,
                "ramp": _ramp(setting, sheet),
            }
        )
    return lines


def _borders(piece: Piece, sheet: Sheet) -> list[dict[str, Any]]:
    """Pairs of regions of different bodies, for saying which of them stands in front."""
    body = sheet.regions.leads()
    return [
        {"a": border.a, "b": border.b, "length_mm": round(border.length_mm, 1)}
        for border in region_map(piece.stamping, sheet).borders
        if border.a != PAPER and body.get(border.a) != body.get(border.b)
    ]


def _ramp(setting: RegionSetting, sheet: Sheet) -> dict[str, Any] | None:
    if not setting.ramp:
        return None
    return RampSerializer.of(judge([sheet.colours.swatches[code] for code in setting.ramp]))
