from rest_framework.routers import SimpleRouter

from server.cards.views import CardViews

router = SimpleRouter()
router.register("pieces", CardViews, basename="piece-card")
urlpatterns = router.urls
