"""Shapes of adding a piece."""

from __future__ import annotations

from typing import Any

from rest_framework import serializers

from paleta.fields import kind_of
from paleta.impression import WIDTH_RANGE_MM
from paleta.recipe import Regions, Stamp
from server.dataclass_serializers import field_of


class CornersField(serializers.JSONField):
    """Four (x, y), each 0..1 across the picture, as JSON text: top left, top right, bottom right, bottom left."""

    def to_internal_value(self, data: Any) -> Any:
        wrong = serializers.ValidationError("Four corners are needed, each as x and y.", "corners_wrong")
        if isinstance(data, str | bytes) and len(data) > 1000:
            raise wrong
        try:
            corners: Any = super().to_internal_value(data)
            return tuple((float(x), float(y)) for x, y in corners)
        except (TypeError, ValueError, OverflowError, RecursionError) as error:
            raise wrong from error


class AddPieceSerializer(serializers.Serializer):
    image = serializers.FileField(allow_empty_file=True)
    corners = CornersField(required=False, binary=True)
    title = field_of(kind_of(Stamp, "title"))
    width_mm = serializers.FloatField(required=False, min_value=WIDTH_RANGE_MM[0], max_value=WIDTH_RANGE_MM[1])
    gap_mm = field_of(kind_of(Regions, "gap_mm"), required=False, default=1.0)
    sensitivity = field_of(kind_of(Regions, "sensitivity"), required=False, default=0.0)


class LookSerializer(serializers.Serializer):
    image = serializers.FileField(allow_empty_file=True)


class LookOutSerializer(serializers.Serializer):
    """What a picture looks like before its regions are looked for."""

    width_px = serializers.IntegerField()
    height_px = serializers.IntegerField()
    corners = serializers.ListField(
        child=serializers.ListField(child=serializers.FloatField()),
        allow_null=True,
        help_text="Of a sheet that stands out, each 0..1 across the picture.",
    )
    width_mm = serializers.FloatField(allow_null=True, help_text="What the file says of its size.")
    preview = serializers.CharField(help_text="A small JPEG as a data address.")
