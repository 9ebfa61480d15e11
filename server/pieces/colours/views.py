"""Colours over the API: ramps, the value guard, palettes, go-tos."""

from __future__ import annotations

from dataclasses import asdict
from typing import Any

from django.db.models import QuerySet
from django.shortcuts import get_object_or_404
from drf_spectacular.utils import OpenApiParameter, extend_schema
from rest_framework import viewsets
from rest_framework.decorators import action, api_view
from rest_framework.exceptions import ValidationError
from rest_framework.parsers import MultiPartParser
from rest_framework.response import Response

from paleta.colour import hex_to_lab, lab_to_hex, plain_name
from paleta.errors import ShapeError
from paleta.palette import scheme
from server.accounts.authentication import UserRequest
from server.drawers.models import Drawer
from server.drawers.serializers import SwatchSerializer
from server.pieces.colours import gotos, palettes, ramps, value_warnings
from server.pieces.colours import serializers as shapes
from server.pieces.models import GoTo, Piece
from server.pieces.serializers import RampSerializer
from server.pieces.views import PieceActions, changes
from server.strict_json import StrictJSON
from server.uploads import uploaded


def _present_warnings(piece: Piece) -> list[dict[str, Any]]:
    left = set(piece.left_as_is)
    found = value_warnings.value_warnings(piece, piece.sheet())
    return [{**asdict(one), "left": value_warnings.name_of(one) in left} for one in found]


class ColourViews(PieceActions):
    @extend_schema(request=shapes.RampWishSerializer, responses=RampSerializer(many=True))
    @action(detail=True, methods=["post"], url_path="ramp-proposals", pagination_class=None)
    def ramp_proposals(self, request: UserRequest, pk: str) -> Response:
        form = self.read_form(shapes.RampWishSerializer)
        found = ramps.propose_ramps(actor=request.user, piece=self.get_object(), **form)
        return Response([RampSerializer.of(ramp) for ramp in found])

    @changes(shapes.RampFormSerializer)
    @action(detail=True, methods=["put"])
    def ramp(self, request: UserRequest, pk: str) -> Response:
        return self.change(ramps.set_ramp, **self.read_form(shapes.RampFormSerializer))

    @changes(shapes.AccentFormSerializer)
    @action(detail=True, methods=["put"])
    def accent(self, request: UserRequest, pk: str) -> Response:
        return self.change(ramps.set_accent, **self.read_form(shapes.AccentFormSerializer))

    @changes(None)
    @action(detail=True, methods=["post"], url_path="colour-wishes")
    def colour_wishes(self, request: UserRequest, pk: str) -> Response:
        return self.change(ramps.colour_all_wishes)

    @extend_schema(responses=shapes.ValueWarningSerializer(many=True))
    @action(detail=True, pagination_class=None, url_path="value-warnings")
    def value_warnings(self, request: UserRequest, pk: str) -> Response:
        """The value guard."""
        return Response(_present_warnings(self.get_object()))

    @extend_schema(request=shapes.LeaveSerializer, responses=shapes.ValueWarningSerializer(many=True))
    @action(detail=True, methods=["put"], pagination_class=None, url_path="leave-warning")
    def leave_warning(self, request: UserRequest, pk: str) -> Response:
        """A line of the value guard is meant so, or is told again."""
        form = self.read_form(shapes.LeaveSerializer)
        return Response(
            _present_warnings(value_warnings.leave_as_is(actor=request.user, piece=self.get_object(), **form))
        )

    @changes(shapes.RemedySerializer)
    @action(detail=True, methods=["post"])
    def remedy(self, request: UserRequest, pk: str) -> Response:
        return self.change(value_warnings.apply_remedy, **self.read_form(shapes.RemedySerializer))

    @extend_schema(request=shapes.ProposeSerializer, responses=shapes.MissingSerializer)
    @action(detail=True, methods=["post"], url_path="missing-pen")
    def missing_pen(self, request: UserRequest, pk: str) -> Response:
        """The one pen that would improve the best ramp; empty name if none is missing."""
        form = self.read_form(shapes.ProposeSerializer)
        found = ramps.missing_pen(actor=request.user, piece=self.get_object(), **form)
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
    def counterparts(self, request: UserRequest, pk: str) -> Response:
        """As many swatches from another drawer, one for each."""
        form = self.read_form(shapes.CounterpartsSerializer)
        drawer = get_object_or_404(Drawer.objects.owned_by(request.user), pk=form["drawer"])
        found = ramps.counterparts(actor=request.user, piece=self.get_object(), **{**form, "drawer": drawer})
        return Response([SwatchSerializer.of(one.code, one.name, one.family, one.lab) for one in found])

    @extend_schema(
        request=dict.fromkeys(("multipart/form-data", "application/json"), shapes.PaletteFormSerializer),
        responses=shapes.PaletteColourSerializer(many=True),
    )
    @action(detail=True, methods=["post"], pagination_class=None, parser_classes=[MultiPartParser, StrictJSON])
    def palette(self, request: UserRequest, pk: str) -> Response:
        """Three to six colours from a photo or a wheel, each with its best owned ramp."""
        form = self.read_form(shapes.PaletteFormSerializer)
        if "photo" in form:
            found = palettes.colours_of_photo(uploaded(form["photo"]), form["count"])
        else:
            found = scheme(form["first_hex"], form["scheme"], form["count"])
        found_ramps = palettes.palette(
            actor=request.user, piece=self.get_object(), colours=found, locked=form["locked"], shades=form["shades"]
        )
        return Response(
            [
                {
                    "hex": lab_to_hex(lab),
                    "words": plain_name(lab),
                    "ramp": RampSerializer.of(ramp) if ramp else None,
                }
                for lab, ramp in found_ramps
            ]
        )

    @changes(shapes.SharePaletteSerializer)
    @action(detail=True, methods=["put"], url_path="share-palette")
    def share_palette(self, request: UserRequest, pk: str) -> Response:
        return self.change(palettes.share_out_palette, **self.read_form(shapes.SharePaletteSerializer))

    @changes(shapes.LayGoToSerializer)
    @action(detail=True, methods=["put"])
    def goto(self, request: UserRequest, pk: str) -> Response:
        form = self.read_form(shapes.LayGoToSerializer)
        goto = get_object_or_404(GoTo.objects.owned_by(request.user), pk=form["goto"])
        return self.change(gotos.lay_goto, goto=goto, labels=form["labels"])

    @extend_schema(request=shapes.KeepGoToSerializer, responses={201: shapes.GoToSerializer})
    @action(detail=True, methods=["post"], url_path="keep-goto")
    def keep_goto(self, request: UserRequest, pk: str) -> Response:
        form = self.read_form(shapes.KeepGoToSerializer)
        goto = gotos.keep_goto(actor=request.user, piece=self.get_object(), **form)
        return Response(shapes.GoToSerializer.of(goto), status=201)


class GoToViewSet(viewsets.GenericViewSet):
    """Saved, named ramps."""

    queryset = GoTo.objects.all()
    serializer_class = shapes.GoToSerializer
    pagination_class = None
    lookup_value_regex = "[0-9]{1,15}"

    def get_queryset(self) -> QuerySet[GoTo]:
        return GoTo.objects.owned_by(self.request.user)

    @extend_schema(responses=shapes.GoToSerializer(many=True))
    def list(self, request: UserRequest) -> Response:
        return Response([shapes.GoToSerializer.of(goto) for goto in self.get_queryset()])

    def destroy(self, request: UserRequest, pk: str) -> Response:
        gotos.drop_goto(actor=request.user, goto=self.get_object())
        return Response(status=204)


@extend_schema(
    operation_id="substitutes",
    responses=shapes.SubstituteSerializer(many=True),
    parameters=[OpenApiParameter("hex", str, required=True)],
)
@api_view(["GET"])  # type: ignore[arg-type]
def substitutes(request: UserRequest) -> Response:
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
            for one, apart, drawer in ramps.substitutes(actor=request.user, lab=lab)
        ]
    )
