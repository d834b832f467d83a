"""Instruments in the real interface: zero, eyepiece, repeats, wrong scale, one that reads by itself, a file of readings."""

import threading

import pytest
from selenium.webdriver import ActionChains
from selenium.webdriver.common.keys import Keys

from demo.instruments.refractometer import Device, Server
from instruments.models import Instrument, Reading, ZeroCheck

pytestmark = pytest.mark.browser


def test_a_zero_is_checked_and_one_that_is_off_puts_readings_in_doubt(screen):
    screen.sign_in()
    screen.open("/instruments")
    screen.click(".pick button", "Glass 3")
    screen.sees("within tolerance", "Drifts")
    screen.type("zero", "-45")
    screen.go("Record zero check")
    screen.sees("Clean the prism and check again")
    screen.type("zero", "-2.5")
    screen.go("Record zero check")
    screen.until(lambda: "set the zero, check again" in screen.one("[data-testid=zero-state]").text, "the bad zero")
    screen.type("zero", "-2.5")
    screen.click("[role=checkbox]", "I then adjusted it to zero")
    screen.go("Record zero check")
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
    screen.go("Record")
    screen.sees("edge not sharp: not counted")
    screen.type("value", "-35")
    screen.go("Record −35.0 °C")
    screen.until(lambda: "from the others" in screen.one("[data-testid=sameness]").text, "the outlier named")
    screen.one(".readings li.outlier", "−35.0 °C")


def test_zero_three_repeats_and_the_verdict(screen):
    """The whole of a proof on one glass: its zero, then three readings of one sample."""
    screen.sign_in()
    screen.open("/instruments")
    screen.click(".pick button", "Glass 3")
    screen.type("zero", "-0,6")
    screen.go("Record zero check")
    screen.until(lambda: "0.6 °C off" in screen.one("[data-testid=zero-state]").text, "the zero")
    screen.bench("D-17")
    for left in (2, 1, 0):
        screen.click(".key", "Undo last entry")
        screen.until(lambda left=left: len(screen.all(".readings li:not(.ink2)")) == left, f"{left} readings left")
    screen.until(lambda: screen.value("zero").replace("\N{MINUS SIGN}", "-") == "-0.6", "the zero on the bench")
    for value in ("-27", "-27,5", "-27"):
        screen.type("sample", "20")
        screen.type("value", value)
        screen.sees("by mass: seen")
        before = len(screen.all(".readings li:not(.ink2)"))
        screen.go("Record")
        screen.until(lambda before=before: len(screen.all(".readings li:not(.ink2)")) > before, "the reading taken")
    screen.until(lambda: "Too weak" in screen.one("[data-testid=verdict]").text, "the verdict")
    assert screen.all("[data-testid=sameness]") == []


def test_a_wrong_scale_is_caught_before_and_after_it_is_logged(screen):
    screen.sign_in()
    screen.bench("D-17")
    screen.click(".pick button", "Another")
    screen.click(".pick button", "Glass 5")
    screen.type("value", "-30")
    screen.sees("Read on the propylene scale, but the loop holds ethylene glycol", "read again on the right scale")
    corrected = screen.figure("corrected")
    assert corrected != -30
    screen.go("Record")
    screen.sees("wrong scale, converted")


def test_steps_say_at_least_and_are_not_counted(screen):
    screen.sign_in()
    screen.bench("D-17")
    screen.click(".pick button", "Another")
    screen.click(".pick button", "Five balls")
    screen.type("value", "9")
    screen.sees("Count the visible steps")
    screen.type("value", "3")
    screen.sees("At least −21 °C, not −29 °C", "never an exact value")
    screen.go("Record 3 steps")
    screen.sees("only: not counted")


@pytest.fixture
def device(screen):
    """The simulated refractometer, listening; the depot knows where."""
    with Server(0, Device(seed=7)) as server:
        threading.Thread(target=server.serve_forever, kwargs={"poll_interval": 0.05}, daemon=True).start()
        Instrument.objects.filter(name="Counter 1").update(address=f"127.0.0.1:{server.server_address[1]}")
        yield server.device
        server.shutdown()


def test_an_instrument_that_reads_by_itself_loses_nothing_when_its_line_drops(screen, device):
    screen.sign_in()
    screen.open("/instruments")
    screen.click(".pick button", "Counter 1")
    screen.click(".simulated button", "ethylene mix")
    screen.type("glycol", "44")
    screen.click(".simulated [role=checkbox]", "Break the connection once")
    screen.click(".simulated button", "Put sample on")
    screen.sees("Sample is on the prism")
    screen.bench("D-17")
    screen.click(".pick button", "Another")
    screen.click(".pick button", "Counter 1")
    screen.click(".takefield button", "Read from instrument")
    screen.sees("The connection broke", "read again")
    device.put({})  # meanwhile it was wiped
    screen.driver.refresh()  # and the tablet was reloaded
    screen.click(".takefield button", "Read from instrument")
    screen.until(lambda: screen.value("value").startswith("1.37"), "what it had read before the line dropped")
    screen.go("Record 1.37")
    screen.until(lambda: len(screen.all(".readings li:not(.ink2)")) == 4, "the reading kept")
    assert Reading.objects.filter(instrument__name="Counter 1").count() == 1
    device.put({"none": True})
    screen.click(".takefield button", "Read from instrument")
    screen.sees("No sample on the prism")


def test_a_file_with_errors_is_refused_whole_and_taken_once_repaired(screen, tmp_path):
    head = "taken_at [ISO 8601],machine,place,instrument,value [scale]"
    rows = ["2026-11-02T09:00,T-21,as_found,Glass 3,-32", "2026-11-03T09:00,T-12,as_found,Glass 3,-32"]
    count = Reading.objects.count()
    screen.sign_in("maud")
    screen.open("/readings?view=import")
    bad, good = tmp_path / "bad.csv", tmp_path / "good.csv"
    bad.write_text("\n".join([head, *rows, "2026-11-04T09:00,T-21,as_found,Glass 3,minus 30"]))
    good.write_text("\n".join([head, *rows, "2026-11-04T09:00,T-21,as_found,Glass 3,-30"]).replace("T-12", "T-22"))
    screen.one("input[name=readings]").send_keys(str(bad))
    screen.sees("3 lines: 1 new, 0 known already, 2 refused", "line 3", "No machine 'T-12'", "line 4")
    assert "Fix 2 lines first" in screen.plate
    assert Reading.objects.count() == count
    screen.one("input[name=readings]").send_keys(str(good))
    screen.go("Import 3 readings")
    screen.sees("3 readings imported")
    assert Reading.objects.count() == count + 3
    screen.go("Show readings")
    screen.one(".MuiDataGrid-row")
    screen.open(f"/readings?loop={Reading.objects.latest('pk').loop_id}")
    screen.one(".MuiDataGrid-row", "imported")


def test_the_log_is_sorted_filtered_and_keeps_its_columns(screen):
    screen.sign_in()
    screen.open("/readings")
    screen.one(".MuiDataGrid-row")
    screen.click(".MuiDataGrid-columnHeaderTitle", "Freezes at")
    screen.until(lambda: "\N{MINUS SIGN}45" in screen.one(".MuiDataGrid-row").text, "the coldest first")
    screen.click("[aria-label='Go to next page']:not([disabled])")
    screen.until(lambda: "51" in screen.one(".MuiTablePagination-displayedRows").text, "the second page")
    screen.open(f"/readings?instrument={Instrument.objects.get(name='Brix glass').id}")
    screen.sees("Only Brix glass")
    screen.until(lambda: all("Brix glass" in row.text for row in screen.all(".MuiDataGrid-row")), "its readings alone")
    screen.click("[aria-label='Columns']")
    screen.click(".MuiDataGrid-columnsManagementRow", "Instrument")
    screen.until(lambda: "Brix glass" not in screen.one(".MuiDataGrid-row").text, "the column gone")
    screen.open("/readings")
    screen.one(".MuiDataGrid-row")
    assert not [e for e in screen.all(".MuiDataGrid-columnHeaderTitle") if e.text == "Instrument"]
    screen.click(".headtools button", "Compare")
    screen.sees("Protection falls: P-06", "Instruments disagree: Brix glass and Glass 3")
