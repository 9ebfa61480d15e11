"""Pictures and maps on disk: whole or not there, swept once nobody refers to them, and missing or full disks."""

from __future__ import annotations

import errno
import os
import time
from io import StringIO
from pathlib import Path
from tempfile import TemporaryDirectory
from unittest.mock import patch

from django.conf import settings
from django.core.management import call_command
from django.db import DatabaseError, IntegrityError

from server.derived.memory import memory
from server.files import store
from server.files.sweep import YOUNG_S, sweep
from server.pieces.models import Piece
from tests.builders import as_file, line_drawing
from tests.server.base import ApiTestCase

LATER_S = time.time() + 2 * YOUNG_S


class FilesTestCase(ApiTestCase):
    """Every test has a media folder and a cache of its own; the piece's two files are in it."""

    def setUp(self):
        super().setUp()
        held = [store.fetch(name) for name in (self.piece.impression_sha256, self.piece.regions_sha256)]
        media, cache = (self.enterContext(TemporaryDirectory()) for _ in range(2))
        self.enterContext(self.settings(MEDIA_ROOT=media, CACHE_ROOT=cache))
        for data in held:
            store.keep(data)
        memory.clear()

    def names(self) -> set[str]:
        return {place.name for place in store.all_files()}


class SweepTest(FilesTestCase):
    def test_files_of_a_deleted_piece_go_and_those_of_others_stay(self):
        kept = self.names()
        made = self.upload(as_file(line_drawing(line=5), dpi=(150, 150))).json()
        self.assertEqual(len(self.names() - kept), 2)
        self.assertEqual(sweep(now_s=LATER_S), 0)
        self.send("delete", f"pieces/{made['id']}/")
        self.assertEqual(sweep(now_s=LATER_S), 2)
        self.assertEqual(self.names(), kept)

    def test_what_a_kept_version_or_an_earlier_step_stands_on_stays(self):
        self.change("recipes", method="post")
        first = self.names()
        self.change("find-again", {"gap_mm": 0.1, "sensitivity": 0.3}, "post")
        again = self.names()
        self.assertEqual(sweep(now_s=LATER_S), 0)
        self.assertEqual(self.change("undo", method="post").status_code, 200)
        self.assertEqual(sweep(now_s=LATER_S), 0)
        self.assertLessEqual(first, again)
        self.assertEqual(self.change("redo", method="post").status_code, 200)
        self.assertEqual(self.send("get", f"pieces/{self.piece.pk}/picture/?view=regions").status_code, 200)

    def test_what_is_young_stays_and_half_written_files_go_when_they_are_old(self):
        stray, half = store.keep(b"nobody's"), Path(settings.MEDIA_ROOT) / "ab" / ".half"
        half.parent.mkdir(exist_ok=True)
        half.write_bytes(b"cut")
        self.assertEqual(sweep(), 0)
        self.assertIn(stray, self.names())
        self.assertEqual(sweep(now_s=LATER_S), 2)
        self.assertNotIn(stray, self.names())

    def test_a_file_kept_again_is_young_again(self):
        name = store.keep(b"nobody's")
        os.utime(store.place_of(name), (1, 1))
        store.keep(b"nobody's")
        self.assertEqual(sweep(), 0)

    def test_the_command_sweeps(self):
        os.utime(store.place_of(store.keep(b"nobody's")), (1, 1))
        call_command("tidy", stdout=StringIO())
        self.assertNotIn("nobody's", {store.place_of(name).read_bytes() for name in self.names()})
        self.assertEqual(len(self.names()), 2)


class TroubleTest(FilesTestCase):
    def test_a_full_disk_is_said_and_leaves_no_files_and_no_rows(self):
        before, pieces = self.names(), Piece.objects.count()
        for place in ("server.files.store.os.fsync", "server.files.store.os.replace"):
            with self.subTest(place=place), patch(place, side_effect=OSError(errno.ENOSPC, "No space left")):
                response = self.upload(as_file(line_drawing(line=5), dpi=(150, 150)))
                self.assertProblem(response, 507, "no_room", "disk is full")
                self.assertEqual((self.names(), Piece.objects.count()), (before, pieces))
        with patch("server.pieces.shelf.services.Piece.save", side_effect=DatabaseError("database or disk is full")):
            self.assertProblem(self.upload(as_file(line_drawing(), dpi=(150, 150))), 507, "no_room")

    def test_a_full_disk_does_not_keep_a_picture_from_being_shown(self):
        with patch("diskcache.Cache.set", side_effect=OSError(errno.ENOSPC, "No space left")) as tried:
            self.assertEqual(self.send("get", f"pieces/{self.piece.pk}/picture/?view=values").status_code, 200)
        tried.assert_called()

    def test_a_missing_picture_is_a_sentence(self):
        store.place_of(self.piece.impression_sha256).unlink()
        response = self.send("get", f"pieces/{self.piece.pk}/picture/?view=line")
        self.assertProblem(response, 410, "file_missing", "backup")

    def test_the_same_done_twice_at_one_moment_is_a_sentence(self):
        with patch("server.drawers.charts.ChartRecord.save", side_effect=IntegrityError("UNIQUE")):
            drawer = self.ana.drawers.get(medium="pencil")
            body = {"codes": [drawer.swatches.first().code]}
            self.assertProblem(self.send("post", f"drawers/{drawer.pk}/charts/", body), 409, "same_moment")

    def test_a_cache_whose_files_vanish_is_made_again(self):
        path = f"pieces/{self.piece.pk}/picture/?view=values"
        first = self.send("get", path).content
        memory.clear()
        for place in Path(settings.CACHE_ROOT).rglob("*.val"):
            place.unlink()
        self.assertEqual(self.send("get", path).content, first)

    def test_names_that_are_no_hashes_are_no_files(self):
        for name in ("", "..", "../../etc/passwd", "0" * 63, "0" * 64 + "/x"):
            with self.subTest(name=name), self.assertRaises(store.FileMissing):
                store.fetch(name)
