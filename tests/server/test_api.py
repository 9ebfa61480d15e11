"""The API: who may do what, agreements, versions, and every refusal as a problem document."""

from __future__ import annotations

import json
from pathlib import Path

import numpy as np
from django.core.files.uploadedfile import SimpleUploadedFile
from django.core.management import call_command
from django.test import TestCase
from django.urls import get_resolver

from server.accounts.services import DEMO_USERNAME
from server.pieces import bench
from server.pieces.models import Piece, RecipeRecord, Step
from tests.builders import as_file, coloured, line_drawing, make_piece, make_user

ROOT = Path(__file__).parents[2]


class ApiTestCase(TestCase):
    @classmethod
    def setUpTestData(cls):
        cls.ana, cls.ben = make_user("ana"), make_user("ben")
        cls.piece = coloured(make_piece(cls.ana))

    def setUp(self):
        self.piece.refresh_from_db()
        self.client.force_login(self.ana)

    def send(self, method: str, path: str, body=None, version: int | None = None, **more):
        headers = {"If-Match": f'"{version}"'} if version is not None else {}
        return getattr(self.client, method)(
            f"/api/v1/{path}",
            data=None if body is None else json.dumps(body),
            content_type="application/json",
            headers=headers,
            **more,
        )

    def change(self, path: str, body=None, method: str = "put", version: int | None = None):
        if version is None:
            version = Piece.objects.get(pk=self.piece.pk).version
        return self.send(method, f"pieces/{self.piece.pk}/{path}/", body, version)

    def assertProblem(self, response, status: int, code: str, words: str = ""):
        self.assertEqual(response.status_code, status, response.content[:300])
        self.assertEqual(response["Content-Type"], "application/problem+json")
        body = response.json()
        self.assertEqual(body["type"], f"/problems/{code}")
        self.assertEqual(body["status"], status)
        self.assertIn(words, json.dumps(body, ensure_ascii=False))
        self.assertNotIn("Traceback", json.dumps(body))

    def upload(self, data: bytes, **fields):
        return self.client.post(
            "/api/v1/pieces/", {"image": SimpleUploadedFile("scan.png", data), "title": "Scan"} | fields
        )


PIECE_ROUTES = {
    "": ("get", None, 200),
    "stamp/": ("put", {"title": "New"}, 200),
    "lamp/": ("put", {"azimuth_deg": 10, "elevation_deg": 30}, 200),
    "zoning/": ("put", {"true_to_scene": 0.5}, 200),
    "school/": ("put", {"school": "M3"}, 200),
    "medium/": ("put", {"medium": "pencil", "drawer": "own"}, 200),
    "regions/": ("put", {"labels": [1], "name": "Moon"}, 200),
    "join/": ("post", {"labels": [2, 3]}, 200),
    "ramp/": ("put", {"labels": [1], "codes": []}, 200),
    "ramp-proposals/": ("post", {"wish_hex": "#aa5544", "shades": 2}, 200),
    "colour-wishes/": ("post", None, 200),
    "undo/": ("post", None, 200),
    "redo/": ("post", None, 200),
    "plan/": ("get", None, 200),
    "picture/": ("get", None, 200),
    "labels/": ("get", None, 200),
    "recipes/": ("get", None, 200),
    "recipes/1/": ("get", None, 404),
}
OPEN_ROUTES = {"session/", "session/demo/", "accounts/"}
LIST_ROUTES = {"pieces/", "pieces/import/", "drawers/", "trade/"}


class PermissionTest(ApiTestCase):
    def test_visitor_other_and_owner_get_401_404_and_their_answer(self):
        own = self.ana.drawers.get(medium="pencil").pk
        for who, index in ((None, 0), (self.ben, 1), (self.ana, 2)):
            self.client.logout()
            if who:
                self.client.force_login(who)
            for route, (method, body, status) in PIECE_ROUTES.items():
                wanted = (401, 404, status)[index]
                sent = {**body, "drawer": own} if body and body.get("drawer") == "own" else body
                version = Piece.objects.get(pk=self.piece.pk).version
                with self.subTest(who=str(who), route=route):
                    response = self.send(method, f"pieces/{self.piece.pk}/{route}", sent, version)
                    self.assertEqual(response.status_code, wanted, response.content[:200])

    def test_deleting_is_for_the_owner_alone(self):
        self.client.force_login(self.ben)
        self.assertEqual(self.send("delete", f"pieces/{self.piece.pk}/").status_code, 404)
        self.assertTrue(Piece.objects.filter(pk=self.piece.pk).exists())
        self.client.force_login(self.ana)
        self.assertEqual(self.send("delete", f"pieces/{self.piece.pk}/").status_code, 204)
        self.assertFalse(Step.objects.filter(piece_id=self.piece.pk).exists())

    def test_another_owners_piece_stays_as_it_was(self):
        self.client.force_login(self.ben)
        before = self.piece.version
        self.assertProblem(self.change("lamp", {"azimuth_deg": 1, "elevation_deg": 1}), 404, "not_found")
        self.assertEqual(Piece.objects.get(pk=self.piece.pk).version, before)

    def test_another_owners_drawer_is_not_there(self):
        other = self.ben.drawers.get(medium="pencil")
        self.assertProblem(self.change("medium", {"medium": "pencil", "drawer": other.pk}), 404, "not_found")
        self.assertProblem(self.send("get", f"drawers/{other.pk}/"), 404, "not_found")

    def test_lists_hold_only_ones_own(self):
        self.client.force_login(self.ben)
        self.assertEqual(self.send("get", "pieces/").json()["results"], [])
        self.assertEqual(
            {drawer["name"] for drawer in self.send("get", "drawers/").json()["results"]},
            {"Marker drawer", "Paint box", "Pencil roll"},
        )

    def test_every_route_of_the_api_stands_in_a_table_here(self):
        found = set()
        for group in get_resolver().url_patterns:
            for pattern in getattr(group, "url_patterns", []):
                found.add(str(pattern.pattern).strip("^$").replace("\\Z", ""))
        known = OPEN_ROUTES | LIST_ROUTES
        known |= {rf"pieces/(?P<pk>\d+)/{route}" for route in PIECE_ROUTES if not route.startswith("recipes/1")}
        known |= {r"pieces/(?P<pk>\d+)/recipes/(?P<number>\d+)/", "drawers/(?P<pk>[^/.]+)/"}
        self.assertEqual(found, known)

    def test_lists_and_words_need_signing_in(self):
        self.client.logout()
        for route in LIST_ROUTES:
            with self.subTest(route=route):
                self.assertProblem(self.send("post" if "import" in route else "get", route), 401, "not_authenticated")


class AgreementTest(TestCase):
    def test_the_checked_in_schema_is_the_codes_own(self):
        import io

        out = io.StringIO()
        call_command("spectacular", "--fail-on-warn", stdout=out)
        self.assertEqual(out.getvalue().strip(), (ROOT / "server/schema.yml").read_text().strip())

    def test_no_model_change_lacks_a_migration(self):
        call_command("makemigrations", "--check", "--dry-run", verbosity=0)


class VersionTest(ApiTestCase):
    def test_a_change_on_an_old_version_answers_412_and_changes_nothing(self):
        old = self.piece.version
        self.assertEqual(self.change("lamp", {"azimuth_deg": 10, "elevation_deg": 30}, version=old).status_code, 200)
        self.assertProblem(
            self.change("lamp", {"azimuth_deg": 99, "elevation_deg": 30}, version=old),
            412,
            "changed_elsewhere",
            "another tab",
        )
        self.assertEqual(self.send("get", f"pieces/{self.piece.pk}/").json()["lamp"]["azimuth_deg"], 10)

    def test_a_change_without_a_version_answers_428(self):
        self.assertProblem(
            self.send("put", f"pieces/{self.piece.pk}/lamp/", {"azimuth_deg": 1, "elevation_deg": 1}),
            428,
            "version_missing",
        )

    def test_undo_and_redo_walk_the_steps_and_a_new_step_drops_the_undone(self):
        lamps = lambda: self.send("get", f"pieces/{self.piece.pk}/").json()["lamp"]["azimuth_deg"]  # noqa: E731
        for azimuth in (10, 20, 30):
            self.change("lamp", {"azimuth_deg": azimuth, "elevation_deg": 30})
        self.change("undo", method="post")
        self.change("undo", method="post")
        self.assertEqual(lamps(), 10)
        self.change("redo", method="post")
        self.assertEqual(lamps(), 20)
        self.change("lamp", {"azimuth_deg": 77, "elevation_deg": 30})
        self.assertProblem(self.change("redo", method="post"), 409, "no_such_step", "nothing to redo")
        self.change("undo", method="post")
        self.assertEqual(lamps(), 20)

    def test_a_change_that_changes_nothing_is_no_step(self):
        lamp = {"azimuth_deg": 315, "elevation_deg": 40, "ambient": 0.2}
        self.assertEqual(self.change("lamp", lamp).json()["version"], self.piece.version)


class SheetTest(ApiTestCase):
    def test_a_region_is_renamed_reshaped_and_left_as_paper(self):
        body = self.change(
            "regions", {"labels": [1], "name": "Moon", "form": "tube", "axis_deg": 90, "left_as_paper": True}
        ).json()
        moon = body["regions"][0]
        self.assertEqual(
            (moon["name"], moon["form"], moon["axis_deg"], moon["left_as_paper"]), ("Moon", "tube", 90, True)
        )

    def test_joined_regions_keep_the_first_ones_name_and_their_summed_area(self):
        before = {region["label"]: region for region in self.send("get", f"pieces/{self.piece.pk}/").json()["regions"]}
        after = {
            region["label"]: region for region in self.change("join", {"labels": [3, 2]}, "post").json()["regions"]
        }
        self.assertEqual(set(after), {1, 2})
        self.assertEqual(after[2]["name"], before[3]["name"])
        self.assertAlmostEqual(after[2]["area_mm2"], before[2]["area_mm2"] + before[3]["area_mm2"], delta=0.2)

    def test_proposed_ramps_can_be_laid_and_changed_by_hand(self):
        ramps = self.change("ramp-proposals", {"wish_hex": "#4060c0", "shades": 3}, "post").json()
        self.assertGreaterEqual(len(ramps), 2)
        codes = [swatch["code"] for swatch in ramps[0]["swatches"]]
        region = self.change("ramp", {"labels": [1], "codes": codes, "wish_hex": "#4060c0"}).json()["regions"][0]
        self.assertEqual([swatch["code"] for swatch in region["ramp"]["swatches"]], codes)
        darkest = min(self.ana.drawers.get(medium="marker").swatches.all(), key=lambda one: one.lightness)
        by_hand = [*codes[:2], darkest.code]
        region = self.change("ramp", {"labels": [1], "codes": by_hand, "by_hand": True}).json()["regions"][0]
        self.assertTrue(region["by_hand"])
        self.assertEqual(region["wish_hex"], "#4060c0")

    def test_another_number_of_shades_takes_the_ramp_off(self):
        region = self.change("regions", {"labels": [1], "shades": 2}).json()["regions"][0]
        self.assertIsNone(region["ramp"])

    def test_watercolour_ramps_may_use_thinner_washes(self):
        paints = self.ana.drawers.get(medium="watercolour")
        self.change("medium", {"medium": "watercolour", "drawer": paints.pk})
        ramps = self.change("ramp-proposals", {"wish_hex": "#7f9fd0", "shades": 3}, "post").json()
        self.assertTrue(any("wash" in swatch["name"] for ramp in ramps for swatch in ramp["swatches"]))

    def test_the_plan_holds_every_pass_and_the_habit_to_compare_with(self):
        plan = self.send("get", f"pieces/{self.piece.pk}/plan/").json()
        self.assertEqual([one["number"] for one in plan["passes"]], list(range(1, len(plan["passes"]) + 1)))
        self.assertLessEqual(plan["pen_changes"], plan["by_region_pen_changes"])
        self.assertEqual(plan["uncoloured"], 0)

    def test_pictures_show_the_plan_and_follow_the_lamp(self):
        def pixels(query: str) -> np.ndarray:
            import cv2

            data = self.client.get(f"/api/v1/pieces/{self.piece.pk}/picture/?{query}").content
            return cv2.imdecode(np.frombuffer(data, np.uint8), cv2.IMREAD_COLOR).astype(int)

        coloured_, values = pixels("view=coloured"), pixels("view=values")
        self.assertEqual(coloured_.shape, (300, 360, 3))
        self.assertGreater(np.ptp(coloured_, axis=2).max(), 40)
        self.assertLess(np.ptp(values, axis=2).max(), 12)
        left, right = (
            pixels(f"view=values&live=true&azimuth_deg={azimuth}&elevation_deg=30")[55, :, 0] for azimuth in (270, 90)
        )
        self.assertGreater(left[25], right[25])
        self.assertLess(left[65], right[65])

    def test_wrong_values_are_refused_with_the_field_at_fault(self):
        for path, body, pointer in (
            ("lamp", {"azimuth_deg": 400, "elevation_deg": 30}, "#/azimuth_deg"),
            ("lamp", {"elevation_deg": 30}, "#/azimuth_deg"),
            ("regions", {"labels": [99], "name": "x"}, "#/labels"),
            ("regions", {"labels": [1, 2], "name": "x"}, "#/name"),
            ("regions", {"labels": [], "name": "x"}, "#/labels"),
            ("regions", {"labels": [1], "form": "cube"}, "#/form"),
            ("school", {"school": "X9"}, "#/school"),
            ("stamp", {"paper": "foil"}, "#/paper"),
            ("ramp", {"labels": [1], "codes": [], "wish_hex": "red"}, "#/wish_hex"),
            ("medium", {"medium": "pencil", "drawer": self.ana.drawers.get(medium="marker").pk}, "#/drawer"),
        ):
            with self.subTest(path=path, body=body):
                self.assertProblem(self.change(path, body), 422, "invalid_fields", pointer)

    def test_core_refusals_keep_their_sentence(self):
        self.assertProblem(
            self.change("ramp", {"labels": [1], "codes": ["ghost-1"]}), 422, "recipe_unreadable", "no swatch 'ghost-1'"
        )
        self.assertProblem(
            self.change("school", {"school": "W1"}), 422, "recipe_unreadable", "no school of shade order"
        )
        self.assertProblem(self.change("join", {"labels": [1]}, "post"), 422, "edit_impossible", "at least two")
        self.assertProblem(
            self.client.get(f"/api/v1/pieces/{self.piece.pk}/picture/?view=xray"), 422, "view_unknown", "xray"
        )
        self.assertProblem(
            self.client.get(f"/api/v1/pieces/{self.piece.pk}/picture/?azimuth_deg=nan&elevation_deg=3"),
            422,
            "invalid_fields",
        )


class UploadTest(ApiTestCase):
    def test_a_scan_becomes_a_piece_on_top_of_the_shelf(self):
        response = self.upload(as_file(line_drawing()), width_mm="60")
        self.assertEqual(response.status_code, 201, response.content[:300])
        self.assertEqual(len(response.json()["regions"]), 3)
        self.assertAlmostEqual(response.json()["width_mm"], 60, delta=0.1)
        self.assertEqual(self.send("get", "pieces/").json()["results"][0]["title"], "Scan")

    def test_bad_pictures_are_refused_and_leave_nothing_behind(self):
        whole = as_file(line_drawing(), dpi=(150, 150))
        before = Piece.objects.count(), Step.objects.count()
        for data, code, words in (
            (b"", "not_an_image", "empty"),
            (b"words", "not_an_image", "not a PNG"),
            (whole[:900], "not_an_image", "cut short"),
            (as_file(line_drawing()), "resolution_missing", "Give the width"),
            (as_file(np.full((300, 300), 255, np.uint8), dpi=(150, 150)), "no_regions", "blank"),
            (as_file(np.zeros((300, 300), np.uint8), dpi=(150, 150)), "no_regions", "black"),
        ):
            with self.subTest(words=words):
                self.assertProblem(self.upload(data), 422, code, words)
        self.assertEqual((Piece.objects.count(), Step.objects.count()), before)

    def test_a_picture_with_too_many_pixels_answers_413(self):
        from tests.core.test_impression import huge_png

        self.assertProblem(self.upload(huge_png(20_000, 10_000)), 413, "image_too_large")

    def test_a_missing_file_or_title_and_a_width_that_is_no_number_are_named(self):
        self.assertProblem(self.client.post("/api/v1/pieces/", {"title": "x"}), 422, "invalid_fields", "#/image")
        self.assertProblem(self.upload(as_file(line_drawing()), title=""), 422, "invalid_fields", "#/title")
        self.assertProblem(self.upload(as_file(line_drawing()), width_mm="wide"), 422, "invalid_fields", "#/width_mm")

    def test_a_file_over_the_limit_is_refused_before_it_is_read(self):
        with self.settings(LARGEST_UPLOAD_BYTES=1000):
            self.assertProblem(self.upload(as_file(line_drawing())), 422, "invalid_fields", "are the most")


class RecipeTest(ApiTestCase):
    def keep(self) -> int:
        response = self.change("recipes", method="post")
        self.assertEqual(response.status_code, 201, response.content[:300])
        return response.json()["latest_recipe"]

    def import_file(self, data: bytes):
        return self.client.post("/api/v1/pieces/import/", {"recipe": SimpleUploadedFile("r.json", data)})

    def test_versions_are_frozen_and_say_what_changed(self):
        self.assertEqual(self.keep(), 1)
        first = self.send("get", f"pieces/{self.piece.pk}/recipes/1/").content
        self.change("lamp", {"azimuth_deg": 90, "elevation_deg": 20})
        self.assertEqual(self.keep(), 2)
        self.assertEqual(self.send("get", f"pieces/{self.piece.pk}/recipes/1/").content, first)
        lines = self.send("get", f"pieces/{self.piece.pk}/recipes/").json()
        self.assertEqual([line["number"] for line in lines], [1, 2])
        self.assertEqual(lines[1]["changes"], ["Light: from 10:30, 40° high became from 3:00, 20° high."])

    def test_changed_since_is_told_and_taken_back_by_undo(self):
        self.keep()
        self.assertFalse(self.send("get", f"pieces/{self.piece.pk}/").json()["changed_since_recipe"])
        self.assertTrue(self.change("lamp", {"azimuth_deg": 90, "elevation_deg": 20}).json()["changed_since_recipe"])
        self.assertFalse(self.change("undo", method="post").json()["changed_since_recipe"])

    def test_export_delete_import_gives_the_same_bytes_again(self):
        self.keep()
        self.change("join", {"labels": [2, 3]}, "post")
        self.keep()
        data = self.send("get", f"pieces/{self.piece.pk}/recipes/2/").content
        self.send("delete", f"pieces/{self.piece.pk}/")
        response = self.import_file(data)
        self.assertEqual(response.status_code, 201, response.content[:300])
        again = response.json()
        self.assertEqual(self.send("get", f"pieces/{again['id']}/recipes/2/").content, data)
        self.assertEqual(len(again["regions"]), 2)
        self.assertFalse(again["changed_since_recipe"])

    def test_another_account_can_take_the_file_in_and_work_on(self):
        self.keep()
        data = self.send("get", f"pieces/{self.piece.pk}/recipes/1/").content
        self.client.force_login(self.ben)
        piece = self.import_file(data).json()
        self.assertEqual(self.send("get", f"pieces/{piece['id']}/plan/").status_code, 200)
        ramps = self.send("post", f"pieces/{piece['id']}/ramp-proposals/", {"wish_hex": "#4060c0", "shades": 2})
        self.assertEqual(ramps.status_code, 200)

    def test_wrong_recipe_files_are_refused_and_leave_nothing_behind(self):
        self.keep()
        data = self.send("get", f"pieces/{self.piece.pk}/recipes/1/").content
        before = Piece.objects.count(), RecipeRecord.objects.count()

        def damaged(change) -> bytes:
            plain = json.loads(data)
            change(plain)
            return json.dumps(plain).encode()

        for bad, words in (
            (b"", "not JSON"),
            (damaged(lambda plain: plain.update(format_version=2)), "format version 2"),
            (damaged(lambda plain: plain.pop("plan")), "plan"),
            (damaged(lambda plain: plain["sheet"].update(title=7)), "sheet / title"),
            (damaged(lambda plain: plain["sheet"]["regions"][0].update(ramp=["ghost-1"])), "ghost-1"),
            (damaged(lambda plain: plain.update(files={})), "without its picture"),
            (damaged(lambda plain: plain["impression"].update(width_px=9)), "not of the size"),
            (damaged(lambda plain: plain["sheet"]["regions"].pop()), "region"),
        ):
            with self.subTest(words=words):
                self.assertProblem(self.import_file(bad), 422, "recipe_unreadable", words)
        self.assertEqual((Piece.objects.count(), RecipeRecord.objects.count()), before)


class CostTest(ApiTestCase):
    def test_a_shelf_of_one_and_of_twenty_takes_the_same_queries(self):
        with self.assertNumQueries(4):
            self.send("get", "pieces/")
        sheet = self.piece.steps.first().sheet
        for number in range(20):
            copy = Piece.objects.get(pk=self.piece.pk)
            copy.pk, copy.title, copy.position = None, f"Copy {number}", 1
            copy.save()
            Step.objects.create(piece=copy, number=1, what="Copied", sheet=sheet)
        with self.assertNumQueries(4):
            self.assertEqual(self.send("get", "pieces/").json()["count"], 21)


class SessionTest(TestCase):
    def post(self, path: str, **body):
        return self.client.post(f"/api/v1/{path}", data=json.dumps(body), content_type="application/json")

    def test_a_new_account_has_drawers_and_is_signed_in(self):
        response = self.post("accounts/", username="cleo", password="a-quiet-lantern")
        self.assertEqual(response.status_code, 201)
        self.assertEqual(self.client.get("/api/v1/session/").json()["username"], "cleo")
        self.assertEqual(len(self.client.get("/api/v1/drawers/").json()["results"]), 3)

    def test_wrong_words_taken_names_and_weak_passwords_are_said_where_they_belong(self):
        make_user("ana")
        for path, body, pointer in (
            ("session/", {"username": "ana", "password": "wrong"}, "#/password"),
            ("accounts/", {"username": "Ana", "password": "a-quiet-lantern"}, "#/username"),
            ("accounts/", {"username": "dora", "password": "short"}, "#/password"),
            ("accounts/", {"username": "a b", "password": "a-quiet-lantern"}, "#/username"),
        ):
            with self.subTest(body=body):
                response = self.post(path, **body)
                self.assertEqual(response.status_code, 422)
                self.assertEqual(response.json()["errors"][0]["pointer"], pointer)

    def test_the_demo_opens_without_a_password_only_when_it_is_loaded(self):
        self.assertEqual(self.post("session/demo/").status_code, 409)
        make_user(DEMO_USERNAME)
        self.assertEqual(self.post("session/demo/").json()["username"], DEMO_USERNAME)
        self.assertEqual(self.client.delete("/api/v1/session/").status_code, 204)
        self.assertIsNone(self.client.get("/api/v1/session/").json()["username"])

    def test_a_forged_request_from_elsewhere_is_refused(self):
        from django.test import Client

        make_user("ana")
        client = Client(enforce_csrf_checks=True)
        client.login(username="ana", password="ana-has-a-long-word")
        self.assertEqual(client.post("/api/v1/pieces/", {}).status_code, 403)

    def test_an_unknown_address_is_a_problem_document_and_pages_carry_a_policy(self):
        response = self.client.get("/api/v1/nowhere/")
        self.assertEqual((response.status_code, response["Content-Type"]), (404, "application/problem+json"))
        self.assertIn("default-src 'self'", self.client.get("/")["Content-Security-Policy"])


class MemoryTest(TestCase):
    def test_it_keeps_the_last_few_and_makes_each_only_once(self):
        made = []
        memory = bench.Memory(2)
        for key in ("a", "b", "a", "c", "b"):
            memory.get(key, lambda key=key: made.append(key) or key)
        self.assertEqual(made, ["a", "b", "c", "b"])
