"""`manage.py restore_apart OWNER FILE`: what the server starts to restore a backup beside itself. Lines of JSON on the
standard output say how far it is, and at the end what came of it."""

from __future__ import annotations

import json
import time
from pathlib import Path
from typing import Any

from django.contrib.auth import get_user_model
from django.core.management.base import BaseCommand, CommandParser

from server.backup.services import restore_backup
from server.problems import Refused

TOLD_EVERY_S = 0.2


class Command(BaseCommand):
    help = "Restore a backup for the server; people use `restore`."

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("owner_id", type=int)
        parser.add_argument("file", type=Path)

    def handle(self, *args: Any, **options: Any) -> None:
        told_s = 0.0

        def progress(words: str, done: int, total: int) -> None:
            nonlocal told_s
            if time.monotonic() - told_s > TOLD_EVERY_S:
                told_s = time.monotonic()
                self.tell(words=words, done=done, total=total)

        owner = get_user_model().objects.get(pk=options["owner_id"])
        try:
            found = restore_backup(owner=owner, path=options["file"], progress=progress)
        except Refused as refused:
            self.tell(state="refused", words=str(refused.detail))
        else:
            words = "Everything is back."
            self.tell(state="done", words=words, made=found.made, known=found.known, left_out=found.left_out)

    def tell(self, **what: Any) -> None:
        self.stdout.write(json.dumps(what))
        self.stdout.flush()
