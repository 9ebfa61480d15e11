"""What goes in and out of the API for colour judgement."""

from __future__ import annotations

import json
from typing import Any

from drf_spectacular.utils import extend_schema_field
from rest_framework import serializers

from paleta.checks import REMEDIES, VALUE_KINDS
from paleta.colour import hex_to_lab
from paleta.errors import ShapeError
from paleta.fields import kind_of
from paleta.media import LEAST_STRENGTH
from paleta.palette import AMONG, MEANT, SCHEMES, SHADE_HUES, judge
from paleta.recipe import RegionSetting
from server.dataclass_serializers import field_of
from server.drawers.models import MEDIUM_CHOICES
from server.drawers.serializers import SwatchSerializer
from server.fields import HexField, LabelsField, TagsField
from server.pieces.models import GoTo
from server.pieces.serializers import ACCENT_CHOICES, RampSerializer

KIND_CHOICES = [*VALUE_KINDS.items()]
SHADE_HUE_CHOICES = [*SHADE_HUES.items()]
LEAST_PERCENT = round(100 * LEAST_STRENGTH)
SHADES = kind_of(RegionSetting, "shades")


class MediumField(serializers.ChoiceField):
    """A medium; none means the sheet's usual one."""

    def __init__(self) -> None:
        super().__init__(choices=MEDIUM_CHOICES, allow_blank=True, default="")


class ProposeSerializer(serializers.Serializer):
    """A wish for a ramp."""

    wish_hex = HexField(source="wish_lab")
    shades = field_of(SHADES)
    shade_hue = serializers.ChoiceField(choices=SHADE_HUE_CHOICES, default="keep")
    meant = serializers.ChoiceField(choices=[*MEANT.items()], default="middle")
    medium = MediumField()


class RampWishSerializer(ProposeSerializer):
    """A wish for a ramp, and what its swatches are to be taken from."""

    among = serializers.ChoiceField(choices=[(code, name) for code, name in AMONG.items() if code], allow_blank=True,
                                    default="")  # fmt: skip


class RampFormSerializer(serializers.Serializer):
    labels = LabelsField()
    codes = serializers.ListField(child=serializers.CharField(max_length=60), max_length=5)
    wish_hex = HexField(required=False, allow_null=True, default=None, source="wish_lab")
    by_hand = serializers.BooleanField(default=False)
    medium = MediumField()
    over = serializers.BooleanField(default=False, help_text="Over the coats that are there, not instead of them.")
    to_paper = serializers.BooleanField(
        allow_null=True, default=None, help_text="Whether the palest zone is bare paper; null leaves that as it is."
    )
    strengths = serializers.ListField(
        child=serializers.IntegerField(min_value=LEAST_PERCENT, max_value=100),
        max_length=5,
        default=list,
        help_text="In hundredths, one for each code; none where the codes say it.",
    )
    drawn_out = serializers.IntegerField(
        min_value=0, max_value=5, default=0, help_text="Over how many zones the one swatch is drawn out to bare paper."
    )


class AccentFormSerializer(serializers.Serializer):
    labels = LabelsField()
    kind = serializers.ChoiceField(choices=ACCENT_CHOICES)
    medium = serializers.ChoiceField(choices=MEDIUM_CHOICES)
    code = serializers.CharField(
        max_length=60,
        allow_blank=True,
        allow_null=True,
        help_text="Empty takes the accent off; null takes the usual swatch for what it lies on.",
    )


class ValueWarningSerializer(serializers.Serializer):
    kind = serializers.ChoiceField(choices=KIND_CHOICES)
    regions = serializers.ListField(child=serializers.IntegerField())
    sentence = serializers.CharField()
    remedy = serializers.ChoiceField(choices=[*REMEDIES.items()])
    changed = serializers.ListField(child=serializers.IntegerField(), help_text="What the remedy is done to.")
    remedy_words = serializers.CharField()
    left = serializers.BooleanField(help_text="Whether it is meant so and no longer told.")


class RemedySerializer(serializers.Serializer):
    kind = serializers.ChoiceField(choices=KIND_CHOICES)
    regions = LabelsField()


class LeaveSerializer(RemedySerializer):
    left = serializers.BooleanField()


class MissingSerializer(serializers.Serializer):
    name = serializers.CharField(allow_blank=True)
    hex = serializers.CharField(allow_null=True)
    lab = serializers.ListField(child=serializers.FloatField(), allow_null=True)
    nearest = SwatchSerializer(allow_null=True)
    apart = serializers.FloatField(allow_null=True, help_text="CIEDE2000 to the nearest.")


class CounterpartsSerializer(serializers.Serializer):
    codes = serializers.ListField(child=serializers.CharField(max_length=60), min_length=1, max_length=5)
    drawer = serializers.IntegerField()
    medium = MediumField()


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
    shades = field_of(SHADES, default=3)
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
    labels = LabelsField(min_length=0, default=list, help_text="None: all open regions.")


class LayGoToSerializer(serializers.Serializer):
    goto = serializers.IntegerField()
    labels = LabelsField(min_length=0, default=list, help_text="None: those that carry one of its tags.")


class KeepGoToSerializer(serializers.Serializer):
    label = serializers.IntegerField(min_value=1)
    name = serializers.CharField(max_length=60)
    tags = TagsField(default=list)
    medium = MediumField()


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


class SubstituteSerializer(serializers.Serializer):
    swatch = SwatchSerializer()
    apart = serializers.FloatField()
    drawer = serializers.CharField()
