"""Which account is the demo's, and which are copies of it."""

from __future__ import annotations

from django.conf import settings
from django.db import models


class DemoAccount(models.Model):
    """The account that the demo is made in, named by whoever loaded it; at most one. Nobody works in it: visitors get
    copies. `to_come`: how many steps of its making are still to come."""

    user = models.OneToOneField(settings.AUTH_USER_MODEL, on_delete=models.CASCADE, related_name="demo")
    to_come = models.PositiveSmallIntegerField(default=0)

    def __str__(self) -> str:
        return str(self.user)


class DemoVisit(models.Model):
    """A visitor's copy of the demo. `to_come`: how much of the demo was still to be made when the copy was last brought
    up to it; `copied`: by section of a backup, which row of the copy each line of the demo became."""

    user = models.OneToOneField(settings.AUTH_USER_MODEL, on_delete=models.CASCADE, related_name="visit")
    used_at = models.DateTimeField(db_index=True)
    to_come = models.PositiveSmallIntegerField(null=True)
    copied = models.JSONField(default=dict)

    def __str__(self) -> str:
        return str(self.user)
