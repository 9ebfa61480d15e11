"""`manage.py prepare`: bring the database up to date and load the demo, in one start of Python."""

from __future__ import annotations

import os
from typing import Any

from django.core.management import call_command
from django.core.management.base import BaseCommand


class Command(BaseCommand):
    help = "Migrate, and load the demo unless PALETA_DEMO=0."

    def handle(self, *args: Any, **options: Any) -> None:
        call_command("migrate", verbosity=0)
        if os.environ.get("PALETA_DEMO", "1") != "0":
            call_command("load_demo", stdout=self.stdout)
