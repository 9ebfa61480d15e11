"""Is this card like that one, and the same stamp again."""

from paleta.repeat._register import NotTheSameStamp, Registration, register

__all__ = ["NotTheSameStamp", "Registration", "register"]
