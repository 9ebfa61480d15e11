from rest_framework.routers import SimpleRouter

from server.printing.views import PageViews

router = SimpleRouter()
router.register("pieces", PageViews, basename="piece-page")
urlpatterns = router.urls
