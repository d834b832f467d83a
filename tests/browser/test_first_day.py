"""The first day of somebody new, from the sign-in page: fourteen tasks by what is on the screen, never by an address."""

import pytest

from demo import PASSWORD
from jobs.models import Entry

pytestmark = pytest.mark.browser


def kinds(fleet_number):
    """What stands in a machine's record, as recorded."""
    rows = Entry.objects.filter(loop__machine__fleet_number=fleet_number).order_by("seq")
    return list(rows.values_list("kind", flat=True))


def place(screen, name):
    """By the menu."""
    screen.click(".places a", name)
    screen.until(lambda: screen.driver.title.startswith(name), name)


def sign_in(screen, name):
    """At the form, by the shown name."""
    screen.open()
    screen.sees("Sign in")
    screen.type("username", name)
    screen.type("password", PASSWORD)
    screen.go("Sign in")
    screen.one(".board")


def row(screen, number):
    """A machine's row in the list, found by its number."""
    place(screen, "Machines")
    screen.type("find", number)
    screen.until(lambda: {e.text for e in screen.all(".looprow .plate")} == {number}, number)


def test_levels_top_ups_undo_and_an_edit_by_a_technician(screen):
    sign_in(screen, "Tomo Reik")
    row(screen, "P-06")  # a level check, with a top-up
    screen.click(".looprow .key", "Level check")
    screen.click(".lookpage button", "low")
    screen.type("topped", "0.3")
    screen.click(".lookpage button", "demineralised water")
    screen.click(".lookpage button", "now at the mark")
    screen.go("Check it is safe to open")
    screen.feel()
    screen.go("Record the level check")
    screen.until(lambda: kinds("P-06")[-2:] == ["level_seen", "poured"], "the level and the top-up")
    screen.until(lambda: screen.all(".undobar .key"), "ten seconds to undo")
    screen.click(".undobar .key", "Undo")
    screen.until(lambda: kinds("P-06")[-2:] == ["voided", "voided"], "both undone")
    row(screen, "W-02")  # the level seen from outside, then mended
    screen.click(".looprow .key", "Level at mark")
    screen.until(lambda: kinds("W-02")[-1] == "level_seen", "the level")
    row(screen, "W-02")
    screen.click(".looprow a", "Engine loop")
    screen.click(".loopways a", "Record")
    screen.click(".rowkey .key")
    screen.click(".editdialog .MuiToggleButton-root", "low")
    screen.click(".editdialog [data-testid=go][aria-disabled=false]", "Keep the edit")
    screen.until(lambda: kinds("W-02")[-1] == "edited", "the level edited")


def test_readings_units_colours_and_paper(screen):
    sign_in(screen, "ines")
    place(screen, "Readings")  # find a reading, and take the readings along
    screen.one(".MuiDataGrid-row")
    href = screen.one(".headtools a", "Export CSV").get_attribute("href")
    script = "const [href, done] = arguments; fetch(href).then((r) => r.text()).then((t) => done(t.split('\\n').length))"
    assert screen.driver.execute_async_script(script, href) > 20
    screen.wants("US")
    screen.until(lambda: "°F" in screen.text, "degrees Fahrenheit")
    screen.wants("Dark")
    screen.one("[data-theme=dark]")
    screen.wants("L °C")
    row(screen, "S-12")
    screen.click(".looprow a", "Engine loop")  # print
    screen.click(".loopways a", "Job sheet")
    screen.sees("for the customer", "Technician, date")
    assert screen.one("a.linkkey", "As PDF").get_attribute("href").endswith("plain=true")
    screen.click(".loopways a", "Label")
    screen.until(lambda: "Print" in screen.plate, "the label to print")
    for name in ("Instruments", "Products", "Rules", "Help", "Board"):  # the places
        place(screen, name)


def test_a_lead_adds_a_machine_and_imports_readings(screen, tmp_path):
    sign_in(screen, "Maud Stellan")
    place(screen, "Machines")
    screen.click(".headtools .key", "Machine")
    screen.type("number", "K-77")
    screen.click(".MuiToggleButton-root", "Like another")
    screen.type("like", "W-02")
    screen.click(".starts .opt", "Like W-02")
    screen.go("Take in K-77")
    screen.sees("What is the job?")
    place(screen, "Readings")
    screen.click(".headtools button", "Import")
    screen.sees("Import readings from a file", "Choose a file")
    path = tmp_path / "readings.csv"
    path.write_text("nonsense\n1\n")
    screen.one(".importsheet")
    screen.driver.find_element("css selector", "input[type=file]").send_keys(str(path))
    screen.sees("Which columns are these?", "Match the columns")
    screen.click(".headtools button", "Readings")
    screen.one(".MuiDataGrid-row")
