"""Papers of the user's own: their measured white, weight and surface. Those that ship are examples beside them."""

from __future__ import annotations

import uuid
from typing import Any

from django.contrib.auth.models import User
from django.db.models import QuerySet
from drf_spectacular.utils import extend_schema
from rest_framework import serializers, viewsets
from rest_framework.response import Response

from paleta.colour import Lab, lab_to_hex
from paleta.materials import BEHAVIOURS, LEAST_DRIES, MOST_DRIES, PAPERS, Paper
from paleta.recipe import PaperForm
from server.accounts.authentication import UserRequest
from server.dataclass_serializers import response_fields
from server.drawers.models import OwnPaper
from server.fields import HexField
from server.ownership import require_owner
from server.problems import Refused

MOST_PAPERS = 200
FIELDS = ("name", "gsm", "kind", "surface", "water", "behaves", "dries")


def _words(name: str) -> Any:
    """What a field of a paper may be chosen from."""
    field = response_fields(PaperForm)[name]
    assert isinstance(field, serializers.ChoiceField)
    return field.choices


class PaperFormSerializer(serializers.Serializer):
    """The white as measured: L*, a*, b*, or read off as a colour."""

    name = response_fields(PaperForm)["name"]
    lab = serializers.ListField(child=serializers.FloatField(), min_length=3, max_length=3, required=False)
    hex = HexField(required=False)
    gsm = serializers.FloatField(min_value=0, max_value=2000, default=0)
    kind = serializers.ChoiceField(choices=_words("kind"), default="cover")
    surface = serializers.ChoiceField(choices=_words("surface"), default="smooth")
    water = serializers.ChoiceField(choices=_words("water"), default="none")
    behaves = serializers.ListField(child=serializers.ChoiceField(choices=list(BEHAVIOURS.items())), default=list)
    dries = serializers.FloatField(
        min_value=LEAST_DRIES, max_value=MOST_DRIES, default=1,
        help_text="How many times as long as on usual card what is wet takes to dry.",
    )  # fmt: skip

    def validate(self, attrs: dict[str, Any]) -> dict[str, Any]:
        colour = attrs.pop("hex", None)
        attrs.setdefault("lab", colour)
        if attrs["lab"] is None:
            raise serializers.ValidationError({"lab": "Say what the white of this paper is: L*, a*, b* or a colour."})
        return attrs


class PaperSerializer(serializers.Serializer):
    id = serializers.IntegerField()
    code = serializers.CharField()
    name = serializers.CharField()
    lab = serializers.ListField(child=serializers.FloatField())
    hex = serializers.CharField()
    gsm = serializers.FloatField()
    kind = serializers.CharField()
    surface = serializers.CharField()
    water = serializers.CharField()
    behaves = serializers.ListField(child=serializers.CharField())
    dries = serializers.FloatField()

    @staticmethod
    def of(record: OwnPaper) -> dict[str, Any]:
        told = {name: getattr(record, name) for name in ("id", "code", "lab", *FIELDS)}
        return {**told, "hex": lab_to_hex(tuple(record.lab))}


def paper_for(actor: User, code: str) -> Paper | None:
    """The paper with this code: one that ships or the actor's own; None if there is none."""
    if code in PAPERS:
        return PAPERS[code]
    record = OwnPaper.objects.owned_by(actor).filter(code=code).first()
    return record.as_core() if record is not None else None


def keep_paper(*, actor: User, lab: Lab, **known: Any) -> OwnPaper:
    """Write a paper down, of which FIELDS are `known`. Sheets hold the paper they were made on, and keep it when it is
    forgotten here.

    Raises
    ------
    SwatchError
        If it can be no paper.
    Refused
        If there are MOST_PAPERS already.
    """
    if OwnPaper.objects.owned_by(actor).count() >= MOST_PAPERS:
        raise Refused(f"An account keeps up to {MOST_PAPERS} papers.", "full")
    code = f"own-{uuid.uuid4().hex[:12]}"
    record = OwnPaper(owner=actor, code=code, lab=list(lab), **known)
    record.as_core()
    record.save()
    return record


class PaperViewSet(viewsets.GenericViewSet):
    """Papers of whoever is signed in."""

    queryset = OwnPaper.objects.all()
    serializer_class = PaperSerializer
    pagination_class = None
    lookup_value_regex = "[0-9]{1,15}"

    def get_queryset(self) -> QuerySet[OwnPaper]:
        return OwnPaper.objects.owned_by(self.request.user)

    @extend_schema(responses=PaperSerializer(many=True))
    def list(self, request: UserRequest) -> Response:
        return Response([PaperSerializer.of(record) for record in self.get_queryset()])

    @extend_schema(request=PaperFormSerializer, responses={201: PaperSerializer})
    def create(self, request: UserRequest) -> Response:
        form = PaperFormSerializer(data=request.data)
        form.is_valid(raise_exception=True)
        return Response(PaperSerializer.of(keep_paper(actor=request.user, **form.validated_data)), status=201)

    def destroy(self, request: UserRequest, pk: str) -> Response:
        record = self.get_object()
        require_owner(request.user, record)
        record.delete()
        return Response(status=204)
