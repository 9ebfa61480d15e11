from rest_framework.routers import SimpleRouter

from server.repeats.views import CardCheckViewSet, PieceRepeatViews

router = SimpleRouter()
router.register("card-checks", CardCheckViewSet, basename="card-check")
router.register("pieces", PieceRepeatViews, basename="piece-repeats")
urlpatterns = router.urls
