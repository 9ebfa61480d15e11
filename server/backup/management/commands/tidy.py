"""`manage.py tidy`: remove what lies in `var/` and serves nobody any more. The server does it by itself, soon after its
start and once a day."""

from __future__ import annotations

from typing import Any

from django.core.management.base import BaseCommand

from server.backup.tidy import tidy


class Command(BaseCommand):
    help = "Remove pictures nobody refers to, broken-off restores, ended sessions, and the empty part of the database."

    def handle(self, *args: Any, **options: Any) -> None:
        done = tidy(by_the_server=False)
        self.stdout.write(
            f"{done.pictures} pictures, {done.restores} files of restores and {done.sessions} sessions removed; "
            f"the database is {done.database_bytes / 1e6:.1f} MB smaller"
        )
