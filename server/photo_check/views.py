"""Photo checks over the API."""

from __future__ import annotations

from typing import Any

from django.db.models import QuerySet
from django.http import HttpResponse
from drf_spectacular.types import OpenApiTypes
from drf_spectacular.utils import OpenApiParameter, extend_schema
from rest_framework import viewsets
from rest_framework.decorators import action
from rest_framework.exceptions import NotFound
from rest_framework.parsers import MultiPartParser
from rest_framework.response import Response

from paleta.devices import HandFault
from server.accounts.authentication import UserRequest
from server.derived import pictures
from server.files import store
from server.photo_check import presenters, services
from server.photo_check.models import PhotoCheck
from server.photo_check.serializers import (
    FineSerializer,
    MeasuredSerializer,
    PhotoCheckFormSerializer,
    PhotoCheckLineSerializer,
    PhotoCheckSerializer,
    SimulatedFormSerializer,
    TakeMeasuredSerializer,
    TakenSerializer,
)
from server.pieces.shelf.views import jpeg
from server.pieces.views import PieceActions, number_in
from server.uploads import uploaded
from server.versions import IF_MATCH, version_named

AGAINST = OpenApiParameter("against", int, description="Another photo check to hold it against, instead of the plan.")
MOST_LINES = 200
VIEWS = ("photo", "flat", "plan", "difference")


class PiecePhotoViews(PieceActions):
    def get_parsers(self) -> list[Any]:
        handler = getattr(self, "action_map", {}).get(getattr(self.request, "method", "").lower())
        return [MultiPartParser()] if handler == "photo_checks" else super().get_parsers()

    @extend_schema(methods=["GET"], responses=PhotoCheckLineSerializer(many=True))
    @extend_schema(
        methods=["POST"],
        parameters=[IF_MATCH],
        request={"multipart/form-data": PhotoCheckFormSerializer},
        responses={201: PhotoCheckSerializer},
    )
    @action(detail=True, methods=["get", "post"], url_path="photo-checks", pagination_class=None)
    def photo_checks(self, request: UserRequest, pk: str) -> Response:
        """Photos of finished cards of this piece, held against their recipes."""
        piece = self.get_object()
        if request.method == "GET":
            return Response([presenters.line_of(one) for one in piece.photo_checks.as_lines()[:MOST_LINES]])
        form = self.read_form(PhotoCheckFormSerializer)
        data = uploaded(form.pop("photo"))
        version = version_named(request)
        check = services.check_photo(actor=request.user, piece=piece, version=version, data=data, **form)
        return Response(presenters.present_check(check), status=201)

    @extend_schema(parameters=[IF_MATCH], request=SimulatedFormSerializer, responses={201: PhotoCheckSerializer})
    @action(detail=True, methods=["post"], url_path="try-photo")
    def try_photo(self, request: UserRequest, pk: str) -> Response:
        """A photo check without a card: a simulated hand colours it, a simulated camera takes it."""
        piece = self.get_object()
        form = self.read_form(SimulatedFormSerializer)
        faults = [HandFault(one["kind"], (one["label"],), size=one["size"]) for one in form.pop("faults")]
        check = services.try_without_a_card(
            actor=request.user, piece=piece, version=version_named(request), faults=faults, **form
        )
        return Response(presenters.present_check(check), status=201)

    @extend_schema(methods=["GET"], responses=MeasuredSerializer(many=True))
    @extend_schema(methods=["POST"], parameters=[IF_MATCH], request=TakeMeasuredSerializer, responses=TakenSerializer)
    @action(detail=True, methods=["get", "post"], url_path="measured-swatches", pagination_class=None)
    def measured_swatches(self, request: UserRequest, pk: str) -> Response:
        """Swatches that come out otherwise on three or more own cards; a value is taken over, or put back."""
        piece = self.get_object()
        if request.method == "GET":
            return Response(presenters.present_measured(services.measured_for(request.user, piece)))
        form = self.read_form(TakeMeasuredSerializer)
        drawer = services.take_measured(actor=request.user, piece=piece, version=version_named(request), **form)
        return Response({"drawer_version": drawer.version})


class PhotoCheckViewSet(viewsets.GenericViewSet):
    queryset = PhotoCheck.objects.all()
    serializer_class = PhotoCheckSerializer
    lookup_value_regex = "[0-9]{1,15}"

    def get_queryset(self) -> QuerySet[PhotoCheck]:
        return PhotoCheck.objects.owned_by(self.request.user).select_related("piece", "recipe")

    @extend_schema(responses=PhotoCheckSerializer, parameters=[AGAINST])
    def retrieve(self, request: UserRequest, pk: str) -> Response:
        return Response(presenters.present_check(self.get_object(), self._other()))

    def destroy(self, request: UserRequest, pk: str) -> Response:
        services.forget_check(actor=request.user, check=self.get_object())
        return Response(status=204)

    @extend_schema(request=FineSerializer, responses=PhotoCheckSerializer)
    @action(detail=True, methods=["put"])
    def fine(self, request: UserRequest, pk: str) -> Response:
        """A finding that was seen and is fine, or is not after all."""
        form = FineSerializer(data=request.data)
        form.is_valid(raise_exception=True)
        check = services.dismiss_fault(actor=request.user, check=self.get_object(), **form.validated_data)
        return Response(presenters.present_check(check))

    @extend_schema(
        responses={(200, "image/jpeg"): OpenApiTypes.BINARY, (200, "image/png"): OpenApiTypes.BINARY},
        parameters=[OpenApiParameter("view", str, enum=list(VIEWS), default="flat"), AGAINST],
    )
    @action(detail=True)
    def picture(self, request: UserRequest, pk: str) -> HttpResponse:
        """The photo as it was taken, laid flat, the plan it was made along, or how far each part is off."""
        check, view = self.get_object(), request.query_params.get("view", "flat")
        if view == "difference":
            return HttpResponse(presenters.differences_picture(check, self._other()), content_type="image/png")
        if view == "plan":
            return jpeg(pictures.picture(check.piece.stamping, services.sheet_of(check), "coloured"), lasting=True)
        if view not in VIEWS:
            raise NotFound(f"There is no view {view!r} of a photo check.")
        return jpeg(store.fetch(check.photo_sha256 if view == "photo" else check.flat_sha256), lasting=True)

    @extend_schema(responses={(200, "image/png"): OpenApiTypes.BINARY})
    @action(detail=True)
    def labels(self, request: UserRequest, pk: str) -> HttpResponse:
        """Where each region lies: label = red + 256 * green."""
        check = self.get_object()
        data = pictures.labels_picture(check.piece.stamping, services.sheet_of(check))
        return HttpResponse(data, content_type="image/png", headers={"Cache-Control": "private, max-age=86400"})

    def _other(self) -> PhotoCheck | None:
        if "against" not in self.request.query_params:
            return None
        other = self.get_queryset().filter(pk=number_in(self.request, "against", int)).first()
        if other is None:
            raise NotFound("There is no such photo check to hold it against.")
        return other
