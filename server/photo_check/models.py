"""A photo check: one photo of a finished card held against the recipe it was made along."""

from __future__ import annotations

from django.conf import settings
from django.db import models
from django.db.models import Q

from paleta.photo_check import RegionReading, reading_from_plain
from server.ownership import OwnedQuerySet


class PhotoCheckQuerySet(OwnedQuerySet["PhotoCheck"]):
    def as_lines(self) -> PhotoCheckQuerySet:
        """With what a line of a list needs and no more."""
        return self.select_related("recipe").defer("readings", "faults", "recipe__body")


class PhotoCheck(models.Model):
    """`readings` are paleta.photo_check's plain readings of every region that was seen, `faults` plain faults against
    the plan; `fine` the places in `faults` of what was seen and let be. light and lights are (azimuth, doubt) in
    degrees, things what follows for the strip, as it is told.
    photo and flat are files: as it was taken, and laid flat on the plan with its light taken out. `simulated`: the
    stand-in for a camera took it."""

    owner = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.CASCADE, related_name="photo_checks")
    piece = models.ForeignKey("pieces.Piece", on_delete=models.CASCADE, related_name="photo_checks")
    recipe = models.ForeignKey("recipes.RecipeRecord", on_delete=models.CASCADE, related_name="photo_checks")
    run = models.ForeignKey("runs.Run", on_delete=models.SET_NULL, null=True, related_name="photo_checks")
    card = models.PositiveIntegerField(default=1)
    made_at = models.DateTimeField(auto_now_add=True)
    simulated = models.BooleanField(default=False)
    photo_sha256 = models.CharField(max_length=64)
    flat_sha256 = models.CharField(max_length=64)
    verdict = models.CharField(max_length=400)
    laid = models.FloatField()
    readings = models.JSONField()
    faults = models.JSONField(default=list)
    fine = models.JSONField(default=list)
    unseen = models.JSONField(default=list)
    notes = models.JSONField(default=list)
    light = models.JSONField(null=True)
    lights = models.JSONField(default=dict)
    things = models.JSONField(default=list)

    objects = PhotoCheckQuerySet.as_manager()

    class Meta:
        ordering = ["-made_at", "-id"]
        indexes = [models.Index(fields=["owner", "piece", "-made_at"], name="card_check_order")]
        constraints = [
            models.CheckConstraint(condition=Q(card__gte=1), name="card_check_card_from_1"),
            models.CheckConstraint(condition=Q(laid__gte=0, laid__lte=1), name="card_check_laid_0_to_1"),
        ]

    def __str__(self) -> str:
        return self.verdict

    def as_core(self) -> dict[int, RegionReading]:
        """The readings by label."""
        return {one["label"]: reading_from_plain(one) for one in self.readings}
