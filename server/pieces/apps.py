from collections.abc import Iterator

from django.apps import AppConfig

from server.files.uses import FileUse, Scope, refers


class PiecesConfig(AppConfig):
    name = "server.pieces"

    def ready(self) -> None:
        refers(_files_referred_to)


def _files_referred_to(scope: Scope) -> Iterator[FileUse]:
    """Pictures and maps that pieces stand on; those of steps that could still be gone back to as well."""
    from server.pieces.models import Piece, Step

    pieces = Piece.objects.filter(**scope.lookup("owner_id", "pk"))
    for piece in pieces.only("owner_id", "impression_sha256", "regions_sha256", "current_sheet").iterator():
        now = piece.current_sheet["regions"]["map_sha256"]
        for name in (piece.impression_sha256, piece.regions_sha256, now):
            yield FileUse(piece.owner_id, piece.pk, name)
    steps = Step.objects.exclude(forward={}).filter(**scope.lookup("piece__owner_id", "piece_id"))
    for step in steps.select_related("piece").only("forward", "back", "piece__owner_id").iterator():
        for patches in (step.forward, step.back):
            for one in patches.get("regions", ()):
                if one["path"] == "/map_sha256":
                    yield FileUse(step.piece.owner_id, step.piece_id, one.get("value", ""))
