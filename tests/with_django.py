"""Fixtures of tests that need the server."""

import functools

import pytest


@pytest.fixture(autouse=True, scope="session")
def one_hash_a_password():
    """Argon2 is slow on purpose; the demo's few passwords are hashed once a run, not once a test. Still Argon2's hashes."""
    from django.contrib.auth import base_user, hashers, models

    once = functools.lru_cache(hashers.make_password)
    with pytest.MonkeyPatch.context() as patch:
        patch.setattr(base_user, "make_password", once)
        patch.setattr(models, "make_password", once)
        yield


@pytest.fixture(autouse=True, scope="session")
def photos_in_a_folder_of_their_own(tmp_path_factory):
    """Photos of tests never lie beside those of a depot that works on this machine."""
    from django.conf import settings as django_settings

    django_settings.DATA = tmp_path_factory.mktemp("data")
