"""How many connections one address may hold open."""

from __future__ import annotations

import socket
from typing import Any

from django.conf import settings
from waitress.channel import HTTPChannel

MOST_FROM_ADDRESS = 100
"""A browser opens six at a time; a household or a class behind one address stays below."""


class BoundedChannel(HTTPChannel):  # type: ignore[misc]
    """A connection; a further one from an address that holds many closes that which was silent longest, so that
    whoever sits behind the same address still gets in. The proxy's are all its visitors' and are not counted."""

    def __init__(self, server: Any, sock: socket.socket, addr: Any, adj: Any, map: Any = None) -> None:
        if addr[0] != settings.TRUSTED_PROXY:
            theirs = [one for one in server.active_channels.values() if one.addr[0] == addr[0]]
            idle = [one for one in theirs if not one.requests]
            if len(theirs) >= MOST_FROM_ADDRESS and idle:
                min(idle, key=lambda one: one.last_activity).handle_close()
        super().__init__(server, sock, addr, adj, map=map)
