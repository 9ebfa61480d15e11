"""Several at once: threads on one piece, as tabs and devices are in real life."""

from __future__ import annotations

from concurrent.futures import ThreadPoolExecutor
from tempfile import TemporaryDirectory
from unittest.mock import patch

from django.db import connection
from django.test import TransactionTestCase

from paleta.light import Lamp
from server.derived import chores, pictures, plans, worker
from server.derived.memory import memory
from server.pieces.models import Piece
from server.pieces.pace import pace_of
from server.pieces.sheet.services import turn_lamp
from server.problems import ChangedElsewhere
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

    def test_pictures_asked_for_at_the_same_time_are_the_same_and_modelled_once(self):
        sheet = self.piece.sheet()
        memory.clear()
        stamping, run = self.piece.stamping, worker.run
        with TemporaryDirectory() as empty, self.settings(CACHE_ROOT=empty), patch.object(worker, "run") as running:
            running.side_effect = run
            seen = in_threads(lambda _: pictures.picture(stamping, sheet, "values"), range(4))
            self.assertEqual([call.args[0] for call in running.call_args_list], [chores.model])
        self.assertEqual(len({bytes(one) for one in seen}), 1)

    def test_plans_asked_for_at_the_same_time_agree(self):
        piece = coloured(self.piece)
        pace, _ = pace_of(self.ana.pk, "marker")
        made = in_threads(lambda _: plans.plans_of(piece.stamping, piece.sheet(), pace)[0], range(3))
        self.assertEqual(len(set(made)), 1)
