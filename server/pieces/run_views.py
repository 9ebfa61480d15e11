"""Views of runs and kept versions: mixed into the pieces' own."""

from __future__ import annotations

from typing import Any

from drf_spectacular.utils import OpenApiParameter, extend_schema
from rest_framework.decorators import action
from rest_framework.request import Request
from rest_framework.response import Response

from server.pieces import bench, recipes, serializers
from server.runs.serializers import RunFormSerializer, RunSerializer
from server.runs.services import log_run


class RunActions:
    """What PieceViewSet can do once the card is made."""

    @extend_schema(methods=["GET"], responses=RunSerializer(many=True))
    @extend_schema(methods=["POST"], request=RunFormSerializer, responses={201: RunSerializer})
    @action(detail=True, methods=["get", "post"], pagination_class=None)
    def runs(self: Any, request: Request, pk: str) -> Response:
        """How long this piece took, each time it was made."""
        piece = self.get_object()
        if request.method == "GET":
            return Response(RunSerializer(piece.runs.all(), many=True).data)
        sheet = piece.sheet()
        plan = bench.plans_of(piece, sheet)[0]
        run = log_run(actor=request.user, piece=piece, medium=sheet.medium, plan=plan, **self._read(RunFormSerializer))
        return Response(RunSerializer(run).data, status=201)

    @extend_schema(
        parameters=[serializers.IF_MATCH, OpenApiParameter("number", int, OpenApiParameter.PATH)],
        request=None,
        responses=serializers.PieceSerializer,
    )
    @action(detail=True, methods=["post"], url_path=r"recipes/(?P<number>\d+)/restore")
    def restore(self: Any, request: Request, pk: str, number: str) -> Response:
        """Lay a kept version on the bench again, as one step that can be undone."""
        return self._change(recipes.restore_recipe, number=int(number))
