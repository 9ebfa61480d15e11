"""How busy the house is."""

from __future__ import annotations

from django.conf import settings
from drf_spectacular.utils import extend_schema
from rest_framework import serializers
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from server.derived import worker


class QueueSerializer(serializers.Serializer):
    """Heavy work of everybody: how much is under way or waits for its turn, and how much is done at once."""

    in_line = serializers.IntegerField()
    at_once = serializers.IntegerField()


class QueueView(APIView):
    @extend_schema(operation_id="queue_read", responses=QueueSerializer)
    def get(self, request: Request) -> Response:
        """How much work is in line. Whoever has waited for some seconds asks, so that waiting has a reason."""
        return Response({"in_line": worker.in_line(), "at_once": settings.HEAVY_AT_ONCE})
