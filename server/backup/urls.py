from django.urls import path

from server.backup.views import BackupView, PartView, RestoresView, RestoreView

urlpatterns = [
    path("backup/", BackupView.as_view(), name="backup"),
    path("restores/", RestoresView.as_view(), name="restores"),
    path("restores/<slug:code>/", RestoreView.as_view(), name="restore"),
    path("restores/<slug:code>/part/", PartView.as_view(), name="restore-part"),
]
