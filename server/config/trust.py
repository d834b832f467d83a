"""The page /trust: how a device comes to believe this server's certificate. Also a server of its own, over plain HTTP.

No Django in here: `gunicorn config.trust:application` answers these two addresses and nothing else.
"""

from __future__ import annotations

import os
from collections.abc import Callable, Iterable
from html import escape
from pathlib import Path

from cryptography.hazmat.primitives.serialization import Encoding

from config.lan import authority_in, fingerprint

PAGE, CERTIFICATE = "/trust", "/trust/temper-authority.crt"
TYPE = "application/x-x509-ca-cert"
STEPS = (
    (
        "Android",
        "Press the key above; the file is saved.",
        "Settings, Security, More: Install a certificate, CA certificate. Choose the file.",
        "Open Temper again.",
    ),
    (
        "iPhone and iPad",
        "Press the key above and allow the profile.",
        "Settings, General, VPN & Device Management: install it. Then About, Certificate Trust Settings: switch it on.",
        "Open Temper again.",
    ),
    (
        "Windows, Mac, Linux",
        "Press the key above; the file is saved.",
        "Open it and add it to the trusted root authorities (a browser of its own: Settings, Certificates, Authorities).",
        "Close the browser, then open Temper again.",
    ),
)
STYLE = (
    "body{font:18px/1.45 system-ui,sans-serif;margin:0 auto;max-width:44rem;padding:1rem;background:#fbfcfa;color:#101a20}"
    "code{display:block;font-size:17px;overflow-wrap:anywhere;border:2px solid;padding:.6rem;margin:.4rem 0}"
    "a.key{display:block;padding:1rem;border:2px solid;border-bottom-width:5px;border-radius:7px;text-align:center;"
    "font-weight:700;color:inherit;text-decoration:none;background:#fff}"
    "h1{font-size:26px}h2{font-size:20px;margin:1.2rem 0 0}"
)


def trust_page(folder: Path, address: str, nonce: str = "") -> str | None:
    """The page, for the authority in a folder; address: where Temper is then opened. None where there is no authority."""
    authority = authority_in(folder)
    if authority is None:
        return None
    steps = "".join(
        f"<h2>{escape(device)}</h2><ol>{''.join(f'<li>{escape(line)}</li>' for line in lines)}</ol>"
        for device, *lines in STEPS
    )
    return (
        '<!doctype html><html lang="en"><meta charset="utf-8"><meta name="viewport" content="width=device-width">'
        f'<title>Trust this Temper</title><style nonce="{escape(nonce)}">{STYLE}</style>'
        "<h1>Trust this Temper</h1><p>Once on each device. Without it the camera, installing Temper and work without a "
        "network do not run: a browser allows them on trusted addresses alone.</p>"
        "<p><b>Compare first.</b> The terminal of the server shows the same fingerprint. If one pair differs, stop and "
        f"tell a lead.</p><code>{fingerprint(authority)}</code>"
        f'<p><a class="key" href="{CERTIFICATE}">Get the certificate</a></p>{steps}'
        f'<p>Then: <a href="{escape(address)}">{escape(address)}</a></p>'
        "<p>The certificate speaks for this machine and for addresses of the local network, for nothing else.</p></html>"
    )


def certificate_in(folder: Path) -> bytes | None:
    """The authority's certificate as devices take it; None where there is none."""
    authority = authority_in(folder)
    return authority.public_bytes(Encoding.DER) if authority else None


Start = Callable[[str, list[tuple[str, str]]], object]


def application(environ: dict[str, object], start_response: Start) -> Iterable[bytes]:
    """Over plain HTTP: the page and the certificate; everything else says where Temper is. Nothing is taken in."""
    folder, address = Path(os.environ["TEMPER_LAN"]), os.environ["TEMPER_ADDRESS"]
    path = str(environ.get("PATH_INFO", "")).rstrip("/")
    reads = environ.get("REQUEST_METHOD") in ("GET", "HEAD")
    page = trust_page(folder, address) if reads and path == PAGE else None
    certificate = certificate_in(folder) if reads and path == CERTIFICATE else None
    if certificate is not None:
        status, kind, body = "200 OK", TYPE, certificate
    elif page is not None:
        status, kind, body = "200 OK", "text/html; charset=utf-8", page.encode()
    else:
        words = f"Temper is at {address}. This address has the page {PAGE} alone."
        status, kind, body = "404 Not Found", "text/plain; charset=utf-8", words.encode()
    headers = [("Content-Type", kind), ("Content-Length", str(len(body))), ("Cache-Control", "no-store")]
    start_response(status, [*headers, ("X-Content-Type-Options", "nosniff")])
    return [b"" if environ.get("REQUEST_METHOD") == "HEAD" else body]
