"""A tablet that takes a kit along, and a depot's server of its own that can be killed."""

import contextlib
import json
import os
import shutil
import signal
import socket
import sqlite3
import subprocess
import sys
import tempfile
import time
import uuid
from datetime import timedelta

from django.db import connection
from django.utils import timezone

from demo import PASSWORD
from tests.browser.test_presses import Hand
from tests.shared_demo import ROOT, environment
from tools.browser import chromium, cut_network

READY = """
const done = arguments[0];
(async () => {
  const core = await (await caches.open('temper-core')).keys();
  const kit = localStorage.getItem('temper.kit-of');
  done(core.length >= 7 && kit !== null && navigator.serviceWorker.controller !== null);
})();
"""
QUEUE = """
const done = arguments[0];
const open = indexedDB.open('temper-bay', 1);
open.onsuccess = () => {
  const all = open.result.transaction('queue').objectStore('queue').getAll();
  all.onsuccess = () => { open.result.close(); done(JSON.stringify(all.result.filter((row) => row.state !== 'sent'))); };
};
"""


KINDS = """
const [loop, done] = arguments;
const open = indexedDB.open('temper-bay', 1);
open.onsuccess = () => {
  const kit = open.result.transaction('kit').objectStore('kit').get('kit');
  kit.onsuccess = () => {
    open.result.close();
    done(JSON.parse(kit.result.text).loops.find((one) => one.id === loop).rows.map((row) => row.kind));
  };
};
"""
PUT = """
const [rows, done] = [JSON.parse(arguments[0]), arguments[1]];
const open = indexedDB.open('temper-bay', 1);
open.onsuccess = () => {
  const change = open.result.transaction('queue', 'readwrite');
  rows.forEach((row) => change.objectStore('queue').add(row));
  change.oncomplete = () => { open.result.close(); done(rows.length); };
};
"""
AT_ONCE = 12


def readings(loop_id, person, first):
    """One request with a dozen temperatures of one loop, as a tablet keeps it."""
    entries = []
    for n in range(AT_ONCE):
        at = timezone.now() - timedelta(seconds=1) + timedelta(microseconds=first + n)
        entries.append(
            {"id": str(uuid.uuid4()), "kind": "temperature_logged", "facts": {"c": 30.0}, "happened_at": at.isoformat()}
        )
    body = {"entries": entries, "seen": None, "between": False}
    row = {"method": "POST", "path": f"/api/loops/{loop_id}/entries", "loops": [loop_id], "body": body}
    return row | {"at": timezone.now().isoformat(), "person": person, "state": "waits"}


class Tablet(Hand):
    """A browser that takes a kit along."""

    def bar(self):
        """The line about the network."""
        return self.one("[data-testid=offlinebar]").text

    def sign_in_at_the_door(self):
        """By the page itself, with name and password."""
        self.open()
        self.type("username", "ines")
        self.type("password", PASSWORD)
        self.go("Sign in")
        self.one(".board")

    def take_along(self):
        """Until the page, the kit and the core are here."""
        self.patiently(lambda: self.driver.execute_async_script(READY), "the kit, the core and the page to be here")

    def cut(self):
        """No network any more."""
        cut_network(self.driver, True)

    def join(self):
        """The network is back, and somebody looks at the page."""
        cut_network(self.driver, False)
        self.driver.execute_script("window.dispatchEvent(new Event('online'))")

    def waiting(self):
        """What waits in this browser's store."""
        return json.loads(self.driver.execute_async_script(QUEUE))

    def pause(self):
        """Pause the job on show."""
        self.click(".shelfkeys .key", "Pause job")
        self.click("[role=dialog] .key", "Pause job")

    def patiently(self, see, what):
        """Until it is so, however busy the machine: a core that starts, a queue that is sent."""
        for _ in range(8):
            try:
                return self.until(see, what)
            except AssertionError:
                continue
        return self.until(see, what)

    def calculator(self):
        """Until the core in the worker is there."""
        self.patiently(lambda: "No server" in self.bar() and "starting" not in self.bar(), "the calculator")


def new_tablet(url):
    """A tablet of its own, that nobody is signed in at."""
    folder = tempfile.mkdtemp(prefix="temper-tablet-")
    found = Tablet(chromium(profile=folder, kit=True), url)
    found.profile = folder
    return found


class OwnServer:
    """A server in a process of its own, on a copy of the demo as the test's database has it now."""

    def __init__(self, folder):
        self.folder, self.file = folder, folder / "temper.sqlite3"
        self.web = folder / "web"
        shutil.copytree(ROOT / "web" / "dist", self.web)
        with contextlib.closing(sqlite3.connect(self.file)) as copied:
            connection.connection.backup(copied)
        with socket.socket() as probe:
            probe.bind(("127.0.0.1", 0))
            self.port = probe.getsockname()[1]
        self.url, self.process = f"http://127.0.0.1:{self.port}", None

    def start(self):
        """On the same port as before, until it answers."""
        command = ["-m", "gunicorn", "config.wsgi", "--chdir", "server", "--threads", "8"]
        command += ["--bind", f"127.0.0.1:{self.port}"]
        env = environment(self.folder, TEMPER_WEB=str(self.web))
        self.process = subprocess.Popen([sys.executable, *command], cwd=ROOT, env=env, start_new_session=True)
        for _ in range(600):
            if self._listens():
                return
            time.sleep(0.1)
        raise AssertionError("the server never came up")

    def _listens(self):
        with socket.socket() as probe:
            return probe.connect_ex(("127.0.0.1", self.port)) == 0

    def kill(self):
        """As a power cut does."""
        os.killpg(self.process.pid, signal.SIGKILL)
        self.process.wait()
        while self._listens():  # its worker may hold the port a moment longer
            time.sleep(0.05)

    def rows(self, query, *given):
        """What stands in its database."""
        with contextlib.closing(sqlite3.connect(self.file, timeout=30)) as read:
            return read.execute(query, given).fetchall()
