"""The sheet's parts over the API."""

from __future__ import annotations

from django.shortcuts import get_object_or_404
from drf_spectacular.utils import extend_schema
from rest_framework.decorators import action
from rest_framework.request import Request
from rest_framework.response import Response

from paleta import recipe
from paleta.light import Glow, Lamp
from server.declared import values_given
from server.drawers.models import Drawer
from server.pieces import readout
from server.pieces.serializers import LampSerializer, LightCheckSerializer
from server.pieces.sheet import services
from server.pieces.sheet.serializers import (
    FORMS,
    GlowsSerializer,
    MediumSerializer,
    PencilOverSerializer,
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
        return Response(readout.light_check(piece, piece.sheet()))

    @changes(MediumSerializer)
    @action(detail=True, methods=["put"])
    def medium(self, request: Request, pk: str) -> Response:
        form = self.read_form(MediumSerializer)
        drawer = get_object_or_404(Drawer.objects.owned_by(request.user), pk=form["drawer"])
        return self.change(services.choose_medium, medium=form["medium"], drawer=drawer)

    @changes(PencilOverSerializer)
    @action(detail=True, methods=["put"], url_path="pencil-over")
    def pencil_over(self, request: Request, pk: str) -> Response:
        form = self.read_form(PencilOverSerializer)
        drawer = get_object_or_404(Drawer.objects.owned_by(request.user), pk=form["drawer"])
        return self.change(services.lay_pencil_over, drawer=drawer)

    @changes(SchoolChoiceSerializer)
    @action(detail=True, methods=["put"])
    def school(self, request: Request, pk: str) -> Response:
        return self.change(services.choose_school, **self.read_form(SchoolChoiceSerializer))
