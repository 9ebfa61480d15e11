"""Colouring along over the API: started, logged line by line, moved, kept, shown in the logbook."""

from __future__ import annotations

import time
from itertools import count
from unittest.mock import patch

from django.core.files.uploadedfile import SimpleUploadedFile
from django.db import connection
from django.http import Http404
from django.test.utils import CaptureQueriesContext

from paleta.order import Handling
from paleta.run import plan_key
from server.drawers.models import SwatchRecord
from server.files.store import size_of
from server.pieces.models import Piece
from server.pieces.pace import pace_of
from server.pieces.quota import kept_bytes, require_room
from server.problems import Refused
from server.runs import along
from server.runs.along import MOST_AT_ONCE, MOST_PHOTOS, plan_followed, record, state_of, update_summary
from server.runs.models import Run, RunEvent
from tests.builders import as_file, line_drawing
from tests.server.base import ApiTestCase
from tests.server.builders import make_piece

NUMBERS = count(1)


class AlongTestCase(ApiTestCase):
    def setUp(self):
        super().setUp()
        self.begun_s = time.time() - 5000

    def start(self, cards: int = 1):
        version = Piece.objects.get(pk=self.piece.pk).version
        answer = self.send("post", f"pieces/{self.piece.pk}/start-run/", {"cards": cards}, version)
        self.assertEqual(answer.status_code, 201, answer.content[:300])
        # As if it had begun a while ago, so that passes may have been laid since.
        begun = RunEvent.objects.get(run_id=answer.json()["id"], number=1)
        begun.body["at_s"] = self.begun_s
        begun.save()
        along._logs.clear()  # which no hand alters, so that nobody looks again
        return answer.json()

    def line(self, run, kind: str, at_s: float = 0.0, **values):
        return {
            "kind": kind,
            "id": f"line-{next(NUMBERS):06}",
            "at_s": self.begun_s + at_s,
            "plan": run["plan"],
            "card": 1,
            **values,
        }

    def log(self, run, *lines, seen: int = 0):
        answer = self.send("post", f"runs/{run['id']}/events/", {"events": list(lines), "seen": seen})
        self.assertEqual(answer.status_code, 200, answer.content[:300])
        return answer.json()

    def everything(self, run, cards: int = 1):
        """Every pass ticked off, a minute each."""
        return [
            self.line(run, "laid", 60.0 * place, passes=[one["number"]], card=card)
            for card in range(1, cards + 1)
            for place, one in enumerate(run["steps"], start=1 + (card - 1) * len(run["steps"]))
        ]


class StartTest(AlongTestCase):
    def test_a_start_that_is_refused_keeps_no_version(self):
        bare = make_piece(self.ana, "Bare")
        answer = self.send("post", f"pieces/{bare.pk}/start-run/", {"cards": 1}, bare.version)
        self.assertProblem(answer, 409, "nothing_to_colour")
        self.assertFalse(bare.recipes.exists())

    def test_starting_keeps_a_version_if_the_sheet_has_changed_and_goes_on_with_an_idle_run(self):
        self.assertIsNone(self.piece.latest_recipe)
        run = self.start()
        self.assertEqual((run["recipe_number"], run["cards"], run["passes_laid"]), (1, 1, 0))
        self.assertEqual(self.start()["id"], run["id"])
        self.change("stamp", {"title": "Another title"})
        later = self.start(cards=3)
        self.assertEqual(later["recipe_number"], 2)
        self.assertEqual(later["passes"], 3 * len(later["steps"]))

    def test_a_run_tells_all_that_is_needed_without_the_server(self):
        run = self.start()
        numbers = [one["number"] for one in run["steps"]]
        self.assertEqual(numbers, list(range(1, len(numbers) + 1)))
        covered = [n for stint in run["stints"] for n in range(stint["first_pass"], stint["last_pass"] + 1)]
        self.assertEqual(covered, numbers)
        used = [one["swatch"] for one in run["steps"]]
        self.assertEqual([one["code"] for one in run["swatches"]], list(dict.fromkeys(used)))
        self.assertTrue(all(one["rescues"] for one in run["slips"]))
        self.assertTrue(any(one["within_s"] for one in run["steps"]))
        self.assertEqual([one["kind"] for one in run["log"]], ["started"])

    def test_nothing_coloured_is_nothing_to_colour_along(self):
        labels = [one["label"] for one in self.send("get", f"pieces/{self.piece.pk}/").json()["regions"]["list"]]
        self.change("ramp", {"labels": labels, "codes": []})
        version = Piece.objects.get(pk=self.piece.pk).version
        answer = self.send("post", f"pieces/{self.piece.pk}/start-run/", {}, version)
        self.assertProblem(answer, 409, "nothing_to_colour")

    def test_the_map_tells_regions_and_zones(self):
        run = self.start()
        answer = self.client.get(f"/api/v1/runs/{run['id']}/map/")
        self.assertEqual((answer.status_code, answer["Content-Type"]), (200, "image/png"))


class LogTest(AlongTestCase):
    def test_a_line_sent_again_changes_nothing_and_both_devices_hear_of_all(self):
        run = self.start()
        first, second = self.line(run, "laid", passes=[1]), self.line(run, "laid", 30, passes=[2])
        told = self.log(run, first, seen=run["last"])
        self.assertEqual(told["accepted"], [first["id"]])
        again = self.log(run, first, second, seen=run["last"])
        self.assertEqual(again["accepted"], [first["id"], second["id"]])
        self.assertEqual([one["id"] for one in again["events"]], [first["id"], second["id"]])
        self.assertEqual(RunEvent.objects.filter(run_id=run["id"]).count(), 3)
        self.assertEqual(self.log(run, seen=again["last"])["events"], [])

    def test_of_a_clock_that_is_ahead_the_time_of_receiving_counts_and_what_it_said_is_kept(self):
        run = self.start()
        day_s = 86_400.0
        line = self.line(run, "laid", 5000 + day_s, passes=[1])
        told = self.log(run, line, seen=run["last"])
        self.assertEqual((told["accepted"], told["refused"]), ([line["id"]], []))
        (kept,) = told["events"]
        self.assertAlmostEqual(kept["clock_s"], line["at_s"], places=3)
        self.assertLess(abs(kept["at_s"] - time.time()), 30)
        # Sent again, since the answer was lost, it is still the same line.
        again = self.log(run, line, seen=told["last"])
        self.assertEqual((again["accepted"], again["refused"], again["events"]), ([line["id"]], [], []))
        self.assertEqual(Run.objects.get(pk=run["id"]).passes_laid, 1)

    def test_the_mark_of_a_wrong_clock_is_the_servers_own(self):
        run = self.start()
        told = self.log(run, self.line(run, "laid", passes=[1], clock_s=5.0), seen=run["last"])
        self.assertIsNone(told["events"][0]["clock_s"])

    def test_many_lines_of_a_plan_nobody_knows_ask_the_database_once(self):
        run = self.start()
        lines = [{**self.line(run, "laid", passes=[1]), "plan": f"{number:016x}"} for number in range(40)]
        with CaptureQueriesContext(connection) as asked:
            told = self.log(run, *lines)
        self.assertEqual(len(told["refused"]), 40)
        self.assertLess(len(asked), 20)

    def test_every_bad_line_is_refused_in_a_sentence_and_the_rest_is_kept(self):
        run, other = self.start(), self.start(cards=2)
        good = self.line(run, "laid", passes=[1])
        bad = [
            self.line(run, "laid", passes=[1]) | {"at_s": 5e9},
            self.line(run, "laid", passes=[9_999]),
            self.line(run, "laid", passes=[1], card=2),
            self.line(run, "laid", passes=[1]) | {"plan": "0" * 16},
            self.line(run, "painted"),
            self.line(run, "moved", from_plan=run["plan"], pairs=[]),
            self.line(run, "photographed", sha256="0" * 64, text=""),
            good | {"passes": [2]},
            "a line",
            None,
        ]
        told = self.log(run, good, *bad)
        self.assertEqual(told["accepted"], [good["id"]])
        self.assertEqual(len(told["refused"]), len(bad))
        self.assertTrue(all(one["detail"].endswith((".", "?")) for one in told["refused"]))
        self.assertEqual(self.log(run, good | {"passes": [2]})["accepted"], [])
        self.assertEqual(state_of(Run.objects.get(pk=run["id"])).cards[0].laid.keys(), {1})
        self.assertEqual(Run.objects.get(pk=other["id"]).passes_laid, 0)

    def test_the_plan_is_named_once_however_many_lines_come(self):
        """Its name is a sum over all of it, which for a large plan takes longer than all else that a line needs."""
        run = self.start()
        lines = [self.line(run, "noted", text="Slow drying today.", passes=[]) for _ in range(20)]
        counts = []
        for some in (lines[:1], lines[1:]):
            with patch("server.runs.along.plan_key", wraps=plan_key) as named:
                self.assertEqual(len(self.log(run, *some)["accepted"]), len(some))
            counts.append(named.call_count)
        self.assertEqual(counts[0], counts[1])

    def test_a_hundred_thousand_lines_at_once_are_refused_and_nothing_is_stored(self):
        run = self.start()
        lines = [self.line(run, "laid", passes=[1]) for _ in range(MOST_AT_ONCE + 1)]
        answer = self.send("post", f"runs/{run['id']}/events/", {"events": lines})
        self.assertProblem(answer, 413, "too_large")
        self.assertEqual(RunEvent.objects.filter(run_id=run["id"]).count(), 1)

    def test_the_last_pass_ends_the_run_and_taking_it_back_opens_it(self):
        run = self.start()
        lines = self.everything(run)
        self.log(run, *lines)
        done = self.send("get", f"runs/{run['id']}/").json()
        self.assertFalse(done["open"])
        self.assertAlmostEqual(done["seconds"], 60 * len(lines), delta=1)
        self.log(run, self.line(run, "undone", event=lines[-1]["id"]))
        again = self.send("get", f"runs/{run['id']}/").json()
        self.assertTrue(again["open"])
        self.assertEqual(again["passes_laid"], len(lines) - 1)

    def test_a_run_that_is_ended_before_anything_is_laid_took_no_time(self):
        run = self.start()
        self.log(run, self.line(run, "finished", 5))
        told = self.send("get", f"runs/{run['id']}/").json()
        self.assertEqual((told["open"], told["seconds"]), (False, None))

    def test_the_clock_of_a_card_left_half_done_teaches_no_pace(self):
        run = self.start()
        self.log(run, self.line(run, "laid", 60, passes=[1]), self.line(run, "finished", 90))
        self.assertEqual(pace_of(self.ana.pk, run["medium"]).runs, 0)

    def test_a_sum_of_an_older_log_does_not_replace_a_newer_one(self):
        run = self.start()
        older = Run.objects.get(pk=run["id"])
        self.log(run, self.line(run, "laid", passes=[1]))
        update_summary(older)
        self.assertEqual(Run.objects.get(pk=run["id"]).passes_laid, 1)

    def test_what_may_be_laid_is_told_best_first(self):
        run = self.start()
        answer = self.send("get", f"runs/{run['id']}/choices/?now={time.time()}")
        self.assertEqual(answer.json()[0]["number"], 1)
        self.assertProblem(self.send("get", f"runs/{run['id']}/choices/?now=soon"), 422, "invalid_fields")

    def test_passes_ticked_off_teach_the_pace_and_how_sure_it_is(self):
        run = self.start(cards=6)
        self.assertEqual(pace_of(self.ana.pk, run["medium"]).passes, 0)
        self.log(run, *self.everything(run, cards=6))
        known = pace_of(self.ana.pk, run["medium"])
        self.assertGreaterEqual(known.passes, 12)
        self.assertLess(known.doubt, 1)
        plan = self.send("get", f"pieces/{self.piece.pk}/plan/").json()
        self.assertEqual(plan["timed_passes"], known.passes)


class AfterTest(AlongTestCase):
    def another_pen(self, run):
        used = {one["code"] for one in run["swatches"]}
        drawer = self.ana.drawers.get(medium="marker")
        pen = SwatchRecord.objects.filter(drawer=drawer).exclude(code__in=used).first()
        planned = run["steps"][0]["swatch"]
        return pen, planned, self.line(run, "another pen", instead_of=planned, code=pen.code, name=pen.name, passes=[])

    def test_what_was_done_is_kept_as_the_next_version(self):
        run = self.start()
        pen, planned, taken = self.another_pen(run)
        self.log(run, taken, *self.everything(run), self.line(run, "extra coat", 4000, passes=[1]))
        told = self.send("get", f"runs/{run['id']}/").json()
        self.assertEqual([one["kind"] for one in told["differed"]], ["pen", "extra coat"])
        answer = self.send("post", f"runs/{run['id']}/keep/")
        self.assertEqual(answer.status_code, 201, answer.content[:300])
        self.assertEqual(answer.json()["number"], 2)
        sheet = Piece.objects.get(pk=self.piece.pk).sheet()
        self.assertIn(("marker", pen.code), sheet.colours.swatches)
        self.assertNotIn(("marker", planned), sheet.colours.swatches)
        self.assertIn("once more", sheet.finish.notes)

    def test_what_was_done_is_kept_whole_or_not_at_all(self):
        run = self.start()
        _, _, taken = self.another_pen(run)
        self.log(run, taken, *self.everything(run))
        before = Piece.objects.get(pk=self.piece.pk)
        with patch("server.recipes.services.MOST_RECIPES", 1):
            self.assertProblem(self.send("post", f"runs/{run['id']}/keep/"), 409, "full")
        after = Piece.objects.get(pk=self.piece.pk)
        self.assertEqual((after.version, after.current_sheet), (before.version, before.current_sheet))

    def test_a_pen_from_no_drawer_must_be_added_first(self):
        run = self.start()
        planned = run["steps"][0]["swatch"]
        taken = self.line(run, "another pen", instead_of=planned, code="elsewhere-1", name="Elsewhere 1", passes=[])
        self.log(run, taken, *self.everything(run))
        self.assertProblem(self.send("post", f"runs/{run['id']}/keep/"), 409, "pen_missing", "Elsewhere 1")

    def test_a_run_is_moved_to_the_newest_version_and_says_first_what_that_does(self):
        run = self.start()
        self.log(run, self.line(run, "laid", passes=[1]))
        self.change("school", {"school": "M3"})
        self.change("recipes", method="post")
        told = self.send("get", f"runs/{run['id']}/move/").json()
        self.assertEqual(told["to_version"], 2)
        self.assertTrue(told["sentences"])
        self.assertEqual(self.send("get", f"runs/{run['id']}/").json()["plan"], run["plan"])
        moved = self.send("post", f"runs/{run['id']}/move/").json()
        self.assertNotEqual(moved["plan"], run["plan"])
        self.assertEqual(moved["recipe_number"], 2)
        # A device that has not heard of it may still send what it ticked off.
        late = self.log(run, self.line(run, "laid", 90, passes=[2]))
        self.assertEqual(late["refused"], [])

    def test_photos_are_written_anew_named_by_content_and_limited(self):
        run = self.start()
        photo = as_file(line_drawing(900, 700), "JPEG", comment=b"a secret")
        values = {"id": "photo-00001", "at_s": time.time(), "card": 1}
        path = f"/api/v1/runs/{run['id']}/photos/"
        for _ in range(2):
            answer = self.client.post(path, values | {"photo": SimpleUploadedFile("c.jpg", photo)})
            self.assertEqual(answer.status_code, 201, answer.content[:300])
        shown = [one for one in answer.json()["log"] if one["kind"] == "photographed"]
        self.assertEqual(len(shown), 1)
        kept = self.client.get(f"{path}{shown[0]['sha256']}/")
        self.assertNotIn(b"a secret", kept.content)
        self.assertEqual(self.client.get(f"{path}{'0' * 64}/").status_code, 404)
        none = self.client.post(path, values | {"id": "photo-00002", "photo": SimpleUploadedFile("c.jpg", b"no photo")})
        self.assertProblem(none, 422, "not_an_image")
        RunEvent.objects.bulk_create(
            RunEvent(
                run_id=run["id"], number=100 + n, client_id=f"photo-1{n:04}", body=shown[0] | {"id": f"photo-1{n:04}"}
            )
            for n in range(MOST_PHOTOS)
        )
        more = self.client.post(path, values | {"id": "photo-00003", "photo": SimpleUploadedFile("c.jpg", photo)})
        self.assertProblem(more, 409, "full")

    def test_photos_of_a_piece_that_is_gone_count_all_the_same(self):
        run = self.start()
        photo = SimpleUploadedFile("card.jpg", as_file(line_drawing(), "JPEG"))
        values = {"id": "photo-00001", "at_s": time.time(), "photo": photo}
        self.assertEqual(self.client.post(f"/api/v1/runs/{run['id']}/photos/", values).status_code, 201)
        (kept,) = RunEvent.objects.filter(body__kind="photographed")
        Piece.objects.get(pk=self.piece.pk).delete()
        self.assertEqual(kept_bytes(self.ana), size_of(kept.body["sha256"]))
        with self.settings(MOST_ACCOUNT_BYTES=10), self.assertRaises(Refused):
            require_room(self.ana, more_bytes=0)

    def test_the_logbook_is_filtered_and_newest_first(self):
        run = self.start()
        self.log(run, *self.everything(run))
        self.send("post", f"pieces/{self.piece.pk}/runs/", {"minutes": 40, "note": "By the clock"})
        lines = self.send("get", "runs/").json()["results"]
        self.assertEqual([one["along"] for one in lines], [False, True])
        pen = run["swatches"][0]
        for query, found in (
            (f"swatch={pen['name'][:4]}", 1),
            ("swatch=nothing", 0),
            (f"piece={self.piece.pk}&version=1", 1),
            ("medium=pencil", 0),
            ("open=true", 0),
        ):
            with self.subTest(query=query):
                self.assertEqual(len(self.send("get", f"runs/?{query}").json()["results"]), found)

    def test_a_run_outlives_its_piece_as_a_line_of_the_logbook(self):
        run = self.start()
        self.log(run, *self.everything(run))
        self.send("delete", f"pieces/{self.piece.pk}/")
        line = self.send("get", "runs/").json()["results"][0]
        self.assertEqual((line["title"], line["open"], line["piece_id"]), (run["title"], False, None))
        self.assertProblem(self.send("get", f"runs/{run['id']}/"), 409, "gone")


class MaskedTest(AlongTestCase):
    def test_masks_are_steps_of_the_log(self):
        self.change("regions", {"labels": [3], "role": "background"})
        self.change("order", {"masked": True})
        run = self.start()
        self.assertEqual([one["kind"] for one in run["handling"]], ["lay", "lift"])
        self.log(run, self.line(run, "handled", step=1))
        state = state_of(Run.objects.get(pk=run["id"]))
        self.assertEqual(set(state.cards[0].handled), {1})
        self.assertIsInstance(plan_followed(Run.objects.get(pk=run["id"])).handling[0], Handling)

    def test_nobody_writes_into_another_ones_log(self):
        run = self.start()
        self.client.force_login(self.ben)
        self.assertEqual(self.send("post", f"runs/{run['id']}/events/", {"events": []}).status_code, 404)
        with self.assertRaises(Http404):
            record(actor=self.ben, run=Run.objects.get(pk=run["id"]), lines=[])
