"""Writes about instruments; each in one transaction, the actor required."""

from __future__ import annotations

from django.db import transaction
from django.utils import timezone

from instruments.models import Instrument, Reading
from jobs.models import Entry
from people.models import Person
from temper_core.entries import Place, Read
from temper_core.errors import check_between
from temper_core.policy import Policy
from temper_core.reading import read
from temper_core.state import LoopState
from temper_core.tally import question_of


def set_zero(instrument: Instrument, zero: float, *, actor: Person) -> Instrument:
    """Note what demineralised water reads on it now [degC]; raises CoreError."""
    check_between("zero", zero, -10, 10, "degC", "Clean the prism and check again.")
    with transaction.atomic():
        instrument.zero, instrument.zeroed_at = zero, timezone.now()
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
