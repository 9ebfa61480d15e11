from django.urls import path

from server.backup.views import BackupView, PartView, RestoresView, RestoreView, StorageView

urlpatterns = [
    path("backup/", BackupView.as_view(), name="backup"),
    path("storage/", StorageView.as_view(), name="storage"),
    path("restores/", RestoresView.as_view(), name="restores"),
    path("restores/<slug:code>/", RestoreView.as_view(), name="restore"),
    path("restores/<slug:code>/part/", PartView.as_view(), name="restore-part"),
]
