"""Frozen recipes."""

from __future__ import annotations

from django.db import models

from server.ownership import Actor
from server.pieces.models import Piece


class RecipeQuerySet(models.QuerySet["RecipeRecord"]):
    def owned_by(self, actor: Actor) -> RecipeQuerySet:
        return self.filter(piece__owner_id=actor.pk) if actor.pk else self.none()


class RecipeRecord(models.Model):
    """A frozen recipe. `body` is the recipe file without its pictures, which lie in the media folder under the two
    hashes; `previous` and `changes` say what it changed, and since when, as it was kept."""

    piece = models.ForeignKey(Piece, on_delete=models.CASCADE, related_name="recipes")
    number = models.PositiveIntegerField()
    body = models.TextField()
    sheet_sha256 = models.CharField(max_length=64)
    impression_sha256 = models.CharField(max_length=64)
    regions_sha256 = models.CharField(max_length=64)
    previous = models.PositiveIntegerField(null=True)
    changes = models.JSONField(default=list)
    saved_at = models.DateTimeField(auto_now_add=True)

    objects = RecipeQuerySet.as_manager()

    class Meta:
        ordering = ["number"]
        constraints = [models.UniqueConstraint(fields=["piece", "number"], name="recipe_number_once_per_piece")]

    def __str__(self) -> str:
        return f"{self.piece} version {self.number}"
