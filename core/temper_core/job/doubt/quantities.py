"""What can be asked of a world."""

from __future__ import annotations

from temper_core.job.doubt.world import LEAST_L, World


def inside_l(world: World) -> float:
    """Litres inside."""
    return sum(world.all_litres())


def old_finished(world: World) -> float:
    """Old coolant that the finished full loop would hold [%]."""
    return 100 * sum(world.old) / max(LEAST_L, sum(world.volumes))


def mixed_w(world: World) -> float:
    """Mass fraction of everything inside, mixed."""
    return world.w_of(range(len(world.volumes)))


def capacity_l(world: World) -> float:
    """Litres up to the cold mark."""
    return sum(world.volumes)


def room_l(world: World) -> float:
    """Empty space up to the cold mark [l]; below 0: over it."""
    return sum(world.volumes) - sum(world.all_litres())
