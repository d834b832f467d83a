"""A car arrives where there is no network: taken in, worked on, and at the depot once there is one."""

import pytest

from fleet.models import Machine
from jobs.models import Entry

pytestmark = pytest.mark.browser


def test_a_car_is_taken_in_without_a_network_and_its_job_is_sent(tablet):
    tablet.open()
    tablet.one(".board")
    tablet.cut()
    tablet.open("/machines/new")
    tablet.calculator()
    tablet.type("number", "FIELD 7")
    tablet.click(".kinds button", "Small car")
    tablet.type("owner", "Hanne Weir")
    tablet.type("telephone", "555 01 234")
    tablet.click(".capacityfrom button", "Not known")
    tablet.click(".highvoltage button", "No")
    tablet.go("Take in FIELD 7")
    tablet.one(".looprow", "FIELD 7")
    tablet.click(".startjob .opt", "Check")
    tablet.one(".bench")
    tablet.sees("FIELD 7")
    assert len(tablet.waiting()) == 2
    assert not Machine.objects.filter(fleet_number="FIELD 7").exists()
    tablet.driver.refresh()
    tablet.calculator()
    tablet.one(".bench")
    tablet.join()
    tablet.patiently(lambda: tablet.waiting() == [], "all to be sent")
    machine = Machine.objects.get(fleet_number="FIELD 7")
    loop = machine.loops.get()
    assert Entry.objects.filter(loop=loop, kind="job_opened").count() == 1
    assert machine.owner.telephone == "555 01 234"
    tablet.patiently(lambda: tablet.driver.current_url.endswith(f"/loops/{loop.id}"), "the depot's own address")
    tablet.one(".bench")
    tablet.sees("FIELD 7")
    tablet.open("/machines?find=01234")
    tablet.one(".looprow", "FIELD 7")
