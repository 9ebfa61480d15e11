from django.urls import path

from server.derived.views import QueueView

urlpatterns = [path("queue/", QueueView.as_view(), name="queue")]
