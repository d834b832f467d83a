"""The lead's plan at the screen: dragged, moved by keyboard, assigned; what needs attention; figures."""

from datetime import date, timedelta

import pytest
from selenium.webdriver import ActionChains
from selenium.webdriver.common.keys import Keys
from selenium.webdriver.support.select import Select

from jobs.models import Appointment

pytestmark = pytest.mark.browser


def card(screen, number, kind):
    """What comes due of a machine."""
    return screen.until(
        lambda: next((one for one in screen.all(".plancard") if number in one.text and kind in one.text), None),
        f"{number} {kind}",
    )


def day_of(screen, number, kind):
    """The day its card stands on."""
    return card(screen, number, kind).find_element("xpath", "..").get_attribute("data-day")


def test_a_card_is_dragged_to_another_day_and_assigned_by_keyboard(screen):
    screen.sign_in("maud")
    screen.click(".sidehead a", "Calendar")
    before = day_of(screen, "S-12", "Reading")
    week = card(screen, "S-12", "Reading").find_element("xpath", "../..")
    goal = next(
        day for day in week.find_elements("css selector", ".planday:not(.past)") if day.get_attribute("data-day") != before
    )
    later = goal.get_attribute("data-day")
    drag = ActionChains(screen.driver).click_and_hold(card(screen, "S-12", "Reading"))
    drag.move_by_offset(0, 12).pause(0.2).move_to_element(goal).pause(0.2).release().perform()
    screen.until(lambda: day_of(screen, "S-12", "Reading") == later, "the card on its new day")
    assert Appointment.objects.get().day.isoformat() == later
    card(screen, "S-12", "Reading").send_keys(Keys.ENTER)
    Select(screen.one("[role=dialog] select")).select_by_visible_text("Tomo Reik")
    screen.click("[role=dialog] .key", "A day later")
    screen.click("[role=dialog] .key", "Save plan")
    screen.until(lambda: not screen.all("[role=dialog]"), "the dialog to go")
    screen.until(lambda: "TR" in card(screen, "S-12", "Reading").text, "whose it is")
    row = Appointment.objects.get()
    assert (row.day - date.fromisoformat(later), row.person.username) == (timedelta(days=1), "tomo")


def test_a_technician_reads_the_plan_and_moves_nothing(screen):
    screen.sign_in()
    screen.open("/plan?view=figures")
    card(screen, "S-12", "Level check").click()
    screen.sees("Open machine")
    assert not screen.all("input[name=day]")


def test_what_needs_attention_is_answered_and_done(screen):
    screen.sign_in("maud")
    screen.click(".sidehead a", "All")
    many = len(screen.until(lambda: screen.all("[data-testid=matter]"), "what waits"))
    screen.all("[data-testid=matter] input")[0].send_keys("Talked it over.")
    screen.click("[data-testid=matter] .key", "Done")
    screen.until(lambda: len(screen.all("[data-testid=matter]")) == many - 1, "one less")
    screen.sees("Done in the last month: 1", "Talked it over.", "Maud Stellan")


def test_figures_are_a_chart_and_the_same_as_a_table(screen):
    screen.sign_in("maud")
    screen.open("/plan?view=figures")
    screen.until(lambda: "Winterline O" in screen.one("[data-testid=figures]").text, "the table")
    screen.one("svg rect")
    screen.click(".figurekeys button", "Machine")
    screen.until(lambda: "S-12" in screen.one("[data-testid=figures]").text, "by machine")
    screen.click(".figurekeys button", "Jobs")
    screen.until(lambda: "Verified" in screen.one("[data-testid=figures]").text, "by verdict")
