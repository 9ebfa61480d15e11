"""A run: one physical making of a recipe, on one card or several, and the lines of its log."""

from __future__ import annotations

from django.conf import settings
from django.db import models
from django.db.models import Q

from paleta.order import Pace, Timed
from paleta.run import Event, event_from_plain
from server.ownership import OwnedQuerySet


class Run(models.Model):
    """A run that is logged pass by pass follows a frozen recipe; one that was only noted by the clock has none.

    What the plan asked for (of one card) is copied, so that the times still teach when the piece is changed or gone.
    Until the plan of a noted run is worked out, `sheet` is what it is to be worked out for, and `passes` and its
    neighbours are None. `seconds` is None until the run is finished. `medium` is that of most regions; a run in several
    is `mixed`, and its clock teaches no pace. `pace` (by medium) and `lines` are those the order of work was laid out
    with: (first, last) passes done on every card before going on. What follows from the log is copied for the
    logbook: how many passes are laid, the pens, what differed, the times between ticks by medium, the newest photo.
    """

    owner = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.CASCADE, related_name="runs")
    piece = models.ForeignKey("pieces.Piece", on_delete=models.SET_NULL, null=True, related_name="runs")
    recipe = models.ForeignKey("recipes.RecipeRecord", on_delete=models.SET_NULL, null=True, related_name="runs")
    recipe_number = models.PositiveIntegerField(null=True)
    title = models.CharField(max_length=120, blank=True)
    medium = models.CharField(max_length=20)
    cards = models.PositiveIntegerField(default=1)
    made_at = models.DateTimeField(auto_now_add=True)
    finished_at = models.DateTimeField(null=True)
    seconds = models.FloatField(null=True)
    planned_s = models.FloatField(null=True)
    passes = models.PositiveIntegerField(null=True)
    area_mm2 = models.FloatField(null=True)
    changes = models.PositiveIntegerField(null=True)
    waits_s = models.FloatField(null=True)
    handling_s = models.FloatField(null=True)
    note = models.CharField(max_length=500, blank=True)
    sheet = models.JSONField(null=True)
    mixed = models.BooleanField(default=False)
    pace = models.JSONField(null=True)
    lines = models.JSONField(default=list)
    events_count = models.PositiveIntegerField(default=0)
    passes_laid = models.PositiveIntegerField(default=0)
    pens = models.JSONField(default=list)
    pens_text = models.TextField(blank=True)
    differed = models.JSONField(default=list)
    times = models.JSONField(default=dict)
    photo = models.CharField(max_length=64, blank=True)

    objects = OwnedQuerySet["Run"].as_manager()

    class Meta:
        ordering = ["-made_at", "-id"]
        indexes = [
            models.Index(fields=["owner", "medium", "-made_at"], name="run_pace_order"),
            models.Index(fields=["owner", "-made_at", "-id"], name="run_logbook_order"),
        ]
        constraints = [
            models.CheckConstraint(
                condition=(Q(seconds__gt=0) | Q(seconds__isnull=True)) & (Q(passes__gt=0) | Q(passes__isnull=True)),
                name="run_took_time",
            )
        ]

    def __str__(self) -> str:
        return f"{self.title or self.medium}, {self.made_at:%Y-%m-%d}"

    @property
    def left_out(self) -> bool:
        """Whether it was called finished before all was laid: its clock says nothing of the whole plan."""
        return self.events_count > 0 and self.passes_laid < (self.passes or 0) * self.cards

    def as_core(self) -> Timed:
        """The run as it teaches.

        Raises
        ------
        ValueError
            If it is not finished, or what the plan asked of it is not worked out yet.
        """
        passes, area_mm2, changes = self.passes, self.area_mm2, self.changes
        if self.seconds is None or passes is None or area_mm2 is None or changes is None or self.waits_s is None:
            raise ValueError(f"Run {self.pk} is not finished, or its plan is not known yet.")
        cards, handling_s = self.cards, self.handling_s or 0.0
        return Timed(self.seconds, passes * cards, area_mm2 * cards, changes * cards, self.waits_s, handling_s * cards)

    def paces_used(self) -> dict[str, Pace]:
        """By medium."""
        return {medium: Pace(**pace) for medium, pace in (self.pace or {}).items()}


class RunEvent(models.Model):
    """One line of a run's log: `body` is paleta.run's plain event, `number` the order in which it was received."""

    run = models.ForeignKey(Run, on_delete=models.CASCADE, related_name="events")
    number = models.PositiveIntegerField()
    client_id = models.CharField(max_length=40)
    body = models.JSONField()

    class Meta:
        ordering = ["number"]
        constraints = [
            models.UniqueConstraint(fields=["run", "client_id"], name="event_once_per_run"),
            models.UniqueConstraint(fields=["run", "number"], name="event_number_once_per_run"),
        ]

    def __str__(self) -> str:
        return f"{self.number}: {self.body.get('kind')}"

    def as_core(self) -> Event:
        return event_from_plain(self.body)
