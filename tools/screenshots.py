"""Renew docs/screenshots/ from the demo: start `./run`, then `.venv/bin/python -m tools.screenshots`."""

from __future__ import annotations

import re
import sys
from pathlib import Path

from PIL import Image
from playwright.sync_api import Locator, Page, sync_playwright

from demo.lineart import DRAWINGS
from demo.scanner import Faults, scan
from paleta.devices import photograph
from tools.chromium import CHROMIUM, QUIET

PLACE = Path(__file__).parents[1] / "docs" / "screenshots"


def main(address: str) -> None:
    PLACE.mkdir(parents=True, exist_ok=True)
    with sync_playwright() as playwright:
        browser = playwright.chromium.launch(executable_path=CHROMIUM, args=QUIET)
        page = browser.new_context(viewport={"width": 1280, "height": 800}).new_page()
        page.goto(address)
        page.get_by_role("button", name="Open the demo bench").wait_for()
        page.get_by_role("button", name="Open the demo bench").click()
        piece(page, "Balloon over the terraces").wait_for()
        page.wait_for_load_state("networkidle")
        take(page, "shelf")
        photo(page)
        piece(page, "Balloon over the terraces").click()
        bench(page, 0.42, 0.2, "order", "coloured", "bench-order")
        bench(page, 0.42, 0.2, "finish", "coloured", "bench-finish")
        back(page, address)
        piece(page, "Pangolin at the telescope").click()
        ground(page)
        bench(page, 0.78, 0.16, "light", "clay", "bench-light")
        back(page, address)
        piece(page, "A sprig drawn out to paper").click()
        bench(page, 0.43, 0.35, "colours", "coloured", "bench-colours")
        back(page, address)
        piece(page, "Three on the shelf").click()
        closer(page, 0.5, 0.4)
        bench(page, 0.5, 0.4, "colours", "values", "bench-values")
        back(page, address)
        piece(page, "A poor scan").click()
        quick_round(page)
        stamp(page)
        versions(page, address)
        page.get_by_role("link", name="Print view").first.click()
        page.get_by_role("heading", name="Ramps, palest first").wait_for()
        pictures_shown(page)
        page.get_by_role("main").screenshot(path=PLACE / "one-page.png")
        card(page, address)
        page.goto(f"{address}/drawers")
        page.get_by_role("complementary", name="Chosen swatch").wait_for()
        page.get_by_role("button", name="Sea green 55").click()
        take(page, "drawer")
        check(page, address)
        along(page, address)
        page.goto(f"{address}/account")
        page.get_by_role("heading", name="Backup").wait_for()
        page.get_by_text("of at most").wait_for()
        take(page, "account")
        browser.close()


def photo(page: Page) -> None:
    """The simulated camera's photo of a stamped sheet, with its corners found."""
    data, _ = photograph(scan(DRAWINGS["pangolin"](), faults=Faults(turn_deg=0))[0], seed=3)
    page.get_by_role("button", name="Add a stamped image").click()
    page.get_by_label("Scan or photo").set_input_files(
        [{"name": "lantern.jpg", "mimeType": "image/jpeg", "buffer": data}]
    )
    page.get_by_test_id("corners").wait_for()
    page.wait_for_timeout(300)
    take(page, "photo")
    page.keyboard.press("Escape")


def pictures_shown(page: Page) -> None:
    """The page's own rules forbid to wait by a script in it, so it is asked now and then."""
    while not page.evaluate("[...document.images].every((one) => one.complete && one.naturalWidth > 0)"):
        page.wait_for_timeout(200)


def piece(page: Page, title: str) -> Locator:
    """Its tile on the shelf; what is begun has a link of its own there."""
    return page.get_by_role("listitem").get_by_role("link", name=re.compile(f"^{title}"))


def along(page: Page, address: str) -> None:
    """The run that is half way, on a desk and on a phone; and the logbook."""
    back(page, address)
    page.get_by_role("link", name="Go on colouring").first.click()
    page.locator("canvas[data-ready]").wait_for()
    page.get_by_label("Step").select_option("pen by pen")
    page.keyboard.press("PageDown")
    page.wait_for_timeout(600)
    take(page, "along")
    page.set_viewport_size({"width": 390, "height": 844})
    page.wait_for_timeout(400)
    take(page, "along-phone")
    page.set_viewport_size({"width": 1280, "height": 800})
    page.goto(f"{address}/logbook")
    page.get_by_role("table").wait_for()
    pictures_shown(page)
    take(page, "logbook")


def ground(page: Page) -> None:
    """The night behind the figure in hand, with the point it fades round."""
    page.locator('canvas[data-shown*="version="]').wait_for()
    page.locator('button[aria-controls="part-regions"]').click()
    page.wait_for_load_state("networkidle")
    page.get_by_role("button", name="Background", exact=True).first.click()
    page.get_by_role("button", name="Lay it", exact=True).wait_for()
    bench(page, 0, 0, "regions", "coloured", "bench-ground")


def quick_round(page: Page) -> None:
    """What Paleta was not sure of when it read the scan."""
    page.locator('canvas[data-shown*="version="]').wait_for()
    page.locator('button[aria-controls="part-regions"]').click()
    page.get_by_role("button", name="Look through them").click()
    page.get_by_role("group", name="Quick round").wait_for()
    view(page, "regions")
    page.mouse.move(5, 795)
    page.wait_for_timeout(400)
    take(page, "bench-regions")
    page.get_by_role("button", name="Later").click()
    page.keyboard.press("Escape")


def closer(page: Page, x: float, y: float) -> None:
    """The picture comes near to the thing there."""
    page.locator('canvas[data-shown*="version="]').wait_for()
    box = page.get_by_test_id("card").bounding_box()
    assert box
    page.mouse.dblclick(box["x"] + x * box["width"], box["y"] + y * box["height"])
    page.wait_for_timeout(600)


def check(page: Page, address: str) -> None:
    """The demo's card with faults, beside its plan."""
    back(page, address)
    piece(page, "Three on the shelf").click()
    page.wait_for_url("**/pieces/*")
    page.goto(f"{page.url.split('?')[0]}/photo-check")
    page.get_by_role("region", name="Cards that were checked").get_by_role("link").first.click()
    findings = page.get_by_role("list", name="Findings")
    findings.get_by_role("button").first.click()
    page.wait_for_load_state("networkidle")
    pictures_shown(page)
    page.wait_for_timeout(300)
    take(page, "check")


def view(page: Page, which: str) -> None:
    page.get_by_role("group", name="View of the picture").get_by_role("button", name=which.capitalize()).click()
    page.locator(f'canvas[data-shown*="view={which}"]').wait_for()


def bench(page: Page, x: float, y: float, section: str, seen: str, name: str) -> None:
    """One section of the sheet with the region at (x, y) in hand."""
    page.locator('canvas[data-shown*="version="]').wait_for()
    page.get_by_role("listbox", name="Passes in order").wait_for()
    if page.locator(f"#part-{section}").count() == 0:
        page.locator(f'button[aria-controls="part-{section}"]').click()
    view(page, seen)
    if section != "finish" and not page.locator('[aria-label="Regions"] [aria-pressed="true"]').count():
        box = page.get_by_test_id("card").bounding_box()
        assert box
        page.get_by_test_id("card").click(position={"x": x * box["width"], "y": y * box["height"]})
    page.mouse.move(5, 795)
    page.wait_for_load_state("networkidle")
    page.wait_for_timeout(400)
    page.locator('section[aria-label="Recipe sheet"]').evaluate("element => element.scrollTo(0, 0)")
    take(page, name)


def card(page: Page, address: str) -> None:
    """The card with its measures."""
    back(page, address)
    piece(page, "Balloon over the terraces").click()
    page.locator('button[aria-controls="part-card"]').click()
    page.get_by_role("link", name="Layers, cutting and making").click()
    page.get_by_role("region", name="Cutting").wait_for()
    page.wait_for_load_state("networkidle")
    pictures_shown(page)
    take(page, "card")


def stamp(page: Page) -> None:
    """A scan with open outlines: what was taken as ink."""
    page.locator('canvas[data-shown*="version="]').wait_for()
    page.locator('button[aria-controls="part-stamp"]').click()
    page.get_by_label("Show only what was taken as ink").check()
    page.locator('canvas[data-shown*="view=ink"]').wait_for()
    page.get_by_role("combobox", name="Paper").select_option("cold-press")
    page.get_by_role("note").wait_for()
    page.wait_for_timeout(400)
    take(page, "bench-stamp")


def versions(page: Page, address: str) -> None:
    """A second version after a turn of the lamp; the demo is put back afterwards by `load_demo --anew`."""
    back(page, address)
    piece(page, "Balloon over the terraces").click()
    page.get_by_role("listbox", name="Passes in order").wait_for()
    page.get_by_role("slider", name="Lamp direction").fill("45")
    page.get_by_role("button", name="Keep as version").click()
    page.get_by_role("button", name="Kept as version").wait_for()
    page.get_by_role("button", name="Close").click()
    page.get_by_role("button", name="Versions").click()
    page.get_by_text("What changed since").first.wait_for()
    take(page, "versions")


def back(page: Page, address: str) -> None:
    page.goto(address)
    page.get_by_role("heading", name="Shelf", exact=True).wait_for()


def take(page: Page, name: str) -> None:
    page.screenshot(path=PLACE / f"{name}.png")


def shrink(picture: Path) -> None:
    """As few colours and bytes as still show the view: renewed pictures fill the history of the repository."""
    with Image.open(picture) as whole:
        # Greys must stay grey: median cut, then each colour moved to the mean of what it stands for.
        few = whole.convert("RGB").quantize(256, method=Image.Quantize.MEDIANCUT, kmeans=3)
    few.save(picture, optimize=True)


if __name__ == "__main__":
    main(sys.argv[1] if len(sys.argv) > 1 else "http://127.0.0.1:8000")
    for picture in PLACE.glob("*.png"):
        shrink(picture)
