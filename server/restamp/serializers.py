"""Shapes of stamping again."""

from __future__ import annotations

from rest_framework import serializers

from paleta.fields import kind_of
from paleta.recipe import Stamp
from server.dataclass_serializers import field_of
from server.pieces.shelf.serializers import CornersField


class StampAgainSerializer(serializers.Serializer):
    image = serializers.FileField(allow_empty_file=True)
    corners = CornersField(required=False, binary=True)
    title = field_of(kind_of(Stamp, "title"), required=False, default="")
    paper = field_of(kind_of(Stamp, "paper"), required=False, default="")


class PaperChangeSerializer(serializers.Serializer):
    """A thing that looks otherwise on the new paper, and what would come nearer to how it looked."""

    name = serializers.CharField()
    regions = serializers.ListField(child=serializers.IntegerField())
    size = serializers.FloatField()
    sentence = serializers.CharField()
    before_hex = serializers.CharField()
    after_hex = serializers.CharField()
    medium = serializers.CharField(allow_blank=True)
    instead = serializers.ListField(child=serializers.CharField(), help_text="Codes of a ramp, palest first.")
    instead_names = serializers.ListField(child=serializers.CharField())
    left = serializers.FloatField()


class StampedAgainSerializer(serializers.Serializer):
    piece = serializers.IntegerField()
    warnings = serializers.ListField(child=serializers.CharField())
    changes = PaperChangeSerializer(many=True)
