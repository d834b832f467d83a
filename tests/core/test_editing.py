"""An entry three back is edited: what follows from it, what can no longer follow, and what an edit may not do."""

from dataclasses import replace
from datetime import timedelta

import pytest

from temper_core.basis.errors import Conflict, CoreError
from temper_core.basis.policy import Policy
from temper_core.job.drain.facts import Drained
from temper_core.job.editing.follows import what_follows
from temper_core.job.editing.form import edit_form
from temper_core.job.editing.outcome import edit_of, editable
from temper_core.job.entries import Edited, Entry, JobOpened, Voided, facts_now, standing
from temper_core.job.fold import fold
from temper_core.job.job_types import JobType
from temper_core.job.kinds import REGISTRY
from temper_core.job.open.facts import GateObserved, Pressure, Ready, Warmth
from temper_core.job.opening import opened_since_it_ran
from temper_core.job.read.facts import Place, Read
from temper_core.job.validate import check_entry
from temper_core.job.verify.facts import SignedOff
from tests.core.test_ledger import GLASS, HOT, RINSE, START, Book, a_loop, at_mix, filled, planned, pour, weighed, with_gate

NOW = START + timedelta(hours=5)


def numbered(book):
    """The entries as a server stores them: each with its number, the safe-to-open check before what opens the loop."""
    rows = []
    for entry in book.entries:
        before = with_gate([], entry.facts, entry.job_id, entry.happened_at)
        rows += [replace(gate, id=f"{gate.id} {entry.id}") for gate in before] + [entry]
    return [replace(entry, seq=n + 1, person_id="1") for n, entry in enumerate(rows)]


def of_kind(entries, kind, n=0):
    """The id of the nth entry of a kind."""
    return [entry.id for entry in entries if isinstance(entry.facts, kind)][n]


def edited(book, entry_id, facts, **more):
    """The outcome of an edit."""
    return edit_of(book.loop, numbered(book), entry_id, facts, Policy(), NOW, person_id="1", **more)


def kept(entries, entry_id, facts, n=1):
    """A record with an edit of one entry kept."""
    last = entries[-1]
    at = last.happened_at + timedelta(minutes=n)
    by = Entry(f"by{n}", last.job_id, at, at, "IH", facts, "1", last.seq + 1)
    mark = Entry(f"mark{n}", last.job_id, at, at, "IH", Edited(entry_id, by.id), "1", last.seq + 2)
    return [*entries, by, mark]


def test_an_edited_drain_gives_what_a_drain_recorded_so_would_have_given():
    """The edit of one drain and a record that had it right from the start fold to the same litres."""
    book, right = at_mix(0), Book()
    right.add(JobOpened(JobType.CHANGE_TYPE), Read(-19.0, Place.AS_FOUND), planned(), weighed(21.5))
    first = of_kind(book.entries, Drained)
    after = edited(book, first, weighed(21.5)).after
    assert after.inside.litres == pytest.approx(right.state.inside.litres)
    assert after.inside.litres == pytest.approx(32 - 21.5, abs=0.02)
    stored = fold(book.loop, kept(numbered(book), first, weighed(21.5)))
    assert stored.inside.litres == pytest.approx(after.inside.litres)


def test_the_edited_entry_keeps_its_id_time_and_place():
    book = at_mix(1)
    entries = numbered(book)
    first = of_kind(entries, Drained)
    rows = standing(kept(entries, first, weighed(20.0)))
    assert [row.id for row in rows] == [row.id for row in standing(entries)]
    changed = next(row for row in rows if row.id == first)
    assert changed.facts == weighed(20.0)
    assert changed.happened_at == next(row for row in entries if row.id == first).happened_at


def test_an_edit_of_an_edit_counts_and_each_can_be_taken_back():
    entries = numbered(at_mix(0))
    first = of_kind(entries, Drained)
    twice = kept(kept(entries, first, weighed(20.0)), first, weighed(22.0), 2)
    assert facts_now(twice)[first] == weighed(22.0)

    def void(of, n):
        last = twice[-1]
        return Entry(f"v{n}", last.job_id, last.happened_at, last.happened_at, "IH", Voided(of), "1", last.seq + n)

    back_once = [*twice, void("mark2", 1)]
    assert facts_now(back_once)[first] == weighed(20.0)
    back = [*back_once, void("mark1", 2)]
    assert first not in facts_now(back)
    assert [row.facts for row in standing(back)] == [row.facts for row in standing(entries)]


def test_what_can_no_longer_follow_is_named_and_stays_until_it_is_undone():
    book = at_mix(1)
    first = of_kind(book.entries, Drained)
    outcome = edited(book, first, None)
    assert outcome.cannot_follow
    named = {row.entry_id for row in outcome.cannot_follow}
    assert all(row.why and row.said.sentence for row in outcome.cannot_follow)
    assert named <= {entry.id for entry in book.entries}
    everything = edited(book, first, None, undone=sorted(named))
    assert {row.entry_id for row in everything.cannot_follow}.isdisjoint(named)


def test_what_follows_is_told_in_figures_that_differ_and_no_others():
    book = filled()
    first = of_kind(book.entries, Drained, 2)
    outcome = edited(book, first, weighed(23.0))
    names = {row.name for row in what_follows(outcome.before, outcome.after)}
    assert "Old coolant left" in names
    assert "Poured, product" not in names
    assert what_follows(outcome.before, outcome.before) == ()


def test_an_edit_cannot_undo_that_a_loop_ran_hot():
    book = filled()
    book.bare(HOT)
    assert book.state.ran_hot
    ran = of_kind(book.entries, type(HOT), -1)
    with pytest.raises(Conflict, match="ran hot"):
        edited(book, ran, None)


def test_an_edit_cannot_make_it_safe_to_open_and_nobody_edits_anothers_check():
    book = Book()
    book.add(JobOpened(JobType.REFILL), planned())
    hot = GateObserved(Warmth.PROBE, Pressure.HOSE, temperature_c=62.0, soft=True, ready=tuple(Ready), isolated_by="IH")
    book.bare(hot)
    entry = of_kind(book.entries, GateObserved)
    with pytest.raises(Conflict, match="cannot make the loop safe to open"):
        edited(book, entry, replace(hot, temperature_c=31.0))
    assert edited(book, entry, replace(hot, temperature_c=58.0)).after.gate.open is False
    with pytest.raises(Conflict, match="Somebody else made that check"):
        edit_of(book.loop, numbered(book), entry, replace(hot, temperature_c=58.0), Policy(), NOW, person_id="2")


def test_an_entry_stays_of_its_kind_and_its_new_figures_have_to_be_possible_there():
    book = at_mix(0)
    first = of_kind(book.entries, Drained)
    with pytest.raises(CoreError, match="stays of its kind"):
        edited(book, first, planned())
    with pytest.raises(CoreError, match="40.0 L is more than"):
        edited(book, first, weighed(40.0))


def test_what_was_signed_is_closed_and_a_job_has_no_figures():
    book = filled()
    entries = numbered(book)
    last = entries[-1]
    signed = Entry("s", last.job_id, last.happened_at, last.happened_at, "IH", SignedOff("unread", "no time"), "1", 99)
    with pytest.raises(Conflict, match="signed job"):
        edit_of(book.loop, [*entries, signed], of_kind(entries, Drained), weighed(20.0), Policy(), NOW, person_id="1")
    with pytest.raises(Conflict, match="no figures"):
        edited(book, of_kind(entries, JobOpened), None)
    assert editable([*entries, signed], NOW) == frozenset()


def test_a_check_between_services_is_edited_on_its_own_day_only():
    loop = a_loop()
    reading = Read(-30.0, Place.AS_FOUND, GLASS, -0.4, 20.0)
    entry = Entry("r", None, START, START, "IH", reading, "1", 1)
    assert editable([entry], START + timedelta(hours=9)) == {"r"}
    after = edit_of(loop, [entry], "r", replace(reading, value=-32.0), Policy(), START + timedelta(hours=9), person_id="1")
    assert after.after.claim.freeze_c != after.before.claim.freeze_c
    with pytest.raises(Conflict, match="on the day it was made"):
        edit_of(loop, [entry], "r", replace(reading, value=-32.0), Policy(), START + timedelta(days=1), person_id="1")


def test_every_field_of_a_form_has_a_name_and_leads_to_its_value():
    """Every kind that the ledgers of these tests hold: no field without a name, none twice, each path to its value."""
    rows = [entry.facts for book in (filled(), at_mix(2)) for entry in book.entries if edit_form(entry.facts, book.loop)]
    assert len({type(row) for row in rows}) >= 6
    for facts in rows:
        form = edit_form(facts, a_loop())
        assert len({field.path for field in form}) == len(form)
        assert all(field.name.strip() for field in form)


@pytest.mark.parametrize("kind", list(REGISTRY), ids=lambda kind: kind.name)
def test_no_kind_of_entry_has_a_field_without_a_name(kind):
    """Built from its types alone: every leaf that is typed is named."""
    from temper_core.job.editing.form import unnamed

    assert unnamed(kind.facts) == ()


def test_a_pour_is_a_form_with_units():
    form = {field.path: field for field in edit_form(pour(None, 0.0, 3.5), a_loop())}
    assert (form["water_l"].kind, form["water_l"].value) == ("volume", 3.5)
    assert [option.key for option in form["water"].options] == ["demineralised", "tap"]
    assert form["at_mark"].kind == "flag"


def test_an_edit_made_after_a_hot_run_opens_nothing():
    """A drain typed differently after the engine ran is no drain since it ran: the check is asked for as before."""
    book = Book()
    book.add(JobOpened(JobType.CHANGE_TYPE), Read(-19.0, Place.AS_FOUND), planned())
    book.drain_and_rinse(24.5, 0, end=False).add(RINSE, HOT)
    entries = numbered(book)
    assert not opened_since_it_ran(entries, fold(book.loop, entries))
    after = kept(entries, of_kind(entries, Drained), weighed(20.0))
    assert not opened_since_it_ran(after, fold(book.loop, after))
    assert fold(book.loop, after).gate.open is False
    with pytest.raises(Conflict):
        check_entry(book.loop, after, weighed(20.0), now=NOW, person_id="1")
