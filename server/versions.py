"""A change names the version it was made on, so that one tab never silently overwrites another."""

from __future__ import annotations

import re

from drf_spectacular.utils import OpenApiParameter
from rest_framework.request import Request

from server.problems import VersionMissing

IF_MATCH = OpenApiParameter(
    "If-Match",
    str,
    OpenApiParameter.HEADER,
    required=True,
    description='The version of the thing that the change was made on, in quotes: "7".',
)


def version_named(request: Request) -> int:
    """The version in If-Match.

    Raises
    ------
    VersionMissing
        If there is none.
    """
    found = re.fullmatch(r'"([0-9]{1,9})"', request.headers.get("If-Match", ""))
    if not found:
        raise VersionMissing
    return int(found[1])


def tag(version: int) -> dict[str, str]:
    """The header that tells the version."""
    return {"ETag": f'"{version}"'}
