"""Colour judgement over the API: value guard, go-tos, palettes, what is missing; schools of one's own, wishes, batches."""

from __future__ import annotations

import numpy as np
from django.core.files.uploadedfile import SimpleUploadedFile

from paleta.order import SCHOOLS, school_to_plain
from server.pieces.models import Piece
from tests.builders import as_file
from tests.server.base import ApiTestCase


def codes_of(region: dict, coat: int = 0) -> list[str]:
    return [one["code"] for one in region["coats"][coat]["ramp"]["swatches"]]


class ColourTestCase(ApiTestCase):
    def at(self, path: str) -> str:
        return f"pieces/{self.piece.pk}/{path}/"

    def shown(self) -> dict:
        return self.send("get", f"pieces/{self.piece.pk}/").json()

    def ramp(self, label: int) -> list[str]:
        region = next(one for one in self.shown()["regions"]["list"] if one["label"] == label)
        return codes_of(region)


class GuardTest(ColourTestCase):
    def make_flat(self):
        drawer = self.send("get", f"drawers/{self.ana.drawers.get(medium='marker').pk}/").json()["swatches"]
        yellows = [one["code"] for one in drawer if one["family"] == "yellow"][:2]
        self.change("ramp", {"labels": [1], "codes": yellows})

    def test_a_shallow_ramp_is_named_and_put_right_by_one_call(self):
        self.make_flat()
        warnings = self.send("get", self.at("value-warnings")).json()
        warning = next(one for one in warnings if one["kind"] == "no_depth")
        self.assertEqual(warning["regions"], [1])
        self.assertEqual(self.change("remedy", {"kind": "no_depth", "regions": [1]}, "post").status_code, 200)
        kinds = {(one["kind"], tuple(one["regions"])) for one in self.send("get", self.at("value-warnings")).json()}
        self.assertNotIn(("no_depth", (1,)), kinds)
        self.assertProblem(
            self.change("remedy", {"kind": "no_depth", "regions": [1]}, "post"), 422, "invalid_fields", "no longer"
        )

    def test_a_line_that_is_meant_so_is_left_and_told_again(self):
        self.make_flat()
        version = Piece.objects.get(pk=self.piece.pk).version
        (told,) = [one for one in self.send("get", self.at("value-warnings")).json() if one["kind"] == "no_depth"]
        self.assertFalse(told["left"])
        choice = {"kind": "no_depth", "regions": told["regions"], "left": True}
        found = self.send("put", self.at("leave-warning"), choice).json()
        self.assertEqual([one["left"] for one in found if one["kind"] == "no_depth"], [True])
        self.assertEqual(self.send("get", self.at("value-warnings")).json(), found)
        self.assertEqual(Piece.objects.get(pk=self.piece.pk).version, version)
        again = self.send("put", self.at("leave-warning"), {**choice, "left": False}).json()
        self.assertFalse(any(one["left"] for one in again))
        odd = self.send("put", self.at("leave-warning"), {**choice, "regions": [99]})
        self.assertProblem(odd, 422, "invalid_fields", "no longer")

    def test_a_key_is_kept_and_guarded(self):
        self.assertEqual(self.change("colours", {"key": "night"}).json()["colours"]["key"], "night")
        warnings = self.send("get", self.at("value-warnings")).json()
        self.assertIn("too light for night key", next(one for one in warnings if one["kind"] == "key")["sentence"])
        self.assertEqual(self.change("colours", {"key": "noon"}).status_code, 422)


class GoToTest(ColourTestCase):
    def test_a_ramp_is_saved_and_laid_on_everything_with_its_tag(self):
        self.change("regions", {"labels": [2, 3], "tags": ["wood"]})
        saved = self.send("post", self.at("keep-goto"), {"label": 1, "name": "Oak", "tags": ["wood"]}).json()
        self.assertEqual(self.send("get", "gotos/").json(), [saved])
        self.change("goto", {"goto": saved["id"]})
        self.assertEqual(self.ramp(2), self.ramp(1))
        self.assertEqual(self.ramp(3), self.ramp(1))
        self.assertEqual(self.send("delete", f"gotos/{saved['id']}/").status_code, 204)

    def test_go_tos_of_others_cannot_be_laid(self):
        saved = self.send("post", self.at("keep-goto"), {"label": 1, "name": "Oak"}).json()
        self.assertProblem(self.change("goto", {"goto": saved["id"]}), 422, "invalid_fields", "No region carries")
        self.client.force_login(self.ben)
        self.assertEqual(self.send("get", "gotos/").json(), [])
        self.assertEqual(self.send("delete", f"gotos/{saved['id']}/").status_code, 404)


class PaletteTest(ColourTestCase):
    def test_a_wheel_gives_colours_with_owned_ramps_and_keeps_locked_ones(self):
        wish = {"first_hex": "#c2587f", "scheme": "triad", "count": 3, "locked": ["#336699"]}
        found = self.send("post", self.at("palette"), wish).json()
        self.assertEqual(len(found), 3)
        self.assertEqual(found[0]["hex"], "#336699")
        self.assertTrue(all(one["ramp"]["swatches"] for one in found))

    def test_a_palette_is_laid_with_the_ramps_that_were_shown(self):
        self.change("ramp", {"labels": [1, 2, 3], "codes": []})
        for first in ("#c98a3c", "#3c7a9a", "#8a6fb0"):
            with self.subTest(first=first):
                wish = {"first_hex": first, "scheme": "split opposites", "count": 4}
                found = self.send("post", self.at("palette"), wish).json()
                shown = {one["hex"]: [swatch["code"] for swatch in one["ramp"]["swatches"]] for one in found}
                laid = self.change("share-palette", {"colours": list(shown), "labels": [1, 2, 3]}).json()
                for region in laid["regions"]["list"]:
                    self.assertEqual(codes_of(region), shown[region["wish_hex"]])

    def test_a_photo_gives_its_colours(self):
        picture = np.zeros((60, 90, 3), np.uint8)
        picture[:, :40], picture[:, 40:70], picture[:, 70:] = (190, 60, 60), (60, 140, 70), (50, 70, 160)
        file = SimpleUploadedFile("theme.png", as_file(picture))
        found = self.client.post(f"/api/v1/{self.at('palette')}", {"photo": file, "count": 3}).json()
        self.assertEqual(len(found), 3)
        self.assertIn("red", found[0]["words"])
        self.assertEqual(self.send("post", self.at("palette"), {"count": 3}).status_code, 422)
        self.assertEqual(
            self.send("post", self.at("palette"), {"first_hex": "#aabbcc", "scheme": "triad", "count": 9}).status_code,
            422,
        )

    def test_a_palette_is_laid_over_what_is_open_and_over_what_is_in_hand(self):
        """Regions 2 and 3 touch; region 1 stands apart."""
        colours = {"colours": ["#b8506f", "#3f9d8a"]}
        self.assertProblem(self.change("share-palette", colours), 422, "invalid_fields", "has its colours already")
        for label in (1, 2, 3):
            self.assertEqual(self.change("ramp", {"labels": [label], "codes": []}).status_code, 200)
        piece = self.change("share-palette", colours).json()
        shown = {one["label"]: one for one in piece["regions"]["list"]}
        self.assertNotEqual(shown[2]["wish_hex"], shown[3]["wish_hex"])
        self.assertTrue(all(len(codes_of(one)) == one["shades"] for one in shown.values()))
        self.assertEqual(piece["undo"], "A palette over 3 regions")
        again = self.change("share-palette", {"colours": ["#405a80"], "labels": [2]}).json()
        hexes = [one["wish_hex"] for one in again["regions"]["list"]]
        self.assertEqual(hexes, [shown[1]["wish_hex"], "#405a80", shown[3]["wish_hex"]])
        self.assertProblem(
            self.change("share-palette", {**colours, "labels": [77]}), 422, "invalid_fields", "no region 77"
        )
        self.assertEqual(self.change("share-palette", {"colours": []}).status_code, 422)
        self.assertEqual(self.change("share-palette", {"colours": ["#aabbcc"] * 7}).status_code, 422)

    def test_a_missing_pen_is_described_beside_the_nearest_owned(self):
        body = self.send("post", self.at("missing-pen"), {"wish_hex": "#00ffc8", "shades": 3}).json()
        self.assertTrue(body["name"])
        self.assertGreater(body["apart"], 5)
        self.assertTrue(body["nearest"]["name"])

    def test_as_many_pencils_as_markers(self):
        pencil = self.ana.drawers.get(medium="pencil")
        found = self.send("post", self.at("counterparts"), {"codes": self.ramp(1), "drawer": pencil.pk}).json()
        self.assertEqual(len({one["code"] for one in found}), len(self.ramp(1)))

    def test_substitutes_come_from_all_drawers(self):
        found = self.send("get", "substitutes/?hex=%23c25a7f").json()
        self.assertGreaterEqual(len({one["drawer"] for one in found}), 2)


class SchoolTest(ColourTestCase):
    def body(self, **changes) -> dict:
        plain = school_to_plain(SCHOOLS["M1"])
        return {"school": {**plain, "name": "My way", **changes}}

    def test_a_school_of_ones_own_is_written_used_and_frozen_in_the_recipe(self):
        made = self.send("post", "schools/", self.body()).json()
        self.assertTrue(made["own"])
        schools = self.change("school", {"school": made["code"]}).json()["order"]["schools"]
        self.assertEqual([one["code"] for one in schools], [made["code"]])
        plan = self.send("get", self.at("plan")).json()
        self.assertEqual(plan["school"], "My way")
        shorter = self.body(steps=school_to_plain(SCHOOLS["M2"])["steps"])
        self.send("put", f"schools/{made['id']}/", shorter)
        self.assertEqual(len(self.send("get", self.at("plan")).json()["passes"]), len(plan["passes"]))
        self.assertEqual(self.send("delete", f"schools/{made['id']}/").status_code, 204)
        self.assertEqual(self.send("get", self.at("plan")).json()["school"], "My way")
        self.assertEqual(self.change("recipes", method="post").status_code, 201)
        data = self.client.get(f"/api/v1/{self.at('recipes/1')}").content
        file = SimpleUploadedFile("r.json", data)
        self.assertEqual(self.client.post("/api/v1/pieces/import/", {"recipe": file}).status_code, 201)

    def test_bad_and_foreign_schools_are_refused(self):
        self.assertProblem(self.send("post", "schools/", self.body(steps=[])), 422, "school_unknown", "first step")
        self.assertProblem(
            self.send("post", "schools/", self.body(steps=[{"which": "palest", "after": 1}])),
            422, "school_unknown", "circle",
        )  # fmt: skip
        made = self.send("post", "schools/", self.body()).json()
        self.client.force_login(self.ben)
        self.assertEqual(self.send("put", f"schools/{made['id']}/", self.body()).status_code, 404)
        self.assertNotIn(made["code"], {one["code"] for one in self.send("get", "schools/").json()})
        self.client.force_login(self.ana)
        self.assertProblem(self.change("school", {"school": "own-999999"}), 422, "invalid_fields")

    def test_wishes_change_the_order(self):
        self.change("regions", {"labels": [3], "role": "focal"})
        self.change("order", {"wish": "focal"})
        passes = self.send("get", self.at("plan")).json()["passes"]
        self.assertEqual(passes[0]["region"], 3)
        self.change("order", {"wish": "regions"})
        plan = self.send("get", self.at("plan")).json()
        self.assertEqual(plan["pen_changes"], plan["by_region_pen_changes"])

    def test_a_batch_of_cards_is_timed(self):
        body = self.send("get", f"pieces/{self.piece.pk}/batch/?copies=6").json()
        self.assertLessEqual(body["duration_s"], body["one_by_one_s"])
        for copies in ("0", "999", "many", ""):
            with self.subTest(copies=copies):
                self.assertEqual(self.send("get", f"pieces/{self.piece.pk}/batch/?copies={copies}").status_code, 422)


class CoatTest(ColourTestCase):
    def drawer(self, medium: str) -> int:
        return self.ana.drawers.get(medium=medium).pk

    def over(self, medium: str = "pencil"):
        return self.change("lay-over", {"drawer": self.drawer(medium)})

    def test_as_many_pencils_go_over_the_marker_that_stays_beneath(self):
        before = self.shown()
        body = self.over().json()
        self.assertEqual(body["colours"]["media"], ["marker", "pencil"])
        self.assertEqual([one["code"] for one in body["order"]["schools"]], ["M1", "P2"])
        for old, new in zip(before["regions"]["list"], body["regions"]["list"], strict=True):
            self.assertEqual(codes_of(new), codes_of(old))
            self.assertEqual(len(codes_of(new, 1)), len(codes_of(old)))
        plan = self.send("get", self.at("plan")).json()
        for region in (1, 2, 3):
            coats = [one["coat"] for one in plan["passes"] if one["region"] == region]
            self.assertEqual(coats, sorted(coats))
            self.assertEqual(set(coats), {0, 1})
        self.assertEqual(self.change("undo", method="post").json()["regions"]["list"], before["regions"]["list"])

    def test_the_picture_shows_both_and_the_recipe_keeps_both(self):
        marker = self.client.get(f"/api/v1/{self.at('picture')}?view=coloured").content
        self.over()
        both = self.client.get(f"/api/v1/{self.at('picture')}?view=coloured").content
        self.assertNotEqual(marker, both)
        self.change("recipes", method="post")
        data = self.client.get(f"/api/v1/{self.at('recipes/1')}").content
        file = SimpleUploadedFile("r.json", data)
        copy = self.client.post("/api/v1/pieces/import/", {"recipe": file}).json()
        self.assertTrue(all(len(one["coats"]) == 2 for one in copy["regions"]["list"]))

    def test_a_coat_that_cannot_lie_there_is_refused_with_the_reason(self):
        self.over()
        wash = [one.code for one in self.ana.drawers.get(medium="watercolour").swatches.all()[:1]]
        answer = self.change("ramp", {"labels": [1], "codes": wash, "medium": "watercolour", "over": True})
        self.assertProblem(answer, 422, "recipe_unreadable", "Wax keeps what is wet")
        self.assertProblem(self.over(), 422, "invalid_fields", "Nothing has its colours")
        self.change("ramp", {"labels": [1, 2, 3], "codes": []})
        self.assertProblem(self.over("inkpad"), 422, "invalid_fields", "Nothing has its colours")

    def test_another_usual_medium_leaves_what_is_coloured_and_its_ramps_replace_or_cover_it(self):
        before = [codes_of(one) for one in self.shown()["regions"]["list"]]
        piece = self.change("medium", {"medium": "pencil", "drawer": self.drawer("pencil")}).json()
        self.assertEqual([codes_of(one) for one in piece["regions"]["list"]], before)
        self.assertEqual((piece["colours"]["medium"], piece["colours"]["media"]), ("pencil", ["marker"]))
        pencil = [one.code for one in self.ana.drawers.get(medium="pencil").swatches.all()[:1]]
        over = self.change("ramp", {"labels": [1], "codes": pencil, "over": True}).json()["regions"]["list"][0]
        self.assertEqual([one["medium"] for one in over["coats"]], ["marker", "pencil"])
        instead = self.change("ramp", {"labels": [2], "codes": pencil}).json()["regions"]["list"][1]
        self.assertEqual([one["medium"] for one in instead["coats"]], ["pencil"])
        less = self.change("ramp", {"labels": [1], "codes": [], "medium": "marker"}).json()["regions"]["list"][0]
        self.assertEqual([one["medium"] for one in less["coats"]], ["pencil"])

    def test_the_same_code_in_two_drawers_stays_two_swatches(self):
        marker, pencil = (self.ana.drawers.get(medium=medium).swatches.first() for medium in ("marker", "pencil"))
        pencil.code = marker.code
        pencil.save()
        self.change("ramp", {"labels": [1], "codes": [marker.code], "medium": "marker"})
        both = {"labels": [1], "codes": [marker.code], "medium": "pencil", "over": True}
        region = self.change("ramp", both).json()["regions"]["list"][0]
        hexes = [one["ramp"]["swatches"][0]["hex"] for one in region["coats"]]
        self.assertEqual(len(set(hexes)), 2)
        passes = self.send("get", self.at("plan")).json()["passes"]
        laid = [(one["medium"], one["swatch"]["hex"]) for one in passes if one["region"] == 1]
        self.assertEqual(laid, [("marker", hexes[0]), ("pencil", hexes[1])])


class AccentTest(ColourTestCase):
    def test_an_accent_is_laid_shown_planned_after_all_coats_and_taken_off(self):
        plain = self.client.get(f"/api/v1/{self.at('picture')}?view=coloured").content
        white = max(self.ana.drawers.get(medium="pencil").swatches.all(), key=lambda one: one.lightness)
        rim = {"labels": [1, 2], "kind": "rim", "medium": "pencil", "code": white.code}
        piece = self.change("accent", rim).json()
        shown = [one["accents"] for one in piece["regions"]["list"]]
        self.assertEqual([len(one) for one in shown], [1, 1, 0])
        self.assertEqual((shown[0][0]["kind"], shown[0][0]["swatch"]["code"]), ("rim", white.code))
        self.assertNotEqual(self.client.get(f"/api/v1/{self.at('picture')}?view=coloured").content, plain)
        last = self.send("get", self.at("plan")).json()["passes"][-2:]
        self.assertEqual({(one["region"], one["zone"]) for one in last}, {(1, RIM), (2, RIM)})
        usual = self.change("accent", {**rim, "kind": "crease", "code": None}).json()["regions"]["list"][0]["accents"][
            -1
        ]
        own = [one["lab"][0] for one in piece["regions"]["list"][0]["coats"][0]["ramp"]["swatches"]]
        self.assertLess(usual["swatch"]["lab"][0], min(own))  # deeper than what it lies on
        self.change("accent", {**rim, "kind": "crease", "code": ""})
        self.ana.drawers.get(medium="watercolour").swatches.all().delete()
        empty = self.change("accent", {**rim, "medium": "watercolour", "code": None})
        self.assertProblem(empty, 422, "invalid_fields", "The drawer is empty")
        bare = self.change("accent", {**rim, "code": ""}).json()
        self.assertEqual([one["accents"] for one in bare["regions"]["list"]], [[], [], []])
        self.assertEqual(bare["colours"]["media"], ["marker"])

    def test_what_it_cannot_be_laid_with_or_on_is_refused(self):
        rim = {"labels": [1], "kind": "rim", "medium": "pencil", "code": "ghost"}
        self.assertProblem(self.change("accent", rim), 422, "recipe_unreadable", "no swatch 'ghost'")
        self.assertProblem(self.change("accent", {**rim, "kind": "sparkle"}), 422, "invalid_fields", "#/kind")
        self.change("ramp", {"labels": [1], "codes": []})
        white = self.ana.drawers.get(medium="pencil").swatches.first().code
        self.assertProblem(self.change("accent", {**rim, "code": white}), 422, "invalid_fields", "has no colours")


RIM = "rims that face the lamp"
