"""Headless Chromium as this project drives it, for browser tests and pictures."""

from __future__ import annotations

import tempfile

from selenium.webdriver import Chrome, ChromeOptions
from selenium.webdriver.chrome.service import Service

CHROMIUM, DRIVER = "/usr/bin/chromium", "/usr/bin/chromedriver"
FLAGS = (
    "--headless=new",
    "--no-sandbox",
    "--disable-gpu",
    "--disable-dev-shm-usage",
    "--no-first-run",
    "--disable-background-networking",
    "--disable-component-update",
    "--disable-sync",
    "--hide-scrollbars",
    "--force-device-scale-factor=1",
    "--lang=en-GB",
)


def chromium(width: int = 1280, height: int = 800) -> Chrome:
    """A new browser with an empty profile and exactly this page size."""
    options = ChromeOptions()
    options.binary_location = CHROMIUM
    for flag in (*FLAGS, f"--user-data-dir={tempfile.mkdtemp(prefix='temper-chromium-')}"):
        options.add_argument(flag)
    options.set_capability("goog:loggingPrefs", {"browser": "ALL"})
    driver = Chrome(options=options, service=Service(DRIVER))
    resize(driver, width, height)
    return driver


def resize(driver: Chrome, width: int, height: int) -> None:
    """Exactly this page size; narrow ones as a phone sees them."""
    driver.execute_cdp_cmd(
        "Emulation.setDeviceMetricsOverride",
        {"width": width, "height": height, "deviceScaleFactor": 1, "mobile": width < 500},
    )
