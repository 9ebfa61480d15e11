"""Shapes of runs."""

from __future__ import annotations

from rest_framework import serializers

from paleta.order import MOST_COPIES
from paleta.run import EVENTS
from server.drawers.models import MEDIUM_CHOICES
from server.drawers.serializers import SwatchSerializer
from server.pieces.order.serializers import (
    HandlingSerializer,
    MakingStepSerializer,
    PassSerializer,
    StintSerializer,
    TouchStepSerializer,
)
from server.runs.models import Run

EVENT_KINDS = [(kind, kind) for kind in EVENTS]
CHOICE_KINDS = [(kind, kind) for kind in ("pass", "lay", "wipe", "lift")]
DIFFERED_KINDS = [(kind, kind) for kind in ("pen", "extra coat", "slip", "left out", "note")]


class RunFormSerializer(serializers.Serializer):
    minutes = serializers.FloatField(min_value=0.5, max_value=1440, help_text="By the clock, waits included.")
    note = serializers.CharField(max_length=500, required=False, allow_blank=True, default="")


class RunSerializer(serializers.ModelSerializer):
    """A finished run, with its time."""

    seconds = serializers.FloatField()

    class Meta:
        model = Run
        fields = ["id", "made_at", "medium", "seconds", "planned_s", "note"]


class StartRunSerializer(serializers.Serializer):
    cards = serializers.IntegerField(min_value=1, max_value=MOST_COPIES, default=1)


class DifferedSerializer(serializers.Serializer):
    kind = serializers.ChoiceField(choices=DIFFERED_KINDS)
    sentence = serializers.CharField()
    lays = serializers.BooleanField()


class RunLineSerializer(serializers.Serializer):
    """A run in the logbook."""

    id = serializers.IntegerField()
    piece_id = serializers.IntegerField(allow_null=True)
    recipe_number = serializers.IntegerField(allow_null=True)
    title = serializers.CharField()
    medium = serializers.CharField()
    cards = serializers.IntegerField()
    made_at = serializers.DateTimeField()
    finished_at = serializers.DateTimeField(allow_null=True)
    seconds = serializers.FloatField(allow_null=True)
    planned_s = serializers.FloatField(allow_null=True)
    note = serializers.CharField()
    pens = serializers.ListField(child=serializers.CharField())
    differed = DifferedSerializer(many=True)
    photo = serializers.CharField(help_text="The SHA-256 of the newest photo, or nothing.")
    passes_laid = serializers.IntegerField()
    passes = serializers.IntegerField(help_text="Over all cards.")
    along = serializers.BooleanField(help_text="Logged pass by pass, not only by the clock.")
    open = serializers.BooleanField(help_text="Can be gone on with.")


class NeedSerializer(serializers.Serializer):
    region = serializers.IntegerField()
    coat = serializers.BooleanField(help_text="Dry enough for a coat over what is there, not only touch dry.")


class RunStepSerializer(PassSerializer):
    swatch = serializers.CharField()
    needs = NeedSerializer(many=True)
    within_s = serializers.FloatField(allow_null=True, help_text="It must follow the region's last pass so soon.")
    touch_dry_s = serializers.FloatField(help_text="Until what it leaves is touch dry.")
    coat_dry_s = serializers.FloatField(help_text="Until what it leaves is dry enough for a coat over it.")


class RunHandlingSerializer(HandlingSerializer):
    needs = NeedSerializer(many=True)


class StretchSerializer(serializers.Serializer):
    """A stretch of the plan that is done on every card before going on."""

    first_pass = serializers.IntegerField()
    last_pass = serializers.IntegerField()


class LaidOutSerializer(SwatchSerializer):
    medium = serializers.ChoiceField(choices=MEDIUM_CHOICES)
    running_low = serializers.BooleanField()


class RescueSerializer(serializers.Serializer):
    code = serializers.CharField()
    name = serializers.CharField()
    how = serializers.CharField()
    caution = serializers.CharField()
    media = serializers.ListField(child=serializers.ChoiceField(choices=MEDIUM_CHOICES))
    wets = serializers.BooleanField(help_text="Whether the paper is wet afterwards.")


class SlipSerializer(serializers.Serializer):
    code = serializers.CharField()
    name = serializers.CharField()
    rescues = RescueSerializer(many=True)


class StintTimeSerializer(serializers.Serializer):
    seconds = serializers.FloatField(allow_null=True)
    planned_s = serializers.FloatField()


class EventSerializer(serializers.Serializer):
    """A line of a run's log; which fields it has beside these depends on its kind (paleta/run/_events.py)."""

    kind = serializers.ChoiceField(choices=EVENT_KINDS)
    id = serializers.CharField()
    at_s = serializers.FloatField()
    plan = serializers.CharField()
    card = serializers.IntegerField()
    clock_s = serializers.FloatField(
        required=False, allow_null=True, help_text="What the clock of a device said that was far ahead of the server's."
    )
    passes = serializers.ListField(child=serializers.IntegerField(), required=False)
    step = serializers.IntegerField(required=False)
    cards = serializers.IntegerField(required=False)
    event = serializers.CharField(required=False)
    instead_of = serializers.CharField(required=False)
    code = serializers.CharField(required=False)
    name = serializers.CharField(required=False)
    hex = serializers.CharField(required=False)
    medium = serializers.CharField(required=False)
    slip = serializers.CharField(required=False)
    rescue = serializers.CharField(required=False)
    text = serializers.CharField(required=False)
    sha256 = serializers.CharField(required=False)
    from_plan = serializers.CharField(required=False)
    pairs = serializers.ListField(child=serializers.ListField(child=serializers.IntegerField()), required=False)


class MediumCautionSerializer(serializers.Serializer):
    code = serializers.CharField()
    caution = serializers.CharField(allow_blank=True)


class RunReadoutSerializer(RunLineSerializer):
    """All that colouring along needs, so that it goes on without the server."""

    recipe_id = serializers.IntegerField()
    newest_recipe = serializers.IntegerField(allow_null=True)
    plan = serializers.CharField()
    school = serializers.CharField()
    paper = serializers.CharField()
    width_px = serializers.IntegerField()
    height_px = serializers.IntegerField()
    steps = RunStepSerializer(many=True)
    stints = StintSerializer(many=True)
    handling = RunHandlingSerializer(many=True)
    lines = StretchSerializer(many=True)
    swatches = LaidOutSerializer(many=True, help_text="In the order of first use.")
    masked = serializers.BooleanField()
    taped = serializers.BooleanField()
    media = serializers.ListField(child=serializers.ChoiceField(choices=MEDIUM_CHOICES))
    cautions = MediumCautionSerializer(many=True)
    before = serializers.ListField(child=serializers.CharField())
    after = TouchStepSerializer(many=True)
    making = MakingStepSerializer(many=True)
    slips = SlipSerializer(many=True)
    stint_times = StintTimeSerializer(many=True, help_text="One for every stint.")
    log = EventSerializer(many=True)
    last = serializers.IntegerField(help_text="The number of the log's last line.")


class EventsFormSerializer(serializers.Serializer):
    events = serializers.ListField(
        child=serializers.JSONField(allow_null=True), help_text="Lines of the log, each with its own id."
    )
    seen = serializers.IntegerField(min_value=0, default=0, help_text="The number of the last line seen.")


class RefusedEventSerializer(serializers.Serializer):
    id = serializers.CharField()
    detail = serializers.CharField()


class SyncResultSerializer(serializers.Serializer):
    accepted = serializers.ListField(child=serializers.CharField())
    refused = RefusedEventSerializer(many=True)
    events = EventSerializer(many=True, help_text="Lines that were not seen yet, in their order.")
    last = serializers.IntegerField()


class RunPhotoSerializer(serializers.Serializer):
    photo = serializers.FileField(allow_empty_file=True)
    id = serializers.RegexField(r"^[0-9A-Za-z-]{8,40}$")
    at_s = serializers.FloatField(min_value=0, max_value=4e9)
    card = serializers.IntegerField(min_value=1, max_value=MOST_COPIES, default=1)
    text = serializers.CharField(max_length=200, required=False, allow_blank=True, default="")


class RunChoiceSerializer(serializers.Serializer):
    kind = serializers.ChoiceField(choices=CHOICE_KINDS)
    card = serializers.IntegerField()
    number = serializers.IntegerField()
    swatch = serializers.CharField()
    swatch_name = serializers.CharField()
    hex = serializers.CharField()
    name = serializers.CharField()
    against = serializers.ListField(child=serializers.CharField())
    window_s = serializers.FloatField(allow_null=True)


class MovingSerializer(serializers.Serializer):
    to_version = serializers.IntegerField()
    sentences = serializers.ListField(child=serializers.CharField())


class KeptVersionSerializer(serializers.Serializer):
    number = serializers.IntegerField()
    changes = serializers.ListField(child=serializers.CharField())
