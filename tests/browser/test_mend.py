"""What was recorded wrong is mended: an entry three back, what was recorded a moment ago, a level check of today."""

import pytest

from jobs.models import Entry

pytestmark = pytest.mark.browser


def kinds(fleet_number):
    """What stands in a machine's record, in order."""
    rows = Entry.objects.filter(loop__machine__fleet_number=fleet_number).order_by("seq")
    return list(rows.values_list("kind", flat=True))


def edit(screen, said):
    """Open an entry of the record."""
    screen.click("tr:not(.struck) .rowkey .key[aria-label*='" + said + "']")
    screen.one(".editdialog")


def test_a_figure_three_entries_back_is_edited_and_what_follows_is_shown_first(screen):
    screen.sign_in()
    screen.bench("G-07")
    screen.until(lambda: abs(screen.figure("concentrate") - 17.7) < 0.11, "17.7 l of concentrate")
    screen.click(".shelf a", "Whole record")
    screen.click(".rowkey .key[aria-label*='weighed']")
    screen.sees("As it was", "Drained in total")
    screen.until(lambda: "Change a figure" in screen.plate, "the plate to wait")
    screen.driver.execute_script("document.querySelector('.editdialog input').focus()")
    field = screen.one(".editdialog input[name='edit-drained_l']")
    field.send_keys("\ue009a\ue000" + "22,0")
    screen.sees("New: 22.0 L out, weighed", "What follows from it", "Still inside", "10.0 L")
    screen.click(".editdialog [data-testid=go][aria-disabled=false]", "Keep the edit")
    screen.sees("Edited: 22.0 L out, weighed")
    assert any("24.5 L out" in row.text for row in screen.all("tr.struck"))
    assert kinds("G-07")[-2:] == ["drained", "edited"]
    screen.click(".undobar .key", "Undo")
    screen.until(lambda: "Edited: 22.0" not in screen.one("tbody").text or screen.all("tr.struck"), "the edit undone")
    screen.until(lambda: kinds("G-07")[-1] == "voided", "the edit taken back")
    screen.bench("G-07")
    screen.until(lambda: abs(screen.figure("concentrate") - 17.7) < 0.11, "17.7 l again")


def test_what_can_no_longer_follow_is_asked_about_and_an_impossible_figure_is_refused(screen):
    screen.sign_in()
    screen.open(screen.loop_page("G-07", "/record"))
    screen.one(".rowkey .key")
    screen.all(".rowkey .key[aria-label*='weighed']")[-1].click()
    screen.one("[name='edit-drained_l']").send_keys("\ue009a\ue000" + "70")
    screen.sees("Not possible.", "Check the litres")
    screen.click(".editacts .key", "Undo this entry")
    screen.sees("Can no longer follow", "Undo it too")
    screen.until(lambda: "Stays, or undone?" in screen.plate, "the plate to ask")
    before = kinds("G-07")
    for _ in range(12):
        undecided = [row for row in screen.all(".cannot") if not row.find_elements("css selector", "[aria-pressed=true]")]
        if not undecided:
            break
        undecided[0].find_elements("css selector", "button")[0].click()  # it stays
        screen.one(".editdialog [data-testid=go]")
    screen.click(".editdialog [data-testid=go][aria-disabled=false]", "Undo the entry")
    screen.until(lambda: screen.all(".editdialog") == [], "the dialog to close")
    assert kinds("G-07") == [*before, "voided"]  # what can no longer follow stays, as it was answered
    screen.bench("G-07")


def test_ten_seconds_to_undo_on_whatever_page_is_open(screen):
    screen.sign_in()
    screen.bench("R-02")
    screen.click(".choice", "Old Guard S")
    screen.go("Choose Old Guard S")
    screen.click(".undobar .key", "Undo")
    screen.until(lambda: kinds("R-02")[-1] == "voided", "undone")
    screen.sees("Choose")
    screen.until(lambda: screen.all(".undobar") == [], "the offer gone")


def test_a_level_check_is_undone_and_edited_the_same_day(screen):
    screen.sign_in()
    screen.open(screen.loop_page("W-02", "/check"))
    screen.click(".lookpage button", "low")
    screen.go("Record the level check")
    screen.one(".bstrip")
    screen.click(".undobar .key", "Undo")
    screen.until(lambda: kinds("W-02")[-1] == "voided", "undone from the board")
    screen.open(screen.loop_page("W-02", "/check"))
    screen.click(".lookpage button", "low")
    screen.go("Record the level check")
    screen.one(".bstrip")
    screen.open(screen.loop_page("W-02", "/record"))
    edit(screen, "low")
    screen.click(".editdialog .MuiToggleButton-root", "at mark")
    screen.click(".editdialog [data-testid=go][aria-disabled=false]", "Keep the edit")
    screen.until(lambda: kinds("W-02")[-2:] == ["level_seen", "edited"], "the check edited")


def test_a_signed_job_has_no_key_to_edit(screen):
    screen.sign_in("maud")
    screen.open(screen.loop_page("S-12", "/record"))
    screen.one(".ledger")
    assert screen.all(".rowkey .key") == []
