"""Doors: who may try how often, what browsers keep, what proxies say."""

import pytest
from django.core.cache import cache
from django.test import Client, override_settings

from people.doors import BY_ADDRESS, BY_DEVICE, BY_NAME
from tests.server.conftest import Api

RIGHT = "snow-and-cable"


@pytest.fixture(autouse=True)
def nothing_counted(db):
    cache.clear()
    yield
    cache.clear()


def somebody(address):
    """A browser somewhere."""
    api = Api()
    api.client.defaults["REMOTE_ADDR"] = address
    return api


def tries(api, name, password="guess"):
    answer = api.post("/api/session", {"username": name, "password": password})
    api.token = api.client.cookies["csrftoken"].value  # it is another one after each sign-in
    return answer


def test_a_stranger_does_not_lock_a_known_name_out(depot):
    ines = somebody("10.0.0.5")
    assert tries(ines, "ines", RIGHT).status_code == 200
    ines.client.cookies.pop("sessionid")
    for n in range(60):  # from many addresses, as a botnet would
        tries(somebody(f"10.9.{n}.1"), "ines")
    stranger = tries(somebody("10.9.99.1"), "ines", RIGHT)
    assert stranger.status_code == 429
    assert "a device you have used before" in stranger.json()["message"]
    assert tries(ines, "ines", RIGHT).status_code == 200  # on her own tablet she comes in
    assert tries(somebody("10.0.0.6"), "tomo", RIGHT).status_code == 200  # and everybody else anywhere


def test_a_stranger_at_the_same_address_does_not_either(depot):
    ines, stranger = somebody("10.0.0.5"), somebody("10.0.0.5")
    assert tries(ines, "ines", RIGHT).status_code == 200
    for _ in range(BY_DEVICE + 2):
        last = tries(stranger, "ines")
    assert last.status_code == 429
    assert tries(ines, "ines", RIGHT).status_code == 200


def test_a_known_device_is_counted_too(depot):
    ines = somebody("10.0.0.5")
    tries(ines, "ines", RIGHT)
    codes = [tries(ines, "ines").status_code for _ in range(BY_DEVICE + 2)]
    assert codes == [400] * BY_DEVICE + [429] * 2
    assert tries(ines, "ines", RIGHT).status_code == 429


def test_a_device_known_to_one_is_none_to_another(depot):
    ines = somebody("10.0.0.5")
    tries(ines, "ines", RIGHT)
    codes = [tries(ines, "tomo").status_code for _ in range(BY_DEVICE + 1)]
    assert codes[-1] == 429


def test_a_made_up_device_cookie_is_worth_nothing(depot):
    api = somebody("10.0.0.7")
    api.client.cookies["temper_device"] = "WyJhIixbImluZXMiXV0:1abcde:forged"
    codes = [tries(api, "ines").status_code for _ in range(BY_DEVICE + 1)]
    assert codes[-1] == 429


def test_one_address_may_not_try_name_after_name(depot):
    api = somebody("10.0.0.8")
    codes = [tries(api, f"nobody{n // 4}").status_code for n in range(BY_ADDRESS + 1)]
    assert codes[-1] == 429
    assert 429 not in codes[:BY_ADDRESS]


def test_the_wait_has_the_apis_shape_and_says_how_long(depot):
    for n in range(BY_NAME + 1):
        answer = tries(somebody(f"10.7.{n}.1"), "maud")
    assert answer.status_code == 429
    assert set(answer.json()) == {"field", "code", "message"}
    assert answer["Retry-After"] == "900"


def test_a_missing_token_answers_in_the_apis_shape_too(depot):
    api = somebody("10.0.0.9")
    api.token = "wrong"
    answer = api.post("/api/session", {"username": "ines", "password": RIGHT})
    assert (answer.status_code, answer.json()["code"]) == (403, "csrf")


def test_nothing_private_is_kept_by_a_browser(ines, maud):
    for path in ("/api/board", "/api/session", "/api/people", "/api/readings/export/csv", "/api/calendar.ics"):
        assert maud.get(path)["Cache-Control"] == "no-store", path
    assert ines.send("delete", "/api/session")["Clear-Site-Data"] == '"cache"'


@override_settings(SECURE_SSL_REDIRECT=True, SECURE_HSTS_SECONDS=3600, PROXIES=1)
def test_in_earnest_everything_is_https_but_the_monitors_address(db):
    client = Client()
    with override_settings(SECURE_PROXY_SSL_HEADER=("HTTP_X_FORWARDED_PROTO", "https")):
        plain = client.get("/api/session")
        assert (plain.status_code, plain["Location"]) == (301, "https://testserver/api/session")
        behind = client.get("/api/session", headers={"X-Forwarded-Proto": "https"})
        assert behind.status_code == 200
        assert behind["Strict-Transport-Security"].startswith("max-age=3600")
        assert client.get("/api/health").status_code in (200, 503)


@pytest.mark.parametrize(
    ("proxies", "header", "address"),
    [
        (0, "1.1.1.1", "10.0.0.9"),  # nobody stands before it: the sender's own word counts for nothing
        (1, "1.1.1.1", "1.1.1.1"),
        (1, "6.6.6.6, 1.1.1.1", "1.1.1.1"),  # what the sender wrote stands before what the proxy added
        (2, "6.6.6.6, 1.1.1.1, 10.0.0.2", "1.1.1.1"),
        (1, "not an address", "10.0.0.9"),
        (2, "1.1.1.1", "10.0.0.9"),
    ],
)
def test_who_asks_is_whom_the_proxy_saw(rf, settings, proxies, header, address):
    from django.http import HttpResponse

    from config.middleware import BehindProxies

    settings.PROXIES = proxies
    seen = []
    BehindProxies(lambda request: seen.append(request.META["REMOTE_ADDR"]) or HttpResponse())(
        rf.get("/", REMOTE_ADDR="10.0.0.9", headers={"X-Forwarded-For": header})
    )
    assert seen == [address]
