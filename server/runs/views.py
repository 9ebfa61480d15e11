"""Runs over the API: logged and listed with their piece, thrown away one by one."""

from __future__ import annotations

from django.db.models import QuerySet
from drf_spectacular.utils import extend_schema
from rest_framework import viewsets
from rest_framework.decorators import action
from rest_framework.request import Request
from rest_framework.response import Response

from server.pieces.views import PieceActions
from server.runs import services
from server.runs.models import Run
from server.runs.serializers import RunFormSerializer, RunSerializer


class PieceRunViews(PieceActions):
    @extend_schema(methods=["GET"], responses=RunSerializer(many=True))
    @extend_schema(methods=["POST"], request=RunFormSerializer, responses={201: RunSerializer})
    @action(detail=True, methods=["get", "post"], pagination_class=None)
    def runs(self, request: Request, pk: str) -> Response:
        """How long this piece took, each time it was made."""
        piece = self.get_object()
        if request.method == "GET":
            return Response(RunSerializer(services.runs_of(piece), many=True).data)
        run = services.log_run(actor=request.user, piece=piece, **self.read_form(RunFormSerializer))
        return Response(RunSerializer(run).data, status=201)


class RunViewSet(viewsets.GenericViewSet):
    queryset = Run.objects.all()
    serializer_class = RunSerializer
    lookup_value_regex = "[0-9]{1,15}"

    def get_queryset(self) -> QuerySet[Run]:
        return Run.objects.owned_by(self.request.user)

    def destroy(self, request: Request, pk: str) -> Response:
        services.forget_run(actor=request.user, run=self.get_object())
        return Response(status=204)
