"""From litres to hands: cans to open, what stays in the last one, marks on bucket and jug, what to buy, the cost."""

from __future__ import annotations

import math
from collections.abc import Iterator, Sequence
from dataclasses import dataclass

from temper_core.basis.errors import CoreError, check_between, under
from temper_core.calculate.mix.containers import LARGEST_L, SMALLEST_L, Buckets, Can, Container, Jugs, Part, Whole
from temper_core.calculate.mix.question import LARGEST_LOOP_L

MOST_SIZES = 4
BUCKET_L, JUG_L = 25.0, 5.0  # what stands in most bays; common practice, no source
MOST_COUNTED = 24  # cans one by one; more are counted in bulk
DROP_L = 0.005  # less than this is not measured: a can is then used whole
BULK = 3  # above so many of the largest size, the rest of the litres decides which cans are opened


@dataclass(frozen=True, slots=True)
class BatchQuestion:
    """Litres of product and of water to bring together.

    kept_back_l: of the water, what is held back for topping up. bucket_l: what the blending bucket holds; jug_l: the
    measuring jug. price_per_l: in the depot's currency. poured_product_l, poured_water_l: of these litres, already in.
    """

    product_l: float
    water_l: float
    containers: tuple[Container, ...]
    kept_back_l: float = 0.0
    bucket_l: float = BUCKET_L
    jug_l: float = JUG_L
    price_per_l: float | None = None
    poured_product_l: float = 0.0
    poured_water_l: float = 0.0

    def __post_init__(self) -> None:
        check_between("product_l", self.product_l, 0, LARGEST_LOOP_L, "L", "Litres cannot be negative.")
        check_between("water_l", self.water_l, 0, LARGEST_LOOP_L, "L", "Litres cannot be negative.")
        check_between("kept_back_l", self.kept_back_l, 0, self.water_l, "L", "It is a part of the water.")
        check_between("bucket_l", self.bucket_l, 1, LARGEST_L, "L", "What the bucket holds.")
        check_between("jug_l", self.jug_l, SMALLEST_L, LARGEST_L, "L", "What the jug holds.")
        for name in ("poured_product_l", "poured_water_l"):
            check_between(name, getattr(self, name), 0, LARGEST_LOOP_L, "L", "Litres cannot be negative.")
        if self.price_per_l is not None:
            check_between("price_per_l", self.price_per_l, 0, 1e5, "per L")
        sizes = [c.size_l for c in self.containers]
        if not 1 <= len(sizes) <= MOST_SIZES:
            raise CoreError(
                "containers", f"{len(sizes)} sizes: 1 to {MOST_SIZES} are allowed. List the sizes you would open.", "sizes"
            )
        if len(set(sizes)) < len(sizes):
            raise CoreError("containers", "A size is listed twice. Add the numbers up.", "duplicate")
        if self.product_l > 0 and not any(c.sold or c.at_hand for c in self.containers):
            raise CoreError("containers", "No container in stock or for sale. Enter one.", "none")
        for i, container in enumerate(self.containers):
            if self.product_l > 500 * container.size_l:
                with under(f"containers.{i}"):
                    check_between("size_l", container.size_l, self.product_l / 500, LARGEST_L, "L", "Open larger ones.")


@dataclass(frozen=True, slots=True)
class BatchAnswer:
    """Containers to open: whole_cans whole ones (whole_l in all) and at most one part; left_over_l stays in it.

    needed: all of them by size; to_buy: those beyond what is at hand. water_l: into the bucket, what is kept back left out.
    cans: one by one, counted down by what is in (empty beyond MOST_COUNTED); water_left_l: still to pour.
    short_l: litres that neither stock nor purchase covers. cost_used: of what is poured; cost_bought: of what is bought.
    """

    whole: tuple[Whole, ...]
    whole_l: float
    part: Part | None
    needed: tuple[Whole, ...]
    to_buy: tuple[Whole, ...]
    left_over_l: float
    short_l: float
    buckets: Buckets | None
    water_l: float
    water: Jugs
    cost_used: float | None
    cost_bought: float | None
    cans: tuple[Can, ...] = ()
    water_left_l: float = 0.0
    whole_cans: int = 0


def batch(q: BatchQuestion) -> BatchAnswer:
    """Which containers to open and where the marks are; see BatchAnswer.

    >>> a = batch(BatchQuestion(18.3, 6.6, (Container(5.0),), kept_back_l=0.4))
    >>> a.whole, round(a.part.pour_l, 1), round(a.part.stays_l, 1)
    ((Whole(size_l=5.0, count=3),), 3.3, 1.7)
    """
    chosen = _choose(q)
    short = max(0.0, q.product_l - sum(n * c.size_l for c, n in chosen)) if q.product_l > 0 else 0.0
    short = short if short > DROP_L else 0.0
    whole, part = _whole_and_part(q.product_l, chosen)
    to_buy = tuple(Whole(c.size_l, n - c.at_hand) for c, n in chosen if n > c.at_hand)
    price = q.price_per_l
    return BatchAnswer(
        whole=whole,
        whole_l=sum(row.size_l * row.count for row in whole),
        part=part,
        needed=tuple(Whole(c.size_l, n) for c, n in chosen),
        to_buy=to_buy,
        left_over_l=part.stays_l if part else 0.0,
        short_l=short,
        buckets=_buckets(q),
        water_l=q.water_l - q.kept_back_l,
        water=_jugs(q.water_l - q.kept_back_l, q.jug_l),
        cost_used=None if price is None else price * q.product_l,
        cost_bought=None if price is None else price * sum(row.size_l * row.count for row in to_buy),
        cans=_cans(whole, part, q.poured_product_l),
        water_left_l=max(0.0, q.water_l - q.poured_water_l),
        whole_cans=sum(row.count for row in whole),
    )


def _cans(whole: Sequence[Whole], part: Part | None, poured_l: float) -> tuple[Can, ...]:
    """Whole ones first, largest first, the one that is not emptied last."""
    rows = [(row.size_l, row.size_l, 0.0) for row in sorted(whole, key=lambda w: -w.size_l) for _ in range(row.count)]
    if part is not None:
        rows.append((part.size_l, part.pour_l, part.stays_l))
    if len(rows) > MOST_COUNTED:
        return ()
    cans = []
    for size, pour, stays in rows:
        out = min(pour, max(0.0, poured_l))
        cans.append(Can(size, pour, out, stays))
        poured_l -= out
    return tuple(cans)


def _choose(q: BatchQuestion) -> list[tuple[Container, int]]:
    """How many of each: what stands there first, then what is bought; least left over, then least to measure."""
    if q.product_l <= DROP_L:
        return []
    stock = [(c, c.at_hand) for c in q.containers if c.at_hand]
    if sum(c.size_l * n for c, n in stock) >= q.product_l - DROP_L:
        return _cheapest(q.product_l, stock)
    sold = [c for c in q.containers if c.sold]
    missing = q.product_l - sum(c.size_l * n for c, n in stock)
    counts = {c.size_l: n for c, n in stock}
    if sold:
        for container, n in _cheapest(missing, [(c, math.ceil(missing / c.size_l)) for c in sold]):
            counts[container.size_l] = counts.get(container.size_l, 0) + n
    return [(c, counts[c.size_l]) for c in q.containers if counts.get(c.size_l)]


def _cheapest(need: float, offered: Sequence[tuple[Container, int]]) -> list[tuple[Container, int]]:
    offered = sorted(offered, key=lambda row: -row[0].size_l)
    largest, most = offered[0]
    bulk = min(most, max(0, math.floor((need - BULK * largest.size_l) / largest.size_l)))
    rest = [(c, n - bulk if c is largest else n) for c, n in offered]
    in_bulk = min(
        _covers(need - bulk * largest.size_l, rest), key=lambda row: _burden(need - bulk * largest.size_l, rest, row)
    )
    mixed = tuple(n + (bulk if c is largest else 0) for n, (c, _) in zip(in_bulk, rest, strict=True))
    best = min([mixed, *_alone(need, offered)], key=lambda row: _burden(need, offered, row))
    return [(c, n) for n, (c, _) in zip(best, offered, strict=True) if n]


def _alone(need: float, offered: Sequence[tuple[Container, int]]) -> Iterator[tuple[int, ...]]:
    """The need covered by one size alone, where there are enough: taking the largest in bulk may miss that it fits."""
    for container, most in offered:
        count = math.ceil((need - DROP_L) / container.size_l)
        if count <= most:
            yield tuple(count if c is container else 0 for c, _ in offered)


def _covers(need: float, offered: Sequence[tuple[Container, int]]) -> Iterator[tuple[int, ...]]:
    """Every way to cover the need without a needless container of the smallest size."""
    container, most = offered[0]
    if len(offered) == 1:
        if most * container.size_l >= need - DROP_L:
            yield (max(0, math.ceil((need - DROP_L) / container.size_l)),)
        return
    for n in range(min(most, max(0, math.ceil(need / container.size_l))) + 1):
        for more in _covers(need - n * container.size_l, offered[1:]):
            yield (n, *more)


def _burden(need: float, offered: Sequence[tuple[Container, int]], counts: tuple[int, ...]) -> tuple[float, float, int]:
    """Left over, then what has to be measured out of the last one, then containers to carry."""
    over = sum(n * c.size_l for n, (c, _) in zip(counts, offered, strict=True)) - need
    if over <= DROP_L:  # all whole: nothing to measure
        return (round(over, 3), 0.0, sum(counts))
    last = min((c.size_l for n, (c, _) in zip(counts, offered, strict=True) if n and c.size_l > over), default=0.0)
    return (round(over, 3), round(max(0.0, last - over), 3), sum(counts))


def _whole_and_part(need: float, chosen: Sequence[tuple[Container, int]]) -> tuple[tuple[Whole, ...], Part | None]:
    """Whole containers first; the smallest that holds what is left over is the one that is not emptied."""
    over = sum(n * c.size_l for c, n in chosen) - need
    part = None
    if over > DROP_L:
        size = min(c.size_l for c, n in chosen if c.size_l > over)
        part = Part(size, size - over, over)
    whole = (Whole(c.size_l, n - (part is not None and c.size_l == part.size_l)) for c, n in chosen)
    return tuple(row for row in whole if row.count), part


def _buckets(q: BatchQuestion) -> Buckets | None:
    """The blend in equal buckets, so that one pair of marks serves all; None where nothing is blended."""
    water = q.water_l - q.kept_back_l
    if q.product_l <= 0 or water <= DROP_L:
        return None
    count = max(1, math.ceil((q.product_l + water) / q.bucket_l - 1e-9))
    return Buckets(count, q.product_l / count, (q.product_l + water) / count)


def _jugs(litres: float, jug_l: float) -> Jugs:
    whole = math.floor(litres / jug_l + 1e-9)
    last = litres - whole * jug_l
    return Jugs(jug_l, whole, last if last > DROP_L else 0.0)
