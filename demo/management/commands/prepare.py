"""`manage.py prepare`: bring the database up to date and open the demo's account, in one start of Python."""

from __future__ import annotations

import os
from typing import Any

from django.core.management import call_command
from django.core.management.base import BaseCommand

from demo.management.commands.load_demo import open_account


class Command(BaseCommand):
    help = "Migrate, and open the demo's account unless PALETA_DEMO=0; its shelf is filled once the server runs."

    def handle(self, *args: Any, **options: Any) -> None:
        call_command("migrate", verbosity=0)
        if os.environ.get("PALETA_DEMO", "1") != "0":
            open_account()
