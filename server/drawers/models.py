"""Drawers and the swatches in them."""

from __future__ import annotations

from django.conf import settings
from django.core.exceptions import ValidationError
from django.db import models
from django.db.models import Q

from paleta.materials import PAPERS, Paper
from paleta.media import FURTHER, MEASURED, MEDIA, Swatch, strengths_of
from server.ownership import OwnedQuerySet

MEDIUM_CHOICES = list(MEDIA.items())
MEASURED_CHOICES = list(MEASURED.items())
PAPER_CHOICES = [(paper.code, paper.name) for paper in PAPERS.values()]


class DrawerQuerySet(OwnedQuerySet["Drawer"]):
    def with_counts(self) -> DrawerQuerySet:
        return self.annotate(swatch_count=models.Count("swatches")).order_by("id")


class Drawer(models.Model):
    """`version` counts every change of it or its swatches, and guards against silent overwriting."""

    owner = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.CASCADE, related_name="drawers")
    name = models.CharField(max_length=80)
    # Without choices: another medium is no other table.
    medium = models.CharField(max_length=20)
    version = models.PositiveIntegerField(default=1)

    objects = DrawerQuerySet.as_manager()

    class Meta:
        ordering = ["id"]

    def __str__(self) -> str:
        return self.name

    def clean(self) -> None:
        if self.medium not in MEDIA:
            raise ValidationError({"medium": f"There is no medium {self.medium!r}."})

    def own(self) -> list[Swatch]:
        """Its swatches in their own order, at full strength, those aside that are no longer used."""
        return [record.as_core(self.medium) for record in self.swatches.all() if not record.retired]

    def shades(self) -> list[Swatch]:
        """Everything a ramp can be made of: each swatch at full strength, and weaker where its medium can be."""
        return [shade for swatch in self.own() for shade in strengths_of(swatch)]


class OwnPaper(models.Model):
    """A paper of the user's own. `code` stands in sheets, which hold the paper whole, and stays with it for good."""

    owner = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.CASCADE, related_name="papers")
    code = models.CharField(max_length=40)
    name = models.CharField(max_length=80)
    lab = models.JSONField()
    gsm = models.FloatField(default=0)
    kind = models.CharField(max_length=20, default="cover")
    surface = models.CharField(max_length=20, default="smooth")
    water = models.CharField(max_length=20, default="none")
    behaves = models.JSONField(default=list)
    dries = models.FloatField(default=1)

    objects = OwnedQuerySet["OwnPaper"].as_manager()

    class Meta:
        ordering = ["id"]
        constraints = [models.UniqueConstraint(fields=["owner", "code"], name="paper_code_once_per_owner")]

    def __str__(self) -> str:
        return self.name

    def as_core(self) -> Paper:
        return Paper(
            code=self.code,
            name=self.name,
            lab=tuple(self.lab),
            gsm=self.gsm,
            kind=self.kind,
            surface=self.surface,
            water=self.water,
            behaves=tuple(self.behaves),
            dries=self.dries,
        )


class SwatchRecord(models.Model):
    """One measured pen, paint or pencil. `code` is unique in its drawer.

    two_coats, diluted, light_pressure and firm_pressure are [L*, a*, b*] where they were measured, else None; opacity
    is None where it is as usual for the medium. A retired swatch stays in the drawer for old recipes but is offered for
    nothing new.
    """

    drawer = models.ForeignKey(Drawer, on_delete=models.CASCADE, related_name="swatches")
    code = models.CharField(max_length=40)
    name = models.CharField(max_length=80)
    family = models.CharField(max_length=40, blank=True)
    lightness = models.FloatField()
    a = models.FloatField()
    b = models.FloatField()
    paper = models.CharField(max_length=30, default="smooth-white")
    maker = models.CharField(max_length=40, blank=True)
    measured = models.CharField(max_length=10, choices=MEASURED_CHOICES, default="cap")
    two_coats = models.JSONField(null=True, blank=True)
    diluted = models.JSONField(null=True, blank=True)
    light_pressure = models.JSONField(null=True, blank=True)
    firm_pressure = models.JSONField(null=True, blank=True)
    opacity = models.FloatField(null=True, blank=True)
    running_low = models.BooleanField(default=False)
    retired = models.BooleanField(default=False)

    class Meta:
        ordering = ["id"]
        constraints = [
            models.UniqueConstraint(fields=["drawer", "code"], name="swatch_code_once_per_drawer"),
            models.CheckConstraint(condition=Q(lightness__gte=0, lightness__lte=100), name="swatch_lightness_0_to_100"),
            models.CheckConstraint(
                condition=Q(a__gte=-128, a__lte=128, b__gte=-128, b__lte=128), name="swatch_a_b_within_128"
            ),
            models.CheckConstraint(
                condition=Q(opacity__isnull=True) | Q(opacity__gte=0, opacity__lte=1), name="swatch_opacity_0_to_1"
            ),
        ]

    def __str__(self) -> str:
        return self.name

    def as_core(self, medium: str) -> Swatch:
        return Swatch(
            code=self.code,
            name=self.name,
            medium=medium,
            lab=(self.lightness, self.a, self.b),
            family=self.family,
            paper=PAPERS[self.paper],
            opacity=self.opacity,
            **{name: (value[0], value[1], value[2]) for name, value in self.further().items()},
        )

    def further(self) -> dict[str, list[float]]:
        """What was measured beside its one coat."""
        return {name: getattr(self, name) for name in FURTHER if getattr(self, name)}


class ChartRecord(models.Model):
    """A printed swatch chart: which swatches of a drawer stand on it, in order, and on which paper."""

    drawer = models.ForeignKey(Drawer, on_delete=models.CASCADE, related_name="charts")
    number = models.PositiveIntegerField()
    codes = models.JSONField()
    paper = models.CharField(max_length=30, default="smooth-white")

    class Meta:
        ordering = ["number"]
        constraints = [models.UniqueConstraint(fields=["drawer", "number"], name="chart_number_once_per_drawer")]

    def __str__(self) -> str:
        return f"{self.drawer}, chart {self.number}"
