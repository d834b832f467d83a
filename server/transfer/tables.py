"""The tables of a depot's archive, in the order they are taken in, with what each column is.

Left out on purpose: passwords, sessions, devices, tokens and the links of walls, which are keys; what somebody had typed and
not recorded; and what was tried at the door.
"""

from __future__ import annotations

from collections.abc import Iterator
from datetime import date, datetime
from decimal import Decimal
from typing import Any
from uuid import UUID

from django.db import models

from transfer.personal import OWNERS
from transfer.practice_tables import PRACTICE
from transfer.shelf_tables import SHELF
from transfer.table import ADDED_AS, BY, DAY, LINE, TIME, Table

TABLES = (
    Table(
        "depots",
        "depots.Depot",
        "pk",
        {
            "id": "number of the row",
            "name": "as shown",
            "time_zone": "IANA name",
            "currency": "ISO 4217",
            "altitude_m": "above sea level [m]",
            "coldest_c": "coldest temperature expected outdoors [degC]",
            "policy_overrides": "rules a lead has set, by key",
            "units": "what a device shows until somebody chooses on it: metric, us, imperial",
            "put_away_at": f"when Getting started was put away; {TIME}; empty: not",
        },
    ),
    Table(
        "people",
        "people.Person",
        "depot",
        {
            "id": "number of the row",
            "username": "signs in as",
            "first_name": "first name",
            "last_name": "last name",
            "is_active": "may sign in",
            "date_joined": f"added; {TIME}",
            "last_login": f"signed in last; {TIME}; empty: never",
            "depot_id": "depot",
            "role": "technician or lead",
            "may_isolate_until": "last day on which they may isolate high voltage, as a lead said; empty: they may not",
        },
    ),
    Table(
        "person_changes",
        "people.PersonChange",
        "depot",
        {
            "id": "number of the row",
            "depot_id": "depot",
            "person_id": "whose account",
            "by_id": "by whom; empty: on the command line",
            "what": "what was done",
            "detail": "more of it",
            "at": f"when; {TIME}",
        },
    ),
    Table(
        "rule_changes",
        "depots.PolicyChange",
        "depot",
        {
            "id": "number of the row",
            "depot_id": "depot",
            "key": "rule",
            "value": "new value in the rule's unit; empty: back to the shipped one",
            "reason": "why",
            "person_id": "by whom",
            "changed_at": f"when; {TIME}",
        },
    ),
    Table(
        "night_lows",
        "depots.NightLow",
        "depot",
        {
            "id": "number of the row",
            "depot_id": "depot",
            "night": f"the evening's date; {DAY}",
            "low_c": "the night's low [degC]; empty: the entered one was undone",
            **BY,
        },
    ),
    Table(
        "products",
        "catalogue.Product",
        "depot",
        {
            **LINE,
            "base": "ethylene, propylene, glycerol or water",
            "family": "inhibitor family",
            "form": "concentrate or ready-mix",
            "glycol_mass_percent": "glycol as sold [% by mass]",
            "glycol_stated": "false: its label is silent, the figure is what is usual",
            "label_entered": "false: from the starter list, its label not entered yet",
            "standards": "standards it states, a list",
            "container_sizes_l": "sizes it is sold in [l], a list",
            "price_per_l": "price of a litre, in the depot's currency",
        },
    ),
    Table(
        "agents",
        "catalogue.Agent",
        "depot",
        {
            **LINE,
            "kind": "cleaner, degreaser and the like",
            "container_ml": "content of a container [ml]",
            "treats_l": "litres of loop that one container treats [l]",
            "light_min": "run for light dirt [min]",
            "heavy_min": "run for heavy dirt [min]",
            "limit_min": "longest it may stay in by its label [min]",
            "rinse_below_percent": "rinse until less than this is left [%]",
            "nitrite_mg_l": "of an additive: what one label dose raises nitrite by [mg/l]",
            "molybdate_mg_l": "of an additive: what one label dose raises molybdate by [mg/l]",
            "families": "families of coolant that the additive's label names, a list",
            "price": "price of a container",
        },
    ),
    Table(
        "waters",
        "catalogue.WaterSource",
        "depot",
        {
            **LINE,
            "kind": "demineralised, distilled, town and the like",
            "chloride_mg_l": "chloride [mg/l]",
            "sulphate_mg_l": "sulphate [mg/l]",
            "hardness_mg_l": "hardness as calcium carbonate [mg/l]",
            "solids_mg_l": "dissolved solids [mg/l]",
            "ph": "pH",
            "analysed_on": f"day of the analysis; {DAY}",
            "price_per_l": "price of a litre",
        },
    ),
    *OWNERS,
    Table(
        "machines",
        "fleet.Machine",
        "depot",
        {
            "id": "number of the row",
            "depot_id": "depot",
            "fleet_number": "as on its plate",
            "kind": "kind of machine",
            "description": "more of it",
            "year": "built",
            "edited_at": LINE["edited_at"],
            "uuid": LINE["uuid"],
            "taken_in_by_id": "who took it in; empty: before 0.7.0",
            "taken_in_at": f"when; {TIME}",
            "checked_by_id": "the lead who looked it over; empty: nobody yet",
            "checked_at": f"when; {TIME}",
            "owner_id": "whom it belongs to; row of owners; empty: the depot's own",
        },
    ),
    Table(
        "loops",
        "fleet.Loop",
        "machine__depot",
        {
            "id": "number of the row",
            "machine_id": "machine",
            "name": "as shown",
            "position": "its number on the machine, from 1",
            "capacity_l": "what it holds [l]",
            "capacity_source": "where that is from",
            "capacity_sd_l": "standard uncertainty, where known better than from its source [l]",
            "capacity_known_at": f"when that was learned; {TIME}",
            "capacity_note": "how",
            "layout": "vessels, pipes, taps and vents",
            "equipment": "what it has",
            "coldest_c": "coldest expected, where it differs from the depot's [degC]",
            "maker_families": "inhibitor families the maker approves, a list",
            "maker_standards": "standards the maker asks for, a list",
            "maker_stated_in": "where the maker says so",
            "materials": "wetted materials, a list",
            "glycol_forbidden": "no glycol may go in",
            "low_conductivity": "low-conductivity fluid only",
            "use": "what a low-conductivity loop cools",
            "high_voltage": "beside high voltage; empty: not known, which counts as yes",
            "taught": "what its jobs taught by figure, and what a lead decided of it",
            "cap_gauge_kpa": "what the cap holds above ambient [kPa]",
            "believed_base": "base believed inside before the first job",
            "believed_family": "family believed inside",
            "believed_strength_percent": "strength believed inside [% by volume]",
            "edited_at": LINE["edited_at"],
            "uuid": LINE["uuid"],
        },
    ),
    Table(
        "instruments",
        "instruments.Instrument",
        "depot",
        {
            "id": "number of the row",
            "depot_id": "depot",
            "name": "as shown",
            "kind": "kind of instrument",
            "scale": "scale it reads",
            "resolution": "a division, in the scale's unit",
            "compensated": "corrects for the sample's temperature",
            "compensation_low_c": "from [degC]",
            "compensation_high_c": "to [degC]",
            "steps_c": "steps of a step tester [degC], a list",
            "bands": "bands of a strip, a list",
            "address": "where it answers, if it reads by itself",
            "retired": "not used any more",
            "zero": "what water read at the last zero check",
            "zeroed_at": f"when; {TIME}",
            "bias_percent": "what it reads too much, as learned [% by mass]",
            "bias_sd": "standard deviation of that [% by mass], empty: nothing learned",
            "bias_note": "against which instrument, by whom, when",
            "edited_at": LINE["edited_at"],
            "uuid": LINE["uuid"],
        },
    ),
    Table(
        "zero_checks",
        "instruments.ZeroCheck",
        "instrument__depot",
        {
            "id": "number of the row",
            "instrument_id": "instrument",
            "at": f"when; {TIME}",
            "value": "what water read, in the scale's unit",
            "water_c": "temperature of the water [degC]",
            "adjusted": "was set back to zero",
            "person_id": "by whom",
            "added_as": ADDED_AS,
        },
    ),
    Table(
        "jobs",
        "jobs.Job",
        "machine__depot",
        {
            "id": "UUID",
            "machine_id": "machine",
            "opened_by_id": "opened by",
            "opened_at": f"when; {TIME}",
        },
    ),
    Table(
        "job_loops",
        "jobs.JobLoop",
        "loop__machine__depot",
        {
            "id": "number of the row",
            "job_id": "job",
            "loop_id": "loop",
            "signed_at": f"signed off; {TIME}; empty: in work",
            "signed_by_id": "by whom",
            "result": "state, rules, loop and version as they were at the sign-off",
            "handed_on": "what it hands on to the loop's next job",
        },
    ),
    Table(
        "entries",
        "jobs.Entry",
        "loop__machine__depot",
        {
            "id": "UUID, made by whoever recorded it",
            "loop_id": "loop",
            "job_id": "job; empty: between services",
            "seq": "number in the loop's record, from 1",
            "kind": "what was done or seen",
            "facts": "its figures, by kind, with units in their names",
            "happened_at": f"when it happened; {TIME}",
            "recorded_at": f"when it was recorded; {TIME}",
            "person_id": "by whom",
            "sent": "SHA-256 of what was sent under this id",
            "before": "hash of the entry before it in the loop's record: docs/running.md says of what",
        },
    ),
    Table(
        "ledger_heads",
        "jobs.LedgerHead",
        "loop__machine__depot",
        {"loop_id": "loop", "seq": "number of its last entry", "hash": "hash of its last entry"},
    ),
    Table(
        "imports",
        "instruments.ReadingImport",
        "depot",
        {
            "id": "UUID",
            "depot_id": "depot",
            "person_id": "by whom",
            "at": f"when; {TIME}",
            "file_name": "name of the file",
            "lines": "lines it had",
            "imported": "readings taken from it",
            "undone_at": f"since then they count nowhere; {TIME}; empty: they count",
            "undone_by_id": "by whom",
        },
    ),
    Table(
        "readings",
        "instruments.Reading",
        "depot",
        {
            "id": "number of the row",
            "entry_id": "the entry it is of",
            "depot_id": "depot",
            "loop_id": "loop",
            "instrument_id": "instrument",
            "person_id": "by whom",
            "taken_at": f"when; {TIME}",
            "scale": "scale of value and zero",
            "value": "what it read",
            "zero": "what water read on it; empty: none was taken",
            "sample_c": "temperature of the sample [degC]",
            "place": "as_found, rinse or finished",
            "edge": "sharp, soft or two_lines",
            "after_hot_run": "after a hot run",
            "glycol": "base of the loop when it was read",
            "freeze_c": "result [degC]",
            "at_least_c": "freezes at this or colder, where it left the scale [degC]",
            "glycol_mass_percent": "result [% by mass]",
            "sd_mass_percent": "its standard uncertainty [% by mass]",
            "expected_percent": "what the litres had it at [% by mass]",
            "expected_sd": "standard uncertainty of that [% by mass]",
            "listed": "from an imported list",
            "source_id": "the import it is from",
            "voided": "undone",
        },
    ),
    Table(
        "photos",
        "jobs.Photo",
        "loop__machine__depot",
        {
            "id": "number of the row",
            "entry_id": "the entry that added it",
            "loop_id": "loop",
            "sha256": "SHA-256 of the file photos/<first two>/<sha256>.jpg",
        },
    ),
    Table(
        "rejudged",
        "jobs.Rejudged",
        "part__loop__machine__depot",
        {
            "id": "number of the row",
            "part_id": "row of job_loops",
            "code": "what is worse by later rules",
            "said": "in words, with figures",
            "act": "what to do next",
            "found_at": f"when; {TIME}",
            "answer": "what was done about it",
            "answered_at": f"when; {TIME}",
            "answered_by_id": "by whom",
        },
    ),
    Table(
        "appointments",
        "jobs.Appointment",
        "depot",
        {
            "id": "number of the row",
            "depot_id": "depot",
            "key": "what comes due",
            "day": f"planned for; {DAY}; empty: the day it is due",
            "person_id": "assigned to; empty: nobody",
            "by_id": "planned by",
            "at": f"when; {TIME}",
        },
    ),
    *SHELF,
    *PRACTICE,
)
LEFT_OUT = {
    "people.Person": {"password", "is_superuser", "is_staff", "email", "must_change"},
}
NOT_TAKEN = {
    "people.SignedIn",
    "people.FirstRunCode",
    "people.ApiToken",
    "depots.WallLink",
    "jobs.Draft",
    "jobs.Rechained",
    "instruments.ReadingImport",
    "practice.Offered",
    "practice.Did",
}


def rows_of(table: Table, depot_id: int) -> Iterator[dict[str, Any]]:
    """A depot's rows of a table in the order of their keys, as JSON has them."""
    found = table.of._default_manager.filter(**{table.depot: depot_id}).order_by("pk")
    for row in found.values(*table.columns).iterator(chunk_size=2000):
        yield {name: plain(value) for name, value in row.items()}


def plain(value: Any) -> Any:
    """A value as JSON has it; times to the microsecond."""
    if isinstance(value, datetime | date):
        return value.isoformat()
    return str(value) if isinstance(value, UUID | Decimal) else value


def row_from(table: Table, given: dict[str, Any]) -> models.Model:
    """A row as the database has it; raises ValueError, TypeError or ValidationError for what it cannot have."""
    fields = {field.attname: field for field in table.of._meta.concrete_fields}
    if "added_as" in given and "added_as" not in table.columns:  # as archives of before 0.7.0 called it
        given = {("uuid" if name == "added_as" else name): value for name, value in given.items()}
        given = {name: value for name, value in given.items() if (name, value) != ("uuid", None)}
    unknown = sorted(set(given) - set(table.columns))
    if unknown:
        raise ValueError(f"'{unknown[0]}' is no column of {table.name}")
    values = {}
    for name, value in given.items():
        field = fields[name]
        if isinstance(field, models.ForeignKey):
            field = field.target_field
        values[name] = value if isinstance(field, models.JSONField) or value is None else field.to_python(value)
    return table.of(**values)
