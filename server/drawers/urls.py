from rest_framework.routers import SimpleRouter

from server.drawers.views import DrawerViewSet

router = SimpleRouter()
router.register("drawers", DrawerViewSet, basename="drawer")
urlpatterns = router.urls
