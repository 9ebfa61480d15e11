"""A real browser on a real server, and the few gestures that many tests share."""

from __future__ import annotations

import atexit
import threading
from functools import cache
from pathlib import Path
from typing import Any
from urllib.parse import urlparse

from django.conf import settings
from django.core.signals import request_finished, request_started
from django.test import Client, LiveServerTestCase
from playwright.sync_api import Browser, Page, expect, sync_playwright

from tests.builders import as_file, line_drawing
from tests.server.builders import make_user
from tools.chromium import CHROMIUM, QUIET

AXE = Path(__file__).parents[2] / "web/node_modules/axe-core/axe.min.js"
WORD = "ana-has-a-long-word"
PATIENCE_MS = 90_000
"""How long a test waits for what must come; a machine may be four times as slow as usual."""


class UnderWay:
    """How many requests the server is answering: a test's database must not go before the last answer to it."""

    def __init__(self) -> None:
        self.count = 0
        self.changed = threading.Condition()
        request_started.connect(self.start)
        request_finished.connect(self.finish)

    def start(self, **_: Any) -> None:
        with self.changed:
            self.count += 1

    def finish(self, **_: Any) -> None:
        with self.changed:
            self.count -= 1
            self.changed.notify_all()

    def wait_for_none(self, seconds: float = PATIENCE_MS / 1000) -> None:
        with self.changed:
            self.changed.wait_for(lambda: self.count <= 0, seconds)
            self.count = 0


under_way = UnderWay()


@cache
def browser() -> Browser:
    """One for all tests, which takes a second to start; each test has a context of its own in it."""
    playwright = sync_playwright().start()
    started = playwright.chromium.launch(executable_path=CHROMIUM, args=QUIET)
    atexit.register(playwright.stop)
    atexit.register(started.close)
    return started


class BrowserTest(LiveServerTestCase):
    """Each test has its own user, browser context and page; at the end nothing may have gone wrong unseen."""

    def setUp(self) -> None:
        expect.set_options(timeout=PATIENCE_MS)
        self.ana = make_user("ana")
        self.context = browser().new_context(viewport={"width": 1280, "height": 800}, accept_downloads=True)
        self.context.set_default_timeout(PATIENCE_MS)
        self.strangers: list[str] = []
        self.page_errors: list[str] = []
        self.console_problems: list[str] = []
        self.failed_answers: list[str] = []
        self.page = self.new_page()

    def tearDown(self) -> None:
        self.context.close()
        under_way.wait_for_none()
        self.assertEqual(self.strangers, [], "A request left the machine.")
        self.assertEqual(self.page_errors, [], "The page threw an error.")

    def new_page(self) -> Page:
        page = self.context.new_page()
        own = urlparse(self.live_server_url).netloc

        def note(request: Any) -> None:
            parts = urlparse(request.url)
            if parts.scheme in ("http", "https") and parts.netloc != own:
                self.strangers.append(request.url)

        page.on("request", note)
        page.on("console", lambda line: line.type in ("error", "warning") and self.console_problems.append(line.text))
        page.on(
            "response",
            lambda answer: answer.status >= 400 and self.failed_answers.append(f"{answer.status} {answer.url}"),
        )
        page.on("pageerror", lambda error: self.page_errors.append(str(error)))
        return page

    def nothing_went_wrong_unseen(self) -> None:
        """The console is clean, and no request was refused but the one that asks who is there before signing in."""
        self.assertEqual(self.console_problems, [])
        self.assertEqual(self.failed_answers, [])

    def sign_in(self, page: Page | None = None) -> Page:
        page = page or self.page
        page.goto(self.live_server_url)
        page.get_by_label("Name").fill("ana")
        page.get_by_label("Password").fill(WORD)
        page.get_by_role("button", name="Sign in").click()
        expect(page.get_by_role("heading", name="Shelf", exact=True)).to_be_visible()
        return page

    def already_signed_in(self) -> None:
        """Ana's session without the sign-in page, which other tests go through."""
        client = Client()
        client.force_login(self.ana)
        name = settings.SESSION_COOKIE_NAME
        self.context.add_cookies([{"name": name, "value": client.cookies[name].value, "url": self.live_server_url}])

    def open_piece(self, piece: Any, query: str = "") -> Page:
        self.already_signed_in()
        self.page.goto(f"{self.live_server_url}/pieces/{piece.pk}{query}")
        self.picture_is_drawn()
        return self.page

    def picture_is_drawn(self, words: str = "version=") -> None:
        """Wait until the canvas shows a picture whose address has `words` in it."""
        expect(self.page.locator(f'canvas[data-shown*="{words}"]')).to_be_visible()

    def everything_is_kept(self, page: Page | None = None) -> None:
        """Wait until no change is on its way any more; the mark for it is set one turn of the event loop late."""
        page = page or self.page
        page.evaluate("() => new Promise((done) => setTimeout(done, 50))")
        expect(page.locator("html[data-resting]")).to_have_count(0)
        expect(page.locator("html[data-keeping]")).to_have_count(0)

    def reload(self) -> None:
        self.everything_is_kept()
        self.page.reload()

    def add_by_hand(self, name: str = "owl.png", data: bytes | None = None, width: str = "2 1/2") -> None:
        """The add dialog, filled in and sent."""
        self.page.get_by_role("button", name="stamped image").first.click()
        file = {"name": name, "mimeType": "image/png", "buffer": as_file(line_drawing()) if data is None else data}
        self.page.get_by_label("Scan or photo").set_input_files([file])
        self.page.get_by_label("Width of the picture on paper").fill(width)
        self.page.get_by_role("button", name="Find the regions").click()

    def click_picture(self, x: float, y: float, **more: Any) -> None:
        """A click at (x, y), each 0..1 across the card."""
        box = self.page.get_by_test_id("card").bounding_box()
        assert box
        self.page.get_by_test_id("card").click(position={"x": x * box["width"], "y": y * box["height"]}, **more)

    def section(self, name: str) -> None:
        self.page.locator(f'button[aria-controls="part-{name.lower()}"]').click()
        expect(self.page.locator(f"#part-{name.lower()}")).to_be_visible()

    def passes_axe(self, what: str) -> None:
        """No fault that axe-core finds against [WCAG22] A and AA."""
        self.page.evaluate(AXE.read_text())
        found = self.page.evaluate(
            "axe.run(document, {runOnly: ['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa']})"
        )
        faults = [(fault["id"], fault["nodes"][0]["html"][:160]) for fault in found["violations"]]
        self.assertEqual(faults, [], what)
