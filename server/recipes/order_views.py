"""The order of passes over the API."""

from __future__ import annotations

from dataclasses import asdict
from typing import Any

from drf_spectacular.utils import OpenApiParameter, extend_schema
from rest_framework.decorators import action
from rest_framework.request import Request
from rest_framework.response import Response

from paleta.order import Plan
from server.derived.maps import region_map
from server.pieces.order.presenters import present_plan
from server.pieces.order.serializers import BatchSerializer, PlanSerializer
from server.pieces.pace import pace_of
from server.pieces.views import PieceActions, number_in
from server.recipes.order import batch_of, order_of


class OrderViews(PieceActions):
    @extend_schema(responses=PlanSerializer)
    @action(detail=True)
    def plan(self, request: Request, pk: str) -> Response:
        """The order of passes: as the newest version holds it while the sheet is that version's."""
        piece = self.get_object()
        sheet = piece.sheet()
        known = {medium: pace_of(piece.owner_id, medium) for medium in sheet.media}
        shown = order_of(piece, sheet)
        found = region_map(piece.stamping, sheet)
        told = present_plan(sheet, found, shown.plan, shown.by_region, known=known)
        return Response(told | {"version": shown.version, "worked_out": _offer(shown.plan, shown.worked_out)})

    @extend_schema(responses=BatchSerializer, parameters=[OpenApiParameter("copies", int, required=True)])
    @action(detail=True)
    def batch(self, request: Request, pk: str) -> Response:
        """The same plan for several cards at once."""
        piece = self.get_object()
        return Response(asdict(batch_of(piece, piece.sheet(), number_in(request, "copies", int))))


def _offer(plan: Plan, worked_out: Plan) -> dict[str, Any] | None:
    """The order worked out now, where it is another than the one that is shown."""
    if worked_out == plan:
        return None
    return {"pen_changes": worked_out.pen_changes, "duration_s": worked_out.duration_s}
