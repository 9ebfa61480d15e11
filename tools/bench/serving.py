"""The real server, as `./run` starts it, for as long as something is measured."""

from __future__ import annotations

import contextlib
import http.client
import os
import signal
import subprocess
import sys
import time
from pathlib import Path
from typing import Any

ROOT = Path(__file__).parents[2]
PORT, PATIENCE_S = 8765, 120.0


class Server:
    """`with Server() as server:`, on the database of this process."""

    address = f"http://127.0.0.1:{PORT}"

    def __enter__(self) -> Server:
        self.process = subprocess.Popen(
            [sys.executable, "-m", "server.serve", "--port", str(PORT)],
            cwd=ROOT, stdout=subprocess.DEVNULL, stderr=subprocess.DEVNULL, start_new_session=True,
            # Or the demo would be made beside what is measured.
            env={**os.environ, "PALETA_DEMO": "0"},
        )  # fmt: skip
        until = time.monotonic() + PATIENCE_S
        while time.monotonic() < until:
            with contextlib.suppress(OSError):
                self.ask("GET", "/api/v1/session/")
                return self
            time.sleep(0.3)
        raise RuntimeError("The server did not come up.")

    def __exit__(self, *_: object) -> None:
        self.process.terminate()
        self.process.wait()

    def kill(self) -> None:
        """End it and all that it has begun, at once."""
        os.killpg(self.process.pid, signal.SIGKILL)
        self.process.wait()

    def ask(
        self, method: str, path: str, body: bytes | None = None, headers: dict[str, Any] | None = None
    ) -> tuple[int, bytes]:
        """Status and body of an answer."""
        connection = http.client.HTTPConnection("127.0.0.1", PORT, timeout=PATIENCE_S)
        try:
            connection.request(method, path, body, headers or {})
            response = connection.getresponse()
            return response.status, response.read()
        finally:
            connection.close()

    def memory_gb(self) -> float:
        """What the serving process holds now."""
        status = Path(f"/proc/{self.process.pid}/status").read_text()
        return int(status.split("VmRSS:")[1].split()[0]) / 1e6
