"""Judgements before colouring, against the table of the trade."""

from __future__ import annotations

from django.test import SimpleTestCase

from paleta.checks import fit
from paleta.errors import RecipeError
from paleta.materials import LINES, PAPERS
from paleta.media import MEDIA


class FitTest(SimpleTestCase):
    """Common practice: docs/trade-notes.md, section Fit."""

    def test_the_pairs_that_work_are_not_spoken_against(self):
        for medium, ink, paper in (
            ("marker", "dye", "smooth-white"),
            ("marker", "embossed", "cream"),
            ("watercolour", "waterproof", "cold-press"),
            ("watercolour", "embossed", "cold-press"),
            ("pencil", "dye", "toned-grey"),
            ("pencil", "pale", "kraft"),
        ):
            with self.subTest(medium=medium, ink=ink, paper=paper):
                self.assertEqual(fit(medium, ink, paper), ())

    def test_the_pairs_that_fail_say_why_and_what_instead(self):
        for choice, words in (
            (("watercolour", "dye", "cold-press"), "runs when it gets wet"),
            (("marker", "waterproof", "smooth-white"), "dragged grey"),
            (("marker", "dye", "kraft"), "only darkens"),
            (("watercolour", "waterproof", "smooth-white"), "buckles"),
        ):
            with self.subTest(choice=choice):
                found = fit(*choice)
                self.assertEqual(len(found), 1)
                self.assertIn(words, found[0].why)
                self.assertTrue(found[0].instead.endswith("."))

    def test_two_faults_are_both_told(self):
        self.assertEqual(len(fit("watercolour", "dye", "kraft")), 2)

    def test_every_choice_is_judged_and_unknown_words_are_refused(self):
        for medium in MEDIA:
            for ink in LINES:
                for paper in PAPERS:
                    fit(medium, ink, paper)
        with self.assertRaisesMessage(RecipeError, "'milk' is none of"):
            fit("marker", "milk", "cream")
