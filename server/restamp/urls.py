from rest_framework.routers import SimpleRouter

from server.restamp.views import RestampViews

router = SimpleRouter()
router.register("pieces", RestampViews, basename="piece-restamp")
urlpatterns = router.urls
