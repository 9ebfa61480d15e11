from django.apps import AppConfig


class DemoConfig(AppConfig):
    name = "demo"

    def ready(self) -> None:
        from demo.visits import bring_up
        from server.accounts.signals import demo_visited

        demo_visited.connect(bring_up)
