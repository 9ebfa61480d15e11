"""Whatever is sent, the answer is a sentence: every field of every change, with values nobody should send; of these
each field gets every third one, its neighbours the others."""

from __future__ import annotations

from typing import Any

from paleta.run import plan_key
from server.drawers.models import Drawer
from server.pieces.colours.gotos import keep_goto
from server.pieces.models import Piece
from server.runs.along import plan_followed, start_run
from tests.server.base import ApiTestCase
from tests.server.test_permissions import DRAWER_ROUTES, PIECE_ROUTES, filled
from tools.odd_values import ODD, leaves, with_value


def version_of(kind: Any, pk: int) -> int:
    return kind.objects.values_list("version", flat=True).get(pk=pk)


class OddValuesTest(ApiTestCase):
    def send_odd(self, kind: Any, pk: int, routes: dict[str, tuple[str, Any, int]], own: dict[str, int]) -> None:
        where = f"{kind.__name__.lower()}s"
        self.client.raise_request_exception = False
        for route, (method, example, _) in routes.items():
            if example is None or method == "get":
                continue
            body = filled(example, own)
            for place, path in enumerate(leaves(body)):
                for odd in ODD[place % 3 :: 3]:
                    version = version_of(kind, pk)
                    response = self.send(method, f"{where}/{pk}/{route}", with_value(body, path, odd), version)
                    if response.status_code >= 400:
                        self.assertLess(response.status_code, 500, (route, path, str(odd)[:40]))
                        self.assertEqual(response["Content-Type"], "application/problem+json", (route, path))
                        self.assertTrue(response.json()["detail"], (route, path))
                        self.assertEqual(version_of(kind, pk), version, (route, path, str(odd)[:40]))

    def test_every_change_of_a_piece_answers_in_a_sentence(self):
        goto = keep_goto(actor=self.ana, piece=self.piece, label=1, name="Moss", tags=[])
        own = {"drawer": self.ana.drawers.get(medium="pencil").pk, "goto": goto.pk}
        self.send_odd(Piece, self.piece.pk, PIECE_ROUTES, own)
        shown = self.send("get", f"pieces/{self.piece.pk}/")
        self.assertEqual(shown.status_code, 200)
        for look in ("plan/", "value-warnings/", "light-check/", "picture/?view=coloured", "recipes/"):
            self.assertEqual(self.send("get", f"pieces/{self.piece.pk}/{look}").status_code, 200, look)

    def test_every_line_of_a_log_is_taken_or_refused_in_a_sentence(self):
        version = Piece.objects.get(pk=self.piece.pk).version
        run = start_run(actor=self.ana, piece=self.piece, version=version)
        about = {"id": "odd-line-1", "at_s": 1.8e9, "plan": plan_key(plan_followed(run)), "card": 1}
        examples = (
            {"kind": "laid", "passes": [1]},
            {"kind": "handled", "step": 1},
            {"kind": "undone", "event": "odd-line-2"},
            {"kind": "another pen", "instead_of": "a", "code": "b", "name": "B", "hex": "#aabbcc", "passes": [1]},
            {"kind": "extra coat", "passes": [1]},
            {"kind": "slip", "slip": "stripe", "passes": [1]},
            {"kind": "rescued", "event": "odd-line-2", "rescue": "books"},
            {"kind": "noted", "text": "x", "passes": []},
            {"kind": "finished"},
        )
        self.client.raise_request_exception = False
        for number, example in enumerate(examples):
            whole = {**about, **example}
            for which, path in enumerate(leaves(whole)):
                for place, odd in [*enumerate(ODD)][which % 3 :: 3]:
                    line = with_value({**whole, "id": f"odd-{number}-{'-'.join(map(str, path))}-{place}"}, path, odd)
                    answer = self.send("post", f"runs/{run.pk}/events/", {"events": [line]})
                    self.assertIn(answer.status_code, (200, 400, 422), (path, str(odd)[:40], answer.content[:200]))
                    for refused in answer.json().get("refused", ()):
                        self.assertTrue(refused["detail"], (path, str(odd)[:40]))
        self.assertEqual(self.send("get", f"runs/{run.pk}/").status_code, 200)
        self.assertEqual(self.send("get", "runs/").status_code, 200)

    def test_every_change_of_a_drawer_answers_in_a_sentence(self):
        drawer = self.ana.drawers.get(medium="marker")
        self.send_odd(Drawer, drawer.pk, DRAWER_ROUTES, {})
        self.assertEqual(self.send("get", f"drawers/{drawer.pk}/").status_code, 200)
