"""What counts for an account is what lies on disk, by one sum, and what is missing is named before a backup."""

from __future__ import annotations

import time
from io import StringIO
from tempfile import TemporaryDirectory

from django.core.files.uploadedfile import SimpleUploadedFile
from django.core.management import call_command

from server.backup.tidy import tidy
from server.files import store
from server.pieces.models import Piece
from server.pieces.quota import kept_bytes
from tests.builders import as_file, line_drawing
from tests.server.test_files import FilesTestCase


class StorageTest(FilesTestCase):
    def setUp(self):
        super().setUp()
        self.enterContext(self.settings(VAR_DIR=self.enterContext(TemporaryDirectory())))

    def lies_there(self) -> int:
        """By the media folder alone, which is empty but for what Ana keeps."""
        return sum(place.stat().st_size for place in store.all_files())

    def told(self) -> dict:
        return self.send("get", "storage/").json()

    def test_after_every_kind_of_file_the_sum_is_what_lies_there(self):
        self.assertEqual(self.told()["bytes"], self.lies_there())
        self.change("find-again", {"gap_mm": 0.1, "sensitivity": 0.3}, "post")
        self.change("recipes", method="post")
        self.assertEqual(self.told()["bytes"], self.lies_there())
        version = Piece.objects.get(pk=self.piece.pk).version
        run = self.send("post", f"pieces/{self.piece.pk}/start-run/", {"cards": 1}, version).json()
        photo = SimpleUploadedFile("card.jpg", as_file(line_drawing(), "JPEG"))
        values = {"id": "photo-00001", "at_s": time.time(), "photo": photo}
        self.assertEqual(self.client.post(f"/api/v1/runs/{run['id']}/photos/", values).status_code, 201)
        before = self.told()["bytes"]
        self.assertEqual(before, self.lies_there())
        self.send("delete", f"pieces/{self.piece.pk}/")
        self.assertLess(0, self.told()["bytes"])
        self.assertLess(self.told()["bytes"], before)
        self.assertEqual(self.told()["pieces"], 0)

    def test_the_command_finds_a_wrong_count_and_housekeeping_puts_it_right(self):
        call_command("check_files", stdout=StringIO())
        Piece.objects.filter(pk=self.piece.pk).update(stored_bytes=1)
        said = StringIO()
        with self.assertRaises(SystemExit):
            call_command("check_files", stdout=said)
        self.assertIn("ana: 1 pieces", said.getvalue())
        self.assertIn("DIFFERENT", said.getvalue())
        self.assertEqual((tidy(by_the_server=False).recounted, kept_bytes(self.ana)), (1, self.lies_there()))
        call_command("check_files", stdout=StringIO())

    def test_what_is_gone_is_named_to_its_owner_alone(self):
        self.assertEqual(self.told()["missing"], [])
        store.place_of(self.piece.impression_sha256).unlink()
        self.assertEqual(self.told()["missing"], ["Ball and box"])
        said = StringIO()
        with self.assertRaises(SystemExit):
            call_command("check_files", stdout=said)
        self.assertIn("1 files missing", said.getvalue())
        self.client.force_login(self.ben)
        self.assertEqual(self.told()["missing"], [])

    def test_housekeeping_is_shown_once_it_was_done(self):
        self.assertIsNone(self.told()["tidied"])
        tidy(by_the_server=False)
        self.assertEqual(self.told()["tidied"]["recounted"], 0)
