"""A new machine, from a layout to a drawn circuit."""

import pytest

from fleet.models import Machine

pytestmark = pytest.mark.browser


def test_a_new_machine_from_a_layout_to_a_drawn_circuit(screen):
    screen.sign_in("maud")
    screen.click(".places a", "Machines")
    screen.click(".headtools .key", "Machine")
    screen.until(lambda: "Which number or plate?" in screen.plate, "what is missing")
    screen.type("number", "G-07")
    screen.click(".MuiToggleButton-root", "By its build")
    screen.type("kind", "Piste groomer")
    screen.click(".starts .opt", "Two banks")
    screen.sees("two thermostats, one radiator, no block drain")
    screen.click(".capacityfrom button", "manual")
    screen.until(lambda: "How many litres" in screen.plate, "the capacity to be asked for")
    screen.type("capacity", "28,5")
    screen.until(lambda: "6.7 of 6.7 L" in screen.one(".drawing").text, "the circuit for 28.5 l")
    screen.click(".opt.small", "aluminium")
    screen.click(".highvoltage button", "No")
    screen.sees("G-07 is here already")
    screen.go("Take in G-07")
    screen.sees("G-07 is in use already")
    screen.type("number", "G-11")
    screen.go("Take in G-11")
    screen.sees("What is the job?")
    screen.click(".looprow .at")
    screen.until(lambda: "Left bank" in screen.one(".drawing").text, "the drawn circuit")
    assert Machine.objects.get(fleet_number="G-11").loops.get().materials == ["aluminium"]


def test_like_a_sister_machine(screen):
    screen.sign_in("maud")
    screen.open("/machines/new")
    screen.type("number", "S-14")
    screen.click(".MuiToggleButton-root", "Like another")
    assert len(screen.all(".starts .opt")) <= 6
    screen.type("like", "s12")
    screen.click(".starts .opt", "Like S-12")
    screen.go("Take in S-14")
    screen.sees("What is the job?")
    assert Machine.objects.get(fleet_number="S-14").loops.count() == 2


def test_a_technician_takes_a_car_in_and_a_lead_looks_it_over(screen):
    """Number, kind, litres not known, high voltage: six presses and one field; then the job is chosen."""
    screen.sign_in("tomo")
    screen.open("/machines")
    screen.click(".headtools a.key", "Machine")
    screen.type("number", "AB 12 CDE")
    screen.click(".kinds .opt", "Small car")
    screen.click(".capacityfrom button", "Not known")
    screen.sees("anything from 4.5 L to 6.5 L")
    screen.click(".highvoltage button", "Not known")
    screen.sees("Not known counts as yes")
    screen.go("Take in AB 12 CDE")
    screen.sees("What is the job?", "not checked by a lead", "about 5.5 L, not known")
    assert Machine.objects.get(fleet_number="AB 12 CDE").unchecked
    screen.sign_in("maud")
    screen.open("/plan?view=attention")
    screen.click("[data-testid=matter] .key", "Checked")
    screen.until(lambda: "AB 12 CDE" not in screen.text, "the matter to be gone")
    assert not Machine.objects.get(fleet_number="AB 12 CDE").unchecked
