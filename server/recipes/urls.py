from rest_framework.routers import SimpleRouter

from server.recipes.views import RecipeViews

router = SimpleRouter()
router.register("pieces", RecipeViews, basename="piece-recipes")
urlpatterns = router.urls
