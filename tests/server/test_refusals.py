"""Sentences with which the server refuses what no other test hands it. `tests.sentences` lists those never reached."""

from __future__ import annotations

import json
import warnings
import zipfile
from dataclasses import replace
from io import BytesIO
from unittest.mock import patch

from django.core.exceptions import ValidationError as DjangoValidationError
from django.core.files.uploadedfile import SimpleUploadedFile
from django.db import IntegrityError
from django.test import Client
from rest_framework.exceptions import NotFound

from paleta.checks import ValueWarning
from paleta.errors import EventError, ShapeError
from paleta.run import Photographed
from server.backup import jobs
from server.derived.jobs import TookTooLong, check_pictures, within
from server.drawers.models import Drawer
from server.files import store
from server.files.store import FileMissing
from server.photo_check.services import take_measured
from server.pieces.models import Piece
from server.pieces.steps import keep_step
from server.problems import Refused, TooLarge
from server.recipes.models import RecipeRecord
from server.runs.along import add_photo, move_run, start_run
from server.runs.models import Run
from tests.builders import as_file, line_drawing
from tests.server.base import ApiTestCase
from tests.server.test_backup import BackupTestCase, altered, members, packed


class BackupLineTest(BackupTestCase):
    def refused(self, data: bytes, words: str) -> None:
        with self.subTest(words), self.assertRaises(Refused) as caught:
            self.restore(self.ben, data)
        self.assertIn(words, str(caught.exception.detail))

    def test_lines_of_every_section_that_are_not_possible_say_which(self) -> None:
        held = members(self.backup_of(self.ana))

        def deep(line: dict, *path: object, value: object) -> None:
            for key in path[:-1]:
                line = line[key]
            line[path[-1]] = value

        with_chart = next(
            place for place, line in enumerate(held["drawers.jsonl"].splitlines()) if json.loads(line)["charts"]
        )
        for section, path, value, words in (
            ("drawers", ("swatches", 0, "lab"), [500, 0, 0], "in the backup is not a possible one"),
            ("papers", ("surface",), "furry", "A paper in the backup is not"),
            ("gotos", ("tags",), [7], "A go-to in the backup is not"),
            ("pieces", ("warnings",), [7], "A piece in the backup is not"),
            ("pieces", ("sheet_format",), 77, "has a format this Paleta does not know"),
            ("pieces", ("steps", 0, "forward"), {"else": []}, "A step in the backup is not"),
            ("recipes", ("changes",), [7], "A version in the backup is not"),
        ):
            data = packed(altered(held, section, lambda line, path=path, value=value: deep(line, *path, value=value)))
            self.refused(data, words)
        old = altered(
            held, "pieces", lambda line: line.update(sheet_format=2, sheet={"regions": line["sheet"]["regions"]})
        )
        self.refused(packed(old), "A sheet in the backup cannot be read")
        lines = held["drawers.jsonl"].splitlines()
        chart = json.loads(lines[with_chart])
        chart["charts"][0]["codes"] = [7]
        lines[with_chart] = json.dumps(chart).encode()
        self.refused(packed({**held, "drawers.jsonl": b"\n".join(lines) + b"\n"}), "A chart in the backup is not")
        runs = [json.loads(line) for line in held["runs.jsonl"].splitlines()]
        with_log = next(
            place for place, line in enumerate(runs) if any(one["kind"] == Photographed.kind for one in line["log"])
        )
        for change, words in (
            (lambda line: line["log"][0].update(kind="dance"), "A run in the backup is not"),
            (lambda line: line.update(files=[]), "speaks of a photo that is not in it"),
        ):
            other = [json.loads(line) for line in held["runs.jsonl"].splitlines()]
            change(other[with_log])
            text = b"".join(json.dumps(line).encode() + b"\n" for line in other)
            self.refused(packed({**held, "runs.jsonl": text}), words)
        with patch("server.drawers.backup.MOST_SWATCHES", 3):
            self.refused(packed(held), "more than any that Paleta makes")

    def test_files_that_are_no_backups_say_what_they_are(self) -> None:
        held = members(self.backup_of(self.ana))
        manifest = json.loads(held["manifest.json"])
        for change, words in (({"format": "other"}, "not a backup of Paleta."), ({"missing": 7}, "cannot be read")):
            other = json.dumps({**manifest, **change}).encode()
            self.refused(packed({**held, "manifest.json": other}, keep_hashes=True), words)
        out = BytesIO()
        with warnings.catch_warnings(), zipfile.ZipFile(out, "w", zipfile.ZIP_STORED) as archive:
            warnings.simplefilter("ignore")  # the library wonders too
            for name, data in (*held.items(), ("gotos.jsonl", b"")):
                archive.writestr(name, data)
        self.refused(out.getvalue(), "the same file twice")
        with patch("server.backup.archive.LARGEST_LIST", 10):
            self.refused(packed(held), "larger than any that Paleta makes")

    def test_parts_of_a_file(self) -> None:
        code = self.send("post", "restores/", {}).json()["code"]
        job = jobs.named(code, self.ana.pk)
        with patch("server.backup.jobs.MOST_BYTES", 3), self.assertRaises(TooLarge):
            jobs.take_part(job, 0, b"four")
        path = f"/api/v1/restores/{code}/part/"
        for query, size, status in (("?at=x", 4, 422), ("?at=0", 9_000_001, 413)):
            sent = self.client.put(path + query, b"x" * size, content_type="application/octet-stream")
            self.assertEqual(sent.status_code, status, sent.content[:200])
        job.state = "working"
        with self.assertRaisesMessage(Refused, "has its file already"):
            jobs.take_part(job, 0, b"four")


class RefusalTest(ApiTestCase):
    def problem(self, method: str, path: str, body: dict | None, words: str, status: int = 422) -> None:
        with self.subTest(words):
            version = Piece.objects.get(pk=self.piece.pk).version
            response = self.send(method, path, body, version) if body is not None else self.send(method, path)
            self.assertEqual(response.status_code, status, response.content[:300])
            self.assertIn(words, response.content.decode())

    def test_at_the_bench(self) -> None:
        own = f"pieces/{self.piece.pk}"
        self.change("ramp", {"labels": [1, 2, 3], "codes": []})
        self.problem("post", f"{own}/keep-goto/", {"label": 1, "name": "Mine"}, "no colours to save yet")
        locked = {"first_hex": "#ff0000", "scheme": "triad", "count": 3, "shades": 3, "locked": ["red"]}
        self.problem("post", f"{own}/palette/", locked, "Locked colours are a list")
        self.problem("get", "substitutes/?hex=red", None, "#")
        self.problem("put", f"{own}/regions/", {"labels": [1]}, "Say what to change")
        with patch("server.pieces.regions.things.ASKED", 2.0):
            self.problem("post", f"{own}/alike/", {"label": 1}, "Nothing else looks like it")
        with patch("server.pieces.colours.palettes.with_best_ramps", side_effect=lambda sheet, *_: (sheet, 0)):
            body = {"colours": ["#ff0000", "#00ff00", "#0000ff"], "labels": [1]}
            self.problem("put", f"{own}/share-palette/", body, "too few swatches")
        sheet = Piece.objects.get(pk=self.piece.pk).sheet()
        settings = sheet.regions.settings
        named = {label: replace(settings[label], thing=word) for label, word in ((1, "Ball"), (2, "Ball"), (3, "Box"))}
        piece = Piece.objects.get(pk=self.piece.pk)
        keep_step(actor=self.ana, piece=piece, version=piece.version, what="Box", sheet=sheet.with_regions(named))
        self.problem("put", f"{own}/thing-name/", {"label": 1, "name": "Box"}, "Another thing is called Box")
        self.change("ramp", {"labels": [1], "codes": [self.ana.drawers.get(medium="marker").swatches.first().code]})
        warning = ValueWarning("no_depth", (1,), "It is dark.", "paler", (1,), "Take it paler")
        with (
            patch("server.pieces.colours.value_warnings.value_warnings", return_value=[warning]),
            patch("server.pieces.colours.value_warnings._better_ramp", return_value=None),
        ):
            body = {"kind": warning.kind, "regions": [1]}
            self.problem("post", f"{own}/remedy/", body, "no swatches that would put this right")
        version = Piece.objects.get(pk=self.piece.pk).version
        response = self.client.put(
            f"/api/v1/{own}/stamp/", '{"title": "a\\ud800"}', "application/json", HTTP_IF_MATCH=f'"{version}"'
        )
        self.assertIn("cannot be written down", response.content.decode())
        label = self.change("ground", {}, "post").json()["regions"]["taken"][0]
        with patch("server.pieces.regions.grounds.find_ramps", return_value=[]):
            body = {"labels": [label], "way": "circles", "wish_hex": "#5b86c2"}
            self.problem("put", f"{own}/lay-ground/", body, "holds nothing that this ground")

    def test_full_accounts_and_things_that_are_gone(self) -> None:
        pencils = self.ana.drawers.get(medium="pencil")
        chart = {"codes": [pencils.swatches.first().code], "paper": "smooth-white"}
        with patch("server.drawers.charts.MOST_CHARTS", 0):
            response = self.send("post", f"drawers/{pencils.pk}/charts/", chart, pencils.version)
            self.assertProblem(response, 409, "full")
        with patch("server.drawers.papers.MOST_PAPERS", 0):
            self.assertProblem(self.send("post", "papers/", {"name": "Mine", "lab": [88, 1, 6]}), 409, "full")
        with self.assertRaises(DjangoValidationError):
            Drawer(owner=self.ana, name="X", medium="chalk").clean()
        for work in (lambda: store.place_of("../x"), lambda: store.fetch("0" * 64)):
            with self.assertRaises(FileMissing):
                work()
        with patch("server.photo_check.services.MOST_CHECKS", 0):
            photo = SimpleUploadedFile("x.jpg", as_file(line_drawing(), "JPEG"), "image/jpeg")
            response = self.client.post(
                f"/api/v1/pieces/{self.piece.pk}/photo-checks/",
                {"photo": photo},
                HTTP_IF_MATCH=f'"{self.piece.version}"',
            )
            self.assertProblem(response, 409, "full")
        with self.assertRaisesMessage(NotFound, "no such swatch"):
            take_measured(actor=self.ana, piece=self.piece, version=1, swatch=10**9, lab=(50, 0, 0), measured="cap")

    def test_of_two_who_take_the_same_name_at_once_one_is_told(self) -> None:
        with patch("django.contrib.auth.models.UserManager.create_user", side_effect=IntegrityError):
            response = Client().post(
                "/api/v1/accounts/", {"username": "dora", "password": "dora-has-a-long-word"}, "application/json"
            )
        self.assertEqual(response.status_code, 422, response.content[:200])
        self.assertIn("taken", response.content.decode())

    def test_heavy_work_refuses_what_it_cannot_read(self) -> None:
        with self.assertRaises(ShapeError):
            check_pictures(b"no picture", b"none", (10, 10), 300.0, [])

        def toil() -> None:
            while True:
                pass

        with self.assertRaises(TookTooLong), within(0.05):
            toil()

    def test_a_recipe_whose_map_is_another_ones(self) -> None:
        self.change("recipes", method="post")
        plain = json.loads(self.send("get", f"pieces/{self.piece.pk}/recipes/1/").content)
        gone = {"op": "join", "regions": [998, 999]}
        for change, words in (
            (lambda one: one["sheet"]["regions"].update(map_sha256="0" * 64), "stands on another region map"),
            (lambda one: one["sheet"]["regions"].update(edits=[gone]), "cannot be read"),
        ):
            other = json.loads(json.dumps(plain))
            change(other)
            file = SimpleUploadedFile("r.json", json.dumps(other).encode())
            response = self.client.post("/api/v1/pieces/import/", {"recipe": file})
            with self.subTest(words):
                self.assertEqual(response.status_code, 422)
                self.assertIn(words, response.json()["detail"])

        with patch("server.recipes.services.worker.run", return_value={1}):
            file = SimpleUploadedFile("r.json", json.dumps(plain).encode())
            response = self.client.post("/api/v1/pieces/import/", {"recipe": file})
        self.assertIn("not those of its region map", response.json()["detail"])

    def test_runs(self) -> None:
        for cards in (0, 10_000):
            with self.assertRaisesMessage(Refused, "A run is on 1 to"):
                start_run(actor=self.ana, piece=self.piece, version=self.piece.version, cards=cards)
        run = start_run(actor=self.ana, piece=self.piece, version=self.piece.version, cards=2)
        with self.assertRaisesMessage(EventError, "on 2 cards"):
            add_photo(actor=self.ana, run=run, data=b"", id="photo-1", at_s=0.0, card=3, text="")
        Run.objects.filter(pk=run.pk).update(medium="pencil")
        self.change("lamp", {"azimuth_deg": 90, "elevation_deg": 20})
        self.change("recipes", method="post")
        with self.assertRaisesMessage(Refused, "nothing to colour in this medium"):
            move_run(actor=self.ana, run=Run.objects.get(pk=run.pk))
        RecipeRecord.objects.all().delete()
        response = self.send("get", f"runs/{run.pk}/choices/?now=0")
        self.assertEqual(response.status_code, 409, response.content[:200])
