"""A made-up medium, form, paper or line is one file: over picture, plan and page to what the browser is served."""

from __future__ import annotations

import json
import os
import subprocess
import sys
import tempfile
from pathlib import Path
from typing import Any

from django.test import SimpleTestCase

ROOT = Path(__file__).parents[2]
CHALK = '''
"""Chalk: made up, to show that a medium is one file."""

from paleta.media._medium import INK_TURN, Advice, Fit, Medium, Over, SecondBox, Texture, Way
from paleta.media._optics import lay_inkpad
from paleta.media._pace import Pace
from paleta.media._school import School, SchoolStep

MEDIUM = Medium(
    code="chalk",
    name="Pastel chalk",
    rank=9,
    optics=lay_inkpad,
    transparent=False,
    covers=0.5,
    turn=INK_TURN,
    pace=Pace(start_s=7, per_mm2_s=0.05, change_s=9, touch_dry_s=0, coat_dry_s=0, blend_s=900),
    usual_school="C1",
    schools=(
        School("C1", "Dust and rub", "chalk", "The palest all over, the darkest rubbed in.", (
            SchoolStep("palest", "all over", "start", "dust it on and rub it in"),
            SchoolStep("darkest", "own zone", "any", "rub the dark into the shade"),
        )),
    ),
    lies_on={"pencil": Over(False, "Wax sheds the dust.")},
    tip_mm=3.0,
    finish_dry_s=0.0,
    melts=0.8,
    texture=Texture("clouds"),
    second_box=SecondBox("rubbed once", "rubbed twice", "two_coats", {"coats": 2}),
    fits=(Fit(Advice("Dust finds no hold on gloss.", "Take a paper with tooth."), papers=(frozenset({"glossy"}),)),),
    ways=(Way("dusted", "Dusted with chalk", "C1"),),
    caution="Dust: do not blow, wipe it up damp.",
)
'''
SADDLE = '''
"""A saddle: made up, to show that a form is one file."""

import numpy as np

from paleta.light._form import Form, tilted


def _sagging(normals, stretch, bulge):
    if stretch is None:
        return normals
    return tilted(normals, stretch.way, bulge * (stretch.along - 0.5))


FORM = Form(
    code="saddle", name="Saddle", rank=9, icon="M4 4Q20 30 36 4", noun="Saddles", right_side=4.0, rise=0.5,
    has_base=True, sided=True, bend=_sagging,
)
'''
ROSE = '''
"""Rose card: made up, to show that a paper is one file."""

from paleta.materials._paper import Paper

PAPER = Paper("old-rose", "Old rose card, 200 g/m2", (78.0, 18.0, 6.0), 200, rank=9)
'''
GOLD = '''
"""A gold line: made up, to show that a line is one file."""

from paleta.materials._line import Line

LINE = Line("gold", "Gold pen", 9, words=frozenset({"runs in water"}))
'''
WALK = """
import json
import django
django.setup()
from django.core.management import call_command
call_command("migrate", verbosity=0)
from django.conf import settings
from django.test import Client
settings.ALLOWED_HOSTS = ["testserver"]
from paleta.checks import fit
from server.pieces.models import Piece
from tests.server.builders import make_piece, make_user

ana = make_user("ana")
piece = make_piece(ana)
client = Client()
client.force_login(ana)

def send(method, path, body=None, version=None):
    answer = getattr(client, method)(
        f"/api/v1/{path}", data=json.dumps(body) if body is not None else None, content_type="application/json",
        headers={"If-Match": f'"{version}"'} if version is not None else {},
    )
    assert answer.status_code < 300, (path, answer.status_code, answer.content[:400])
    return answer

drawer = send("post", "drawers/", {"name": "Chalk box", "medium": "chalk"}).json()
for number, light in enumerate((85, 62, 38)):
    swatch = {"code": f"clay-{number}", "name": f"Clay {number}", "lab": [light, 12, 18], "family": "clay"}
    drawer = send("post", f"drawers/{drawer['id']}/swatches/", swatch, drawer["version"]).json()
at = f"pieces/{piece.pk}"
before = send("get", f"{at}/picture/").content
send("put", f"{at}/medium/", {"medium": "chalk", "drawer": drawer["id"]}, Piece.objects.get().version)
labels = sorted(Piece.objects.get().sheet().regions.settings)
codes = ["clay-0", "clay-2"]
send("put", f"{at}/ramp/", {"labels": labels, "codes": codes, "by_hand": True, "medium": "chalk"}, Piece.objects.get().version)
plan = send("get", f"{at}/plan/").json()
trade = send("get", "trade/").json()
send("put", f"{at}/regions/", {"labels": labels[:2], "form": "saddle"}, Piece.objects.get().version)
send("put", f"{at}/stamp/", {"paper": "old-rose", "outline_ink": "gold"}, Piece.objects.get().version)
bench = send("get", f"{at}/").json()
fits = {medium: [one.why for one in fit(medium, "gold", "old-rose")] for medium in ("marker", "watercolour")}
group = send("put", f"{at}/thing/", {"labels": labels[:2], "together": True}, Piece.objects.get().version).json()
run = send("post", f"{at}/start-run/", {"cards": 1}, Piece.objects.get().version).json()
page = send("get", f"{at}/one-page/?unit=in").json()
print(json.dumps({
    "passes": [[one["medium"], one["how"], one["swatch"]["code"]] for one in plan["passes"]],
    "school": plan["school"],
    "media": [one["code"] for one in trade["media"]],
    "schools": [one["name"] for one in trade["schools"] if one["medium"] == "chalk"],
    "ways": [one["name"] for one in trade["ways"] if one["medium"] == "chalk"],
    "cautions": {one["code"]: one["caution"] for one in trade["media"]},
    "changed": send("get", f"{at}/picture/").content != before,
    "rescues": sorted({one["code"] for slip in run["slips"] for one in slip["rescues"]}),
    "page": page["text"],
    "forms": [one["name"] for one in trade["forms"]],
    "form": bench["regions"]["list"][0]["form"],
    "things": sorted({one["thing"] for one in group["regions"]["list"]}),
    "papers": [one["name"] for one in trade["papers"]],
    "inks": [one["name"] for one in trade["inks"]],
    "fits": fits,
}))
"""
MADE_UP = {
    "paleta.media": ("chalk", CHALK),
    "paleta.light.forms": ("saddle", SADDLE),
    "paleta.materials.papers": ("old_rose", ROSE),
    "paleta.materials.lines": ("gold", GOLD),
}
BESIDE = '''
"""Packages of the core have the modules that lie in the folder of their name here, too."""

import sys
from importlib.machinery import PathFinder
from pathlib import Path

MORE = {one.name: str(one) for one in Path(__file__).parent.iterdir() if one.is_dir()}


class Beside:
    @staticmethod
    def find_spec(name, path=None, target=None):
        if name in MORE and (spec := PathFinder.find_spec(name, path)):
            spec.submodule_search_locations.append(MORE[name])
            return spec


sys.meta_path.insert(0, Beside)
'''


class MadeUpKindsTest(SimpleTestCase):
    """The house with one file more of each kind, which lies in a folder of its own beside it."""

    @classmethod
    def setUpClass(cls) -> None:
        super().setUpClass()
        with tempfile.TemporaryDirectory() as folder:
            (Path(folder) / "sitecustomize.py").write_text(BESIDE)
            for package, (name, text) in MADE_UP.items():
                place = Path(folder) / package
                place.mkdir()
                (place / f"{name}.py").write_text(text)
            env = {
                **os.environ, "PYTHONPATH": f"{folder}:{ROOT}", "PALETA_VAR": str(Path(folder) / "var"),
                "DJANGO_SETTINGS_MODULE": "server.settings",
            }  # fmt: skip
            done = subprocess.run(
                [sys.executable, "-c", WALK], cwd=ROOT, env=env, capture_output=True, text=True, check=False
            )
        if done.returncode:
            raise AssertionError(done.stderr[-2000:])
        cls.told: dict[str, Any] = json.loads(done.stdout.splitlines()[-1])

    def test_it_is_planned_by_its_own_school(self):
        self.assertEqual(self.told["school"], "Dust and rub")
        self.assertEqual({one[0] for one in self.told["passes"]}, {"chalk"})
        self.assertIn(["chalk", "rub the dark into the shade", "clay-2"], self.told["passes"])

    def test_it_shows_in_the_picture_and_on_the_page(self):
        self.assertTrue(self.told["changed"])
        self.assertIn("Clay 2", self.told["page"])

    def test_the_page_is_served_all_that_it_offers(self):
        self.assertEqual(self.told["media"][-1], "chalk")
        self.assertEqual(self.told["schools"], ["Dust and rub"])
        self.assertEqual(self.told["ways"], ["Dusted with chalk"])
        self.assertEqual(self.told["cautions"]["chalk"], "Dust: do not blow, wipe it up damp.")

    def test_slips_in_it_have_the_rescues_that_serve_anywhere(self):
        self.assertIn("white pen", self.told["rescues"])
        self.assertNotIn("blender", self.told["rescues"])

    def test_a_form_is_offered_lit_and_named(self):
        self.assertEqual(self.told["forms"][-1], "Saddle")
        self.assertEqual(self.told["form"], "saddle")
        self.assertIn("Saddles 1", self.told["things"])

    def test_a_paper_and_a_line_are_offered_printed_and_judged(self):
        self.assertEqual(self.told["papers"][-1], "Old rose card, 200 g/m2 (74 lb cover stock)")
        self.assertEqual(self.told["inks"][-1], "Gold pen")
        self.assertIn("Old rose card", self.told["page"])
        self.assertIn("Gold pen", self.told["page"])
        self.assertIn("Water-based dye ink runs when it gets wet.", self.told["fits"]["watercolour"])
        self.assertEqual(self.told["fits"]["marker"], ["A marker only darkens: its pale shades vanish on toned paper."])
