from django.urls import path
from rest_framework.routers import SimpleRouter

from server.pieces.colours.views import ColourViews, GoToViewSet, substitutes
from server.pieces.regions.views import RegionViews
from server.pieces.schools import SchoolViewSet
from server.pieces.sheet.views import SheetViews
from server.pieces.shelf.views import ShelfViews
from server.pieces.vocabulary import trade

router = SimpleRouter()
for name, views in (
    ("piece", ShelfViews),
    ("piece-sheet", SheetViews),
    ("piece-regions", RegionViews),
    ("piece-colours", ColourViews),
):
    router.register("pieces", views, basename=name)
router.register("gotos", GoToViewSet, basename="goto")
router.register("schools", SchoolViewSet, basename="school")
urlpatterns = [path("trade/", trade, name="trade"), path("substitutes/", substitutes, name="substitutes"), *router.urls]
