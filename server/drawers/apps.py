from django.apps import AppConfig


class DrawersConfig(AppConfig):
    name = "server.drawers"
