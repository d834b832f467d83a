"""docs/running.md tried in a fresh folder: from a clone to a depot served behind TLS with two people, a backup, a restore
into another folder with an equal state, and a nightly timer that systemd accepts.

`python3 tools/try_running.py [FOLDER]`: needs git, nginx and openssl; says each step and ends with 1 where one is not as it
should be. Nothing outside the folder is touched but two ports on loopback.
"""

from __future__ import annotations

import http.cookiejar
import json
import os
import secrets
import shutil
import signal
import ssl
import subprocess
import sys
import tempfile
import time
import urllib.error
import urllib.request
import uuid
from pathlib import Path

ROOT = Path(__file__).resolve().parent.parent
HTTP, HTTPS, NAME = 8391, 8392, "localhost"


class Try:
    """One try in a folder of its own."""

    def __init__(self, folder: Path) -> None:
        self.folder, self.clone = folder, folder / "temper"
        self.env = {
            **os.environ,
            "TEMPER_SECRET_KEY": secrets.token_urlsafe(48),
            "TEMPER_HOSTS": NAME,
            "TEMPER_ORIGINS": f"https://{NAME}:{HTTPS}",
            "TEMPER_DATA": str(folder / "data"),
            "TEMPER_BACKUPS": str(folder / "backups"),
        }
        jar = urllib.request.HTTPCookieProcessor(http.cookiejar.CookieJar())
        trusting = ssl.create_default_context(cafile=None)
        trusting.check_hostname, trusting.verify_mode = False, ssl.CERT_NONE  # the certificate is this try's own
        self.jar = jar.cookiejar
        self.web = urllib.request.build_opener(jar, urllib.request.HTTPSHandler(context=trusting))

    def say(self, text: str) -> None:
        """A step that was seen."""
        print(f"try: {text}", flush=True)

    def temper(self, *words: str, fine: bool = True, **env: str) -> str:
        """./temper in the clone; its output."""
        done = subprocess.run(
            [sys.executable, "temper", *words],
            cwd=self.clone,
            env={**self.env, **env},
            capture_output=True,
            text=True,
            check=False,
        )
        said = done.stdout + done.stderr
        if (done.returncode == 0) != fine:
            raise SystemExit(f"try: ./temper {' '.join(words)} ended with {done.returncode}:\n{said}")
        return said

    def ask(self, method: str, path: str, body: object = None) -> tuple[int, dict[str, str], object]:
        """Over TLS, through the proxy."""
        request = urllib.request.Request(f"https://{NAME}:{HTTPS}{path}", method=method)
        request.add_header("Referer", f"https://{NAME}:{HTTPS}/")
        token = next((cookie.value for cookie in self.jar if cookie.name == "csrftoken"), "") or ""
        request.add_header("X-CSRFToken", token)
        if body is not None:
            request.data = json.dumps(body).encode()
            request.add_header("Content-Type", "application/json")
        try:
            with self.web.open(request, timeout=60) as answer:
                return answer.status, dict(answer.headers), data_of(answer.read())
        except urllib.error.HTTPError as error:
            return error.code, dict(error.headers), data_of(error.read())

    def proxy(self) -> subprocess.Popen[bytes]:
        """nginx with the shipped configuration: other ports, a certificate of its own, everything in this folder."""
        certificate = ["openssl", "req", "-x509", "-newkey", "rsa:2048", "-nodes", "-days", "2", "-subj", f"/CN={NAME}"]
        pem = [str(self.folder / name) for name in ("privkey.pem", "fullchain.pem")]
        subprocess.run([*certificate, "-keyout", pem[0], "-out", pem[1]], check=True, capture_output=True)
        site = (self.clone / "deploy" / "nginx.conf").read_text()
        for old, new in {
            "/etc/ssl/temper/privkey.pem": pem[0],
            "/etc/ssl/temper/fullchain.pem": pem[1],
            "temper.example": NAME,
            "listen 80;": f"listen 127.0.0.1:{HTTP + 2};",
            "    listen [::]:80;\n": "",
            "listen 443 ssl": f"listen 127.0.0.1:{HTTPS} ssl",
            "    listen [::]:443 ssl http2;\n": "",
            "127.0.0.1:8000": f"127.0.0.1:{HTTP}",
        }.items():
            if old not in site:
                raise SystemExit(f"try: deploy/nginx.conf has no '{old}' any more")
            site = site.replace(old, new)
        whole = f"pid {self.folder}/nginx.pid;\nerror_log {self.folder}/nginx.log;\nevents {{}}\nhttp {{\naccess_log off;\n"
        temporary = "".join(
            f"{kind}_temp_path {self.folder}/{kind};\n" for kind in ("client_body", "proxy", "fastcgi", "uwsgi", "scgi")
        )
        (self.folder / "nginx.conf").write_text(f"{whole}{temporary}{site}}}\n")
        return subprocess.Popen(["nginx", "-c", str(self.folder / "nginx.conf"), "-g", "daemon off;"])

    def run(self) -> None:
        """Every step."""
        subprocess.run(["git", "clone", "-q", "--local", str(ROOT), str(self.clone)], check=True)
        started = time.monotonic()
        self.temper("setup")
        self.say(f"set up in {time.monotonic() - started:.0f} s")
        words = ["first-lead", "--depot", "Try depot", "--username", "lead", "--name", "Lea Lead", "--coldest", "-30"]
        self.temper(*words, TEMPER_PASSWORD="a-lead-of-our-own")
        said = self.temper("person", "add", "tech", "Tea Technician")
        self.say("first lead and a technician: " + said.splitlines()[-1].split(":")[0])
        server = subprocess.Popen([sys.executable, "temper", "serve", "--port", str(HTTP)], cwd=self.clone, env=self.env)
        proxy = self.proxy()
        try:
            self.served()
            kept = self.kept(server)
        finally:
            for process in (proxy, server):
                process.terminate()
                process.wait()
        self.restored(kept)
        self.timer()

    def served(self) -> None:
        """A lead signs in over TLS and adds a machine with a job."""
        for _ in range(300):
            try:
                status, headers, _ = self.ask("GET", "/api/session")
                if status == 200:
                    break
            except OSError:
                pass
            time.sleep(0.3)
        else:
            raise SystemExit("try: nothing answers over TLS")
        self.say(f"served over TLS, HSTS {headers['Strict-Transport-Security']}")
        status, _, _ = self.ask("POST", "/api/session", {"username": "lead", "password": "a-lead-of-our-own"})
        if status != 200:
            raise SystemExit(f"try: the lead could not sign in ({status})")
        status, _, layouts = self.ask("GET", "/api/layouts?capacity_l=12")
        health = self.ask("GET", "/api/health")
        self.say(f"signed in, layouts {status}, health {health[0]}: " + self.amiss(health[2]))
        if status != 200 or not layouts:
            raise SystemExit("try: no layouts")

    @staticmethod
    def amiss(health: object) -> str:
        """What a monitor would see to."""
        assert isinstance(health, dict)
        return ", ".join(row["name"] for row in health["checks"] if not row["ok"]) or "nothing amiss"

    def kept(self, server: subprocess.Popen[bytes]) -> Path:
        """Backup while served, verify, health; then the server is killed hard, and the port is free."""
        self.say(self.temper("backup", "--keep", "14").splitlines()[-1])
        self.temper("verify")
        file = max((self.folder / "backups").glob("temper-*.zip"))
        self.temper("verify", str(file))
        status, _, health = self.ask("GET", "/api/health")
        if status != 200:
            raise SystemExit(f"try: health answers {status}: {health}")
        self.say("backed up and verified; health 200")
        server.send_signal(signal.SIGKILL)
        server.wait()
        for _ in range(50):
            try:
                urllib.request.urlopen(f"http://{NAME}:{HTTP}/api/health", timeout=1).close()
            except urllib.error.HTTPError:
                pass
            except OSError:
                self.say("killed with SIGKILL: nothing holds the port")
                return file
            time.sleep(0.2)
        raise SystemExit("try: an orphan holds the port")

    def restored(self, file: Path) -> None:
        """Into another folder, with an equal state; out as an archive and into a third."""
        other, third, archive = self.folder / "other", self.folder / "third", self.folder / f"{uuid.uuid4()}.zip"
        self.temper("restore", str(file), "--into", str(other))
        self.temper("restore", str(file), "--into", str(other), fine=False)
        self.temper("verify", "--against", str(file), TEMPER_DATA=str(other))
        self.temper("export", str(archive))
        said = self.temper("import", str(archive), TEMPER_DATA=str(third))
        self.say(next(line for line in said.splitlines() if "folded" in line))
        self.say("restored into another folder, equal to the backup; a second restore refused")

    def timer(self) -> None:
        """systemd reads the units that ship."""
        if not shutil.which("systemd-analyze"):
            self.say("no systemd here: the units were not looked at")
            return
        units = [
            str(self.clone / "deploy" / name) for name in ("temper-backup.timer", "temper-backup.service", "temper.service")
        ]
        done = subprocess.run(["systemd-analyze", "verify", *units], capture_output=True, text=True, check=False)
        own = [
            line
            for line in done.stderr.splitlines()
            if "temper" in line and "is not executable" not in line and "Command" not in line
        ]
        when = subprocess.run(["systemd-analyze", "calendar", "*-*-* 02:30:00"], capture_output=True, text=True, check=False)
        if own or when.returncode:
            raise SystemExit("try: systemd says: " + "; ".join(own))
        self.say("systemd accepts the service and the timer")


def data_of(body: bytes) -> object:
    """What an answer says; None where it is not the API's (the proxy's own page, say)."""
    try:
        return json.loads(body)
    except ValueError:
        return None


def main() -> int:
    """In the folder that is named, or one that goes again."""
    if len(sys.argv) > 1:
        Try(Path(sys.argv[1])).run()
        return 0
    with tempfile.TemporaryDirectory(prefix="temper-try-") as folder:
        Try(Path(folder)).run()
    return 0


if __name__ == "__main__":
    raise SystemExit(main())
