"""The practice depot of a run: a database of its own, with the lesson's machine, a shelf, instruments and its person."""

from __future__ import annotations

from datetime import timedelta
from pathlib import Path

from django.conf import settings
from django.db import connection, transaction

from catalogue.models import Agent, Product, WaterSource
from config.apart import apart
from depots.models import Depot
from fleet.models import EQUIPMENT, LAYOUT, Loop, Machine
from instruments.models import Instrument
from people.models import Person
from practice.models import Run
from temper_core.instruments import FACTS
from temper_core.practice.lesson import Lesson
from temper_core.practice.shelf import CLEANER, DEMINERALISED, GLASSES, PRODUCTS, STRIPS, TAP
from temper_core.practice.true_loop import loop_as_believed
from temper_core.products.water import WaterKind

APART_FROM = 10_000_000  # rows of a run are numbered apart from those of the depot and of other runs
EACH_RUN = 10_000


def folder() -> Path:
    """Where the databases of runs are."""
    return Path(settings.DATA) / "practice"


def file_of(run: Run) -> Path:
    """The database of a run."""
    return folder() / f"{run.pk}.sqlite3"


def set_up(run: Run, lesson: Lesson) -> None:
    """A fresh database with the tables of the depot's own, and in it what the lesson needs."""
    tables = _tables()
    real = run.depot
    folder().mkdir(parents=True, exist_ok=True, mode=0o700)
    forget(run)
    with apart(file_of(run)):
        with connection.cursor() as cursor:
            for statement in tables:
                cursor.execute(statement)
            first = APART_FROM + (run.pk.int % 80_000) * EACH_RUN
            cursor.execute("SELECT name FROM sqlite_master WHERE type = 'table' AND sql LIKE '%AUTOINCREMENT%'")
            for (name,) in cursor.fetchall():
                cursor.execute("INSERT INTO sqlite_sequence (name, seq) VALUES (%s, %s)", [name, first])
        with transaction.atomic():
            _fill(run, lesson, real)


def _tables() -> list[str]:
    """Tables first, then indices, as the depot's own database has them."""
    with connection.cursor() as cursor:
        cursor.execute(
            "SELECT sql FROM sqlite_master WHERE sql IS NOT NULL AND name NOT LIKE 'sqlite!_%' ESCAPE '!' "
            "ORDER BY CASE type WHEN 'table' THEN 0 ELSE 1 END"
        )
        return [sql for (sql,) in cursor.fetchall()]


def _fill(run: Run, lesson: Lesson, real: Depot) -> None:
    depot = Depot.objects.create(
        name="Practice depot",
        time_zone=real.time_zone,
        currency=real.currency,
        altitude_m=real.altitude_m,
        coldest_c=lesson.coldest_c,
        policy_overrides=real.policy_overrides,
    )
    who = run.person
    Person.objects.create(
        pk=who.pk, username=who.username, first_name=who.first_name, last_name=who.last_name, depot=depot,
        may_isolate_until=run.started_at.date() + timedelta(days=366),  # at the practice machine nobody can be hurt
    )  # fmt: skip
    for one in PRODUCTS:
        Product.objects.create(
            depot=depot, name=one.name, base=one.base.value, family=one.family.value, form=one.form.value,
            glycol_mass_percent=one.glycol_mass_percent, standards=list(one.standards), container_sizes_l=[5.0, 20.0],
        )  # fmt: skip
    Agent.objects.create(
        depot=depot, name=CLEANER.name, kind=CLEANER.kind.value, container_ml=CLEANER.container_ml,
        treats_l=CLEANER.treats_l, light_min=CLEANER.light_min, heavy_min=CLEANER.heavy_min, limit_min=CLEANER.limit_min,
        rinse_below_percent=CLEANER.rinse_below_percent,
    )  # fmt: skip
    for name, kind in ((DEMINERALISED, WaterKind.DEMINERALISED), (TAP, WaterKind.TAP)):
        WaterSource.objects.create(depot=depot, name=name.capitalize(), kind=kind.value)
    for glass in GLASSES:
        Instrument.objects.create(
            depot=depot, name=glass.name, scale=glass.scale.value, resolution=glass.resolution, zero=FACTS[glass.scale].water
        )
    Instrument.objects.create(depot=depot, name="Conductivity pen", kind="conductivity")
    bands = {key: list(card) for key, card in STRIPS.items()}
    Instrument.objects.create(depot=depot, name="Strips", kind="strips", bands=bands)
    machine = Machine.objects.create(depot=depot, fleet_number=f"P-{lesson.order % 1000:02d}", kind=lesson.machine[:60])
    for number in range(len(lesson.loops)):
        _loop(machine, lesson, number).save()


def _loop(machine: Machine, lesson: Lesson, number: int) -> Loop:
    core = loop_as_believed(lesson, number)
    believed = core.believed
    loop = Loop(
        machine=machine,
        position=number + 1,
        name=core.name,
        capacity_l=core.capacity_l,
        capacity_source=core.capacity_source.value,
        layout=LAYOUT.dump_python(core.layout, mode="json"),
        equipment=EQUIPMENT.dump_python(core.equipment, mode="json"),
        maker_families=[one.value for one in core.need.families],
        materials=[one.value for one in core.need.materials],
        low_conductivity=core.need.low_conductivity,
        high_voltage=core.high_voltage,
        cap_gauge_kpa=core.cap_gauge_kpa,
        believed_base=believed.base.value if believed.base else "",
        believed_family=believed.family.value if believed.family else "",
        believed_strength_percent=believed.strength_percent,
    )
    loop.clean()
    return loop


def forget(run: Run) -> None:
    """Remove the database of a run, if it is there."""
    for end in ("", "-wal", "-shm"):
        file_of(run).with_name(file_of(run).name + end).unlink(missing_ok=True)
