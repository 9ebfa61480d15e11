"""Noted times, masks and kept versions over the API."""

from __future__ import annotations

from server.pieces.models import Piece
from server.runs.models import Run
from tests.server.base import ApiTestCase


class RunTest(ApiTestCase):
    def plan(self, query: str = "") -> dict:
        return self.send("get", f"pieces/{self.piece.pk}/plan/{query}").json()

    def note(self, minutes: float, **more):
        return self.send("post", f"pieces/{self.piece.pk}/runs/", {"minutes": minutes, **more})

    def test_a_noted_time_changes_what_is_foretold_and_is_forgotten_again(self):
        before = self.plan()
        self.assertEqual(before["timed_runs"], 0)
        response = self.note(before["duration_s"] * 2 / 60, note="A paler sky")
        self.assertEqual(response.status_code, 201)
        self.assertEqual(response.json()["note"], "A paler sky")
        after = self.plan()
        self.assertEqual(after["timed_runs"], 1)
        self.assertGreater(after["duration_s"], before["duration_s"] * 1.3)
        listed = self.send("get", f"pieces/{self.piece.pk}/runs/").json()
        self.assertEqual([one["id"] for one in listed], [response.json()["id"]])
        self.assertEqual(self.send("delete", f"runs/{listed[0]['id']}/").status_code, 204)
        self.assertEqual(self.plan()["duration_s"], before["duration_s"])

    def test_times_of_one_medium_and_one_hand_do_not_change_others(self):
        self.note(90)
        pencil = self.ana.drawers.get(medium="pencil").swatches.first().code
        self.change("ramp", {"labels": [1, 2, 3], "codes": [pencil], "medium": "pencil"})
        self.assertEqual(self.plan()["timed_runs"], 0)
        self.client.force_login(self.ben)
        run = Run.objects.get()
        self.assertEqual(self.send("delete", f"runs/{run.pk}/").status_code, 404)
        self.assertEqual(self.note(10).status_code, 404)

    def test_no_time_can_be_noted_for_nothing_or_of_nonsense(self):
        for minutes in (0, -3, "soon", 5000):
            self.assertProblem(self.note(minutes), 422, "invalid_fields", "minutes")
        self.change("ramp", {"labels": [1, 2, 3], "codes": []})
        self.assertProblem(self.note(30), 409, "nothing_to_time", "no region has its colours")
        self.assertEqual(Run.objects.count(), 0)

    def test_a_run_outlives_its_piece(self):
        self.note(90)
        self.send("delete", f"pieces/{self.piece.pk}/")
        self.assertIsNone(Run.objects.get().piece)


class MaskTest(ApiTestCase):
    def test_a_masked_figure_puts_the_background_between_laying_and_lifting(self):
        self.change("regions", {"labels": [3], "role": "background"})
        self.assertTrue(self.change("order", {"masked": True}).json()["order"]["masked"])
        plan = self.send("get", f"pieces/{self.piece.pk}/plan/").json()
        self.assertEqual([one["kind"] for one in plan["handling"]], ["lay", "lift"])
        lay, lift = (one["before_pass"] for one in plan["handling"])
        self.assertEqual({one["region"] for one in plan["passes"][lay - 1 : lift - 1]}, {3})
        self.change("finish", {"touches": ["unmask", "gloss"]})
        plan = self.send("get", f"pieces/{self.piece.pk}/plan/").json()
        self.assertEqual([one["code"] for one in plan["after"]], ["gloss"])


class KeptVersionTest(ApiTestCase):
    def setUp(self):
        super().setUp()
        self.change("recipes", method="post")
        self.change("lamp", {"azimuth_deg": 90, "elevation_deg": 20})
        self.change("school", {"school": "M3"})

    def at(self, path: str = "") -> str:
        return f"pieces/{self.piece.pk}/{path}"

    def test_a_kept_version_is_shown_as_it_was_frozen(self):
        kept, now = (self.send("get", self.at(path)).json() for path in ("recipes/1/sheet/", ""))
        self.assertEqual((kept["light"]["lamp"]["azimuth_deg"], now["light"]["lamp"]["azimuth_deg"]), (315, 90))
        plans = [self.send("get", self.at(path)).json() for path in ("recipes/1/plan/", "plan/")]
        self.assertNotEqual(plans[0]["school"], plans[1]["school"])
        frozen = self.send("get", self.at("recipes/1/")).json()["plan"]
        self.assertEqual(plans[0]["duration_s"], frozen["duration_s"])
        self.assertEqual(len(plans[0]["passes"]), len(frozen["passes"]))
        pictures = [self.send("get", self.at(path)).content for path in ("recipes/1/picture/", "picture/")]
        self.assertNotEqual(*pictures)
        for path in ("sheet/", "plan/", "picture/"):
            self.assertProblem(self.send("get", self.at(f"recipes/7/{path}")), 404, "not_found", "no version 7")

    def test_a_kept_version_is_laid_on_the_bench_again_and_can_be_undone(self):
        again = self.change("recipes/1/restore", method="post").json()
        self.assertEqual(again["light"]["lamp"]["azimuth_deg"], 315)
        self.assertFalse(again["changed_since_recipe"])
        self.assertEqual(again["undo"], "Back to version 1")
        self.assertEqual(self.change("undo", method="post").json()["light"]["lamp"]["azimuth_deg"], 90)
        self.assertEqual(self.change("recipes/9/restore", method="post").status_code, 404)
        self.assertEqual(self.change("recipes/1/restore", method="post", version=1).status_code, 412)


class KeptOrderTest(ApiTestCase):
    """The order on the bench is the kept one for as long as the sheet is."""

    def setUp(self):
        super().setUp()
        self.change("recipes", method="post")
        self.kept = self.plan()

    def plan(self) -> dict:
        return self.send("get", f"pieces/{self.piece.pk}/plan/").json()

    def learn_another_pace(self):
        minutes = self.kept["duration_s"] * 2 / 60
        self.send("post", f"pieces/{self.piece.pk}/runs/", {"minutes": minutes})

    def test_stays_as_it_is_when_a_pace_is_learnt_and_the_newer_one_is_offered(self):
        self.assertEqual((self.kept["version"], self.kept["worked_out"]), (1, None))
        self.learn_another_pace()
        after = self.plan()
        self.assertEqual(after["passes"], self.kept["passes"])
        self.assertEqual(after["duration_s"], self.kept["duration_s"])
        self.assertGreater(after["worked_out"]["duration_s"], after["duration_s"])
        pages = [f"pieces/{self.piece.pk}/one-page/?unit=in{recipe}" for recipe in ("", "&recipe=1")]
        now, kept = (self.send("get", page).json() for page in pages)
        self.assertEqual(now["visits"], kept["visits"])

    def test_the_newer_one_is_kept_as_the_next_version_where_that_is_wished(self):
        self.learn_another_pace()
        offered = self.plan()["worked_out"]["duration_s"]
        self.assertEqual(self.change("recipes", method="post").json()["latest_recipe"], 1)
        self.assertEqual(self.change("recipes", {"newer_order": True}, method="post").json()["latest_recipe"], 2)
        after = self.plan()
        self.assertEqual((after["version"], after["worked_out"], after["duration_s"]), (2, None, offered))
        # There is nothing newer now.
        self.assertEqual(self.change("recipes", {"newer_order": True}, method="post").json()["latest_recipe"], 2)

    def test_goes_with_the_first_change_of_the_sheet_and_comes_back_with_undo(self):
        self.learn_another_pace()
        self.change("school", {"school": "M3"})
        self.assertIsNone(self.plan()["version"])
        self.change("undo", method="post")
        self.assertEqual(self.plan()["passes"], self.kept["passes"])

    def test_is_followed_by_a_batch_and_by_a_run(self):
        self.learn_another_pace()
        batch = self.send("get", f"pieces/{self.piece.pk}/batch/?copies=3")
        self.assertEqual(batch.json()["lines"][-1]["last_pass"], len(self.kept["passes"]))
        version = Piece.objects.get(pk=self.piece.pk).version
        run = self.send("post", f"pieces/{self.piece.pk}/start-run/", {"cards": 1}, version).json()
        self.assertEqual(run["recipe_number"], 1)
        laid = [(one["region"], one["zones"]) for one in run["steps"]]
        self.assertEqual(laid, [(one["region"], one["zones"]) for one in self.kept["passes"]])
