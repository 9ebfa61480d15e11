from django.db.models import QuerySet
from rest_framework import viewsets
from rest_framework.serializers import BaseSerializer

from server.drawers.models import Drawer
from server.drawers.serializers import DrawerDetailSerializer, DrawerSerializer


class DrawerViewSet(viewsets.ReadOnlyModelViewSet):
    """The drawers of whoever is signed in."""

    queryset = Drawer.objects.all()

    def get_queryset(self) -> QuerySet[Drawer]:
        drawers = Drawer.objects.owned_by(self.request.user).with_counts()
        return drawers.prefetch_related("swatches") if self.action == "retrieve" else drawers

    def get_serializer_class(self) -> type[BaseSerializer]:
        return DrawerDetailSerializer if self.action == "retrieve" else DrawerSerializer
