"""What the server promised itself: the schema is the code's own, the page's types are the schema's, arrows point one
way."""

from __future__ import annotations

import io
import subprocess
from importlib import import_module
from pathlib import Path

from django.core.management import call_command
from django.test import SimpleTestCase, TestCase

from tests.imports import imported
from tools.make_limits import limits

ROOT = Path(__file__).parents[2]
SHARED = ROOT / "web/src/shared/api"
FLOORS = (
    "files",
    "derived",
    "accounts",
    "drawers",
    "pieces",
    "recipes",
    "cards",
    "runs",
    "photo_check",
    "restamp",
    "printing",
    "backup",
)
"""Apps from the ground up: each knows those below it and none above."""


class SchemaTest(TestCase):
    def test_the_checked_in_schema_is_the_codes_own(self):
        out = io.StringIO()
        call_command("spectacular", "--fail-on-warn", stdout=out)
        self.assertEqual(out.getvalue().strip(), (ROOT / "server/schema.yml").read_text().strip())

    def test_the_pages_types_are_the_schemas(self):
        made = subprocess.run(
            ["npx", "--no-install", "openapi-typescript", "../server/schema.yml"],
            cwd=ROOT / "web", capture_output=True, text=True, check=True,
        )  # fmt: skip
        self.assertEqual(made.stdout.strip(), (SHARED / "schema.ts").read_text().strip())

    def test_the_pages_limits_are_the_schemas(self):
        self.assertEqual((SHARED / "limits.ts").read_text(), limits())

    def test_no_model_change_lacks_a_migration(self):
        call_command("makemigrations", "--check", "--dry-run", verbosity=0)


class HouseTest(SimpleTestCase):
    def test_an_app_knows_only_those_below_it(self):
        for height, app in enumerate(FLOORS):
            above = {f"server.{name}" for name in FLOORS[height + 1 :]}
            for path in (ROOT / "server" / app).rglob("*.py"):
                found = {".".join(name.split(".")[:2]) for name in imported(path)}
                with self.subTest(path=str(path.relative_to(ROOT))):
                    self.assertEqual(found & above, set())

    def test_every_app_has_its_floor(self):
        folders = {path.parent.name for path in (ROOT / "server").glob("*/__init__.py")}
        self.assertEqual(folders, set(FLOORS))


class ScriptsTest(SimpleTestCase):
    def test_whatever_a_script_takes_from_the_house_is_there(self):
        """Scripts are run by hand; a name that changed under them would only be missed then."""
        for path in sorted([*(ROOT / "demo").rglob("*.py"), *(ROOT / "tools").rglob("*.py")]):
            for name in sorted(imported(path)):
                if name.split(".")[0] in ("paleta", "server", "demo", "tools", "tests"):
                    with self.subTest(script=str(path.relative_to(ROOT)), name=name):
                        self.assertTrue(is_there(name))


def is_there(name: str) -> bool:
    """Whether there is a module of this full name, or something called so in one."""
    owner, _, last = name.rpartition(".")
    try:
        return bool(owner and hasattr(import_module(owner), last)) or bool(import_module(name))
    except ImportError:
        return False
