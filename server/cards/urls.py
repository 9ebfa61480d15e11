from rest_framework.routers import SimpleRouter

from server.cards.views import CardViews, PageViews

router = SimpleRouter()
router.register("pieces", CardViews, basename="piece-card")
router.register("pieces", PageViews, basename="piece-page")
urlpatterns = router.urls
