"""The real server, as `./run` starts it: slow, silent and large requests hold up nobody."""

from __future__ import annotations

import contextlib
import http.client
import http.cookiejar
import json
import os
import re
import socket
import subprocess
import sys
import tempfile
import time
import urllib.error
import urllib.request
from functools import cache
from pathlib import Path
from typing import Any

from django.test import SimpleTestCase

from server.backup.archive import write_archive
from server.serve import CONNECTIONS, SILENT_S

ROOT = Path(__file__).parents[2]
HALF_SENT = b"POST /api/v1/session/ HTTP/1.1\r\nHost: 127.0.0.1\r\nContent-Length: 500\r\n\r\n{"
PATIENCE_S = 30.0


def free_port() -> int:
    with socket.socket() as one:
        one.bind(("127.0.0.1", 0))
        return one.getsockname()[1]


@cache
def prepared_database(root: Path) -> bytes:
    """An empty database, made once."""
    with tempfile.TemporaryDirectory() as folder:
        env = {**os.environ, "PALETA_VAR": folder, "PALETA_DEMO": "0", "DJANGO_SETTINGS_MODULE": "server.settings"}
        subprocess.run([sys.executable, "manage.py", "prepare"], cwd=root, env=env, check=True, capture_output=True)
        return (Path(folder) / "paleta.sqlite3").read_bytes()


class ServerTestCase(SimpleTestCase):
    """One server for all tests of a class, on an empty database of its own."""

    more_env: dict[str, str] = {}

    @classmethod
    def setUpClass(cls) -> None:
        super().setUpClass()
        cls.stack = contextlib.ExitStack()
        cls.folder = cls.stack.enter_context(tempfile.TemporaryDirectory())
        cls.port = free_port()
        env = {**os.environ, "PALETA_VAR": cls.folder, "PALETA_DEMO": "0", "DJANGO_SETTINGS_MODULE": "server.settings"}
        env |= cls.more_env
        database = Path(cls.folder) / "paleta.sqlite3"
        database.write_bytes(prepared_database(ROOT))
        database.chmod(0o600)
        command = [sys.executable, "-m", "server.serve", "--port", str(cls.port)]
        cls.server = subprocess.Popen(command, cwd=ROOT, env=env, stdout=subprocess.DEVNULL, stderr=subprocess.DEVNULL)
        cls.stack.callback(cls.server.wait)
        cls.stack.callback(cls.server.terminate)
        cls.wait_until_it_answers()

    @classmethod
    def tearDownClass(cls) -> None:
        cls.stack.close()
        super().tearDownClass()

    @classmethod
    def wait_until_it_answers(cls) -> None:
        until = time.monotonic() + PATIENCE_S
        while time.monotonic() < until:
            with contextlib.suppress(OSError):
                cls.ask("GET", "/api/v1/session/")
                return
            time.sleep(0.2)
        raise AssertionError("The server did not come up.")

    @classmethod
    def ask(cls, method: str, path: str, headers: dict[str, str] | None = None) -> tuple[int, str, bytes]:
        connection = http.client.HTTPConnection("127.0.0.1", cls.port, timeout=PATIENCE_S)
        try:
            connection.request(method, path, headers=headers or {})
            response = connection.getresponse()
            return response.status, response.headers.get("Content-Type", ""), response.read()
        finally:
            connection.close()


class Visitor:
    """Somebody's browser: what the server set is sent back, with the token that every change must carry."""

    def __init__(self, port: int) -> None:
        self.base = f"http://127.0.0.1:{port}/api/v1/"
        self.jar = http.cookiejar.CookieJar()
        self.opener = urllib.request.build_opener(urllib.request.HTTPCookieProcessor(self.jar))

    def ask(self, method: str, path: str, body: bytes | None = None, kind: str = "application/json") -> Any:
        """The answer's JSON, None where it has none; its status as `status`."""
        token = next((cookie.value for cookie in self.jar if cookie.name == "csrftoken"), None)
        headers = {"Content-Type": kind, "X-CSRFToken": token or ""}
        request = urllib.request.Request(self.base + path, body, headers, method=method)
        try:
            with self.opener.open(request, timeout=PATIENCE_S) as answer:
                self.status, said = answer.status, answer.read()
        except urllib.error.HTTPError as error:
            self.status, said = error.code, error.read()
        return json.loads(said) if said else None


class BehindAProxyTest(ServerTestCase):
    more_env = {"PALETA_HTTPS": "1"}

    def test_it_comes_up_and_believes_the_proxy_that_the_request_came_by_https(self):
        for headers, lasts in (({"X-Forwarded-Proto": "https"}, True), ({}, False)):
            connection = http.client.HTTPConnection("127.0.0.1", self.port, timeout=PATIENCE_S)
            with self.subTest(headers=headers), contextlib.closing(connection):
                connection.request("GET", "/api/v1/session/", headers=headers)
                answer = connection.getresponse()
                self.assertEqual((answer.status, "Strict-Transport-Security" in answer.headers), (200, lasts))


class ServingTest(ServerTestCase):
    def test_fifty_silent_and_fifty_half_sent_requests_hold_up_nobody(self):
        with contextlib.ExitStack() as open_ones:
            for number in range(100):
                one = open_ones.enter_context(socket.create_connection(("127.0.0.1", self.port), timeout=PATIENCE_S))
                if number % 2:
                    one.sendall(HALF_SENT)
            for _ in range(5):
                begun = time.monotonic()
                self.assertEqual(self.ask("GET", "/api/v1/session/")[0], 200)
                self.assertLess(time.monotonic() - begun, PATIENCE_S / 3)

    def test_more_silent_connections_than_the_server_holds_keep_nobody_out(self):
        with contextlib.ExitStack() as open_ones:
            for _ in range(CONNECTIONS + 100):
                open_ones.enter_context(socket.create_connection(("127.0.0.1", self.port), timeout=PATIENCE_S))
            begun = time.monotonic()
            self.assertEqual(self.ask("GET", "/api/v1/session/")[0], 200)
            self.assertLess(time.monotonic() - begun, SILENT_S / 3)

    def test_a_body_that_is_too_large_is_refused_by_what_it_says_of_itself(self):
        """Nothing of it is sent: an answer comes all the same."""
        with socket.create_connection(("127.0.0.1", self.port), timeout=PATIENCE_S) as one:
            one.sendall(b"POST /api/v1/pieces/ HTTP/1.1\r\nHost: 127.0.0.1\r\nContent-Length: 600000000\r\n\r\n")
            self.assertTrue(one.recv(100).startswith(b"HTTP/1.1 413"))

    def test_a_backup_is_restored_beside_the_server_and_a_bad_one_refused(self):
        drawer = {"number": 1, "name": "From a backup", "medium": "marker", "swatches": [], "charts": []}
        lines = [("drawers", iter([drawer]))]
        good = b"".join(write_archive(lines, open, username="eve", made_at="2026-01-01T00:00:00+00:00"))
        eve = Visitor(self.port)
        eve.ask("GET", "session/")
        eve.ask("POST", "accounts/", b'{"username": "eve", "password": "a-quiet-lantern"}')
        for data, state in ((good, "done"), (b"no zip", "refused")):
            at = f"restores/{eve.ask('POST', 'restores/')['code']}/"
            eve.ask("PUT", f"{at}part/?at=0", data, "application/octet-stream")
            told = eve.ask("POST", at)
            until = time.monotonic() + 4 * PATIENCE_S
            while told["state"] == "working" and time.monotonic() < until:
                time.sleep(0.3)
                told = eve.ask("GET", at)
            self.assertEqual(told["state"], state, told)
        names = [one["name"] for one in eve.ask("GET", "drawers/")["results"]]
        self.assertEqual(names.count("From a backup"), 1)

    def test_a_long_address_and_a_wrong_host_are_problem_documents(self):
        for path, headers, status in (
            (f"/api/v1/{'a' * 6000}", {}, 414),
            ("/api/v1/session/", {"Host": "elsewhere.example"}, 400),
        ):
            found, kind, body = self.ask("GET", path, headers)
            with self.subTest(status=status):
                self.assertEqual((found, kind), (status, "application/problem+json"))
                self.assertTrue(json.loads(body)["detail"])

    def test_the_database_and_all_else_is_for_its_owner_alone(self):
        checked = 0
        for place in Path(self.folder).rglob("*"):
            # SQLite's own helpers come and go while the server works.
            with self.subTest(place=place.name), contextlib.suppress(FileNotFoundError):
                self.assertEqual(place.stat().st_mode & 0o077, 0)
                checked += 1
        self.assertGreater(checked, 0)

    def test_scripts_go_out_packed_and_are_kept_for_good_and_the_first_page_is_small(self):
        page = self.answer("/").decode()
        scripts = re.findall(r'(?:src|href)="(/assets/[^"]+\.(?:js|css))"', page)
        self.assertTrue(scripts)
        sizes = []
        for path in scripts:
            connection = http.client.HTTPConnection("127.0.0.1", self.port, timeout=PATIENCE_S)
            connection.request("GET", path, headers={"Accept-Encoding": "gzip, br"})
            response = connection.getresponse()
            sizes.append(len(response.read()))
            connection.close()
            self.assertEqual(response.headers["Content-Encoding"], "br", path)
            self.assertIn("immutable", response.headers["Cache-Control"])
        self.assertLess(sum(sizes), 120_000)

    def answer(self, path: str) -> bytes:
        connection = http.client.HTTPConnection("127.0.0.1", self.port, timeout=PATIENCE_S)
        connection.request("GET", path)
        body = connection.getresponse().read()
        connection.close()
        return body
