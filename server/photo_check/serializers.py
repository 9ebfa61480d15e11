"""Shapes of photo checks and of stamping again."""

from __future__ import annotations

from rest_framework import serializers

from paleta.devices import HAND_KINDS, HOME_LIGHTS
from paleta.photo_check import FAULT_KINDS
from server.dataclass_serializers import at_most
from server.drawers.models import MEASURED_CHOICES
from server.drawers.serializers import LabField
from server.pieces.shelf.serializers import CornersField

MOST_HAND_FAULTS = 40


class PhotoCheckFormSerializer(serializers.Serializer):
    photo = serializers.FileField(allow_empty_file=True)
    corners = CornersField(required=False, binary=True)
    run = serializers.IntegerField(required=False, help_text="Whose card it is; its recipe is what it is held against.")
    card = serializers.IntegerField(min_value=1, max_value=99, default=1)


class HandFaultSerializer(serializers.Serializer):
    kind = serializers.ChoiceField(choices=[(kind, kind) for kind in HAND_KINDS if kind != "pen"])
    label = serializers.IntegerField(min_value=1)
    size = serializers.FloatField(min_value=1, max_value=40, default=8)


class SimulatedFormSerializer(serializers.Serializer):
    """What the simulated hand and camera are asked for."""

    light = serializers.ChoiceField(choices=[(name, name) for name in HOME_LIGHTS], default="easy")
    faults = HandFaultSerializer(many=True, required=False, default=list, **at_most(MOST_HAND_FAULTS))
    seed = serializers.IntegerField(min_value=1, max_value=1_000_000, default=1)


class WayOutSerializer(serializers.Serializer):
    name = serializers.CharField()
    how = serializers.CharField()
    caution = serializers.CharField()


class FaultSerializer(serializers.Serializer):
    """Something that is not as planned; regions by label, the largest first."""

    place = serializers.IntegerField()
    kind = serializers.ChoiceField(choices=list(FAULT_KINDS.items()))
    name = serializers.CharField(help_text="The kind in words.")
    regions = serializers.ListField(child=serializers.IntegerField())
    size = serializers.FloatField(help_text="CIEDE2000; of a colour run over its line, mm.")
    sentence = serializers.CharField()
    plan_hex = serializers.CharField(allow_blank=True)
    seen_hex = serializers.CharField(allow_blank=True)
    next_time = serializers.CharField()
    rescues = WayOutSerializer(many=True)
    slight = serializers.BooleanField(help_text="A matter of how a hand varies, and no finding.")
    fine = serializers.BooleanField()


class ThingOffSerializer(serializers.Serializer):
    name = serializers.CharField()
    size = serializers.FloatField(help_text="CIEDE2000, the mean over its regions.")
    plan_hex = serializers.CharField()
    seen_hex = serializers.CharField()
    clock = serializers.CharField(allow_blank=True, help_text="Where its shades say that the light stood.")
    doubt_deg = serializers.FloatField(allow_null=True)


class PhotoCheckLineSerializer(serializers.Serializer):
    """A photo check in a list."""

    id = serializers.IntegerField()
    piece_id = serializers.IntegerField()
    recipe_number = serializers.IntegerField()
    run_id = serializers.IntegerField(allow_null=True)
    card = serializers.IntegerField()
    made_at = serializers.DateTimeField()
    simulated = serializers.BooleanField()
    verdict = serializers.CharField()
    things = ThingOffSerializer(many=True)


class PhotoCheckSerializer(PhotoCheckLineSerializer):
    """A photo check as a whole, beside the plan or beside `against`, another one."""

    title = serializers.CharField()
    width_px = serializers.IntegerField()
    height_px = serializers.IntegerField()
    against = serializers.IntegerField(allow_null=True)
    laid = serializers.FloatField()
    faults = FaultSerializer(many=True)
    notes = serializers.ListField(child=serializers.CharField())
    unseen = serializers.ListField(child=serializers.CharField(), help_text="Names of what could not be seen.")
    lamp_clock = serializers.CharField()
    clock = serializers.CharField(allow_blank=True, help_text="Where the whole card's shades say the light stood.")
    doubt_deg = serializers.FloatField(allow_null=True)
    others = PhotoCheckLineSerializer(many=True)


class FineSerializer(serializers.Serializer):
    place = serializers.IntegerField(min_value=0)
    fine = serializers.BooleanField(default=True)


class MeasuredSerializer(serializers.Serializer):
    """A swatch that comes out otherwise on own cards than its values say."""

    swatch = serializers.IntegerField()
    drawer = serializers.IntegerField()
    drawer_version = serializers.IntegerField()
    name = serializers.CharField()
    old = LabField()
    new = LabField()
    old_hex = serializers.CharField()
    new_hex = serializers.CharField()
    old_measured = serializers.ChoiceField(choices=MEASURED_CHOICES)
    cards = serializers.IntegerField()
    size = serializers.FloatField()
    spread = serializers.FloatField()


class TakeMeasuredSerializer(serializers.Serializer):
    swatch = serializers.IntegerField()
    lab = LabField()
    measured = serializers.ChoiceField(choices=MEASURED_CHOICES)


class TakenSerializer(serializers.Serializer):
    drawer_version = serializers.IntegerField(help_text="To put the old value back on.")
