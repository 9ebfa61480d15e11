from collections.abc import Iterator

from django.apps import AppConfig


class RunsConfig(AppConfig):
    name = "server.runs"

    def ready(self) -> None:
        from server.files.sweep import refers
        from server.pieces.pace import register_pace_source
        from server.pieces.quota import register_kept_bytes
        from server.runs.services import pace_learnt, photos_without_a_piece

        register_pace_source(pace_learnt)
        register_kept_bytes(photos_without_a_piece)
        refers(_files_referred_to)


def _files_referred_to() -> Iterator[str]:
    """Every photo of a run."""
    from paleta.run import Photographed
    from server.runs.models import RunEvent

    photos = RunEvent.objects.filter(body__kind=Photographed.kind)
    yield from photos.values_list("body__sha256", flat=True).iterator()
