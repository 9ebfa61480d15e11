"""A run: one physical making of a card, with the time it took."""

from __future__ import annotations

from django.conf import settings
from django.db import models
from django.db.models import Q

from paleta.order import Timed
from server.ownership import OwnedQuerySet


class Run(models.Model):
    """What the plan asked for is copied, so that the times still teach when the piece is changed or gone.

    Until the plan is worked out, `sheet` is what it is to be worked out for, and `passes` and its neighbours are None.
    """

    owner = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.CASCADE, related_name="runs")
    piece = models.ForeignKey("pieces.Piece", on_delete=models.SET_NULL, null=True, related_name="runs")
    medium = models.CharField(max_length=20)
    made_at = models.DateTimeField(auto_now_add=True)
    seconds = models.FloatField()
    planned_s = models.FloatField(null=True)
    passes = models.PositiveIntegerField(null=True)
    area_mm2 = models.FloatField(null=True)
    changes = models.PositiveIntegerField(null=True)
    waits_s = models.FloatField(null=True)
    handling_s = models.FloatField(null=True)
    note = models.CharField(max_length=500, blank=True)
    sheet = models.JSONField(null=True)

    objects = OwnedQuerySet["Run"].as_manager()

    class Meta:
        ordering = ["-made_at", "-id"]
        indexes = [models.Index(fields=["owner", "medium", "-made_at"], name="run_pace_order")]
        constraints = [
            models.CheckConstraint(
                condition=Q(seconds__gt=0) & (Q(passes__gt=0) | Q(passes__isnull=True)), name="run_took_time"
            )
        ]

    def __str__(self) -> str:
        return f"{self.medium}, {self.seconds:.0f} s"

    def as_core(self) -> Timed:
        """The run as it teaches; only once its plan is known."""
        return Timed(self.seconds, self.passes, self.area_mm2, self.changes, self.waits_s, self.handling_s)
