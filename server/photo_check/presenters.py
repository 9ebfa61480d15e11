"""Photo checks as the API tells them."""

from __future__ import annotations

from typing import Any

import cv2
import numpy as np

from paleta.colour import Lab, difference, lab_to_hex
from paleta.photo_check import FAULT_KINDS, Fault, Measured, ways_out
from paleta.recipe import Sheet
from server.derived.memory import memory
from server.derived.pictures import labels_and_zones
from server.drawers.models import Drawer, SwatchRecord
from server.photo_check.models import PhotoCheck
from server.photo_check.services import checks_beside, faults_of, readings_beside, sheet_of
from server.photo_check.things import clock_told, things_told

DARKEST_OFF = 12.0
"""CIEDE2000 that is shown as black in the picture of differences."""
UNSEEN, EDGE = 170, 110
"""Grey levels of what was not seen, and of the lines between regions."""


def line_of(check: PhotoCheck) -> dict[str, Any]:
    """A photo check as a line of a list, with the strip of its things."""
    names = ("id", "piece_id", "run_id", "card", "made_at", "simulated", "verdict", "things")
    return {**{name: getattr(check, name) for name in names}, "recipe_number": check.recipe.number}


def present_check(check: PhotoCheck, other: PhotoCheck | None = None) -> dict[str, Any]:
    """All of a photo check."""
    sheet = sheet_of(check)
    faults, said = faults_of(check, other)
    names = {label: one.name for label, one in sheet.regions.settings.items()}
    return {
        **line_of(check),
        **({} if other is None else {"things": things_told(sheet, readings_beside(check, other), check.lights)}),
        "verdict": said,
        "title": sheet.stamp.title,
        "width_px": check.piece.width_px,
        "height_px": check.piece.height_px,
        "against": other.pk if other is not None else None,
        "laid": check.laid,
        "faults": [
            _fault(place, one, sheet, other is None and place in check.fine) for place, one in enumerate(faults)
        ],
        "notes": check.notes,
        "unseen": [names[label] for label in check.unseen if label in names],
        "lamp_clock": sheet.light.lamp.clock,
        **clock_told(check.light),
        "others": [line_of(one) for one in checks_beside(check)],
    }


def _fault(place: int, one: Fault, sheet: Sheet, fine: bool) -> dict[str, Any]:
    next_time, rescues = ways_out(one, sheet)
    return {
        "place": place,
        "kind": one.kind,
        "name": FAULT_KINDS[one.kind],
        "regions": list(one.regions),
        "size": one.size,
        "sentence": one.sentence,
        "plan_hex": _hex(one.plan),
        "seen_hex": _hex(one.seen),
        "next_time": next_time,
        "rescues": [{"name": way.name, "how": way.how, "caution": way.caution} for way in rescues],
        "slight": one.slight,
        "fine": fine,
    }


def _hex(lab: Lab | None) -> str:
    return lab_to_hex(lab) if lab is not None else ""


def present_measured(found: list[tuple[Measured, SwatchRecord, Drawer]]) -> list[dict[str, Any]]:
    """Swatches whose values may be taken over from own cards."""
    return [
        {
            "swatch": row.pk,
            "drawer": drawer.pk,
            "drawer_version": drawer.version,
            "name": one.name,
            "old": list(one.old),
            "new": list(one.new),
            "old_hex": lab_to_hex(one.old),
            "new_hex": lab_to_hex(one.new),
            "old_measured": row.measured,
            "cards": one.cards,
            "size": one.size,
            "spread": one.spread,
        }
        for one, row, drawer in found
    ]


def differences_picture(check: PhotoCheck, other: PhotoCheck | None = None) -> bytes:
    """PNG on every SCALE-th pixel: white where the card is as planned (or as the other card), darker the more a zone is
    off, black from DARKEST_OFF; middle grey where nothing was seen."""

    def make() -> bytes:
        labels, zones = labels_and_zones(check.piece.stamping, sheet_of(check))
        readings = readings_beside(check, other)
        table = np.full((int(labels.max()) + 1, 256), UNSEEN, np.uint8)
        table[0] = 255
        for label, one in readings.items():
            if label < len(table):
                table[label] = _shown(one.size)
                for each in one.zones:
                    table[label, each.zone] = _shown(float(difference(each.plan, each.seen)))
        edges = (labels[1:, 1:] != labels[:-1, 1:]) | (labels[1:, 1:] != labels[1:, :-1])
        grey = table[labels, zones]
        grey[1:, 1:][edges] = EDGE
        return cv2.imencode(".png", grey)[1].tobytes()

    return memory.get(("differences", check.pk, other.pk if other else None, check.made_at), make)


def _shown(size: float) -> int:
    return round(255 * (1 - min(size, DARKEST_OFF) / DARKEST_OFF))
