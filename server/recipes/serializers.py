"""Shapes of kept versions."""

from __future__ import annotations

from rest_framework import serializers


class RecipeLineSerializer(serializers.Serializer):
    number = serializers.IntegerField()
    saved_at = serializers.DateTimeField()
    previous = serializers.IntegerField(allow_null=True)
    changes = serializers.ListField(child=serializers.CharField())


class KeepRecipeSerializer(serializers.Serializer):
    newer_order = serializers.BooleanField(
        default=False, help_text="Also where only the order would be another, worked out at the pace learnt since."
    )


class RecipeFileSerializer(serializers.Serializer):
    recipe = serializers.FileField(allow_empty_file=True)
