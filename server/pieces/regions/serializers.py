"""Forms for changing regions."""

from __future__ import annotations

from rest_framework import serializers

from paleta.fields import LABEL, kind_of
from paleta.recipe import Regions, RegionSetting
from server.declared import field_of, form_of, serializer_of
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
