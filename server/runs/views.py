"""Runs over the API: started, logged and listed with their piece; coloured along; the logbook."""

from __future__ import annotations

from dataclasses import asdict
from typing import Any, cast

from django.db.models import QuerySet
from django.http import HttpResponse
from drf_spectacular.types import OpenApiTypes
from drf_spectacular.utils import OpenApiParameter, extend_schema
from rest_framework import viewsets
from rest_framework.decorators import action
from rest_framework.parsers import MultiPartParser
from rest_framework.response import Response

from server.accounts.authentication import UserRequest
from server.derived import pictures
from server.pieces.views import PieceActions, number_in
from server.runs import along, presenters, services
from server.runs.models import Run
from server.runs.serializers import (
    EventsFormSerializer,
    KeptVersionSerializer,
    MovingSerializer,
    RunChoiceSerializer,
    RunFormSerializer,
    RunLineSerializer,
    RunPhotoSerializer,
    RunReadoutSerializer,
    RunSerializer,
    StartRunSerializer,
    SyncResultSerializer,
)
from server.uploads import uploaded
from server.versions import IF_MATCH, version_named

FILTERS = [
    OpenApiParameter("piece", int, description="Only runs of this piece."),
    OpenApiParameter("version", int, description="Only runs of this version of it."),
    OpenApiParameter("medium", str),
    OpenApiParameter("swatch", str, description="Only runs in which a swatch of this name or code was laid."),
    OpenApiParameter("open", bool, description="Only runs that can be gone on with."),
]
LASTING = {"Cache-Control": "private, max-age=31536000, immutable", "Vary": "Cookie"}


class PieceRunViews(PieceActions):
    @extend_schema(methods=["GET"], responses=RunSerializer(many=True))
    @extend_schema(methods=["POST"], request=RunFormSerializer, responses={201: RunSerializer})
    @action(detail=True, methods=["get", "post"], pagination_class=None)
    def runs(self, request: UserRequest, pk: str) -> Response:
        """How long this piece took, each time it was made; the short way to log a run is by the clock alone."""
        piece = self.get_object()
        if request.method == "GET":
            return Response(RunSerializer(services.runs_of(piece), many=True).data)
        run = services.log_run(actor=request.user, piece=piece, **self.read_form(RunFormSerializer))
        return Response(RunSerializer(run).data, status=201)

    @extend_schema(parameters=[IF_MATCH], request=StartRunSerializer, responses={201: RunReadoutSerializer})
    @action(detail=True, methods=["post"], url_path="start-run")
    def start_run(self, request: UserRequest, pk: str) -> Response:
        """Begin to colour along. The sheet is kept as a version first if it has changed."""
        version, form = version_named(request), self.read_form(StartRunSerializer)
        run = along.start_run(actor=request.user, piece=self.get_object(), version=version, **form)
        return Response(presenters.present_run(run), status=201)


class RunViewSet(viewsets.GenericViewSet):
    queryset = Run.objects.all()
    serializer_class = RunLineSerializer
    lookup_value_regex = "[0-9]{1,15}"

    def get_queryset(self) -> QuerySet[Run]:
        runs = Run.objects.owned_by(self.request.user)
        return runs if self.action == "list" else runs.select_related("piece", "recipe")

    def get_parsers(self) -> list[Any]:
        handler = getattr(self, "action_map", {}).get(getattr(self.request, "method", "").lower())
        return [MultiPartParser()] if handler == "photos" else super().get_parsers()

    @extend_schema(responses=RunLineSerializer(many=True), parameters=FILTERS)
    def list(self, request: UserRequest) -> Response:
        """The logbook, newest first."""
        runs, query = self.get_queryset().defer("sheet", "times", "lines"), request.query_params
        if "piece" in query:
            runs = runs.filter(piece_id=number_in(request, "piece", int))
        if "version" in query:
            runs = runs.filter(recipe_number=number_in(request, "version", int))
        if query.get("medium"):
            runs = runs.filter(medium=query["medium"])
        if query.get("swatch"):
            runs = runs.filter(pens_text__contains=query["swatch"].lower())
        if query.get("open") == "true":
            runs = runs.filter(events_count__gt=0, finished_at=None, recipe__isnull=False)
        page = self.paginate_queryset(runs)
        return self.get_paginated_response([presenters.line_of(run) for run in page or []])

    @extend_schema(responses=RunReadoutSerializer)
    def retrieve(self, request: UserRequest, pk: str) -> Response:
        return Response(presenters.present_run(self.get_object()))

    def destroy(self, request: UserRequest, pk: str) -> Response:
        services.forget_run(actor=request.user, run=self.get_object())
        return Response(status=204)

    @extend_schema(request=EventsFormSerializer, responses=SyncResultSerializer)
    @action(detail=True, methods=["post"])
    def events(self, request: UserRequest, pk: str) -> Response:
        """Lines for the log, taken or refused one by one; and those that were not seen yet."""
        form = EventsFormSerializer(data=request.data)
        form.is_valid(raise_exception=True)
        values = form.validated_data
        # As they were sent: the log keeps more of a line than the form reads.
        lines = cast(dict[str, Any], request.data)["events"]
        told = along.record(actor=request.user, run=self.get_object(), lines=lines, seen=values["seen"])
        return Response(asdict(told))

    @extend_schema(responses=RunChoiceSerializer(many=True), parameters=[OpenApiParameter("now", float, required=True)])
    @action(detail=True, pagination_class=None)
    def choices(self, request: UserRequest, pk: str) -> Response:
        """What may be laid now, best first."""
        return Response(presenters.present_choices(self.get_object(), number_in(request, "now", float)))

    @extend_schema(request={"multipart/form-data": RunPhotoSerializer}, responses={201: RunReadoutSerializer})
    @action(detail=True, methods=["post"])
    def photos(self, request: UserRequest, pk: str) -> Response:
        form = RunPhotoSerializer(data=request.data)
        form.is_valid(raise_exception=True)
        values = dict(form.validated_data)
        data = uploaded(values.pop("photo"))
        run = along.add_photo(actor=request.user, run=self.get_object(), data=data, **values)
        return Response(presenters.present_run(run), status=201)

    @extend_schema(
        responses={(200, "image/jpeg"): OpenApiTypes.BINARY},
        parameters=[OpenApiParameter("sha256", str, OpenApiParameter.PATH)],
    )
    @action(detail=True, url_path="photos/(?P<sha256>[0-9a-f]{64})")
    def photo(self, request: UserRequest, pk: str, sha256: str) -> HttpResponse:
        data = along.photo_of(self.get_object(), sha256)
        return HttpResponse(data, content_type="image/jpeg", headers=LASTING)

    @extend_schema(responses={(200, "image/png"): OpenApiTypes.BINARY})
    @action(detail=True)
    def map(self, request: UserRequest, pk: str) -> HttpResponse:
        """Where each region and zone lies: label = red + 256 * green, zone = blue - 1, none where blue is 0."""
        run = self.get_object()
        data = pictures.map_picture(along.stamping_of(run), along.recipe_followed(run).sheet)
        return HttpResponse(data, content_type="image/png", headers={"Cache-Control": "private, max-age=86400"})

    @extend_schema(methods=["GET"], responses=MovingSerializer)
    @extend_schema(methods=["POST"], request=None, responses=RunReadoutSerializer)
    @action(detail=True, methods=["get", "post"], pagination_class=None)
    def move(self, request: UserRequest, pk: str) -> Response:
        """Follow the newest version from here on; asked first, what that does."""
        run = self.get_object()
        if request.method == "GET":
            number = along.newest_version(run).number
            return Response({"to_version": number, "sentences": along.moving_does(run)})
        return Response(presenters.present_run(along.move_run(actor=request.user, run=run)))

    @extend_schema(request=None, responses={201: KeptVersionSerializer})
    @action(detail=True, methods=["post"])
    def keep(self, request: UserRequest, pk: str) -> Response:
        """Keep what was done as the next version."""
        record = along.keep_as_version(actor=request.user, run=self.get_object())
        return Response({"number": record.number, "changes": record.changes}, status=201)
