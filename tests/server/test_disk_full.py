"""A disk without room: what is there is shown, signing in works, and what would be lost is said."""

from __future__ import annotations

import contextlib
import errno
import json
import sqlite3
import subprocess
import tempfile
import unittest
from collections import namedtuple
from pathlib import Path
from unittest.mock import patch

from django.db import IntegrityError, OperationalError
from django.test import SimpleTestCase, override_settings

from server.derived import disk
from server.files import spare
from tests.server.test_serving import ServerTestCase, Visitor

Usage = namedtuple("Usage", "total used free")
FULL = OperationalError("database or disk is full")


class SpareRoomTest(SimpleTestCase):
    def setUp(self):
        folder = self.enterContext(tempfile.TemporaryDirectory())
        self.enterContext(override_settings(VAR_DIR=folder))
        self.place = Path(folder) / "spare"

    def test_what_failed_for_want_of_room_is_done_again_in_some_of_the_spare(self):
        spare.fill()
        self.assertEqual(self.place.stat().st_size, spare.SPARE_BYTES)
        tries = iter([FULL, None])

        def work() -> str:
            if (error := next(tries)) is not None:
                raise error
            return "signed in"

        self.assertEqual(spare.with_spare(work), "signed in")
        self.assertEqual(self.place.stat().st_size, spare.SPARE_BYTES - spare.GIVEN_BYTES)
        spare.fill()
        self.assertEqual(self.place.stat().st_size, spare.SPARE_BYTES)

    def test_without_spare_room_or_for_another_reason_nothing_is_done_again(self):
        for error, filled in ((FULL, False), (IntegrityError("twice"), True), (OSError(errno.EACCES, "no"), True)):
            done = []

            def work(error=error, done=done):
                done.append(1)
                raise error

            if filled:
                spare.fill()
            with self.subTest(error=error), self.assertRaises(type(error)):
                spare.with_spare(work)
            self.assertEqual(len(done), 1)

    def test_a_disk_that_is_nearly_full_is_not_filled_by_the_spare(self):
        with patch("shutil.disk_usage", return_value=Usage(10**9, 10**9, spare.SPARE_BYTES)):
            spare.fill()
        self.assertFalse(self.place.exists())

    def test_whatever_words_the_database_finds_for_it(self):
        odd = sqlite3.OperationalError("disk I/O error")
        self.assertFalse(spare.is_full(odd))
        with patch("shutil.disk_usage", return_value=Usage(10**9, 10**9, 4096)):
            self.assertTrue(spare.is_full(odd))
            self.assertFalse(spare.is_full(ValueError("no number")))
        self.assertTrue(spare.is_full(OSError(errno.ENOSPC, "full")))

    def test_a_store_that_cannot_even_note_a_reading_makes_its_bytes_again(self):
        with patch.object(disk, "_cache", side_effect=sqlite3.OperationalError("disk I/O error")):
            self.assertIsNone(disk.peek("picture", "one"))
            self.assertEqual(disk.kept("picture", "one", lambda: b"made"), b"made")


class FullDiskTest(ServerTestCase):
    """The real server on a small disk of its own, which only root can make."""

    @classmethod
    def setUpClass(cls) -> None:
        small = tempfile.mkdtemp()
        cls.addClassCleanup(Path(small).rmdir)
        mounted = ["mount", "-t", "tmpfs", "-o", "size=40m", "tmpfs", small]
        if subprocess.run(mounted, check=False, capture_output=True).returncode:
            raise unittest.SkipTest("Nothing can be mounted here.")
        cls.addClassCleanup(subprocess.run, ["umount", "--lazy", small], check=True)
        cls.enterClassContext(patch("tempfile.tempdir", small))
        super().setUpClass()

    def setUp(self):
        self.visitor = Visitor(self.port)

    def call(self, method: str, path: str, **body: str) -> int:
        self.said = self.visitor.ask(method, path, json.dumps(body).encode() if body else None)
        return self.visitor.status

    def test_reading_and_signing_in_go_on_and_a_change_is_refused_with_the_reason(self):
        ana = {"username": "ana", "password": "a-quiet-lantern"}
        self.call("GET", "session/")
        self.assertEqual(self.call("POST", "accounts/", **ana), 201)
        with contextlib.suppress(OSError), (Path(self.folder) / "all-the-rest").open("wb", buffering=0) as rest:
            while True:
                rest.write(b"x" * 4096)
        drawer = {"name": "One more" * 10, "medium": "marker"}
        for _ in range(2):
            for path in ("session/", "pieces/", "drawers/", "runs/"):
                with self.subTest(path=path):
                    self.assertEqual(self.call("GET", path), 200)
            # The database's log has room for some more changes, until it must grow.
            self.assertIn(507, (self.call("POST", "drawers/", **drawer) for _ in range(150)))
            self.assertIn("The disk is full", self.said["detail"])
            self.assertEqual(self.call("DELETE", "session/"), 204)
            self.assertEqual(self.call("GET", "drawers/"), 401)
            self.assertEqual(self.call("POST", "session/", **ana), 200)
        (Path(self.folder) / "all-the-rest").unlink()
        self.assertEqual(self.call("PUT", "accounts/password/", old=ana["password"], new="another-quiet-word"), 204)
