"""A person's kit at work: records that go on being written here, pages and refusals as the server would give them.

No Django and no clock in here: the time is given with every request. What is recorded stands as a row at the end of its
loop's record, as it will once it is sent.
"""

from __future__ import annotations

import uuid
from datetime import UTC, datetime, timedelta
from uuid import UUID

from bay.kit import Kit, KitLoop
from bay.rows import KitRows
from config.refusals import NotAllowed, NotFound
from fleet.schemas import MachineDetail
from jobs.entry_facts import facts_of
from jobs.entry_schemas import EntriesIn, EntryBase
from jobs.pages import LoopRecord
from jobs.rules import check_follows, check_may, check_seen, check_time, happened, is_between, with_isolator
from jobs.schemas import JobIn
from jobs.stored import FACTS, Stored, cores_of_stored
from people.shown import PersonOut
from temper_core.basis.errors import Conflict, CoreError, under
from temper_core.basis.policy import Policy
from temper_core.job.apart.facts import SetAside
from temper_core.job.entries import Acknowledged, Entry, JobOpened
from temper_core.job.fact import Fact
from temper_core.job.fold import fold
from temper_core.job.kinds import REGISTRY
from temper_core.job.loop_state import LoopState
from temper_core.job.validate import check_entry
from temper_core.job.verify.facts import SignedOff

NOT_HERE = "This loop is not in this tablet's kit. Take it along while there is a network, or wait for one."
KIT_OLDER = "This page knows more than this tablet's kit. Reload it: it then shows the loop as the kit has it."
TOO_OLD = "{h:.0f} hours without contact: what is recorded here is kept, nothing new is judged. Find a network first."


class LoopAtWork:
    """One loop as it stands on this tablet: what the kit brought, and what was recorded since."""

    def __init__(self, kept: KitLoop) -> None:
        self.kept, self.loop = kept, kept.core
        self.rows: list[Stored] = [row.stored for row in kept.rows]
        self.listed: list[Stored] = [row.stored for row in kept.listed]
        self.opener, self.job_opened_at = kept.opener, kept.job_opened_at
        self.drafts = {row.stage: row for row in kept.drafts}

    @property
    def last_seq(self) -> int:
        """The number of its last entry."""
        return max((row.seq for row in (*self.rows, *self.listed)), default=0)

    @property
    def job_id(self) -> UUID | None:
        """Its job in work."""
        opened = [row for row in self.rows if row.kind == "job_opened" and self.opener is not None]
        return max(opened, key=lambda row: row.seq).job_id if opened else None


class Work:
    """A kit at work."""

    def __init__(self, kit: Kit) -> None:
        self.kit = kit
        self.me: PersonOut = kit.person
        self.policy = Policy(kit.depot.rules)
        self.rows = KitRows(kit.depot)
        self.people = {row.id: row for row in kit.people}
        self.loops = {row.id: LoopAtWork(row) for row in kit.loops}
        self.taken_in: dict[int, MachineDetail] = {}  # here, since the kit was made

    def loop(self, loop_id: int) -> LoopAtWork:
        """A loop of the kit; raises Conflict for one that was not taken along."""
        found = self.loops.get(loop_id)
        if found is None:
            raise Conflict("loop", NOT_HERE, "not_in_kit")
        return found

    def too_old(self, at: datetime) -> bool:
        """Whether nothing new is judged at this time: too long without contact."""
        return at - self.kit.made_at > timedelta(hours=self.kit.no_judging_after_h)

    def record(self, at: LoopAtWork, now: datetime, listed: bool = False) -> LoopRecord:
        """The loop's record as pages need it; listed: with readings imported from a list, which act on nothing."""
        return LoopRecord(
            loop=at.loop,
            machine=at.kept.machine,
            shown=at.kept.shown,
            rows=sorted([*at.rows, *at.listed], key=lambda row: (row.happened_at, row.seq)) if listed else at.rows,
            people=self.people,
            opener=at.opener,
            drafts=sorted(at.drafts.values(), key=lambda row: row.stage),
            in_doubt=at.kept.in_doubt,
            policy=self.policy,
            now=now,
        )

    def open_job(self, given: JobIn, now: datetime) -> None:
        """Open a job on loops of one machine; all or none."""
        made: list[tuple[LoopAtWork, Stored]] = []
        opened_at = happened(given.opened_at, now).astimezone(UTC)
        for wanted in given.loops:
            at = self.loop(wanted.loop_id)
            if at.kept.machine.id != given.machine_id:
                raise NotFound
            facts = JobOpened(wanted.job_type)
            known = uuid.uuid5(given.id, str(wanted.loop_id))
            if any(row.id == known for row in at.rows):
                continue
            check_follows(at.loop, at.rows, facts, self.policy, opened_at.astimezone(now.tzinfo), self.me)
            made.append((at, self._row(at, known, given.id, facts, opened_at, now)))
        for at, row in made:
            at.rows.append(row)
            at.opener, at.job_opened_at = self.me.id, opened_at

    def add(self, loop_id: int, given: EntriesIn, now: datetime) -> None:
        """Add entries to a loop's record, all or none, by the rules of the server; the same id twice is stored once."""
        at = self.loop(loop_id)
        before, opener, opened_at = list(at.rows), at.opener, at.job_opened_at
        known = {row.id: row for row in at.rows}
        if any(row.id not in known for row in given.entries):
            if given.seen is not None and given.seen not in known:
                raise Conflict("seen", KIT_OLDER, "kit_older")
            check_seen(at.rows, given.seen)
        try:
            for row in given.entries:
                if row.id not in known:
                    self._add(at, row, given.between or self._takes_back_between(at, row), now)
            self._digested(at, now)
        except Exception:
            at.rows, at.opener, at.job_opened_at = before, opener, opened_at
            raise

    def _takes_back_between(self, at: LoopAtWork, given: EntryBase) -> bool:
        about = given.facts.entry_id if given.kind == "voided" else None
        return is_between(given.kind, about, {row.id: row for row in at.rows})

    def _add(self, at: LoopAtWork, given: EntryBase, between: bool, now: datetime) -> None:
        happened_at = happened(given.happened_at, now).astimezone(UTC)
        then = happened_at.astimezone(now.tzinfo)
        with under("facts"):
            facts = with_isolator(facts_of(given, self.rows), self.people.get, then)
            self._check_age(facts, happened_at)
            state = check_follows(at.loop, at.rows, facts, self.policy, then, self.me, between)
            check_may(facts, at.rows, self.me)
        job_id = None if between else at.job_id
        if isinstance(facts, SetAside):
            at.rows.append(self._row(at, given.id, job_id, facts, happened_at, now))
            return
        if isinstance(facts, Acknowledged):
            job_id = next(row.job_id for row in at.rows if str(row.id) == facts.entry_id)
        check_time(facts, happened_at, state, None if between else at.job_opened_at)
        at.rows.append(self._row(at, given.id, job_id, facts, happened_at, now))
        for stage in REGISTRY.of(facts).stages:
            at.drafts.pop(stage.value, None)
        if isinstance(facts, SignedOff):
            at.opener = at.job_opened_at = None

    def _check_age(self, facts: Fact, at: datetime) -> None:
        """What judges nothing is recorded however old the kit is; no verdict is given by rules that may have changed."""
        if isinstance(facts, SignedOff) and self.too_old(at):
            raise NotAllowed(TOO_OLD.format(h=self.kit.no_judging_after_h))

    def _row(
        self, at: LoopAtWork, pk: UUID, job_id: UUID | None, facts: Fact, happened_at: datetime, now: datetime
    ) -> Stored:
        kind = REGISTRY.of(facts).name
        text = FACTS[kind].dump_json(facts).decode()
        return Stored(pk, job_id, happened_at, now.astimezone(UTC), self.me.id, at.last_seq + 1, kind, text, self.me.name)

    def _digested(self, at: LoopAtWork, now: datetime) -> None:
        try:
            fold(at.loop, cores_of_stored(at.rows), self.policy, now)
        except Exception as error:
            if at.rows[-1].kind == "voided":
                return
            message = "This entry does not fit the record. Check its figures and times."
            raise CoreError("facts", message, "not_digested") from error

    def preview(self, loop_id: int, given: EntriesIn, now: datetime) -> LoopState:
        """The state as it would be with these entries; nothing is kept. Refuses what recording would refuse."""
        at = self.loop(loop_id)
        core, last = cores_of_stored(at.rows), at.last_seq
        for offset, row in enumerate(given.entries):
            with under("facts"):
                facts = with_isolator(facts_of(row, self.rows), self.people.get, now)
                state = check_entry(at.loop, core, facts, self.policy, now, str(self.me.id), between=given.between)
            when = now.astimezone(UTC) + timedelta(microseconds=offset)
            job_id = None if given.between else state.job_id
            core.append(Entry(str(row.id), job_id, when, when, self.me.name, facts, str(self.me.id), last + offset + 1))
        return fold(at.loop, core, self.policy, now)
