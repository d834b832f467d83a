"""The shelf and the litre account in the real interface: a can scanned at the pour, a lot traced, a leak made good found."""

import uuid
from datetime import timedelta

import pytest
from django.utils import timezone
from selenium.webdriver.support.ui import Select
from shelf.actions import keep_can
from shelf.models import Can, Draw, Handover
from shelf.schemas import CanIn

from jobs.actions import record_entries
from jobs.entry_schemas import EntriesIn
from jobs.models import Entry
from people.models import Person
from tests.browser.test_fill import at_fill
from tests.server.conftest import loop_of

pytestmark = pytest.mark.browser


def can_of(number):
    """A container of the demo."""
    return Can.objects.get(number=number)


def test_a_can_is_scanned_at_the_pour_and_its_lot_is_traced(screen):
    can = can_of("C-002")
    at_fill(screen)
    screen.close_up()
    screen.one("[data-testid=out-of]")
    screen.scan(f"https://temper.example/shelf/{can.pk}")
    picked = "return document.querySelector('[name=out-of]').value"
    screen.until(lambda: screen.driver.execute_script(picked) == str(can.pk), "the can to be picked")
    screen.type("product", "18.1")
    screen.type("water", "6.7")
    screen.demineralised()
    screen.click("[role=checkbox]", "cold mark")
    screen.go("Record 18.1 L + 6.7 L poured")
    screen.until(lambda: Draw.objects.filter(can=can).exists(), "the pour to take from the can")
    facts = Entry.objects.filter(kind="poured", loop__machine__fleet_number="G-07").latest("seq").facts
    assert facts["taken"][0]["can"]["lot"] == can.lot
    screen.open("/shelf")
    screen.sees("C-002", "1.9 L of 20.0 L")
    screen.type("find-can", can.lot)
    lot = screen.one("[data-testid=lot]")
    assert "G-07" in lot.text
    assert "18.1 L" in lot.text


def test_what_is_short_is_said_before_anything_is_opened_and_counted_by_hand(screen):
    can = can_of("C-004")
    screen.sign_in()
    screen.open(f"/shelf/{can.pk}")
    screen.type("count", "5")
    screen.go("Record 5.0 L in it")
    screen.until(lambda: "5.0 L of" in screen.one("[data-testid=can-left]").text, "the count")
    screen.bench("R-02")
    screen.click(".choice", "Longhaul N")
    supplies = screen.one("[data-testid=supplies]").text
    assert "Not enough on the shelf: Longhaul N" in supplies
    assert "5.0 L here" in supplies


def test_a_container_is_put_on_the_shelf_once_however_often_it_is_pressed(screen):
    before = Can.objects.count()
    screen.sign_in()
    screen.open("/shelf")
    screen.click(".headtools .key", "Container")
    Select(screen.one("select[name=held]")).select_by_visible_text("Winterline O")
    screen.type("lot", "WO 2612-001")
    screen.type("size", "5")
    screen.go("Put it on the shelf")
    screen.sees("WO 2612-001")
    assert Can.objects.count() == before + 1
    screen.driver.refresh()
    screen.sees("WO 2612-001")


def test_a_leak_made_good_with_mix_is_found_at_the_level_check(screen):
    loop = loop_of("P-06")
    ines, product = Person.objects.get(username="ines"), loop.machine.depot.products.get(name="Winterline O")
    signs = {
        "warmth": "hand",
        "held": True,
        "pressure": "hose",
        "soft": True,
        "isolated_by_id": Person.objects.get(username="tomo").pk,
        "ready": ["glasses", "isolated", "preheater_off"],
    }
    pour = {"product_id": product.id, "mixture_l": 0.6, "product_share": 0.5, "water": "demineralised", "at_mark": True}
    for week in (4, 3, 2):
        at = timezone.now() - timedelta(weeks=week)
        rows = [("gate_observed", signs), ("level_seen", {"level": "low"}), ("poured", pour)]
        entries = [
            {"id": str(uuid.uuid4()), "kind": kind, "facts": facts, "happened_at": (at + timedelta(minutes=n)).isoformat()}
            for n, (kind, facts) in enumerate(rows)
        ]
        record_entries(loop, EntriesIn.model_validate({"entries": entries, "between": True, "apart": True}), actor=ines)
    screen.sign_in()
    screen.open(f"/loops/{loop.pk}/check")
    assert "Leak suspected" in screen.one("[data-testid=due]").text
    screen.click(".lookpage button", "only when hot")
    screen.click(".lookpage button", "low")
    screen.type("missingMm", "12")
    screen.go("Check it is safe")
    screen.feel()
    screen.go("Record the level check")
    screen.until(
        lambda: Entry.objects.filter(loop=loop, kind="level_seen").latest("seq").facts["missing_mm"] == 12, "the level"
    )
    screen.open(f"/loops/{loop.pk}/history")
    loss = screen.one("[data-testid=loss]").text
    assert "Leak suspected" in loss
    screen.open("/")
    screen.sees("Leak suspected")


def test_waste_is_handed_over_with_its_paper_and_stands_in_the_register(screen):
    screen.sign_in()
    screen.open("/shelf/waste")
    screen.click("[role=checkbox]", "old coolant")
    screen.one("[data-testid=go]", "Who takes it?")
    screen.type("taken-by", "Fjordline Waste")
    screen.type("paper", "W-3311")
    screen.go("handed over")
    screen.until(lambda: screen.all("[data-testid=handover]"), "the handover")
    assert "paper W-3311" in screen.one("[data-testid=handover]").text
    screen.driver.refresh()
    assert "Fjordline Waste" in screen.one("[data-testid=handover]").text
    assert Handover.objects.count() == 1


def test_recovered_coolant_is_poured_back_with_its_own_strength(screen):
    loop = loop_of("G-07")
    depot = loop.machine.depot
    given = {"id": str(uuid.uuid4()), "kind": "recovered", "product_id": depot.products.get(name="Winterline O").pk}
    given |= {"size_l": 12, "strength_percent": 52.0, "since": "2025-10-01", "loop_id": loop.pk}
    can = keep_can(CanIn.model_validate(given), None, actor=Person.objects.get(username="ines"))
    at_fill(screen)
    screen.close_up()
    Select(screen.one("[name=out-of]")).select_by_value(str(can.pk))
    screen.type("product", "8")
    screen.type("water", "0")
    screen.go("Record 8.0 L poured")
    screen.until(lambda: Draw.objects.filter(can=can).exists(), "the pour to take from it")
    facts = Entry.objects.filter(kind="poured", loop=loop).latest("seq").facts
    assert facts["product"]["form"] == "ready_mix"
    screen.sees("recovered")
