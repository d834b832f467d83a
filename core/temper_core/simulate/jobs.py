"""Whole jobs on a true machine: the entries that a careful person records, with what was true at each of them."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import replace
from random import Random

from temper_core.basis.policy import Policy
from temper_core.basis.uncertainty import Interval
from temper_core.calculate.mix import MixQuestion, mix
from temper_core.job.drain.facts import Drained, Measured
from temper_core.job.entries import JobOpened
from temper_core.job.fill.facts import Poured, StrengthAdjusted, Water
from temper_core.job.flush.facts import Method, RoundFilled
from temper_core.job.inspect.facts import Check, Tested
from temper_core.job.job_types import JobType
from temper_core.job.loop import Loop
from temper_core.job.loop_state import LoopState
from temper_core.job.mix.facts import Planned
from temper_core.job.read.facts import Place, Read
from temper_core.machine.layouts import generic_equipment, generic_layout
from temper_core.products.chemistry import Base, Family, Fluid, Requirement
from temper_core.products.water import WaterKind
from temper_core.science import Glycol
from temper_core.simulate.cases import HOT, NEW, TOOLS, Book, Case, Claimed, Played
from temper_core.simulate.machine import TrueMachine
from temper_core.simulate.truth import Tool, draw, draw_tool


def begin_and_drain(case: Case, seed: int, policy: Policy | None = None) -> tuple[TrueMachine, LoopState]:
    """Only the first drain of a job: the machine, and the state that it leads to."""
    machine, tool, book = _start(case, seed, policy or Policy())
    _begin(case, machine, tool, book)
    _drain(case, machine, book)
    return machine, book.state


def play(case: Case, seed: int, policy: Policy | None = None) -> Played:
    """One job on one true machine; the same case and seed give the same."""
    machine, tool, book = _start(case, seed, policy or Policy())
    played = Played(case, machine, book=book)
    for _ in _STEPS[case.job_type](case, machine, tool, book, played):
        pass
    played.state = book.state
    return played


def _start(case: Case, seed: int, policy: Policy) -> tuple[TrueMachine, Tool, Book]:
    rng = Random(f"{seed}-{case}")
    loop = Loop(
        "1", "Loop", case.capacity_l, case.source, generic_layout(case.layout, case.capacity_l), Requirement(),
        case.coldest_c, Fluid(Base.ETHYLENE, Family.IAT, case.believed_percent), equipment=generic_equipment(case.layout),
    )  # fmt: skip
    truth = draw(loop, Glycol.ETHYLENE, case.believed_percent, rng, policy, level_seen=case.level_seen)
    return TrueMachine(truth), draw_tool(TOOLS[case.tool], rng, policy), Book(loop, policy)


def _begin(case: Case, machine: TrueMachine, tool: Tool, book: Book) -> None:
    book.add(JobOpened(case.job_type))
    if case.level_seen:
        book.add(Tested(Check.LEVEL, "at_mark"))
    if case.read_found:
        book.add(_reading(machine, tool, Place.AS_FOUND))


def _reading(machine: TrueMachine, tool: Tool, place: Place, hot: bool = False) -> Read:
    value, zero = machine.read(tool, machine.moving if place is Place.RINSE else None)
    return Read(value, place, tool.instrument, zero, after_hot_run=hot)


def _drain(case: Case, machine: TrueMachine, book: Book) -> None:
    caught, litres = machine.drain(way=case.way)
    book.add(Drained(caught=(caught,)) if caught is not None else Drained(litres, Measured(case.way)))


def _emptied(case: Case, machine: TrueMachine, tool: Tool, book: Book, played: Played) -> None:
    """First drain, and the rounds."""
    _drain(case, machine, book)
    state = book.state
    played.claims.append(Claimed("inside after the drain", machine.inside_l, state.inside.likely_l))
    for number in range(case.rounds):
        book.add(RoundFilled(Method.FILL_RUN_DRAIN, WaterKind.DEMINERALISED))
        machine.water_to_mark()
        book.add(HOT)
        machine.run(topped=True)
        if case.read_rinses and number == 0:
            book.add(_reading(machine, tool, Place.RINSE))
        _drain(case, machine, book)
    state = book.state
    if state.flush is not None and case.rounds:
        played.claims.append(Claimed("old share", machine.old_percent, state.flush.finished_likely_percent))


def _planned(case: Case, machine: TrueMachine, book: Book, played: Played) -> float:
    """The mix as the worksheet has it: litres of product. Its claim is held against a fill by a hand without error."""
    target_c = case.coldest_c - 5
    state = book.state
    question = MixQuestion(Glycol.ETHYLENE, state.mix_capacity_l, state.mix_inside, target_c, spread=state.spread)
    answer = mix(question, book.policy)
    book.add(Planned(NEW, case.coldest_c, 5.0, target_c, answer.concentrate_l, answer.water_l))
    if answer.likely is not None:
        truth = machine.freezes_if(answer.concentrate_l)
        played.claims.append(Claimed("plan", truth, Interval(answer.likely.freeze_c_low, answer.likely.freeze_c_high)))
    return answer.concentrate_l


def _filled(case: Case, machine: TrueMachine, book: Book, played: Played) -> None:
    product_l = _planned(case, machine, book, played)
    if product_l > 0:
        machine.pour(product_l * (1 - case.spilled), 0.0)
        book.add(Poured(NEW, product_l, 0.0))
    _, water_in = machine.pour_to_mark(0.0)
    if water_in > 0.02:
        book.add(Poured(None, 0.0, water_in, Water.DEMINERALISED, at_mark=True))
    else:
        book.add(Poured(None, 0.0, 0.02, Water.DEMINERALISED, at_mark=True))
    machine.mix_all()
    book.add(HOT)
    state = book.state
    if state.predicted_likely_c is not None:
        played.claims.append(Claimed("predicted after the pours", machine.freeze_c, state.predicted_likely_c))


def _verified(case: Case, machine: TrueMachine, tool: Tool, book: Book, played: Played) -> None:
    for _ in range(case.readings):
        book.add(_reading(machine, tool, Place.FINISHED, hot=True))
    state = book.state
    if state.repeats is not None and state.repeats.likely is not None:
        played.claims.append(Claimed("reading", machine.freeze_c, state.repeats.likely))
    if state.claim.safe_to_c is not None:
        bottom = Interval(-200.0, state.claim.safe_to_c)
        played.claims.append(Claimed("protects to", machine.freezes_c, bottom))
    if state.learned is not None:
        learned = state.learned.combined
        half = learned.half
        ends = Interval(learned.value - half, learned.value + half)
        played.claims.append(Claimed("learned capacity", machine.layout.volume_l, ends))


def _change(case: Case, machine: TrueMachine, tool: Tool, book: Book, played: Played) -> Iterator[None]:
    _begin(case, machine, tool, book)
    book.add(Planned(NEW, case.coldest_c, 5.0))
    yield
    _emptied(case, machine, tool, book, played)
    yield
    _filled(case, machine, book, played)
    yield
    _verified(case, machine, tool, book, played)


def _adjust(case: Case, machine: TrueMachine, tool: Tool, book: Book, played: Played) -> Iterator[None]:
    """Some out by all drains, the plan's litres in."""
    yield from _change(replace(case, rounds=0), machine, tool, book, played)


def _top_up(case: Case, machine: TrueMachine, tool: Tool, book: Book, played: Played) -> Iterator[None]:
    """What is missing goes in as a blend; the level was low by as much."""
    machine.contents = machine.contents.lose(0.06 * case.capacity_l)
    book.add(JobOpened(case.job_type), Tested(Check.LEVEL, "low"))
    if case.read_found:
        book.add(_reading(machine, tool, Place.AS_FOUND))
    book.add(Planned(NEW, case.coldest_c, 5.0))
    yield
    in_ = machine.pour_to_mark(0.5)
    book.add(Poured(NEW, in_[0], in_[1], Water.DEMINERALISED, at_mark=True))
    machine.mix_all()
    book.add(HOT)
    state = book.state
    if state.predicted_likely_c is not None:
        played.claims.append(Claimed("predicted after the pours", machine.freeze_c, state.predicted_likely_c))
    yield
    _verified(case, machine, tool, book, played)


_STEPS: dict[JobType, Callable[[Case, TrueMachine, Tool, Book, Played], Iterator[None]]] = {
    JobType.TOP_UP: _top_up,
    JobType.ADJUST_STRENGTH: _adjust,
    JobType.REFILL: _adjust,
    JobType.CHANGE_TYPE: _change,
    JobType.CLEAN: _change,
}
JOB_TYPES = tuple(_STEPS)


def corrected(case: Case, machine: TrueMachine, out_l: float, product_l: float, water_l: float) -> StrengthAdjusted:
    """A swap as it was done, and as it is recorded."""
    machine.swap(out_l, product_l, water_l)
    return StrengthAdjusted(out_l, NEW if product_l else None, product_l, water_l)
