"""What views that answer for the sheet in work, or for a kept version, have in common."""

from __future__ import annotations

import re
from dataclasses import dataclass

from django.http import HttpResponse
from drf_spectacular.utils import OpenApiParameter
from rest_framework.exceptions import ValidationError
from rest_framework.request import Request

from paleta.order import Plan
from paleta.recipe import Sheet
from server.cards.serializers import PAPERS, UNITS
from server.pieces.models import Piece
from server.pieces.views import PieceActions, number_in
from server.recipes.order import plan_of
from server.recipes.services import recipe_named, recipe_of

RECIPE = OpenApiParameter("recipe", int, description="A kept version; else the sheet in work.")
UNIT = OpenApiParameter("unit", str, enum=[code for code, _ in UNITS], default="in")
PAPER = OpenApiParameter("paper", str, enum=[code for code, _ in PAPERS], default="letter")


def chosen(request: Request, name: str, choices: list[tuple[str, str]]) -> str:
    value = request.query_params.get(name, choices[0][0])
    if value not in dict(choices):
        raise ValidationError({name: f"One of {', '.join(code for code, _ in choices)} is needed here."})
    return value


@dataclass(frozen=True, slots=True)
class Asked:
    """The piece asked about, with the sheet in work or that of a kept version."""

    piece: Piece
    sheet: Sheet
    version: int | None
    kept_plan: Plan | None

    @property
    def plan(self) -> Plan:
        if self.kept_plan is not None:
            return self.kept_plan
        return plan_of(self.piece, self.sheet)


class OfSheets(PieceActions):
    """Views that answer for the sheet in work or, with ?recipe=, for a version."""

    def asked(self, request: Request) -> Asked:
        piece = self.get_object()
        if "recipe" in request.query_params:
            number = number_in(request, "recipe", int)
            kept = recipe_of(recipe_named(piece, str(max(number, 0))))
            return Asked(piece, kept.sheet, kept.version, kept.plan)
        return Asked(piece, piece.sheet(), None, None)

    @staticmethod
    def file(asked: Asked, data: bytes | str, kind: str, ending: str) -> HttpResponse:
        name = re.sub(r"[^a-z0-9]+", "-", asked.sheet.stamp.title.lower()).strip("-") or "card"
        headers = {"Content-Disposition": f'attachment; filename="{name}{ending}"', "Cache-Control": "no-store"}
        return HttpResponse(data, content_type=kind, headers=headers)
