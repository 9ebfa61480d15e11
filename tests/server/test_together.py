"""Several at once: threads on one piece, as tabs and devices are in real life."""

from __future__ import annotations

import threading
import time
from concurrent.futures import ThreadPoolExecutor
from tempfile import TemporaryDirectory
from unittest.mock import patch

from django.db import connection
from django.test import TransactionTestCase

from paleta.light import Lamp
from paleta.run import plan_key
from server.derived import background, jobs, pictures, plans, worker
from server.derived.memory import memory
from server.drawers import charts
from server.drawers.models import Drawer
from server.drawers.services import add_swatch
from server.pieces.models import Piece
from server.pieces.pace import pace_of
from server.pieces.sheet.services import turn_lamp
from server.pieces.shelf.services import add_piece
from server.problems import ChangedElsewhere
from server.recipes.services import keep_recipe
from server.runs.along import plan_followed, record, start_run
from server.runs.models import Run, RunEvent
from server.runs.services import log_run, work_out
from tests.builders import as_file, line_drawing
from tests.server.builders import coloured, make_piece, make_user


def in_threads(work, inputs) -> list:
    """The results of `work` for every input, all at once; exceptions are results too."""

    def guarded(value):
        try:
            return work(value)
        except Exception as error:
            return error
        finally:
            connection.close()

    with ThreadPoolExecutor(len(inputs)) as pool:
        return list(pool.map(guarded, inputs))


class TogetherTest(TransactionTestCase):
    def setUp(self):
        self.ana = make_user("ana")
        self.piece = make_piece(self.ana)

    def test_a_lamp_waits_for_no_form_that_is_modelled_for_another_one(self):
        ana, ben = (coloured(make_piece(make_user(name))) for name in ("lamp-ana", "lamp-ben"))
        known, go_on, began = pictures.live_relief_of, threading.Event(), threading.Event()

        def slow(stamping, sheet):
            if sheet is bens:
                began.set()
                go_on.wait(60)
            return known(stamping, sheet)

        anas, bens = ana.sheet(), ben.sheet()
        pictures.picture(ana.stamping, anas, "coloured", live=True)
        with (
            patch.object(pictures, "_turning", threading.BoundedSemaphore(1)),
            patch.object(pictures, "live_relief_of", slow),
            ThreadPoolExecutor(2) as pool,
        ):
            waiting = pool.submit(pictures.picture, ben.stamping, bens, "coloured", live=True)
            self.assertTrue(began.wait(30))
            turned = pool.submit(
                pictures.picture, ana.stamping, anas, "coloured", lamp=Lamp(azimuth_deg=80, elevation_deg=40), live=True
            )
            try:
                self.assertTrue(turned.result(30))
                self.assertFalse(waiting.done())
            finally:
                go_on.set()

    def test_of_changes_made_on_the_same_version_one_is_kept_and_the_others_are_told(self):
        def turn(azimuth: float) -> Piece:
            lamp = Lamp(azimuth_deg=azimuth, elevation_deg=30)
            return turn_lamp(actor=self.ana, piece=self.piece, version=1, lamp=lamp)

        results = in_threads(turn, (10, 20, 30, 40))
        kept = [one for one in results if isinstance(one, Piece)]
        self.assertEqual(len(kept), 1)
        self.assertTrue(all(isinstance(one, ChangedElsewhere) for one in results if one is not kept[0]))
        now = Piece.objects.get(pk=self.piece.pk)
        self.assertEqual((now.version, now.steps.count()), (2, 2))
        self.assertEqual(now.sheet().light.lamp.azimuth_deg, now.lamp_azimuth_deg)

    def test_the_same_scan_gives_the_same_things_however_busy_the_house_is(self):
        drawing = line_drawing(900, 700)
        data = as_file(drawing, dpi=(150, 150))

        def add(number: int) -> tuple[str, object]:
            piece = add_piece(actor=self.ana, data=data, title="The same")
            return piece.sheet().regions.map_sha256, piece.sheet().regions.settings

        alone = add(0)
        for one in in_threads(add, range(4)):
            self.assertEqual(one, alone)

    def test_pictures_asked_for_at_the_same_time_are_the_same_and_modelled_once(self):
        sheet = self.piece.sheet()
        memory.clear()
        stamping, run = self.piece.stamping, worker.run
        with TemporaryDirectory() as empty, self.settings(CACHE_ROOT=empty), patch.object(worker, "run") as running:
            running.side_effect = run
            seen = in_threads(lambda _: pictures.picture(stamping, sheet, "values"), range(4))
            self.assertEqual([call.args[0] for call in running.call_args_list], [jobs.model])
        self.assertEqual(len({bytes(one) for one in seen}), 1)

    def test_plans_asked_for_at_the_same_time_agree(self):
        piece = coloured(self.piece)
        pace = pace_of(self.ana.pk, "marker").pace
        made = in_threads(lambda _: plans.plans_of(piece.stamping, piece.sheet(), pace)[0], range(3))
        self.assertEqual(len(set(made)), 1)

    def test_eight_devices_that_tick_the_same_card_at_once_lose_and_double_nothing(self):
        piece = coloured(self.piece)
        run = start_run(actor=self.ana, piece=piece, version=piece.version)
        key, count = plan_key(plan_followed(run)), len(plan_followed(run).passes)

        def line(number: int) -> dict:
            about = {"id": f"pass-{number:05}", "at_s": time.time(), "plan": key, "card": 1}
            return {"kind": "laid", **about, "passes": [number]}

        lines = [line(number) for number in range(1, count + 1)]

        def device(first: int):
            mine = lines[first % count :] + lines[: first % count]
            return [record(actor=self.ana, run=Run.objects.get(pk=run.pk), lines=mine[at : at + 2]) for at in (0, 2, 4)]

        told = in_threads(device, range(8))
        self.assertEqual([one for one in told if isinstance(one, Exception)], [])
        self.assertEqual([line for one in told for each in one for line in each.refused], [])
        log = list(RunEvent.objects.filter(run=run))
        self.assertEqual(len({event.client_id for event in log}), len(log))
        self.assertEqual([event.number for event in log], list(range(1, len(log) + 1)))
        self.assertEqual(Run.objects.get(pk=run.pk).passes_laid, len(log) - 1)

    def test_of_eight_equal_freezes_one_version_is_kept(self):
        piece = coloured(self.piece)
        kept = in_threads(lambda _: keep_recipe(actor=self.ana, piece=piece, version=piece.version), range(8))
        self.assertEqual({one.number for one in kept}, {1})
        self.assertEqual(piece.recipes.count(), 1)

    def test_charts_begun_at_once_have_numbers_of_their_own(self):
        drawer = self.ana.drawers.get(medium="pencil")
        codes = [drawer.swatches.first().code]
        made = in_threads(
            lambda _: charts.add_chart(actor=self.ana, drawer=drawer, codes=codes, paper="smooth-white"), range(8)
        )
        self.assertEqual(sorted(one.number for one in made), list(range(1, 9)))

    def test_of_equal_swatches_added_at_once_one_is_kept_and_the_others_are_told(self):
        drawer = self.ana.drawers.get(medium="pencil")
        values = {"code": "new", "name": "New", "lab": (50.0, 0.0, 0.0)}
        made = in_threads(
            lambda _: add_swatch(actor=self.ana, drawer=drawer, version=drawer.version, values=values), range(8)
        )
        self.assertEqual(sum(isinstance(one, Drawer) for one in made), 1)
        self.assertEqual({type(one) for one in made}, {Drawer, ChangedElsewhere})

    def test_while_a_plan_is_worked_out_nobody_else_waits(self):
        """Planning begins, and only ends once another piece's lamp has been turned."""
        piece, other = coloured(self.piece), make_piece(self.ana, title="Another")
        begun, turned, run = threading.Event(), threading.Event(), worker.run

        def slow(work, *values, **limits):
            if work is jobs.plan:
                begun.set()
                self.assertTrue(turned.wait(20), "the lamp waited for the plan")
            return run(work, *values, **limits)

        memory.clear()
        cache, noted = self.enterContext(TemporaryDirectory()), self.enterContext(patch.object(background, "do"))
        self.enterContext(self.settings(CACHE_ROOT=cache))
        with patch.object(worker, "run", slow), ThreadPoolExecutor(1) as pool:
            keeping = pool.submit(self.keep, piece)
            self.assertTrue(begun.wait(20))
            lamp = Lamp(azimuth_deg=10, elevation_deg=30)
            self.assertEqual(turn_lamp(actor=self.ana, piece=other, version=1, lamp=lamp).version, 2)
            logged = log_run(actor=self.ana, piece=piece, minutes=30)
            noted.assert_called_once_with(work_out, logged.pk)
            turned.set()
            self.assertEqual(keeping.result(60).number, 1)

    def keep(self, piece: Piece):
        try:
            return keep_recipe(actor=self.ana, piece=piece, version=piece.version)
        finally:
            connection.close()
