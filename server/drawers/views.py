"""Drawers over the API: thin views over the services."""

from __future__ import annotations

import re
from collections.abc import Sequence
from typing import Any

from django.db.models import QuerySet
from django.http import HttpResponse
from drf_spectacular.types import OpenApiTypes
from drf_spectacular.utils import OpenApiParameter, extend_schema
from rest_framework import viewsets
from rest_framework.decorators import action
from rest_framework.exceptions import ValidationError
from rest_framework.parsers import MultiPartParser
from rest_framework.response import Response
from rest_framework.serializers import BaseSerializer

from paleta.colour import hex_to_lab, lab_to_hex
from paleta.errors import ShapeError
from server.accounts.authentication import UserRequest
from server.drawers import serializers, services
from server.drawers.chart_views import ChartActions
from server.drawers.models import Drawer
from server.strict_json import LargeJSON
from server.uploads import uploaded
from server.versions import IF_MATCH, tag, version_named

ROWS_SHOWN = 1000
SWATCH = OpenApiParameter("swatch", int, OpenApiParameter.PATH)
TABLE_REQUEST = {
    "multipart/form-data": serializers.ImportTableSerializer,
    "application/json": serializers.ImportTableSerializer,
}
EXPORTS = {
    "csv": ("text/csv; charset=utf-8", services.export_csv),
    "gpl": ("text/plain; charset=utf-8", services.export_gpl),
}


def changes(request: Any, *, parameters: Sequence[Any] = (), **more: Any) -> Any:
    """Describes an action that changes a drawer and answers all of it."""
    return extend_schema(
        request=request, parameters=[IF_MATCH, *parameters], responses={200: serializers.DrawerDetailSerializer}, **more
    )


class DrawerViewSet(ChartActions, viewsets.GenericViewSet):
    """The drawers of whoever is signed in."""

    queryset = Drawer.objects.all()
    serializer_class = serializers.DrawerSerializer
    lookup_value_regex = "[0-9]{1,15}"

    def get_queryset(self) -> QuerySet[Drawer]:
        return Drawer.objects.owned_by(self.request.user).with_counts()

    def get_serializer_class(self) -> type[BaseSerializer]:
        return serializers.DrawerSerializer

    def _read(self, form_class: Any, **more: Any) -> dict[str, Any]:
        form = form_class(data=self.request.data, **more)
        form.is_valid(raise_exception=True)
        return form.validated_data

    def _show(self, drawer: Drawer, status: int = 200) -> Response:
        shown = self.get_queryset().prefetch_related("swatches").get(pk=drawer.pk)
        return Response(serializers.DrawerDetailSerializer(shown).data, status=status, headers=tag(shown.version))

    @extend_schema(responses=serializers.DrawerSerializer(many=True))
    def list(self, request: UserRequest) -> Response:
        page = self.paginate_queryset(self.get_queryset())
        return self.get_paginated_response(serializers.DrawerSerializer(page, many=True).data)

    @extend_schema(responses=serializers.DrawerDetailSerializer)
    def retrieve(self, request: UserRequest, pk: str) -> Response:
        return self._show(self.get_object())

    @extend_schema(request=serializers.DrawerSerializer, responses={201: serializers.DrawerDetailSerializer})
    def create(self, request: UserRequest) -> Response:
        form = self._read(serializers.DrawerSerializer)
        return self._show(services.add_drawer(owner=request.user, swatches=(), **form), 201)

    def _change(self, service: Any, **values: Any) -> Response:
        drawer = self.get_object()
        return self._show(
            service(actor=self.request.user, drawer=drawer, version=version_named(self.request), **values)
        )

    @changes(serializers.DrawerNameSerializer)
    def partial_update(self, request: UserRequest, pk: str) -> Response:
        return self._change(services.change_drawer, **self._read(serializers.DrawerNameSerializer))

    def destroy(self, request: UserRequest, pk: str) -> Response:
        services.delete_drawer(actor=request.user, drawer=self.get_object())
        return Response(status=204)

    @changes(serializers.SwatchFormSerializer)
    @action(detail=True, methods=["post"], url_path="swatches")
    def add_swatch(self, request: UserRequest, pk: str) -> Response:
        return self._change(services.add_swatch, values=self._read(serializers.SwatchFormSerializer))

    @changes(serializers.SwatchFormSerializer(partial=True), methods=["PATCH"], parameters=[SWATCH])
    @changes(None, methods=["DELETE"], parameters=[SWATCH])
    @action(detail=True, methods=["patch", "delete"], url_path="swatches/(?P<swatch>[0-9]{1,15})")
    def swatch(self, request: UserRequest, pk: str, swatch: str) -> Response:
        if request.method == "DELETE":
            return self._change(services.remove_swatch, swatch=int(swatch))
        values = self._read(serializers.SwatchFormSerializer, partial=True)
        return self._change(services.change_swatch, swatch=int(swatch), values=values)

    @extend_schema(request=TABLE_REQUEST, responses=serializers.ImportPreviewSerializer)
    @action(detail=True, methods=["post"], url_path="table-preview", parser_classes=[MultiPartParser, LargeJSON])
    def table_preview(self, request: UserRequest, pk: str) -> Response:
        """What a table would do, before anything is stored."""
        found = services.preview_table(self.get_object(), self._table())
        kinds = [kind for _, kind in found]
        rows = [
            {
                "line": row.line,
                "code": row.code,
                "name": row.name,
                "hex": lab_to_hex(row.lab) if row.lab else None,
                "kind": kind,
                "problem": row.problem,
            }
            for row, kind in found[:ROWS_SHOWN]
        ]
        return Response({"rows": rows, **{kind: kinds.count(kind) for kind in ("new", "changes", "same", "bad")}})

    @changes(TABLE_REQUEST)
    @action(detail=True, methods=["post"], url_path="table", parser_classes=[MultiPartParser, LargeJSON])
    def table(self, request: UserRequest, pk: str) -> Response:
        return self._change(services.import_table, table=self._table())

    def _table(self) -> bytes | str:
        form = self._read(serializers.ImportTableSerializer)
        return uploaded(form["table"]) if "table" in form else form["text"]

    @extend_schema(
        responses={(200, "text/csv"): OpenApiTypes.STR, (200, "text/plain"): OpenApiTypes.STR},
        parameters=[OpenApiParameter("kind", str, OpenApiParameter.PATH, enum=[*EXPORTS])],
    )
    @action(detail=True, url_path=r"export\.(?P<kind>csv|gpl)")
    def export(self, request: UserRequest, pk: str, kind: str) -> HttpResponse:
        drawer, (content_type, write) = self.get_object(), EXPORTS[kind]
        name = re.sub(r"[^a-z0-9]+", "-", drawer.name.lower()).strip("-") or "drawer"
        return HttpResponse(
            write(drawer),
            content_type=content_type,
            headers={"Content-Disposition": f'attachment; filename="{name}.{kind}"'},
        )

    @extend_schema(
        responses=serializers.LikenessSerializer(many=True), parameters=[OpenApiParameter("hex", str, required=True)]
    )
    @action(detail=True, pagination_class=None)
    def like(self, request: UserRequest, pk: str) -> Response:
        """Its swatches by how near they are to a colour, nearest first."""
        try:
            lab = hex_to_lab(request.query_params.get("hex", ""))
        except ShapeError as error:
            raise ValidationError({"hex": str(error)}) from error
        found = services.most_like(self.get_object(), lab)
        return Response([{"code": code, "difference": apart} for code, apart in found])
