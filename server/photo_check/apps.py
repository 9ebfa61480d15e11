from collections.abc import Iterator

from django.apps import AppConfig

from server.files.uses import FileUse, Scope, refers


class PhotoCheckConfig(AppConfig):
    name = "server.photo_check"

    def ready(self) -> None:
        refers(_files_referred_to)


def _files_referred_to(scope: Scope) -> Iterator[FileUse]:
    """Every photo that was checked, as it was and laid flat."""
    from server.photo_check.models import PhotoCheck

    checks = PhotoCheck.objects.filter(**scope.lookup("owner_id", "piece_id"))
    for owner, piece, *names in checks.values_list("owner_id", "piece_id", "photo_sha256", "flat_sha256").iterator():
        yield from (FileUse(owner, piece, name) for name in names)
