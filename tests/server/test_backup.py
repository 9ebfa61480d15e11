"""Backup: one file out, the same file in; and files that are none."""

from __future__ import annotations

import hashlib
import json
import time
import zipfile
from io import BytesIO, StringIO
from pathlib import Path
from tempfile import TemporaryDirectory
from unittest.mock import patch

from django.apps import apps
from django.contrib.auth import get_user_model
from django.core.files.uploadedfile import SimpleUploadedFile
from django.core.management import CommandError, call_command
from django.db.models import Model
from django.utils import timezone

from paleta.order import SCHOOLS, school_to_plain
from server.backup import holding
from server.backup.services import restore_backup, sections, write_backup
from server.drawers.models import Drawer, OwnPaper
from server.files.store import place_of
from server.photo_check.models import PhotoCheck
from server.pieces.models import GoTo, OwnSchool, Piece, Step
from server.problems import Refused
from server.recipes.models import RecipeRecord
from server.runs.models import Run, RunEvent
from tests.builders import as_file, line_drawing
from tests.server.base import ApiTestCase
from tools.fuzz_backups import packed

COUNTED = (Drawer, Piece, Step, GoTo, OwnSchool, RecipeRecord, Run, RunEvent, PhotoCheck)
PART = 50_000


def members(data: bytes) -> dict[str, bytes]:
    with zipfile.ZipFile(BytesIO(data)) as archive:
        return {name: archive.read(name) for name in archive.namelist()}


def altered(held: dict[str, bytes], section: str, change) -> dict[str, bytes]:
    """The members with the first line of a section changed."""
    lines = held[f"{section}.jsonl"].splitlines()
    first = json.loads(lines[0])
    change(first)
    lines[0] = json.dumps(first).encode()
    return {**held, f"{section}.jsonl": b"\n".join(lines) + b"\n"}


class BackupTestCase(ApiTestCase):
    """Ana's account holds one of everything; Ben's holds what every new account does."""

    def colour_along(self):
        """A run that is begun, with a photo."""
        version = Piece.objects.get(pk=self.piece.pk).version
        run = self.send("post", f"pieces/{self.piece.pk}/start-run/", {"cards": 2}, version).json()
        line = {"kind": "laid", "id": "laid-00001", "at_s": time.time(), "plan": run["plan"], "card": 2, "passes": [1]}
        self.send("post", f"runs/{run['id']}/events/", {"events": [line]})
        photo = SimpleUploadedFile("card.jpg", as_file(line_drawing(), "JPEG"))
        values = {"id": "photo-00001", "at_s": time.time(), "photo": photo}
        self.assertEqual(self.client.post(f"/api/v1/runs/{run['id']}/photos/", values).status_code, 201)

    def setUp(self):
        super().setUp()
        own = {**school_to_plain(SCHOOLS["M3"]), "name": "My way"}
        made = self.send("post", "schools/", {"school": own}).json()
        self.change("school", {"school": made["code"]})
        blotting = self.send("post", "papers/", {"name": "Blotting paper", "lab": [88, 1, 6]}).json()
        self.change("stamp", {"paper": blotting["code"]})
        self.change("keep-goto", {"label": 1, "name": "Mine"}, "post")
        self.change("recipes", method="post")
        self.change("split", {"label": 1, "line": [[15.3, 5], [15.3, 32]]}, "post")
        self.change("lamp", {"azimuth_deg": 10, "elevation_deg": 30})
        self.change("recipes", method="post")
        self.change("find-again", {"gap_mm": 0.8, "sensitivity": 0}, "post")
        self.send("post", f"pieces/{self.piece.pk}/runs/", {"minutes": 40, "note": "A paler sky"})
        self.colour_along()
        drawer = self.ana.drawers.get(medium="pencil")
        version = Drawer.objects.get(pk=drawer.pk).version
        chart = {"codes": [drawer.swatches.first().code], "paper": "smooth-white"}
        self.assertEqual(self.send("post", f"drawers/{drawer.pk}/charts/", chart, version).status_code, 201)
        self.folder = self.enterContext(TemporaryDirectory())

    def backup_of(self, owner) -> bytes:
        return b"".join(write_backup(owner))

    def restore(self, owner, data: bytes):
        place = Path(self.folder) / "in.zip"
        place.write_bytes(data)
        return restore_backup(owner=owner, path=place)

    def rows(self, owner) -> dict[str, int]:
        mine = {model.__name__: model.objects.owned_by(owner).count() for model in COUNTED if hasattr(model, "owner")}
        mine["RecipeRecord"] = RecipeRecord.objects.filter(piece__owner=owner).count()
        mine["Step"] = Step.objects.filter(piece__owner=owner).count()
        return mine


class BackupTest(BackupTestCase):
    def test_into_an_empty_account_and_out_again_it_is_the_same_file_but_for_the_date_and_name(self):
        cleo = get_user_model().objects.create_user("cleo", password="cleo-has-a-long-word")
        cleo.drawers.all().delete()
        first = self.backup_of(self.ana)
        self.assertFalse(any(self.rows(cleo).values()))
        restored = self.restore(cleo, first)
        self.assertEqual(restored.known, {})
        self.assertEqual(self.rows(cleo), self.rows(self.ana))
        before, after = members(first), members(self.backup_of(cleo))
        for held in (before, after):
            manifest = json.loads(held.pop("manifest.json"))
            self.assertEqual(set(manifest["members"]), set(held))
        self.assertEqual(before, after)

    def test_what_comes_back_works_like_what_went(self):
        cleo = get_user_model().objects.create_user("cleo", password="cleo-has-a-long-word")
        here = {name: self.send("get", f"pieces/{self.piece.pk}/{name}").content for name in ("picture/", "labels/")}
        plan = self.send("get", f"pieces/{self.piece.pk}/plan/").json()
        self.restore(cleo, self.backup_of(self.ana))
        self.client.force_login(cleo)
        self.piece = Piece.objects.get(owner=cleo)
        for name, data in here.items():
            self.assertEqual(self.send("get", f"pieces/{self.piece.pk}/{name}").content, data)
        self.assertEqual(self.send("get", f"pieces/{self.piece.pk}/plan/").json()["passes"], plan["passes"])
        drawer = Drawer.objects.get(pk=self.piece.sheet().colours.drawers[0])
        self.assertEqual(drawer.owner, cleo)
        (school,) = self.piece.sheet().order.schools
        self.assertIn(school, {one["code"] for one in self.send("get", "schools/").json() if one["own"]})
        while self.change("undo", method="post").status_code == 200:
            pass
        self.assertEqual(Piece.objects.get(pk=self.piece.pk).sheet().colours.swatches, {})
        self.assertEqual(self.change("recipes/1/restore", method="post").status_code, 200)

    def test_into_the_same_account_everything_is_known_and_nothing_changes(self):
        data, rows = self.backup_of(self.ana), self.rows(self.ana)
        restored = self.restore(self.ana, data)
        self.assertEqual((restored.made, self.rows(self.ana)), ({}, rows))
        self.assertEqual(members(self.backup_of(self.ana))["pieces.jsonl"], members(data)["pieces.jsonl"])

    def test_a_paper_of_a_backup_that_knew_no_water_is_as_papers_counted_then(self):
        def older(line):
            for name in ("water", "behaves", "dries"):
                line.pop(name)
            line["kind"] = "watercolour"

        self.restore(self.ben, packed(altered(members(self.backup_of(self.ana)), "papers", older)))
        paper = OwnPaper.objects.owned_by(self.ben).get()
        self.assertEqual((paper.water, paper.behaves, paper.dries), ("much", [], 1.25))

    def test_into_a_filled_account_nothing_is_overwritten(self):
        """Ana goes on after her backup; it comes back beside what she did since."""
        data = self.backup_of(self.ana)
        self.change("stamp", {"title": "Another title"})
        drawer = self.ana.drawers.get(medium="marker")
        drawer.swatches.first().delete()
        restored = self.restore(self.ana, data)
        titles = sorted(piece.title for piece in Piece.objects.owned_by(self.ana))
        self.assertEqual(titles, ["Another title", "Ball and box"])
        self.assertEqual((restored.made["drawers"], restored.known["drawers"]), (1, 4))
        self.assertEqual(restored.made["pieces"], 1)

    def test_it_is_brought_in_short_transactions_and_a_killed_one_is_swept(self):
        """Others write meanwhile; what the owner is given comes at once, at the end."""
        data, seen = self.backup_of(self.ana), []
        hand_over = holding.hand_over

        def look_first(restoring):
            seen.append((Piece.objects.owned_by(self.ben).count(), Piece.objects.owned_by(restoring.holder).count()))
            hand_over(restoring)

        with patch.object(holding, "LOCKED_S", 0.0), patch.object(holding, "hand_over", look_first):
            self.restore(self.ben, data)
        self.assertEqual((seen, Piece.objects.owned_by(self.ben).count()), ([(0, 1)], 1))
        with patch.object(holding, "hand_over", side_effect=SystemExit), patch.object(holding, "take_back"):
            self.assertRaises(SystemExit, self.restore, self.ben, data)
        left = get_user_model().objects.filter(username__startswith=holding.PREFIX)
        self.assertEqual((left.count(), holding.sweep()), (1, 0))
        left.update(date_joined=timezone.now() - 2 * holding.OLD)
        self.assertEqual((holding.sweep(), left.count()), (1, 0))

    def test_a_version_that_came_to_a_piece_that_was_there_goes_again_if_the_rest_is_bad(self):
        data = self.backup_of(self.ana)
        self.piece.recipes.get(number=3).delete()
        Piece.objects.filter(pk=self.piece.pk).update(latest_recipe=2)
        bad = packed(altered(members(data), "runs", lambda line: line.update(cards="many")))
        with self.assertRaises(Refused):
            self.restore(self.ana, bad)
        self.assertEqual([one.number for one in self.piece.recipes.all()], [1, 2])
        self.assertEqual(Piece.objects.get(pk=self.piece.pk).latest_recipe, 2)
        self.assertEqual(self.restore(self.ana, data).made, {"recipes": 1})
        self.assertEqual(Piece.objects.get(pk=self.piece.pk).latest_recipe, 3)

    def test_every_model_that_belongs_to_a_user_is_in_a_section(self):
        covered = {model for section in sections() for model in section.models}
        users = {get_user_model()}
        theirs: set[type[Model]] = set()
        ours = [model for model in apps.get_models() if model.__module__.startswith("server.")]
        while True:
            more = {
                model
                for model in ours
                for field in model._meta.get_fields()
                if field.many_to_one and field.concrete and field.related_model in users | theirs
            }
            if more <= theirs:
                break
            theirs |= more
        self.assertGreater(len(theirs), 5)
        self.assertEqual(theirs - covered, set())


class BadBackupTest(BackupTestCase):
    """Every one is refused with a sentence, and nothing of it is stored."""

    def assertNotRestored(self, data: bytes, words: str):
        before = self.rows(self.ben)
        with self.assertRaises(Refused) as caught:
            self.restore(self.ben, data)
        self.assertIn(words, str(caught.exception.detail))
        self.assertEqual(self.rows(self.ben), before)
        self.assertFalse(get_user_model().objects.filter(username__startswith=holding.PREFIX).exists())

    def test_files_that_are_none_or_not_whole(self):
        good = self.backup_of(self.ana)
        held = members(good)
        picture = next(name for name in held if name.startswith("files/"))
        damaged = bytearray(good)
        damaged[good.index(held[picture][200:300]) + 50] ^= 0xFF
        for words, data in (
            ("not a backup", b""),
            ("not a backup", b"PK\x03\x04 nonsense"),
            ("cut off", good[: len(good) // 2]),
            ("cut off", good[:-10]),
            ("damaged", bytes(damaged)),
            ("no manifest", packed({name: data for name, data in held.items() if name != "manifest.json"})),
            (
                "not a backup",
                packed({**held, "manifest.json": b'{"format": "other", "members": {}}'}, keep_hashes=True),
            ),
            ("cut off", packed({n: d for n, d in held.items() if n != picture}, keep_hashes=True)),
            ("damaged", packed({**held, "drawers.jsonl": held["drawers.jsonl"][:-2]}, keep_hashes=True)),
        ):
            with self.subTest(words=words, size=len(data)):
                self.assertNotRestored(data, words)

    def test_names_that_climb_foreign_names_packed_members_and_doubles(self):
        held = members(self.backup_of(self.ana))
        for words, data in (
            ("does not belong", packed({**held, "../../evil": b"x"})),
            ("does not belong", packed({**held, "/etc/evil": b"x"})),
            ("does not belong", packed({**held, "files/../../evil": b"x"})),
            ("does not belong", packed({**held, "secrets.jsonl": b"x"})),
            ("not the one its name says", packed({**held, f"files/{'0' * 64}": b"x"})),
            ("packed in a way", packed(held, compression=zipfile.ZIP_DEFLATED)),
            ("packed in a way", packed({**held, "runs.jsonl": b" " * 50_000_000}, compression=zipfile.ZIP_DEFLATED)),
        ):
            with self.subTest(words=words, size=len(data)):
                self.assertNotRestored(data, words)
        self.assertFalse(list(Path(self.folder).parent.glob("evil")))
        newer = json.loads(held["manifest.json"]) | {"format_version": 7}
        self.assertNotRestored(packed({**held, "manifest.json": json.dumps(newer).encode()}), "format 7")

    def test_lines_that_cannot_be(self):
        held = members(self.backup_of(self.ana))

        def other(line, **values):
            line.update(values)

        for section, change in (
            ("pieces", lambda line: other(line, width_px=10)),
            ("pieces", lambda line: other(line, dpi=1e308)),
            ("pieces", lambda line: line["sheet"]["light"].update(base=1e300)),
            ("pieces", lambda line: line["sheet"].pop("order")),
            ("pieces", lambda line: line["steps"].append({"number": "x"})),
            ("pieces", lambda line: other(line, impression_sha256="../../etc/passwd")),
            ("pieces", lambda line: other(line, impression_sha256="0" * 64)),
            ("drawers", lambda line: line["swatches"][0].update(lab=[1e400, 0, 0])),
            ("drawers", lambda line: other(line, swatches="none")),
            ("drawers", lambda line: other(line, number=7)),
            ("gotos", lambda line: other(line, swatches=[{}])),
            ("schools", lambda line: line["school"].update(steps=[])),
            ("recipes", lambda line: line["recipe"]["sheet"]["colours"].update(drawer="²")),
            ("recipes", lambda line: other(line, piece=99)),
            ("runs", lambda line: other(line, seconds=-5)),
            ("runs", lambda line: other(line, files=[[1]])),
            ("pieces", lambda line: other(line, files={"a": 1})),
            ("runs", lambda line: other(line, made_at="yesterday")),
        ):
            with self.subTest(section=section):
                self.assertNotRestored(packed(altered(held, section, change)), "")
        deep = {**held, "runs.jsonl": b"[" * 100_000 + b"\n"}
        self.assertNotRestored(packed(deep), "Line 1 of runs")
        for name, value, words in (
            ("note", None, "note is nothing"),
            ("seconds", "1e999", "no finite number"),
        ):
            with self.subTest(name=name):
                self.assertNotRestored(packed(altered(held, "runs", lambda line: other(line, **{name: value}))), words)  # noqa: B023

    def test_what_is_wrong_is_said_so_that_a_person_understands_it(self):
        held = members(self.backup_of(self.ana))
        runs = held["runs.jsonl"].replace(b'"seconds":', b'"second":', 1)
        self.assertNotRestored(packed({**held, "runs.jsonl": runs}), "run in the backup cannot be read")
        for number in (b"1e999", b"Infinity", b"NaN", b"9" * 40):
            with self.subTest(number=number):
                runs = held["runs.jsonl"].replace(b'"cards":1', b'"cards":' + number, 1)
                self.assertNotRestored(packed({**held, "runs.jsonl": runs}), "cannot be read")
        twice = altered(held, "pieces", lambda line: line["steps"].append(line["steps"][0]))
        self.assertNotRestored(packed(twice), "Line 1 of pieces in the backup contradicts another one")
        without = altered(held, "drawers", lambda line: line.pop("swatches"))
        self.assertNotRestored(packed(without), "Line 1 of drawers in the backup misses swatches")

    def test_bombs_of_json_are_turned_away_before_they_are_read(self):
        held = members(self.backup_of(self.ana))
        for words, line in (
            ("too many values", b"[" + b"[]," * 2_000_000 + b"[]]\n"),
            ("longer than any", b'{"number": 1, "x": "' + b"x" * 17_000_000 + b'"}\n'),
        ):
            with self.subTest(words=words):
                begun = time.process_time()
                self.assertNotRestored(packed({**held, "runs.jsonl": line}), words)
                self.assertLess(time.process_time() - begun, 20)

    def test_of_many_members_the_file_is_opened_once(self):
        held = members(self.backup_of(self.ana))
        many = {f"files/{hashlib.sha256(str(n).encode()).hexdigest()}": str(n).encode() for n in range(3000)}
        with patch("server.backup.archive.zipfile.ZipFile", wraps=zipfile.ZipFile) as opened:
            self.restore(self.ben, packed({**held, **many}))
        self.assertEqual(sum(1 for call in opened.call_args_list if call.args[1:] == ()), 1)

    def test_more_members_than_any_backup_has_are_refused(self):
        with patch("server.backup.archive.MOST_MEMBERS", 3):
            self.assertNotRestored(self.backup_of(self.ana), "more than 3 files")

    def test_what_lost_its_picture_is_left_out_and_named_and_the_rest_comes_back(self):
        picture = self.piece.impression_sha256
        place_of(picture).unlink()
        data = self.backup_of(self.ana)
        self.assertEqual(json.loads(members(data)["manifest.json"])["missing"], [picture])
        restored = self.restore(self.ben, data)
        self.assertEqual(restored.left_out, {"pieces": 1, "recipes": 3, "runs": 2})
        self.assertEqual(self.rows(self.ben)["Piece"], 0)
        self.assertEqual(restored.made["schools"], 1)
        # One that should be in it, and is not, is another matter.
        manifest = json.loads(members(data)["manifest.json"]) | {"missing": []}
        self.assertNotRestored(
            packed({**members(data), "manifest.json": json.dumps(manifest).encode()}), "is not in it"
        )

    def test_a_run_that_lost_a_photo_comes_back_without_it(self):
        photo = next(run.photo for run in Run.objects.owned_by(self.ana) if run.photo)
        place_of(photo).unlink()
        restored = self.restore(self.ben, self.backup_of(self.ana))
        self.assertEqual((restored.left_out, restored.made["runs"]), ({}, 2))

    def test_an_account_without_room_is_told_so(self):
        data = self.backup_of(self.ana)
        with self.settings(MOST_ACCOUNT_BYTES=1000):
            self.assertNotRestored(data, "holds up to")


class BackupApiTest(BackupTestCase):
    def download(self) -> bytes:
        response = self.client.get("/api/v1/backup/")
        self.assertEqual(response["Content-Type"], "application/zip")
        return b"".join(response.streaming_content)

    def send_parts(self, data: bytes) -> str:
        code = self.send("post", "restores/").json()["code"]
        for at in range(0, len(data), PART):
            self.assertEqual(self.put_part(code, at, data[at : at + PART]).status_code, 200)
        return code

    def put_part(self, code: str, at: int, data: bytes):
        return self.client.put(f"/api/v1/restores/{code}/part/?at={at}", data, content_type="application/octet-stream")

    def test_a_file_goes_out_and_comes_back_in_parts(self):
        data = self.download()
        self.client.force_login(self.ben)
        code = self.send_parts(data)
        self.assertEqual(self.put_part(code, 0, data[:PART]).status_code, 200)  # its answer was lost: sent again
        self.assertProblem(self.put_part(code, len(data) + 5, b"x"), 409, "part_missing")
        self.assertEqual(self.send("post", f"restores/{code}/").status_code, 200)
        answer = self.send("get", f"restores/{code}/").json()
        self.assertEqual((answer["state"], answer["made"]["pieces"]), ("done", 1))
        self.assertProblem(self.send("post", f"restores/{code}/"), 409, "restore_under_way")
        self.assertEqual(self.rows(self.ben)["Piece"], 1)

    def test_a_bad_file_says_what_is_wrong_and_a_restore_is_for_its_owner(self):
        code = self.send_parts(b"not a zip at all")
        self.client.force_login(self.ben)
        self.assertProblem(self.send("get", f"restores/{code}/"), 404, "not_found")
        self.assertProblem(self.put_part(code, 16, b"x"), 404, "not_found")
        self.client.force_login(self.ana)
        self.send("post", f"restores/{code}/")
        answer = self.send("get", f"restores/{code}/").json()
        self.assertEqual(answer["state"], "refused")
        self.assertIn("not a backup", answer["words"])

    def test_two_restores_at_once_are_enough(self):
        codes = [self.send("post", "restores/").json()["code"] for _ in range(2)]
        self.assertProblem(self.send("post", "restores/"), 409, "restore_under_way")
        for code in codes:
            self.send("post", f"restores/{code}/")


class CommandTest(BackupTestCase):
    def test_backup_and_restore_by_command(self):
        place, out = Path(self.folder) / "ana.zip", StringIO()
        call_command("backup", "ana", place, stdout=out)
        call_command("restore", "ben", place, stdout=out)
        self.assertIn("pieces: 1 brought back, 0 there already", out.getvalue())
        self.assertIn("drawers: 1 brought back, 4 there already", out.getvalue())
        for name, values in (("backup", ("nobody", place)), ("restore", ("nobody", place)), ("restore", ("ben", "x"))):
            with self.subTest(name=name, values=values), self.assertRaises(CommandError):
                call_command(name, *values)
        place.write_bytes(b"x")
        with self.assertRaisesMessage(CommandError, "not a backup"):
            call_command("restore", "ben", place)
