"""Debian's Chromium without a window, for the browser tests and for what is measured in a browser."""

import shutil

from playwright.sync_api import Browser, Playwright

FLAGS = [
    "--no-sandbox",
    "--disable-gpu",
    "--disable-quic",
    "--no-first-run",
    "--disable-background-networking",
    "--disable-component-update",
    "--disable-sync",
]


def chromium(playwright: Playwright, *more: str) -> Browser:
    """The one that has nothing but pages, a third lighter, where it is there; otherwise the whole one."""
    path = shutil.which("chromium-headless-shell") or shutil.which("chromium")
    if path is None:
        raise FileNotFoundError("Debian's Chromium is needed: `make test` installs it or says how")
    return playwright.chromium.launch(executable_path=path, args=[*FLAGS, *more])
