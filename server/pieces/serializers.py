"""What goes in and out of the API for pieces."""

from __future__ import annotations

from typing import Any

from drf_spectacular.utils import OpenApiParameter
from rest_framework import serializers

from paleta.checks import KEYS
from paleta.colour import hex_to_lab, lab_to_hex
from paleta.errors import ShapeError
from paleta.light import FORMS
from paleta.media import INKS
from paleta.order import TOUCHES
from paleta.palette import SHADE_HUES, Ramp, in_betweens
from paleta.recipe import ORDER_WISHES, ROLES
from server.drawers.models import MEDIUM_CHOICES, PAPER_CHOICES
from server.drawers.serializers import SwatchSerializer

INK_CHOICES = list(INKS.items())
FORM_CHOICES = [(name, name) for name in FORMS]
ROLE_CHOICES = [(role, role) for role in ROLES]
TOUCH_CHOICES = [(code, touch.name) for code, touch in TOUCHES.items()]
WISH_CHOICES = [(wish, wish) for wish in ORDER_WISHES]


IF_MATCH = OpenApiParameter(
    "If-Match",
    str,
    OpenApiParameter.HEADER,
    required=True,
    description='The version of the piece the change was made on, in quotes: "7".',
)


class HexField(serializers.CharField):
    """#rrggbb on the wire, L*a*b* inside."""

    def to_internal_value(self, data: Any) -> tuple[float, float, float]:  # type: ignore[override]
        try:
            return hex_to_lab(super().to_internal_value(data))
        except ShapeError as error:
            raise serializers.ValidationError(str(error), "not_a_colour") from error

    def run_validators(self, value: Any) -> None:
        """The text's own validators do not fit the colour it became."""

    def to_representation(self, value: Any) -> str:
        return lab_to_hex(value)


class LabelsField(serializers.ListField):
    def __init__(self, **more: Any) -> None:
        super().__init__(child=serializers.IntegerField(min_value=1), min_length=1, max_length=4000, **more)

    def to_internal_value(self, data: Any) -> list[int]:
        return list(dict.fromkeys(super().to_internal_value(data)))


class PointField(serializers.ListField):
    """(x, y) in mm from the picture's top left corner."""

    def __init__(self, **more: Any) -> None:
        super().__init__(
            child=serializers.FloatField(min_value=-500, max_value=1000), min_length=2, max_length=2, **more
        )


class TagsField(serializers.ListField):
    """Lower-case words, each once."""

    def __init__(self, **more: Any) -> None:
        super().__init__(child=serializers.CharField(max_length=24), max_length=6, **more)

    def to_internal_value(self, data: Any) -> list[str]:
        return list(dict.fromkeys(tag.strip().lower() for tag in super().to_internal_value(data)))


class LampSerializer(serializers.Serializer):
    azimuth_deg = serializers.FloatField(min_value=0, max_value=360)
    elevation_deg = serializers.FloatField(min_value=0, max_value=90)
    ambient = serializers.FloatField(min_value=0, max_value=0.9, default=0.2)


class GlowSerializer(serializers.Serializer):
    x_mm = serializers.FloatField(min_value=0, max_value=1000)
    y_mm = serializers.FloatField(min_value=0, max_value=1000)
    height_mm = serializers.FloatField(min_value=0, max_value=100, default=8)
    reach_mm = serializers.FloatField(min_value=1, max_value=200, default=20)
    strength = serializers.FloatField(min_value=0, max_value=5, default=1)
    tint = serializers.RegexField(r"^(#[0-9a-f]{6})?$", default="", allow_blank=True)
    reserve_mm = serializers.FloatField(min_value=0, max_value=100, default=0)


class GlowsSerializer(serializers.Serializer):
    glows = GlowSerializer(many=True)


class LampOutSerializer(LampSerializer):
    clock = serializers.CharField()


class ZoningSerializer(serializers.Serializer):
    """Only what is named changes."""

    shadows = serializers.BooleanField(required=False)
    true_to_scene = serializers.FloatField(min_value=0, max_value=1, required=False)
    shade = serializers.FloatField(min_value=-1, max_value=1, required=False)
    follow = serializers.FloatField(min_value=0, max_value=1, required=False)


class StampSerializer(serializers.Serializer):
    title = serializers.CharField(max_length=120, required=False)
    outline_ink = serializers.ChoiceField(choices=INK_CHOICES, required=False)
    paper = serializers.ChoiceField(choices=PAPER_CHOICES, required=False)
    finish = serializers.CharField(max_length=2000, required=False, allow_blank=True)
    card = serializers.CharField(max_length=2000, required=False, allow_blank=True)


class MediumSerializer(serializers.Serializer):
    medium = serializers.ChoiceField(choices=MEDIUM_CHOICES)
    drawer = serializers.IntegerField()


class OverSerializer(serializers.Serializer):
    drawer = serializers.IntegerField()


class SchoolChoiceSerializer(serializers.Serializer):
    school = serializers.CharField(max_length=40)


class WishesSerializer(serializers.Serializer):
    """Which regions come first, and how light the picture is meant to be. Only what is named changes."""

    order_wish = serializers.ChoiceField(choices=WISH_CHOICES, allow_blank=True, required=False)
    key = serializers.ChoiceField(choices=[(key, key) for key in KEYS], allow_blank=True, required=False)
    touches = serializers.ListField(child=serializers.ChoiceField(choices=TOUCH_CHOICES), required=False)
    masked = serializers.BooleanField(required=False)


class RegionChangeSerializer(serializers.Serializer):
    labels = LabelsField()
    name = serializers.CharField(max_length=60, required=False)
    left_as_paper = serializers.BooleanField(required=False)
    form = serializers.ChoiceField(choices=FORM_CHOICES, required=False)
    bulge = serializers.FloatField(min_value=0.05, max_value=2, required=False)
    axis_deg = serializers.FloatField(min_value=0, max_value=359.99, required=False, allow_null=True)
    depth = serializers.IntegerField(min_value=-99, max_value=99, required=False)
    shades = serializers.IntegerField(min_value=1, max_value=5, required=False)
    base_mm = PointField(required=False, allow_null=True)
    turn_deg = serializers.FloatField(min_value=-180, max_value=180, required=False)
    bare_highlight = serializers.BooleanField(required=False)
    role = serializers.ChoiceField(choices=ROLE_CHOICES, required=False, allow_blank=True)
    tags = TagsField(required=False)
    wish_hex = HexField(required=False, allow_null=True, source="wish_lab")


class JoinSerializer(serializers.Serializer):
    labels = LabelsField()


class FindAgainSerializer(serializers.Serializer):
    gap_mm = serializers.FloatField(min_value=0.1, max_value=5)
    ink = serializers.FloatField(min_value=-1, max_value=1)


class BodySerializer(serializers.Serializer):
    labels = LabelsField()
    together = serializers.BooleanField(default=True)


class SplitSerializer(serializers.Serializer):
    label = serializers.IntegerField(min_value=1)
    line = serializers.ListField(child=PointField(), min_length=2, max_length=200)


class ProposeSerializer(serializers.Serializer):
    wish_hex = HexField(source="wish_lab")
    shades = serializers.IntegerField(min_value=1, max_value=5)
    shade_hue = serializers.ChoiceField(choices=[(hue, hue) for hue in SHADE_HUES], default="keep")


class RampSetSerializer(serializers.Serializer):
    labels = LabelsField()
    codes = serializers.ListField(child=serializers.CharField(max_length=40), max_length=5)
    wish_hex = HexField(required=False, allow_null=True, default=None, source="wish_lab")
    by_hand = serializers.BooleanField(default=False)


class InBetweenSerializer(serializers.Serializer):
    """Two markers touched tip to tip."""

    pale = serializers.CharField()
    dark = serializers.CharField()
    hex = serializers.CharField()


class RampSerializer(serializers.Serializer):
    swatches = SwatchSerializer(many=True)
    steps = serializers.ListField(child=serializers.FloatField())
    explanation = serializers.CharField()
    warnings = serializers.ListField(child=serializers.CharField())
    in_betweens = InBetweenSerializer(many=True, help_text="Mixes for steps that are too far apart.")

    @staticmethod
    def of(ramp: Ramp) -> dict[str, Any]:
        return {
            "swatches": [SwatchSerializer.of(one.code, one.name, one.family, one.lab) for one in ramp.swatches],
            "steps": list(ramp.steps),
            "explanation": ramp.explanation,
            "warnings": list(ramp.warnings),
            "in_betweens": [
                {"pale": pale.name, "dark": dark.name, "hex": lab_to_hex(lab)}
                for pale, dark, lab in in_betweens(ramp.swatches)
            ],
        }


class RegionSerializer(serializers.Serializer):
    label = serializers.IntegerField()
    name = serializers.CharField()
    area_mm2 = serializers.FloatField()
    anchor_x = serializers.FloatField(help_text="0..1 across the picture; always inside the region.")
    anchor_y = serializers.FloatField()
    left_as_paper = serializers.BooleanField()
    form = serializers.ChoiceField(choices=FORM_CHOICES)
    bulge = serializers.FloatField()
    axis_deg = serializers.FloatField(allow_null=True)
    depth = serializers.IntegerField()
    body = serializers.IntegerField(help_text="Regions with the same number above 0 form one body.")
    base_mm = PointField(allow_null=True)
    turn_deg = serializers.FloatField()
    bare_highlight = serializers.BooleanField()
    role = serializers.ChoiceField(choices=ROLE_CHOICES, allow_blank=True)
    tags = serializers.ListField(child=serializers.CharField())
    guessed = serializers.BooleanField(help_text="Form and depth are still a first guess.")
    under = serializers.ListField(child=serializers.CharField(), help_text="Names of the markers beneath.")
    too_small = serializers.BooleanField(help_text="Narrower than two strokes of the medium's tip.")
    shades = serializers.IntegerField()
    wish_hex = serializers.CharField(allow_null=True)
    by_hand = serializers.BooleanField()
    ramp = RampSerializer(allow_null=True)


class PieceCardSerializer(serializers.Serializer):
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
    latest_recipe = serializers.IntegerField(allow_null=True)
    changed_at = serializers.DateTimeField()


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


class LightDoubtSerializer(serializers.Serializer):
    region = serializers.IntegerField()
    name = serializers.CharField()
    why = serializers.CharField()
    remedy = serializers.ChoiceField(choices=[("turn", "turn"), ("base", "base"), ("print", "print")])


class LightCheckSerializer(serializers.Serializer):
    doubts = LightDoubtSerializer(many=True)
    looked_at = serializers.IntegerField(help_text="How many bodies were looked at.")


class PieceSerializer(serializers.Serializer):
    """A piece as the bench shows it: the sheet, read out."""

    id = serializers.IntegerField()
    version = serializers.IntegerField()
    title = serializers.CharField()
    outline_ink = serializers.ChoiceField(choices=INK_CHOICES)
    paper = serializers.ChoiceField(choices=PAPER_CHOICES)
    medium = serializers.ChoiceField(choices=MEDIUM_CHOICES)
    school = serializers.CharField()
    order_wish = serializers.ChoiceField(choices=WISH_CHOICES, allow_blank=True)
    masked = serializers.BooleanField(help_text="The figure lies under a mask while the background is coloured.")
    key = serializers.ChoiceField(choices=[(key, key) for key in KEYS], allow_blank=True)
    touches = serializers.ListField(child=serializers.ChoiceField(choices=TOUCH_CHOICES))
    drawer = serializers.IntegerField(allow_null=True)
    finish = serializers.CharField(allow_blank=True)
    card = serializers.CharField(allow_blank=True)
    lamp = LampOutSerializer()
    glows = GlowSerializer(many=True)
    true_to_scene = serializers.FloatField()
    shadows = serializers.BooleanField()
    shade = serializers.FloatField()
    follow = serializers.FloatField()
    borders = BorderSerializer(many=True)
    stamping = StampingStepSerializer(many=True, help_text="Front first; empty where nothing stands before anything.")
    narrowest_shaded_mm = serializers.FloatField()
    ink = serializers.FloatField(help_text="-1 to 1: more or less than usual was taken for ink.")
    gap_mm = serializers.FloatField()
    regions = RegionSerializer(many=True)
    fit = AdviceSerializer(many=True, help_text="What speaks against this ink, paper and medium together.")
    pen_count = serializers.IntegerField()
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


class RecipeLineSerializer(serializers.Serializer):
    number = serializers.IntegerField()
    saved_at = serializers.DateTimeField()
    previous = serializers.IntegerField(allow_null=True)
    changes = serializers.ListField(child=serializers.CharField())


class CornersField(serializers.JSONField):
    """Four (x, y), each 0..1 across the picture, as JSON text: top left, top right, bottom right, bottom left."""

    def to_internal_value(self, data: Any) -> list[list[float]]:
        found = super().to_internal_value(data)
        try:
            return [[float(x), float(y)] for x, y in found]
        except (TypeError, ValueError) as error:
            raise serializers.ValidationError("Four corners are needed, each as x and y.", "corners_wrong") from error


class LookSerializer(serializers.Serializer):
    image = serializers.FileField(allow_empty_file=True)


class LookOutSerializer(serializers.Serializer):
    """What a picture looks like before its regions are looked for."""

    width_px = serializers.IntegerField()
    height_px = serializers.IntegerField()
    corners = serializers.ListField(child=PointField(), allow_null=True, help_text="Of a sheet that stands out.")
    width_mm = serializers.FloatField(allow_null=True, help_text="What the file says of its size.")
    preview = serializers.CharField(help_text="A small JPEG as a data address.")


class FrontSerializer(serializers.Serializer):
    nearer = serializers.IntegerField(min_value=1)
    farther = serializers.IntegerField(min_value=1)


class EraseSerializer(serializers.Serializer):
    label = serializers.IntegerField(min_value=1)


class AddPieceSerializer(serializers.Serializer):
    image = serializers.FileField(allow_empty_file=True)
    corners = CornersField(required=False, binary=True)
    title = serializers.CharField(max_length=120)
    width_mm = serializers.FloatField(required=False, min_value=10, max_value=450)
    gap_mm = serializers.FloatField(required=False, min_value=0.1, max_value=5, default=1.0)


class RecipeFileSerializer(serializers.Serializer):
    recipe = serializers.FileField(allow_empty_file=True)
