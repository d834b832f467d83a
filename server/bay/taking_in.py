"""A machine taken in on a tablet without a network: in its kit until the depot has it.

It is numbered far above what a database gives, by its UUID, so that it has the same numbers whenever what waits is read
again; the page that sends it puts the depot's own numbers in their place. No Django in here.
"""

from __future__ import annotations

from datetime import UTC, datetime
from typing import Any
from uuid import UUID

from bay.kit import LOOP, KitLoop
from bay.work import LoopAtWork, Work
from fleet.schemas import LoopCard, LoopDetail, LoopSpec, MachineAdded, MachineCard, MachineDetail, MachineIn, MachineListed
from fleet.taking_in import NewLoop, check_named, check_one_way, loops_of_kind, new_loop, owner_said
from jobs.schemas import LoopOut, LoopRow
from temper_core.basis.errors import Conflict, CoreError, under
from temper_core.job.ledger import walk
from temper_core.machine.bleed_recipes import shipped_recipes
from temper_core.machine.equipment import cautions, level_words
from temper_core.machine.joined import check_joined
from temper_core.machine.layouts import is_usual
from temper_core.views.loop_line import loop_line

LOCAL = 9_000_000_000_000  # from here on a number is this tablet's own
_ENTERED = tuple(name for name in LoopSpec.model_fields if name not in ("layout", "equipment"))
APART, LOOPS = 10**11, 20
LIKE = "Like another needs the network, which has all of them. Take it in by its kind or its build."


def local_number(machine: UUID) -> int:
    """The number of a machine that this tablet took in; its loops follow."""
    return LOCAL + machine.int % APART * LOOPS


def take_in(work: Work, given: MachineIn, now: datetime) -> MachineAdded:
    """Into the kit, as the server would take it in; sent twice it is there once. Raises CoreError or Conflict."""
    number = check_named(given.fleet_number, given.kind)
    check_one_way(given)
    owner = owner_said(given.owner)
    if given.copy_of is not None:
        raise Conflict("copy_of", LIKE, "needs_network")
    pk = local_number(given.id)
    loops = [at for at in work.loops.values() if at.kept.machine.id == pk]
    if not loops:
        if number.casefold() in {row["machine"]["fleet_number"].casefold() for row in machines(work)["machines"]}:
            raise Conflict("fleet_number", f"{number} is in use already. Choose another number.", "taken")
        if work.kit.depot.coldest_c is None:
            raise CoreError("", "This tablet's kit is of an older version. Find a network first.", "kit_older")
        if given.loop is not None:
            with under("loop"):
                made = [new_loop(given.loop)]
        else:
            assert given.of_kind is not None
            made = loops_of_kind(given.of_kind)
        loops = _put(work, given.model_copy(update={"owner": owner}), number, made, now)
    return MachineAdded(id=pk, loop_ids=[at.kept.id for at in loops], fleet_number=number)


def _put(work: Work, given: MachineIn, number: str, made: list[NewLoop], now: datetime) -> list[LoopAtWork]:
    pk, depot = local_number(given.id), work.kit.depot
    machine = MachineListed(
        id=pk,
        uuid=given.id,
        fleet_number=number,
        kind=given.kind.strip(),
        description=given.description.strip(),
        year=given.year,
        unchecked=work.me.role != "lead",
        taken_in_by_id=work.me.id,
        owner_name=given.owner.name if given.owner is not None else "",
    )
    put = []
    for row in made:
        loop_id = pk + row.position
        with under("loop"):
            check_joined(row.layout)
            core = row.core(str(loop_id), given.year, depot.coldest_c or 0.0, depot.altitude_m)
        shown = LoopOut(
            id=loop_id,
            uuid=row.uuid(given.id),
            name=core.name,
            position=row.position,
            loops_on_machine=len(made),
            capacity_l=core.capacity_l,
            capacity_source=core.capacity_source,
            layout=core.layout,
            high_voltage=core.high_voltage,
            low_conductivity=row.given.low_conductivity,
            cap_gauge_kpa=core.cap_gauge_kpa,
            room_l=core.layout.room_l,
            usual_layout=is_usual(core.layout),
        )
        kept = KitLoop(
            id=loop_id,
            loop=LOOP.dump_python(core, mode="json"),
            machine=machine,
            shown=shown,
            rows=[],
            listed=[],
            opener=None,
            job_opened_at=None,
            drafts=[],
            in_doubt=[],
        )
        work.loops[loop_id] = LoopAtWork(kept)
        put.append(work.loops[loop_id])
    work.taken_in[pk] = _detail(machine, made, now)
    return put


def _detail(machine: MachineListed, made: list[NewLoop], now: datetime) -> MachineDetail:
    return MachineDetail(
        machine=machine,
        owner=None,
        edited_at=now.astimezone(UTC),
        loops=[
            LoopDetail(
                id=machine.id + row.position,
                uuid=row.uuid(machine.uuid),
                position=row.position,
                spec=LoopSpec(
                    **{name: getattr(row.given, name) for name in _ENTERED},
                    layout=row.layout,
                    equipment=row.equipment,
                ),
                edited_at=now.astimezone(UTC),
                open=False,
                capacity_note=row.capacity_note,
                room_l=row.layout.room_l,
                usual=is_usual(row.layout),
                level=level_words(row.equipment),
                cautions=list(cautions(row.equipment, row.given.high_voltage is not False)),
                recipes=list(shipped_recipes(row.layout)),
            )
            for row in made
        ],
    )


def machines(work: Work) -> dict[str, Any]:
    """The list of machines as last seen, with those that were taken in here since."""
    seen = work.kit.answers.get("/api/machines") or {"machines": []}
    here = []
    for detail in work.taken_in.values():
        cards = [
            LoopCard(
                id=row.id,
                name=row.spec.name,
                capacity_l=row.spec.capacity_l,
                open=work.loops[row.id].job_id is not None,
                last_freeze_c=None,
                last_signed_at=None,
                due_on=None,
                overdue=False,
            )
            for row in detail.loops
        ]
        here.append(MachineCard(machine=detail.machine, loops=cards).model_dump(mode="json"))
    return {**seen, "machines": [*seen["machines"], *here]}


def loops(work: Work, now: datetime) -> dict[str, Any]:
    """The list of loops as last seen, with those of machines that were taken in here since."""
    seen = work.kit.answers.get("/api/loops") or {"loops": []}
    here = []
    for detail in work.taken_in.values():
        for row in detail.loops:
            at = work.loops[row.id]
            fold = walk(at.loop, work.record(at, now).core, work.policy, now=now)
            listed = LoopRow(
                machine=detail.machine,
                loop_id=row.id,
                loop_name=row.spec.name,
                capacity_l=row.spec.capacity_l,
                capacity_source=row.spec.capacity_source,
                signed_at=None,
                line=loop_line(fold, None, now),
            )
            here.append(listed.model_dump(mode="json"))
    return {**seen, "loops": [*seen["loops"], *here]}
