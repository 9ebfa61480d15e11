from rest_framework.routers import SimpleRouter

from server.drawers.papers import PaperViewSet
from server.drawers.views import DrawerViewSet

router = SimpleRouter()
router.register("drawers", DrawerViewSet, basename="drawer")
router.register("papers", PaperViewSet, basename="paper")
urlpatterns = router.urls
