from django.apps import AppConfig


class PiecesConfig(AppConfig):
    name = "server.pieces"
