"""`manage.py restore NAME FILE`: bring a backup back into an account."""

from __future__ import annotations

from typing import Any

from django.core.management.base import CommandError

from server.backup.management.account_command import AccountCommand
from server.backup.services import restore_backup
from server.problems import Refused


class Command(AccountCommand):
    help = "Bring everything in a backup back into an account; what is there already stays as it is."

    def handle(self, *args: Any, **options: Any) -> None:
        owner = self.owner(options["name"])
        if not options["file"].is_file():
            raise CommandError(f"There is no file {options['file']}.")
        try:
            restored = restore_backup(owner=owner, path=options["file"])
        except Refused as refused:
            raise CommandError(str(refused.detail)) from refused
        for name in sorted({*restored.made, *restored.known}):
            back, there = restored.made.get(name, 0), restored.known.get(name, 0)
            self.stdout.write(f"{name}: {back} brought back, {there} there already")
