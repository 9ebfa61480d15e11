from django.apps import AppConfig


class RecipesConfig(AppConfig):
    name = "server.recipes"

    def ready(self) -> None:
        from server.files.sweep import refers
        from server.recipes.services import files_referred_to

        refers(files_referred_to)
