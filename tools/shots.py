"""Make docs/screenshots/ from the demo data, in headless Chromium, with a server and a database of its own."""

from __future__ import annotations

import os
import socket
import subprocess
import sys
import tempfile
import time
from collections.abc import Callable
from pathlib import Path

from demo import PASSWORD
from tools.browser import Page, chromium, resize

ROOT = Path(__file__).resolve().parent.parent
OUT = ROOT / "docs" / "screenshots"
BENCH, PHONE = (1280, 800), (390, 844)


class Camera(Page):
    """A browser at the demo depot."""

    def open(self, path: str, size: tuple[int, int] = BENCH) -> None:
        """An address at a size."""
        resize(self.driver, *size)
        self.driver.get(self.url + path)
        self.one("#work")

    def take(self, name: str) -> None:
        """The picture, once everything has come to rest."""
        time.sleep(1.2)
        self.driver.save_screenshot(str(OUT / f"{name}.png"))
        print(f"shots: {name}.png")


def tour(c: Camera) -> None:
    """Every main view once, in the order of the job."""
    c.driver.get(c.url)
    c.type("username", "ines")
    c.type("password", PASSWORD)
    c.take("sign-in")
    c.go("Sign in")
    c.one(".bstrip")
    c.take("board")
    c.open("/", PHONE)
    c.take("board-phone")
    c.open("/machines")
    c.take("machines")
    c.open("/loops/4")
    c.click(".choice", "Longhaul N")
    c.take("know")
    c.open("/loops/1")
    c.type("target", "-45")
    c.one(".facts", "Expect")
    c.take("mix")
    c.click("[aria-label='Dark colours']")
    c.take("mix-dark")
    c.click("[aria-label='Light colours']")
    c.open("/loops/1", PHONE)
    c.take("mix-phone")
    c.open("/loops/1")
    c.click(".panelpick button", "Other ways")
    c.one(".ways td", "reaches it")
    c.take("mix-other-ways")
    c.click(".ruletitle")
    c.one(".curve .MuiLineChart-line")
    c.take("curve")
    c.click(".curve .key", "Close")
    c.open("/loops/7")
    c.click(".panelpick button", "How sure")
    c.one(".howsure li")
    c.take("mix-how-sure")
    c.open("/loops/6")
    c.one("[data-testid=out-of-reach]")
    c.take("mix-out-of-reach")
    c.open("/loops/9")
    c.one("[data-testid=learned]")
    c.take("learned")
    c.open("/loops/1")
    c.one(".facts", "safe to about")
    c.go("Accept this mix")
    c.one("input[name=product]")
    c.take("fill")
    c.click("[role=checkbox]", "cold mark")
    c.go("Record")
    c.click("[role=checkbox]", "after a hot run")
    for value in ("-46.6", "-46.2"):
        c.type("value", value)
        c.go("Log")
        c.one(".readings li", value.replace("-", "\N{MINUS SIGN}"))
    c.type("value", "-46.4")
    c.one("[data-testid=verdict]")
    c.take("prove")
    c.open("/loops/4")
    c.click(".choice", "Old Guard S")
    c.go("Take Old Guard S")
    c.type("drained", "41,5")
    c.one(".answer")
    c.take("drain")
    c.open("/loops/2/ledger")
    c.take("ledger")
    c.driver.delete_all_cookies()
    c.driver.get(c.url)
    c.type("username", "maud")
    c.type("password", PASSWORD)
    c.go("Sign in")
    c.one(".board")
    c.open("/policy")
    c.one(".rulerow")
    c.take("policy")
    c.open("/machines/new")
    c.type("number", "G-11")
    c.type("kind", "Piste groomer")
    c.type("capacity", "28,5")
    c.one(".drawing .circuit-figure", "3.4")
    c.take("new-machine")


def with_server(work: Callable[[str], None]) -> None:
    """A fresh depot behind a server on a free port."""
    with socket.socket() as probe:
        probe.bind(("127.0.0.1", 0))
        port = probe.getsockname()[1]
    with tempfile.TemporaryDirectory() as data:
        env = {**os.environ, "TEMPER_DATA": data}
        for command in (["server/manage.py", "migrate", "-v", "0"], ["demo/load.py"]):
            subprocess.run([sys.executable, *command], cwd=ROOT, env=env, check=True)
        command = ["-m", "gunicorn", "config.wsgi", "--chdir", "server", "--threads", "8", "--bind", f"127.0.0.1:{port}"]
        server = subprocess.Popen([sys.executable, *command, "--log-level", "warning"], cwd=ROOT, env=env)
        try:
            for _ in range(100):
                with socket.socket() as probe:
                    if probe.connect_ex(("127.0.0.1", port)) == 0:
                        break
                time.sleep(0.1)
            work(f"http://127.0.0.1:{port}")
        finally:
            server.terminate()
            server.wait()


def main() -> None:
    """Take all pictures."""
    OUT.mkdir(parents=True, exist_ok=True)
    for old in OUT.glob("*.png"):
        old.unlink()

    def work(url: str) -> None:
        driver = chromium(*BENCH)
        try:
            tour(Camera(driver, url))
        finally:
            driver.quit()

    with_server(work)


if __name__ == "__main__":
    main()
