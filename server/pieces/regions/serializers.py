"""Forms for changing regions."""

from __future__ import annotations

from rest_framework import serializers

from paleta.fields import LABEL, kind_of
from paleta.ground import WAYS
from paleta.impression import MOST_BANDS, MOST_HANDLES
from paleta.recipe import Regions, RegionSetting
from server.dataclass_serializers import field_of, form_of, serializer_of
from server.fields import HexField, LabelsField, PointField, TagsField

RegionFormSerializer = serializer_of(
    "RegionForm",
    "The same changes to every region named; only what is named changes.",
    form_of(RegionSetting, but=["wish_lab"]),
    {
        "labels": LabelsField(),
        "tags": TagsField(required=False),
        "wish_hex": HexField(required=False, allow_null=True, source="wish_lab"),
    },
)


class GroundSerializer(serializers.Serializer):
    margin_mm = serializers.FloatField(min_value=0, max_value=100, default=0, help_text="Left as paper all round.")


class HorizonSerializer(serializers.Serializer):
    label = field_of(LABEL)
    handles = serializers.ListField(child=PointField(), min_length=2, max_length=MOST_HANDLES)


class BandsSerializer(serializers.Serializer):
    label = field_of(LABEL)
    widths_mm = serializers.ListField(
        child=serializers.FloatField(min_value=0.5, max_value=1000), min_length=2, max_length=MOST_BANDS
    )
    gap_mm = serializers.FloatField(min_value=0, max_value=50, default=0, help_text="The tape between two of them.")
    from_deg = serializers.FloatField(min_value=0, max_value=360, default=0, help_text="The side of the first.")


class LayGroundSerializer(serializers.Serializer):
    labels = LabelsField()
    way = serializers.ChoiceField(choices=[(way.code, way.name) for way in WAYS.values()])
    wish_hex = HexField(source="wish_lab")


class JoinSerializer(serializers.Serializer):
    labels = LabelsField()


class EraseSerializer(serializers.Serializer):
    label = field_of(LABEL)


class PutBeforeSerializer(serializers.Serializer):
    nearer = field_of(LABEL)
    farther = field_of(LABEL)


class FindAgainSerializer(serializers.Serializer):
    gap_mm = field_of(kind_of(Regions, "gap_mm"))
    sensitivity = field_of(kind_of(Regions, "sensitivity"))


class BodySerializer(serializers.Serializer):
    labels = LabelsField()
    together = serializers.BooleanField(default=True)


class SplitSerializer(serializers.Serializer):
    label = field_of(LABEL)
    line = serializers.ListField(child=PointField(), min_length=2, max_length=200)


class ThingSerializer(serializers.Serializer):
    labels = LabelsField()
    together = serializers.BooleanField(default=True)


class AlikeSerializer(serializers.Serializer):
    label = field_of(LABEL)


class ThingNameSerializer(serializers.Serializer):
    label = field_of(LABEL)
    name = serializers.CharField(max_length=60)


class AnswerSerializer(serializers.Serializer):
    labels = LabelsField()
    alike = serializers.BooleanField()
