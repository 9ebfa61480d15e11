"""Kill the server or the browser, again and again, in the middle of colouring along, and count what was lost.

    .venv/bin/python -m tools.kill_along [--kills 200]

A run on many cards is ticked off in a real browser with a profile of its own. At a random moment one of the two is
killed with SIGKILL; a killed server stays away for a few ticks. After every start, every tick that the page had shown
must still be on the device or in the server's log, and in the end all of them must be in the server's log, once.
"""

from __future__ import annotations

import argparse
import contextlib
import os
import random
import signal
import subprocess
import time
from pathlib import Path
from typing import Any

from playwright.sync_api import BrowserContext, Error, Page, Playwright, sync_playwright

from tools.bench.serving import PORT, Server
from tools.chromium import CHROMIUM, QUIET
from tools.own_database import own_database

CARDS = 60
TICKS = (2, 7)
"""Ticks between one kill and the next."""
ON_DEVICE = """async () => {
  const open = indexedDB.open("paleta-along");
  const db = await new Promise((done, fail) => { open.onsuccess = () => done(open.result); open.onerror = fail; });
  const all = (name) => new Promise((done) => {
    const asked = db.transaction(name).objectStore(name).getAll();
    asked.onsuccess = () => done(asked.result);
  });
  const [runs, outbox] = [await all("runs"), await all("outbox")];
  db.close();
  const log = runs.flatMap((one) => one.run.log).filter((event) => event.kind === "laid").map((event) => event.id);
  const unsent = outbox.filter((one) => one.event?.kind === "laid").map((one) => one.id);
  return { log, unsent };
}"""


class Walk:
    """The browser at one run, and every tick it has shown."""

    def __init__(self, playwright: Playwright, address: str, cookie: dict[str, Any], profile: str) -> None:
        self.playwright, self.address, self.cookie, self.profile = playwright, address, cookie, profile
        self.seen: set[str] = set()
        self.lost: set[str] = set()
        self.context: BrowserContext
        self.page: Page

    def open(self) -> None:
        self.context = self.playwright.chromium.launch_persistent_context(
            self.profile, executable_path=CHROMIUM, args=QUIET, viewport={"width": 1280, "height": 800}
        )
        self.context.add_cookies([self.cookie])
        self.page = self.context.pages[0]
        self.page.goto(self.address)
        begin = self.page.get_by_role("button", name="Begin")
        shown = self.page.locator("[data-swatch]")
        begin.or_(shown).first.wait_for(timeout=60_000)
        if begin.count():
            begin.click()
        shown.wait_for()
        self.check()

    def check(self) -> None:
        """What was shown as done and is nowhere any more is lost."""
        there = self.page.evaluate(ON_DEVICE)
        self.lost |= self.seen - set(there["log"]) - set(there["unsent"])

    def tick(self) -> None:
        """One stint; it counts as shown once the page has gone on to the next."""
        step = self.page.locator("[aria-current=step]")
        before = step.get_attribute("aria-label"), step.get_attribute("title")
        count = self.page.locator("nav button:disabled").count()
        self.page.keyboard.press("PageDown")
        self.page.wait_for_function(
            "([before, count]) => document.querySelectorAll('nav button:disabled').length !== count || "
            "document.querySelector('[aria-current=step]')?.getAttribute('aria-label') !== before",
            arg=[before[0], count],
            timeout=15_000,
        )
        there = self.page.evaluate(ON_DEVICE)
        self.seen |= set(there["log"]) | set(there["unsent"])

    def kill(self) -> None:
        asked = ["pgrep", "-f", f"user-data-dir={self.profile}"]
        found = subprocess.run(asked, check=False, capture_output=True, text=True)
        for pid in found.stdout.split():
            try:
                os.kill(int(pid), signal.SIGKILL)
            except ProcessLookupError:
                continue
        time.sleep(0.3)
        for name in ("SingletonLock", "SingletonSocket", "SingletonCookie"):
            Path(self.profile, name).unlink(missing_ok=True)

    def unsent(self) -> int:
        return len(self.page.evaluate(ON_DEVICE)["unsent"])


def main() -> None:
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("--kills", type=int, default=200)
    parser.add_argument("--seed", type=int, default=1)
    asked = parser.parse_args()
    with own_database() as place:
        _measure(asked.kills, random.Random(asked.seed), f"{place}/profile")


def _run() -> tuple[int, dict[str, Any]]:
    """A run on many cards, and the cookie of whoever does it."""
    from django.conf import settings
    from django.contrib.auth import get_user_model
    from django.test import Client

    from demo.benches import PIECES
    from demo.management.commands.load_demo import load_piece
    from server.drawers.services import give_starter_drawers
    from server.runs.along import start_run

    user = get_user_model().objects.create_user("walker", password="walker-walks-far")
    give_starter_drawers(owner=user)
    piece = load_piece(user, PIECES[-1])
    run = start_run(actor=user, piece=piece, version=piece.version, cards=CARDS)
    client = Client()
    client.force_login(user)
    name = settings.SESSION_COOKIE_NAME
    return run.pk, {"name": name, "value": client.cookies[name].value, "url": Server.address}


def _measure(kills: int, chance: random.Random, profile: str) -> None:
    from django.db import connection

    from server.runs.models import RunEvent

    number, cookie = _run()
    connection.close()
    server = Server()
    server.__enter__()
    counts = {"server": 0, "browser": 0}
    with sync_playwright() as playwright:
        walk = Walk(playwright, f"http://127.0.0.1:{PORT}/runs/{number}", cookie, profile)
        walk.open()
        for kill in range(1, kills + 1):
            for _ in range(chance.randint(*TICKS)):
                walk.tick()
            walk.page.keyboard.press("PageDown")  # this one may be kept or not
            time.sleep(chance.uniform(0, 0.08))
            if chance.random() < 0.5:
                server.kill()
                counts["server"] += 1
                walk.page.wait_for_timeout(200)
                for _ in range(chance.randint(0, 3)):
                    walk.tick()
                server.__enter__()
                walk.check()
            else:
                walk.kill()
                counts["browser"] += 1
                with contextlib.suppress(Error):  # it is dead
                    walk.context.close()
                walk.open()
            if kill % 20 == 0:
                print(f"{kill} kills, {len(walk.seen)} ticks shown, {len(walk.lost)} lost", flush=True)
        until = time.monotonic() + 60
        while walk.unsent() and time.monotonic() < until:
            time.sleep(0.5)
        walk.context.close()
    server.__exit__()
    laid = [event.body for event in RunEvent.objects.filter(run_id=number, body__kind="laid")]
    ids = [body["id"] for body in laid]
    passes = [(body["card"], one) for body in laid for one in body["passes"]]
    print(
        f"killed the server {counts['server']} and the browser {counts['browser']} times; {len(walk.seen)} ticks "
        f"shown, {len(walk.lost)} lost on the device, {len(walk.seen - set(ids))} not in the server's log, "
        f"{len(ids) - len(set(ids))} lines and {len(passes) - len(set(passes))} passes doubled"
    )


if __name__ == "__main__":
    main()
