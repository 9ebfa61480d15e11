from django.apps import AppConfig


class FilesConfig(AppConfig):
    name = "server.files"
