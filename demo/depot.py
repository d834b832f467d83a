"""Load the made-up depot through the same actions the API uses; a fixed seed makes every run alike."""

from __future__ import annotations

import json
import random
from datetime import timedelta
from pathlib import Path
from typing import Any

from django.db import transaction
from django.utils import timezone
from practice.models import Offered

from catalogue.models import Agent, Product, WaterSource
from demo import PASSWORD
from demo.jar import rusty_jar
from demo.log import load_log
from demo.scene import BLEED, Scene, there
from demo.stocked import fill_the_shelf
from demo.years import two_years
from depots.models import Depot
from depots.nights import enter_low
from fleet.models import Loop, Machine
from instruments.models import Instrument, ZeroCheck
from jobs.actions import add_photo
from jobs.models import Entry
from jobs.queries import state_of
from people.models import Person

SEED = 7
TONIGHT_C = -12.0
SIMULATED = "Counter 1"  # the digital refractometer that the stand-in plays
DATA = Path(__file__).with_name("depot.json")


def _make_things() -> Depot:
    data = json.loads(DATA.read_text(encoding="utf-8"))
    depot = Depot.objects.create(**data["depot"])
    for given in data["people"]:
        days = given.pop("isolates_days", None)
        person = Person(depot=depot, **given)
        person.may_isolate_until = depot.now.date() + timedelta(days=days) if days else None
        person.set_password(PASSWORD)
        person.save()
        Offered.objects.create(person=person)  # they have worked here for long
    for given in data["products"]:
        product = Product(depot=depot, **given)
        product.clean()
        product.save()
    for model, name in ((Agent, "agents"), (WaterSource, "waters")):
        for given in data[name]:
            line = model(depot=depot, **given)
            line.clean()
            line.save()
    for given in data["instruments"]:
        _instrument(depot, **given)
    for given in data["machines"]:
        loops = given["loops"]
        machine = Machine.objects.create(depot=depot, **{key: value for key, value in given.items() if key != "loops"})
        for position, row in enumerate(loops, 1):
            loop = Loop(machine=machine, position=position, **row)
            loop.clean()
            loop.save()
    return depot


def _instrument(depot: Depot, zeros: list[tuple[float, float, bool]], **given: Any) -> None:
    """An instrument with its zero checks: days ago, what water read, whether it was then set."""
    tomo = Person.objects.get(username="tomo")
    instrument = Instrument(depot=depot, **given)
    instrument.zero = instrument.water
    instrument.save()
    for days, value, adjusted in zeros:
        at = timezone.now() - timedelta(days=days)
        ZeroCheck.objects.create(instrument=instrument, at=at, value=value, adjusted=adjusted, person=tomo)
        instrument.zero, instrument.zeroed_at = instrument.water if adjusted else value, at
    instrument.clean()
    instrument.save()


def _finished_shuttle(depot: Depot, rng: random.Random) -> None:
    """S-12's engine loop, renewed and proven yesterday."""
    product = depot.products.get(name="Winterline O")
    glass = depot.instruments.get(name="Glass 3")
    scene = Scene(depot, "S-12", 1, "tomo", timezone.now() - timedelta(days=1, hours=3), rng)
    scene.open("refill").record(2, "metered", distance_km=61_240)
    scene.told(1, "oat", years=2.5, changed_km=24_800).choose(6, product)
    scene.look(4, "bottle", "clean_bright").test(1, "hoses", "sound").decide(2)
    scene.feel(40).record(0, "drained", drained_l=6.9, measured="weighed").accept_mix(4, product, -37.0)
    scene.pour_the_plan(12, product).read_and_sign(((70, -38.0), (2, -38.5), (2, -38.0)), glass, 19.0)


def _groomer_at_mix(depot: Depot, rng: random.Random) -> None:
    """G-07, changed out: drained, rinsed twice, waiting for its mix."""
    product = depot.products.get(name="Winterline O")
    scene = Scene(depot, "G-07", 1, "ines", timezone.now() - timedelta(hours=8), rng)
    scene.open("change_type").record(4, "read", value=-19.0, place="as_found")
    scene.choose(3, product).look(5, "bottle", "faded", sediment_mm=1).decide(2)
    scene.feel(126).record(0, "drained", drained_l=24.5, measured="weighed").rinses(2, 98, 24.5)


def _old_groomer_out_of_reach(depot: Depot, rng: random.Random) -> None:
    """G-04: no block drain, so half the rinse water stays in; the climate's target is out of reach."""
    product = depot.products.get(name="Winterline O")
    scene = Scene(depot, "G-04", 1, "tomo", timezone.now() - timedelta(hours=9), rng)
    scene.open("change_type").record(5, "read", value=-27.0, place="as_found")
    scene.choose(4, product).decide(2, "change_type", "not known who topped it up")
    scene.feel(98).record(0, "drained", drained_l=10.4, measured="marks").rinses(3, 80, 10.4, measured="marks")
    scene.record(1, "waste_kept", kind="old_coolant", litres=10.4, containers=1)
    scene.record(1, "waste_kept", kind="rinse_water", litres=31.0, containers=2)


def _standby_diesel_remembered(depot: Depot, rng: random.Random) -> None:
    """C-03, propylene glycol: its capacity is somebody's memory, its litres a guess."""
    product = depot.products.get(name="Winterline P")
    scene = Scene(depot, "C-03", 1, "ines", timezone.now() - timedelta(hours=2), rng)
    scene.open("refill").choose(6, product).decide(2).feel(38).record(0, "drained", drained_l=13.5, measured="guessed")


def _carrier_renewed(depot: Depot, rng: random.Random) -> None:
    """T-21, two banks: a part drain with good coolant left inside."""
    product = depot.products.get(name="Winterline O")
    scene = Scene(depot, "T-21", 1, "tomo", timezone.now() - timedelta(hours=1), rng)
    glass = depot.instruments.get(name="Glass 3")
    scene.open("refill").record(4, "read", value=-31.0, place="as_found", instrument_id=glass.id, sample_c=18.0)
    scene.choose(2, product).decide(2).feel(23).record(0, "drained", drained_l=6.9, measured="weighed")


def _loader_teaches_its_capacity(depot: Depot, rng: random.Random) -> None:
    """W-02, finished this morning: its capacity was somebody's memory, and the readings know better."""
    product = depot.products.get(name="Winterline O")
    glass = depot.instruments.get(name="Glass 3")
    scene = Scene(depot, "W-02", 1, "tomo", timezone.now() - timedelta(hours=10), rng)
    scene.open("change_type").choose(5, product).decide(2).feel(88)
    scene.record(0, "drained", drained_l=12.6, measured="weighed").rinses(2, 90, 12.6)
    scene.accept_mix(4, product, -43.0).pour_the_plan(15, product)
    scene.read_and_sign(((80, -46.0), (3, -45.5), (2, -46.0)), glass, 18.0)


def _resurfacer_over_its_limit(depot: Depot, rng: random.Random) -> None:
    """IR-1: rust, so cleaner went in, and its label's limit has passed."""
    product, cleaner = depot.products.get(name="Old Guard S"), depot.agents.get(name="Rinseflow")
    scene = Scene(depot, "IR-1", 1, "tomo", timezone.now() - timedelta(hours=6, minutes=46), rng)
    scene.open("clean").record(3, "read", value=-14.0, place="as_found").choose(3, product)
    scene.look(5, "bottle", "brown_swirl", sediment_mm=4).look(2, "neck", "orange_rust").decide(3)
    scene.feel(124).record(
        0, "drained", caught=[{"where": "A", "gross_kg": 8.9, "tare_kg": 1.3}, {"where": "B", "marks_l": 6, "at_c": 24.0}]
    )
    scene.look(3, "drain", "orange_rust", "particles", sediment_mm=6)
    jar = Entry.objects.filter(loop=scene.loop, kind="sampled").latest("recorded_at")
    add_photo(scene.loop, scene.new_id(), jar.id, rusty_jar(), actor=scene.actor)
    scene.record(
        18, "round_filled", method="cleaner", agent_id=cleaner.id, agent_ml=530, run_min=180, water_id=scene.water("tap").id
    )


def _groomer_in_its_second_rinse(depot: Depot, rng: random.Random) -> None:
    """G-02: a reading of the first rinse corrected the plan; the second is being run hot."""
    product, glass = depot.products.get(name="Winterline O"), depot.instruments.get(name="Glass 3")
    scene = Scene(depot, "G-02", 1, "ines", timezone.now() - timedelta(hours=5, minutes=2), rng)
    scene.open("change_type").record(3, "read", value=-21.0, place="as_found", instrument_id=glass.id, sample_c=17.0)
    scene.choose(3, product).look(5, "bottle", "orange_rust", sediment_mm=4).decide(3, "change_type", "clean in the spring")
    weighed = [{"where": "A", "gross_kg": 17.2, "tare_kg": 1.3}, {"where": "B", "gross_kg": 10.5, "tare_kg": 1.3}]
    scene.feel(105).record(0, "drained", caught=weighed).look(3, "drain", "orange_rust", sediment_mm=4)
    scene.rinse(100, 24.1, looks="slight_haze")
    scene.record(2, "read", value=-3.0, place="rinse", instrument_id=glass.id, sample_c=18.0)
    scene.record(12, "round_filled", method="fill_run_drain", water_id=scene.water("demineralised").id)
    scene.record(3, "clock_started", clock="warm_up", minutes=25)


def _carrier_put_aside(depot: Depot, rng: random.Random) -> None:
    """T-22: rinse water is in it and the shift is over; whoever takes it up sees what it holds."""
    product = depot.products.get(name="Winterline O")
    scene = Scene(depot, "T-22", 1, "tomo", timezone.now() - timedelta(hours=20), rng)
    scene.open("change_type").record(3, "read", value=-24.0, place="as_found").choose(3, product)
    scene.look(5, "bottle", "cloudy").look(2, "neck", "slight_haze").decide(3)
    scene.feel(80).record(0, "drained", drained_l=6.9, measured="weighed").look(2, "drain", "cloudy", sediment_mm=1)
    scene.record(10, "round_filled", method="fill_run_drain", water_id=scene.water("tap").id)
    scene.record(28, "engine_run", minutes=25, opened=True, heater_full=True)
    scene.record(4, "paused", note="Heater fan does not run: fuse is on order.", parked="outdoors")


def _railcar_just_opened(depot: Depot, rng: random.Random) -> None:
    """R-02 has just come in."""
    Scene(depot, "R-02", 1, "ines", timezone.now() - timedelta(minutes=2), rng).open("change_type")


def _pickup_rusts_again(depot: Depot, rng: random.Random) -> None:
    """V-31: cleaned twice in six weeks, and the rust is back: stop cleaning, test for combustion gas."""
    product = depot.products.get(name="Old Guard S")
    for days, spot in ((41, "bottle"), (19, "neck")):
        scene = Scene(depot, "V-31", 1, "tomo", timezone.now() - timedelta(days=days, hours=16), rng)
        scene.open("refill").record(2, "metered", distance_km=214_300 + 20 * (41 - days))
        scene.choose(4, product).look(5, spot, "orange_rust", sediment_mm=5).look(3, "drain", "brown_swirl").decide(3)
        scene.feel(100).record(0, "drained", drained_l=4.5, measured="weighed").rinses(6, 70, 4.5)
        scene.accept_mix(5, product, -37.0).pour_the_plan(15, product)
        scene.read_and_sign(((80, -35.5), (3, -36.0), (2, -35.5)), depot.instruments.get(name="Glass 3"), 18.0)
    scene = Scene(depot, "V-31", 1, "tomo", timezone.now() - timedelta(minutes=35), rng)
    scene.open("clean").record(2, "metered", distance_km=215_180).choose(4, product)
    scene.look(6, "neck", "orange_rust", "fine_sand", sediment_mm=4)
    sample = Entry.objects.filter(loop=scene.loop, kind="sampled").latest("recorded_at")
    add_photo(scene.loop, scene.new_id(), sample.id, rusty_jar(), actor=scene.actor)


def _bus_nobody_knows(depot: Depot, rng: random.Random) -> None:
    """B-14: bought at an auction, wrong coolant told inside; Tomo renews it against the advice, a lead has to see it.

    Still too warm to be opened.
    """
    product = depot.products.get(name="Winterline O")
    scene = Scene(depot, "B-14", 1, "tomo", timezone.now() - timedelta(minutes=75), rng)
    scene.open("refill").record(3, "contents_reported", base="ethylene", family="iat", topped_up="unknown").choose(
        4, product
    )
    scene.test(5, "leaks", "none").test(4, "hoses", "soft")
    scene.decide(4, "refill", "takes the last cable-car crew down at noon").feel(9, 58.0)


def _pump_set_leaks(depot: Depot, rng: random.Random) -> None:
    """P-06: renewed seven months ago, topped up with water since; its readings fall."""
    product, glass = depot.products.get(name="Winterline O"), depot.instruments.get(name="Glass 3")
    scene = Scene(depot, "P-06", 1, "ines", timezone.now() - timedelta(days=214), rng)
    scene.open("refill").record(2, "metered", hours=5_120)
    scene.told(1, "oat", years=0.55, changed_hours=4_700).choose(4, product)
    scene.record(6, "read", value=-31.0, place="as_found", instrument_id=glass.id, sample_c=16.0)
    scene.decide(2).feel(48).record(0, "drained", drained_l=8.6, measured="weighed").accept_mix(4, product, -36.0)
    scene.pour_the_plan(12, product).read_and_sign(((70, -37.5), (2, -37.0), (2, -37.5)), glass, 18.0)
    for days, hours, value, water_l in ((150, 5_390, -35.0, 0.0), (92, 5_640, -33.0, 0.5), (31, 5_830, -30.5, 0.0)):
        scene = Scene(depot, "P-06", 1, "ines", timezone.now() - timedelta(days=days), rng)
        scene.open("top_up" if water_l else "check").record(2, "metered", hours=hours)
        scene.record(1, "contents_reported", base="ethylene", family="oat", topped_up="water")
        if water_l:
            scene.choose(2, product)
        scene.record(4, "read", value=value, place="as_found", instrument_id=glass.id, sample_c=15.0)
        scene.look(2, "neck", "clean_bright").test(1, "level", "low" if water_l else "at_mark")
        if water_l:
            scene.decide(3, "top_up", "must run through the night")
        else:
            scene.decide(3)
        if water_l:
            scene.record(4, "poured", product_id=None, product_l=0.0, water_l=water_l, water="demineralised", at_mark=True)
            scene.read_and_sign(((45, -31.5), (2, -31.5)), glass, 16.0)
        else:
            scene.record(2, "signed_off", proof="checked")


def _blower_by_strips(depot: Depot, rng: random.Random) -> None:
    """H-09: wet liners; its strips say that the liners want additive."""
    scene = Scene(depot, "H-09", 1, "ines", timezone.now() - timedelta(minutes=50), rng)
    scene.open("check").record(2, "metered", hours=7_460)
    scene.record(3, "contents_reported", base="ethylene", family="noat", topped_up="same", changed_on="2025-02-11")
    scene.record(
        4, "read", value=-44.0, place="as_found", sample_c=16.0, instrument_id=depot.instruments.get(name="Glass 3").id
    )
    scene.look(2, "neck", "clean_bright").test(3, "inhibitor", ph=9, nitrite_mg_l=300)


def _lift_drive_bleeding(depot: Depot, rng: random.Random) -> None:
    """L-05: filled short, so air is inside; the bleed runs with its tank open, two top-ups so far."""
    product, glass = depot.products.get(name="Winterline O"), depot.instruments.get(name="Glass 3")
    scene = Scene(depot, "L-05", 1, "tomo", timezone.now() - timedelta(hours=2, minutes=9), rng)
    scene.open("refill").record(3, "read", value=-27.0, place="as_found", instrument_id=glass.id, sample_c=15.0)
    scene.choose(3, product).look(4, "neck", "faded").test(2, "hoses", "sound").decide(2).feel(64)
    scene.record(
        0,
        "drained",
        caught=[{"where": "A", "gross_kg": 9.3, "tare_kg": 1.3}, {"where": "B", "gross_kg": 7.9, "tare_kg": 1.3}],
    )
    scene.accept_mix(5, product, -43.0).shut(6)
    plan = there(state_of(scene.loop, depot.policy).plan)
    product_l, water_l = there(plan.concentrate_l), there(plan.water_l)
    half = {"product_l": round(product_l / 2, 1), "water_l": round(water_l / 2, 1)}
    scene.record(9, "poured", product_id=product.id, **half).record(1, "looked_under", dry=True)
    rest = {"product_l": round(product_l / 2 - 0.8, 1), "water_l": round(water_l / 2 - 0.4, 1)}
    scene.record(8, "poured", product_id=product.id, at_mark=True, **rest)
    recipe = there(state_of(scene.loop, depot.policy).fill).bleed.recipe
    scene.now = timezone.now() - timedelta(minutes=7, seconds=20)
    scene.record(0, "bleed_started", recipe=BLEED.dump_python(recipe, mode="json"))
    for minutes, more_l, thinner_l in ((2.0, 0.4, 0.2), (4.0, 0.1, 0.1)):
        litres = {"product_l": more_l, "water_l": thinner_l}
        scene.record(minutes, "poured", product_id=product.id, at_mark=True, bleeding=True, **litres)


def _digger_too_weak(depot: Depot, rng: random.Random) -> None:
    """D-17: blended at the loop's strength by an old habit, so it reads too weak."""
    product, glass = depot.products.get(name="Winterline O"), depot.instruments.get(name="Glass 3")
    scene = Scene(depot, "D-17", 1, "ines", timezone.now() - timedelta(hours=7), rng)
    scene.open("change_type").record(3, "read", value=-18.0, place="as_found", instrument_id=glass.id, sample_c=16.0)
    scene.choose(3, product).look(4, "bottle", "cloudy").decide(
        2, "change_type", "hired out, not known who topped it up"
    ).feel(70)
    scene.record(0, "drained", drained_l=13.1, measured="weighed").rinses(2, 60, 13.1).accept_mix(4, product, -43.0)
    plan = there(state_of(scene.loop, depot.policy).plan)
    whole = there(plan.concentrate_l) + there(plan.water_l)
    weak = {"product_l": round(0.54 * whole, 1), "water_l": round(0.46 * whole, 1)}
    scene.shut(5).record(12, "poured", product_id=product.id, at_mark=True, **weak).bleed(26)
    for minutes, value in ((48, -28.5), (2, -29.0), (2, -28.5)):
        facts = {"value": value, "place": "finished", "instrument_id": glass.id, "sample_c": 17.0}
        scene.record(minutes, "read", after_hot_run=True, **facts)


def load() -> Depot:
    """Load the depot into an empty database."""
    rng = random.Random(SEED)
    with transaction.atomic():
        depot = _make_things()
        fill_the_shelf(depot, random.Random(SEED + 1))
        _finished_shuttle(depot, rng)
        _groomer_at_mix(depot, rng)
        _old_groomer_out_of_reach(depot, rng)
        _loader_teaches_its_capacity(depot, rng)
        _standby_diesel_remembered(depot, rng)
        _carrier_renewed(depot, rng)
        _pump_set_leaks(depot, rng)
        _pickup_rusts_again(depot, rng)
        _bus_nobody_knows(depot, rng)
        _blower_by_strips(depot, rng)
        _resurfacer_over_its_limit(depot, rng)
        _groomer_in_its_second_rinse(depot, rng)
        _carrier_put_aside(depot, rng)
        _lift_drive_bleeding(depot, rng)
        _digger_too_weak(depot, rng)
        _railcar_just_opened(depot, rng)
        two_years(depot, random.Random(SEED + 2))
        load_log(depot, random.Random(SEED))
        enter_low(depot, TONIGHT_C, actor=depot.people.get(username="maud"))
    return depot
