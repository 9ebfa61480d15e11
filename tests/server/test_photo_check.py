"""Photo checks and stamping again over the API."""

from __future__ import annotations

from pathlib import Path
from tempfile import TemporaryDirectory

import cv2
import numpy as np
from django.core.files.uploadedfile import SimpleUploadedFile
from django.db import connection
from django.test.utils import CaptureQueriesContext

from paleta.devices import HandFault, photograph
from paleta.light import SCALE
from server.backup.services import restore_backup, write_backup
from server.derived.maps import region_map
from server.files import store
from server.files.sweep import sweep
from server.photo_check.models import PhotoCheck
from server.photo_check.services import forget_check, simulated_photo
from server.pieces.models import Piece
from server.pieces.sheet.services import describe
from server.problems import Refused
from server.restamp.services import stamp_again
from server.runs.along import start_run
from tests.builders import as_file, line_drawing
from tests.server.base import ApiTestCase
from tests.server.builders import coloured, make_piece, make_user
from tests.server.test_backup import altered, members, packed


class PhotoCheckTest(ApiTestCase):
    @classmethod
    def setUpTestData(cls):
        super().setUpTestData()
        cls.piece = coloured(make_piece(cls.ana, "Two things"))
        cls.labels = sorted(cls.piece.sheet().regions.settings)

    def setUp(self):
        super().setUp()
        self.client.force_login(self.ana)

    def photo(self, *faults: HandFault, light: str = "easy", seed: int = 2) -> SimpleUploadedFile:
        data = simulated_photo(self.piece, light=light, faults=faults, seed=seed)
        return SimpleUploadedFile("card.jpg", data, "image/jpeg")

    def post(self, photo: SimpleUploadedFile, **fields):
        piece = Piece.objects.get(pk=self.piece.pk)
        return self.client.post(
            f"/api/v1/pieces/{piece.pk}/photo-checks/", {"photo": photo, **fields}, HTTP_IF_MATCH=f'"{piece.version}"'
        )

    def test_a_card_is_found_by_a_line_of_another_colour_than_in_the_scan(self):
        label = self.labels[1]
        for powder, paper in (("gold", "smooth-white"), ("white", "kraft")):
            with self.subTest(powder=powder):
                piece = Piece.objects.get(pk=self.piece.pk)
                changes = {"outline_ink": "embossed", "powder": powder, "paper": paper}
                describe(actor=self.ana, piece=piece, version=piece.version, part="stamp", changes=changes)
                self.piece.refresh_from_db()
                response = self.post(self.photo(HandFault("missing", (label,))))
                self.assertEqual(response.status_code, 201, response.content[:300])
                missing = [one for one in response.json()["faults"] if one["kind"] == "missing"]
                self.assertEqual({region for one in missing for region in one["regions"]}, {label})

    def test_a_photo_is_held_against_the_sheet_and_what_is_missing_is_lit_and_said(self):
        label = self.labels[1]
        response = self.post(self.photo(HandFault("missing", (label,))))
        self.assertEqual(response.status_code, 201, response.content[:300])
        told = response.json()
        self.assertIn("missing", {one["kind"] for one in told["faults"] if label in one["regions"]})
        self.assertEqual(told["recipe_number"], 1)
        self.assertTrue(told["faults"][0]["next_time"])
        self.assertGreater(told["faults"][0]["size"], 5)
        for view in ("photo", "flat", "plan", "difference"):
            picture = self.client.get(f"/api/v1/photo-checks/{told['id']}/picture/?view={view}")
            self.assertEqual(picture.status_code, 200, view)
        grey = cv2.imdecode(np.frombuffer(picture.content, np.uint8), cv2.IMREAD_GRAYSCALE)
        labels = region_map(self.piece.stamping, self.piece.sheet()).labels[::SCALE, ::SCALE]
        darkness = {one: 255 - float(np.median(grey[labels == one])) for one in self.labels}
        self.assertEqual(max(darkness, key=darkness.__getitem__), label)
        self.assertEqual(self.send("get", f"photo-checks/{told['id']}/picture/?view=x").status_code, 404)

    def test_a_finding_that_is_fine_stays_so_and_can_be_taken_back(self):
        told = self.post(self.photo(HandFault("missing", (self.labels[0],)))).json()
        fine = self.send("put", f"photo-checks/{told['id']}/fine/", {"place": 0}).json()
        self.assertTrue(fine["faults"][0]["fine"])
        self.assertTrue(self.send("get", f"photo-checks/{told['id']}/").json()["faults"][0]["fine"])
        back = self.send("put", f"photo-checks/{told['id']}/fine/", {"place": 0, "fine": False}).json()
        self.assertFalse(back["faults"][0]["fine"])
        self.assertProblem(self.send("put", f"photo-checks/{told['id']}/fine/", {"place": 99}), 404, "not_found")

    def test_two_cards_of_a_run_are_held_against_each_other(self):
        run = start_run(actor=self.ana, piece=self.piece, version=self.piece.version, cards=2)
        one = self.post(self.photo(), run=run.pk, card=1).json()
        pale = HandFault("pale", (self.labels[0],), size=14.0)
        other = self.post(self.photo(pale, seed=5), run=run.pk, card=2).json()
        self.assertEqual([each["id"] for each in other["others"]], [one["id"]])
        beside = self.send("get", f"photo-checks/{other['id']}/?against={one['id']}").json()
        self.assertEqual(beside["against"], one["id"])
        self.assertIn("card 1", beside["verdict"])
        self.assertProblem(self.send("get", f"photo-checks/{one['id']}/?against=999999"), 404, "not_found")
        other_piece = coloured(make_piece(self.ana, "Else"))
        foreign = start_run(actor=self.ana, piece=other_piece, version=other_piece.version)
        self.assertEqual(self.post(self.photo(), run=foreign.pk).status_code, 404)

    def test_what_is_no_card_is_refused_and_nothing_is_kept(self):
        for name, data, code in (
            ("empty", b"", "not_an_image"),
            ("black", as_file(line_drawing() // 20), "photo_unfit"),
            ("another", as_file(line_drawing()[::-1, ::-1] * 0 + 200), "not_this_card"),
        ):
            with self.subTest(name):
                response = self.post(SimpleUploadedFile("x.png", data, "image/png"))
                self.assertProblem(response, 422, code)
        self.assertEqual(PhotoCheck.objects.count(), 0)
        self.assertFalse(self.piece.recipes.exists())

    def test_a_piece_without_colours_has_nothing_to_compare(self):
        bare = make_piece(self.ana, "Bare")
        response = self.send("post", f"pieces/{bare.pk}/try-photo/", {"light": "easy"}, bare.version)
        self.assertProblem(response, 409, "nothing_to_compare")

    def test_trying_without_a_card_says_that_it_is_simulated(self):
        wish = {"light": "medium", "seed": 3, "faults": [{"kind": "missing", "label": self.labels[0]}]}
        told = self.send("post", f"pieces/{self.piece.pk}/try-photo/", wish, self.piece.version).json()
        self.assertTrue(told["simulated"])
        self.assertIn("missing", {one["kind"] for one in told["faults"]})
        lines = self.send("get", f"pieces/{self.piece.pk}/photo-checks/").json()
        self.assertEqual([one["id"] for one in lines], [told["id"]])
        # Simulated cards teach no swatch anything.
        self.assertEqual(self.send("get", f"pieces/{self.piece.pk}/measured-swatches/").json(), [])

    def test_a_list_of_one_check_and_of_many_takes_the_same_queries(self):
        first = self.post(self.photo()).json()["id"]
        path = f"/api/v1/pieces/{self.piece.pk}/photo-checks/"
        with CaptureQueriesContext(connection) as one:
            self.client.get(path)
        for _ in range(4):
            check = PhotoCheck.objects.get(pk=first)
            check.pk = None
            check.save()
        with self.assertNumQueries(len(one)):
            self.assertEqual(len(self.client.get(path).json()), 5)

    def test_a_piece_with_pale_lines_can_be_tried_without_a_card(self):
        kraft = np.full((300, 360, 3), (170, 132, 96), np.uint8)
        kraft[line_drawing() < 128] = 250
        piece = coloured(make_piece(self.ana, "On kraft", kraft))
        told = self.send("post", f"pieces/{piece.pk}/try-photo/", {"light": "easy"}, piece.version)
        self.assertEqual(told.status_code, 201, told.content[:200])

    def test_a_measured_value_is_taken_over_and_put_back(self):
        drawer = self.ana.drawers.get(medium="marker")
        row = drawer.swatches.first()
        old = [row.lightness, row.a, row.b]
        wish = {"swatch": row.pk, "lab": [61.0, 2.0, 3.0], "measured": "card"}
        path = f"pieces/{self.piece.pk}/measured-swatches/"
        self.assertEqual(self.send("post", path, wish, drawer.version).status_code, 200)
        row.refresh_from_db()
        self.assertEqual(([row.lightness, row.a, row.b], row.measured), ([61.0, 2.0, 3.0], "card"))
        self.assertProblem(self.send("post", path, wish, drawer.version), 412, "changed_elsewhere")
        back = {**wish, "lab": old, "measured": "cap"}
        self.assertEqual(self.send("post", path, back, drawer.version + 1).status_code, 200)
        row.refresh_from_db()
        self.assertEqual([row.lightness, row.a, row.b], old)

    def test_photos_outlast_the_sweep_and_go_with_their_check(self):
        told = self.post(self.photo()).json()
        check = PhotoCheck.objects.get(pk=told["id"])
        sweep(now_s=4e9, young_s=0)
        self.assertTrue(store.fetch(check.flat_sha256))
        self.assertEqual(self.send("delete", f"photo-checks/{check.pk}/").status_code, 204)
        self.assertFalse(PhotoCheck.objects.exists())

    def test_what_a_photo_takes_counts_for_its_piece_until_it_is_forgotten_and_after_a_restore(self):
        before = Piece.objects.get(pk=self.piece.pk).stored_bytes
        check = PhotoCheck.objects.get(pk=self.post(self.photo()).json()["id"])
        lies_there = sum(store.size_of(name) for name in (check.photo_sha256, check.flat_sha256))
        self.assertEqual(Piece.objects.get(pk=self.piece.pk).stored_bytes, before + lies_there)
        with TemporaryDirectory() as folder:
            place = Path(folder) / "backup"
            place.write_bytes(b"".join(write_backup(self.ana)))
            eve = make_user("eve")
            restore_backup(owner=eve, path=place)
        brought = PhotoCheck.objects.get(owner=eve).piece
        self.assertGreaterEqual(brought.stored_bytes, before + lies_there)
        forget_check(actor=self.ana, check=check)
        self.assertEqual(Piece.objects.get(pk=self.piece.pk).stored_bytes, before)

    def test_a_backup_brings_photo_checks_to_another_account(self):
        self.post(self.photo())
        eve = make_user("eve")
        with TemporaryDirectory() as folder:
            place = Path(folder) / "backup"
            place.write_bytes(b"".join(write_backup(self.ana)))
            restore_backup(owner=eve, path=place)
            held = members(place.read_bytes())
            for change in (
                lambda line: line.update(photo_sha256=[None]),
                lambda line: line.update(fine=True),
                lambda line: line.update(fine=[10**18]),
                lambda line: line.update(card=10**18),
                lambda line: line["readings"][0]["zones"][0].update(zone=10**18),
                lambda line: line["readings"][0].update(label=10**18),
                lambda line: line.update(readings=[{}]),
            ):
                place.write_bytes(packed(altered(held, "checks", change)))
                with self.subTest(change=change), self.assertRaises(Refused):
                    restore_backup(owner=make_user(f"eve-{id(change)}"), path=place)
        there = PhotoCheck.objects.get(owner=eve)
        self.assertEqual(there.verdict, PhotoCheck.objects.get(owner=self.ana).verdict)
        self.assertEqual(there.piece.owner_id, eve.pk)
        self.assertTrue(b"".join(write_backup(eve)))


class StampAgainTest(ApiTestCase):
    @classmethod
    def setUpTestData(cls):
        super().setUpTestData()
        cls.piece = coloured(make_piece(cls.ana, "Once"))

    def setUp(self):
        super().setUp()
        self.client.force_login(self.ana)

    def test_everything_is_carried_onto_another_stamping_on_another_paper(self):
        photo, _ = photograph(as_file(line_drawing()), seed=3)
        image = SimpleUploadedFile("again.jpg", photo, "image/jpeg")
        response = self.client.post(
            f"/api/v1/pieces/{self.piece.pk}/stamp-again/", {"image": image, "paper": "kraft", "title": "Twice"}
        )
        self.assertEqual(response.status_code, 201, response.content[:300])
        told = response.json()
        twice = Piece.objects.get(pk=told["piece"])
        first, second = self.piece.sheet(), twice.sheet()
        self.assertEqual(second.regions.settings, first.regions.settings)
        self.assertEqual(second.light, first.light)
        self.assertEqual((second.stamp.title, second.stamp.paper), ("Twice", "kraft"))
        self.assertGreater(len(told["changes"]), 0)
        self.assertIn("Kraft", told["changes"][0]["sentence"])
        # The first stays as it was.
        self.assertEqual(Piece.objects.get(pk=self.piece.pk).version, self.piece.version)

    def test_another_stamp_is_refused_with_the_reason(self):
        other = line_drawing()[::-1].copy()
        other[60:200, 20:330] = 255
        other[100:104, 30:300] = other[150:154, 30:300] = 0
        other[100:154, 30:34] = 0
        image = SimpleUploadedFile("other.png", as_file(other), "image/png")
        response = self.client.post(f"/api/v1/pieces/{self.piece.pk}/stamp-again/", {"image": image})
        self.assertEqual(response.status_code, 422)
        self.assertIn("not_the_same_stamp", response.json()["type"])
        self.assertEqual(Piece.objects.owned_by(self.ana).count(), 2)

    def test_a_paper_that_does_not_exist_is_refused(self):
        image = as_file(line_drawing())
        with self.assertRaisesMessage(Exception, "There is no paper 'velvet'"):
            stamp_again(actor=self.ana, piece=self.piece, data=image, paper="velvet")
