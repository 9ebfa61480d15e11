"""`manage.py backup NAME FILE`: everything of an account as one file."""

from __future__ import annotations

import os
from pathlib import Path
from typing import Any

from django.contrib.auth import get_user_model
from django.core.management.base import BaseCommand, CommandError, CommandParser

from server.backup.services import write_backup


class Command(BaseCommand):
    help = "Write everything of an account into one file."

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("name", help="of the account")
        parser.add_argument("file", type=Path)

    def handle(self, *args: Any, **options: Any) -> None:
        owner = get_user_model().objects.filter(username=options["name"]).first()
        if owner is None:
            raise CommandError(f"There is no account {options['name']!r}.")
        place: Path = options["file"]
        half = place.with_name(f".{place.name}.half")
        with half.open("wb") as file:
            for chunk in write_backup(owner):
                file.write(chunk)
            file.flush()
            os.fsync(file.fileno())
        half.replace(place)
        self.stdout.write(f"{place}: {place.stat().st_size / 1e6:.1f} MB")
