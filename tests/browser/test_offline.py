"""The bay without a network: it opens, the job goes on with the same core, and nothing is lost or twice.

The network is cut through the browser's own protocol. These tests have browsers of their own, that take a kit along.
"""

import json
import os
import signal
import uuid
from datetime import timedelta

import pytest
from django.utils import timezone

from jobs.models import Entry
from tests.browser.tablet import AT_ONCE, KINDS, PUT, Tablet, readings
from tests.browser.test_presses import change_type_of_r02
from tools.browser import chromium

pytestmark = pytest.mark.browser


def stored(kind, fleet_number):
    """Entries of a kind at the depot."""
    return Entry.objects.filter(kind=kind, loop__machine__fleet_number=fleet_number).count()


def test_the_network_goes_the_page_opens_without_it_and_all_is_sent_once(tablet):
    before = stored("paused", "D-17")
    tablet.bench("D-17")
    tablet.cut()
    tablet.pause()  # the first request finds out
    tablet.patiently(lambda: len(tablet.waiting()) == 1, "it to wait")
    tablet.open()  # the page itself comes from this browser, and the board as last seen
    tablet.sees("No server since", "kit of")
    tablet.one(".bstrip", "D-17")
    tablet.calculator()
    tablet.sees("1 waits to be sent")
    tablet.bench("D-17")
    tablet.sees("Resume job", "Paused by Ines")
    assert stored("paused", "D-17") == before
    tablet.click(".menukey, .youkey")
    tablet.click(".you .key", "Sign out")
    tablet.sees("Signing out needs the network")
    tablet.join()
    tablet.patiently(lambda: tablet.waiting() == [], "all to be sent")
    tablet.patiently(lambda: "waits" not in tablet.bar(), "the line to say so")
    assert stored("paused", "D-17") == before + 1


def test_what_was_just_recorded_is_along_and_a_killed_browser_keeps_what_waits(tablet, live_server):
    page = tablet.loop_page("D-17")
    tablet.open(page)
    tablet.pause()
    tablet.patiently(
        lambda: "paused" in tablet.driver.execute_async_script(KINDS, int(page.split("/")[-1])), "it to be along"
    )
    tablet.cut()
    tablet.open(page)
    tablet.calculator()
    tablet.patiently(lambda: "Resume job" in tablet.text, "its own state, computed here")
    tablet.go("Resume job")
    tablet.patiently(lambda: len(tablet.waiting()) == 1, "it to wait")
    loop, person = int(page.split("/")[-1]), tablet.waiting()[0]["person"]
    assert tablet.driver.execute_async_script(PUT, json.dumps([readings(loop, person, n) for n in (0, AT_ONCE)])) == 2
    before, resumed = stored("temperature_logged", "D-17"), stored("resumed", "D-17")
    os.kill(tablet.driver.service.process.pid, signal.SIGKILL)
    os.system(f"pkill -9 -f {tablet.profile}")
    again = Tablet(chromium(profile=tablet.profile, kit=True), live_server.url)
    try:
        again.sign_in()
        again.patiently(lambda: stored("resumed", "D-17") == resumed + 1, "it to be sent")
        again.patiently(lambda: again.waiting() == [], "nothing to wait")
        assert stored("temperature_logged", "D-17") == before + 2 * AT_ONCE
    finally:
        again.driver.quit()


def test_two_tabs_know_each_other_and_others_worked_meanwhile_and_somebody_chooses(tablet):
    loop = tablet.loop_page("D-17")
    tablet.cut()
    tablet.open(loop)
    tablet.calculator()
    tablet.one(".bench")
    tablet.type("sample", "18")
    first = tablet.driver.current_window_handle
    tablet.driver.switch_to.new_window("tab")
    tablet.cut()
    tablet.open(loop)
    tablet.calculator()
    tablet.patiently(lambda: tablet.value("sample") == "18", "what was typed in the other tab, and in no server")
    second = tablet.driver.current_window_handle
    tablet.driver.switch_to.window(first)
    tablet.pause()
    tablet.patiently(lambda: len(tablet.waiting()) == 1, "it to wait")
    tablet.driver.switch_to.window(second)
    tablet.patiently(lambda: "Resume job" in tablet.text, "the other tab to know it")
    tablet.driver.close()
    tablet.driver.switch_to.window(first)
    elsewhere_paused("D-17")
    tablet.join()
    tablet.patiently(lambda: "1 asks you first" in tablet.bar(), "to be asked")
    tablet.click("[data-testid=offlinebar] .key", "Choose")
    tablet.sees("At the depot", "On this tablet", "Tomo")
    tablet.click(".meeting .MuiToggleButton-root", "Edit it")
    tablet.type("edit-note", "fuse on order")
    tablet.click(".meeting .key", "Keep these figures")
    tablet.patiently(lambda: "fuse on order" in tablet.one(".meeting").text, "the edit in its story, not sent")
    assert Entry.objects.filter(kind="paused", facts__note="fuse on order").count() == 0
    tablet.click(".meeting .MuiToggleButton-root", "Set it aside")
    tablet.click(".meeting .key", "Set aside")
    tablet.patiently(lambda: stored("set_aside", "D-17") == 1, "it to stay in the record as set aside")
    tablet.patiently(lambda: tablet.waiting() == [], "nothing to wait")
    assert stored("paused", "D-17") == 1


def elsewhere_paused(fleet_number):
    """Tomo pauses the same job at the depot."""
    from fleet.models import Loop
    from jobs.actions import record_entries
    from jobs.entry_schemas import EntriesIn
    from people.models import Person

    loop = Loop.objects.get(machine__fleet_number=fleet_number, position=1)
    entry = {"id": str(uuid.uuid4()), "kind": "paused", "facts": {"parked": "bay"}}
    entry["happened_at"] = (timezone.now() - timedelta(seconds=5)).isoformat()
    record_entries(loop, EntriesIn.model_validate({"entries": [entry]}), actor=Person.objects.get(username="tomo"))


def test_a_whole_change_of_type_without_a_network_then_sent(tablet):
    before = Entry.objects.filter(loop__machine__fleet_number="R-02").count()
    tablet.cut()
    tablet.open()
    tablet.calculator()
    change_type_of_r02(tablet)
    many = sum(len(row["body"]["entries"]) for row in tablet.waiting())
    assert many >= 25
    assert Entry.objects.filter(loop__machine__fleet_number="R-02").count() == before
    tablet.sees("signed here, not yet at the depot")
    tablet.join()
    tablet.patiently(lambda: tablet.bar() == "", "all to be sent")
    assert Entry.objects.filter(loop__machine__fleet_number="R-02").count() == before + many
    assert stored("signed_off", "R-02") >= 1
    page = tablet.loop_page("R-02")
    tablet.open(page)
    tablet.sees("Signed off")


def test_who_is_refused_at_the_next_contact_works_with_no_kit(tablet):
    from django.contrib.sessions.models import Session

    Session.objects.all().delete()
    tablet.open()
    tablet.sees("Sign in")
    tablet.cut()
    tablet.open()
    for _ in range(3):  # it is asked again a few times first
        try:
            tablet.sees("The server does not answer")
            break
        except AssertionError:
            continue
    assert "No server since" not in tablet.text
