"""The sheet's parts over the API."""

from __future__ import annotations

from django.shortcuts import get_object_or_404
from drf_spectacular.utils import extend_schema
from rest_framework.decorators import action
from rest_framework.request import Request
from rest_framework.response import Response

from paleta import recipe
from paleta.colour import lab_to_hex
from paleta.light import Glow, Lamp
from server.dataclass_serializers import values_given
from server.derived import pictures
from server.drawers import reader
from server.drawers.models import Drawer
from server.drawers.serializers import ReaderOutSerializer
from server.pieces import presenters
from server.pieces.serializers import LampSerializer, LightCheckSerializer
from server.pieces.sheet import services
from server.pieces.sheet.serializers import (
    FORMS,
    GlowsSerializer,
    LayOverSerializer,
    MediumSerializer,
    PaperReaderSerializer,
    PaperWhiteSerializer,
    SchoolChoiceSerializer,
)
from server.pieces.views import PieceActions, changes


class SheetViews(PieceActions):
    def _describe(self, part: str) -> Response:
        given = values_given(getattr(recipe, part.capitalize()), self.read_some(FORMS[part]))
        return self.change(services.describe, part=part, changes=given)

    @changes(FORMS["stamp"])
    @action(detail=True, methods=["put"])
    def stamp(self, request: Request, pk: str) -> Response:
        return self._describe("stamp")

    @changes(FORMS["light"])
    @action(detail=True, methods=["put"])
    def light(self, request: Request, pk: str) -> Response:
        return self._describe("light")

    @changes(FORMS["colours"])
    @action(detail=True, methods=["put"])
    def colours(self, request: Request, pk: str) -> Response:
        return self._describe("colours")

    @changes(FORMS["order"])
    @action(detail=True, methods=["put"])
    def order(self, request: Request, pk: str) -> Response:
        return self._describe("order")

    @changes(FORMS["finish"])
    @action(detail=True, methods=["put"])
    def finish(self, request: Request, pk: str) -> Response:
        return self._describe("finish")

    @changes(FORMS["card"])
    @action(detail=True, methods=["put"])
    def card(self, request: Request, pk: str) -> Response:
        return self._describe("card")

    @changes(LampSerializer)
    @action(detail=True, methods=["put"])
    def lamp(self, request: Request, pk: str) -> Response:
        return self.change(services.turn_lamp, lamp=Lamp(**self.read_form(LampSerializer)))

    @changes(GlowsSerializer)
    @action(detail=True, methods=["put"])
    def glows(self, request: Request, pk: str) -> Response:
        form = self.read_form(GlowsSerializer)
        return self.change(services.set_glows, glows=[Glow(**glow) for glow in form["glows"]])

    @extend_schema(responses=LightCheckSerializer)
    @action(detail=True, url_path="light-check")
    def light_check(self, request: Request, pk: str) -> Response:
        """Is my light right?"""
        piece = self.get_object()
        return Response(presenters.light_check(piece, piece.sheet()))

    @extend_schema(responses=PaperWhiteSerializer)
    @action(detail=True, url_path="paper-white")
    def paper_white(self, request: Request, pk: str) -> Response:
        """The paper's white as the scan shows it."""
        lab = [round(value, 1) for value in pictures.paper_of(self.get_object().stamping)]
        return Response({"lab": lab, "hex": lab_to_hex(tuple(lab))})

    @extend_schema(request=PaperReaderSerializer, responses=ReaderOutSerializer)
    @action(detail=True, methods=["post"], url_path="paper-reader")
    def paper_reader(self, request: Request, pk: str) -> Response:
        """The simulated colour reader: its white tile first, then a blank place of the stamped sheet."""
        piece = self.get_object()
        if self.read_form(PaperReaderSerializer)["tile"]:
            return Response(reader.hold_on_tile(request.session))
        white = pictures.paper_of(piece.stamping)
        return Response(reader.hold_on(request.session, white, white))

    @changes(MediumSerializer)
    @action(detail=True, methods=["put"])
    def medium(self, request: Request, pk: str) -> Response:
        form = self.read_form(MediumSerializer)
        drawer = get_object_or_404(Drawer.objects.owned_by(request.user), pk=form["drawer"])
        return self.change(services.choose_medium, medium=form["medium"], drawer=drawer)

    @changes(LayOverSerializer)
    @action(detail=True, methods=["put"], url_path="lay-over")
    def lay_over(self, request: Request, pk: str) -> Response:
        form = self.read_form(LayOverSerializer)
        drawer = get_object_or_404(Drawer.objects.owned_by(request.user), pk=form["drawer"])
        return self.change(services.lay_over, drawer=drawer)

    @changes(SchoolChoiceSerializer)
    @action(detail=True, methods=["put"])
    def school(self, request: Request, pk: str) -> Response:
        return self.change(services.choose_school, **self.read_form(SchoolChoiceSerializer))
