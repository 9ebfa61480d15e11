from collections.abc import Iterator

from django.apps import AppConfig

from server.files.uses import FileUse, Scope, refers


class RunsConfig(AppConfig):
    name = "server.runs"

    def ready(self) -> None:
        from server.pieces.pace import register_pace_source
        from server.runs.services import pace_learnt

        register_pace_source(pace_learnt)
        refers(_files_referred_to)


def _files_referred_to(scope: Scope) -> Iterator[FileUse]:
    """Every photo of a run."""
    from paleta.run import Photographed
    from server.runs.models import RunEvent

    photos = RunEvent.objects.filter(body__kind=Photographed.kind, **scope.lookup("run__owner_id", "run__piece_id"))
    for use in photos.values_list("run__owner_id", "run__piece_id", "body__sha256").iterator():
        yield FileUse(*use)
