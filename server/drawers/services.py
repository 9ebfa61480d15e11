"""What users do with drawers."""

from __future__ import annotations

from collections.abc import Sequence

from django.contrib.auth.models import AbstractBaseUser
from django.db import transaction

from paleta.media import Swatch
from server.drawers.models import Drawer, SwatchRecord
from server.drawers.starter import DRAWERS


@transaction.atomic
def add_drawer(*, owner: AbstractBaseUser, name: str, medium: str, swatches: Sequence[Swatch]) -> Drawer:
    """A new drawer with these swatches."""
    drawer = Drawer.objects.create(owner=owner, name=name, medium=medium)
    SwatchRecord.objects.bulk_create(
        SwatchRecord(
            drawer=drawer,
            code=swatch.code,
            name=swatch.name,
            family=swatch.family,
            lightness=swatch.lab[0],
            a=swatch.lab[1],
            b=swatch.lab[2],
            paper=swatch.paper.code,
        )
        for swatch in swatches
    )
    return drawer


def give_starter_drawers(*, owner: AbstractBaseUser) -> list[Drawer]:
    """The project's own three drawers, so that a new bench has something to choose from."""
    return [add_drawer(owner=owner, name=name, medium=medium, swatches=make()) for name, medium, make in DRAWERS]
