"""A piece: one stamped image with its recipe sheet and the steps that led there; go-tos and own schools."""

from __future__ import annotations

from django.conf import settings
from django.db import models
from django.db.models import Q

from paleta.media import Swatch
from paleta.order import OWN_PREFIX, School, school_from_plain
from paleta.recipe import Sheet, sheet_from_plain, swatch_from_plain
from server.derived.maps import Stamping
from server.derived.memory import memory
from server.ownership import OwnedQuerySet


class Piece(models.Model):
    """`version` counts every change and guards against silent overwriting; `position` is the step shown now.

    current_sheet is what paleta.recipe.sheet_to_plain gave. Title, medium, lamp and counts are copies of what it says,
    for the shelf; so are latest_recipe and latest_sheet_sha256 of the newest kept version (None: there is none yet).
    left_as_is names lines of the value guard that are meant so and no longer told.
    """

    owner = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.CASCADE, related_name="pieces")
    title = models.CharField(max_length=120)
    medium = models.CharField(max_length=20)
    lamp_azimuth_deg = models.FloatField()
    lamp_elevation_deg = models.FloatField()
    pen_count = models.PositiveIntegerField(default=0)
    region_count = models.PositiveIntegerField(default=0)
    coloured_count = models.PositiveIntegerField(default=0)
    has_card = models.BooleanField(default=False)
    impression_sha256 = models.CharField(max_length=64)
    regions_sha256 = models.CharField(max_length=64)
    width_px = models.PositiveIntegerField()
    height_px = models.PositiveIntegerField()
    dpi = models.FloatField()
    stored_bytes = models.PositiveIntegerField(default=0)
    warnings = models.JSONField(default=list)
    left_as_is = models.JSONField(default=list, blank=True)
    current_sheet = models.JSONField()
    latest_recipe = models.PositiveIntegerField(null=True)
    latest_sheet_sha256 = models.CharField(max_length=64, blank=True, default="")
    version = models.PositiveIntegerField(default=1)
    position = models.PositiveIntegerField(default=0)
    created_at = models.DateTimeField(auto_now_add=True)
    changed_at = models.DateTimeField(auto_now=True)

    objects = OwnedQuerySet["Piece"].as_manager()

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
        """The recipe sheet as it stands now; looked up, or fetched, where it did not come with the piece."""
        if "current_sheet" in self.get_deferred_fields():
            known = memory.peek(self._sheet_key)
            # Both together: a sheet fetched on its own could be a newer one than this version's.
            return known if isinstance(known, Sheet) else Piece.objects.get(pk=self.pk).sheet()
        return memory.get(self._sheet_key, lambda: sheet_from_plain(self.current_sheet))

    def remember(self, sheet: Sheet) -> None:
        """`sheet` is what the plain one that was just saved was made from: it need not be read again."""
        memory.get(self._sheet_key, lambda: sheet)

    @property
    def _sheet_key(self) -> tuple[object, ...]:
        return ("sheet", self.pk, self.version, self.changed_at)

    @property
    def stamping(self) -> Stamping:
        """The picture and map that the sheet stands on."""
        return Stamping(self.impression_sha256, self.regions_sha256, self.width_px, self.height_px, self.dpi)


class Step(models.Model):
    """One change to a piece: what was done, and for each part of the sheet that it changed the JSON patches ([RFC6902])
    there and back."""

    piece = models.ForeignKey(Piece, on_delete=models.CASCADE, related_name="steps")
    number = models.PositiveIntegerField()
    what = models.CharField(max_length=200)
    forward = models.JSONField(default=dict)
    back = models.JSONField(default=dict)

    class Meta:
        ordering = ["number"]
        constraints = [models.UniqueConstraint(fields=["piece", "number"], name="step_number_once_per_piece")]

    def __str__(self) -> str:
        return self.what


class GoTo(models.Model):
    """A saved, named ramp. `swatches` are paleta.recipe's plain swatches, palest first, so it outlives its drawer."""

    owner = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.CASCADE, related_name="gotos")
    name = models.CharField(max_length=60)
    medium = models.CharField(max_length=20)
    tags = models.JSONField(default=list)
    swatches = models.JSONField()

    objects = OwnedQuerySet["GoTo"].as_manager()

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

    objects = OwnedQuerySet["OwnSchool"].as_manager()

    class Meta:
        ordering = ["id"]

    def __str__(self) -> str:
        return str(self.body.get("name", ""))

    def as_core(self) -> School:
        return school_from_plain(self.body, code=f"{OWN_PREFIX}{self.pk}")
