"""Things over the API: grouping, naming, answering, and what palettes and plans make of them."""

from __future__ import annotations

from itertools import pairwise

from paleta.recipe import RegionSetting
from server.pieces.models import Piece
from tests.server.base import ApiTestCase
from tests.server.builders import coloured, make_piece


class ThingTest(ApiTestCase):
    def setUp(self):
        super().setUp()
        self.piece = make_piece(self.ana)
        self.piece.refresh_from_db()

    def act(self, method: str, what: str, body=None):
        version = Piece.objects.get(pk=self.piece.pk).version
        return self.send(method, f"pieces/{self.piece.pk}/{what}/", body or {}, version)

    def things(self, answer) -> dict[int, str]:
        return {one["label"]: one["thing"] for one in answer.json()["regions"]["list"]}

    def labels(self) -> list[int]:
        return sorted(self.piece.sheet().regions.settings)

    def ask(self, *groups: tuple[int, ...]) -> None:
        """As if Paleta had not been sure of these."""
        piece = Piece.objects.get(pk=self.piece.pk)
        piece.current_sheet["regions"]["unsure"] = [list(group) for group in groups]
        piece.save()

    def test_regions_become_a_thing_are_named_and_parted_again(self):
        first, second, *_ = self.labels()
        made = self.act("put", "thing", {"labels": [first, second]})
        name = self.things(made)[first]
        self.assertEqual({self.things(made)[first], self.things(made)[second]}, {name})
        self.assertTrue(name)
        named = self.act("put", "thing-name", {"label": second, "name": "Petals of the rose"})
        self.assertEqual(self.things(named)[first], "Petals of the rose")
        self.assertEqual(named.json()["undo"], f"{name} is called Petals of the rose")
        parted = self.act("put", "thing", {"labels": [second], "together": False})
        self.assertEqual(self.things(parted)[second], "")
        undone = self.act("post", "undo")
        self.assertEqual(self.things(undone)[second], "Petals of the rose")

    def test_a_thing_takes_others_in_and_gives_them_its_ramp(self):
        piece = coloured(make_piece(self.ana))
        self.piece = piece
        ramps = {label: one.coats for label, one in piece.sheet().regions.settings.items()}
        first = next(label for label, ramp in ramps.items() if ramp)
        other = next(label for label in ramps if label != first)
        sheet = piece.sheet()
        bare = {other: RegionSetting(name="Bare")}
        from server.pieces.steps import keep_step

        keep_step(actor=self.ana, piece=piece, version=piece.version, what="Bared", sheet=sheet.with_regions(bare))
        joined = self.act("put", "thing", {"labels": [first, other]}).json()
        laid = {one["label"]: one["coats"][0]["ramp"] for one in joined["regions"]["list"]}
        self.assertEqual(laid[other]["swatches"], laid[first]["swatches"])

    def test_questions_are_answered_once(self):
        first, second, *_ = self.labels()
        self.ask((first, second))
        read = self.send("get", f"pieces/{self.piece.pk}/").json()
        self.assertEqual(read["regions"]["questions"], [[first, second]])
        yes = self.act("post", "answer", {"labels": [first, second], "alike": True})
        self.assertEqual(yes.json()["regions"]["questions"], [])
        self.assertTrue(self.things(yes)[first])
        again = self.act("post", "answer", {"labels": [first, second], "alike": True})
        self.assertProblem(again, 422, "invalid_fields", "no open question")
        self.ask((first, second))
        self.act("put", "thing", {"labels": [first, second], "together": False})
        no = self.act("post", "answer", {"labels": [first, second], "alike": False})
        self.assertEqual((no.json()["regions"]["questions"], self.things(no)[first]), ([], ""))

    def test_impossible_wishes_are_refused_in_a_sentence(self):
        first, second, *_ = self.labels()
        self.act("put", "thing", {"labels": self.labels(), "together": False})
        for what, method, body, words in (
            ("thing", "put", {"labels": [first]}, "at least two"),
            ("thing", "put", {"labels": [9999, first]}, "no region 9999"),
            ("thing", "put", {"labels": []}, ""),
            ("thing-name", "put", {"label": first, "name": "X"}, "stands for itself"),
            ("alike", "post", {"label": 9999}, "no region 9999"),
            ("answer", "post", {"labels": [first, second], "alike": True}, "no open question"),
        ):
            with self.subTest(what=what, body=body):
                self.assertProblem(self.act(method, what, body), 422, "invalid_fields", words)

    def test_two_things_cannot_have_one_name(self):
        labels = self.labels()
        self.act("put", "thing", {"labels": labels, "together": False})
        self.act("put", "thing", {"labels": labels[:2]})
        self.act("put", "thing-name", {"label": labels[0], "name": "A"})
        same = self.act("put", "thing-name", {"label": labels[1], "name": "A"})
        self.assertEqual(same.status_code, 200)

    def test_things_are_looked_for_and_what_is_there_stays(self):
        labels = self.labels()
        self.act("put", "thing", {"labels": labels[:2]})
        name = self.things(self.act("put", "thing-name", {"label": labels[0], "name": "Mine"}))[labels[0]]
        found = self.act("post", "find-things")
        self.assertEqual(found.status_code, 200)
        self.assertEqual(self.things(found)[labels[1]], name)

    def test_the_plan_tells_its_stints(self):
        self.piece = coloured(make_piece(self.ana))
        plan = self.send("get", f"pieces/{self.piece.pk}/plan/").json()
        self.assertEqual(plan["stints"][0]["first_pass"], 1)
        self.assertEqual(plan["stints"][-1]["last_pass"], len(plan["passes"]))
        hands = [
            (stint["hand"], plan["passes"][number - 1])
            for stint in plan["stints"]
            for number in range(stint["first_pass"], stint["last_pass"] + 1)
        ]
        for (hand, before), (after, one) in pairwise(hands):
            same_pen = before["swatch"]["code"] == one["swatch"]["code"]
            self.assertEqual(after == hand, same_pen and one["wait_s"] <= 0)
            self.assertIn(after - hand, (0, 1))

    def test_nobody_else_groups_ones_regions(self):
        first, second, *_ = self.labels()
        self.client.force_login(self.ben)
        for what, method, body in (
            ("thing", "put", {"labels": [first, second]}), ("alike", "post", {"label": first}),
            ("answer", "post", {"labels": [first], "alike": True}), ("find-things", "post", {}),
            ("thing-name", "put", {"label": first, "name": "X"}),
        ):  # fmt: skip
            with self.subTest(what=what):
                self.assertEqual(self.send(method, f"pieces/{self.piece.pk}/{what}/", body, 1).status_code, 404)
