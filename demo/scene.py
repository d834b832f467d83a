"""A person of the demo at work on one loop, through the same actions the API uses."""

from __future__ import annotations

import random
import uuid
from collections.abc import Iterable
from datetime import date, datetime, timedelta
from typing import Any, TypeVar

from pydantic import TypeAdapter

from catalogue.models import Product, WaterSource
from depots.models import Depot
from fleet.models import Loop
from instruments.models import Instrument
from jobs.actions import open_job, record_entries
from jobs.entry_schemas import EntriesIn
from jobs.queries import state_of
from jobs.schemas import JobIn
from people.models import Person
from temper_core.basis.policy import Policy
from temper_core.basis.quantity import MassFraction, VolumePercent
from temper_core.calculate.mix import Inside, MixQuestion, mix
from temper_core.job.inspect.facts import CHECK_ROWS, SPOT_OPENS, Check, Spot, opens
from temper_core.job.job_types import JobType
from temper_core.job.open.rules import asked_ready
from temper_core.machine.bleeding import BleedRecipe
from temper_core.science import Glycol

OPENING = frozenset({"sampled", "tested", "read", "poured", "finish_checked"})
BLEED: TypeAdapter[BleedRecipe] = TypeAdapter(BleedRecipe)


T = TypeVar("T")


def there(value: T | None) -> T:
    """What the story counts on; raises ValueError where it is missing."""
    if value is None:
        raise ValueError("the demo's story counts on something that is not there")
    return value


class Scene:
    """A person at work on one loop, at a clock of their own."""

    def __init__(
        self, depot: Depot, fleet_number: str, position: int, who: str, came_in: datetime, rng: random.Random
    ) -> None:
        self.loop = Loop.objects.select_related("machine__depot").get(
            machine__depot=depot, machine__fleet_number=fleet_number, position=position
        )
        self.actor = Person.objects.get(username=who)
        self.now = came_in
        self.rng = rng
        self.checked_on: date | None = None
        self.checked_to_read: date | None = None

    def new_id(self) -> uuid.UUID:
        """A UUID from the fixed seed."""
        return uuid.UUID(int=self.rng.getrandbits(128), version=4)

    def open(self, job_type: str) -> Scene:
        """The machine comes in."""
        given = {
            "id": self.new_id(),
            "machine_id": self.loop.machine_id,
            "loops": [{"loop_id": self.loop.id, "job_type": job_type}],
        }
        open_job(JobIn.model_validate(given), actor=self.actor, opened_at=self.now)
        return self

    def record(self, minutes: float, kind: str, /, **facts: Any) -> Scene:
        """Some minutes later a fact is recorded; whoever opens the loop or starts the engine sees to it first."""
        self.now += timedelta(minutes=minutes)
        if kind in OPENING:
            self._see_to(kind, facts)
        if kind in ("clock_started", "bleed_started") and state_of(self.loop, self.policy).gate.asked_run:
            self.record(0, "ready_confirmed", ready=["ventilated"])
        if kind == "poured" and facts.get("water_l"):
            facts = {"water": "demineralised"} | facts
        given = {"entries": [{"id": self.new_id(), "kind": kind, "facts": facts, "happened_at": self.now}]}
        record_entries(self.loop, EntriesIn.model_validate(given), actor=self.actor)
        return self

    @property
    def policy(self) -> Policy:
        """The depot's rules."""
        return self.loop.machine.depot.policy

    def _see_to(self, kind: str, facts: dict[str, Any]) -> None:
        """The safe-to-open check, where this fact asks for one and none stands."""
        state = state_of(self.loop, self.policy)
        built, gate = self.loop.core.equipment, state.gate
        opening = kind not in ("sampled", "tested")
        if kind == "read":
            opening = facts.get("instrument_id") is not None
        if kind == "sampled":
            opening = opens(SPOT_OPENS[Spot(facts["spot"])], built)
        if kind == "tested":
            opening = opens(CHECK_ROWS[Check(facts["check"])].opens, built)
        stands = gate.open and gate.by_id == str(self.actor.pk) and not facts.get("after_hot_run")
        today = self.now.astimezone(self.loop.machine.depot.now.tzinfo).date()  # a check lapses at midnight
        unasked = kind == "poured" and (gate.never_under_pressure or state.drained_l) and self.checked_on == today
        if opening and not stands and not unasked:
            if kind != "read" or self.checked_to_read != today:
                self.feel(0)
            self.checked_to_read = today if facts.get("after_hot_run") else None

    def look(self, minutes: float, spot: str, *looks: str, sediment_mm: float | None = None) -> Scene:
        """What the fluid looks like at one place."""
        return self.record(minutes, "sampled", spot=spot, looks=list(looks), sediment_mm=sediment_mm)

    def test(self, minutes: float, check: str, outcome: str | None = None, **figures: float) -> Scene:
        """One check with its answer; strips matched to their card."""
        strips = self.loop.machine.depot.instruments.filter(kind="strips").first()
        bands = strips.bands if strips is not None and check == "inhibitor" else {}
        card = {key: bands[key] for key, value in figures.items() if value in bands.get(key, ())}
        return self.record(minutes, "tested", check=check, outcome=outcome, figures=figures, card=card)

    def decide(self, minutes: float, job_type: str | None = None, reason: str = "") -> Scene:
        """Follow the advice, or with a route go against it."""
        advised = there(state_of(self.loop, self.loop.machine.depot.policy).advice).job_type.value
        return self.record(minutes, "job_type_chosen", job_type=job_type or advised, advised=advised, reason=reason)

    def feel(self, minutes: float, temperature_c: float = 31.0) -> Scene:
        """The scald gate: cold by a probe, the upper hose soft, everything ready."""
        core = self.loop.core
        ready = [row.ready.value for row in asked_ready(core.equipment, core.high_voltage)] + ["supported", "tray"]
        signs: dict[str, Any] = {"warmth": "probe", "temperature_c": temperature_c, "pressure": "hose", "soft": True}
        if core.high_voltage:
            signs["isolated_by_id"] = self.loop.machine.depot.people.get(username="tomo").pk
        self.checked_to_read = None
        self.record(minutes, "gate_observed", ready=ready, **signs)
        self.checked_on = self.now.astimezone(self.loop.machine.depot.now.tzinfo).date()
        return self

    def told(self, minutes: float, family: str, years: float, **meters: float) -> Scene:
        """What the papers say of the filling: its chemistry, when it went in, and the meters then."""
        changed_on = (self.now - timedelta(days=365.25 * years)).date().isoformat()
        facts: dict[str, Any] = {"base": "ethylene", "family": family, "topped_up": "nothing", "changed_on": changed_on}
        return self.record(minutes, "contents_reported", **facts, **meters)

    def rinse(self, minutes: float, drained_l: float, *, water: str = "tap", looks: str = "", **more: Any) -> Scene:
        """One round: water in, run hot, cooled, felt, drained, and a jar of it."""
        self.record(minutes / 4, "round_filled", method="fill_run_drain", water_id=self.water(water).id)
        self.record(25, "engine_run", minutes=25, opened=True, heater_full=True)
        self.feel(minutes).record(0, "drained", drained_l=drained_l, measured=more.get("measured", "weighed"))
        return self.look(2, "drain", looks) if looks else self

    def water(self, kind: str) -> WaterSource:
        """A water of the depot that was analysed."""
        return there(self.loop.machine.depot.waters.filter(kind=kind, solids_mg_l__isnull=False).first())

    def rinses(self, rounds: int, minutes: float, drained_l: float, **more: Any) -> Scene:
        """Rounds with tap water, the last one demineralised and clear, and the word that it is enough."""
        for n in range(1, rounds + 1):
            last = n == rounds
            looks = "crystal_clear" if last else "residual_tint"
            self.rinse(minutes, drained_l, water="demineralised" if last else "tap", looks=looks, **more)
        flush = there(state_of(self.loop, self.loop.machine.depot.policy).flush)
        return self.record(2, "flush_ended", reason="" if flush.enough.enough else "clear, and no time for more")

    def choose(self, minutes: float, product: Product, **more: Any) -> Scene:
        """Choose a coolant."""
        return self.record(
            minutes, "planned", product_id=product.id, coldest_c=self.loop.core.coldest_c, margin_k=5.0, **more
        )

    def accept_mix(self, minutes: float, product: Product, target_c: float) -> Scene:
        """Accept the litres the core computes."""
        state = state_of(self.loop, self.loop.machine.depot.policy)
        inside = Inside(state.inside.litres, VolumePercent(state.inside.strength_percent or 0.0))
        concentrate = MassFraction(product.glycol_mass_percent / 100)
        plan = mix(MixQuestion(Glycol(product.base), self.loop.capacity_l, inside, target_c, concentrate))
        self.choose(minutes, product, target_freeze_c=target_c, concentrate_l=plan.concentrate_l, water_l=plan.water_l)
        return self

    def shut(self, minutes: float) -> Scene:
        """The closing check: every point felt by hand."""
        fill = there(state_of(self.loop, self.loop.machine.depot.policy).fill)
        return self.record(minutes, "closed", points=[row.key for row in fill.closing])

    def bleed(self, minutes: float, *signs: str) -> Scene:
        """Dry underneath, run by the loop's recipe, and two signs."""
        self.record(1, "looked_under", dry=True)
        recipe = there(state_of(self.loop, self.loop.machine.depot.policy).fill).bleed.recipe
        self.record(2, "bleed_started", recipe=BLEED.dump_python(recipe, mode="json"))
        return self.record(minutes, "bleed_ended", outcome="finished", signs=list(signs or ("heater_hot", "bottom_hot")))

    def last_look(self, minutes: float, drop_kpa: float = 0.5, start_kpa: float = 100.0) -> Scene:
        """Level cold at the cold mark, pressure held, everything cleaned up."""
        leak = {"method": "pressure", "start_kpa": start_kpa, "drop_kpa": drop_kpa, "minutes": 10}
        done = ["covers", "spill", "waste", "label"]
        return self.record(minutes, "finish_checked", level="at_mark", level_c=19.0, leak=leak, done=done)

    def between(self, days: float, *rows: tuple[str, dict[str, Any]]) -> Scene:
        """Some days later, without a job."""
        self.now += timedelta(days=days)
        entries = [{"id": self.new_id(), "kind": kind, "facts": facts, "happened_at": self.now} for kind, facts in rows]
        record_entries(self.loop, EntriesIn.model_validate({"entries": entries, "between": True}), actor=self.actor)
        return self

    def pour_the_plan(self, minutes: float, product: Product) -> Scene:
        """Pour what was planned, to a decilitre, up to the cold mark."""
        plan = there(state_of(self.loop, self.loop.machine.depot.policy).plan)
        litres = {"product_l": round(there(plan.concentrate_l), 1), "water_l": round(there(plan.water_l), 1)}
        can = product.cans.filter(emptied_at=None).order_by("-size_l").first()
        taken = [] if can is None else [{"can_id": can.pk, "litres": litres["product_l"]}]
        self.shut(minutes / 2).record(minutes / 2, "poured", product_id=product.id, at_mark=True, taken=taken, **litres)
        return self.bleed(24)

    def read_and_sign(self, readings: Iterable[tuple[float, float]], instrument: Instrument, sample_c: float) -> Scene:
        """Readings after a hot run (minutes, value), then the name under the verdict."""
        for minutes, value in readings:
            facts = {"value": value, "place": "finished", "instrument_id": instrument.id, "sample_c": sample_c}
            self.record(minutes, "read", after_hot_run=True, **facts)
        if state_of(self.loop, self.loop.machine.depot.policy).job_type is not JobType.TOP_UP:
            self.last_look(4)
        proof = there(state_of(self.loop, self.loop.machine.depot.policy).proof).verdict.value
        return self.record(3, "signed_off", proof=proof, reason="" if proof == "proven" else "left as read")
