from collections.abc import Iterator

from django.apps import AppConfig
from django.db.models import Q

from server.files.uses import FileUse, Scope, refers


class PiecesConfig(AppConfig):
    name = "server.pieces"

    def ready(self) -> None:
        refers(_files_referred_to)


def _files_referred_to(scope: Scope) -> Iterator[FileUse]:
    """Pictures and maps that pieces stand on; those of steps that could still be gone back to as well."""
    from server.pieces.models import Piece, Step

    # Only what is asked for leaves the database: sheets and steps are large, and this is counted at every change.
    pieces = Piece.objects.filter(**scope.lookup("owner_id", "pk"))
    named = ("impression_sha256", "regions_sha256", "current_sheet__regions__map_sha256")
    for owner, piece, *names in pieces.values_list("owner_id", "pk", *named).iterator():
        yield from (FileUse(owner, piece, name) for name in names)
    of_regions = Q(forward__has_key="regions") | Q(back__has_key="regions")
    steps = Step.objects.filter(of_regions, **scope.lookup("piece__owner_id", "piece_id")).exclude(forward={})
    patched = steps.values_list("piece__owner_id", "piece_id", "forward__regions", "back__regions")
    for owner, piece, *patches in patched.iterator():
        for one in (one for ones in patches for one in ones or ()):
            if one["path"] == "/map_sha256":
                yield FileUse(owner, piece, one.get("value", ""))
