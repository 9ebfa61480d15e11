"""A run in several media: marker under pencil, an inked ground behind a mask, from the first pass to the next version;
and runs that were kept when a run was in one medium."""

from __future__ import annotations

from dataclasses import asdict

from paleta.order import PACES
from server.pieces.models import Piece
from server.pieces.pace import pace_of
from server.runs.along import plan_followed, state_of
from server.runs.models import Run
from server.runs.upgrades import upgraded_run
from tests.server.test_along import AlongTestCase


class MixedRunTest(AlongTestCase):
    def setUp(self):
        super().setUp()
        drawer = self.ana.drawers.get(medium="pencil")
        self.change("lay-over", {"drawer": drawer.pk})
        piece = self.change("ground", {}, "post").json()
        self.ground = piece["regions"]["taken"][0]
        self.change("lay-ground", {"labels": [self.ground], "way": "circles", "wish_hex": "#5b86c2"})
        pads = sorted(self.ana.drawers.get(medium="inkpad").swatches.all(), key=lambda one: one.lightness)
        self.change("ramp", {"labels": [self.ground], "codes": [pads[-1].code, pads[0].code], "medium": "inkpad"})
        self.change("order", {"masked": True})

    def all_of_it(self, run, card: int = 1, begun_s: float = 0.0):
        """Every step of the course in its order, a minute each, masks where the plan has them."""
        at, lines = begun_s, []
        steps = dict(enumerate(run["handling"], start=1))
        for one in run["steps"]:
            for number in [number for number, step in steps.items() if step["before_pass"] == one["number"]]:
                at += 60
                lines.append(self.line(run, "handled", at, step=number, card=card))
                del steps[number]
            at += 60
            lines.append(self.line(run, "laid", at, passes=[one["number"]], card=card))
        return lines + [self.line(run, "handled", at + 60, step=number, card=card) for number in steps]

    def test_it_tells_media_masks_and_how_long_each_takes_to_dry(self):
        run = self.start()
        self.assertEqual((run["media"], run["masked"], run["taped"]), (["marker", "pencil", "inkpad"], True, False))
        self.assertEqual({one["kind"] for one in run["handling"]}, {"lay", "wipe", "lift"})
        for step in run["steps"]:
            self.assertEqual(step["coat_dry_s"], PACES[step["medium"]].coat_dry_s)
        first_pencil = next(one for one in run["steps"] if one["medium"] == "pencil")
        self.assertIn({"region": first_pencil["region"], "coat": True}, first_pencil["needs"])
        self.assertEqual({one["medium"] for one in run["swatches"]}, {"marker", "pencil", "inkpad"})
        wipe = next(one for slip in run["slips"] for one in slip["rescues"] if one["code"] == "wipe")
        self.assertEqual(wipe["media"], ["inkpad"])

    def test_it_is_done_once_all_is_laid_and_every_mask_handled_and_teaches_each_medium(self):
        run = self.start()
        lines = self.all_of_it(run)
        self.log(run, *lines[:-1])
        self.assertFalse(state_of(Run.objects.get(pk=run["id"])).done)
        self.log(run, lines[-1])
        kept = Run.objects.get(pk=run["id"])
        self.assertTrue(state_of(kept).done)
        self.assertEqual((kept.medium, kept.mixed), ("marker", True))
        self.assertEqual(set(kept.times), {"marker", "pencil", "inkpad"})
        self.assertEqual(set(kept.pace), {"marker", "pencil", "inkpad"})
        # Its clock is that of three media and teaches none of them as a whole.
        self.assertEqual((pace_of(self.ana.pk, "pencil").passes, pace_of(self.ana.pk, "watercolour").passes), (0, 0))

    def test_following_what_is_offered_first_lays_all_of_it(self):
        run = self.start()
        now, laid = self.begun_s, 0
        for _ in range(400):
            offered = self.send("get", f"runs/{run['id']}/choices/?now={now}").json()
            if not offered:
                now += 20
                continue
            one, now = offered[0], now + 30
            values = {"passes": [one["number"]]} if one["kind"] == "pass" else {"step": one["number"]}
            kind = "laid" if one["kind"] == "pass" else "handled"
            self.log(run, self.line(run, kind, now - self.begun_s, **values))
            laid += one["kind"] == "pass"
            if state_of(Run.objects.get(pk=run["id"])).done:
                break
        self.assertEqual(laid, len(run["steps"]))

    def test_another_pencil_stays_a_pencil_in_the_next_version(self):
        run = self.start()
        planned = next(one for one in run["steps"] if one["medium"] == "pencil")
        taken = self.ana.drawers.get(medium="pencil").swatches.exclude(code=planned["swatch"]).last()
        other = self.line(
            run, "another pen", instead_of=planned["swatch"], code=taken.code, name=taken.name, passes=[],
            medium="pencil",
        )  # fmt: skip
        self.log(run, other, *self.all_of_it(run))
        self.assertEqual(self.send("post", f"runs/{run['id']}/keep/").status_code, 201)
        sheet = Piece.objects.get(pk=self.piece.pk).sheet()
        self.assertIn(("pencil", taken.code), sheet.colours.swatches)
        markers = [
            coat.ramp for one in sheet.regions.settings.values() for coat in one.coats if coat.medium == "marker"
        ]
        self.assertNotIn(taken.code, [code for ramp in markers for code in ramp])

    def test_several_cards_are_masked_each(self):
        run = self.start(cards=2)
        plan = plan_followed(Run.objects.get(pk=run["id"]))
        self.assertEqual({one.medium for one in plan.passes}, {"marker", "pencil", "inkpad"})
        lines = [line for card in (1, 2) for line in self.all_of_it(run, card, (card - 1) * 2000)]
        self.log(run, *lines)
        self.assertTrue(state_of(Run.objects.get(pk=run["id"])).done)


class KeptBeforeTest(AlongTestCase):
    def test_the_pace_and_the_times_of_one_medium_are_told_by_it(self):
        pace = asdict(PACES["pencil"])
        old = {"medium": "pencil", "pace": pace, "times": [[12.0, 1, 40.0, True]], "sheet": None}
        new = upgraded_run(old)
        self.assertEqual(new["pace"], {"pencil": pace})
        self.assertEqual(new["times"], {"pencil": [[12.0, 1, 40.0, True]]})
        self.assertEqual(upgraded_run(new), new)
        self.assertEqual(upgraded_run({**old, "pace": None, "times": []})["times"], {})

    def test_a_log_that_was_begun_before_there_were_coats_goes_on(self):
        """A plan of one medium keeps the name it had, whatever its passes say beside."""
        run = self.start()
        plan = plan_followed(Run.objects.get(pk=run["id"]))
        self.assertEqual({one.coat for one in plan.passes}, {0})
        self.log(run, self.line(run, "laid", 10, passes=[1]))
        self.assertEqual(self.send("get", f"runs/{run['id']}/").json()["passes_laid"], 1)
