"""`./run` in a folder where nothing is yet: the demo's shelf fills, and a stranger's first card comes to its recipe."""

from __future__ import annotations

import os
import re
import signal
import socket
import subprocess
import tempfile
import time
import unittest
from pathlib import Path

from playwright.sync_api import Page, expect

from tests.browser.base import PATIENCE_MS, browser
from tools.first_card import of_size, open_account, walk

ROOT = Path(__file__).parents[2]
UP_WITHIN_S, FILLED_WITHIN_MS = 300, 400_000
"""A busy machine may need minutes for what a quiet one does in seconds."""


class FirstStartTest(unittest.TestCase):
    @classmethod
    def setUpClass(cls) -> None:
        super().setUpClass()
        with socket.socket() as one:
            one.bind(("127.0.0.1", 0))
            port = one.getsockname()[1]
        cls.address = f"http://127.0.0.1:{port}"
        folder = cls.enterClassContext(tempfile.TemporaryDirectory())
        cls.said = Path(folder) / "said.txt"
        env = {**os.environ, "PALETA_VAR": f"{folder}/bench", "PALETA_PORT": str(port), "PALETA_DEMO": "1"}
        with cls.said.open("w") as said:
            # A group of its own, so that what it starts ends with it.
            cls.server = subprocess.Popen(
                ["./run"], cwd=ROOT, env=env, stdout=said, stderr=said, start_new_session=True
            )
        cls.addClassCleanup(cls.stop)
        cls.wait_until_it_answers(port)

    @classmethod
    def stop(cls) -> None:
        os.killpg(cls.server.pid, signal.SIGTERM)
        cls.server.wait(60)

    @classmethod
    def wait_until_it_answers(cls, port: int) -> None:
        until = time.monotonic() + UP_WITHIN_S
        while time.monotonic() < until and cls.server.poll() is None:
            with socket.socket() as one:
                if one.connect_ex(("127.0.0.1", port)) == 0:
                    return
            time.sleep(0.3)
        raise AssertionError(f"./run did not come up: {cls.said.read_text()[-2000:]}")

    def page(self) -> Page:
        context = browser().new_context(viewport={"width": 1280, "height": 800})
        context.set_default_timeout(PATIENCE_MS)
        expect.set_options(timeout=PATIENCE_MS)
        self.addCleanup(context.close)
        page = context.new_page()
        page.goto(self.address)
        return page

    def test_the_first_card_while_the_demo_is_made_and_then_the_demo(self) -> None:
        page = self.page()
        open_account(page, "stranger")
        data, _ = of_size(60)
        walk(page, data)
        expect(page.get_by_role("button", name="Kept as version 1")).to_be_visible()
        self.assertIn("Paleta is on the bench", self.said.read_text())

        page = self.page()
        page.get_by_role("button", name="Open the demo bench").click()
        titles = ("Balloon over the terraces", "Pangolin at the telescope", "Three on the shelf", "A poor scan")
        for title in titles:
            link = page.get_by_role("link", name=re.compile(f"^{title}"))
            expect(link).to_be_visible(timeout=FILLED_WITHIN_MS)
        expect(page.get_by_role("link", name="Go on colouring")).to_be_visible(timeout=FILLED_WITHIN_MS)
        page.get_by_role("link", name=re.compile("^Pangolin at the telescope")).click()
        expect(page.get_by_role("button", name="5 Order")).to_contain_text("pen changes")
        expect(page.get_by_role("button", name="4 Colours")).to_contain_text("Coloured pencil")
