from typing import Any

from django.apps import AppConfig


class DrawersConfig(AppConfig):
    name = "server.drawers"

    def ready(self) -> None:
        from server.accounts.signals import account_opened

        account_opened.connect(_give_starter_drawers, dispatch_uid="starter drawers")


def _give_starter_drawers(user: Any, **_: object) -> None:
    """A new bench has something to choose from."""
    from server.drawers.services import give_starter_drawers

    give_starter_drawers(owner=user)
