"""Instruments in the real interface: a zero check, the eyepiece by keys and by touch, repeats that stand apart."""

import pytest
from selenium.webdriver import ActionChains
from selenium.webdriver.common.keys import Keys

from instruments.models import ZeroCheck

pytestmark = pytest.mark.browser


def test_a_zero_is_checked_and_one_that_is_off_puts_readings_in_doubt(screen):
    screen.sign_in()
    screen.open("/instruments")
    screen.sees("within tolerance", "Drifts")
    screen.type("zero", "-45")
    screen.go("Record the zero")
    screen.sees("Clean the prism and check again")
    screen.type("zero", "-2.5")
    screen.go("Record the zero")
    screen.until(lambda: "set the zero, check again" in screen.one("[data-testid=zero-state]").text, "the bad zero")
    screen.type("zero", "-2.5")
    screen.click("[role=checkbox]", "Then set to zero")
    screen.go("Record the zero")
    screen.until(lambda: "Set to zero" in screen.one("[data-testid=zero-state]").text, "the zero as set")
    assert ZeroCheck.objects.filter(instrument__name="Glass 3", adjusted=True).count() == 2


def test_the_line_is_set_in_the_eyepiece_and_three_repeats_are_judged(screen):
    screen.sign_in()
    screen.bench("D-17")
    screen.type("value", "-27")
    glass = screen.one(".sightglass [role=slider]")
    glass.send_keys(Keys.ARROW_UP)
    screen.until(lambda: screen.value("value").replace("\N{MINUS SIGN}", "-") == "-28", "one division colder")
    glass.send_keys(Keys.PAGE_UP)
    screen.until(lambda: screen.value("value").replace("\N{MINUS SIGN}", "-") == "-33", "five more")
    ActionChains(screen.driver).move_to_element_with_offset(glass, -30, 40).click().perform()
    screen.until(lambda: -25 < float(screen.value("value").replace("\N{MINUS SIGN}", "-")) < 0, "where it was pressed")
    screen.click(".sightkeys button", "soft")
    screen.go("Log")
    screen.sees("line not sharp: not counted")
    screen.type("value", "-35")
    screen.go("Log −35.0 °C")
    screen.until(lambda: "from the others" in screen.one("[data-testid=sameness]").text, "the outlier named")
    screen.one(".readings li.outlier", "−35.0 °C")
