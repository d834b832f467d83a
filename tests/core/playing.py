"""Somebody at the practice bench: hands that act, eyes that read, and a record that holds only what they found."""

import re
from datetime import UTC, datetime, timedelta
from random import Random

from temper_core.basis.policy import Policy
from temper_core.calculate.mix import MixQuestion, mix, suggested_target_c
from temper_core.instruments.eyepiece import eyepiece
from temper_core.instruments.scales import Scale
from temper_core.job.between.facts import LevelSeen
from temper_core.job.drain.facts import Caught, Drained
from temper_core.job.entries import Entry, JobOpened
from temper_core.job.fill.closing import closing_points
from temper_core.job.fill.facts import BleedEnded, Closed, LookedUnder, Poured, Water
from temper_core.job.flush.facts import FlushEnded, Method, RoundFilled
from temper_core.job.fold import fold
from temper_core.job.inspect.decision import JobTypeChosen
from temper_core.job.inspect.facts import Check, Look, Sampled, Spot, Tested
from temper_core.job.job_types import JobType
from temper_core.job.ledger import walk
from temper_core.job.mix.facts import Planned
from temper_core.job.open.facts import EngineRun, GateObserved, Pressure, Ready, Warmth
from temper_core.job.read.facts import Place, Read
from temper_core.job.validate import check_entry
from temper_core.job.verify.facts import FinishChecked, FinishPoint, Level, SignedOff
from temper_core.machine.bleeding import BleedOutcome, FinishSign
from temper_core.machine.drain_points import still_vessels
from temper_core.practice.acts import Act, Do
from temper_core.practice.lesson import shipped
from temper_core.practice.looking_back import Recorded, look_back
from temper_core.practice.shelf import CLEANER, DEMINERALISED, GLASSES, PRODUCTS
from temper_core.practice.true_loop import loop_as_believed
from temper_core.practice.world import world
from temper_core.products.water import WaterKind
from temper_core.science import Glycol

START = datetime(2026, 3, 2, 8, tzinfo=UTC)
BY_KEY = {lesson.key: lesson for lesson in shipped()}
NEW, READY_MIX, _, _, COLD = PRODUCTS
BLED = BleedEnded(BleedOutcome.FINISHED, (FinishSign.NO_BUBBLES, FinishSign.LEVEL_STEADY))
DONE = tuple(FinishPoint)


def by_eye(seen, instrument, rng):
    """The mark that the boundary stands at, between two of them by eye, to a division."""
    marks = eyepiece(Scale(seen.scale))
    low, high = marks[0].index, marks[-1].index
    index = low + seen.boundary * (high - low)
    for one, two in zip(marks, marks[1:], strict=False):
        if index <= two.index or two is marks[-1]:
            share = (index - one.index) / (two.index - one.index)
            value = one.value + share * (two.value - one.value)
            break
    eye = rng.gauss(0.0, 0.15 * instrument.resolution)
    return round((value + eye) / instrument.resolution) * instrument.resolution


class Player:
    """One person, one run of a lesson; records are validated as the server does."""

    def __init__(self, key, seed=1, lesson=None):
        self.lesson = lesson or BY_KEY[key]
        self.world = world(self.lesson, seed)
        self.loops = [loop_as_believed(self.lesson, n) for n in range(len(self.lesson.loops))]
        self.entries = [[] for _ in self.loops]
        self.at = [[] for _ in self.loops]
        self.first, self.below_mm, self.jar = None, 0.0, None
        self.policy, self.rng, self.n = Policy(), Random(f"eye-{key}-{seed}"), 0

    # ---- hands -----------------------------------------------------------------------------------------------------

    def do(self, act, **more):
        """An act, what is found."""
        return self.world.do(Act(act, self.n, **more))

    def cool(self):
        """Wait until the hose gives and a probe finds it cold."""
        loop = self.world.loops[self.n]
        for _ in range(80):
            found = self.do(Do.FEEL).said.values
            if found["surface_c"] < 38 and found["gives"].startswith("gives"):
                return found
            self.world.wait(15)
        raise AssertionError(f"still {loop.warmth}")

    def open(self):
        """Cap off, unless it is."""
        if not self.world.loops[self.n].cap_open:
            self.do(Do.OPEN_CAP)

    def run(self, minutes=35, heater=True):
        """A hot run, written down as hands found both hoses."""
        if self.world.loops[self.n].cap_open:
            self.do(Do.CLOSE_CAP)
        self.do(Do.ENGINE_ON, heater_full=heater)
        self.world.wait(minutes)
        found = self.do(Do.ENGINE_OFF).said.values
        both = found["upper"] == found["lower"] == "too hot to hold"
        self.record(EngineRun(minutes=float(minutes), opened=both, heater_full=heater))
        return both

    def record_run_as_if_hot(self):
        """A run that stayed cold, written down as one that did not."""
        self.begin()
        self.do(Do.ENGINE_ON, heater_full=True) if not self.world.loops[self.n].running else None
        self.world.wait(30)
        self.do(Do.ENGINE_OFF)
        self.record(EngineRun(minutes=30.0, opened=True, heater_full=True))

    def record_poured(self, product, litres):
        """Litres of product, as somebody says."""
        self.record(Poured(product, litres, 0.0))

    def level(self):
        """As it is seen."""
        found = self.do(Do.LEVEL).said
        code, self.below_mm = found.code, float(found.values.get("low", 0))
        return {"level_at_mark": Level.AT_MARK, "level_over": Level.OVER}.get(code, Level.LOW)

    # ---- the record ------------------------------------------------------------------------------------------------

    @property
    def state(self):
        """As the record has it."""
        return fold(self.loops[self.n], self.entries[self.n], self.policy)

    def record(self, facts):
        """What was found, checked as the server checks it."""
        loop, entries = self.loops[self.n], self.entries[self.n]
        at = START + timedelta(minutes=self.world.at_min)
        between = isinstance(facts, LevelSeen)
        if not isinstance(facts, JobOpened):
            check_entry(loop, entries, facts, self.policy, now=at, person_id="1", between=between)
        job = None if between else "job"
        entries.append(Entry(f"e{self.n}-{len(entries)}", job, at, at, "IH", facts, "1", len(entries)))
        self.at[self.n].append(self.world.at_min)

    def gate_free(self):
        """Cold and open, nothing recorded."""
        self.cool()
        self.open()

    def gate(self):
        """Felt and cold."""
        found = self.cool()
        soft = found["gives"].startswith("gives")
        self.record(
            GateObserved(Warmth.PROBE, Pressure.HOSE, temperature_c=found["surface_c"], soft=soft, ready=tuple(Ready),
                         isolated_by="IH")
        )  # fmt: skip

    def begin(self, job_type=None):
        """The job, the level, the look of a sample, the decision."""
        self.record(JobOpened(job_type or self.lesson.job_type))
        if self.first is not None:
            self.record(self.first)
        self.gate()
        level = self.level()
        self.open()
        figures = {"missing_mm": self.below_mm} if level is Level.LOW and self.below_mm else {}
        outcome = {Level.AT_MARK: "at_mark", Level.OVER: "over"}.get(level, "low")
        self.record(Tested(Check.LEVEL, outcome, figures))
        jar = self.do(Do.SAMPLE).jar
        self.record(Sampled(Spot.NECK, tuple(Look(one) for one in jar.looks), jar.sediment_mm))

    def read(self, place, hot=False, glass=GLASSES[0], zero=True):
        """Water, then the sample, both by eye."""
        water = by_eye(self.do(Do.LOOK_WATER, glass=glass.name).glass, glass, self.rng) if zero else None
        self.open()
        self.do(Do.SAMPLE)
        self.world.wait(20)
        value = by_eye(self.do(Do.LOOK_SAMPLE, glass=glass.name).glass, glass, self.rng)
        self.record(Read(value, place, glass, water, after_hot_run=hot))
        return value

    def decide(self):
        """As advised, else as it was opened."""
        state = self.state
        advised = state.advice.job_type if state.advice else state.job_type
        self.record(JobTypeChosen(state.job_type, advised, "" if advised is state.job_type else "the lesson"))

    def plan(self, product=NEW):
        """Which coolant goes in."""
        self.record(Planned(product, self.lesson.coldest_c, 5.0))

    @property
    def target_c(self):
        """As it is suggested."""
        return float(suggested_target_c(Glycol.ETHYLENE, self.lesson.coldest_c, self.policy))

    def worksheet(self):
        """Litres of product, with what is inside."""
        state = self.state
        question = MixQuestion(Glycol.ETHYLENE, state.mix_capacity_l, state.mix_inside, self.target_c, spread=state.spread)
        return mix(question, self.policy)

    def drain(self, bottle=True, marks=False):
        """Every drain with its container on the scale, or by its marks; the bottle lifted out."""
        loop = self.world.loops[self.n]
        self.open()
        caught, looks = [], None
        by_hand = still_vessels(loop.machine.layout, loop.loop.equipment) if bottle else []
        for where in [drain.letter for drain in loop.machine.layout.drains] + by_hand:
            one = self.do(Do.DRAIN, where=where)
            found, looks = one.said.values, looks or one.jar
            by_scale = Caught(where, float(found["gross"]), float(found["tare"]))
            caught.append(Caught(where, marks_l=found["marks_l"]) if marks else by_scale)
        self.jar = looks
        self.record(Drained(caught=tuple(caught)))
        if looks is not None and self.state.flush is not None:
            self.record(Sampled(Spot.DRAIN, tuple(Look(row) for row in looks.looks), looks.sediment_mm))
        self.do(Do.SHUT_DRAINS)

    def rinse(self, method=Method.FILL_RUN_DRAIN, minutes=35, marks=False):
        """Water, or cleaner, to the mark; a run; cold again; out."""
        cleaner = method is Method.CLEANER
        if cleaner:
            dose_ml = CLEANER.container_ml * self.loops[self.n].capacity_l / CLEANER.treats_l
            self.do(Do.POUR, what=CLEANER.name, litres=dose_ml / 1000)
        more = {"agent": CLEANER, "agent_ml": dose_ml, "run_min": float(minutes)} if cleaner else {}
        self.do(Do.POUR, what=DEMINERALISED, to_mark=True)
        self.record(RoundFilled(method, WaterKind.DEMINERALISED, **more))
        self.run(minutes)
        self.gate()
        self.drain(marks=marks)

    def flush(self, marks=False):
        """Until the counted share is under its limit."""
        for _ in range(9):
            flush = self.state.flush
            if flush.enough.enough:
                break
            self.rinse(marks=marks)
        self.record(FlushEnded("the counted share is low enough"))

    def fill(self):
        """Shut, the worksheet's product, water to the mark, looked under, run hot, topped up, bled."""
        sheet = self.worksheet()
        litres = sheet.concentrate_l
        self.record(Planned(NEW, self.lesson.coldest_c, 5.0, self.target_c, litres, sheet.water_l))
        points = tuple(point.key for point in closing_points(walk(self.loops[self.n], self.entries[self.n], self.policy)))
        if points:
            self.record(Closed(points))
        if litres >= 0.05:
            shown = self.do(Do.POUR, what=NEW.name, litres=litres).said.values["shown_l"]
            self.record(Poured(NEW, shown, 0.0, at_mark=self.level() is not Level.LOW))
        self.to_mark(DEMINERALISED, None)
        self.record(LookedUnder(True))
        for _ in range(2):
            self.run()
            self.gate()
            self.open()
            for one in self.world.loops[self.n].machine.layout.bleeders:
                self.do(Do.BLEED, where=str(one.number))
            if self.level() is Level.LOW:
                self.to_mark(DEMINERALISED, None)
        self.record(BLED)

    def to_mark(self, what, product):
        """Up to the mark; written down as the jug shows it."""
        if self.world.loops[self.n].seen_room_l < 0.02:
            return
        shown = self.do(Do.POUR, what=what, to_mark=True).said.values["shown_l"]
        if product is not None:
            self.record(Poured(product, shown, 0.0, at_mark=True))
        else:
            self.record(Poured(None, 0.0, max(0.02, shown), Water.DEMINERALISED, at_mark=True))

    def top_up(self, product=NEW, share=0.5):
        """Half coolant, half water, to the mark."""
        room = self.world.loops[self.n].seen_room_l
        if room < 0.05:
            return
        shown = self.do(Do.POUR, what=product.name, litres=max(0.05, room * share)).said.values["shown_l"]
        self.record(Poured(product, shown, 0.0))
        self.to_mark(DEMINERALISED, None)

    def finish(self, zero=True):
        """A hot run, a sample, the level, the name under it."""
        self.run()
        self.gate()
        self.read(Place.FINISHED, hot=True, zero=zero)
        self.record(FinishChecked(self.level(), 20.0, None, "no tester here", DONE))
        self.sign()

    def sign(self):
        """By the verdict as it stands."""
        state = self.state
        proof = "checked" if state.job_type in (JobType.CHECK, JobType.DOSE) else state.proof.verdict.value
        self.record(SignedOff(proof, "the lesson", service_mode_ended=True))

    def back(self):
        """The truth beside the record."""
        records = [
            Recorded(loop, tuple(self.entries[n]), tuple(self.at[n])) for n, loop in enumerate(self.loops)
        ]  # fmt: skip
        return look_back(self.world, records, self.policy)


def sentence(message):
    """As people read it."""
    return re.sub(r"\s+", " ", message.sentence)
