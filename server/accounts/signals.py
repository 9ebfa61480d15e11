"""What other apps may act on."""

from django.dispatch import Signal

account_opened = Signal()
"""Sent with `user`, inside the transaction that makes the account."""
