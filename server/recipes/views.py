"""Kept versions over the API."""

from __future__ import annotations

import re
from typing import Any

from django.http import HttpResponse
from drf_spectacular.types import OpenApiTypes
from drf_spectacular.utils import OpenApiParameter, extend_schema
from rest_framework.decorators import action
from rest_framework.parsers import MultiPartParser
from rest_framework.response import Response

from paleta.picture import VIEWS
from server.accounts.authentication import UserRequest
from server.derived import pictures, plans
from server.derived.maps import region_map
from server.pieces import presenters
from server.pieces.order.presenters import present_plan
from server.pieces.order.serializers import PlanSerializer
from server.pieces.pace import pace_of
from server.pieces.serializers import PieceSerializer
from server.pieces.shelf.views import jpeg
from server.pieces.views import PieceActions, changes
from server.recipes import services
from server.recipes.serializers import KeepRecipeSerializer, RecipeFileSerializer, RecipeLineSerializer
from server.uploads import uploaded
from server.versions import IF_MATCH, version_named

NUMBER = OpenApiParameter("number", int, OpenApiParameter.PATH)
ONE = "recipes/(?P<number>[0-9]{1,6})"


class RecipeViews(PieceActions):
    """The kept versions of a piece: frozen, listed, shown as they were, laid on the bench again, as files."""

    def get_parsers(self) -> list[Any]:
        handler = getattr(self, "action_map", {}).get(getattr(self.request, "method", "").lower())
        return [MultiPartParser()] if handler == "import_recipe" else super().get_parsers()

    @extend_schema(methods=["GET"], responses=RecipeLineSerializer(many=True))
    @extend_schema(
        methods=["POST"], parameters=[IF_MATCH], request=KeepRecipeSerializer, responses={201: PieceSerializer}
    )
    @action(detail=True, methods=["get", "post"], pagination_class=None)
    def recipes(self, request: UserRequest, pk: str) -> Response:
        piece = self.get_object()
        if request.method == "POST":
            form = self.read_form(KeepRecipeSerializer)
            services.keep_recipe(actor=request.user, piece=piece, version=version_named(request), **form)
            return self.show(self.get_object(), status=201)
        return Response(list(piece.recipes.values("number", "saved_at", "previous", "changes")))

    @extend_schema(responses={(200, "application/json"): OpenApiTypes.OBJECT}, parameters=[NUMBER])
    @action(detail=True, url_path=ONE)
    def recipe_file(self, request: UserRequest, pk: str, number: str) -> HttpResponse:
        piece = self.get_object()
        record = services.recipe_named(piece, number)
        name = re.sub(r"[^a-z0-9]+", "-", piece.title.lower()).strip("-") or "recipe"
        return HttpResponse(
            services.export_recipe(actor=request.user, record=record),
            content_type="application/json",
            headers={"Content-Disposition": f'attachment; filename="{name}-v{number}.json"'},
        )

    @extend_schema(responses=PieceSerializer, parameters=[NUMBER])
    @action(detail=True, url_path=f"{ONE}/sheet")
    def recipe_sheet(self, request: UserRequest, pk: str, number: str) -> Response:
        """The piece as the version froze it."""
        piece = self.get_object()
        kept = services.recipe_of(services.recipe_named(piece, number))
        return Response(presenters.present_piece(piece, kept.sheet))

    @extend_schema(responses=PlanSerializer, parameters=[NUMBER])
    @action(detail=True, url_path=f"{ONE}/plan")
    def recipe_plan(self, request: UserRequest, pk: str, number: str) -> Response:
        """The order of passes as the version froze it."""
        piece = self.get_object()
        kept = services.recipe_of(services.recipe_named(piece, number))
        known = {medium: pace_of(piece.owner_id, medium) for medium in kept.sheet.media}
        paces = {medium: one.pace for medium, one in known.items()}
        _, by_region = plans.plans_of(piece.stamping, kept.sheet, paces)
        found = region_map(piece.stamping, kept.sheet)
        told = present_plan(kept.sheet, found, kept.plan, by_region, known=known)
        return Response(told | {"version": kept.version, "worked_out": None})

    @extend_schema(
        responses={(200, "image/jpeg"): OpenApiTypes.BINARY},
        parameters=[NUMBER, OpenApiParameter("view", str, enum=list(VIEWS), default="coloured")],
    )
    @action(detail=True, url_path=f"{ONE}/picture")
    def recipe_picture(self, request: UserRequest, pk: str, number: str) -> HttpResponse:
        """The picture as the version planned it."""
        piece = self.get_object()
        kept = services.recipe_of(services.recipe_named(piece, number))
        view = request.query_params.get("view", "coloured")
        return jpeg(pictures.picture(piece.stamping, kept.sheet, view), lasting=True)

    @changes(None, parameters=[NUMBER])
    @action(detail=True, methods=["post"], url_path=f"{ONE}/restore")
    def restore(self, request: UserRequest, pk: str, number: str) -> Response:
        """Lay a kept version on the bench again, as one step that can be undone."""
        return self.change(services.restore_recipe, number=number)

    @extend_schema(request={"multipart/form-data": RecipeFileSerializer}, responses={201: PieceSerializer})
    @action(detail=False, methods=["post"], url_path="import")
    def import_recipe(self, request: UserRequest) -> Response:
        form = self.read_form(RecipeFileSerializer)
        return self.show(services.import_recipe(actor=request.user, data=uploaded(form["recipe"])), status=201)
