"""Drawers over the API: editing, tables in and out, search by colour, charts and the reader."""

from __future__ import annotations

import json

from django.core.files.uploadedfile import SimpleUploadedFile

from paleta.colour import to_d65
from server.drawers.models import Drawer, SwatchRecord
from tests.server.base import ApiTestCase


class DrawerTestCase(ApiTestCase):
    def setUp(self):
        super().setUp()
        self.drawer = self.ana.drawers.get(medium="marker")

    def at(self, path: str = "") -> str:
        return f"drawers/{self.drawer.pk}/{path}"

    def alter(self, method: str, path: str, body=None, *, drawer: int | None = None, version: int | None = None):
        """A change of a drawer, on the version it has now unless another is named."""
        pk = drawer or self.drawer.pk
        now = Drawer.objects.get(pk=pk).version
        return self.send(method, f"drawers/{pk}/{path}", body, now if version is None else version)

    def swatch(self, code: str) -> str:
        return f"swatches/{self.drawer.swatches.get(code=code).pk}/"

    def records(self) -> dict[str, dict]:
        return {one["code"]: one for one in self.send("get", self.at()).json()["records"]}


class SwatchTest(DrawerTestCase):
    def test_a_swatch_is_added_changed_and_removed(self):
        swatch = {"code": "t1", "name": "Test", "lab": [60, 20, -5], "two_coats": [48, 28, -7], "maker": "own mix"}
        self.assertEqual(self.alter("post", "swatches/", swatch).status_code, 200)
        self.assertEqual(self.records()["t1"]["two_coats"], [48, 28, -7])
        self.alter("patch", self.swatch("t1"), {"running_low": True, "hex": "#336699"})
        self.assertTrue(self.records()["t1"]["running_low"])
        self.assertEqual(self.records()["t1"]["hex"], "#336699")
        self.alter("delete", self.swatch("t1"))
        self.assertNotIn("t1", self.records())

    def test_opacity_and_a_white_point_are_kept_as_what_they_mean(self):
        gouache = {"code": "g1", "name": "Gouache", "lab": [60, 20, -5], "white": "D50", "opacity": 0.9}
        self.assertEqual(self.alter("post", "swatches/", gouache).status_code, 200)
        kept = self.records()["g1"]
        self.assertEqual((kept["opacity"], kept["lab"]), (0.9, list(to_d65((60, 20, -5), "D50"))))
        self.assertEqual(self.drawer.swatches.get(code="g1").as_core("marker").opacity, 0.9)
        refused = self.alter("post", "swatches/", {**gouache, "code": "g2", "opacity": 90})
        self.assertProblem(refused, 422, "invalid_fields", "opacity")

    def test_a_colour_that_leaves_its_bounds_under_our_white_is_refused(self):
        for lab in ([99, 127, 127], [60, -128, 127], [5, 128, -128]):
            with self.subTest(lab=lab):
                answer = self.alter("post", "swatches/", {"code": "x", "name": "X", "lab": lab, "white": "D50"})
                self.assertIn(answer.status_code, (200, 422))
                if answer.status_code == 200:
                    self.alter("delete", self.swatch("x"))

    def test_what_was_measured_reaches_the_core_and_a_table_of_it_comes_back(self):
        swatch = {"code": "t1", "name": "Test", "lab": [60, 20, -5], "two_coats": [48, 28, -7], "opacity": 0.2}
        self.alter("post", "swatches/", swatch)
        self.assertEqual(self.drawer.swatches.get(code="t1").as_core("marker").two_coats, (48, 28, -7))
        table = self.client.get(f"/api/v1/{self.at('export.csv/')}").content.decode()
        preview = self.send("post", self.at("table-preview/"), {"text": table}).json()
        self.assertEqual((preview["changes"], preview["bad"], preview["new"]), (0, 0, 0))

    def test_a_marker_paler_than_its_paper_says_so(self):
        self.alter("post", "swatches/", {"code": "w", "name": "Glow", "lab": [99, 0, 10]})
        self.assertIn("paler than its paper", self.records()["w"]["doubt"])
        others = [one["doubt"] for code, one in self.records().items() if code != "w"]
        self.assertEqual(set(others), {""})

    def test_impossible_swatches_are_refused_at_their_field(self):
        for swatch, status, words in (
            ({"code": "t", "name": "T", "lab": [150, 0, 0]}, 422, "L* must lie"),
            ({"code": "t", "name": "T", "lab": [1, 2]}, 422, "three numbers"),
            ({"code": "t", "name": "T"}, 422, "Give its colour"),
            ({"code": "rose-11", "name": "T", "hex": "#aabbcc"}, 422, "is taken"),
            ({"name": "T", "hex": "#aabbcc"}, 422, "code"),
            ({"code": "..", "name": "T", "hex": "#aabbcc"}, 422, "cannot be a code"),
            ({"code": "a/b", "name": "T", "hex": "#aabbcc"}, 422, "cannot be a code"),
            ({"code": "a\tb", "name": "T", "hex": "#aabbcc"}, 422, "cannot be a code"),
            ({"code": "t", "name": "T", "hex": "#aabbcc", "measured": "eye"}, 422, "measured"),
        ):
            with self.subTest(words=words):
                response = self.alter("post", "swatches/", swatch)
                self.assertEqual(response.status_code, status)
                self.assertIn(words, response.content.decode())
        self.assertProblem(self.alter("patch", "swatches/999999/", {"name": "x"}), 404, "not_found", "no such swatch")

    def test_a_retired_swatch_stays_but_is_offered_no_more(self):
        self.alter("patch", self.swatch("rose-11"), {"retired": True})
        body = self.send("get", self.at()).json()
        self.assertIn("rose-11", {one["code"] for one in body["records"]})
        self.assertNotIn("rose-11", {one["code"] for one in body["swatches"]})

    def test_drawers_are_made_renamed_and_deleted(self):
        made = self.send("post", "drawers/", {"name": "Travel set", "medium": "soluble"}).json()
        self.assertEqual(made["records"], [])
        self.assertEqual(
            self.alter("patch", "", {"name": "Holiday set"}, drawer=made["id"]).json()["name"], "Holiday set"
        )
        self.assertEqual(self.send("delete", f"drawers/{made['id']}/").status_code, 204)
        self.assertFalse(Drawer.objects.filter(pk=made["id"]).exists())

    def test_a_piece_keeps_its_colours_when_its_drawer_is_gone(self):
        before = self.send("get", f"pieces/{self.piece.pk}/").json()["regions"]["list"]
        self.send("delete", self.at())
        self.assertEqual(self.send("get", f"pieces/{self.piece.pk}/").json()["regions"]["list"], before)

    def test_most_like_a_colour_comes_first(self):
        found = self.send("get", self.at("like/?hex=%23c25a7f")).json()
        self.assertEqual(found[0]["code"], "rose-14")
        apart = [one["difference"] for one in found]
        self.assertEqual(apart, sorted(apart))
        self.assertProblem(self.send("get", self.at("like/?hex=red")), 422, "invalid_fields")


class GuardTest(DrawerTestCase):
    def test_a_change_on_an_old_version_answers_412_and_changes_nothing(self):
        old = self.drawer.version
        self.assertEqual(self.alter("patch", "", {"name": "Mine"}).json()["version"], old + 1)
        response = self.alter("patch", "", {"name": "Yours"}, version=old)
        self.assertProblem(response, 412, "changed_elsewhere", "another tab")
        for path, body in (
            ("table/", {"text": "a\tA\t#aa5544"}),
            ("swatches/", {"code": "t", "name": "T", "lab": [9, 0, 0]}),
        ):
            self.assertEqual(self.alter("post", path, body, version=old).status_code, 412)
        self.assertEqual(Drawer.objects.get(pk=self.drawer.pk).name, "Mine")
        self.assertEqual(self.drawer.swatches.count(), 84)

    def test_a_change_without_a_version_answers_428(self):
        self.assertProblem(self.send("patch", self.at(), {"name": "Mine"}), 428, "version_missing")

    def test_a_swatch_of_a_code_that_looks_like_an_address_is_changed_and_removed_alone(self):
        """Such codes came in before they were refused."""
        for code in ("..", "a/b", "."):
            record = SwatchRecord.objects.create(drawer=self.drawer, code=code, name=code, lightness=50, a=0, b=0)
            path = f"swatches/{record.pk}/"
            self.assertEqual(self.alter("patch", path, {"running_low": True}).status_code, 200)
            self.assertEqual(self.alter("delete", path).status_code, 200)
        self.assertEqual(self.drawer.swatches.count(), 84)

    def test_bad_codes_in_a_table_are_bad_rows(self):
        rows = "..\tUp\t#aa5544\na/b\tSlash\t#aa5544\nfine\tFine\t#aa5544"
        body = self.send("post", self.at("table-preview/"), {"text": rows}).json()
        self.assertEqual([row["kind"] for row in body["rows"]], ["bad", "bad", "new"])


class TableTest(DrawerTestCase):
    def test_a_table_is_looked_at_before_anything_is_stored(self):
        text = "code,name,L,a,b\nrose-11,Rose eleven,88,14,1\nn1,New,50,10,10\nbad,Bad,300,0,0\nn1,Twice,1,2,3\n"
        before = self.drawer.swatches.count()
        body = self.send("post", self.at("table-preview/"), {"text": text}).json()
        self.assertEqual([row["kind"] for row in body["rows"]], ["changes", "new", "bad", "bad"])
        self.assertEqual((body["new"], body["changes"], body["bad"]), (1, 1, 2))
        self.assertEqual(self.drawer.swatches.count(), before)
        self.alter("post", "table/", {"text": text})
        self.assertEqual(self.drawer.swatches.count(), before + 1)
        self.assertEqual(self.records()["rose-11"]["name"], "Rose eleven")

    def test_what_is_exported_comes_back_as_it_was(self):
        for kind in ("csv", "gpl"):
            data = self.client.get(f"/api/v1/{self.at(f'export.{kind}/')}").content
            file = SimpleUploadedFile(f"drawer.{kind}", data)
            body = self.client.post(f"/api/v1/{self.at('table-preview/')}", {"table": file}).json()
            with self.subTest(kind=kind):
                self.assertEqual((body["new"], body["bad"]), (0, 0))
                self.assertEqual(body["same"] if kind == "csv" else body["same"] + body["changes"], 84)

    def test_tables_that_cannot_be_read_store_nothing(self):
        before = SwatchRecord.objects.count()
        for text, words in (
            ("", "empty"),
            ("name,price\nx,3", "no column"),
            ("a\tb\t#000000\n" * 100_000, "20,000 are the most"),
        ):
            with self.subTest(words=words):
                self.assertProblem(self.alter("post", "table/", {"text": text}), 422, "table_unreadable", words)
        self.assertEqual(self.alter("post", "table/", {}).status_code, 422)
        self.assertEqual(SwatchRecord.objects.count(), before)

    def test_thousands_are_brought_in_at_once(self):
        rows = "\n".join(f"k{k},Colour {k},{20 + k % 70},{k % 40 - 20},{k % 60 - 30}" for k in range(5000))
        self.assertEqual(self.alter("post", "table/", {"text": rows}).status_code, 200)
        self.assertEqual(self.drawer.swatches.count(), 5084)
        ramps = self.send(
            "post", f"pieces/{self.piece.pk}/ramp-proposals/", {"wish_hex": "#aa5544", "shades": 4}
        ).json()
        self.assertEqual(len(ramps[0]["swatches"]), 4)


class ChartTest(DrawerTestCase):
    def make(self, count: int = 10) -> int:
        codes = list(self.drawer.swatches.values_list("code", flat=True))[:count]
        response = self.send("post", self.at("charts/"), {"codes": codes})
        self.assertEqual(response.status_code, 201, response.content)
        return response.json()["number"]

    def read(self, number: int, data: bytes):
        return self.client.post(
            f"/api/v1/{self.at(f'charts/{number}/read/')}", {"photo": SimpleUploadedFile("chart.jpg", data)}
        )

    def test_a_chart_is_printed_photographed_read_and_stored_on_confirmation(self):
        number = self.make()
        self.assertTrue(self.client.get(f"/api/v1/{self.at(f'charts/{number}.pdf/')}").content.startswith(b"%PDF"))
        photo = self.client.get(f"/api/v1/{self.at(f'charts/{number}/simulated.jpg/')}").content
        before = self.records()
        lines = self.read(number, photo).json()
        self.assertEqual(len(lines), 10)
        self.assertEqual(self.records(), before)
        values = [{"code": one["code"], "lab": one["read"], "second": one["second"]} for one in lines if one["read"]]
        self.alter("put", "measures/", {"measured": "chart", "values": values})
        after = self.records()
        self.assertEqual(after[values[0]["code"]]["measured"], "chart")
        self.assertEqual(after[values[0]["code"]]["lab"], values[0]["lab"])
        self.assertEqual(after[values[0]["code"]]["two_coats"], values[0]["second"])
        again = {one["code"]: one["difference"] for one in self.read(number, photo).json()}
        self.assertLess(max(apart for apart in again.values() if apart is not None), 0.2)

    def test_a_photo_of_another_chart_or_of_nothing_is_refused(self):
        first, second = self.make(5), self.make(6)
        photo = self.client.get(f"/api/v1/{self.at(f'charts/{first}/simulated.jpg/')}").content
        self.assertProblem(self.read(second, photo), 422, "chart_unreadable", "another chart")
        self.assertProblem(self.read(first, b"none"), 422, "not_an_image")
        self.assertProblem(self.send("get", self.at("charts/99.pdf/")), 404, "not_found")
        self.assertEqual(self.send("post", self.at("charts/"), {"codes": ["none"]}).status_code, 422)

    def test_the_reader_wants_its_tile_and_then_averages(self):
        rose = self.drawer.swatches.get(code="rose-14").pk
        self.assertProblem(self.send("post", self.at("reader/"), {"swatch": rose}), 422, "reader_not_ready", "tile")
        self.assertIsNone(self.send("post", self.at("reader/"), {}).json()["lab"])
        body = self.send("post", self.at("reader/"), {"swatch": rose}).json()
        self.assertTrue(body["simulated"])
        self.assertLess(body["difference"], 8)
        values = [{"code": "rose-14", "lab": body["lab"]}]
        self.alter("put", "measures/", {"measured": "reader", "values": values})
        self.assertEqual(self.records()["rose-14"]["measured"], "reader")
        self.assertEqual(self.alter("put", "measures/", {"measured": "reader", "values": []}).status_code, 422)

    def test_another_users_drawer_is_not_there(self):
        number = self.make()
        self.client.force_login(self.ben)
        for method, path, body in (
            ("get", f"charts/{number}.pdf/", None),
            ("post", "charts/", {"codes": ["rose-11"]}),
            ("put", "measures/", {"measured": "cap", "values": [{"code": "rose-11", "lab": [1, 1, 1]}]}),
            ("post", "reader/", {}),
            ("patch", self.swatch("rose-11"), {"name": "Mine"}),
            ("delete", "", None),
        ):
            with self.subTest(path=path):
                self.assertEqual(self.send(method, self.at(path), body, 1).status_code, 404)
        self.assertNotIn("Mine", json.dumps(list(self.drawer.swatches.values_list("name", flat=True))))
