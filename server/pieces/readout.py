"""A piece and its plan as the API tells them."""

from __future__ import annotations

import base64
from dataclasses import asdict
from typing import Any

import cv2
import numpy as np

from paleta.checks import fit, narrowest_shaded_mm, reserves, stamping_order
from paleta.colour import lab_to_hex
from paleta.impression import MM_PER_INCH, PAPER, Impression, RegionMap, find_sheet
from paleta.light import Lamp
from paleta.order import Plan, plan_touches
from paleta.palette import judge
from paleta.recipe import RegionSetting, Sheet, bodies_of
from server.drawers.models import Drawer
from server.drawers.serializers import SwatchSerializer
from server.pieces import bench
from server.pieces.models import Piece
from server.pieces.serializers import RampSerializer
from server.pieces.sheets import sheet_sha256

PREVIEW_PX = 900


def piece_card(piece: Piece) -> dict[str, Any]:
    fields = (
        "id",
        "title",
        "medium",
        "version",
        "lamp_azimuth_deg",
        "pen_count",
        "region_count",
        "coloured_count",
        "latest_recipe",
        "changed_at",
    )
    lamp = Lamp(azimuth_deg=piece.lamp_azimuth_deg, elevation_deg=piece.lamp_elevation_deg)
    return {**{field: getattr(piece, field) for field in fields}, "clock": lamp.clock}


def piece_readout(piece: Piece, sheet: Sheet | None = None) -> dict[str, Any]:
    """The piece on its working sheet, or on the sheet of a kept version."""
    sheet = sheet or piece.sheet()
    around = {step.number: step.what for step in piece.steps.filter(number__in=(piece.position, piece.position + 1))}
    has_before = piece.steps.filter(number=piece.position - 1).exists()
    recipe = piece.recipes.last()
    plain = (
        "title",
        "outline_ink",
        "paper",
        "medium",
        "school",
        "order_wish",
        "masked",
        "key",
        "touches",
        "finish",
        "card",
        "true_to_scene",
        "shadows",
        "shade",
        "follow",
        "ink",
        "gap_mm",
    )
    borders = _borders(piece, sheet)
    return {
        **{field: getattr(sheet, field) for field in plain},
        "id": piece.pk,
        "version": piece.version,
        "drawer": _drawer_id(piece, sheet),
        "lamp": bench.lamp_as_plain(sheet.lamp),
        "glows": [asdict(glow) for glow in sheet.glows],
        "regions": _regions(piece, sheet),
        "borders": borders,
        "stamping": [asdict(step) for step in stamping_order(sheet, [(one["a"], one["b"]) for one in borders])],
        "narrowest_shaded_mm": narrowest_shaded_mm(sheet.medium),
        "fit": [asdict(advice) for advice in fit(sheet.medium, sheet.outline_ink, sheet.paper)],
        "pen_count": len(sheet.swatches),
        "width_px": piece.width_px,
        "height_px": piece.height_px,
        "width_mm": round(piece.width_px / piece.dpi * MM_PER_INCH, 2),
        "height_mm": round(piece.height_px / piece.dpi * MM_PER_INCH, 2),
        "dpi": piece.dpi,
        "warnings": piece.warnings,
        "undo": around.get(piece.position) if has_before else None,
        "redo": around.get(piece.position + 1),
        "latest_recipe": recipe.number if recipe else None,
        "changed_since_recipe": recipe is None or recipe.sheet_sha256 != sheet_sha256(sheet),
    }


def _drawer_id(piece: Piece, sheet: Sheet) -> int | None:
    """The drawer worked from; after an import from elsewhere the owner's own one of the same medium."""
    own = list(Drawer.objects.owned_by(piece.owner).filter(medium=sheet.medium).values_list("pk", flat=True))
    return int(sheet.drawer) if sheet.drawer.isdigit() and int(sheet.drawer) in own else next(iter(own), None)


def _regions(piece: Piece, sheet: Sheet) -> list[dict[str, Any]]:
    measured = {region.label: region for region in bench.region_map_of(piece, sheet).regions}
    lines = []
    for label, setting in sheet.regions.items():
        region = measured[label]
        lines.append(
            {
                "label": label,
                **{
                    field: getattr(setting, field)
                    for field in (
                        "name",
                        "left_as_paper",
                        "form",
                        "bulge",
                        "axis_deg",
                        "depth",
                        "body",
                        "shades",
                        "by_hand",
                        "base_mm",
                        "turn_deg",
                        "bare_highlight",
                        "role",
                        "tags",
                        "guessed",
                    )
                },
                "under": [sheet.under_swatches[code].name for code in setting.under],
                "too_small": 2 * region.inradius_mm < narrowest_shaded_mm(sheet.medium),
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
    body = {label: sheet.body_mates(label)[0] for label in sheet.regions}
    return [
        {"a": border.a, "b": border.b, "length_mm": round(border.length_mm, 1)}
        for border in bench.region_map_of(piece, sheet).borders
        if border.a != PAPER and body.get(border.a) != body.get(border.b)
    ]


def light_check(piece: Piece, sheet: Sheet) -> dict[str, Any]:
    doubts = bench.light_doubts(piece, sheet)
    return {
        "doubts": [{**asdict(doubt), "name": sheet.regions[doubt.region].name} for doubt in doubts],
        "looked_at": len(bodies_of(sheet)),
    }


def look(found: tuple[Impression, float | None]) -> dict[str, Any]:
    """A picture that is not kept: its sheet's corners and a small copy to drag them on."""
    impression, width_mm = found
    height, width = impression.pixels.shape[:2]
    scale = min(1.0, PREVIEW_PX / max(height, width))
    small = cv2.resize(impression.pixels, None, fx=scale, fy=scale, interpolation=cv2.INTER_AREA)
    pixels = cv2.cvtColor((np.clip(small, 0, 1) * 255 + 0.5).astype(np.uint8), cv2.COLOR_RGB2BGR)
    jpeg = cv2.imencode(".jpg", pixels, [cv2.IMWRITE_JPEG_QUALITY, 85])[1].tobytes()
    return {
        "width_px": width,
        "height_px": height,
        "corners": find_sheet(impression),
        "width_mm": width_mm,
        "preview": f"data:image/jpeg;base64,{base64.b64encode(jpeg).decode()}",
    }


def _ramp(setting: RegionSetting, sheet: Sheet) -> dict[str, Any] | None:
    if not setting.ramp:
        return None
    return RampSerializer.of(judge([sheet.swatches[code] for code in setting.ramp]))


def plan_readout(
    sheet: Sheet, region_map: RegionMap, plan: Plan, by_region: Plan, *, timed_runs: int
) -> dict[str, Any]:
    # The plan lifts its own mask.
    touches = [code for code in sheet.touches if not (sheet.masked and code == "unmask")]
    swatches = {
        code: SwatchSerializer.of(one.code, one.name, one.family, one.lab) for code, one in sheet.swatches.items()
    }
    fields = (
        "number",
        "region",
        "name",
        "zone",
        "zones",
        "join",
        "how",
        "start_s",
        "end_s",
        "wait_s",
        "wait_for",
        "change",
    )
    return {
        "school": sheet.school_used.name,
        "passes": [
            {**{field: getattr(one, field) for field in fields}, "swatch": swatches[one.swatch]} for one in plan.passes
        ],
        "handling": [asdict(one) for one in plan.handling],
        "timed_runs": timed_runs,
        "after": [asdict(step) for step in plan_touches(touches, sheet.medium)],
        "before": reserves(sheet, region_map),
        "pen_changes": plan.pen_changes,
        "duration_s": plan.duration_s,
        "bound_s": plan.bound_s,
        "by_region_pen_changes": by_region.pen_changes,
        "by_region_duration_s": by_region.duration_s,
        "uncoloured": sum(1 for setting in sheet.regions.values() if not setting.ramp and not setting.left_as_paper),
    }
