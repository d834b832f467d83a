"""What each entry does to what is inside, kept as acts beside the fold's own figures: the doubt is reckoned from them.

Each function stands where the fold changes its contents, and adds the same change with its uncertain inputs.
"""

from __future__ import annotations

import math
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import replace

from temper_core.basis.quantity import VolumePercent
from temper_core.job.doubt.acts import Errors, Lost, Noted, Out, Poured, Ran, Rebased, Swept, Thickened, Water
from temper_core.job.doubt.full import Full
from temper_core.job.doubt.inputs import Input, Source
from temper_core.job.doubt.level import level_of
from temper_core.job.doubt.seen import AtMark, Between, ReadW
from temper_core.job.doubt.sight import sight_of
from temper_core.job.drain.facts import Measured
from temper_core.job.drain.state import DrainedVolume
from temper_core.job.fold_state import LedgerFold, capacity_sd_l
from temper_core.job.read.facts import Place, Read
from temper_core.machine.circuit import NodeKind
from temper_core.machine.contents import Contents
from temper_core.products.chemistry import Base, Product
from temper_core.products.label import product_sd_percent
from temper_core.science import Glycol, mass_fraction_of, specific_volume

AIR_LEFT, AIR_LEFT_SD = 0.007, 0.010  # of the capacity, level at the mark and not bled: common practice, no source
BLED, BLED_SD = 0.002, 0.005  # and once it was
UNKNOWN_PERCENT = 30.0  # strength of what nobody knows: counted as water, it may be anything, one standard deviation


def _order(t: LedgerFold) -> dict[str, int]:
    return {node.id: i for i, node in enumerate(t.loop.layout.nodes)}


def begin(t: LedgerFold) -> None:
    """A loop as it comes in: full of what is believed or was read. Readings as found so far stay."""
    kept = [step for step in t.acts if isinstance(step, (ReadW, Between))] if t.job.drained is None else []
    t.acts = [_full(t), *kept]


def begin_again(t: LedgerFold) -> None:
    """The same, and nothing seen before counts for it."""
    t.acts = [_full(t)]


def begin_as_read(t: LedgerFold, w: float, sd_w: float) -> None:
    """Full and mixed, as strong as it was read; what the litres said before counts no more."""
    t.acts = [replace(_full(t), w=w, weaker=w - sd_w, stronger=w + sd_w)]


def _full(t: LedgerFold) -> Full:
    policy, nodes = t.policy, t.loop.layout.nodes
    whole = t.loop.layout.volume_l
    at = VolumePercent(t.contents.strength)
    sd = policy["inside_sd_unread"]
    if t.base is Base.NONE:
        sd = 0.0
    elif t.strength_read and not _as_found(t) and not _told(t):
        sd = policy["inside_sd_read"] if t.since.read_sd is None else t.since.read_sd  # of an earlier job
    elif not t.strength_known:
        sd = UNKNOWN_PERCENT
    w, weaker, stronger = (
        mass_fraction_of(t.glycol, VolumePercent(min(100.0, max(0.0, x)))) for x in (at, at - sd, at + sd)
    )
    slope = w - mass_fraction_of(t.glycol, VolumePercent(min(100.0, sd))) if at - sd < 0 else weaker
    missing, level_sd = level_of(t)
    source = policy["capacity_sd_measured"] * t.loop.capacity_l / 100
    spread = capacity_sd_l(t.loop, policy)
    found_better = policy["inside_sd_read"] / sd if sd > 2 * policy["inside_sd_read"] else None
    return Full(
        specific_volume(t.glycol),
        tuple(node.volume_l for node in nodes),
        w,
        slope,
        stronger,
        Input("capacity", Source.CAPACITY, source / spread if spread > 1.5 * source else None),
        spread / t.loop.capacity_l,
        Input("found", Source.FOUND, found_better),
        Input("level", Source.LEVEL, 0.2 if level_sd > 0.005 * whole else None),
        missing,
        level_sd,
        next((i for i, node in enumerate(nodes) if node.kind is NodeKind.TANK and node.volume_l > 0), 0),
    )


def _told(t: LedgerFold) -> bool:
    """Whether its strength was only reported."""
    found = [facts for _, facts in t.job.verify.readings if facts.place is Place.AS_FOUND]
    return bool(found) and found[-1].instrument is None


def _as_found(t: LedgerFold) -> bool:
    return any(isinstance(step, (ReadW, Between)) for step in t.acts)


def _errors(t: LedgerFold, source: Source, key: str, parts: Iterable[tuple[str, float, float | None]]) -> Errors:
    """Errors of litres: by way, a part that every use of it shares, and a part of its own.

    parts: name of the way, standard deviation as a share of the litres, what measuring well would make of it.
    """
    shared = t.policy["shared_error_percent"] / 100
    rows: list[tuple[Input, float]] = []
    for way, sd, better in parts:
        rows.append((Input(way, source, better), sd * math.sqrt(shared)))
        rows.append((Input(f"{key}:{way}", source, better), sd * math.sqrt(1 - shared)))
    return tuple((one, sd) for one, sd in rows if sd > 0)


def _out_errors(t: LedgerFold, out: DrainedVolume, key: str) -> Errors:
    if out.litres <= 0:
        return ()
    best = t.policy["drained_sd_weighed"]
    parts: list[tuple[str, float, float | None]] = []
    for way, litres in out.ways.items():
        sd = t.policy[f"drained_sd_{way}"]
        better = best / sd if way != Measured.WEIGHED.value and sd > 1.5 * best else None
        parts.append((way, litres / out.litres * sd / 100, better))
    errors = _errors(t, Source.DRAINED, key, parts)
    if out.spilled_l > 0:
        errors += ((Input(f"{key}:spilled", Source.DRAINED), out.spilled_l / 2 / out.litres),)
    return errors


def came_out(t: LedgerFold, before: Contents, after: Contents, out: DrainedVolume, entry_id: str) -> None:
    """Litres left their vessels."""
    held, left = before.all_litres(), after.all_litres()
    gone = tuple(held[vessel] - left[vessel] for vessel in held)
    tilt = 0.0 if out.by_vessel else t.policy["tilt_sd_percent"] / 100
    t.acts.append(
        Out(
            gone,
            _out_errors(t, out, f"out:{entry_id}"),
            Input(f"tilt:{entry_id}", Source.EXCHANGE),
            tilt if sum(1 for x in gone if x > 0) > 1 else 0.0,
            min(1.0, out.by_kg_l / out.litres) if out.litres > 0 else 0.0,
            out.by_kg_l / out.kg if out.kg > 0 else 1.0,
        )
    )


def water_in(t: LedgerFold, litres: float | None, entry_id: str) -> None:
    """Rinse water went in."""
    sd = t.policy["poured_sd"] / 100
    errors = () if litres is None else _errors(t, Source.POURED, f"in:{entry_id}", [("jug", sd, None)])
    t.acts.append(Water(litres, errors))


def ran(t: LedgerFold, groups: Sequence[Sequence[str]], to_mark: bool = False) -> None:
    """What circulated is one fluid now."""
    order = _order(t)
    t.acts.append(Ran(tuple(tuple(order[v] for v in group) for group in groups), to_mark))


def ran_through(t: LedgerFold) -> None:
    """All of it mixed."""
    t.acts.append(Ran((tuple(range(len(t.loop.layout.nodes))),)))


def note_round(t: LedgerFold, number: int, vessels: Sequence[str]) -> None:
    """Keep what the round that runs holds."""
    order = _order(t)
    t.acts.append(Noted(f"round{number}", tuple(order[v] for v in vessels)))


def note_drained(t: LedgerFold, number: int) -> None:
    """Keep what a round left."""
    t.acts.append(Noted(f"left{number}", tuple(range(len(t.loop.layout.nodes)))))


def swept(t: LedgerFold, litres: Mapping[str, float]) -> None:
    """Water through vessels that ran out meanwhile; what one exchanges is its own."""
    order, sd = _order(t), t.policy["exchange_sd_percent"] / 100
    for vessel, through in litres.items():
        t.acts.append(Swept(order[vessel], through, Input(f"exchange:{vessel}", Source.EXCHANGE), sd))


def blown_out(t: LedgerFold, litres: Mapping[str, float], entry_id: str) -> None:
    """Litres that air pushed out of each vessel, as caught by marks."""
    order, whole = _order(t), sum(litres.values())
    out = [0.0] * len(order)
    for vessel, one in litres.items():
        out[order[vessel]] = one
    if whole <= 0:
        return
    marks, best = t.policy["drained_sd_marks"], t.policy["drained_sd_weighed"]
    errors = _errors(t, Source.DRAINED, f"out:{entry_id}", [(Measured.MARKS.value, marks / 100, best / marks)])
    t.acts.append(Out(tuple(out), errors, Input(f"tilt:{entry_id}", Source.EXCHANGE), 0.0))


def _product_sd(t: LedgerFold, product: Product | None) -> float:
    return product_sd_percent(product, t.policy) / 100 if product is not None and product.base.glycol is not None else 0.0


def poured(t: LedgerFold, product: Product | None, product_l: float, water_l: float, key: str, at_mark: bool) -> None:
    """Litres went in; at the mark, what fits is known."""
    name = product.name if product is not None else "water"
    t.acts.append(
        Poured(
            product_l,
            water_l,
            product.glycol_mass_percent / 100 if product is not None else 0.0,
            _product_sd(t, product),
            Input(f"product:{name}", Source.PRODUCT),
            _errors(t, Source.POURED, f"in:{key}", [("jug", t.policy["poured_sd"] / 100, None)]),
        )
    )
    t.acts.append(Noted(f"pour:{key}", tuple(range(len(t.loop.layout.nodes)))))
    if at_mark:
        t.acts.append(AtMark(BLED, BLED_SD) if t.job.fill.bled else AtMark(AIR_LEFT, AIR_LEFT_SD))


def lost(t: LedgerFold, litres: float, key: str, weighed: bool = False) -> None:
    """Litres gone from all of it."""
    sd = t.policy["drained_sd_weighed" if weighed else "poured_sd"] / 100
    source, way = (Source.DRAINED, Measured.WEIGHED.value) if weighed else (Source.POURED, "jug")
    t.acts.append(Lost(litres, _errors(t, source, f"lost:{key}", [(way, sd, None)])))


def rebased(t: LedgerFold, glycol: Glycol) -> None:
    """Another glycol goes in."""
    t.acts.append(Rebased(specific_volume(glycol)))


def thickened(t: LedgerFold, vessels: Sequence[str], factor: float, sd: float, entry_id: str) -> None:
    """A reading found more old coolant in these vessels than the litres explain: the worse of the two counts."""
    order = _order(t)
    apart = Input(f"apart:{entry_id}", Source.LINE)
    t.acts.append(Thickened(tuple(order[v] for v in vessels), factor, apart, min(1.0, sd)))


def seen(t: LedgerFold, facts: Read, entry_id: str, vessels: Sequence[str] | None = None, noted: str = "") -> None:
    """A reading of these vessels, or of all of them."""
    order = _order(t)
    group = tuple(range(len(order))) if vessels is None else tuple(order[v] for v in vessels)
    sight = sight_of(t.glycol, facts, t.policy, entry_id, group, noted)
    if sight is not None:
        t.acts.append(sight)
