"""The shelf over the API."""

from __future__ import annotations

from typing import Any

from django.db.models import QuerySet
from django.http import HttpResponse
from drf_spectacular.types import OpenApiTypes
from drf_spectacular.utils import OpenApiParameter, extend_schema
from rest_framework.decorators import action
from rest_framework.parsers import MultiPartParser
from rest_framework.response import Response

from paleta.light import Lamp
from paleta.picture import VIEWS
from server.accounts.authentication import UserRequest
from server.derived import pictures
from server.pieces import presenters, steps
from server.pieces.models import Piece
from server.pieces.serializers import PieceSerializer, ShelfPieceSerializer
from server.pieces.shelf import services
from server.pieces.shelf.serializers import AddPieceSerializer, LookOutSerializer, LookSerializer
from server.pieces.views import PieceActions, changes, number_in
from server.uploads import uploaded

SMALLEST_PX, LARGEST_PX = 40, 800
PICTURE = [
    OpenApiParameter("view", str, enum=list(VIEWS), default="coloured"),
    OpenApiParameter("azimuth_deg", float, description="Another lamp than the kept one, while it is dragged."),
    OpenApiParameter("elevation_deg", float),
    OpenApiParameter("live", bool, description="A smaller picture, while the lamp moves."),
    OpenApiParameter("width_px", int, description="A small picture of this width, for the shelf."),
    OpenApiParameter("version", int, description="Only to name the picture; a picture of a version may be kept."),
]


class ShelfViews(PieceActions):
    """Pieces as wholes: the list, one of them, its pictures, and the way back and forth between its steps."""

    def get_parsers(self) -> list[Any]:
        handler = getattr(self, "action_map", {}).get(getattr(self.request, "method", "").lower())
        return [MultiPartParser()] if handler in ("create", "look") else super().get_parsers()

    def get_queryset(self) -> QuerySet[Piece]:
        """For the shelf, and for pictures that follow the lamp, without the sheets: most are in memory anyway."""
        pieces = super().get_queryset()
        return pieces.defer("current_sheet") if self.action in ("list", "picture") else pieces

    @extend_schema(responses=ShelfPieceSerializer(many=True))
    def list(self, request: UserRequest) -> Response:
        page = self.paginate_queryset(self.get_queryset())
        return self.get_paginated_response([presenters.present_shelf(piece) for piece in page or []])

    @extend_schema(request={"multipart/form-data": AddPieceSerializer}, responses={201: PieceSerializer})
    def create(self, request: UserRequest) -> Response:
        form = self.read_form(AddPieceSerializer)
        piece = services.add_piece(actor=request.user, data=uploaded(form.pop("image")), **form)
        return self.show(piece, status=201)

    def retrieve(self, request: UserRequest, pk: str) -> Response:
        return self.show(self.get_object())

    def destroy(self, request: UserRequest, pk: str) -> Response:
        services.delete_piece(actor=request.user, piece=self.get_object())
        return Response(status=204)

    @extend_schema(request={"multipart/form-data": LookSerializer}, responses=LookOutSerializer)
    @action(detail=False, methods=["post"])
    def look(self, request: UserRequest) -> Response:
        """Read a picture without keeping it, and say where its sheet lies."""
        return Response(services.look(uploaded(self.read_form(LookSerializer)["image"])))

    @changes(None)
    @action(detail=True, methods=["post"])
    def undo(self, request: UserRequest, pk: str) -> Response:
        return self.change(steps.undo)

    @changes(None)
    @action(detail=True, methods=["post"])
    def redo(self, request: UserRequest, pk: str) -> Response:
        return self.change(steps.redo)

    @extend_schema(parameters=PICTURE, responses={(200, "image/jpeg"): OpenApiTypes.BINARY})
    @action(detail=True)
    def picture(self, request: UserRequest, pk: str) -> HttpResponse:
        piece, query = self.get_object(), request.query_params
        sheet = piece.sheet()
        if "width_px" in query:
            width_px = min(max(number_in(request, "width_px", int), SMALLEST_PX), LARGEST_PX)
            data = pictures.small_picture(piece.stamping, sheet, width_px)
        else:
            lamp = None
            if "azimuth_deg" in query or "elevation_deg" in query:
                lamp = Lamp(
                    azimuth_deg=number_in(request, "azimuth_deg", float),
                    elevation_deg=number_in(request, "elevation_deg", float),
                    ambient=sheet.light.lamp.ambient,
                )
            view, live = query.get("view", "coloured"), query.get("live") == "true"
            data = pictures.picture(piece.stamping, sheet, view, lamp=lamp, live=live)
        return jpeg(data, lasting=query.get("version") == str(piece.version))

    @extend_schema(responses={(200, "image/png"): OpenApiTypes.BINARY})
    @action(detail=True)
    def labels(self, request: UserRequest, pk: str) -> HttpResponse:
        piece = self.get_object()
        data = pictures.labels_picture(piece.stamping, piece.sheet())
        return HttpResponse(data, content_type="image/png", headers={"Cache-Control": "no-store"})


def jpeg(data: bytes, *, lasting: bool) -> HttpResponse:
    """A picture; one that names its version never changes and may be kept by the browser."""
    kept = "private, max-age=86400" if lasting else "no-store"
    return HttpResponse(data, content_type="image/jpeg", headers={"Cache-Control": kept, "Vary": "Cookie"})
