"""Writes about instruments; each in one transaction, the actor required."""

from __future__ import annotations

from django.db import transaction
from django.utils import timezone

from instruments.models import Instrument, Reading, ZeroCheck
from instruments.shapes import ZeroIn
from jobs.models import Entry
from people.models import Person
from temper_core.entries import Place, Read
from temper_core.errors import check_between
from temper_core.judge.zero import ZeroCheck as CoreZeroCheck
from temper_core.policy import Policy
from temper_core.reading import FACTS, Scale, read
from temper_core.state import LoopState
from temper_core.tally import question_of


def check_zero(instrument: Instrument, given: ZeroIn, *, actor: Person) -> Instrument:
    """Note what demineralised water reads on it now; sent twice it is noted once. Raises CoreError."""
    facts = FACTS[Scale(instrument.scale)]
    low, high = facts.water - facts.zero_reach, facts.water + facts.zero_reach
    check_between("zero", given.zero, low, high, facts.unit, "Clean the prism and check again.")
    now = timezone.now()
    core = CoreZeroCheck(now, given.zero, given.water_c, given.adjusted)
    with transaction.atomic():
        if given.id is not None and ZeroCheck.objects.filter(added_as=given.id).exists():
            return instrument
        ZeroCheck.objects.create(
            instrument=instrument,
            at=now,
            value=core.value,
            water_c=core.water_c,
            adjusted=core.adjusted,
            person=actor,
            added_as=given.id,
        )
        instrument.zero, instrument.zeroed_at = facts.water if core.adjusted else core.value, now
        instrument.save(update_fields=["zero", "zeroed_at"])
    return instrument


def store_reading(entry: Entry, facts: Read, state: LoopState, policy: Policy) -> Reading:
    """Keep a ledger reading in the table of readings as well; called inside the entry's transaction."""
    glycol = state.inside.base.glycol if state.inside.base else None
    result = read(question_of(glycol, facts), policy) if glycol and facts.instrument else None
    told = facts.value if facts.place is Place.AS_FOUND and facts.instrument is None else None
    return Reading.objects.create(
        entry=entry,
        loop=entry.loop,
        instrument_id=int(facts.instrument.id) if facts.instrument else None,
        person=entry.person,
        taken_at=entry.happened_at,
        value=facts.value,
        zero=facts.zero,
        sample_c=facts.sample_c,
        place=facts.place.value,
        freeze_c=result.freeze_c if result else told,
        glycol_mass_percent=result.glycol_mass_percent if result else None,
    )
