"""Forms that set what the sheet's parts hold."""

from __future__ import annotations

from rest_framework import serializers

from paleta.fields import kind_of
from paleta.recipe import Card, Colours, Finish, Light, Order, Stamp
from server.dataclass_serializers import Fields, field_of, form_of, serializer_of
from server.fields import HexField

COLOURS: dict[str, Fields] = {
    "stamp": {"ink_hex": HexField(source="ink_lab", required=False, allow_null=True, help_text="None: as in the scan.")}
}
"""What is written as #rrggbb and held as L*a*b*."""
FORMS = {
    name: serializer_of(
        f"{part.__name__}Form", f"What is to change in the part {name}.", form_of(part), COLOURS.get(name, {})
    )
    for name, part in (
        ("stamp", Stamp),
        ("light", Light),
        ("colours", Colours),
        ("order", Order),
        ("finish", Finish),
        ("card", Card),
    )
}
"""The sheet's parts that have fields which are set as they are. Only what is named changes."""


class GlowsSerializer(serializers.Serializer):
    glows = field_of(kind_of(Light, "glows"))


class MediumSerializer(serializers.Serializer):
    medium = field_of(kind_of(Colours, "medium"))
    drawer = serializers.IntegerField()


class PaperWhiteSerializer(serializers.Serializer):
    lab = serializers.ListField(child=serializers.FloatField())
    hex = serializers.CharField()


class PaperReaderSerializer(serializers.Serializer):
    """The reader is held on its white tile, else on the sheet."""

    tile = serializers.BooleanField(default=False)


class LayOverSerializer(serializers.Serializer):
    drawer = serializers.IntegerField()


class SchoolChoiceSerializer(serializers.Serializer):
    school = serializers.CharField(max_length=40)
