"""Shapes of runs."""

from __future__ import annotations

from rest_framework import serializers

from server.runs.models import Run


class RunFormSerializer(serializers.Serializer):
    minutes = serializers.FloatField(min_value=0.5, max_value=1440, help_text="By the clock, waits included.")
    note = serializers.CharField(max_length=500, required=False, allow_blank=True, default="")


class RunSerializer(serializers.ModelSerializer):
    class Meta:
        model = Run
        fields = ["id", "made_at", "medium", "seconds", "planned_s", "note"]
