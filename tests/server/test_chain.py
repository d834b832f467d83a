"""The record as a chain: what was changed, cut out or put in shows; hashes checked by a second reading of the same rule."""

import hashlib
import json
import uuid
from datetime import UTC, datetime

import pytest
from django.apps import apps
from django.db import connection
from django.utils import timezone

from jobs.chain import append, hash_of, ledger_breaks, rechain
from jobs.models import Entry, LedgerHead, Rechained
from people.models import Person
from tests.server.conftest import loop_of


def by_hand(row):
    """The hash of a row of the table as the file has it, by hashlib and json alone (FIPS 180-4, RFC 8259)."""

    def moment(text):
        return datetime.fromisoformat(text).replace(tzinfo=UTC).isoformat(timespec="microseconds")

    job = row["job_id"] and str(uuid.UUID(row["job_id"]))
    values = [str(uuid.UUID(row["id"])), row["loop_id"], job, row["seq"], row["kind"], json.loads(row["facts"])]
    values += [moment(row["happened_at"]), moment(row["recorded_at"]), row["person_id"], row["sent"], row["before"]]
    return hashlib.sha256(json.dumps(values, sort_keys=True, separators=(",", ":")).encode()).hexdigest()


def rows_of(loop):
    """Rows of a loop's record as SQLite has them."""
    names = ("id", "loop_id", "job_id", "seq", "kind", "facts", "happened_at", "recorded_at", "person_id", "sent", "before")
    with connection.cursor() as cursor:
        cursor.execute(f"SELECT {', '.join(names)} FROM jobs_entry WHERE loop_id = %s ORDER BY seq", [loop.pk])
        return [dict(zip(names, map(raw, row), strict=True)) for row in cursor.fetchall()]


def raw(value):
    return value.isoformat() if isinstance(value, datetime) else value


def said():
    return [row.said for row in ledger_breaks()]


def test_every_entry_of_the_demo_carries_the_hash_of_the_one_before_it(groomer):
    assert ledger_breaks() == []
    before = ""
    for row in rows_of(groomer):
        assert row["before"] == before
        before = by_hand(row)
    head = LedgerHead.objects.get(loop=groomer)
    assert (head.seq, head.hash) == (rows_of(groomer)[-1]["seq"], before)


@pytest.mark.parametrize(
    "change",
    [
        {"facts": {"c": 61.5}},
        {"kind": "voided"},
        {"happened_at": timezone.now()},
        {"recorded_at": timezone.now()},
        {"sent": "0" * 64},
        {"job": None},
    ],
)
def test_a_changed_entry_is_named(groomer, change):
    Entry.objects.filter(loop=groomer, seq=3).update(**change)
    assert said() == ["entry 3 was changed, or entry 4 was inserted after it"]


def test_somebody_elses_name_on_an_entry_shows(groomer):
    entry = Entry.objects.get(loop=groomer, seq=3)
    Entry.objects.filter(pk=entry.pk).update(person=Person.objects.exclude(pk=entry.person_id).first())
    assert len(said()) == 1


def test_a_missing_an_inserted_and_a_cut_off_entry_show(groomer, sled):
    last = Entry.objects.filter(loop=groomer).order_by("-seq").first()
    Entry.objects.filter(pk=last.pk).delete()
    assert said() == [f"entry {last.seq} is missing, {last.seq} was the last"]
    Entry.objects.filter(loop=groomer, seq=4).delete()
    assert "entry 4 is missing" in said()


def test_one_put_in_between_shows_even_with_its_numbers_moved_on(groomer):
    rows = list(Entry.objects.filter(loop=groomer).order_by("-seq"))
    for row in rows[:-4]:
        Entry.objects.filter(pk=row.pk).update(seq=row.seq + 1)
    before = hash_of(rows[-4])
    Entry.objects.bulk_create(
        [
            Entry(
                id=uuid.uuid4(), loop=groomer, job=rows[-4].job, seq=rows[-4].seq + 1, kind="temperature_logged",
                facts={"c": 20.0}, happened_at=rows[-4].happened_at, recorded_at=rows[-4].recorded_at,
                person=rows[-4].person, before=before,
            )
        ]
    )  # fmt: skip
    assert said()[0] == f"entry {rows[-4].seq + 1} was changed, or entry {rows[-4].seq + 2} was inserted after it"


def test_a_loop_without_entries_that_had_some_shows(groomer):
    many = groomer.entries.count()
    Entry.objects.filter(loop=groomer, job__isnull=True).delete()
    Entry.objects.filter(loop=groomer).delete()
    assert said() == [f"entries 1 to {many} are missing"]


def test_many_at_once_are_chained_like_one_by_one(groomer, ines):
    person, now = Person.objects.get(username="ines"), timezone.now()
    job = groomer.entries.filter(job__isnull=False).first().job

    def entry(n):
        return Entry(
            id=uuid.uuid4(), loop=groomer, job=job, kind="temperature_logged", facts={"c": 20.0 + n},
            happened_at=now, recorded_at=now, person=person,
        )  # fmt: skip

    first = groomer.entries.count()
    append([entry(n) for n in range(5)])
    entry(6).save()
    assert ledger_breaks() == []
    assert [row.seq for row in groomer.entries.order_by("seq")][first:] == list(range(first + 1, first + 7))


def test_recording_goes_on_where_a_head_is_lost_and_the_log_says_so(groomer, ines):
    LedgerHead.objects.filter(loop=groomer).delete()
    assert said() == ["the loop's record has no head: it was deleted"]
    ines.record(groomer, "temperature_logged", {"c": 31.0})
    assert ledger_breaks() == []
    assert Rechained.objects.get().reason == "the head was missing"


def test_a_migration_that_touches_facts_chains_again_and_says_so(groomer):
    old = LedgerHead.objects.get(loop=groomer)
    Entry.objects.filter(loop=groomer, seq=2).update(kind="temperature_logged", facts={"c": 12.0})
    rechain(apps, "temperatures by their new name")
    assert ledger_breaks() == []
    log = Rechained.objects.get()
    assert (log.reason, log.loops) == ("temperatures by their new name", 1)
    assert log.heads[str(groomer.pk)] == [old.seq, old.hash]
    rechain(apps, "nothing to do")
    assert Rechained.objects.count() == 1


def test_the_same_facts_hash_alike_whatever_their_order(groomer):
    entry = groomer.entries.order_by("seq")[1]
    before = hash_of(entry)
    entry.facts = dict(reversed(entry.facts.items()))
    assert hash_of(entry) == before
    assert loop_of("H-09").entries.count() > 0
