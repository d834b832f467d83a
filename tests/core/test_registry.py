"""One record per kind of entry: a kind that nobody has made yet folds, is validated, is told and is undone by its record."""

from dataclasses import dataclass, replace
from datetime import timedelta

import pytest

from temper_core.basis.errors import Conflict, CoreError, check_between
from temper_core.basis.message import say
from temper_core.basis.policy import Policy
from temper_core.job.drain.facts import Drained
from temper_core.job.entries import Entry, JobOpened, Voided, standing
from temper_core.job.entry_kind import EntryKind, Need, Registry, undo_alone
from temper_core.job.fact import Fact
from temper_core.job.fold import fold
from temper_core.job.job_types import JobType
from temper_core.job.kinds import REGISTRY
from temper_core.job.ledger import walk
from temper_core.job.validate import check_entry
from tests.core.test_ledger import Book, planned, weighed


@dataclass(frozen=True, slots=True)
class MagnetLooked(Fact):
    """What hangs at the drain's magnet [g]."""

    grams: float

    def __post_init__(self):
        check_between("grams", self.grams, 0, 500, "g", "Weigh it again.")


def looked(t, facts, entry):
    t.job.flags.append(say("magnet", "{grams} g at the magnet.", grams=f"{facts.grams:g}"))


def check(a, facts):
    if a.state.drained_l is None:
        raise Conflict("job", "Drain first: the magnet hangs in the drain plug.", "not_drained")


def sentence(facts):
    return say("magnet_looked", "Magnet: {grams} g", grams=f"{facts.grams:g}")


MAGNET = EntryKind("magnet_looked", MagnetLooked, looked, sentence, check, undo=undo_alone)
SCRATCH = Registry([*REGISTRY, MAGNET])


@pytest.fixture
def drained():
    """A loop whose job has been drained."""
    book = Book()
    book.add(JobOpened(JobType.REFILL), planned(), weighed(20))
    return book


def magnet(book):
    """An entry of the new kind, after all others."""
    last = book.entries[-1]
    return Entry("m", last.job_id, last.happened_at, last.happened_at, "IH", MagnetLooked(3.5), seq=99)


def attempt(book, facts, entries=None, between=False):
    """Whether it may be added."""
    return check_entry(book.loop, book.entries if entries is None else entries, facts, between=between, registry=SCRATCH)


def test_a_new_kind_folds_by_its_record(drained):
    folded = walk(drained.loop, [*drained.entries, magnet(drained)], Policy(), registry=SCRATCH)
    assert [flag.sentence for flag in folded.job.flags if flag.code == "magnet"] == ["3.5 g at the magnet."]
    state = fold(drained.loop, [*drained.entries, magnet(drained)], registry=SCRATCH)
    assert state.last_entry_id == "m"


def test_a_new_kind_is_validated_by_its_record(drained):
    attempt(drained, MagnetLooked(3.5))
    before = [entry for entry in drained.entries if not isinstance(entry.facts, Drained)]
    with pytest.raises(Conflict, match="Drain first"):
        attempt(drained, MagnetLooked(3.5), before)
    with pytest.raises(CoreError, match="500 g is allowed"):
        MagnetLooked(900)
    with pytest.raises(Conflict, match="belongs to a job"):
        attempt(drained, MagnetLooked(1), [], between=True)
    opened = replace(MAGNET, opens=lambda a, facts: Need.CAP)
    with pytest.raises(Conflict, match="This opens the loop"):
        check_entry(drained.loop, before, MagnetLooked(1), registry=Registry([*REGISTRY, opened]))


def test_a_new_kind_is_told_by_its_record():
    assert SCRATCH.sentence(MagnetLooked(3.5)).sentence == "Magnet: 3.5 g"


def test_a_new_kind_is_undone_by_its_record(drained):
    with pytest.raises(Conflict, match="other entries"):
        attempt(drained, Voided("m"), [*drained.entries, magnet(drained)])


def test_kinds_do_not_share_a_name_or_their_facts():
    with pytest.raises(ValueError, match="share"):
        Registry([MAGNET, replace(MAGNET, name="other")])
    with pytest.raises(ValueError, match="share"):
        Registry([*REGISTRY, replace(MAGNET, name="read")])
    with pytest.raises(KeyError):
        REGISTRY.of(MagnetLooked(1))


def test_entries_taken_back_do_not_stand(drained):
    first, last = drained.entries[0], drained.entries[-1]
    void = Entry("v", last.job_id, last.happened_at + timedelta(minutes=1), last.recorded_at, "Nobody", Voided(last.id))
    assert last not in standing([*drained.entries, void])
    assert first in standing([*drained.entries, void])
