"""What goes in and out of the API for colour judgement."""

from __future__ import annotations

import json
from typing import Any

from drf_spectacular.utils import extend_schema_field
from rest_framework import serializers

from paleta.colour import hex_to_lab
from paleta.errors import ShapeError
from paleta.palette import SCHEMES, judge
from server.drawers.models import MEDIUM_CHOICES
from server.drawers.serializers import SwatchSerializer
from server.pieces.models import GoTo
from server.pieces.serializers import HexField, LabelsField, RampSerializer, TagsField

KINDS = ("no depth", "merging", "greens alike", "focal contrast", "white vanishes", "key")
KIND_CHOICES = [(kind, kind) for kind in KINDS]


class WarningSerializer(serializers.Serializer):
    kind = serializers.ChoiceField(choices=KIND_CHOICES)
    regions = serializers.ListField(child=serializers.IntegerField())
    sentence = serializers.CharField()
    remedy = serializers.CharField()


class RemedySerializer(serializers.Serializer):
    kind = serializers.ChoiceField(choices=KIND_CHOICES)
    regions = LabelsField()


class MissingSerializer(serializers.Serializer):
    name = serializers.CharField(allow_blank=True)
    hex = serializers.CharField(allow_null=True)
    lab = serializers.ListField(child=serializers.FloatField(), allow_null=True)
    nearest = SwatchSerializer(allow_null=True)
    apart = serializers.FloatField(allow_null=True, help_text="CIEDE2000 to the nearest.")


class CounterpartsSerializer(serializers.Serializer):
    codes = serializers.ListField(child=serializers.CharField(max_length=60), min_length=1, max_length=5)
    drawer = serializers.IntegerField()


@extend_schema_field({"type": "array", "items": {"type": "string"}})
class HexListField(serializers.Field):
    """A list of #rrggbb, or the same as JSON text in a form."""

    def to_internal_value(self, data: Any) -> list[tuple[float, float, float]]:
        try:
            return [hex_to_lab(one) for one in (json.loads(data) if isinstance(data, str) else data)][:6]
        except (ShapeError, ValueError, TypeError, AttributeError) as error:
            raise serializers.ValidationError("Locked colours are a list like #a0b1c2.", "not_a_colour") from error

    def to_representation(self, value: Any) -> Any:
        return value


class PaletteFormSerializer(serializers.Serializer):
    """A photo, or a first colour and a scheme."""

    photo = serializers.FileField(required=False, allow_empty_file=True)
    first_hex = HexField(required=False)
    scheme = serializers.ChoiceField(choices=[(one, one) for one in SCHEMES], required=False)
    count = serializers.IntegerField(min_value=3, max_value=6, default=4)
    shades = serializers.IntegerField(min_value=1, max_value=5, default=3)
    locked = HexListField(default=list)

    def validate(self, attrs: dict[str, Any]) -> dict[str, Any]:
        if "photo" not in attrs and not {"first_hex", "scheme"} <= attrs.keys():
            raise serializers.ValidationError("Send a photo, or a first colour and a scheme.")
        return attrs


class PaletteColourSerializer(serializers.Serializer):
    hex = serializers.CharField()
    words = serializers.CharField()
    ramp = RampSerializer(allow_null=True)


class SharePaletteSerializer(serializers.Serializer):
    colours = serializers.ListField(child=HexField(), min_length=1, max_length=6)
    labels = serializers.ListField(
        child=serializers.IntegerField(min_value=1), max_length=4000, default=list, help_text="None: all open regions."
    )


class LayGoToSerializer(serializers.Serializer):
    goto = serializers.IntegerField()
    labels = serializers.ListField(child=serializers.IntegerField(min_value=1), max_length=4000, default=list)


class KeepGoToSerializer(serializers.Serializer):
    label = serializers.IntegerField(min_value=1)
    name = serializers.CharField(max_length=60)
    tags = TagsField(default=list)


class GoToSerializer(serializers.Serializer):
    id = serializers.IntegerField()
    name = serializers.CharField()
    medium = serializers.ChoiceField(choices=MEDIUM_CHOICES)
    tags = serializers.ListField(child=serializers.CharField())
    ramp = RampSerializer()

    @staticmethod
    def of(goto: GoTo) -> dict[str, Any]:
        ramp = RampSerializer.of(judge(goto.as_core()))
        return {"id": goto.pk, "name": goto.name, "medium": goto.medium, "tags": goto.tags, "ramp": ramp}


class StandInSerializer(serializers.Serializer):
    swatch = SwatchSerializer()
    apart = serializers.FloatField()
    drawer = serializers.CharField()
