"""From an own scan to a kept recipe, as a new user goes: `python -m tools.first_card` against a running `./run`.

Three stampings made by script (tools/stampings) of some 60, 110 and 150 cells are added, the quick round is answered,
a palette is laid over everything and the recipe is kept, all through the real interface. Prints how often a hand had to
do something (clicks, keys, files) and how long the machine took. An account is made for it and left behind.
"""

from __future__ import annotations

import argparse
import sys
import time
from dataclasses import dataclass, field
from uuid import uuid4

from playwright.sync_api import Locator, Page, sync_playwright

from tools.chromium import CHROMIUM, QUIET
from tools.stampings import DEGREES, panel, stamp, true_cells

CELLS = (60, 110, 150)
AIMS = (25, 35, 45)
SEEDS = range(70_000, 70_400)
DPI = 300
REMEDIES = 6
"""What the value guard still says after so many clicks on its remedies is knowingly left."""


@dataclass
class Hand:
    """Does what a user does, and counts it; what lies between is the machine's time."""

    page: Page
    actions: int = 0
    waited_s: float = 0.0
    notes: list[str] = field(default_factory=list)

    def click(self, what: Locator) -> None:
        self.actions += 1
        what.click()

    def key(self, key: str) -> None:
        self.actions += 1
        self.page.keyboard.press(key)

    def waits_for(self, what: Locator) -> None:
        begun = time.perf_counter()
        what.wait_for(timeout=120_000)
        self.waited_s += time.perf_counter() - begun

    def kept(self) -> None:
        """Until no change is on its way any more."""
        begun = time.perf_counter()
        self.page.wait_for_timeout(60)
        self.page.wait_for_function("() => !document.documentElement.hasAttribute('data-keeping')", timeout=120_000)
        self.waited_s += time.perf_counter() - begun


def of_size(cells: int) -> tuple[bytes, int]:
    """The first stamping with about so many cells, and how many it has."""
    for seed in SEEDS:
        drawn = panel(seed, DPI)
        found = int(true_cells(drawn).max())
        if abs(found - cells) <= 0.06 * cells:
            return stamp(drawn, DEGREES["light"], seed).data, found
    raise SystemExit(f"No drawing of about {cells} cells.")


def open_account(page: Page, name: str) -> None:
    page.get_by_role("button", name="I am new here").click()
    page.get_by_label("Name").fill(name)
    page.get_by_label("Password").fill("a-long-way-on-foot")
    page.get_by_role("button", name="Open an account").click()
    page.get_by_role("heading", name="Shelf", exact=True).wait_for()


def walk(page: Page, data: bytes) -> Hand:
    hand = Hand(page)
    button = page.get_by_role
    hand.click(button("button", name="stamped image").first)
    hand.actions += 1
    page.get_by_label("Scan or photo").set_input_files([{"name": "scan.jpg", "mimeType": "image/jpeg", "buffer": data}])
    find = button("button", name="Find the regions")
    hand.waits_for(find)
    hand.click(find)
    hand.waits_for(page.locator('canvas[data-shown*="version="]'))
    if button("button", name="Look through them").count():
        hand.click(button("button", name="Look through them"))
        while page.get_by_role("group", name="Quick round").count():
            # Marked on the picture: what is asked is alike more often than not.
            hand.key("y")
            hand.kept()
        hand.key("Escape")
    hand.click(page.locator('button[aria-controls="part-colours"]'))
    hand.click(page.get_by_text("A palette from the colour wheel"))
    hand.click(button("button", name="From the wheel"))
    over = button("button", name="Lay it over")
    hand.waits_for(over)
    hand.click(over)
    hand.kept()
    guard = page.get_by_text("Value guard:")
    hand.waits_for(guard)
    hand.click(guard)
    page.wait_for_timeout(300)
    warnings = page.get_by_role("list", name="Value warnings").get_by_role("listitem")
    for _ in range(REMEDIES):
        if not warnings.count():
            break
        hand.click(warnings.first.get_by_role("button").last)
        hand.kept()
        page.wait_for_timeout(300)  # what is left is asked for anew
    hand.notes.append(f"{warnings.count()} warnings left")
    hand.notes.append(page.locator('button[aria-controls="part-regions"]').inner_text().replace("\n", " "))
    hand.click(button("button", name="Keep as version 1"))
    hand.waits_for(button("button", name="Kept as version 1"))
    return hand


def main(address: str) -> None:
    with sync_playwright() as playwright:
        browser = playwright.chromium.launch(executable_path=CHROMIUM, args=QUIET)
        page = browser.new_context(viewport={"width": 1280, "height": 800}).new_page()
        page.goto(address)
        open_account(page, f"walker-{uuid4().hex[:8]}")
        sys.stdout.write(f"{'cells':>6}{'actions':>9}{'aim':>5}{'machine s':>11}\n")
        for cells, aim in zip(CELLS, AIMS, strict=True):
            data, found = of_size(cells)
            page.goto(address)
            hand = walk(page, data)
            sys.stdout.write(f"{found:6}{hand.actions:9}{aim:5}{hand.waited_s:11.1f}    {'; '.join(hand.notes)}\n")
        browser.close()


if __name__ == "__main__":
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("--address", default="http://127.0.0.1:8000")
    main(parser.parse_args().address)
