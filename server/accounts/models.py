"""Which account is the demo's."""

from __future__ import annotations

from django.conf import settings
from django.db import models


class DemoAccount(models.Model):
    """The account that the demo button opens, named by whoever loaded the demo; at most one. `to_come`: how many pieces
    are still being made for its shelf."""

    user = models.OneToOneField(settings.AUTH_USER_MODEL, on_delete=models.CASCADE, related_name="demo")
    to_come = models.PositiveSmallIntegerField(default=0)

    def __str__(self) -> str:
        return str(self.user)
