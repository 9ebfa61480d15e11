"""What a password must be beside what Django asks."""

from __future__ import annotations

from typing import Any

from django.core.exceptions import ValidationError

FEWEST_DIFFERENT = 4


class NotMonotonous:
    """Refuses passwords of blanks, or of one or two characters again and again."""

    def validate(self, password: str, user: Any = None) -> None:
        if len(set(password.strip())) < FEWEST_DIFFERENT:
            raise ValidationError(self.get_help_text(), code="password_monotonous")

    def get_help_text(self) -> str:
        return f"The password needs at least {FEWEST_DIFFERENT} different characters."


class NotTheName:
    """Refuses the account's own name, however it is spelled."""

    def validate(self, password: str, user: Any = None) -> None:
        name = user.get_username() if user is not None else ""
        if name and password.strip().casefold() == name.casefold():
            raise ValidationError(self.get_help_text(), code="password_is_name")

    def get_help_text(self) -> str:
        return "The password must not be the name."
