from rest_framework.routers import SimpleRouter

from server.runs.views import RunViewSet

router = SimpleRouter()
router.register("runs", RunViewSet, basename="run")
urlpatterns = router.urls
