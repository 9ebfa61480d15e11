"""What both commands of the backup have in common."""

from __future__ import annotations

from pathlib import Path

from django.contrib.auth import get_user_model
from django.contrib.auth.models import User
from django.core.management.base import BaseCommand, CommandError, CommandParser


class AccountCommand(BaseCommand):
    """A command for one account and one file."""

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("name", help="of the account")
        parser.add_argument("file", type=Path)

    def owner(self, name: str) -> User:
        """The account of this name, or CommandError."""
        owner = get_user_model().objects.filter(username=name).first()
        if owner is None:
            raise CommandError(f"There is no account {name!r}. Open it first.")
        return owner
