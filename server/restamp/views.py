"""Stamping again over the API."""

from __future__ import annotations

from typing import Any

from drf_spectacular.utils import extend_schema
from rest_framework.decorators import action
from rest_framework.parsers import MultiPartParser
from rest_framework.response import Response

from server.accounts.authentication import UserRequest
from server.pieces.views import PieceActions
from server.restamp import presenters, services
from server.restamp.serializers import StampAgainSerializer, StampedAgainSerializer
from server.uploads import uploaded


class RestampViews(PieceActions):
    def get_parsers(self) -> list[Any]:
        return [MultiPartParser()]

    @extend_schema(request={"multipart/form-data": StampAgainSerializer}, responses={201: StampedAgainSerializer})
    @action(detail=True, methods=["post"], url_path="stamp-again")
    def stamp_again(self, request: UserRequest, pk: str) -> Response:
        """Another stamping of the same stamp, as a piece of its own with everything carried over."""
        first = self.get_object()
        form = self.read_form(StampAgainSerializer)
        data = uploaded(form.pop("image"))
        piece, changes = services.stamp_again(actor=request.user, piece=first, data=data, **form)
        told = {"piece": piece.pk, "warnings": piece.warnings}
        return Response({**told, "changes": [presenters.present_change(one) for one in changes]}, status=201)
