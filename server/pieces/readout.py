"""A piece and its plan as the API tells them."""

from __future__ import annotations

from dataclasses import asdict
from typing import Any

from paleta.checks import fit
from paleta.colour import lab_to_hex
from paleta.impression import MM_PER_INCH
from paleta.light import Lamp
from paleta.order import Plan, school_named
from paleta.palette import judge
from paleta.recipe import RegionSetting, Sheet
from server.drawers.models import Drawer
from server.drawers.serializers import SwatchSerializer
from server.pieces import bench
from server.pieces.models import Piece
from server.pieces.serializers import RampSerializer
from server.pieces.sheets import sheet_sha256


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


def piece_readout(piece: Piece) -> dict[str, Any]:
    sheet = piece.sheet()
    around = {step.number: step.what for step in piece.steps.filter(number__in=(piece.position, piece.position + 1))}
    has_before = piece.steps.filter(number=piece.position - 1).exists()
    recipe = piece.recipes.last()
    plain = (
        "title",
        "outline_ink",
        "paper",
        "medium",
        "school",
        "finish",
        "card",
        "true_to_scene",
        "shadows",
        "ink",
        "gap_mm",
    )
    return {
        **{field: getattr(sheet, field) for field in plain},
        "id": piece.pk,
        "version": piece.version,
        "drawer": _drawer_id(piece, sheet),
        "lamp": bench.lamp_as_plain(sheet.lamp),
        "glows": [asdict(glow) for glow in sheet.glows],
        "regions": _regions(piece, sheet),
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
                    )
                },
                "area_mm2": round(region.area_mm2, 1),
                "anchor_x": round((region.anchor[1] + 0.5) / piece.width_px, 4),
                "anchor_y": round((region.anchor[0] + 0.5) / piece.height_px, 4),
                "wish_hex": lab_to_hex(setting.wish_lab) if setting.wish_lab else None,
                "ramp": _ramp(setting, sheet),
            }
        )
    return lines


def _ramp(setting: RegionSetting, sheet: Sheet) -> dict[str, Any] | None:
    if not setting.ramp:
        return None
    return RampSerializer.of(judge([sheet.swatches[code] for code in setting.ramp]))


def plan_readout(sheet: Sheet, plan: Plan, by_region: Plan) -> dict[str, Any]:
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
        "school": school_named(sheet.school).name,
        "passes": [
            {**{field: getattr(one, field) for field in fields}, "swatch": swatches[one.swatch]} for one in plan.passes
        ],
        "pen_changes": plan.pen_changes,
        "duration_s": plan.duration_s,
        "bound_s": plan.bound_s,
        "by_region_pen_changes": by_region.pen_changes,
        "by_region_duration_s": by_region.duration_s,
        "uncoloured": sum(1 for setting in sheet.regions.values() if not setting.ramp and not setting.left_as_paper),
    }
