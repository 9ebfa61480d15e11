from django.apps import AppConfig


class RunsConfig(AppConfig):
    name = "server.runs"

    def ready(self) -> None:
        from server.pieces.pace import hand_in
        from server.runs.services import pace_learnt

        hand_in(pace_learnt)
