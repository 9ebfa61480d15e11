"""What other apps may act on."""

from django.dispatch import Signal

account_opened = Signal()
"""Sent with `user`, inside the transaction that makes the account."""

demo_visited = Signal()
"""Sent with `visit` and `demo`, inside a transaction, when a copy of the demo is made or the demo has got further."""
