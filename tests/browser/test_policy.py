"""The policy page: read by all, changed by a lead with a reason, and the worksheet follows."""

import pytest

from depots.models import PolicyChange

pytestmark = pytest.mark.browser


def test_a_lead_sets_a_margin_and_the_target_follows(screen):
    screen.sign_in("maud")
    screen.click(".places a", "Rules")
    screen.sees("Margin below the coldest expected", "common practice, no source")
    screen.click("[aria-label^='Edit: Margin']")
    screen.type("rule-value", "1,250")
    screen.sees("1.250 or 1250")
    screen.type("rule-value", "40")
    screen.sees("40 °C is not possible.", "Allowed: 0 to 30 °C.")
    screen.until(lambda: "Fix the value" in screen.plate, "the plate to wait")
    screen.type("rule-value", "6,5")
    screen.until(lambda: "Say why" in screen.plate, "the plate to ask why")
    screen.type("rule-reason", "the pass has its own weather")
    screen.go("Set 6.5 °C")
    screen.sees("shipped: 5 °C", "Set to 6.5 by Maud Stellan", "the pass has its own weather")
    assert PolicyChange.objects.get().value == 6.5
    screen.bench("G-07")
    screen.until(lambda: screen.value("target") == "−45", "a colder target: -38 less 6.5, in whole degrees")


def test_a_technician_reads_and_changes_nothing(screen):
    screen.sign_in("tomo")
    screen.open("/rules")
    screen.sees("a lead changes these", "Mixing bucket holds")
    assert not screen.all(".rulerow .key")
    screen.click(".places a", "Board")
    screen.one(".bstrip")
