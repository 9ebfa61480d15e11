from django.urls import path
from rest_framework.routers import SimpleRouter

from server.pieces.colour_views import GoToViewSet, stand_ins
from server.pieces.schools import SchoolViewSet
from server.pieces.trade import trade
from server.pieces.views import PieceViewSet

router = SimpleRouter()
router.register("pieces", PieceViewSet, basename="piece")
router.register("gotos", GoToViewSet, basename="goto")
router.register("schools", SchoolViewSet, basename="school")
urlpatterns = [path("trade/", trade, name="trade"), path("substitutes/", stand_ins, name="substitutes"), *router.urls]
