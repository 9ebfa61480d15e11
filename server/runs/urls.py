from rest_framework.routers import SimpleRouter

from server.runs.views import PieceRunViews, RunViewSet

router = SimpleRouter()
router.register("runs", RunViewSet, basename="run")
router.register("pieces", PieceRunViews, basename="piece-runs")
urlpatterns = router.urls
