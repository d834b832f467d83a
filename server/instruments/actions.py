"""Writes about instruments; each in one transaction, the actor required."""

from __future__ import annotations

import ipaddress
from uuid import uuid4

from django.db import transaction
from django.shortcuts import get_object_or_404
from django.utils import timezone

from config import clock
from instruments.models import Instrument, Reading, ZeroCheck
from instruments.schemas import InstrumentIn, ZeroIn
from instruments.watch import agreement_of
from jobs.models import Entry
from people.models import Person
from temper_core.basis.errors import Conflict, CoreError, check_between
from temper_core.basis.policy import Policy
from temper_core.instruments import FACTS, KINDS, InstrumentKind, Scale
from temper_core.instruments.zero import ZeroCheck as CoreZeroCheck
from temper_core.job.loop_state import LoopState
from temper_core.job.read.facts import Place, Read, answer_of, counted, sd_percent_of, steps_of
from temper_core.job.verify.expected import expected_of
from temper_core.products.chemistry import Base
from temper_core.science import Glycol


def check_zero(instrument: Instrument, given: ZeroIn, *, actor: Person) -> Instrument:
    """Note what demineralised water reads on it now; sent twice it is noted once. Raises CoreError."""
    kind = KINDS[InstrumentKind(instrument.kind)]
    if not kind.zeroed:
        raise CoreError("zero", f"{kind.name}: has no zero to check. {kind.how}", "no_zero")
    facts = FACTS[Scale(instrument.scale)]
    low, high = facts.water - facts.zero_reach, facts.water + facts.zero_reach
    check_between("zero", given.zero, low, high, facts.unit, "Clean the prism and check again.")
    now = clock.now()
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


def learn_bias(instrument: Instrument, against_id: int | None, *, actor: Person) -> Instrument:
    """Correct an instrument by its bias against another one, as their common samples have it; None takes it back.

    Readings that stand keep their numbers. Raises Conflict where the two have too few samples in common, or agree.
    """
    with transaction.atomic():
        row = get_object_or_404(Instrument.objects.select_for_update(), pk=instrument.pk)
        if against_id is None:
            row.bias_percent, row.bias_sd, row.bias_note = 0.0, None, ""
        else:
            other = get_object_or_404(Instrument, pk=against_id, depot=actor.own_depot)
            found = agreement_of(actor.own_depot, row.name, other.name)
            if found is None or not found.disagrees:
                message = f"{row.name} and {other.name} agree, or have too few samples in common. Read three on both."
                raise Conflict("against_id", message, "nothing_learned")
            row.bias_percent, row.bias_sd = found.bias, found.bias_sd
            row.bias_note = f"against {other.name}, {found.count} samples, {actor.name}, {timezone.localdate():%-d %b %Y}"
        row.save(update_fields=["bias_percent", "bias_sd", "bias_note", "edited_at"])
    return row


def keep_instrument(given: InstrumentIn, pk: int | None, *, actor: Person) -> Instrument:
    """Add an instrument (pk None; sent twice it is added once), or change one. A lead's work.

    Raises CoreError for what cannot be, Conflict for a name that is
    taken or an instrument that somebody edited meanwhile.
    """
    name = given.name.strip()
    if not name:
        raise CoreError("name", "The name is empty. Enter one.", "required")
    check_address(given.address)
    with transaction.atomic():
        if pk is None:
            existing = Instrument.objects.filter(depot=actor.own_depot, uuid=given.id).first() if given.id else None
            if existing:
                return existing
            row = Instrument(depot=actor.own_depot, uuid=given.id or uuid4())
        else:
            row = get_object_or_404(Instrument.objects.select_for_update(), pk=pk, depot=actor.own_depot)
            if given.seen != row.edited_at:
                raise Conflict("seen", "Someone else changed this. Reload, then enter your change.", "moved")
        if Instrument.objects.filter(depot=actor.own_depot, name__iexact=name).exclude(pk=row.pk).exists():
            raise Conflict("name", f"There is a {name} already. Choose another name.", "taken")
        _check_engraving(row, given)
        for field, value in given.model_dump(mode="json", exclude={"id", "seen", "name", "scale", "resolution"}).items():
            setattr(row, field, value)
        row.name, row.scale = name, given.scale.value if given.scale else ""
        row.resolution = (
            given.resolution if given.resolution is not None else FACTS[given.scale].resolution if given.scale else 0.0
        )
        if row.zeroed_at is None:
            row.zero = row.water
        row.clean()
        row.save()
    return row


def _check_engraving(row: Instrument, given: InstrumentIn) -> None:
    """What was read and checked on a scale stays on it: another scale is another instrument. Raises Conflict."""
    if row.pk is None or (row.kind, row.scale) == (given.kind.value, given.scale.value if given.scale else ""):
        return
    if row.readings.exists() or row.zeros.exists():
        message = f"{row.name} has readings on its scale already. Retire it, and add the other as a new instrument."
        raise Conflict("scale", message, "in_use")


def check_address(address: str) -> None:
    """A driver listens on this machine: host:port, loopback only, so that nobody is asked in the depot's name.

    Raises CoreError.
    """
    if not address:
        return
    host, _, port = address.rpartition(":")
    try:
        loopback = ipaddress.ip_address(host.strip("[]")).is_loopback
    except ValueError:
        loopback = host == "localhost"
    if not loopback or not port.isdecimal() or not 1 <= int(port) <= 65535:
        message = f"'{address}' is not an address on this machine. Write 127.0.0.1 and its port, such as 127.0.0.1:8771."
        raise CoreError("address", message, "not_loopback")


def store_reading(entry: Entry, facts: Read, state: LoopState, policy: Policy) -> Reading:
    """Keep a ledger reading in the table of readings as well; called inside the entry's transaction.

    state: the loop before it, which says what the ledger expected.
    """
    row = reading_row(entry, facts, state.inside.base, policy)
    expected = expected_of(state, facts.place, policy) if counted(facts) else None
    if expected is not None:
        row.expected_percent, row.expected_sd = expected.percent, expected.sd
    row.depot_id = entry.loop.machine.depot_id
    row.save()
    return row


def reading_row(entry: Entry, facts: Read, base: Base | None, policy: Policy) -> Reading:
    """A reading as the table keeps it, not stored yet; the depot is left to the caller, who knows it."""
    answer = answer_of(base, facts, policy) if facts.instrument and base is not None else None
    told = facts.value if facts.place is Place.AS_FOUND and facts.instrument is None else None
    steps = steps_of((base.glycol if base else None) or Glycol.ETHYLENE, facts, policy)
    return Reading(
        entry=entry,
        loop_id=entry.loop_id,
        instrument_id=int(facts.instrument.id) if facts.instrument else None,
        person_id=entry.person_id,
        taken_at=entry.happened_at,
        scale=facts.instrument.scale.value if facts.instrument else "",
        value=facts.value,
        zero=facts.zero,
        sample_c=facts.sample_c,
        place=facts.place.value,
        edge=facts.edge.value,
        after_hot_run=facts.after_hot_run,
        glycol=base.glycol.value if base and base.glycol else "",
        freeze_c=answer.freeze_c if answer else told,
        at_least_c=steps.at_least_c if steps else None,
        glycol_mass_percent=answer.glycol_mass_percent if answer else None,
        sd_mass_percent=sd_percent_of(answer) if answer else None,
    )
