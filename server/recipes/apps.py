from collections.abc import Iterator

from django.apps import AppConfig

from server.files.uses import FileUse, Scope, refers


class RecipesConfig(AppConfig):
    name = "server.recipes"

    def ready(self) -> None:
        refers(_files_referred_to)


def _files_referred_to(scope: Scope) -> Iterator[FileUse]:
    """Every file that a kept version needs."""
    from server.recipes.models import RecipeRecord

    kept = RecipeRecord.objects.filter(**scope.lookup("piece__owner_id", "piece_id"))
    named = kept.values_list("piece__owner_id", "piece_id", "impression_sha256", "regions_sha256")
    for owner, piece, *names in named.iterator():
        yield from (FileUse(owner, piece, name) for name in names)
