"""A new machine, from a layout to a drawn circuit."""

import pytest

from fleet.models import Machine

pytestmark = pytest.mark.browser


def test_a_new_machine_from_a_layout_to_a_drawn_circuit(screen):
    screen.sign_in("maud")
    screen.click(".places a", "Machines")
    screen.click(".headtools .key", "Machine")
    screen.until(lambda: "Give it a number and a kind" in screen.plate, "what is missing")
    screen.type("number", "G-07")
    screen.type("kind", "Piste groomer")
    screen.click(".starts .opt", "Two banks")
    screen.sees("two thermostats, one radiator, no block drain")
    screen.until(lambda: "How many litres" in screen.plate, "the capacity to be asked for")
    screen.type("capacity", "28,5")
    screen.until(lambda: "6.7 of 6.7 L" in screen.one(".drawing").text, "the circuit for 28.5 l")
    screen.click(".opt.small", "aluminium")
    screen.go("Add G-07")
    screen.sees("G-07 is in use already")
    screen.type("number", "G-11")
    screen.go("Add G-11")
    screen.one(".bench")
    screen.until(lambda: "Left bank" in screen.one(".circuit").text, "the drawn circuit")
    assert Machine.objects.get(fleet_number="G-11").loops.get().materials == ["aluminium"]


def test_like_a_sister_machine(screen):
    screen.sign_in("maud")
    screen.open("/machines/new")
    screen.type("number", "S-14")
    screen.type("kind", "Shuttle, hybrid")
    screen.click(".starts .opt", "Like S-12")
    screen.go("Add S-14")
    screen.one(".bench")
    screen.until(lambda: "Degas tank" in screen.one(".circuit").text, "the sister's circuit")
    assert Machine.objects.get(fleet_number="S-14").loops.count() == 2


def test_a_technician_is_told_who_adds_machines(screen):
    screen.sign_in("tomo")
    screen.open("/machines")
    screen.one(".looprow")
    assert not [e for e in screen.all(".headtools a.key") if "Machine" in e.text]
    screen.open("/machines/new")
    screen.until(lambda: "A lead adds machines" in screen.plate, "who does")
