"""Fields of the API that more than one app uses."""

from __future__ import annotations

from typing import Any

from rest_framework import serializers

from paleta.colour import hex_to_lab, lab_to_hex
from paleta.errors import ShapeError
from paleta.fields import LABEL, POINT_MM
from paleta.recipe import MOST_REGIONS, TAGS_KIND
from server.dataclass_serializers import field_of


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
    """Numbers of regions, each once."""

    def __init__(self, *, min_length: int = 1, **more: Any) -> None:
        super().__init__(child=field_of(LABEL), min_length=min_length, max_length=MOST_REGIONS, **more)

    def to_internal_value(self, data: Any) -> list[int]:
        return list(dict.fromkeys(super().to_internal_value(data)))


class PointField(serializers.ListField):
    """(x, y) in mm from the picture's top left corner."""

    def __init__(self, **more: Any) -> None:
        (least, most), _ = POINT_MM.ranges
        child = serializers.FloatField(min_value=least, max_value=most)
        super().__init__(child=child, min_length=2, max_length=2, **more)


class TagsField(serializers.ListField):
    """Lower-case words, each once."""

    def __init__(self, **more: Any) -> None:
        super().__init__(child=field_of(TAGS_KIND.kind), max_length=TAGS_KIND.most, **more)

    def to_internal_value(self, data: Any) -> list[str]:
        return list(dict.fromkeys(tag.strip().lower() for tag in super().to_internal_value(data)))
