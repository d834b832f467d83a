"""An additive dose in the real interface: strips, dose, run, strips again, signed; an overdose refused on the way."""

import pytest
from selenium.webdriver.support.ui import Select
from shelf.models import Can, Draw

from jobs.models import Entry
from tests.browser.test_identify_and_inspect import facts_of

pytestmark = pytest.mark.browser
MACHINE = "H-09"


def ran_hot(screen):
    """The run after a dose, as it was seen."""
    screen.click(".runwatch button", "both hot")
    screen.click(".runwatch [role=checkbox]", "Heater on full")
    for box in screen.all(".runwatch [role=checkbox][aria-checked=false]"):
        box.click()
    screen.type("ran-min", "25")
    screen.go("Engine off: record the run")


def test_a_dose_is_poured_by_its_strips_run_hot_and_read_again(screen):
    can = Can.objects.get(agent__name="Linerdose")
    screen.sign_in()
    screen.bench(MACHINE)
    screen.click(".panelpick button", "Decide")
    screen.until(lambda: "Dose additive." in screen.one("[data-testid=advice]").text, "the advice")
    screen.click(".leftout button", "no time")
    screen.go("Dose additive, as advised")
    screen.sees("How much additive?", "Nitrite: read 300 mg/l", "0 to 800 mg/l", "Linerdose: 730 ml")
    screen.click(".additives .opt", "Linerdose")
    screen.until(lambda: "Enter the ml poured" in screen.plate, "what is poured to be asked")
    screen.type("dose-ml", "7300")
    screen.sees("an overdose")
    screen.until(lambda: "Fix the ml poured" in screen.plate, "the overdose to be refused before it is recorded")
    screen.driver.refresh()
    screen.until(lambda: screen.value("dose-ml") == "7300", "the draft after a reload")
    screen.click(".row .key", "730 ml, as planned")
    Select(screen.one("select[name=agent-out-of]")).select_by_value(str(can.pk))
    screen.go("Record the dose")
    screen.sees("Run it hot: the dose is not mixed yet", "730 ml Linerdose poured")
    screen.until(lambda: Draw.objects.filter(can=can, litres=0.73).exists(), "the dose out of its container")
    ran_hot(screen)
    screen.sees("Strips again")
    screen.go("Check it is safe to open")
    screen.feel()
    screen.go("Read the strips")
    screen.click("[data-testid=check-inhibitor] button", "1200")
    screen.go("Record what was found")
    screen.until(lambda: "the liners are protected" in screen.one("[data-testid=dose-verdict]").text, "the verdict")
    screen.go("Sign off")
    screen.sees("Signed off")
    kinds = list(Entry.objects.filter(loop__machine__fleet_number=MACHINE).order_by("seq").values_list("kind", flat=True))
    assert [kind for kind in kinds if kind in ("tested", "dosed", "engine_run", "signed_off")][-4:] == [
        "dosed",
        "engine_run",
        "tested",
        "signed_off",
    ]
    assert facts_of(MACHINE, "tested")["card"]["nitrite_mg_l"] == [0, 300, 800, 1200, 2400]
