"""A piece: one stamped image with its recipe sheet, the steps that led there, and its frozen recipes."""

from __future__ import annotations

from django.conf import settings
from django.db import models
from django.db.models import Q

from paleta.media import Swatch
from paleta.order import OWN_PREFIX, School, school_from_plain
from paleta.recipe import Sheet, sheet_from_plain, swatch_from_plain
from server.ownership import Actor, owned_by


class PieceQuerySet(models.QuerySet["Piece"]):
    def owned_by(self, actor: Actor) -> PieceQuerySet:
        return owned_by(self, actor)  # type: ignore[return-value]

    def with_latest_recipe(self) -> PieceQuerySet:
        latest = RecipeRecord.objects.filter(piece=models.OuterRef("pk")).order_by("-number").values("number")[:1]
        return self.annotate(latest_recipe=models.Subquery(latest))


class GoToQuerySet(models.QuerySet["GoTo"]):
    def owned_by(self, actor: Actor) -> GoToQuerySet:
        return owned_by(self, actor)  # type: ignore[return-value]


class OwnSchoolQuerySet(models.QuerySet["OwnSchool"]):
    def owned_by(self, actor: Actor) -> OwnSchoolQuerySet:
        return owned_by(self, actor)  # type: ignore[return-value]


class Piece(models.Model):
    """`version` counts every change and guards against silent overwriting; `position` is the step shown now.

    Title, medium and lamp are copies of what the current step's sheet says, for the shelf.
    """

    owner = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.CASCADE, related_name="pieces")
    title = models.CharField(max_length=120)
    medium = models.CharField(max_length=20)
    lamp_azimuth_deg = models.FloatField()
    lamp_elevation_deg = models.FloatField()
    pen_count = models.PositiveIntegerField(default=0)
    region_count = models.PositiveIntegerField(default=0)
    coloured_count = models.PositiveIntegerField(default=0)
    impression_sha256 = models.CharField(max_length=64)
    regions_sha256 = models.CharField(max_length=64)
    width_px = models.PositiveIntegerField()
    height_px = models.PositiveIntegerField()
    dpi = models.FloatField()
    warnings = models.JSONField(default=list)
    version = models.PositiveIntegerField(default=1)
    position = models.PositiveIntegerField(default=0)
    created_at = models.DateTimeField(auto_now_add=True)
    changed_at = models.DateTimeField(auto_now=True)

    objects = PieceQuerySet.as_manager()

    class Meta:
        ordering = ["-changed_at", "-id"]
        indexes = [models.Index(fields=["owner", "-changed_at", "-id"], name="piece_shelf_order")]
        constraints = [
            models.CheckConstraint(
                condition=Q(lamp_elevation_deg__gte=0, lamp_elevation_deg__lte=90), name="piece_lamp_elevation_0_to_90"
            ),
            models.CheckConstraint(
                condition=Q(lamp_azimuth_deg__gte=0, lamp_azimuth_deg__lte=360), name="piece_lamp_azimuth_0_to_360"
            ),
            models.CheckConstraint(condition=Q(dpi__gt=0), name="piece_dpi_above_0"),
        ]

    def __str__(self) -> str:
        return self.title

    def sheet(self) -> Sheet:
        """The recipe sheet as it stands now."""
        return sheet_from_plain(self.steps.get(number=self.position).sheet)


class GoTo(models.Model):
    """A saved, named ramp. `swatches` are paleta.recipe's plain swatches, palest first, so it outlives its drawer."""

    owner = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.CASCADE, related_name="gotos")
    name = models.CharField(max_length=60)
    medium = models.CharField(max_length=20)
    tags = models.JSONField(default=list)
    swatches = models.JSONField()

    objects = GoToQuerySet.as_manager()

    class Meta:
        ordering = ["name", "id"]

    def __str__(self) -> str:
        return self.name

    def as_core(self) -> list[Swatch]:
        return [swatch_from_plain(plain) for plain in self.swatches]


class OwnSchool(models.Model):
    """A school of shade order that a user wrote; `body` is paleta.order.school_to_plain without its code."""

    owner = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.CASCADE, related_name="schools")
    body = models.JSONField()

    objects = OwnSchoolQuerySet.as_manager()

    class Meta:
        ordering = ["id"]

    def __str__(self) -> str:
        return str(self.body.get("name", ""))

    def as_core(self) -> School:
        return school_from_plain(self.body, code=f"{OWN_PREFIX}{self.pk}")


class Step(models.Model):
    """One change to a piece: what was done, and the whole sheet after it."""

    piece = models.ForeignKey(Piece, on_delete=models.CASCADE, related_name="steps")
    number = models.PositiveIntegerField()
    what = models.CharField(max_length=200)
    sheet = models.JSONField()

    class Meta:
        ordering = ["number"]
        constraints = [models.UniqueConstraint(fields=["piece", "number"], name="step_number_once_per_piece")]

    def __str__(self) -> str:
        return self.what


class RecipeRecord(models.Model):
    """A frozen recipe. `body` is the recipe file without its pictures, which lie in the media folder."""

    piece = models.ForeignKey(Piece, on_delete=models.CASCADE, related_name="recipes")
    number = models.PositiveIntegerField()
    body = models.TextField()
    sheet_sha256 = models.CharField(max_length=64)
    saved_at = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ["number"]
        constraints = [models.UniqueConstraint(fields=["piece", "number"], name="recipe_number_once_per_piece")]

    def __str__(self) -> str:
        return f"{self.piece} version {self.number}"
