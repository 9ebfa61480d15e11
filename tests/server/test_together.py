"""Several at once: threads on one piece, as tabs and devices are in real life."""

from __future__ import annotations

from concurrent.futures import ThreadPoolExecutor

from django.db import connection
from django.test import TransactionTestCase

from paleta.light import Lamp
from server.pieces import bench, services
from server.pieces.models import Piece
from server.problems import ChangedElsewhere
from tests.builders import coloured, make_piece, make_user


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
            return services.turn_lamp(actor=self.ana, piece=self.piece, version=1, lamp=lamp)

        results = in_threads(turn, (10, 20, 30, 40))
        kept = [one for one in results if isinstance(one, Piece)]
        self.assertEqual(len(kept), 1)
        self.assertTrue(all(isinstance(one, ChangedElsewhere) for one in results if one is not kept[0]))
        now = Piece.objects.get(pk=self.piece.pk)
        self.assertEqual((now.version, now.steps.count()), (2, 2))
        self.assertEqual(now.sheet().lamp.azimuth_deg, now.lamp_azimuth_deg)

    def test_pictures_asked_for_at_the_same_time_are_the_same_and_modelled_once(self):
        sheet = self.piece.sheet()
        pictures = in_threads(lambda _: bench.picture(self.piece, sheet, "values"), range(4))
        self.assertEqual(len({bytes(one) for one in pictures}), 1)

    def test_plans_asked_for_at_the_same_time_agree(self):
        piece = coloured(self.piece)
        plans = in_threads(lambda _: bench.plans_of(piece, piece.sheet())[0], range(3))
        self.assertEqual(len(set(plans)), 1)
