"""Regions over the API."""

from __future__ import annotations

from rest_framework.decorators import action
from rest_framework.exceptions import ValidationError
from rest_framework.request import Request
from rest_framework.response import Response

from paleta.recipe import RegionSetting
from server.dataclass_serializers import values_given
from server.pieces.regions import grounds, services, things
from server.pieces.regions.serializers import (
    AlikeSerializer,
    AnswerSerializer,
    BandsSerializer,
    BodySerializer,
    EraseSerializer,
    FindAgainSerializer,
    GroundSerializer,
    HorizonSerializer,
    JoinSerializer,
    LayGroundSerializer,
    PutBeforeSerializer,
    RegionFormSerializer,
    SplitSerializer,
    ThingNameSerializer,
    ThingSerializer,
)
from server.pieces.views import PieceActions, changes


class RegionViews(PieceActions):
    @changes(RegionFormSerializer)
    @action(detail=True, methods=["put"])
    def regions(self, request: Request, pk: str) -> Response:
        form = self.read_form(RegionFormSerializer)
        given = values_given(RegionSetting, form)
        if not given:
            raise ValidationError("Say what to change in these regions.")
        return self.change(services.change_regions, labels=form["labels"], changes=given)

    @changes(JoinSerializer)
    @action(detail=True, methods=["post"])
    def join(self, request: Request, pk: str) -> Response:
        return self.change(services.join_regions, **self.read_form(JoinSerializer))

    @changes(EraseSerializer)
    @action(detail=True, methods=["post"])
    def erase(self, request: Request, pk: str) -> Response:
        return self.change(services.erase_region, **self.read_form(EraseSerializer))

    @changes(SplitSerializer)
    @action(detail=True, methods=["post"])
    def split(self, request: Request, pk: str) -> Response:
        return self.change(services.split_region, **self.read_form(SplitSerializer))

    @changes(BodySerializer)
    @action(detail=True, methods=["put"])
    def body(self, request: Request, pk: str) -> Response:
        return self.change(services.make_body, **self.read_form(BodySerializer))

    @changes(PutBeforeSerializer)
    @action(detail=True, methods=["put"], url_path="put-before")
    def put_before(self, request: Request, pk: str) -> Response:
        return self.change(services.put_before, **self.read_form(PutBeforeSerializer))

    @changes(FindAgainSerializer)
    @action(detail=True, methods=["post"], url_path="find-again")
    def find_again(self, request: Request, pk: str) -> Response:
        return self.change(services.find_again, **self.read_form(FindAgainSerializer))

    @changes(ThingSerializer)
    @action(detail=True, methods=["put"])
    def thing(self, request: Request, pk: str) -> Response:
        return self.change(things.group_regions, **self.read_form(ThingSerializer))

    @changes(ThingNameSerializer)
    @action(detail=True, methods=["put"], url_path="thing-name")
    def thing_name(self, request: Request, pk: str) -> Response:
        return self.change(things.rename_thing, **self.read_form(ThingNameSerializer))

    @changes(AlikeSerializer)
    @action(detail=True, methods=["post"])
    def alike(self, request: Request, pk: str) -> Response:
        return self.change(things.join_alike, **self.read_form(AlikeSerializer))

    @changes(AnswerSerializer)
    @action(detail=True, methods=["post"])
    def answer(self, request: Request, pk: str) -> Response:
        return self.change(things.answer, **self.read_form(AnswerSerializer))

    @changes(GroundSerializer)
    @action(detail=True, methods=["post"])
    def ground(self, request: Request, pk: str) -> Response:
        return self.change(grounds.take_ground, **self.read_form(GroundSerializer))

    @changes(None)
    @action(detail=True, methods=["post"], url_path="leave-ground")
    def leave_ground(self, request: Request, pk: str) -> Response:
        return self.change(grounds.leave_ground)

    @changes(HorizonSerializer)
    @action(detail=True, methods=["put"])
    def horizon(self, request: Request, pk: str) -> Response:
        return self.change(grounds.draw_horizon, **self.read_form(HorizonSerializer))

    @changes(BandsSerializer)
    @action(detail=True, methods=["post"])
    def bands(self, request: Request, pk: str) -> Response:
        return self.change(grounds.cut_bands, **self.read_form(BandsSerializer))

    @changes(LayGroundSerializer)
    @action(detail=True, methods=["put"], url_path="lay-ground")
    def lay_ground(self, request: Request, pk: str) -> Response:
        return self.change(grounds.lay_ground, **self.read_form(LayGroundSerializer))

    @changes(None)
    @action(detail=True, methods=["post"], url_path="find-things")
    def find_things(self, request: Request, pk: str) -> Response:
        return self.change(things.find_things)
