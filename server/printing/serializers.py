"""Shapes of the recipe on one page."""

from __future__ import annotations

from rest_framework import serializers


class ChipSerializer(serializers.Serializer):
    code = serializers.CharField()
    name = serializers.CharField()
    hex = serializers.CharField()
    lab = serializers.ListField(child=serializers.FloatField())


class LetteredSerializer(serializers.Serializer):
    letter = serializers.CharField()
    name = serializers.CharField()
    count = serializers.IntegerField()
    x = serializers.FloatField()
    y = serializers.FloatField()


class PageRampSerializer(serializers.Serializer):
    letters = serializers.ListField(child=serializers.CharField())
    coats = serializers.ListField(child=ChipSerializer(many=True))


class VisitSerializer(serializers.Serializer):
    """Passes with one swatch, in a row."""

    numbers = serializers.CharField()
    name = serializers.CharField()
    hex = serializers.CharField()
    stops = serializers.CharField()


class SaidSerializer(serializers.Serializer):
    name = serializers.CharField()
    value = serializers.CharField()


class OnePageSerializer(serializers.Serializer):
    """The recipe as it stands on one page."""

    title = serializers.CharField()
    version = serializers.IntegerField(allow_null=True)
    light = serializers.CharField()
    clock = serializers.CharField()
    azimuth_deg = serializers.FloatField()
    glows = serializers.ListField(child=serializers.CharField())
    lettered = LetteredSerializer(many=True)
    bare = serializers.ListField(child=serializers.CharField())
    chips = ChipSerializer(many=True)
    ramps = PageRampSerializer(many=True)
    visits = VisitSerializer(many=True)
    facts = SaidSerializer(many=True)
    notes = SaidSerializer(many=True)
    caution = serializers.CharField()
    text = serializers.CharField(help_text="All of it as plain text.")
    width_px = serializers.IntegerField()
    height_px = serializers.IntegerField()
    card = serializers.BooleanField(help_text="Whether the card has its sizes.")
