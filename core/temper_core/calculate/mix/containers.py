"""Containers, buckets and jugs of a batch."""

from __future__ import annotations

from dataclasses import dataclass

from temper_core.basis.errors import check_between

SMALLEST_L, LARGEST_L = 0.1, 1100.0  # a sample bottle to an intermediate bulk container
MOST_AT_HAND = 1000


@dataclass(frozen=True, slots=True)
class Container:
    """A size the product is sold in. at_hand: how many stand there; more of a sold size can be bought."""

    size_l: float
    at_hand: int = 0
    sold: bool = True

    def __post_init__(self) -> None:
        check_between("size_l", self.size_l, SMALLEST_L, LARGEST_L, "L", "Litres in one full container.")
        check_between("at_hand", self.at_hand, 0, MOST_AT_HAND, "containers")


@dataclass(frozen=True, slots=True)
class Whole:
    """Containers of one size."""

    size_l: float
    count: int


@dataclass(frozen=True, slots=True)
class Part:
    """The one container that is not emptied: what to pour from it and what stays, which is where the mark goes."""

    size_l: float
    pour_l: float
    stays_l: float


@dataclass(frozen=True, slots=True)
class Buckets:
    """count buckets alike: product up to the first mark, then water up to the second. Before it settles."""

    count: int
    product_mark_l: float
    full_mark_l: float


@dataclass(frozen=True, slots=True)
class Jugs:
    """Whole jugs of water, and the mark of the last one (0: none)."""

    size_l: float
    whole: int
    last_mark_l: float


@dataclass(frozen=True, slots=True)
class Can:
    """One container in the order they are opened: what to pour from it, what of that is in, what stays in it at the end."""

    size_l: float
    pour_l: float
    poured_l: float
    stays_l: float
