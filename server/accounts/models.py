"""Which account is the demo's."""

from __future__ import annotations

from django.conf import settings
from django.db import models


class DemoAccount(models.Model):
    """The account that the demo button opens, named by whoever loaded the demo; at most one."""

    user = models.OneToOneField(settings.AUTH_USER_MODEL, on_delete=models.CASCADE, related_name="demo")

    def __str__(self) -> str:
        return str(self.user)
