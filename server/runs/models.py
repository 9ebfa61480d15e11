"""A run: one physical making of a card, with the time it took."""

from __future__ import annotations

from django.conf import settings
from django.db import models
from django.db.models import Q

from paleta.order import Timed
from server.ownership import Actor, owned_by


class RunQuerySet(models.QuerySet["Run"]):
    def owned_by(self, actor: Actor) -> RunQuerySet:
        return owned_by(self, actor)  # type: ignore[return-value]


class Run(models.Model):
    """What the plan asked for is copied, so that the times still teach when the piece is changed or gone."""

    owner = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.CASCADE, related_name="runs")
    piece = models.ForeignKey("pieces.Piece", on_delete=models.SET_NULL, null=True, related_name="runs")
    medium = models.CharField(max_length=20)
    made_at = models.DateTimeField(auto_now_add=True)
    seconds = models.FloatField()
    planned_s = models.FloatField()
    passes = models.PositiveIntegerField()
    area_mm2 = models.FloatField()
    changes = models.PositiveIntegerField()
    waits_s = models.FloatField()
    handling_s = models.FloatField(default=0)
    note = models.CharField(max_length=500, blank=True)

    objects = RunQuerySet.as_manager()

    class Meta:
        ordering = ["-made_at", "-id"]
        indexes = [models.Index(fields=["owner", "medium", "-made_at"], name="run_pace_order")]
        constraints = [models.CheckConstraint(condition=Q(seconds__gt=0, passes__gt=0), name="run_took_time")]

    def __str__(self) -> str:
        return f"{self.medium}, {self.seconds:.0f} s"

    def as_core(self) -> Timed:
        return Timed(self.seconds, self.passes, self.area_mm2, self.changes, self.waits_s, self.handling_s)
