"""Who may do what."""

from __future__ import annotations

from typing import Any

from django.urls import get_resolver

from server.drawers.models import Drawer
from server.photo_check.models import PhotoCheck
from server.pieces.colours.gotos import keep_goto
from server.pieces.models import Piece, Step
from server.recipes.services import keep_recipe
from server.runs.along import start_run
from tests.server.base import ApiTestCase

PIECE_ROUTES = {
    "": ("get", None, 200),
    "stamp/": ("put", {"title": "New"}, 200),
    "goto/": ("put", {"goto": "own", "labels": [1]}, 200),
    "lamp/": ("put", {"azimuth_deg": 10, "elevation_deg": 30}, 200),
    "colours/": ("put", {"key": "night"}, 200),
    "order/": ("put", {"wish": "regions"}, 200),
    "finish/": ("put", {"touches": ["gloss"]}, 200),
    "card/": ("put", {"notes": "A2"}, 200),
    "card-plan/": ("get", None, 200),
    "cutting/": ("get", None, 409),
    "card-like/": ("put", {"piece": 987654}, 404),
    "card-look/": ("get", None, 409),
    "card.pdf/": ("get", None, 409),
    "card.svg/": ("get", None, 409),
    "cut-lines.svg/": ("get", None, 409),
    "mask.svg/": ("get", None, 200),
    "one-page/": ("get", None, 200),
    "one-page.pdf/": ("get", None, 200),
    "one-page.txt/": ("get", None, 200),
    "glows/": ("put", {"glows": [{"x_mm": 20, "y_mm": 20}]}, 200),
    "light/": ("put", {"true_to_scene": 0.5}, 200),
    "school/": ("put", {"school": "M3"}, 200),
    "paper-white/": ("get", None, 200),
    "paper-reader/": ("post", {"tile": True}, 200),
    "lay-over/": ("put", {"drawer": "own"}, 200),
    "accent/": ("put", {"labels": [1], "kind": "rim", "medium": "pencil", "code": ""}, 200),
    "ground/": ("post", {}, 200),
    "horizon/": ("put", {"label": 1, "handles": [[0, 10], [30, 10]]}, 422),
    "bands/": ("post", {"label": 1, "widths_mm": [5, 5]}, 422),
    "lay-ground/": ("put", {"labels": [1], "way": "circles", "wish_hex": "#aa5544"}, 422),
    "leave-ground/": ("post", None, 200),
    "batch/": ("get", None, 422),
    "value-warnings/": ("get", None, 200),
    "remedy/": ("post", {"kind": "key", "regions": [1]}, 422),
    "leave-warning/": ("put", {"kind": "key", "regions": [1], "left": True}, 422),
    "missing-pen/": ("post", {"wish_hex": "#aa5544", "shades": 3}, 200),
    "counterparts/": ("post", {"codes": ["none"], "drawer": "own"}, 422),
    "palette/": ("post", {"first_hex": "#aa5544", "scheme": "triad"}, 200),
    "share-palette/": ("put", {"colours": ["#aa5544", "#5588aa"], "labels": [1, 2]}, 200),
    "keep-goto/": ("post", {"label": 1, "name": "Mine"}, 201),
    "medium/": ("put", {"medium": "pencil", "drawer": "own"}, 200),
    "regions/": ("put", {"labels": [1], "name": "Moon"}, 200),
    "find-again/": ("post", {"gap_mm": 0.8, "sensitivity": 0}, 200),
    "erase/": ("post", {"label": 99}, 422),
    "put-before/": ("put", {"nearer": 2, "farther": 1}, 200),
    "light-check/": ("get", None, 200),
    "body/": ("put", {"labels": [2, 3]}, 200),
    "thing/": ("put", {"labels": [1, 2]}, 200),
    "thing-name/": ("put", {"label": 99, "name": "Petals"}, 422),
    "alike/": ("post", {"label": 99}, 422),
    "answer/": ("post", {"labels": [1, 2], "alike": True}, 422),
    "find-things/": ("post", None, 200),
    "split/": ("post", {"label": 1, "line": [[15.3, 5], [15.3, 32]]}, 200),
    "join/": ("post", {"labels": [2, 3]}, 200),
    "ramp/": ("put", {"labels": [1], "codes": []}, 200),
    "ramp-proposals/": ("post", {"wish_hex": "#aa5544", "shades": 2}, 200),
    "colour-wishes/": ("post", None, 200),
    "undo/": ("post", None, 200),
    "redo/": ("post", None, 200),
    "plan/": ("get", None, 200),
    "picture/": ("get", None, 200),
    "labels/": ("get", None, 200),
    "recipes/": ("get", None, 200),
    "recipes/1/": ("get", None, 200),
    "recipes/1/restore/": ("post", None, 200),
    "recipes/1/sheet/": ("get", None, 200),
    "recipes/1/plan/": ("get", None, 200),
    "recipes/1/picture/": ("get", None, 200),
    "runs/": ("post", {"minutes": 40}, 201),
    "start-run/": ("post", {"cards": 2}, 201),
    "photo-checks/": ("get", None, 200),
    "try-photo/": ("post", {"light": "nowhere"}, 422),
    "measured-swatches/": ("get", None, 200),
    "stamp-again/": ("post", None, 415),
}
CHECK_ROUTES = {
    "": ("get", None, 200),
    "fine/": ("put", {"place": 99}, 404),
    "picture/?view=plan": ("get", None, 200),
    "labels/": ("get", None, 200),
}
RUN_ROUTES = {
    "": ("get", None, 200),
    "events/": ("post", {"events": []}, 200),
    "choices/?now=1": ("get", None, 200),
    "map/": ("get", None, 200),
    "move/": ("get", None, 200),
    "keep/": ("post", None, 201),
    "photos/": ("post", None, 415),
    f"photos/{'0' * 64}/": ("get", None, 404),
}
OPEN_ROUTES = {"session/", "session/demo/", "accounts/"}
LIST_ROUTES = {
    "pieces/", "pieces/look/", "pieces/import/", "drawers/", "trade/", "substitutes/", "gotos/", "schools/",
    "backup/", "storage/", "restores/", "runs/", "papers/", "queue/",
}  # fmt: skip
DRAWER_ROUTES = {
    "": ("get", None, 200),
    "swatches/": ("post", {"name": "New", "code": "new", "hex": "#aa5544"}, 200),
    "table-preview/": ("post", {"text": "a\tA\t#aa5544"}, 200),
    "table/": ("post", {"text": "a\tA\t#aa5544"}, 200),
    "export.csv/": ("get", None, 200),
    "like/?hex=%23aa5544": ("get", None, 200),
    "charts/": ("get", None, 200),
    "measures/": ("put", {"measured": "cap", "values": [{"code": "none", "lab": [50, 0, 0]}]}, 422),
    "reader/": ("post", {}, 200),
}


def filled(body: Any, own: dict[str, int]) -> Any:
    """An example with the owner's own drawer or go-to in it, where it says "own"."""
    if not isinstance(body, dict):
        return body
    return {key: own[key] if value == "own" else value for key, value in body.items()}


class PermissionTest(ApiTestCase):
    @classmethod
    def setUpTestData(cls):
        super().setUpTestData()
        keep_recipe(actor=cls.ana, piece=cls.piece, version=cls.piece.version)
        goto = keep_goto(actor=cls.ana, piece=cls.piece, label=1, name="Moss", tags=[])
        cls.own = {"drawer": cls.ana.drawers.get(medium="pencil").pk, "goto": goto.pk}

    def test_visitor_other_and_owner_get_401_404_and_their_answer(self):
        for who, index in ((None, 0), (self.ben, 1), (self.ana, 2)):
            self.client.logout()
            if who:
                self.client.force_login(who)
            for route, (method, body, status) in PIECE_ROUTES.items():
                wanted = (401, 404, status)[index]
                version = Piece.objects.get(pk=self.piece.pk).version
                with self.subTest(who=str(who), route=route):
                    response = self.send(method, f"pieces/{self.piece.pk}/{route}", filled(body, self.own), version)
                    self.assertEqual(response.status_code, wanted, response.content[:200])

    def test_a_drawer_is_for_its_owner_alone(self):
        drawer = self.ana.drawers.get(medium="pencil")
        for who, index in ((None, 0), (self.ben, 1), (self.ana, 2)):
            self.client.logout()
            if who:
                self.client.force_login(who)
            for route, (method, body, status) in DRAWER_ROUTES.items():
                with self.subTest(who=str(who), route=route):
                    version = Drawer.objects.get(pk=drawer.pk).version
                    response = self.send(method, f"drawers/{drawer.pk}/{route}", body, version)
                    self.assertEqual(response.status_code, (401, 404, status)[index], response.content[:200])

    def test_a_run_is_for_its_owner_alone(self):
        run = start_run(actor=self.ana, piece=self.piece, version=Piece.objects.get(pk=self.piece.pk).version)
        for who, index in ((None, 0), (self.ben, 1), (self.ana, 2)):
            self.client.logout()
            if who:
                self.client.force_login(who)
            for route, (method, body, status) in RUN_ROUTES.items():
                with self.subTest(who=str(who), route=route):
                    wanted = (401, 404 if status != 415 else 415, status)[index]
                    response = self.send(method, f"runs/{run.pk}/{route}", body)
                    self.assertEqual(response.status_code, wanted, response.content[:200])

    def test_a_photo_check_is_for_its_owner_alone(self):
        check = PhotoCheck.objects.create(
            owner=self.ana, piece=self.piece, recipe=self.piece.recipes.first(), photo_sha256="0" * 64,
            flat_sha256="0" * 64, verdict="Like the plan.", laid=1.0, readings=[],
        )  # fmt: skip
        for who, index in ((None, 0), (self.ben, 1), (self.ana, 2)):
            self.client.logout()
            if who:
                self.client.force_login(who)
            for route, (method, body, status) in CHECK_ROUTES.items():
                with self.subTest(who=str(who), route=route):
                    response = self.send(method, f"photo-checks/{check.pk}/{route}", body)
                    self.assertEqual(response.status_code, (401, 404, status)[index], response.content[:200])

    def test_deleting_is_for_the_owner_alone(self):
        self.client.force_login(self.ben)
        self.assertEqual(self.send("delete", f"pieces/{self.piece.pk}/").status_code, 404)
        self.assertTrue(Piece.objects.filter(pk=self.piece.pk).exists())
        self.client.force_login(self.ana)
        self.assertEqual(self.send("delete", f"pieces/{self.piece.pk}/").status_code, 204)
        self.assertFalse(Step.objects.filter(piece_id=self.piece.pk).exists())

    def test_another_owners_piece_stays_as_it_was(self):
        self.client.force_login(self.ben)
        before = self.piece.version
        self.assertProblem(self.change("lamp", {"azimuth_deg": 1, "elevation_deg": 1}), 404, "not_found")
        self.assertEqual(Piece.objects.get(pk=self.piece.pk).version, before)

    def test_another_owners_drawer_is_not_there(self):
        other = self.ben.drawers.get(medium="pencil")
        self.assertProblem(self.change("medium", {"medium": "pencil", "drawer": other.pk}), 404, "not_found")
        self.assertProblem(self.send("get", f"drawers/{other.pk}/"), 404, "not_found")

    def test_lists_hold_only_ones_own(self):
        self.client.force_login(self.ben)
        self.assertEqual(self.send("get", "pieces/").json()["results"], [])
        self.assertEqual(
            {drawer["name"] for drawer in self.send("get", "drawers/").json()["results"]},
            {"Marker drawer", "Paint box", "Pencil roll", "Brush pen case", "Ink pad tray"},
        )

    def test_every_route_of_the_api_stands_in_a_table_here(self):
        found = set()
        for group in get_resolver().url_patterns:
            for pattern in getattr(group, "url_patterns", []):
                found.add(str(pattern.pattern).strip("^$").replace("\\Z", ""))
        known = OPEN_ROUTES | LIST_ROUTES
        one = "(?P<pk>[0-9]{1,15})"
        routes = (route.replace(".", r"\.") for route in PIECE_ROUTES if not route.startswith("recipes/1"))
        known |= {f"pieces/{one}/{route}" for route in routes}
        known |= {f"drawers/{one}/{route.split('?')[0]}" for route in DRAWER_ROUTES if "export" not in route}
        version = f"pieces/{one}/recipes/(?P<number>[0-9]{{1,6}})"
        known |= {f"{version}/{route}" for route in ("", "restore/", "sheet/", "plan/", "picture/")}
        chart = f"drawers/{one}/charts/(?P<number>[0-9]{{1,6}})"
        known |= {f"{chart}{route}" for route in (r"\.pdf/", r"/simulated\.jpg/", "/read/")}
        known |= {
            *(f"runs/{one}/{route}" for route in ("", "events/", "choices/", "map/", "move/", "keep/", "photos/")),
            f"runs/{one}/photos/(?P<sha256>[0-9a-f]{{64}})/",
            rf"drawers/{one}/export\.(?P<kind>csv|gpl)/",
            f"drawers/{one}/swatches/(?P<swatch>[0-9]{{1,15}})/",
            *(f"photo-checks/{one}/{route.split('?')[0]}" for route in CHECK_ROUTES),
            f"gotos/{one}/",
            f"schools/{one}/",
            f"papers/{one}/",
            "accounts/password/",
            "restores/<slug:code>/",
            "restores/<slug:code>/part/",
        }
        self.assertEqual(found, known)

    def test_lists_and_words_need_signing_in(self):
        self.client.logout()
        for route in LIST_ROUTES:
            with self.subTest(route=route):
                self.assertProblem(
                    self.send("post" if "import" in route or "look" in route or "restores" in route else "get", route),
                    401,
                    "not_authenticated",
                )
