"""People at the screen: added, signed in for the first time, nobody locks out the last lead; a wall by its link."""

import pytest

from people.models import Person

pytestmark = pytest.mark.browser


def test_a_new_person_sets_a_password_before_anything_else_and_is_disabled_at_once(screen):
    screen.sign_in("maud")
    screen.open("/people")
    screen.click(".key", "Add person")
    screen.type("name", "Pia Moen")
    screen.type("username", "ines")
    screen.click("[role=dialog] button", "Technician")
    screen.click("[role=dialog] .key", "Add person")
    screen.sees("taken")
    screen.type("username", "pia")
    screen.click("[role=dialog] .key", "Add person")
    password = screen.one("[data-testid=one-password]").text
    screen.click("[role=dialog] .key", "Done")
    screen.sees("password not set yet")
    screen.driver.delete_all_cookies()
    screen.open()
    screen.type("username", "pia")
    screen.type("password", password)
    screen.go("Sign in")
    screen.sees("Set your own password")
    screen.type("old", password)
    screen.type("new", "snow-falls-twice")
    screen.type("again", "snow-falls-once")
    screen.sees("The two new passwords differ")
    screen.type("again", "snow-falls-twice")
    screen.click(".key[aria-disabled=false]", "Change password")
    screen.one(".board")
    pia = Person.objects.get(username="pia")
    pia.is_active = False
    pia.save()
    screen.open("/profile")
    screen.one("input[name=username]")  # signed out at once


def test_nobody_locks_out_the_last_lead(screen):
    screen.sign_in("maud")
    screen.open("/people")
    screen.click("[aria-label='Edit Maud Stellan']", "Edit")
    screen.click("[role=dialog] button", "Technician")
    screen.click("[role=dialog] .key", "Save person")
    screen.sees("is the only lead", "Make another person lead first")
    assert Person.objects.get(username="maud").role == "lead"


def test_a_wall_shows_the_board_without_keys_until_its_link_is_revoked(screen):
    screen.sign_in("maud")
    screen.open("/people")
    screen.type("wall-name", "Bay 1")
    screen.click(".key[aria-disabled=false]", "Make link")
    address = screen.one("[data-testid=wall-link]").get_attribute("href")
    screen.driver.delete_all_cookies()
    screen.driver.get(address)
    screen.sees("Act now", "IR-1", "Tonight")
    assert screen.all("main a, main button, input") == []
    assert "IR-1" in [plate.text for plate in screen.all(".bstrip.urgent .plate")]
    screen.sign_in("maud")
    screen.open("/people")
    screen.click("[aria-label='Revoke Bay 1']", "Revoke")
    screen.until(lambda: not screen.all("[aria-label='Revoke Bay 1']"), "the link to go")
    screen.driver.get(address)
    screen.sees("This link does not work any more")
    screen.driver.get_log("browser")  # the refusal is meant


def test_a_profile_has_its_name_and_devices(screen):
    screen.sign_in()
    screen.open("/profile")
    screen.sees("Signed in on", "(this one)", "Chrome on Linux")
    screen.type("name", "Ines Halvard-Berg")
    screen.click(".key[aria-disabled=false]", "Save name")
    screen.until(lambda: "Ines Halvard-Berg, technician" in screen.text, "the new name")
    screen.sees("Renamed")
