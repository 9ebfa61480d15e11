"""Colouring along: a long log replayed, a long logbook, and how soon the next stint shows without the server."""

from __future__ import annotations

from typing import Any

from tools.bench.serving import Server
from tools.bench.show import late, show, timed

EVENTS, RUNS, TICKS = 10_000, 1_000, 60
NEXT_SHOWN = """() => new Promise((done) => {
  const name = document.querySelector("nav [aria-current]");
  const began = performance.now();
  const watch = new MutationObserver(() => {
    if (document.querySelector("nav [aria-current]") === name) return;
    watch.disconnect();
    requestAnimationFrame(() => done(performance.now() - began));
  });
  watch.observe(document.querySelector("nav"), { attributes: true, subtree: true, childList: true });
  window.dispatchEvent(new KeyboardEvent("keydown", { key: "PageDown", bubbles: true }));
})"""
"""Presses Page Down and gives the milliseconds until the course has moved on and was painted."""


def measure() -> None:
    core()
    logbook_and_page()


def core() -> None:
    from paleta.order import PACES, SCHOOLS, make_plan
    from paleta.run import PassesLaid, Started, plan_key, replay
    from tools.bench.core import sixty_regions

    plan = make_plan(sixty_regions(), SCHOOLS["M2"], PACES["marker"])
    key, passes = plan_key(plan), len(plan.passes)
    log: list[Any] = [Started(id="started-1", at_s=0, plan=key, cards=EVENTS // passes + 1)]
    log += [
        PassesLaid(id=f"event-{n:06}", at_s=n, plan=key, card=n // passes + 1, passes=(n % passes + 1,))
        for n in range(EVENTS)
    ]
    plain = timed(lambda: sorted(log, key=lambda event: event.at_s))
    show("replay of 10,000 events", timed(lambda: replay(plan, log)), 100, plain, "sorting them")


def logbook_and_page() -> None:
    from django.conf import settings
    from django.contrib.auth import get_user_model
    from django.test import Client

    from demo.benches import PIECES
    from demo.management.commands.load_demo import load_piece
    from server.drawers.services import give_starter_drawers
    from server.runs.along import start_run
    from server.runs.models import Run

    user = get_user_model().objects.create_user("along", password="along-and-along")
    give_starter_drawers(owner=user)
    piece = load_piece(user, PIECES[-1])
    run = start_run(actor=user, piece=piece, version=piece.version, cards=3)
    Run.objects.bulk_create(
        Run(owner=user, piece=piece, title=piece.title, medium="marker", seconds=60.0 + n, pens_text=f"rose {n}")
        for n in range(RUNS)
    )
    client = Client()
    client.force_login(user)

    def ask() -> None:
        assert client.get("/api/v1/runs/?swatch=rose").status_code == 200

    show("logbook of 1,000 runs, a page of it", timed(ask, 15), 200)
    name = settings.SESSION_COOKIE_NAME
    cookie = {"name": name, "value": client.cookies[name].value, "url": Server.address}
    with Server() as server:
        times = _ticks(server, run.pk, cookie)
    rest = f"95th percentile {1000 * late(times):.0f} ms of {len(times)}"
    show("done to next stint, browser, server away", times, 50, of=rest)


def _ticks(server: Server, number: int, cookie: Any) -> list[float]:
    from playwright.sync_api import sync_playwright

    from tools.chromium import CHROMIUM, QUIET

    with sync_playwright() as playwright:
        context = playwright.chromium.launch(executable_path=CHROMIUM, args=QUIET).new_context(
            viewport={"width": 1280, "height": 800}
        )
        context.add_cookies([cookie])
        page = context.new_page()
        page.goto(f"{server.address}/runs/{number}")
        page.get_by_role("button", name="Begin").click()
        page.locator("canvas[data-ready]").wait_for()
        context.set_offline(True)
        times = [float(page.evaluate(NEXT_SHOWN)) / 1000 for _ in range(TICKS)]
        context.close()
    return times
