from collections.abc import Iterator

from django.apps import AppConfig


class RepeatsConfig(AppConfig):
    name = "server.repeats"

    def ready(self) -> None:
        from server.files.sweep import refers

        refers(_files_referred_to)


def _files_referred_to() -> Iterator[str]:
    """Every photo that was checked, as it was and laid flat."""
    from server.repeats.models import CardCheck

    for names in CardCheck.objects.values_list("photo_sha256", "flat_sha256").iterator():
        yield from names
