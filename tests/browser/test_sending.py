"""What waits is sent, whatever happens: the server dies, a session ends, a clock is wrong, a new version comes."""

import json
import uuid

import pytest
from django.utils import timezone

from jobs.models import Entry, JobLoop
from tests.browser.tablet import AT_ONCE, KINDS, PUT, readings
from tests.browser.test_everyone import AXE, violations
from tests.browser.test_offline import stored
from tests.browser.test_presses import read_weak

pytestmark = pytest.mark.browser

MANY = 1008
# a device whose clock is two hours ahead, and may be set
WRONG_CLOCK = """
const real = Date.now.bind(Date);
window.ahead = 7200000;
Date.now = () => real() + window.ahead;
window.Date = class extends Date {
  constructor(...given) { given.length ? super(...given) : super(Date.now()); }
};
"""


def test_a_thousand_entries_reach_a_server_that_dies_twice_each_once_and_in_order(own_server, far_tablet):
    person = own_server.rows("SELECT id FROM people_person WHERE username = 'ines'")[0][0]
    loops = own_server.rows(
        "SELECT l.id FROM fleet_loop l JOIN fleet_machine m ON m.id = l.machine_id"
        " JOIN jobs_jobloop j ON j.loop_id = l.id WHERE j.signed_at IS NULL LIMIT 4"
    )
    loops = [row[0] for row in loops]
    queue = [readings(loops[n % 4], person, n * AT_ONCE) for n in range(MANY // AT_ONCE)]
    far_tablet.cut()
    assert far_tablet.driver.execute_async_script(PUT, json.dumps(queue)) == len(queue)
    before = own_server.rows("SELECT count(*) FROM jobs_entry")[0][0]

    def arrived():
        return own_server.rows("SELECT count(*) FROM jobs_entry")[0][0] - before

    far_tablet.join()
    for killed_at in (150, 600):
        far_tablet.patiently(lambda least=killed_at: arrived() >= least, f"{killed_at} of them at the depot")
        own_server.kill()
        far_tablet.patiently(lambda: "No server since" in far_tablet.bar(), "the tablet to notice")
        own_server.start()
    far_tablet.patiently(lambda: far_tablet.waiting() == [], "all to be sent")
    wanted = [entry["id"].replace("-", "") for row in queue for entry in row["body"]["entries"]]
    assert arrived() == MANY
    assert {row[0] for row in own_server.rows("SELECT id FROM jobs_entry")} >= set(wanted)
    for loop in loops:
        mine = [entry["id"].replace("-", "") for row in queue if row["loops"] == [loop] for entry in row["body"]["entries"]]
        there = [row[0] for row in own_server.rows("SELECT id FROM jobs_entry WHERE loop_id = ? ORDER BY seq", loop)]
        assert [one for one in there if one in set(mine)] == mine


def test_a_new_version_asks_and_what_waits_stays(own_server, far_tablet):
    far_tablet.bench("D-17")
    far_tablet.cut()
    far_tablet.pause()
    far_tablet.patiently(lambda: len(far_tablet.waiting()) == 1, "it to wait")
    own_server.kill()
    with (own_server.web / "sw.js").open("a") as script:
        script.write("\n// a new version\n")
    for packed in own_server.web.glob("sw.js.*"):
        packed.unlink()
    own_server.start()
    before = own_server.rows("SELECT count(*) FROM jobs_entry WHERE kind = 'paused'")[0][0]
    far_tablet.join()
    far_tablet.patiently(lambda: "A new version is here" in far_tablet.bar(), "to be asked")
    far_tablet.driver.execute_script("window.old = true")
    far_tablet.click("[data-testid=offlinebar] .key", "Take it now")
    far_tablet.patiently(lambda: not far_tablet.driver.execute_script("return window.old ?? false"), "the new page")
    far_tablet.patiently(lambda: far_tablet.waiting() == [], "all to be sent")
    assert own_server.rows("SELECT count(*) FROM jobs_entry WHERE kind = 'paused'")[0][0] == before + 1


def test_it_is_sent_in_the_background_where_no_page_is_open(tablet):
    before = stored("paused", "D-17")
    tablet.bench("D-17")
    tablet.cut()
    tablet.pause()
    tablet.patiently(lambda: len(tablet.waiting()) == 1, "it to wait")
    tablet.driver.get("about:blank")
    tablet.join()
    tablet.patiently(lambda: stored("paused", "D-17") == before + 1, "the service worker to send it")
    tablet.open()
    tablet.patiently(lambda: tablet.bar() == "", "the page to know it")


def test_a_session_that_ended_asks_for_its_person_and_loses_nothing(tablet):
    from django.contrib.sessions.models import Session

    before = stored("paused", "D-17")
    tablet.bench("D-17")
    tablet.cut()
    tablet.pause()
    tablet.patiently(lambda: len(tablet.waiting()) == 1, "it to wait")
    Session.objects.all().delete()
    tablet.join()
    tablet.patiently(lambda: "Sign in" in tablet.text, "to be asked who it is")
    assert len(tablet.waiting()) == 1
    assert stored("paused", "D-17") == before
    tablet.sign_in("tomo")  # somebody else: it is not theirs to send, nor to work with
    tablet.patiently(lambda: "somebody else" in tablet.bar(), "to be told")
    tablet.cut()
    tablet.open()
    tablet.patiently(lambda: "The server does not answer" in tablet.text, "no kit of somebody else's")
    tablet.join()
    assert stored("paused", "D-17") == before
    tablet.sign_in()
    tablet.patiently(lambda: stored("paused", "D-17") == before + 1, "it to be sent")
    tablet.patiently(lambda: tablet.waiting() == [], "nothing to wait")


def test_times_are_the_depots_on_a_device_with_a_wrong_clock_and_a_jump_is_said(tablet):
    tablet.driver.execute_cdp_cmd("Page.addScriptToEvaluateOnNewDocument", {"source": WRONG_CLOCK})
    tablet.open()
    tablet.take_along()
    tablet.driver.execute_script("localStorage.removeItem('temper.kit-of')")
    tablet.open()
    tablet.take_along()  # a fresh kit, by this clock
    tablet.bench("D-17")
    tablet.cut()
    tablet.pause()
    tablet.patiently(lambda: len(tablet.waiting()) == 1, "it to wait")
    tablet.driver.execute_script("window.ahead = 0")
    tablet.go("Resume job")
    tablet.patiently(lambda: "The clock of this tablet was changed" in tablet.bar(), "the jump to be said")
    tablet.join()
    tablet.patiently(lambda: tablet.waiting() == [], "all to be sent")
    paused = Entry.objects.filter(kind="paused", loop__machine__fleet_number="D-17").latest("seq")
    assert abs((paused.happened_at - timezone.now()).total_seconds()) < 900


def test_a_job_opened_here_and_at_the_depot_becomes_one(tablet):
    from fleet.models import Loop
    from jobs.actions import open_job
    from jobs.schemas import JobIn
    from people.models import Person

    loop = Loop.objects.get(machine__fleet_number="S-12", position=1)
    read_weak("S-12")
    tablet.open("/machines?show=due")
    known = stored("read", "S-12")
    tablet.patiently(
        lambda: tablet.driver.execute_async_script(KINDS, loop.id).count("read") == known, "the reading to be along"
    )
    tablet.cut()
    tablet.open("/machines?show=due")
    tablet.calculator()
    tablet.click(".looprow .key", "Start: adjust strength")
    tablet.one(".bench")
    tablet.patiently(lambda: len(tablet.waiting()) == 1, "the job to wait")
    theirs = {"id": str(uuid.uuid4()), "machine_id": loop.machine_id}
    theirs["loops"] = [{"loop_id": loop.id, "job_type": "refill"}]
    open_job(JobIn.model_validate(theirs), actor=Person.objects.get(username="tomo"))
    tablet.join()
    tablet.patiently(lambda: "asks you first" in tablet.bar(), "to be asked")
    tablet.click("[data-testid=offlinebar] .key", "Choose")
    tablet.click(".meeting .key", "Use the job that is open there")
    tablet.patiently(lambda: tablet.waiting() == [], "nothing to wait")
    assert JobLoop.objects.filter(loop=loop, signed_at=None).count() == 1


def test_the_tablet_can_be_installed_and_its_pages_without_a_network_are_for_everyone(tablet):
    errors = tablet.driver.execute_cdp_cmd("Page.getInstallabilityErrors", {})["installabilityErrors"]
    assert [one["errorId"] for one in errors if one["errorId"] != "in-incognito"] == []
    page = tablet.loop_page("D-17")
    tablet.cut()
    tablet.open(page)
    tablet.calculator()
    tablet.one(".bench")
    tablet.driver.set_script_timeout(60)
    for size in ((1280, 800), (390, 844)):
        tablet.resize(*size)
        tablet.driver.execute_script(AXE.read_text())
        assert violations(tablet) == []
