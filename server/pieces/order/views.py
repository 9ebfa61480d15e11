"""The order of passes over the API."""

from __future__ import annotations

from dataclasses import asdict

from drf_spectacular.utils import OpenApiParameter, extend_schema
from rest_framework.decorators import action
from rest_framework.request import Request
from rest_framework.response import Response

from server.derived import plans
from server.derived.maps import region_map
from server.pieces.order.readout import plan_readout
from server.pieces.order.serializers import BatchSerializer, PlanSerializer
from server.pieces.pace import pace_of, paces_of
from server.pieces.views import PieceActions, number_in


class OrderViews(PieceActions):
    @extend_schema(responses=PlanSerializer)
    @action(detail=True)
    def plan(self, request: Request, pk: str) -> Response:
        """The order of passes."""
        piece = self.get_object()
        sheet, stamping = piece.sheet(), piece.stamping
        known = {medium: pace_of(piece.owner_id, medium) for medium in sheet.media}
        paces = {medium: one.pace for medium, one in known.items()}
        made, by_region = plans.plans_of(stamping, sheet, paces)
        found = region_map(stamping, sheet)
        return Response(plan_readout(sheet, found, made, by_region, known=known))

    @extend_schema(responses=BatchSerializer, parameters=[OpenApiParameter("copies", int, required=True)])
    @action(detail=True)
    def batch(self, request: Request, pk: str) -> Response:
        """The same plan for several cards at once."""
        piece = self.get_object()
        sheet = piece.sheet()
        paces = paces_of(piece.owner_id, sheet.media)
        return Response(asdict(plans.batch_of(piece.stamping, sheet, paces, number_in(request, "copies", int))))
