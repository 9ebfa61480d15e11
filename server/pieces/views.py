"""Thin views: read the request, call one service, return the result."""

from __future__ import annotations

import math
import re
from dataclasses import asdict
from typing import Any

from django.db.models import QuerySet
from django.http import HttpResponse
from django.shortcuts import get_object_or_404
from drf_spectacular.types import OpenApiTypes
from drf_spectacular.utils import OpenApiParameter, extend_schema
from rest_framework import viewsets
from rest_framework.decorators import action
from rest_framework.exceptions import ValidationError
from rest_framework.parsers import MultiPartParser
from rest_framework.request import Request
from rest_framework.response import Response

from paleta.light import Glow, Lamp
from paleta.recipe import Recipe
from server.drawers.models import Drawer
from server.pieces import bench, plan_serializers, readout, recipes, regions, serializers, services, steps
from server.pieces.colour_views import ColourActions
from server.pieces.models import Piece, RecipeRecord
from server.pieces.run_views import RunActions
from server.problems import VersionMissing
from server.runs.services import pace_of
from server.uploads import uploaded

RECIPE = OpenApiParameter("recipe", int, description="The kept version to show instead of the working sheet.")
PICTURE = [
    OpenApiParameter("view", str, enum=["line", "ink", "regions", "values", "coloured"], default="coloured"),
    OpenApiParameter("azimuth_deg", float, description="Another lamp than the kept one, while it is dragged."),
    OpenApiParameter("elevation_deg", float),
    OpenApiParameter("live", bool, description="Every second pixel."),
    OpenApiParameter("width_px", int, description="A small picture of this width, for the shelf."),
    RECIPE,
    OpenApiParameter("version", int, description="Only to name the picture; a picture of a version may be kept."),
]


def changes(request: type, **more: Any) -> Any:
    return extend_schema(
        parameters=[serializers.IF_MATCH], request=request, responses=serializers.PieceSerializer, **more
    )


class PieceViewSet(ColourActions, RunActions, viewsets.GenericViewSet):
    """Pieces of whoever is signed in. Every change names the version it was made on and answers the whole piece."""

    queryset = Piece.objects.all()
    serializer_class = serializers.PieceSerializer
    lookup_value_regex = r"\d+"

    def get_queryset(self) -> QuerySet[Piece]:
        return Piece.objects.owned_by(self.request.user).with_latest_recipe()

    def _version(self) -> int:
        found = re.fullmatch(r'"(\d{1,9})"', self.request.headers.get("If-Match", ""))
        if not found:
            raise VersionMissing
        return int(found[1])

    def _read(self, form_class: type) -> dict[str, Any]:
        form = form_class(data=self.request.data)
        form.is_valid(raise_exception=True)
        return form.validated_data

    def _some(self, form_class: type) -> dict[str, Any]:
        """What the request names of a form whose fields may all be missing."""
        form = self._read(form_class)
        if not form:
            raise ValidationError("Say what to change.")
        return form

    def _change(self, service: Any, **values: Any) -> Response:
        piece = service(actor=self.request.user, piece=self.get_object(), version=self._version(), **values)
        return self._show(piece)

    def _show(self, piece: Piece, status: int = 200) -> Response:
        return Response(readout.piece_readout(piece), status=status, headers={"ETag": f'"{piece.version}"'})

    @extend_schema(responses=serializers.PieceCardSerializer(many=True))
    def list(self, request: Request) -> Response:
        page = self.paginate_queryset(self.get_queryset())
        return self.get_paginated_response([readout.piece_card(piece) for piece in page or []])

    @extend_schema(
        request={"multipart/form-data": serializers.AddPieceSerializer}, responses={201: serializers.PieceSerializer}
    )
    def create(self, request: Request) -> Response:
        form = self._read(serializers.AddPieceSerializer)
        corners = form.pop("corners", None)
        kept = tuple((x, y) for x, y in corners) if corners is not None else None
        piece = services.add_piece(actor=request.user, data=uploaded(form.pop("image")), corners=kept, **form)
        return self._show(piece, status=201)

    def get_parsers(self) -> list[Any]:
        handler = getattr(self, "action_map", {}).get(getattr(self.request, "method", "").lower())
        return [MultiPartParser()] if handler in ("create", "look", "import_recipe") else super().get_parsers()

    @extend_schema(parameters=[RECIPE])
    def retrieve(self, request: Request, pk: str) -> Response:
        piece = self.get_object()
        kept = self._kept(piece)
        return Response(readout.piece_readout(piece, kept.sheet)) if kept else self._show(piece)

    def _kept(self, piece: Piece) -> Recipe | None:
        """The frozen recipe that the request asks for, if it names one."""
        query = self.request.query_params
        if "recipe" not in query:
            return None
        return recipes.recipe_of(get_object_or_404(piece.recipes, number=_number(query, "recipe", int)))

    def destroy(self, request: Request, pk: str) -> Response:
        services.delete_piece(actor=request.user, piece=self.get_object())
        return Response(status=204)

    @changes(serializers.StampSerializer)
    @action(detail=True, methods=["put"])
    def stamp(self, request: Request, pk: str) -> Response:
        return self._change(services.describe_stamp, changes=self._read(serializers.StampSerializer))

    @changes(serializers.LampSerializer)
    @action(detail=True, methods=["put"])
    def lamp(self, request: Request, pk: str) -> Response:
        return self._change(services.turn_lamp, lamp=Lamp(**self._read(serializers.LampSerializer)))

    @changes(serializers.GlowsSerializer)
    @action(detail=True, methods=["put"])
    def glows(self, request: Request, pk: str) -> Response:
        form = self._read(serializers.GlowsSerializer)
        return self._change(services.set_glows, glows=[Glow(**glow) for glow in form["glows"]])

    @changes(serializers.ZoningSerializer)
    @action(detail=True, methods=["put"])
    def zoning(self, request: Request, pk: str) -> Response:
        return self._change(services.set_zoning, changes=self._some(serializers.ZoningSerializer))

    @changes(serializers.MediumSerializer)
    @action(detail=True, methods=["put"])
    def medium(self, request: Request, pk: str) -> Response:
        form = self._read(serializers.MediumSerializer)
        drawer = get_object_or_404(Drawer.objects.owned_by(request.user), pk=form["drawer"])
        return self._change(services.choose_medium, medium=form["medium"], drawer=drawer)

    @changes(serializers.OverSerializer)
    @action(detail=True, methods=["put"], url_path="pencil-over")
    def pencil_over(self, request: Request, pk: str) -> Response:
        form = self._read(serializers.OverSerializer)
        drawer = get_object_or_404(Drawer.objects.owned_by(request.user), pk=form["drawer"])
        return self._change(services.go_over_in_pencil, drawer=drawer)

    @changes(serializers.SchoolChoiceSerializer)
    @action(detail=True, methods=["put"])
    def school(self, request: Request, pk: str) -> Response:
        return self._change(services.choose_school, **self._read(serializers.SchoolChoiceSerializer))

    @changes(serializers.WishesSerializer)
    @action(detail=True, methods=["put"], url_path="wishes")
    def wishes(self, request: Request, pk: str) -> Response:
        return self._change(services.wish, changes=self._some(serializers.WishesSerializer))

    @extend_schema(
        responses=plan_serializers.BatchSerializer, parameters=[OpenApiParameter("copies", int, required=True)]
    )
    @action(detail=True)
    def batch(self, request: Request, pk: str) -> Response:
        """The same plan for several cards at once."""
        piece = self.get_object()
        return Response(asdict(bench.batch_of(piece, piece.sheet(), _number(request.query_params, "copies", int))))

    @changes(serializers.RegionChangeSerializer)
    @action(detail=True, methods=["put"])
    def regions(self, request: Request, pk: str) -> Response:
        form = self._read(serializers.RegionChangeSerializer)
        labels = form.pop("labels")
        if not form:
            raise ValidationError("Say what to change in these regions.")
        for pair in ("base_mm", "tags"):
            if form.get(pair) is not None:
                form[pair] = tuple(form[pair])
        return self._change(regions.change_regions, labels=labels, changes=form)

    @changes(serializers.JoinSerializer)
    @action(detail=True, methods=["post"])
    def join(self, request: Request, pk: str) -> Response:
        return self._change(regions.join_regions, **self._read(serializers.JoinSerializer))

    @changes(serializers.EraseSerializer)
    @action(detail=True, methods=["post"])
    def erase(self, request: Request, pk: str) -> Response:
        return self._change(regions.erase_region, **self._read(serializers.EraseSerializer))

    @changes(serializers.FrontSerializer)
    @action(detail=True, methods=["put"])
    def front(self, request: Request, pk: str) -> Response:
        return self._change(regions.put_before, **self._read(serializers.FrontSerializer))

    @extend_schema(responses=serializers.LightCheckSerializer)
    @action(detail=True, url_path="light-check")
    def light_check(self, request: Request, pk: str) -> Response:
        piece = self.get_object()
        return Response(readout.light_check(piece, piece.sheet()))

    @extend_schema(request={"multipart/form-data": serializers.LookSerializer}, responses=serializers.LookOutSerializer)
    @action(detail=False, methods=["post"])
    def look(self, request: Request) -> Response:
        """Read a picture without keeping it, and say where its sheet lies."""
        form = self._read(serializers.LookSerializer)
        return Response(readout.look(services.read_loose(uploaded(form["image"]))))

    @changes(serializers.FindAgainSerializer)
    @action(detail=True, methods=["post"], url_path="find-again")
    def find_again(self, request: Request, pk: str) -> Response:
        return self._change(regions.find_again, **self._read(serializers.FindAgainSerializer))

    @changes(serializers.BodySerializer)
    @action(detail=True, methods=["put"])
    def body(self, request: Request, pk: str) -> Response:
        return self._change(regions.make_body, **self._read(serializers.BodySerializer))

    @changes(serializers.SplitSerializer)
    @action(detail=True, methods=["post"])
    def split(self, request: Request, pk: str) -> Response:
        return self._change(regions.split_region, **self._read(serializers.SplitSerializer))

    @extend_schema(request=serializers.ProposeSerializer, responses=serializers.RampSerializer(many=True))
    @action(detail=True, methods=["post"], url_path="ramp-proposals", pagination_class=None)
    def ramp_proposals(self, request: Request, pk: str) -> Response:
        form = self._read(serializers.ProposeSerializer)
        ramps = services.propose_ramps(actor=request.user, piece=self.get_object(), **form)
        return Response([serializers.RampSerializer.of(ramp) for ramp in ramps])

    @changes(serializers.RampSetSerializer)
    @action(detail=True, methods=["put"])
    def ramp(self, request: Request, pk: str) -> Response:
        return self._change(services.set_ramp, **self._read(serializers.RampSetSerializer))

    @extend_schema(parameters=[serializers.IF_MATCH], request=None, responses=serializers.PieceSerializer)
    @action(detail=True, methods=["post"], url_path="colour-wishes")
    def colour_wishes(self, request: Request, pk: str) -> Response:
        return self._change(services.colour_all_wishes)

    @extend_schema(parameters=[serializers.IF_MATCH], request=None, responses=serializers.PieceSerializer)
    @action(detail=True, methods=["post"])
    def undo(self, request: Request, pk: str) -> Response:
        return self._change(steps.undo)

    @extend_schema(parameters=[serializers.IF_MATCH], request=None, responses=serializers.PieceSerializer)
    @action(detail=True, methods=["post"])
    def redo(self, request: Request, pk: str) -> Response:
        return self._change(steps.redo)

    @extend_schema(parameters=[RECIPE], responses=plan_serializers.PlanSerializer)
    @action(detail=True)
    def plan(self, request: Request, pk: str) -> Response:
        """The order of passes; that of a kept version is as it was frozen."""
        piece = self.get_object()
        kept = self._kept(piece)
        sheet = kept.sheet if kept else piece.sheet()
        plan, by_region = bench.plans_of(piece, sheet)
        _, timed_runs = pace_of(request.user.pk, sheet.medium)
        region_map = bench.region_map_of(piece, sheet)
        frozen = kept.plan if kept else plan
        return Response(readout.plan_readout(sheet, region_map, frozen, by_region, timed_runs=timed_runs))

    @extend_schema(parameters=PICTURE, responses={(200, "image/jpeg"): OpenApiTypes.BINARY})
    @action(detail=True)
    def picture(self, request: Request, pk: str) -> HttpResponse:
        piece, query = self.get_object(), request.query_params
        frozen = self._kept(piece)
        sheet = frozen.sheet if frozen else piece.sheet()
        if "width_px" in query:
            data = bench.small_picture(piece, sheet, min(max(_number(query, "width_px", int), 40), 800))
        else:
            lamp = None
            if "azimuth_deg" in query or "elevation_deg" in query:
                lamp = Lamp(
                    azimuth_deg=_number(query, "azimuth_deg", float),
                    elevation_deg=_number(query, "elevation_deg", float),
                    ambient=sheet.lamp.ambient,
                )
            data = bench.picture(
                piece, sheet, query.get("view", "coloured"), lamp=lamp, live=query.get("live") == "true"
            )
        kept = query.get("version") == str(piece.version)
        return HttpResponse(
            data,
            content_type="image/jpeg",
            headers={"Cache-Control": "private, max-age=86400" if kept else "no-store", "Vary": "Cookie"},
        )

    @extend_schema(responses={(200, "image/png"): OpenApiTypes.BINARY})
    @action(detail=True)
    def labels(self, request: Request, pk: str) -> HttpResponse:
        piece = self.get_object()
        return HttpResponse(
            bench.labels_picture(piece, piece.sheet()), content_type="image/png", headers={"Cache-Control": "no-store"}
        )

    @extend_schema(methods=["GET"], responses=serializers.RecipeLineSerializer(many=True))
    @extend_schema(
        methods=["POST"], parameters=[serializers.IF_MATCH], request=None, responses={201: serializers.PieceSerializer}
    )
    @action(detail=True, methods=["get", "post"], pagination_class=None)
    def recipes(self, request: Request, pk: str) -> Response:
        piece = self.get_object()
        if request.method == "POST":
            recipes.save_recipe(actor=request.user, piece=piece, version=self._version())
            return self._show(piece, status=201)
        return Response([self._recipe_line(record) for record in piece.recipes.all()])

    @staticmethod
    def _recipe_line(record: RecipeRecord) -> dict[str, Any]:
        previous, lines = recipes.changes_to(record)
        return {"number": record.number, "saved_at": record.saved_at, "previous": previous, "changes": lines}

    @extend_schema(
        responses={(200, "application/json"): OpenApiTypes.BINARY},
        parameters=[OpenApiParameter("number", int, OpenApiParameter.PATH)],
    )
    @action(detail=True, url_path=r"recipes/(?P<number>\d+)")
    def recipe_file(self, request: Request, pk: str, number: str) -> HttpResponse:
        record = get_object_or_404(RecipeRecord.objects.select_related("piece"), piece=self.get_object(), number=number)
        name = re.sub(r"[^a-z0-9]+", "-", record.piece.title.lower()).strip("-") or "recipe"
        return HttpResponse(
            recipes.export_recipe(actor=request.user, record=record),
            content_type="application/json",
            headers={"Content-Disposition": f'attachment; filename="{name}-v{number}.json"'},
        )

    @extend_schema(
        request={"multipart/form-data": serializers.RecipeFileSerializer}, responses={201: serializers.PieceSerializer}
    )
    @action(detail=False, methods=["post"], url_path="import")
    def import_recipe(self, request: Request) -> Response:
        form = self._read(serializers.RecipeFileSerializer)
        return self._show(recipes.import_recipe(actor=request.user, data=uploaded(form["recipe"])), status=201)


def _number(query: Any, name: str, kind: Any) -> Any:
    try:
        value = kind(query[name])
    except (KeyError, ValueError) as error:
        raise ValidationError({name: "A number is needed here."}) from error
    if not math.isfinite(value):
        raise ValidationError({name: "A number is needed here."})
    return value
