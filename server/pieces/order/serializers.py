"""Shapes of the order of passes."""

from __future__ import annotations

from rest_framework import serializers

from server.drawers.models import MEDIUM_CHOICES
from server.drawers.serializers import SwatchSerializer

HANDLING_KINDS = [(kind, kind) for kind in ("lay", "wipe", "lift")]


class TimedSerializer(serializers.Serializer):
    """Something of a plan that has its time, in seconds from the plan's beginning."""

    start_s = serializers.FloatField()
    end_s = serializers.FloatField()
    wait_s = serializers.FloatField(help_text="How long the hand rests before it.")


class BatchLineSerializer(TimedSerializer):
    first_pass = serializers.IntegerField()
    last_pass = serializers.IntegerField()


class BatchSerializer(serializers.Serializer):
    copies = serializers.IntegerField()
    lines = BatchLineSerializer(many=True)
    duration_s = serializers.FloatField()
    one_by_one_s = serializers.FloatField()
    pen_changes = serializers.IntegerField()
    one_by_one_changes = serializers.IntegerField()


class PassSerializer(TimedSerializer):
    number = serializers.IntegerField()
    region = serializers.IntegerField()
    name = serializers.CharField()
    medium = serializers.ChoiceField(choices=MEDIUM_CHOICES)
    coat = serializers.IntegerField(help_text="Which of the region's coats; accents from 10 on.")
    swatch = SwatchSerializer()
    zone = serializers.CharField()
    zones = serializers.ListField(child=serializers.IntegerField())
    join = serializers.ChoiceField(choices=[(join, join) for join in ("start", "wet", "dry", "any")])
    how = serializers.CharField()
    wait_for = serializers.CharField(allow_blank=True)
    change = serializers.BooleanField()


class StintSerializer(serializers.Serializer):
    """Neighbouring passes with one swatch, on one thing, laid in one way."""

    first_pass = serializers.IntegerField()
    last_pass = serializers.IntegerField()
    name = serializers.CharField()
    count = serializers.IntegerField(help_text="How many regions it is laid on.")
    hand = serializers.IntegerField(help_text="Stints of one hand are laid one after the other with one pen.")


class HandlingSerializer(TimedSerializer):
    """A mask or tape being laid, wiped or lifted."""

    kind = serializers.ChoiceField(choices=HANDLING_KINDS)
    name = serializers.CharField()
    how = serializers.CharField()
    before_pass = serializers.IntegerField()


class TouchStepSerializer(TimedSerializer):
    """A finishing touch; its time counts from the end of the colouring."""

    code = serializers.CharField()
    name = serializers.CharField()
    how = serializers.CharField()
    caution = serializers.CharField(allow_blank=True)


class MakingStepSerializer(serializers.Serializer):
    """A step of making the card, once the picture is coloured."""

    code = serializers.CharField()
    name = serializers.CharField()
    how = serializers.CharField()
    work_s = serializers.FloatField()
    wait_s = serializers.FloatField()


class WorkedOutSerializer(serializers.Serializer):
    """Another order than the one that is shown, in short."""

    pen_changes = serializers.IntegerField()
    duration_s = serializers.FloatField()


class PlanSerializer(serializers.Serializer):
    version = serializers.IntegerField(allow_null=True, help_text="The version that holds this order, if one does.")
    worked_out = WorkedOutSerializer(
        allow_null=True, help_text="The order as it is worked out now, where that is another one."
    )
    school = serializers.CharField()
    passes = PassSerializer(many=True)
    stints = StintSerializer(many=True, help_text="The passes as they are shown, in their order.")
    handling = HandlingSerializer(many=True, help_text="Masks, in their order.")
    timed_runs = serializers.IntegerField(help_text="How many logged runs the times come from; 0: common practice.")
    timed_passes = serializers.IntegerField(help_text="How many passes ticked off one by one they come from.")
    pace_doubt = serializers.FloatField(help_text="The pace's likely error as a share; 1: not known.")
    pen_changes = serializers.IntegerField()
    duration_s = serializers.FloatField()
    bound_s = serializers.FloatField()
    by_region_pen_changes = serializers.IntegerField()
    by_region_duration_s = serializers.FloatField()
    before = serializers.ListField(child=serializers.CharField(), help_text="What stays bare, before the first pass.")
    after = TouchStepSerializer(many=True, help_text="Finishing touches, in their order.")
    making = MakingStepSerializer(many=True, help_text="How the card is made then; empty while it has no sizes.")
    uncoloured = serializers.IntegerField(help_text="Regions that have no colours yet and are not left as paper.")
