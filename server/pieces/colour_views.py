"""Views of colour judgement: mixed into the pieces' own, and the go-tos."""

from __future__ import annotations

from typing import Any

from django.db.models import QuerySet
from django.shortcuts import get_object_or_404
from drf_spectacular.utils import OpenApiParameter, extend_schema
from rest_framework import viewsets
from rest_framework.decorators import action, api_view
from rest_framework.exceptions import ValidationError
from rest_framework.parsers import JSONParser, MultiPartParser
from rest_framework.request import Request
from rest_framework.response import Response

from paleta.colour import hex_to_lab, lab_to_hex, plain_name
from paleta.errors import ShapeError
from server.drawers.models import Drawer
from server.drawers.serializers import SwatchSerializer
from server.pieces import colour_serializers as shapes
from server.pieces import colours, serializers
from server.pieces.models import GoTo
from server.uploads import uploaded


class ColourActions:
    """What PieceViewSet can do with colours beside ramps."""

    @extend_schema(responses=shapes.WarningSerializer(many=True))
    @action(detail=True, pagination_class=None)
    def values(self: Any, request: Request, pk: str) -> Response:
        """The value guard."""
        piece = self.get_object()
        found = colours.warnings_of(piece, piece.sheet())
        return Response(
            [{"kind": w.kind, "regions": w.regions, "sentence": w.sentence, "remedy": w.remedy} for w in found]
        )

    @extend_schema(
        parameters=[serializers.IF_MATCH], request=shapes.RemedySerializer, responses=serializers.PieceSerializer
    )
    @action(detail=True, methods=["post"])
    def remedy(self: Any, request: Request, pk: str) -> Response:
        return self._change(colours.apply_remedy, **self._read(shapes.RemedySerializer))

    @extend_schema(request=serializers.ProposeSerializer, responses=shapes.MissingSerializer)
    @action(detail=True, methods=["post"], url_path="missing-pen")
    def missing_pen(self: Any, request: Request, pk: str) -> Response:
        """The one pen that would improve the best ramp; empty name if none is missing."""
        form = self._read(serializers.ProposeSerializer)
        found = colours.missing_for(actor=request.user, piece=self.get_object(), **form)
        if found is None:
            return Response({"name": "", "hex": None, "lab": None, "nearest": None, "apart": None})
        near = found.nearest
        return Response(
            {
                "name": found.name,
                "hex": lab_to_hex(found.lab),
                "lab": list(found.lab),
                "nearest": SwatchSerializer.of(near.code, near.name, near.family, near.lab),
                "apart": found.apart,
            }
        )

    @extend_schema(request=shapes.CounterpartsSerializer, responses=SwatchSerializer(many=True))
    @action(detail=True, methods=["post"], pagination_class=None)
    def counterparts(self: Any, request: Request, pk: str) -> Response:
        """As many swatches from another drawer, one for each."""
        form = self._read(shapes.CounterpartsSerializer)
        drawer = get_object_or_404(Drawer.objects.owned_by(request.user), pk=form["drawer"])
        found = colours.counterparts(actor=request.user, piece=self.get_object(), codes=form["codes"], drawer=drawer)
        return Response([SwatchSerializer.of(one.code, one.name, one.family, one.lab) for one in found])

    @extend_schema(
        request=dict.fromkeys(("multipart/form-data", "application/json"), shapes.PaletteFormSerializer),
        responses=shapes.PaletteColourSerializer(many=True),
    )
    @action(detail=True, methods=["post"], pagination_class=None, parser_classes=[MultiPartParser, JSONParser])
    def palette(self: Any, request: Request, pk: str) -> Response:
        """Three to six colours from a photo or a wheel, each with its best owned ramp."""
        form = self._read(shapes.PaletteFormSerializer)
        if "photo" in form:
            found = colours.colours_of_photo(uploaded(form["photo"]), form["count"])
        else:
            found = colours.colours_of_wheel(form["first_hex"], form["scheme"], form["count"])
        ramps = colours.palette(
            actor=request.user, piece=self.get_object(), colours=found, locked=form["locked"], shades=form["shades"]
        )
        return Response(
            [
                {
                    "hex": lab_to_hex(lab),
                    "words": plain_name(lab),
                    "ramp": serializers.RampSerializer.of(ramp) if ramp else None,
                }
                for lab, ramp in ramps
            ]
        )

    @extend_schema(
        parameters=[serializers.IF_MATCH], request=shapes.SharePaletteSerializer, responses=serializers.PieceSerializer
    )
    @action(detail=True, methods=["put"], url_path="share-palette")
    def share_palette(self: Any, request: Request, pk: str) -> Response:
        return self._change(colours.share_out_palette, **self._read(shapes.SharePaletteSerializer))

    @extend_schema(
        parameters=[serializers.IF_MATCH], request=shapes.LayGoToSerializer, responses=serializers.PieceSerializer
    )
    @action(detail=True, methods=["put"])
    def goto(self: Any, request: Request, pk: str) -> Response:
        form = self._read(shapes.LayGoToSerializer)
        goto = get_object_or_404(GoTo.objects.owned_by(request.user), pk=form["goto"])
        return self._change(colours.lay_goto, goto=goto, labels=form["labels"])

    @extend_schema(request=shapes.KeepGoToSerializer, responses={201: shapes.GoToSerializer})
    @action(detail=True, methods=["post"], url_path="keep-goto")
    def keep_goto(self: Any, request: Request, pk: str) -> Response:
        form = self._read(shapes.KeepGoToSerializer)
        goto = colours.keep_goto(actor=request.user, piece=self.get_object(), **form)
        return Response(shapes.GoToSerializer.of(goto), status=201)


class GoToViewSet(viewsets.GenericViewSet):
    """Saved, named ramps."""

    queryset = GoTo.objects.all()
    serializer_class = shapes.GoToSerializer
    pagination_class = None
    lookup_value_regex = r"\d+"

    def get_queryset(self) -> QuerySet[GoTo]:
        return GoTo.objects.owned_by(self.request.user)

    @extend_schema(responses=shapes.GoToSerializer(many=True))
    def list(self, request: Request) -> Response:
        return Response([shapes.GoToSerializer.of(goto) for goto in self.get_queryset()])

    def destroy(self, request: Request, pk: str) -> Response:
        self.get_object().delete()
        return Response(status=204)


@extend_schema(
    operation_id="substitutes",
    responses=shapes.StandInSerializer(many=True),
    parameters=[OpenApiParameter("hex", str, required=True)],
)
@api_view(["GET"])
def stand_ins(request: Request) -> Response:
    """Nearest owned swatches of any medium, lightness first."""
    try:
        lab = hex_to_lab(request.query_params.get("hex", ""))
    except ShapeError as error:
        raise ValidationError({"hex": str(error)}) from error
    return Response(
        [
            {
                "swatch": SwatchSerializer.of(one.code, one.name, one.family, one.lab),
                "apart": apart,
                "drawer": drawer.name,
            }
            for one, apart, drawer in colours.stand_ins(actor=request.user, lab=lab)
        ]
    )
