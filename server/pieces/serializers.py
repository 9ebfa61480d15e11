"""A piece as the bench and the shelf show it: the sheet read out part by part."""

from __future__ import annotations

from typing import Any

from rest_framework import serializers

from paleta.checks import LIGHT_REMEDIES
from paleta.colour import lab_to_hex
from paleta.ground import FADES
from paleta.light import ACCENTS, Lamp
from paleta.media import MEDIA
from paleta.palette import Ramp, in_betweens
from paleta.recipe import Card, Colours, Finish, Light, Order, Regions, RegionSetting, Stamp
from server.dataclass_serializers import record_of, response_fields, serializer_of
from server.drawers.serializers import SwatchSerializer

MEDIUM_CHOICES = [*MEDIA.items()]
FADE_CHOICES = [*FADES.items()]
ACCENT_CHOICES = [(code, kind.name) for code, kind in ACCENTS.items()]


class InBetweenSerializer(serializers.Serializer):
    """Two markers touched tip to tip."""

    pale = serializers.CharField()
    dark = serializers.CharField()
    hex = serializers.CharField()


class RampSwatchSerializer(SwatchSerializer):
    seen_hex = serializers.CharField(help_text="On the paper of the piece.")


class RampSerializer(serializers.Serializer):
    swatches = RampSwatchSerializer(many=True)
    steps = serializers.ListField(child=serializers.FloatField())
    explanation = serializers.CharField()
    bare_hex = serializers.CharField(
        allow_null=True, help_text="The bare paper it is drawn out to; null where the palest zone is coloured."
    )
    warnings = serializers.ListField(child=serializers.CharField())
    in_betweens = InBetweenSerializer(many=True, help_text="Mixes for steps that are too far apart.")

    @staticmethod
    def of(ramp: Ramp) -> dict[str, Any]:
        return {
            "swatches": [
                {**SwatchSerializer.of(one.code, one.name, one.family, one.lab), "seen_hex": lab_to_hex(look)}
                for one, look in zip(ramp.swatches, ramp.looks, strict=True)
            ],
            "steps": list(ramp.steps),
            "explanation": ramp.explanation,
            "bare_hex": lab_to_hex(ramp.bare) if ramp.bare else None,
            "warnings": list(ramp.warnings),
            "in_betweens": [
                {"pale": pale.name, "dark": dark.name, "hex": lab_to_hex(lab)}
                for pale, dark, lab in in_betweens(ramp.swatches)
            ],
        }


class AdviceSerializer(serializers.Serializer):
    why = serializers.CharField()
    instead = serializers.CharField()


class BorderSerializer(serializers.Serializer):
    """Two regions that touch; `a` is the lower label."""

    a = serializers.IntegerField()
    b = serializers.IntegerField()
    length_mm = serializers.FloatField()


class StampingStepSerializer(serializers.Serializer):
    regions = serializers.ListField(child=serializers.IntegerField())
    what = serializers.CharField()


class CoatSerializer(serializers.Serializer):
    """One medium with its ramp on a region, and the school it is laid by."""

    medium = serializers.ChoiceField(choices=MEDIUM_CHOICES)
    school = serializers.CharField()
    ramp = RampSerializer()


class AccentSerializer(serializers.Serializer):
    """A pass that follows the light, or a touch of a background."""

    kind = serializers.ChoiceField(choices=ACCENT_CHOICES)
    medium = serializers.ChoiceField(choices=MEDIUM_CHOICES)
    swatch = SwatchSerializer()


class HorizonOutSerializer(serializers.Serializer):
    """A line that parts a ground: what lies below it, and the handles it runs through, in mm."""

    label = serializers.IntegerField()
    below = serializers.IntegerField()
    handles = serializers.ListField(child=serializers.ListField(child=serializers.FloatField()))


class MediumSchoolSerializer(serializers.Serializer):
    """How a medium is laid."""

    medium = serializers.ChoiceField(choices=MEDIUM_CHOICES)
    code = serializers.CharField()
    name = serializers.CharField()


RegionSerializer = serializer_of(
    "Region",
    "A region: what was measured on it and what was decided for it.",
    response_fields(RegionSetting),
    {
        "label": serializers.IntegerField(),
        "area_mm2": serializers.FloatField(),
        "anchor_x": serializers.FloatField(help_text="0..1 across the picture; always inside the region."),
        "anchor_y": serializers.FloatField(),
        "too_small": serializers.BooleanField(help_text="Narrower than two strokes of the medium's tip."),
        "wish_hex": serializers.CharField(allow_null=True),
        "coats": CoatSerializer(many=True, help_text="Lowest first."),
        "accents": AccentSerializer(many=True),
    },
)
LampOutSerializer = serializer_of(
    "LampOut",
    "The lamp, with its place as a clock position.",
    response_fields(Lamp),
    {"clock": serializers.CharField()},
)
StampOutSerializer = serializer_of(
    "StampOut",
    "What was stamped, and what speaks against it.",
    response_fields(Stamp),
    {
        "paper_name": serializers.CharField(),
        "line_said": serializers.CharField(help_text="What the line is made of, in words."),
        "ink_hex": serializers.CharField(help_text="Of the ink, where it is not as in the scan."),
        "line_hex": serializers.CharField(help_text="Of the line on the card; empty where it is as in the scan."),
        "line_advice": AdviceSerializer(many=True, help_text="What to mind of the line itself."),
        "fit": AdviceSerializer(many=True, help_text="What speaks against this ink, paper and medium together."),
    },
)
RegionsOutSerializer = serializer_of(
    "RegionsOut",
    "The regions, how they were found, and what stands before what.",
    response_fields(Regions),
    {
        "list": RegionSerializer(many=True),
        "ground_advice": serializers.ListField(child=serializers.CharField(), help_text="Fades that will not show."),
        "taken": serializers.ListField(
            child=serializers.IntegerField(), help_text="Regions that were made of the paper round the figure."
        ),
        "horizons": HorizonOutSerializer(many=True, help_text="Lines that part grounds."),
        "questions": serializers.ListField(
            child=serializers.ListField(child=serializers.IntegerField()),
            help_text="Groups of regions that may be alike, to be answered one by one.",
        ),
        "borders": BorderSerializer(many=True),
        "stamping": StampingStepSerializer(
            many=True, help_text="Front first; empty where nothing stands before anything."
        ),
    },
)
LightOutSerializer = serializer_of(
    "LightOut", "Lamp, glows and zones.", response_fields(Light), {"lamp": LampOutSerializer()}
)
ColoursOutSerializer = serializer_of(
    "ColoursOut",
    "The usual medium and its drawer, the media that are laid, and the key.",
    response_fields(Colours),
    {
        "drawer": serializers.IntegerField(allow_null=True),
        "media": serializers.ListField(child=serializers.ChoiceField(choices=MEDIUM_CHOICES)),
        "pen_count": serializers.IntegerField(),
    },
)
OrderOutSerializer = serializer_of(
    "OrderOut",
    "Schools and wishes for the order.",
    response_fields(Order),
    {"schools": MediumSchoolSerializer(many=True, help_text="Of the media that are laid, and of the usual one.")},
)
FinishOutSerializer = serializer_of("FinishOut", "Finishing touches.", response_fields(Finish))
CardOutSerializer = serializer_of("CardOut", "What the picture goes on.", response_fields(Card))


class PieceSerializer(serializers.Serializer):
    """A piece as the bench shows it: the sheet, read out part by part."""

    id = serializers.IntegerField()
    version = serializers.IntegerField()
    stamp = StampOutSerializer()
    regions = RegionsOutSerializer()
    light = LightOutSerializer()
    colours = ColoursOutSerializer()
    order = OrderOutSerializer()
    finish = FinishOutSerializer()
    card = CardOutSerializer()
    width_px = serializers.IntegerField()
    height_px = serializers.IntegerField()
    width_mm = serializers.FloatField()
    height_mm = serializers.FloatField()
    dpi = serializers.FloatField()
    warnings = serializers.ListField(child=serializers.CharField())
    undo = serializers.CharField(allow_null=True, help_text="What undo would take back.")
    redo = serializers.CharField(allow_null=True, help_text="What redo would do again.")
    latest_recipe = serializers.IntegerField(allow_null=True)
    changed_since_recipe = serializers.BooleanField()


class ShelfPieceSerializer(serializers.Serializer):
    """A piece as the shelf shows it."""

    id = serializers.IntegerField()
    title = serializers.CharField()
    medium = serializers.ChoiceField(choices=MEDIUM_CHOICES)
    version = serializers.IntegerField()
    clock = serializers.CharField()
    lamp_azimuth_deg = serializers.FloatField()
    pen_count = serializers.IntegerField()
    region_count = serializers.IntegerField()
    coloured_count = serializers.IntegerField()
    has_card = serializers.BooleanField(help_text="Whether the card has its sizes.")
    latest_recipe = serializers.IntegerField(allow_null=True)
    changed_at = serializers.DateTimeField()


class LightDoubtSerializer(serializers.Serializer):
    """One thing, or one region by itself, that is lit against the lamp; `regions` are those of it that are."""

    regions = serializers.ListField(child=serializers.IntegerField())
    name = serializers.CharField()
    why = serializers.CharField()
    remedy = serializers.ChoiceField(choices=[*LIGHT_REMEDIES.items()])


class LightCheckSerializer(serializers.Serializer):
    doubts = LightDoubtSerializer(many=True)
    looked_at = serializers.IntegerField(help_text="How many things were looked at.")


LampSerializer = record_of(Lamp)
