from rest_framework.routers import SimpleRouter

from server.photo_check.views import PhotoCheckViewSet, PiecePhotoViews

router = SimpleRouter()
router.register("photo-checks", PhotoCheckViewSet, basename="photo-check")
router.register("pieces", PiecePhotoViews, basename="piece-photo-checks")
urlpatterns = router.urls
