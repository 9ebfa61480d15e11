"""Lists come in pages, and their order is total."""

from rest_framework.pagination import PageNumberPagination


class Pages(PageNumberPagination):
    page_size = 60
    page_size_query_param = "page_size"
    max_page_size = 200
