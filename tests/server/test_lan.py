"""The certificate of --lan, looked at by a real TLS client; the page /trust; hosts that are not served."""

import socket
import ssl
import threading
from datetime import UTC, datetime, timedelta

import pytest
from cryptography import x509

from config.lan import AUTHORITY, LEAF, LEAF_KEY, NamesChanged, keep
from config.trust import application
from tests.server.conftest import Api

NOW = datetime.now(UTC)
NAMES = ["bay-pc", "bay-pc.local", "localhost"]


def handshake(folder, asked):
    """A server with the kept certificate and a client that trusts the authority alone: what the client says."""
    server = ssl.SSLContext(ssl.PROTOCOL_TLS_SERVER)
    server.load_cert_chain(folder / LEAF, folder / LEAF_KEY)
    client = ssl.create_default_context(cafile=str(folder / AUTHORITY))
    ours, theirs = socket.socketpair()

    def serve():
        try:
            server.wrap_socket(ours, server_side=True).close()
        except OSError:
            ours.close()

    thread = threading.Thread(target=serve)
    thread.start()
    try:
        client.wrap_socket(theirs, server_hostname=asked).close()
    except ssl.SSLCertVerificationError as error:
        return error.verify_message
    finally:
        theirs.close()
        thread.join()
    return "fine"


@pytest.mark.parametrize(
    ("asked", "fine"),
    [("bay-pc", True), ("bay-pc.local", True), ("192.168.7.20", True), ("other-pc", False), ("192.168.7.21", False)],
)
def test_a_client_that_trusts_the_authority_believes_these_names_and_no_other(tmp_path, asked, fine):
    keep(tmp_path, NAMES, ["192.168.7.20", "127.0.0.1"], NOW)
    assert (handshake(tmp_path, asked) == "fine") == fine


def test_the_authority_speaks_for_nothing_else(tmp_path):
    """OpenSSL refuses a name or an address outside its constraints, even where the leaf has it."""
    keep(tmp_path, NAMES, ["192.168.7.20", "9.9.9.9"], NOW)
    assert "permitted subtree" in handshake(tmp_path, "9.9.9.9")


def test_it_stays_until_something_changes(tmp_path):
    first = keep(tmp_path, NAMES, ["192.168.7.20"], NOW)
    assert first.changed
    assert not keep(tmp_path, NAMES, ["192.168.7.20"], NOW + timedelta(days=300)).changed
    late = keep(tmp_path, NAMES, ["192.168.7.20"], NOW + timedelta(days=340))
    moved = keep(tmp_path, NAMES, ["10.0.0.5"], NOW)
    assert late.changed
    assert moved.changed
    assert {first.fingerprint} == {late.fingerprint, moved.fingerprint}, "the authority is the one that devices trust"
    assert handshake(tmp_path, "10.0.0.5") == "fine"


def test_another_name_is_said_in_words(tmp_path):
    keep(tmp_path, NAMES, ["127.0.0.1"], NOW)
    with pytest.raises(NamesChanged, match="is called office now"):
        keep(tmp_path, ["office", "office.local", "localhost"], ["127.0.0.1"], NOW)


def test_keys_are_for_the_server_alone(tmp_path):
    keep(tmp_path / "lan", NAMES, ["127.0.0.1"], NOW)
    assert {path.stat().st_mode & 0o777 for path in (tmp_path / "lan").iterdir()} == {0o600}
    leaf = x509.load_pem_x509_certificate((tmp_path / "lan" / LEAF).read_bytes())
    assert (leaf.not_valid_after_utc - leaf.not_valid_before_utc).days < 398


def plain(path, method="GET"):
    """The page over plain HTTP: status, type, body."""
    said = []
    body = b"".join(
        application({"PATH_INFO": path, "REQUEST_METHOD": method}, lambda status, headers: said.append((status, headers)))
    )
    return said[0][0], dict(said[0][1])["Content-Type"], body


def test_over_plain_http_there_is_this_page_alone(tmp_path, monkeypatch):
    kept = keep(tmp_path, NAMES, ["192.168.7.20"], NOW)
    monkeypatch.setenv("TEMPER_LAN", str(tmp_path))
    monkeypatch.setenv("TEMPER_ADDRESS", "https://192.168.7.20:8000/")
    status, _, body = plain("/trust")
    assert status.startswith("200")
    assert kept.fingerprint in body.decode()
    status, kind, body = plain("/trust/temper-authority.crt")
    assert (status, kind) == ("200 OK", "application/x-x509-ca-cert")
    assert x509.load_der_x509_certificate(body).subject.rfc4514_string() == "CN=Temper on bay-pc"
    for path in ("/", "/api/session", "/trust/authority.key", "/trust/../authority.key"):
        status, _, body = plain(path)
        assert status.startswith("404")
        assert b"PRIVATE" not in body
    assert plain("/trust", "POST")[0].startswith("404")


@pytest.mark.django_db
def test_a_host_that_is_not_served_gets_a_sentence(settings, nothing_kept):
    api = Api()
    settings.ALLOWED_HOSTS = ["localhost", "bay.example"]
    page = api.client.get("/", headers={"host": "evil<b>.example"})
    assert page.status_code == 400
    assert "bay.example" in page.content.decode()
    assert "<b>" not in page.content.decode()
    refused = api.client.get("/api/session", headers={"host": "10.1.2.3"})
    assert (refused.status_code, refused.json()["code"]) == (400, "unknown_host")
    assert "TEMPER_HOSTS=" in refused.json()["message"]
