"""What the code base promised itself: the core knows no Django, sources are listed, nothing is fetched."""

from __future__ import annotations

import re
from pathlib import Path

import numpy as np
from django.test import SimpleTestCase

from paleta.impression.grouping._pair_classifier import NETWORKS
from paleta.impression.regions._gap_classifier import VIEW, VIEWS
from tests.imports import imported

ROOT = Path(__file__).parents[2]
CORE = sorted((ROOT / "paleta").rglob("*.py"))


WITHOUT_CORE = {"django", "rest_framework", "server", "demo", "tests"}


class CoreTest(SimpleTestCase):
    def test_the_core_imports_no_django_no_server_and_no_demo(self):
        for path in CORE:
            with self.subTest(path=path.name):
                self.assertEqual({name.split(".")[0] for name in imported(path)} & WITHOUT_CORE, set())

    def test_a_package_reaches_into_no_other_ones_private_modules(self):
        for path in CORE:
            own = path.relative_to(ROOT).parts[:2]
            foreign = {name for name in imported(path) if "._" in name and tuple(name.split(".")[:2]) != own}
            with self.subTest(path=str(path.relative_to(ROOT))):
                self.assertEqual(foreign, set())

    def test_the_cores_tests_need_no_server(self):
        for path in [*(ROOT / "tests/core").glob("*.py"), ROOT / "tests/builders.py"]:
            with self.subTest(path=path.name):
                self.assertEqual({name.split(".")[0] for name in imported(path)} & {"server", "rest_framework"}, set())

    def test_the_core_opens_no_files_but_its_own_tables(self):
        for path in CORE:
            with self.subTest(path=path.name):
                self.assertIsNone(
                    re.search(r"(?<![\w.])open\(|\.write_text|\.write_bytes|urlopen|requests\.", path.read_text())
                )

    def test_the_public_face_has_the_names_the_design_fixed(self):
        import paleta.colour
        import paleta.impression
        import paleta.light
        import paleta.media
        import paleta.order
        import paleta.palette
        import paleta.photo_check
        import paleta.recipe

        for module, names in (
            (paleta.impression, ("read", "find_regions")),
            (paleta.light, ("model_forms", "illuminate", "zone_map")),
            (paleta.colour, ("difference",)),
            (paleta.palette, ("find_ramps",)),
            (paleta.media, ("appearance",)),
            (paleta.order, ("make_plan", "check_plan")),
            (paleta.recipe, ("dump", "load")),
            (paleta.photo_check, ("register", "compare")),
        ):
            for name in names:
                self.assertIn(name, module.__all__)

    def test_every_source_cited_by_key_is_listed_once(self):
        listed = re.findall(r"^\[(\w+\d{2,4}\w?)\]", (ROOT / "REFERENCES.md").read_text(), re.M)
        self.assertEqual(len(listed), len(set(listed)))
        cited = set()
        for path in (one for room in ("paleta", "server", "tests", "tools") for one in (ROOT / room).rglob("*.py")):
            cited |= set(re.findall(r"\[([A-Z][A-Za-z]+\d{2,5})\]", path.read_text()))
        self.assertEqual(cited - set(listed), set())

    def test_the_trade_notes_have_the_sections_cited_and_name_files_that_exist(self):
        notes = (ROOT / "docs/trade-notes.md").read_text()
        sections = set(re.findall(r"^## (\w+)$", notes, re.M))
        cited = set()
        for path in [*CORE, *(ROOT / "tests").rglob("*.py")]:
            cited |= set(re.findall(r"trade-notes\.md, (?:section )?([A-Z]\w+)", path.read_text()))
        self.assertGreater(len(cited), 4)
        self.assertEqual(cited - sections, set())
        for name in re.findall(r"`(paleta/[\w/.]+)`", notes):
            with self.subTest(name=name):
                self.assertTrue((ROOT / name).exists())


class ToolsTest(SimpleTestCase):
    def test_every_script_that_says_it_can_be_run_does_something_when_it_is(self):
        said = {}
        for path in (ROOT / "tools").rglob("*.py"):
            for name in re.findall(r"python -m (tools[\w.]*)", path.read_text()):
                said[name] = path
        self.assertGreater(len(said), 8)
        for name in said:
            place = ROOT / name.replace(".", "/")
            script = place / "__main__.py" if place.is_dir() else place.with_suffix(".py")
            with self.subTest(script=name):
                self.assertRegex(script.read_text(), r'if __name__ == "__main__":\n    \w+')

    def test_the_networks_beside_the_code_have_the_shape_their_scripts_fit(self):
        from tools import fit_fronts, fit_necks, fit_second_look, fit_things

        again = fit_second_look.SECOND_FEATURES
        for script, name, features, views in (
            (fit_necks, "cell", fit_necks.FEATURES, blank_views().size),
            (fit_fronts, "order", fit_fronts.FEATURES, 0),
            *((fit_things, name, fit_things.FEATURES, 0) for name in NETWORKS),
            *((fit_second_look, name, again, 0) for name in NETWORKS),
        ):
            with np.load(script.PLACE) as kept, self.subTest(network=f"{script.PLACE.name}, {name}"):
                self.assertEqual(kept["features"].tolist(), list(features))
                self.assertEqual(kept[f"{name}_0"].shape, (len(features) + views, script.HIDDEN[0]))
                self.assertEqual(kept[f"{name}_1"].shape, script.HIDDEN)


def blank_views() -> np.ndarray:
    """One neck with nothing round it."""
    return np.zeros((1, len(VIEWS), VIEW, VIEW))


class WebTest(SimpleTestCase):
    def test_the_page_names_no_address_outside(self):
        sources = [*(ROOT / "web/src").rglob("*.ts*"), ROOT / "web/src/styles.css", ROOT / "web/index.html"]
        for path in (path for path in sources if path.name != "schema.ts"):
            text = path.read_text().replace("http://www.w3.org/2000/svg", "")
            with self.subTest(path=path.name):
                self.assertEqual(re.findall(r"https?://.*", text), [])

    def test_text_and_its_ground_contrast_by_the_wcag_formula(self):
        # [WCAG22], 1.4.3: at least 4.5 : 1. Colours are read from the theme in styles.css.
        theme = dict(re.findall(r"--color-([\w-]+): (#[0-9a-f]{6})", (ROOT / "web/src/styles.css").read_text()))
        for text, ground in (
            ("ink", "surround"), ("ink", "surround-light"), ("ink", "sheet"), ("ink", "faint"), ("ink", "lamp"),
            ("soft", "sheet"), ("soft", "faint"), ("sheet", "ink"), ("sheet", "soft"),
        ):  # fmt: skip
            with self.subTest(text=text, ground=ground):
                self.assertGreaterEqual(contrast(theme[text], theme[ground]), 4.5)


def contrast(one: str, other: str) -> float:
    """[WCAG22]: (L1 + 0.05) / (L2 + 0.05) of the relative luminances."""
    lights = sorted(luminance(code) for code in (one, other))
    return (lights[1] + 0.05) / (lights[0] + 0.05)


def luminance(code: str) -> float:
    channels = [int(code[i : i + 2], 16) / 255 for i in (1, 3, 5)]
    linear = [value / 12.92 if value <= 0.04045 else ((value + 0.055) / 1.055) ** 2.4 for value in channels]
    return 0.2126 * linear[0] + 0.7152 * linear[1] + 0.0722 * linear[2]
