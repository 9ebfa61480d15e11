from collections.abc import Iterator

from django.apps import AppConfig


class PiecesConfig(AppConfig):
    name = "server.pieces"

    def ready(self) -> None:
        from server.files.sweep import refers

        refers(_files_referred_to)


def _files_referred_to() -> Iterator[str]:
    """Pictures and maps that pieces stand on; those of steps that could still be gone back to as well."""
    from server.pieces.models import Piece, Step

    for piece in Piece.objects.only("impression_sha256", "regions_sha256", "current_sheet").iterator():
        yield piece.impression_sha256
        yield piece.regions_sha256
        yield piece.current_sheet["regions"]["map_sha256"]
    for step in Step.objects.exclude(forward={}).iterator():
        for patches in (step.forward, step.back):
            for one in patches.get("regions", ()):
                if one["path"] == "/map_sha256":
                    yield one.get("value", "")
