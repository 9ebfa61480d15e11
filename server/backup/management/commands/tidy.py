"""`manage.py tidy`: remove what lies in `var/` and serves nobody any more. The server does it by itself, soon after its
start and once a day."""

from __future__ import annotations

from typing import Any

from django.core.management.base import BaseCommand

from server.backup.tidy import tidy


class Command(BaseCommand):
    help = "Remove what serves nobody any more: pictures, broken-off restores, sessions, visitors' copies of the demo."

    def handle(self, *args: Any, **options: Any) -> None:
        done = tidy(by_the_server=False)
        self.stdout.write(
            f"{done.pictures} pictures, {done.restores} files of restores, {done.sessions} sessions and {done.visits} "
            "copies of the demo removed; "
            f"the database is {done.database_bytes / 1e6:.1f} MB smaller"
        )
