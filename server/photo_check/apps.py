from collections.abc import Iterator

from django.apps import AppConfig


class PhotoCheckConfig(AppConfig):
    name = "server.photo_check"

    def ready(self) -> None:
        from server.files.sweep import refers

        refers(_files_referred_to)


def _files_referred_to() -> Iterator[str]:
    """Every photo that was checked, as it was and laid flat."""
    from server.photo_check.models import PhotoCheck

    for names in PhotoCheck.objects.values_list("photo_sha256", "flat_sha256").iterator():
        yield from names
