"""Shapes of kept versions."""

from __future__ import annotations

from rest_framework import serializers


class RecipeLineSerializer(serializers.Serializer):
    number = serializers.IntegerField()
    saved_at = serializers.DateTimeField()
    previous = serializers.IntegerField(allow_null=True)
    changes = serializers.ListField(child=serializers.CharField())


class RecipeFileSerializer(serializers.Serializer):
    recipe = serializers.FileField(allow_empty_file=True)
