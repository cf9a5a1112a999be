"""One headless Chromium, driven through chromedriver, for all tests of this room."""

from __future__ import annotations

import shutil

import pytest
from selenium import webdriver
from selenium.webdriver.chrome.service import Service

_ARGUMENTS = (
    "--headless",
    "--no-sandbox",
    "--disable-gpu",
    "--disable-quic",
    "--no-first-run",
    "--disable-background-networking",
    "--disable-component-update",
    "--disable-sync",
    "--font-render-hinting=none",
    "--window-size=1400,1000",
)
_LONGEST_S = 120.0
"""How long a script may take: it plays behaviour in its own time, on machines that are busy."""


def started(profile):
    """A headless Chromium of a fixed look, keeping its profile in a folder."""
    options = webdriver.ChromeOptions()
    for argument in (*_ARGUMENTS, f"--user-data-dir={profile}"):
        options.add_argument(argument)
    options.binary_location = shutil.which("chromium") or "chromium"
    driver = webdriver.Chrome(options, Service(shutil.which("chromedriver") or "chromedriver"))
    driver.set_script_timeout(_LONGEST_S)
    return driver


@pytest.fixture(scope="session")
def chromium(tmp_path_factory):
    driver = started(tmp_path_factory.mktemp("chromium"))
    yield driver
    driver.quit()
