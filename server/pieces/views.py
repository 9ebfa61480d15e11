"""What the views of pieces have in common. Each subject's own stand in its folder: thin, one service per action."""

from __future__ import annotations

import math
from collections.abc import Callable
from typing import Any

from django.db.models import QuerySet
from drf_spectacular.utils import extend_schema
from rest_framework import viewsets
from rest_framework.exceptions import ValidationError
from rest_framework.request import Request
from rest_framework.response import Response

from server.pieces import presenters
from server.pieces.models import Piece
from server.pieces.serializers import PieceSerializer
from server.versions import IF_MATCH, tag, version_named


def changes(request: Any, **more: Any) -> Any:
    """Describes an action that changes a piece and answers all of it."""
    return extend_schema(parameters=[IF_MATCH, *more.pop("parameters", ())], request=request, responses=PieceSerializer)


class PieceActions(viewsets.GenericViewSet):
    """Actions on pieces of whoever is signed in. Every change names the version it was made on."""

    queryset = Piece.objects.all()
    serializer_class = PieceSerializer
    lookup_value_regex = "[0-9]{1,15}"

    def get_queryset(self) -> QuerySet[Piece]:
        return Piece.objects.owned_by(self.request.user)

    def read_form(self, form_class: type, **more: Any) -> dict[str, Any]:
        form = form_class(data=self.request.data, **more)
        form.is_valid(raise_exception=True)
        return form.validated_data

    def read_some(self, form_class: type) -> dict[str, Any]:
        """What the request names of a form whose fields may all be missing."""
        form = self.read_form(form_class)
        if not form:
            raise ValidationError("Say what to change.")
        return form

    def change(self, service: Callable[..., Piece], **values: Any) -> Response:
        version = version_named(self.request)
        piece = service(actor=self.request.user, piece=self.get_object(), version=version, **values)
        return self.show(piece)

    def show(self, piece: Piece, status: int = 200) -> Response:
        return Response(presenters.present_piece(piece), status=status, headers=tag(piece.version))


LARGEST_NUMBER = 2**63 - 1
"""The largest that the database can be asked for."""


def number_in(request: Request, name: str, kind: Any) -> Any:
    """A number in the address, finite and not beyond what the database knows."""
    try:
        text = request.query_params[name]
        value = kind(text) if len(text) <= 24 and text.isascii() else math.nan
    except (KeyError, ValueError) as error:
        raise ValidationError({name: "A number is needed here."}) from error
    if not abs(value) <= LARGEST_NUMBER:
        raise ValidationError({name: "A number is needed here."})
    return value
