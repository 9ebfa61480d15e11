"""Which browser the tests, the benchmark and the screenshots use, and how it is kept from calling home."""

import os
import shutil

# The shell is Chromium without windows and menus: the same pages, drawn for a third less work.
CHROMIUM = (
    os.environ.get("CHROMIUM")
    or shutil.which("chromium-headless-shell")
    or shutil.which("chromium")
    or "/usr/bin/chromium"
)
QUIET = [
    "--no-sandbox",
    "--disable-gpu",
    "--disable-quic",
    "--no-first-run",
    "--disable-background-networking",
    "--disable-component-update",
    "--disable-sync",
]
