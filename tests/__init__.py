"""All tests. Those with examples made by chance draw the same ones every time, and none is timed: machines stall."""

from hypothesis import HealthCheck, settings

settings.register_profile(
    "paleta",
    deadline=None,
    derandomize=True,
    suppress_health_check=[HealthCheck.too_slow, HealthCheck.data_too_large, HealthCheck.differing_executors],
)
settings.load_profile("paleta")
