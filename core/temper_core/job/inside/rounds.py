"""The rounds of a flush as the ledger is walked: what each fill, run, drain, sweep and jar does to what is inside.

Figures only: how sure they are follows from the acts beside them.
"""

from __future__ import annotations

from dataclasses import dataclass, field
from datetime import datetime

from temper_core.basis.message import Message, say
from temper_core.basis.policy import Policy
from temper_core.calculate.flush.estimate import Estimate, Share
from temper_core.instruments import ReadingAnswer
from temper_core.job.drain.state import DrainedVolume
from temper_core.job.entries import Entry
from temper_core.job.flush.facts import FlushEnded, Method, RoundFilled, VesselRinsed, WasteKept
from temper_core.job.inspect.facts import Sampled
from temper_core.job.open.facts import EngineRun
from temper_core.machine.circuit import NodeKind, Via, circulating
from temper_core.machine.contents import Contents
from temper_core.machine.drain_points import still_vessels
from temper_core.machine.equipment import Equipment
from temper_core.products.agents import dose
from temper_core.products.water import WaterKind


@dataclass(slots=True)
class Round:
    """One round, or the first drain (facts None)."""

    number: int
    entry_id: str
    at: datetime
    by: str
    facts: RoundFilled | VesselRinsed | None
    water_l: float = 0.0
    ran: EngineRun | None = None
    vessels: dict[str, float | None] = field(default_factory=dict)  # share of old while it ran [%]
    cleaner: dict[str, float] = field(default_factory=dict)
    solids: dict[str, float] = field(default_factory=dict)
    out_l: float | None = None
    finished: Share | None = None
    estimate: Estimate | None = None
    sampled: tuple[str, Sampled] | None = None
    read: tuple[str, ReadingAnswer] | None = None
    said: Message | None = None  # the result of the reading

    @property
    def in_work(self) -> bool:
        """Filled, and not drained yet."""
        return isinstance(self.facts, RoundFilled) and self.out_l is None

    @property
    def with_cleaner(self) -> bool:
        """A round with cleaner in it."""
        return isinstance(self.facts, RoundFilled) and self.facts.method is Method.CLEANER


@dataclass(slots=True)
class Flush:
    """What the walk carries of a flush."""

    rounds: list[Round] = field(default_factory=list)
    ended: FlushEnded | None = None
    early: bool = False
    new_out_l: float = 0.0  # of a new mix that was drained again
    waste: list[WasteKept] = field(default_factory=list)

    @property
    def in_work(self) -> Round | None:
        """The round that is filled and not drained."""
        return self.rounds[-1] if self.rounds and self.rounds[-1].in_work else None

    @property
    def rinsed(self) -> bool:
        """Water went in and out, or is in."""
        return any(row.facts is not None for row in self.rounds)

    @property
    def last_cleaner(self) -> Round | None:
        """The last round with cleaner."""
        return next((row for row in reversed(self.rounds) if row.with_cleaner), None)


def groups_of(contents: Contents, equipment: Equipment, ran: EngineRun) -> list[list[str]]:
    """Vessels that mixed in a run: what nobody says to have opened stayed shut. A bottle or catch tank never mixes."""
    layout = contents.layout
    return circulating(layout, bool(ran.opened), bool(ran.heater_full), still_vessels(layout, equipment))


def went_through(row: Round, contents: Contents, equipment: Equipment) -> bool:
    """A round that filled and ran went through every vessel that circulates at all; the first drain and sweeps pass."""
    if not isinstance(row.facts, RoundFilled):
        return True
    if row.ran is None:
        return False
    everything = EngineRun(opened=True, heater_full=True)
    return groups_of(contents, equipment, row.ran) == groups_of(contents, equipment, everything)


def fill(flush: Flush, contents: Contents, row: Round, policy: Policy) -> Contents:
    """Water, and cleaner where the round is one, into the empty space."""
    facts = row.facts
    if not isinstance(facts, RoundFilled):
        return contents
    row.water_l = contents.room_l if facts.fill_l is None else facts.fill_l
    dose_l = 0.0
    if facts.agent is not None and facts.agent_ml is not None:
        volume = contents.layout.volume_l
        dose_l = volume * facts.agent_ml / dose(facts.agent, volume).exact_ml
    solids = solids_of(facts.water, facts.solids_mg_l, policy)
    flush.rounds.append(row)
    filled = contents.fill_with_water(facts.fill_l, dose_l, solids)
    _note(row, filled)
    return filled


def solids_of(water: WaterKind, solids_mg_l: float | None, policy: Policy) -> float:
    """Residue of a water [mg/l]: as analysed, else none for demineralised and what policy assumes for any other."""
    if solids_mg_l is not None:
        return solids_mg_l
    return 0.0 if water is WaterKind.DEMINERALISED else policy["tap_solids_mg_l"]


def run(flush: Flush, contents: Contents, equipment: Equipment, ran: EngineRun) -> Contents:
    """The engine ran: what circulated is one fluid now; a round filled to the mark is kept there."""
    mixed = contents.circulate(groups_of(contents, equipment, ran))
    row = flush.in_work
    if row is None:
        return mixed
    if isinstance(row.facts, RoundFilled) and row.facts.fill_l is None:  # a mix is smaller than its parts
        mixed = mixed.fill_with_water().circulate(groups_of(contents, equipment, ran))
    row.ran = ran
    _note(row, mixed)
    return mixed


def _note(row: Round, contents: Contents) -> None:
    """What each vessel holds of the old [%], of cleaner [%], of tap residue [mg/l]."""
    held = contents.all_litres()
    for vessel, content in contents.by_vessel.items():
        litres = held[vessel]
        wet = litres > 1e-6
        row.vessels[vessel] = 100 * content.old_l / litres if wet else None
        row.cleaner[vessel] = 100 * content.cleaner_l / litres if wet else 0.0
        row.solids[vessel] = content.solids_mg / litres if wet else 0.0


def drain(flush: Flush, before: Contents, after: Contents, out: DrainedVolume, first: Round, poured: bool) -> None:
    """A drain closes the round that is open, or is a drain of its own."""
    row = flush.in_work
    if poured:  # of the new mix, to be mixed again
        flush.new_out_l += out.litres
        return
    if row is None and not flush.rounds:
        row = first
        _note(row, before)
        flush.rounds.append(row)
    row = row or flush.rounds[-1]
    row.out_l = out.litres + (row.out_l or 0.0)
    row.finished = finished(after)


def sweep(flush: Flush, contents: Contents, row: Round, policy: Policy) -> Contents:
    """Water through vessels that run out meanwhile, or air that pushes some of what stayed out of them."""
    facts = row.facts
    if not isinstance(facts, VesselRinsed):
        return contents
    _note(row, contents)
    flush.rounds.append(row)
    if facts.method is Method.BLOW_OUT:
        after = contents.drain(sum(facts.litres.values()), facts.litres)
        row.out_l = sum(facts.litres.values())
    else:
        after, solids = contents, solids_of(facts.water, facts.solids_mg_l, policy)
        for vessel, litres in facts.litres.items():
            after = after.sweep(vessel, litres, solids)
        row.water_l = row.out_l = sum(facts.litres.values())
    row.finished = finished(after)
    return after


def finished(contents: Contents) -> Share:
    """Old coolant that the finished full loop would hold [%]."""
    return Share(100 * contents.total.old_l / contents.layout.volume_l, 0.0)


def thin_ice(row: Round, contents: Contents, equipment: Equipment) -> tuple[Message, ...]:
    """What a round did not do, said plainly."""
    names = {node.id: node.name for node in contents.layout.nodes}
    if isinstance(row.facts, VesselRinsed):
        swept = ", ".join(names.get(vessel, vessel) for vessel in row.facts.litres)
        return (say("swept_only", "Only {vessels}: the rest is unchanged.", vessels=swept),)
    if not isinstance(row.facts, RoundFilled) or row.in_work and row.ran is None:
        return ()
    if row.ran is None:
        return (say("not_run", "Drained without a run: nothing mixed."),)
    said = []
    if row.ran.opened is False and any(pipe.via is Via.THERMOSTAT for pipe in contents.layout.pipes):
        run = f"{row.ran.minutes:g}-minute run" if row.ran.minutes else "run"
        said.append(say("thermostat_shut", "The {run} did not open the thermostat: the block was not flushed.", run=run))
    mixed = {vessel for group in groups_of(contents, equipment, row.ran) for vessel in group}
    kept = [node.name for node in contents.layout.nodes if node.id not in mixed and node.kind is not NodeKind.RADIATOR]
    if kept:
        said.append(say("kept_to_itself", "Not in the flow: {vessels}.", vessels=", ".join(kept)))
    return tuple(said)


def numbered(flush: Flush, entry: Entry, facts: RoundFilled | VesselRinsed | None) -> Round:
    """The round that this entry begins; the first drain is round 0."""
    number = 1 + sum(1 for row in flush.rounds if row.facts is not None) if facts is not None else 0
    return Round(number, entry.id, entry.happened_at, entry.person, facts)
