"""`manage.py sweep_files`: remove pictures and maps that nothing refers to any more. The server does it by itself."""

from __future__ import annotations

from typing import Any

from django.core.management.base import BaseCommand

from server.files.sweep import sweep


class Command(BaseCommand):
    help = "Remove files of the media folder that nobody refers to and that are older than an hour."

    def handle(self, *args: Any, **options: Any) -> None:
        self.stdout.write(f"{sweep()} files removed")
