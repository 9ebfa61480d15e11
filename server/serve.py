"""Serving Paleta on this machine: `python -m server.serve --port 8000`.

The server takes requests whole before a thread is given to them, so that slow or half-sent ones hold up nobody. It is
one process, so that its memory of reliefs and plans is shared; heavy work goes to processes of its own.
"""

from __future__ import annotations

import argparse
import atexit
import contextlib
import ctypes
import logging
import os
import subprocess
import sys
import threading
from pathlib import Path
from typing import Any

THREADS = 12
CONNECTIONS = 1000
SILENT_S = 60
"""A connection on which nothing comes for so long is closed."""
LOADING_NICE = 10
TIDY_AFTER_S, TIDY_EVERY_S = 60.0, 86_400.0
"""Housekeeping waits until the first pages are served."""
ARENAS, MAPPED_BYTES, KEPT_BYTES = 2, 4_000_000, 48_000_000
"""Memory that threads free goes back to the machine: glibc keeps a heap for every few threads otherwise, and what is
freed in them stays there. Pictures larger than MAPPED_BYTES are mapped one by one and handed back whole; a heap keeps
KEPT_BYTES at its end, or every picture of a moving lamp would ask the machine for its pages anew (a fifth of its
time, measured)."""
M_TRIM_THRESHOLD, M_MMAP_THRESHOLD, M_ARENA_MAX = -1, -3, -8


def main() -> None:
    parser = argparse.ArgumentParser(description="Serve Paleta.")
    parser.add_argument("--host", default="127.0.0.1")
    parser.add_argument("--port", type=int, default=8000)
    options = parser.parse_args()
    os.environ.setdefault("DJANGO_SETTINGS_MODULE", "server.settings")
    _be_thrifty()

    from django.conf import settings
    from django.db import connection
    from waitress import serve
    from waitress.server import TcpWSGIServer

    from server.files import spare
    from server.sockets import BoundedChannel
    from server.wsgi import application

    # One connection stays open as long as the server runs: whoever opens the first one needs room on the disk, and
    # those after it need none.
    spare.with_spare(connection.introspection.table_names)
    spare.fill()
    threading.Thread(target=_tidy_now_and_daily, daemon=True).start()
    threading.Thread(target=_warm_up, daemon=True).start()
    if os.environ.get("PALETA_DEMO", "1") != "0":
        _fill_the_demos_shelf()
    TcpWSGIServer.channel_class = BoundedChannel
    serve(
        application,
        host=options.host,
        port=options.port,
        threads=THREADS,
        connection_limit=CONNECTIONS,
        channel_timeout=SILENT_S,
        cleanup_interval=15,
        # One request ahead is read, which shows whether the client has hung up.
        channel_request_lookahead=1,
        max_request_body_size=settings.LARGEST_REQUEST_BYTES + 1_000_000,
        max_request_header_size=32_768,
        inbuf_overflow=2_000_000,
        ident=None,
        clear_untrusted_proxy_headers=True,
        **_of_the_proxy(settings.TRUSTED_PROXY),
    )


def _of_the_proxy(address: str | None) -> dict[str, Any]:
    """What the server is told of the web server in front; without one nobody's word is taken."""
    if address is None:
        return {}
    return {
        "trusted_proxy": address,
        "trusted_proxy_count": 1,
        "trusted_proxy_headers": {"x-forwarded-for", "x-forwarded-proto"},
    }


def _be_thrifty() -> None:
    """Before there are threads; where there is no glibc, nothing is asked of it."""
    with contextlib.suppress(OSError, AttributeError):
        libc = ctypes.CDLL("libc.so.6")
        libc.mallopt(M_ARENA_MAX, ARENAS)
        libc.mallopt(M_MMAP_THRESHOLD, MAPPED_BYTES)
        libc.mallopt(M_TRIM_THRESHOLD, KEPT_BYTES)


def _fill_the_demos_shelf() -> None:
    """The demo takes minutes to draw, scan and colour: in a process of its own, beside the server and at a lower rank.
    It ends with the server, and the next start makes what is missing."""
    command = [sys.executable, str(Path(__file__).parent.parent / "manage.py"), "load_demo"]
    loading = subprocess.Popen(command)
    os.setpriority(os.PRIO_PROCESS, loading.pid, LOADING_NICE)
    atexit.register(loading.terminate)


def _tidy_now_and_daily() -> None:
    from django.db import connections

    from server.backup.tidy import tidy

    wait, after_s = threading.Event(), TIDY_AFTER_S
    while not wait.wait(after_s):
        try:
            tidy(by_the_server=True)
        except Exception:
            logging.getLogger(__name__).exception("Housekeeping failed; it is tried again tomorrow.")
        finally:
            connections.close_all()
        after_s = TIDY_EVERY_S


def _warm_up() -> None:
    from paleta import impression, light, order
    from server.derived.worker import warm_up as warm_up_workers

    warm_up_workers()
    for part in (impression, light, order):
        part.warm_up()


if __name__ == "__main__":
    main()
