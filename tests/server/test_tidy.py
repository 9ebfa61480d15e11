"""Housekeeping: files of restores that were broken off, sessions that ended, a database full of holes."""

from __future__ import annotations

import os
import time
from datetime import timedelta
from io import StringIO
from pathlib import Path
from tempfile import TemporaryDirectory
from unittest.mock import patch

from django.contrib.sessions.models import Session
from django.core.management import call_command
from django.db import connection
from django.test import TestCase, TransactionTestCase
from django.utils import timezone

from server.backup import jobs
from server.backup.tidy import tidy
from tests.server.builders import make_user


class RestoresTest(TestCase):
    def setUp(self):
        self.folder = Path(self.enterContext(TemporaryDirectory()))
        self.enterContext(self.settings(RESTORE_ROOT=self.folder))

    def test_files_of_a_server_that_was_killed_go_and_those_under_way_stay(self):
        (self.folder / "0123456789abcdef.zip").write_bytes(b"x" * 1000)
        under_way = jobs.begin(make_user("ana").pk)
        self.addCleanup(jobs._jobs.pop, under_way.code)
        self.assertEqual(tidy(by_the_server=True).restores, 1)
        self.assertEqual([*self.folder.iterdir()], [under_way.path])

    def test_beside_a_server_only_old_ones_go(self):
        young, old = (self.folder / f"{name}.zip" for name in ("young", "old"))
        for place in (young, old):
            place.write_bytes(b"x")
        long_ago = time.time() - jobs.KEPT_S - 60
        os.utime(old, (long_ago, long_ago))
        out = StringIO()
        call_command("tidy", stdout=out)
        self.assertEqual([*self.folder.iterdir()], [young])
        self.assertIn("1 files of restores", out.getvalue())


class SessionsTest(TestCase):
    def test_sessions_that_ended_go(self):
        for name, days in (("ended", -1), ("goes on", 1)):
            Session.objects.create(session_key=name, session_data="x", expire_date=timezone.now() + timedelta(days))
        self.assertEqual(tidy(by_the_server=True).sessions, 1)
        self.assertEqual(Session.objects.get().session_key, "goes on")


class DatabaseTest(TransactionTestCase):
    def test_a_database_that_is_mostly_empty_is_written_anew_and_holds_what_it_held(self):
        ana = make_user("ana")
        with connection.cursor() as cursor:
            cursor.execute("CREATE TABLE padding (x BLOB)")
            cursor.executemany("INSERT INTO padding VALUES (%s)", [(b"x" * 4000,)] * 3000)
            cursor.execute("DROP TABLE padding")
        with patch("server.backup.tidy.EMPTY_PAGES", 500):
            self.assertGreater(tidy(by_the_server=True).database_bytes, 5_000_000)
            self.assertEqual(tidy(by_the_server=True).database_bytes, 0)
        self.assertEqual(ana.drawers.count(), 5)
        with connection.cursor() as cursor:
            self.assertEqual(cursor.execute("PRAGMA integrity_check").fetchone(), ("ok",))
