"""Throwing single runs away; they are logged and listed with their piece."""

from __future__ import annotations

from django.db.models import QuerySet
from rest_framework import viewsets
from rest_framework.request import Request
from rest_framework.response import Response

from server.runs import services
from server.runs.models import Run
from server.runs.serializers import RunSerializer


class RunViewSet(viewsets.GenericViewSet):
    queryset = Run.objects.all()
    serializer_class = RunSerializer
    lookup_value_regex = r"\d+"

    def get_queryset(self) -> QuerySet[Run]:
        return Run.objects.owned_by(self.request.user)

    def destroy(self, request: Request, pk: str) -> Response:
        services.forget_run(actor=request.user, run=self.get_object())
        return Response(status=204)
