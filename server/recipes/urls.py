from rest_framework.routers import SimpleRouter

from server.recipes.order_views import OrderViews
from server.recipes.views import RecipeViews

router = SimpleRouter()
router.register("pieces", OrderViews, basename="piece-order")
router.register("pieces", RecipeViews, basename="piece-recipes")
urlpatterns = router.urls
