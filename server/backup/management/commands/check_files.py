"""`manage.py check_files`: proves that what counts for each account is what lies on disk, and names what is gone."""

from __future__ import annotations

from typing import Any

from django.contrib.auth import get_user_model
from django.core.management.base import BaseCommand

from server.backup.storage import missing_files
from server.files.sweep import unreferenced
from server.files.uses import Scope, bytes_of
from server.pieces.models import Piece
from server.pieces.quota import kept_bytes


class Command(BaseCommand):
    help = "Compare what is counted for each account with what lies on disk; ends with 1 where they differ."

    def handle(self, *args: Any, **options: Any) -> None:
        differ = 0
        for owner in get_user_model().objects.order_by("pk"):
            scope = Scope(owner_id=owner.pk)
            # A file of two pieces counts for both, as either may go.
            keys = Piece.objects.owned_by(owner).values_list("pk", flat=True)
            lies = sum(bytes_of(Scope(piece_id=pk)) for pk in keys) + bytes_of(Scope(owner_id=owner.pk, loose=True))
            counted, gone = kept_bytes(owner), missing_files(scope)
            differ += counted != lies
            self.stdout.write(
                f"{owner.get_username()}: {len(keys)} pieces, {lies:,} bytes lie there, {counted:,} are counted"
                f"{', DIFFERENT' if counted != lies else ''}, {sum(map(len, gone.values()))} files missing"
            )
        self.stdout.write(f"{len(unreferenced())} files that nobody refers to wait for housekeeping")
        if differ:
            raise SystemExit(1)
