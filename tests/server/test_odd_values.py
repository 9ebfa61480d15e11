"""Whatever is sent, the answer is a sentence: every field of every change, with values nobody should send."""

from __future__ import annotations

import copy
from collections.abc import Iterator
from typing import Any

from server.drawers.models import Drawer
from server.pieces.colours.gotos import keep_goto
from server.pieces.models import Piece
from tests.server.base import ApiTestCase
from tests.server.test_permissions import DRAWER_ROUTES, PIECE_ROUTES, filled

ODD = (
    None, True, -1, 0, 10**30, 1e308, float("nan"), "", "\x00", "\ud800", "²", "🖍" * 3000, "NaN", [], [None], [[[]]], {}, {"a": []},
)  # fmt: skip


def leaves(body: Any, path: tuple[Any, ...] = ()) -> Iterator[tuple[Any, ...]]:
    """The way to every value in a body, and to the body itself."""
    yield path
    inner = body.items() if isinstance(body, dict) else enumerate(body) if isinstance(body, list) else ()
    for key, value in inner:
        yield from leaves(value, (*path, key))


def with_value(body: Any, path: tuple[Any, ...], value: Any) -> Any:
    if not path:
        return value
    changed = copy.deepcopy(body)
    place = changed
    for key in path[:-1]:
        place = place[key]
    place[path[-1]] = value
    return changed


class OddValuesTest(ApiTestCase):
    def send_odd(self, kind: Any, pk: int, routes: dict[str, tuple[str, Any, int]], own: dict[str, int]) -> None:
        where = f"{kind.__name__.lower()}s"
        self.client.raise_request_exception = False
        for route, (method, example, _) in routes.items():
            if example is None or method == "get":
                continue
            body = filled(example, own)
            for path in leaves(body):
                for odd in ODD:
                    version = kind.objects.get(pk=pk).version
                    response = self.send(method, f"{where}/{pk}/{route}", with_value(body, path, odd), version)
                    if response.status_code >= 400:
                        self.assertLess(response.status_code, 500, (route, path, str(odd)[:40]))
                        self.assertEqual(response["Content-Type"], "application/problem+json", (route, path))
                        self.assertTrue(response.json()["detail"], (route, path))
                        self.assertEqual(kind.objects.get(pk=pk).version, version, (route, path, str(odd)[:40]))

    def test_every_change_of_a_piece_answers_in_a_sentence(self):
        goto = keep_goto(actor=self.ana, piece=self.piece, label=1, name="Moss", tags=[])
        own = {"drawer": self.ana.drawers.get(medium="pencil").pk, "goto": goto.pk}
        self.send_odd(Piece, self.piece.pk, PIECE_ROUTES, own)
        shown = self.send("get", f"pieces/{self.piece.pk}/")
        self.assertEqual(shown.status_code, 200)
        for look in ("plan/", "value-warnings/", "light-check/", "picture/?view=coloured", "recipes/"):
            self.assertEqual(self.send("get", f"pieces/{self.piece.pk}/{look}").status_code, 200, look)

    def test_every_change_of_a_drawer_answers_in_a_sentence(self):
        drawer = self.ana.drawers.get(medium="marker")
        self.send_odd(Drawer, drawer.pk, DRAWER_ROUTES, {})
        self.assertEqual(self.send("get", f"drawers/{drawer.pk}/").status_code, 200)
