"""The lamp and a change of colour, through the server and in the browser."""

from __future__ import annotations

import gzip
from pathlib import Path
from typing import Any

from tools.bench.serving import Server
from tools.bench.show import late, show, timed

ROOT = Path(__file__).parents[2]
LIVE = "/api/v1/pieces/{}/picture/?view=coloured&live=true&elevation_deg=40&azimuth_deg={}"
WATCH = """() => {
  const canvas = document.querySelector('canvas[data-shown]');
  let moved = 0;
  window.addEventListener('pointermove', () => { moved ||= performance.now(); }, { once: true, capture: true });
  window.__painted = new Promise((done) => {
    setTimeout(() => done(-1), 2000);
    const watch = new MutationObserver(() => {
      watch.disconnect();
      requestAnimationFrame(() => done(performance.now() - moved));
    });
    watch.observe(canvas, { attributes: true, attributeFilter: ['data-shown'] });
  });
}"""
"""Notes the time of the next pointer move, and how long after it a new picture is on the canvas."""


def measure() -> None:
    from django.contrib.auth import get_user_model
    from django.test import Client
    from django.test.utils import setup_test_environment

    from demo.benches import PIECES
    from demo.management.commands.load_demo import load_piece
    from server.drawers.services import give_starter_drawers
    from server.pieces.colours.ramps import set_ramp
    from server.pieces.models import Piece

    setup_test_environment()
    user = get_user_model().objects.create_user("bench", password="bench-mark-word")
    give_starter_drawers(owner=user)
    piece = load_piece(user, PIECES[-1])
    client = Client()
    client.force_login(user)
    turn = iter(range(10_000))

    def ask() -> None:
        address = LIVE.format(piece.pk, next(turn) % 360)
        assert client.get(address).status_code == 200

    show("lamp turn, server", timed(ask, 25), 25)
    preview = f"/api/v1/pieces/{piece.pk}/picture/?view=coloured&live=true"
    sheet = piece.sheet()
    label, coat = next((label, setting.coats[0]) for label, setting in sheet.regions.settings.items() if setting.coats)
    swatches = sorted(code for medium, code in sheet.colours.swatches if medium == coat.medium)

    def recolour() -> None:
        now = Piece.objects.get(pk=piece.pk)
        set_ramp(
            actor=user, piece=now, version=now.version, labels=[label],
            codes=[swatches[next(turn) % len(swatches)]], wish_lab=None, by_hand=True, medium=coat.medium,
        )  # fmt: skip
        assert client.get(preview).status_code == 200

    show("preview after a change of colour, server", timed(recolour, 15), 60)
    with Server() as server:
        moves = browser_moves(server, piece.pk, str(client.cookies["sessionid"].value))
    rest = f"95th percentile {1000 * late(moves):.0f} ms of {len(moves)} moves (aim 60)"
    show("lamp turn, browser (pointer to painted)", moves, 45, of=rest)
    script_size()


def browser_moves(server: Server, piece_id: int, session: str) -> list[float]:
    """Seconds from a pointer move to the picture of that move on the canvas."""
    from playwright.sync_api import sync_playwright

    from tools.chromium import CHROMIUM, QUIET

    with sync_playwright() as playwright:
        browser = playwright.chromium.launch(executable_path=CHROMIUM, args=QUIET)
        context = browser.new_context(viewport={"width": 1280, "height": 800})
        context.add_cookies([{"name": "sessionid", "value": session, "url": server.address}])
        page = context.new_page()
        page.goto(f"{server.address}/pieces/{piece_id}")
        page.locator('canvas[data-shown*="version="]').wait_for()
        lamp = page.get_by_test_id("lamp").bounding_box()
        card = page.get_by_test_id("card").bounding_box()
        assert lamp and card
        page.mouse.move(lamp["x"] + 25, lamp["y"] + 25)
        page.mouse.down()
        found = [painted(page, lamp["x"] + 25, card["y"] + 20 + 4 * step) for step in range(100)]
        page.mouse.up()
        browser.close()
    # A move by less than a degree changes no picture; the first few warm up.
    return [one / 1000 for one in found if one > 0][5:]


def painted(page: Any, x: float, y: float) -> float:
    page.evaluate(WATCH)
    page.mouse.move(x, y)
    return float(page.evaluate("window.__painted"))


def script_size() -> None:
    """Compressed size of what the first page loads, and of all scripts together."""
    html = (ROOT / "web/dist/index.html").read_text()
    sizes = {path.name: len(gzip.compress(path.read_bytes())) for path in (ROOT / "web/dist/assets").glob("*.js")}
    first = sum(size for name, size in sizes.items() if name in html)
    every = f"all pages {sum(sizes.values()) / 1000:.0f} kB"
    print(f"{'script of the first page, compressed':44}{first / 1000:7.0f} kB{250:7} kB   {every}")
