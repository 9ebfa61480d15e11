from django.urls import path
from rest_framework.routers import SimpleRouter

from server.pieces.views import PieceViewSet, trade

router = SimpleRouter()
router.register("pieces", PieceViewSet, basename="piece")
urlpatterns = [path("trade/", trade, name="trade"), *router.urls]
