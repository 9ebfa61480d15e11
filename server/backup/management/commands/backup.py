"""`manage.py backup NAME FILE`: everything of an account as one file."""

from __future__ import annotations

import os
from pathlib import Path
from typing import Any

from server.backup.management.account_command import AccountCommand
from server.backup.services import write_backup


class Command(AccountCommand):
    help = "Write everything of an account into one file."

    def handle(self, *args: Any, **options: Any) -> None:
        owner = self.owner(options["name"])
        place: Path = options["file"]
        half = place.with_name(f".{place.name}.half")
        with half.open("wb") as file:
            for chunk in write_backup(owner):
                file.write(chunk)
            file.flush()
            os.fsync(file.fileno())
        half.replace(place)
        self.stdout.write(f"{place}: {place.stat().st_size / 1e6:.1f} MB")
