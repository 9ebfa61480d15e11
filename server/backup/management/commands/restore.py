"""`manage.py restore NAME FILE`: bring a backup back into an account."""

from __future__ import annotations

from pathlib import Path
from typing import Any

from django.contrib.auth import get_user_model
from django.core.management.base import BaseCommand, CommandError, CommandParser

from server.backup.services import restore_backup
from server.problems import Refused


class Command(BaseCommand):
    help = "Bring everything in a backup back into an account; what is there already stays as it is."

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("name", help="of the account")
        parser.add_argument("file", type=Path)

    def handle(self, *args: Any, **options: Any) -> None:
        owner = get_user_model().objects.filter(username=options["name"]).first()
        if owner is None:
            raise CommandError(f"There is no account {options['name']!r}. Open it first.")
        if not options["file"].is_file():
            raise CommandError(f"There is no file {options['file']}.")
        try:
            restored = restore_backup(owner=owner, path=options["file"])
        except Refused as refused:
            raise CommandError(str(refused.detail)) from refused
        for name in sorted({*restored.made, *restored.known}):
            back, there = restored.made.get(name, 0), restored.known.get(name, 0)
            self.stdout.write(f"{name}: {back} brought back, {there} there already")
