"""Every address of the server: the API under /api/v1/, the page for everything else."""

from django.urls import include, path, re_path

from server import problems, web

APPS = (
    "accounts", "drawers", "pieces", "recipes", "cards", "runs", "photo_check", "restamp", "printing", "backup",
    "derived",
)  # fmt: skip
urlpatterns = [
    *(path("api/v1/", include(f"server.{app}.urls")) for app in APPS),
    re_path(r"^api/", problems.no_such_address),
    re_path(r"^(?!static/|assets/).*$", web.page),
]
handler400 = "server.problems.unreadable"
handler403 = "server.problems.forbidden"
handler404 = "server.problems.no_such_address"
handler500 = "server.problems.broken"
