from drf_spectacular.utils import extend_schema_field
from rest_framework import serializers

from paleta.colour import lab_to_hex, plain_name
from server.drawers.models import MEDIUM_CHOICES, Drawer


class SwatchSerializer(serializers.Serializer):
    """A swatch as every screen shows it."""

    code = serializers.CharField()
    name = serializers.CharField()
    family = serializers.CharField()
    lab = serializers.ListField(child=serializers.FloatField(), min_length=3, max_length=3)
    hex = serializers.CharField()
    words = serializers.CharField(help_text="The colour in plain words.")

    @staticmethod
    def of(code: str, name: str, family: str, lab: tuple[float, float, float]) -> dict[str, object]:
        return {
            "code": code,
            "name": name,
            "family": family,
            "lab": list(lab),
            "hex": lab_to_hex(lab),
            "words": plain_name(lab),
        }


class DrawerSerializer(serializers.ModelSerializer):
    swatch_count = serializers.IntegerField(read_only=True)
    medium = serializers.ChoiceField(choices=MEDIUM_CHOICES)

    class Meta:
        model = Drawer
        fields = ["id", "name", "medium", "swatch_count"]


class DrawerDetailSerializer(DrawerSerializer):
    swatches = serializers.SerializerMethodField()

    class Meta(DrawerSerializer.Meta):
        fields = [*DrawerSerializer.Meta.fields, "swatches"]

    @extend_schema_field(SwatchSerializer(many=True))
    def get_swatches(self, drawer: Drawer) -> list[dict[str, object]]:
        return [SwatchSerializer.of(one.code, one.name, one.family, one.lab) for one in drawer.shades()]
